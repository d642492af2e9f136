import { useMemo } from "react";
import type { Version } from "../../../core/design/craftFile";
import { inState } from "../../../core/design/inState";
import type { Design, Item } from "../../../core/design/schema";
import type { UnitHabit } from "../../../core/design/units";
import { type Became, type Drawn, drawnBetween } from "../../../core/lineage/drawn";
import { isPlaced } from "../../../core/subjects/mass/placed";
import { extent, rollUp } from "../../../core/subjects/mass/rollup";
import { plain } from "../../../core/wording/format";
import { useDesk } from "../../app/desk";
import { usePreferences } from "../../app/preferences";
import { useWidth } from "../../app/useWidth";
import { NAMES } from "../../drawing/OneView";
import { boxesOf } from "../../drawing/Part";
import { bodyPath, surfacePath } from "../../drawing/Shapes";
import { CgMark } from "../../drawing/marks";
import { ACROSS, type Box, type Sheet, UP, VIEWS, type ViewName, placeLabels, sheetFor } from "../../drawing/scale";

const rectPath = (list: readonly Box[]): string => list.map((b) => `M${b.x} ${b.y}h${b.w}v${b.h}h${-b.w}z`).join("");
const crossPath = (list: readonly Box[]): string =>
  list.map((b) => `M${b.x} ${b.y}l${b.w} ${b.h}M${b.x + b.w} ${b.y}l${-b.w} ${b.h}`).join("");

/** Shorter than this a way is not drawn as an arrow, px. */
const ARROW = 9;
/** From the middle of one box to that of another, with a head. */
function arrowPath(from: Box, to: Box): string {
  const [x1, y1] = [from.x + from.w / 2, from.y + from.h / 2];
  const [x2, y2] = [to.x + to.w / 2, to.y + to.h / 2];
  const long = Math.hypot(x2 - x1, y2 - y1);
  if (long < ARROW) return "";
  const [ux, uy] = [(x2 - x1) / long, (y2 - y1) / long];
  const wing = (side: 1 | -1) => `M${x2} ${y2}l${-6 * ux - side * 3 * uy} ${-6 * uy + side * 3 * ux}`;
  return `M${x1} ${y1}L${x2} ${y2}${wing(1)}${wing(-1)}`;
}

const PATHS = {
  after: { stroke: "var(--ink)", strokeWidth: 1.4 },
  before: { stroke: "var(--pencil)", strokeWidth: 1.2, strokeDasharray: "4 3" },
  added: { stroke: "var(--accent)", strokeWidth: 1.8 },
  same: { stroke: "var(--rule)", strokeWidth: 0.8 },
} as const;

/**
 * One part, wing or body: what was in pencil, what is in ink, what is new in blue; what did not change stands faint.
 */
function Thing<T>({
  thing,
  path,
  at,
  said = () => true,
}: {
  thing: Drawn<T>;
  path: (t: T) => string;
  at: (t: T) => readonly Box[] | null;
  /** Whether somebody said where it stands in this view: else it is only drawn there. */
  said?: (t: T) => boolean;
}) {
  const { before, after, became, moved } = thing;
  const still = became === "same" || became === "known better";
  const fill = still || after === null ? "none" : became === "added" ? "var(--tint-accent)" : "var(--part)";
  const [was, is] = [before && at(before), after && at(after)];
  return (
    <g data-became={became} data-thing={thing.id}>
      <title>{`${thing.name}: ${became}`}</title>
      {before && (moved || after === null) && <path d={path(before)} fill="none" {...PATHS.before} />}
      {was && after === null && <path d={crossPath(was)} fill="none" stroke="var(--pencil)" strokeWidth="0.8" />}
      {after && (
        <path
          d={path(after)}
          fill={fill}
          fillOpacity="0.5"
          {...PATHS[became === "added" ? "added" : still && !moved ? "same" : "after"]}
          {...(said(after) ? {} : { strokeDasharray: "1 4" })}
        />
      )}
      {moved &&
        (before === null || said(before)) &&
        (after === null || said(after)) &&
        was?.map((b, i) => is?.[i] && <path key={b.y} d={arrowPath(b, is[i])} fill="none" stroke="var(--ink)" />)}
    </g>
  );
}

/** A part's name with what it weighs more or less. */
function labelOf(d: Drawn<Item>, habit: UnitHabit): string {
  const mass = (i: Item | null) => (i === null ? 0 : i.mass === null ? null : i.mass.value * i.quantity);
  const [was, is] = [mass(d.before), mass(d.after)];
  const more = was === null || is === null ? null : is - was;
  const grams = more === null || Math.abs(more) < 5e-6 ? "" : ` ${more > 0 ? "+" : ""}${plain(more, "mass", habit)}`;
  const name = d.name.length > 26 ? `${d.name.slice(0, 25)}…` : d.name;
  return `${name}${grams}`;
}

const boxOf = (d: Drawn<Item>, sheet: Sheet, view: ViewName) =>
  boxesOf((d.after ?? d.before) as Item, sheet, view)[0] as Box;

/** Names beside what was changed, clear of one another; a name for which there is no room stays in the list. */
function labels(items: readonly Drawn<Item>[], sheet: Sheet, view: ViewName, habit: UnitHabit) {
  const frame = sheet.views[view];
  const x = Math.max(2, frame.x - 20);
  const y = Math.max(12, frame.y - 18);
  const named = items.filter((d) => d.became === "changed" || d.became === "added" || d.became === "removed");
  return placeLabels(
    named.map((d) => {
      const text = labelOf(d, habit);
      const b = boxOf(d, sheet, view);
      const [w, h] = [text.length * 6.7 + 4, 13];
      const middle = b.x + b.w / 2 - w / 2;
      const beside = b.y + b.h / 2 - h / 2;
      return {
        data: { text, d },
        candidates: [
          { x: middle, y: b.y - h - 2, w, h },
          { x: middle, y: b.y + b.h + 2, w, h },
          { x: b.x + b.w + 4, y: beside, w, h },
          { x: b.x - w - 4, y: beside, w, h },
          { x: b.x, y: b.y - 2 * h - 2, w, h },
          { x: b.x + b.w - w, y: b.y + b.h + h + 2, w, h },
        ],
      };
    }),
    { x, y, w: Math.min(sheet.width - 2, frame.x + frame.w + 20) - x, h: frame.y + frame.h + 30 - y },
    // The view's own name, and the parts that are named.
    [{ x: frame.x + frame.w - 34, y: frame.y - 16, w: 36, h: 14 }, ...named.map((d) => boxOf(d, sheet, view))],
  );
}

const COUNTED: [Became, string][] = [
  ["changed", "changed"],
  ["added", "new"],
  ["removed", "gone"],
  ["known better", "only known better"],
];

/**
 * Two versions in one drawing to scale: what was in pencil, what is in ink, what is new in blue, what is gone crossed
 * out, and the CG of both.
 */
export function BeforeAfter({ from, to }: { from: Version; to: Version }) {
  const { state } = useDesk();
  const { habit, views } = usePreferences();
  const [frame, width] = useWidth<HTMLElement>(760);
  const [a, b] = useMemo(
    () => [from, to].map((v) => inState(v.design, state.id)) as [Design, Design],
    [from, to, state.id],
  );
  const drawn = useMemo(() => drawnBetween(a, b), [a, b]);
  const masses = useMemo(() => [rollUp(a), rollUp(b)] as const, [a, b]);
  const box = useMemo(
    () =>
      extent(
        {
          items: [...a.items, ...b.items],
          surfaces: [...a.surfaces, ...b.surfaces],
          bodies: [...a.bodies, ...b.bodies],
        },
        true,
      ),
    [a, b],
  );
  const all = [...drawn.items, ...drawn.surfaces, ...drawn.bodies];
  const counts = COUNTED.map(([became, word]) => {
    const n = all.filter((d) => d.became === became).length;
    return n === 0 ? null : `${n} ${word}`;
  }).filter((c) => c !== null);
  if (!box || from.label === to.label || counts.length === 0) return null;
  const height = width < 560 ? 460 : 420;
  const shown = VIEWS.filter((v) => views.includes(v));
  const sheet = sheetFor(box, width, height, shown);
  const open = [from, to].filter((_, i) => {
    const m = masses[i];
    return !m?.placed.x || !m.placed.z;
  });
  return (
    <section aria-label="Before and after" className="mb-3 min-w-0" ref={frame}>
      <h2>
        Before and after{" "}
        <span className="text-[12px] font-normal text-pencil">
          {from.label} to {to.label}: {counts.join(", ")}
        </span>
      </h2>
      <svg
        viewBox={`0 0 ${width} ${height}`}
        width="100%"
        className="mt-1 block bg-sheet"
        role="img"
        aria-label={`${from.label} and ${to.label} over one another, ${shown.join(", ")} view: ${all
          .filter((d) => d.became !== "same")
          .map((d) => `${d.name} ${d.became}`)
          .join(", ")}`}
      >
        {shown.map((view) => (
          <g key={view} data-view={view}>
            <text
              x={sheet.views[view].x + sheet.views[view].w}
              y={sheet.views[view].y - 5}
              textAnchor="end"
              fontSize="11"
              fill="var(--pencil)"
            >
              {NAMES[view]}
            </text>
            {drawn.bodies.map((d) => (
              <Thing key={d.id} thing={d} path={(s) => bodyPath(s, sheet, view)} at={() => null} />
            ))}
            {drawn.surfaces.map((d) => (
              <Thing key={d.id} thing={d} path={(s) => surfacePath(s, sheet, view)} at={() => null} />
            ))}
            {drawn.items
              .toSorted((p, q) => Number(p.became !== "same") - Number(q.became !== "same"))
              .map((d) => (
                <Thing
                  key={d.id}
                  thing={d}
                  path={(i) => rectPath(boxesOf(i, sheet, view))}
                  at={(i) => boxesOf(i, sheet, view)}
                  said={(i) => isPlaced(i, ACROSS[view].axis) && isPlaced(i, UP[view])}
                />
              ))}
            {masses[0] && <CgMark sheet={sheet} view={view} mass={masses[0]} colour="var(--pencil)" />}
            {masses[1] && <CgMark sheet={sheet} view={view} mass={masses[1]} colour="var(--ink)" />}
            {labels(drawn.items, sheet, view, habit).map(({ box: at, data }) => (
              <text
                key={data.d.id}
                x={at.x + 2}
                y={at.y + 10}
                className="num"
                fill={
                  data.d.became === "removed"
                    ? "var(--pencil)"
                    : data.d.became === "added"
                      ? "var(--accent)"
                      : "var(--ink)"
                }
                stroke="var(--sheet)"
                strokeWidth="3"
                paintOrder="stroke"
                style={{ fontSize: 11 }}
              >
                {data.text}
              </text>
            ))}
          </g>
        ))}
      </svg>
      <p className="text-[11px] text-pencil">
        Pencil, dashed: {from.label}; ink: {to.label}; blue: new; crossed out: gone; faint: as it was; dotted: nobody
        said where. Crosses: the CG of each
        {open.length > 0 ? `, not of ${open.map((v) => v.label).join(" and ")}: a part has no place there` : ""}.
      </p>
    </section>
  );
}
