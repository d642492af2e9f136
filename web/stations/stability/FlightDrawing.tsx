import { useDrag } from "@use-gesture/react";
import { type KeyboardEvent, useMemo } from "react";
import type { Axis, Point, Surface } from "../../../core/design/schema";
import { resultIn } from "../../../core/evaluate";
import { balance } from "../../../core/subjects/balance/node";
import { cgLimits, windowOfWings } from "../../../core/subjects/balance/window";
import { floats } from "../../../core/subjects/floats/node";
import { lattice } from "../../../core/subjects/flight/latticeNode";
import { flight } from "../../../core/subjects/flight/node";
import { extent } from "../../../core/subjects/mass/rollup";
import { ringOf } from "../../../core/subjects/surfaces/patterns";
import { stationsOf } from "../../../core/subjects/surfaces/planform";
import { plain } from "../../../core/wording/format";
import { useDesk, useDeskActions } from "../../app/desk";
import { usePreferences } from "../../app/preferences";
import { useWidth } from "../../app/useWidth";
import { Shapes, controlsPath, surfacePath } from "../../drawing/Shapes";
import { CgMark, Ruler, WindowBand } from "../../drawing/marks";
import { GroundLine, WaterLine, WingsWindow } from "./flightMarks";
import { ACROSS, type Sheet, UP, type ViewName, sheetFor } from "../../drawing/scale";

const MM = 0.001;
const VIEWS: readonly ViewName[] = ["side", "top"];
const FAR = 100;
const kept = (v: number) => Number(Math.min(FAR, Math.max(-FAR, v)).toFixed(4));

/** The craft from the side and from above in its true outline; wings are dragged and shaped where they are drawn. */
export function FlightDrawing({ chosen, onChoose }: { chosen: string | null; onChoose: (id: string) => void }) {
  const { seen: design, evaluation, frozen, file } = useDesk();
  const { habit } = usePreferences();
  const [ref, width] = useWidth<HTMLDivElement>(860);
  const height = width < 500 ? 360 : 400;
  const box = extent(design);
  const frame = JSON.stringify([box, width, height]);
  // biome-ignore lint/correctness/useExhaustiveDependencies: the frame is the box and the size, as one
  const sheet = useMemo(() => (box ? sheetFor(box, width, height, VIEWS) : null), [frame]);
  if (!sheet || !box) return null;
  const mass = resultIn(evaluation, balance);
  const wings = resultIn(evaluation, lattice);
  const flown = resultIn(evaluation, flight);
  const limits = cgLimits(design, flown, "x");
  const own = windowOfWings(design, flown);
  const must = own ?? limits;
  const inside = mass && must ? mass.cg.x >= must.low && mass.cg.x <= must.high : true;
  const water = wings?.inWater
    ? (design.flight.waterline?.value ?? 0)
    : (resultIn(evaluation, floats)?.level?.water.value ?? null);
  const long = (v: number) => plain(v, "length", habit, habit === "metric" ? 0 : 2);
  const one = design.surfaces.find((s) => s.id === chosen);
  return (
    <div ref={ref} className="craft-view bg-sheet">
      <svg viewBox={`0 0 ${width} ${height}`} width="100%" className="block" role="group" aria-label="Craft in flight">
        <title>{`${file.craft.name} from the side and from above, to scale`}</title>
        {limits &&
          Number.isFinite(limits.low) &&
          VIEWS.map((view) => (
            <WindowBand key={view} {...{ sheet, view }} axis="x" low={limits.low} high={limits.high} />
          ))}
        {own &&
          (limits?.by !== "wings" || !Number.isFinite(own.low)) &&
          VIEWS.map((view) => <WingsWindow key={view} {...{ sheet, view }} {...own} />)}
        {VIEWS.map((view) => {
          const f = sheet.views[view];
          return (
            <g key={view}>
              <text x={f.x} y={f.y - 5} fontSize="11" fill="var(--pencil)" pointerEvents="none">
                {view === "side" ? "Side" : "Top"}
              </text>
              {view === "top" && (
                <path d={`M${f.x} ${sheet.py("top", 0)}h${f.w}`} stroke="var(--hair)" strokeDasharray="8 3 2 3" />
              )}
              {view === "side" &&
                (water !== null ? (
                  <WaterLine sheet={sheet} level={water} />
                ) : (
                  <GroundLine sheet={sheet} height={design.flight.height?.value ?? null} />
                ))}
              <Shapes {...{ sheet, view }} surfaces={[]} bodies={design.bodies} />
              <PartsFaint sheet={sheet} view={view} />
              {design.surfaces.map((s) => (
                <Drawn key={s.id} surface={s} {...{ sheet, view, frozen, onChoose }} chosen={s.id === chosen} />
              ))}
              {one && !frozen && <ShapeHandles surface={one} sheet={sheet} view={view} />}
              {mass && <CgMark {...{ sheet, view, mass }} colour={inside ? "var(--ink)" : "var(--stop)"} />}
              {wings && (
                <Point3
                  sheet={sheet}
                  view={view}
                  x={wings.neutral.value}
                  hollow
                  text={view === "side" ? `neutral point ${long(wings.neutral.value)}` : null}
                />
              )}
              {flown?.heightPoint != null && (
                <Point3
                  sheet={sheet}
                  view={view}
                  x={flown.heightPoint}
                  text={view === "side" ? `height point ${long(flown.heightPoint)}` : null}
                  left
                />
              )}
            </g>
          );
        })}
        <Ruler {...{ sheet, box, habit }} view="top" along="across" />
      </svg>
      <p className="no-print flex flex-wrap gap-x-3 px-4 pb-1 text-[11px] text-pencil">
        <span>
          Dashed: a guess. Drag a wing, or the squares of the chosen one; arrow keys move it, with Shift ten times as
          far.
        </span>
        {own && limits?.by !== "wings" && <span className="text-clear">dashed green: where the wings need the CG</span>}
        {limits && (
          <span className="text-clear">
            green:{" "}
            {limits.by === "wings"
              ? "where the wings need the CG"
              : limits.by === "window"
                ? "the window of the brief"
                : "ahead of the stop line"}
          </span>
        )}
      </p>
    </div>
  );
}

/** The parts of the ledger, behind what flies. */
function PartsFaint({ sheet, view }: { sheet: Sheet; view: ViewName }) {
  const { design } = useDesk();
  const { axis } = ACROSS[view];
  const up = UP[view];
  return (
    <g pointerEvents="none" fill="none" stroke="var(--hair)">
      {design.items.flatMap((i) =>
        (i.mirrored && view === "top" ? [1, -1] : [1]).map((side) => {
          const p = side === 1 ? i.place : { ...i.place, y: -i.place.y };
          const [w, h] = [i.size[axis] * sheet.scale, i.size[up] * sheet.scale];
          return (
            <rect
              key={`${i.id}${side}`}
              x={sheet.px(view, p[axis]) - w / 2}
              y={sheet.py(view, p[up]) - h / 2}
              width={w}
              height={h}
            />
          );
        }),
      )}
    </g>
  );
}

/** A triangle at a place along the craft. */
function Point3({
  sheet,
  view,
  x,
  hollow,
  text,
  left,
}: {
  sheet: Sheet;
  view: ViewName;
  x: number;
  hollow?: boolean;
  text: string | null;
  left?: boolean;
}) {
  const f = sheet.views[view];
  const px = sheet.px(view, x);
  const y = view === "side" ? f.y + f.h + 4 : sheet.py("top", 0) + 2;
  return (
    <g pointerEvents="none" data-point={hollow ? "neutral" : "height"}>
      <path
        d={`M${px} ${y}l6 10h-12z`}
        fill={hollow ? "var(--sheet)" : "var(--ink)"}
        stroke="var(--ink)"
        strokeWidth="1.3"
      />
      {text !== null && (
        <text
          x={px + (left ? -10 : 10)}
          y={y + 10}
          textAnchor={left ? "end" : "start"}
          fontSize="11"
          fill="var(--ink2)"
        >
          {text}
        </text>
      )}
    </g>
  );
}

const useSurface = (id: string) => {
  const { edit } = useDeskActions();
  return (change: (s: Surface) => void, key: string) =>
    edit((d) => {
      const s = d.surfaces.find((x) => x.id === id);
      if (s) change(s);
    }, key);
};

/** One surface in one view: dragged as a whole, moved by arrow keys. */
function Drawn({
  surface: s,
  sheet,
  view,
  chosen,
  frozen,
  onChoose,
}: {
  surface: Surface;
  sheet: Sheet;
  view: ViewName;
  chosen: boolean;
  frozen: boolean;
  onChoose: (id: string) => void;
}) {
  const put = useSurface(s.id);
  const { axis } = ACROSS[view];
  const up = UP[view];
  // Where both sides meet on the centreline they are not pulled apart.
  const across = !(up === "y" && s.mirrored && Math.abs(s.at.y) < MM);
  const drag = useDrag(
    ({
      first,
      movement: [dx, dy],
      memo,
    }: {
      first: boolean;
      movement: [number, number];
      memo?: { at: Point; key: string };
    }) => {
      const start = memo ?? { at: { ...s.at }, key: `surface-${s.id}-${Date.now()}` };
      if (first) onChoose(s.id);
      if ((dx !== 0 || dy !== 0) && !frozen)
        put((x) => {
          x.at[axis] = kept(start.at[axis] + dx / sheet.scale);
          if (across) x.at[up] = kept(start.at[up] - dy / sheet.scale);
        }, start.key);
      return start;
    },
    { filterTaps: true, pointer: { keys: false } },
  );
  const keys = (event: KeyboardEvent) => {
    const step = (event.shiftKey ? 10 : 1) * MM;
    const by = { ArrowLeft: [-step, 0], ArrowRight: [step, 0], ArrowUp: [0, step], ArrowDown: [0, -step] }[event.key];
    if (!by) {
      if (event.key === "Enter") onChoose(s.id);
      return;
    }
    event.preventDefault();
    event.stopPropagation();
    onChoose(s.id);
    put((x) => {
      x.at[axis] = kept(x.at[axis] + (by[0] ?? 0));
      if (across) x.at[up] = kept(x.at[up] + (by[1] ?? 0));
    }, `keys-surface-${s.id}-${view}`);
  };
  const known = s.shapeBy === "measured" || s.shapeBy === "proven";
  return (
    <g
      {...drag()}
      role="button"
      tabIndex={0}
      aria-label={`${s.name}, ${view} view; arrow keys move it`}
      aria-pressed={chosen}
      data-surface={s.id}
      data-view={view}
      onKeyDown={keys}
      onClick={() => onChoose(s.id)}
      className="cursor-grab touch-none select-none outline-none focus-visible:[&>path]:stroke-[2.5]"
    >
      <path
        d={surfacePath(s, sheet, view)}
        fill={chosen ? "var(--tint-accent)" : "var(--part)"}
        fillOpacity="0.5"
        stroke={chosen ? "var(--accent)" : known ? "var(--ink)" : "var(--pencil)"}
        strokeWidth={chosen ? 1.8 : 1.3}
        strokeDasharray={s.shapeBy === "guess" ? "5 3" : undefined}
      />
      <path
        d={controlsPath(s, sheet, view)}
        fill="none"
        stroke={chosen ? "var(--accent)" : "var(--pencil)"}
        strokeWidth="0.9"
      />
    </g>
  );
}

/** Squares at the corners of the chosen surface, in the view that shows it broad. */
function ShapeHandles({ surface: s, sheet, view }: { surface: Surface; sheet: Sheet; view: ViewName }) {
  const put = useSurface(s.id);
  if (ringOf(s) !== null) return null;
  const last = s.panels.at(-1);
  const cuts = stationsOf(s);
  const [root, tip] = [cuts[0], cuts.at(-1)];
  if (!last || !root || !tip) return null;
  const upright = Math.abs(Math.sin(last.dihedral)) > 0.7;
  if (upright !== (view === "side")) return null;
  const along: Axis = upright ? "z" : "y";
  const slope = upright ? Math.sin(last.dihedral) : Math.cos(last.dihedral);
  const place = (p: Point, aft: number): [number, number] => [sheet.px(view, p.x + aft), sheet.py(view, p[along])];
  const size = (v: number) => Math.max(0.001, Number(v.toFixed(4)));
  const handles: {
    name: string;
    at: [number, number];
    move: (x: Surface, from: Surface, dx: number, dv: number) => void;
  }[] = [
    {
      name: "chord at the root",
      at: place(root.at, root.chord),
      move: (x, from, dx) => void (x.chord = size(from.chord + dx)),
    },
    {
      name: "span and sweep",
      at: place(tip.at, 0),
      move: (x, from, dx, dv) => {
        const p = x.panels.at(-1);
        const was = from.panels.at(-1);
        if (!p || !was) return;
        p.span = size(was.span + dv / slope);
        const lead = was.span * Math.tan(was.sweep) + dx;
        p.sweep = Math.max(-1.39, Math.min(1.39, Number(Math.atan2(lead, p.span).toFixed(5))));
      },
    },
    {
      name: "chord at the tip",
      at: place(tip.at, tip.chord),
      move: (x, from, dx) => {
        const p = x.panels.at(-1);
        const was = from.panels.at(-1);
        if (p && was) p.chord = size(was.chord + dx);
      },
    },
  ];
  return handles.map((h) => (
    <Handle key={h.name} surface={s} at={h.at} name={h.name} scale={sheet.scale} put={put} move={h.move} />
  ));
}

function Handle({
  surface: s,
  at: [x, y],
  name,
  scale,
  put,
  move,
}: {
  surface: Surface;
  at: [number, number];
  name: string;
  scale: number;
  put: (change: (s: Surface) => void, key: string) => void;
  move: (x: Surface, from: Surface, dx: number, dv: number) => void;
}) {
  const drag = useDrag(
    ({ movement: [dx, dy], memo }: { movement: [number, number]; memo?: { from: Surface; key: string } }) => {
      const start = memo ?? { from: s, key: `shape-${s.id}-${name}-${Date.now()}` };
      if (dx !== 0 || dy !== 0) put((o) => move(o, start.from, dx / scale, -dy / scale), start.key);
      return start;
    },
    { pointer: { keys: false } },
  );
  return (
    <rect
      {...drag()}
      x={x - 4}
      y={y - 4}
      width="8"
      height="8"
      fill="var(--sheet)"
      stroke="var(--accent)"
      strokeWidth="1.4"
      className="cursor-move touch-none"
      data-handle={name}
    >
      <title>{`${s.name}: drag for ${name}`}</title>
    </rect>
  );
}
