import { memo, useMemo } from "react";
import type { Item } from "../../core/design/schema";
import type { UnitHabit } from "../../core/design/units";
import type { Evaluation } from "../../core/evaluate";
import { resultIn } from "../../core/evaluate";
import { balance } from "../../core/subjects/balance/node";
import type { Overlap } from "../../core/subjects/mass/clash";
import { isPlaced } from "../../core/subjects/mass/placed";
import type { MassResult } from "../../core/subjects/mass/rollup";
import { plain } from "../../core/wording/format";
import { useCalmDesk, useDesk } from "../app/desk";
import { usePreferences } from "../app/preferences";
import { type Guide, Part, ResizeHandles, boxesOf } from "./Part";
import { Shapes } from "./Shapes";
import { Thrusts } from "./Thrusts";
import { CgMark, EnvelopeMark, TracedOutline } from "./marks";
import { ACROSS, type Box, type Sheet, UP, type ViewName, placeLabels } from "./scale";

/** What is drawn of a pair of parts on a sheet, view by view: a pair of parts that stayed is the same object. */
const drawn = new WeakMap<Sheet, Record<ViewName, WeakMap<Overlap, string>>>();

/** The rectangles that two solid boxes share in a view, as one path for each pair. */
function sharedIn(items: readonly Item[], pairs: readonly Overlap[], sheet: Sheet, view: ViewName): string[] {
  const views = drawn.get(sheet) ?? { side: new WeakMap(), top: new WeakMap(), front: new WeakMap() };
  drawn.set(sheet, views);
  const held = views[view];
  const fresh = pairs.filter((p) => !held.has(p));
  const named = new Set(fresh.flatMap(({ a, b }) => [a, b]));
  const boxes = new Map(items.filter((i) => named.has(i.id)).map((i) => [i.id, boxesOf(i, sheet, view)]));
  for (const pair of fresh) {
    const rects = (boxes.get(pair.a) ?? []).flatMap((p) =>
      (boxes.get(pair.b) ?? []).flatMap((q) => {
        const x = Math.max(p.x, q.x);
        const y = Math.max(p.y, q.y);
        const w = Math.min(p.x + p.w, q.x + q.w) - x;
        const h = Math.min(p.y + p.h, q.y + q.h) - y;
        return w > 0 && h > 0 ? `M${x} ${y}h${w}v${h}h${-w}z` : [];
      }),
    );
    held.set(pair, rects.join(""));
  }
  return pairs.flatMap((p) => held.get(p) || []);
}

/** Where two solid boxes share space, hatched. */
const OverlapMarks = memo(function OverlapMarks({
  sheet,
  view,
  pairs,
  items,
}: {
  sheet: Sheet;
  view: ViewName;
  pairs: Overlap[];
  items: Item[];
}) {
  const d = sharedIn(items, pairs, sheet, view);
  // One mark for all of them: there may be hundreds.
  return d.length === 0 ? null : (
    <path
      data-overlaps={d.length}
      d={d.join("")}
      fill="url(#overlap)"
      stroke="var(--stop)"
      strokeWidth="0.8"
      pointerEvents="none"
    />
  );
});

/** Parts of a view that get a number, the largest: beyond it numbers would hide the craft. */
const LABELLED = 150;

/** Numbers (and in the top view masses) beside the parts, clear of each other and of the CG. */
export function labelsOf(
  items: Item[],
  sheet: Sheet,
  view: ViewName,
  cg: { x: number; y: number; z: number } | undefined,
  mass: (kg: number) => string,
) {
  const WIDTH = sheet.width;
  const frame = sheet.views[view];
  const bounds = { x: Math.max(2, frame.x - 14), y: Math.max(2, frame.y - 16), w: 0, h: 0 };
  bounds.w = Math.min(WIDTH - 2, frame.x + frame.w + 14) - bounds.x;
  bounds.h = Math.min(sheet.height - 2, frame.y + frame.h + 16) - bounds.y;
  const taken: Box[] = cg
    ? [{ x: sheet.px(view, cg[ACROSS[view].axis]) - 14, y: sheet.py(view, cg[UP[view]]) - 10, w: 28, h: 20 }]
    : [];
  return placeLabels(
    items
      .map((item, i) => ({ item, number: i + 1, box: boxesOf(item, sheet, view)[0] as Box }))
      .sort((a, b) => b.box.w * b.box.h - a.box.w * a.box.h)
      .slice(0, LABELLED)
      .reverse()
      .map(({ item, number, box: b }) => {
        const placed = isPlaced(item, ACROSS[view].axis) && isPlaced(item, UP[view]);
        const text = !placed
          ? `${number}?`
          : view === "top" && item.mass && b.w > 34
            ? `${number} ${mass(item.mass.value * item.quantity)}`
            : String(number);
        const w = text.length * 6.6 + 4;
        const h = 13;
        const cx = b.x + b.w / 2 - w / 2;
        const cy = b.y + b.h / 2 - h / 2;
        const sides: Box[] = [
          { x: cx, y: b.y - h - 1, w, h },
          { x: cx, y: b.y + b.h + 1, w, h },
          { x: b.x + b.w + 2, y: cy, w, h },
          { x: b.x - w - 2, y: cy, w, h },
          { x: b.x + 3, y: b.y + 2, w, h },
          { x: b.x + b.w - w - 3, y: b.y + b.h - h - 2, w, h },
        ];
        const inside = b.w >= w + 2 && b.h >= h;
        return {
          data: { text, item },
          candidates: inside
            ? [{ x: cx, y: cy, w, h }, { x: b.x + 3, y: cy, w, h }, { x: b.x + b.w - w - 3, y: cy, w, h }, ...sides]
            : sides,
        };
      }),
    bounds,
    taken,
  );
}

/**
 * The numbers beside the parts. While parts are dragged the others' numbers stay, and those of the dragged ones go
 * along with them: all are set clear of each other again a few times a second.
 */
function useLabels(items: Item[], sheet: Sheet, view: ViewName, habit: UnitHabit) {
  const calm = useCalmDesk("sheet");
  const cg = resultIn(calm.evaluation, balance)?.cg;
  const before = calm.seen.items;
  const placed = useMemo(
    () => labelsOf(before, sheet, view, cg, (kg) => plain(kg, "mass", habit)),
    [before, sheet, view, cg, habit],
  );
  return useMemo(() => {
    if (items === before) return placed;
    const now = new Map(items.map((i) => [i.id, i]));
    return placed.flatMap((label) => {
      const item = now.get(label.data.item.id);
      if (item === label.data.item) return [label];
      const [to, from] = [item && boxesOf(item, sheet, view)[0], boxesOf(label.data.item, sheet, view)[0]];
      if (!to || !from) return [];
      return [{ ...label, box: { ...label.box, x: label.box.x + to.x - from.x, y: label.box.y + to.y - from.y } }];
    });
  }, [items, before, placed, sheet, view]);
}

const Label = memo(function Label({ x, y, text, selected }: { x: number; y: number; text: string; selected: boolean }) {
  return (
    <text
      {...{ x, y }}
      className="num"
      fill={selected ? "var(--accent)" : "var(--ink2)"}
      pointerEvents="none"
      style={{ fontSize: 11 }}
    >
      {text}
    </text>
  );
});

/** What a remedy that is pointed at would do: parts moved or added, in the colour of what is proposed. */
function Proposed({
  sheet,
  view,
  evaluation,
  items,
}: {
  sheet: Sheet;
  view: ViewName;
  evaluation: Evaluation;
  items: { item: Item; from: Item | undefined }[];
}) {
  const mass = resultIn(evaluation, balance);
  return (
    <g pointerEvents="none">
      {items.flatMap(({ item, from }) =>
        boxesOf(item, sheet, view).map((b, i) => {
          const start = from ? boxesOf(from, sheet, view)[i] : undefined;
          return (
            <g key={`${item.id}${b.y}`}>
              <rect
                x={b.x}
                y={b.y}
                width={b.w}
                height={b.h}
                fill="none"
                stroke="var(--accent)"
                strokeWidth="1.6"
                strokeDasharray="3 2"
              />
              {start && Math.abs(start.x - b.x) > 6 && (
                <path
                  d={
                    `M${start.x + start.w / 2} ${b.y - 5}H${b.x + b.w / 2}m${b.x < start.x ? 6 : -6} ` +
                    `-3l${b.x < start.x ? -6 : 6} 3 ${b.x < start.x ? 6 : -6} 3`
                  }
                  fill="none"
                  stroke="var(--accent)"
                  strokeWidth="1.4"
                />
              )}
            </g>
          );
        }),
      )}
      {mass && <CgMark sheet={sheet} view={view} mass={mass} colour="var(--accent)" />}
    </g>
  );
}

export const NAMES: Record<ViewName, string> = { side: "Side", top: "Top", front: "Front" };

/** One view of the craft: its parts, outlines, CG, thrust, and what is proposed. */
export function OneView({
  view,
  frame,
  sheet,
  inOrder,
  outside,
  selected,
  onSelect,
  setGuides,
  items,
  clashes,
  mass,
  out,
  proposed,
  guides,
  chosen,
}: {
  view: "side" | "top" | "front";
  frame: Box;
  sheet: Sheet;
  inOrder: { item: Item; number: number }[];
  outside: Set<string>;
  selected: string | null;
  onSelect: (id: string) => void;
  setGuides: (next: Guide[]) => void;
  items: Item[];
  clashes: Overlap[];
  mass: MassResult | null;
  out: boolean;
  proposed: { item: Item; from: Item | undefined }[];
  guides: Guide[];
  chosen: Item | undefined;
}) {
  const { seen: design, preview } = useDesk();
  const { snapping, habit } = usePreferences();
  const labels = useLabels(items, sheet, view, habit);

  return (
    <g>
      {view === "side" ? (
        <path pointerEvents="none" d={`M${frame.x} ${frame.y + frame.h + 1}h${frame.w}`} stroke="var(--rule)" />
      ) : (
        <path
          pointerEvents="none"
          d={
            view === "top"
              ? `M${frame.x} ${sheet.py("top", 0)}h${frame.w}`
              : `M${sheet.px("front", 0)} ${frame.y}v${frame.h}`
          }
          stroke="var(--hair)"
          strokeDasharray="8 3 2 3"
        />
      )}
      <text
        pointerEvents="none"
        x={frame.x + frame.w}
        y={frame.y - 5}
        textAnchor="end"
        fontSize="11"
        fill="var(--pencil)"
      >
        {NAMES[view]}
        {view === "front" ? ", starboard left" : ""}
      </text>
      {design.envelope && <EnvelopeMark {...{ sheet, view }} envelope={design.envelope} />}
      {design.outlines
        .filter((o) => o.view === view)
        .map((o) => (
          <TracedOutline key={o.id} sheet={sheet} outline={o} />
        ))}
      <Shapes {...{ sheet, view }} surfaces={design.surfaces} bodies={design.bodies} faint />
      {inOrder.map(({ item, number }) => (
        <Part
          key={item.id}
          {...{ item, number, sheet, view, snapping }}
          outside={outside.has(item.id)}
          selected={item.id === selected}
          onSelect={onSelect}
          onGuide={setGuides}
        />
      ))}
      <OverlapMarks {...{ sheet, view, items }} pairs={clashes} />
      {labels.map(({ box: b, data }) => (
        <Label key={data.item.id} x={b.x + 2} y={b.y + 10} text={data.text} selected={data.item.id === selected} />
      ))}
      {mass && <CgMark sheet={sheet} view={view} mass={mass} colour={out ? "var(--stop)" : "var(--ink)"} />}
      {preview && <Proposed {...{ sheet, view, items: proposed }} evaluation={preview.evaluation} />}
      <Thrusts sheet={sheet} view={view} />
      {guides
        .filter((g) => g.axis === ACROSS[view].axis || g.axis === UP[view])
        .map((g) => (
          <path
            key={`${g.axis}${g.at}`}
            pointerEvents="none"
            d={
              g.axis === ACROSS[view].axis
                ? `M${sheet.px(view, g.at)} ${frame.y - 14}v${frame.h + 28}`
                : `M${frame.x - 10} ${sheet.py(view, g.at)}h${frame.w + 20}`
            }
            stroke="var(--accent)"
            strokeDasharray="2 3"
          />
        ))}
      {chosen && <ResizeHandles item={chosen} sheet={sheet} view={view} grid={snapping.grid} />}
    </g>
  );
}
