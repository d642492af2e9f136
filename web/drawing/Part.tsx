import { useDrag } from "@use-gesture/react";
import { type KeyboardEvent, type MouseEvent, type RefObject, memo, useRef } from "react";
import { AXES, type Axis, type Design, type Item } from "../../core/design/schema";
import { bodies } from "../../core/subjects/mass/rollup";
import { isPlaced, sizePart } from "../../core/subjects/mass/placed";
import { placeItem, slideOf } from "../../core/subjects/mass/tree";
import { useDeskActions } from "../app/desk";
import { ACROSS, type Box, type Sheet, UP, type ViewName, snap } from "./scale";

const MM = 0.001;
/** Pixels within which a face or the centreline catches a dragged part. */
const CATCH = 6;

export interface Snapping {
  /** m */
  grid: number;
  faces: boolean;
}

/** A line that a dragged part stands at. */
export interface Guide {
  axis: Axis;
  at: number;
}

/** The boxes that an item takes in a view, on the sheet: two for a mirrored pair where both sides are seen. */
export function boxesOf(item: Item, sheet: Sheet, view: ViewName): Box[] {
  const across = ACROSS[view].axis;
  const up = UP[view];
  const w = Math.max(item.size[across] * sheet.scale, 3);
  const h = Math.max(item.size[up] * sheet.scale, 3);
  const places = view === "side" ? [item.place] : bodies(item).map((b) => b.place);
  return places.map((p) => ({ x: sheet.px(view, p[across]) - w / 2, y: sheet.py(view, p[up]) - h / 2, w, h }));
}

const clampTo = (range: { from: number; to: number } | null, v: number) =>
  range ? Math.min(range.to, Math.max(range.from, v)) : v;

/** Faces and centres of the other parts along an axis, and the centreline. */
function linesOf(design: Design, item: Item, axis: Axis): number[] {
  const others = design.items.filter((i) => i.id !== item.id && i.parentId !== item.id);
  const lines = others.flatMap((i) =>
    bodies(i).flatMap((b) => [b.place[axis], b.place[axis] - i.size[axis] / 2, b.place[axis] + i.size[axis] / 2]),
  );
  return axis === "y" ? [0, ...lines] : lines;
}

/** Where a dragged part was, and what listens for Escape while it is on its way. */
interface Dragging {
  across: number;
  up: number;
  key: string;
  listen: (event: globalThis.KeyboardEvent) => void;
}

/** Ids of the parts of a view under a point of the page, the top one first. */
const partsAt = (x: number, y: number, view: ViewName): string[] => [
  ...new Set(
    document
      .elementsFromPoint(x, y)
      .flatMap((e) => e.closest<SVGElement>(`[data-part][data-view="${view}"]`)?.dataset.part ?? []),
  ),
];

interface PartProps {
  item: Item;
  number: number;
  sheet: Sheet;
  view: ViewName;
  selected: boolean;
  outside: boolean;
  snapping: Snapping;
  onSelect: (id: string) => void;
  onGuide: (guides: Guide[]) => void;
}

/** Drags a part by its middle, caught by the faces of others; Escape puts it back. */
function useDragPart({
  item,
  sheet,
  view,
  snapping,
  place,
  dragged,
  onSelect,
  onGuide,
}: Pick<PartProps, "item" | "sheet" | "view" | "snapping" | "onSelect" | "onGuide"> & {
  place: (to: { across: number; up: number }, key: string) => void;
  /** Set once the pointer has moved: its end is no click then. */
  dragged: RefObject<boolean>;
}) {
  const { here } = useDeskActions();
  const { axis: across, sign } = ACROSS[view];
  const up = UP[view];
  const caught = (axis: Axis, at: number) =>
    snap(
      at,
      item.size[axis] / 2,
      snapping.faces ? linesOf(here(), item, axis) : [],
      snapping.faces ? CATCH / sheet.scale : 0,
      snapping.grid,
    );
  return useDrag(
    ({
      first,
      last,
      movement: [dx, dy],
      memo,
      cancel,
      canceled,
    }: {
      first: boolean;
      last: boolean;
      movement: [number, number];
      memo?: Dragging;
      cancel: () => void;
      canceled: boolean;
    }) => {
      const start = memo ?? {
        across: item.place[across],
        up: item.place[up],
        key: `drag-${item.id}-${Date.now()}`,
        listen: (event: globalThis.KeyboardEvent) => {
          if (event.key !== "Escape") return;
          event.preventDefault();
          event.stopPropagation();
          place(start, start.key);
          onGuide([]);
          cancel();
        },
      };
      if (Math.hypot(dx, dy) > 3) dragged.current = true;
      if (first) {
        onSelect(item.id);
        window.addEventListener("keydown", start.listen, true);
      }
      if (last || canceled) window.removeEventListener("keydown", start.listen, true);
      if (!first && !canceled) {
        const a = caught(across, start.across + (sign * dx) / sheet.scale);
        const u = caught(up, start.up - dy / sheet.scale);
        place({ across: a.value, up: u.value }, start.key);
        onGuide(
          last
            ? []
            : [
                ...(a.at === null ? [] : [{ axis: across, at: a.at }]),
                ...(u.at === null ? [] : [{ axis: up, at: u.at }]),
              ],
        );
      }
      return start;
    },
    { filterTaps: true, pointer: { keys: false } },
  );
}

/** One part in one view: dragged by mouse, pen or finger, moved by arrow keys; what hangs on it comes along. */
export const Part = memo(function Part({
  item,
  number,
  sheet,
  view,
  selected,
  outside,
  snapping,
  onSelect,
  onGuide,
}: PartProps) {
  const { edit, movedHere, placeHere } = useDeskActions();
  const { axis: across, sign } = ACROSS[view];
  const up = UP[view];
  /** Whether the pointer moved since it came down: its end is no click then. */
  const dragged = useRef(false);
  const place = (to: { across: number; up: number }, key: string) =>
    edit((d) => {
      const it = d.items.find((i) => i.id === item.id);
      if (!it) return;
      if (placeHere(d, item.id, { [across]: to.across, [up]: to.up })) return;
      // Where it is drawn is where it stands in the state that is looked at.
      const by = movedHere(item.id);
      const goal = {
        [across]: clampTo(slideOf(it, across), to.across - (by?.[across] ?? 0)),
        [up]: clampTo(slideOf(it, up), to.up - (by?.[up] ?? 0)),
      };
      placeItem(d, item.id, goal);
      for (const axis of AXES) it.place[axis] = Number(it.place[axis].toFixed(6));
    }, key);
  const drag = useDragPart({ item, sheet, view, snapping, place, dragged, onSelect, onGuide });
  const click = (event: MouseEvent) => {
    if (dragged.current) return;
    // Of parts that lie on one another a second click takes the next.
    const under = selected ? partsAt(event.clientX, event.clientY, view) : [];
    onSelect(under[(under.indexOf(item.id) + 1) % under.length] ?? item.id);
  };
  const keys = (event: KeyboardEvent) => {
    const step = (event.shiftKey ? 10 : 1) * MM;
    const by: Record<string, [number, number]> = {
      ArrowLeft: [-step, 0],
      ArrowRight: [step, 0],
      ArrowUp: [0, step],
      ArrowDown: [0, -step],
    };
    const move = by[event.key];
    if (!move) return;
    event.preventDefault();
    event.stopPropagation();
    onSelect(item.id);
    place({ across: item.place[across] + sign * move[0], up: item.place[up] + move[1] }, `keys-${item.id}-${view}`);
  };
  const placed = isPlaced(item, across) && isPlaced(item, up);
  const weighed = item.mass?.evidence === "measured" || item.mass?.evidence === "proven";
  return (
    <g
      {...drag()}
      role="button"
      tabIndex={0}
      aria-label={`${number} ${item.name}, ${view} view${placed ? "" : ", not placed yet"}; arrow keys move it`}
      aria-pressed={selected}
      data-part={item.id}
      data-view={view}
      onKeyDown={keys}
      onPointerDownCapture={() => {
        dragged.current = false;
      }}
      onClick={click}
      className="cursor-grab touch-none select-none outline-none focus-visible:[&>rect]:stroke-[2.5]"
    >
      {boxesOf(item, sheet, view).map((b, i) => (
        <rect
          key={i === 0 ? "one" : "other"}
          x={b.x}
          y={b.y}
          width={b.w}
          height={b.h}
          fill={placed ? (selected ? "var(--tint-accent)" : "var(--part)") : "transparent"}
          fillOpacity={item.hollow && !selected ? 0.3 : 0.55}
          stroke={selected ? "var(--accent)" : outside ? "var(--stop)" : weighed ? "var(--ink)" : "var(--pencil)"}
          strokeWidth={selected ? 2 : 1.2}
          strokeDasharray={placed && !item.unsized ? (weighed ? undefined : "4 3") : "1 4"}
        />
      ))}
    </g>
  );
});

/**
 * Squares on the faces of the selected part: dragging one moves that face and leaves the opposite one. They stand in a
 * group that goes along with the part, so that a dragged part leaves them as they are.
 */
export function ResizeHandles({ item, sheet, view, grid }: { item: Item; sheet: Sheet; view: ViewName; grid: number }) {
  const box = boxesOf(item, sheet, view)[0];
  if (!box) return null;
  const { axis: across, sign } = ACROSS[view];
  const [w, h] = [Number(box.w.toFixed(3)), Number(box.h.toFixed(3))];
  const at = { id: item.id, scale: sheet.scale, grid };
  return (
    <g transform={`translate(${box.x} ${box.y})`}>
      <Handle {...at} x={0} y={h / 2} axis={across} towards={sign === 1 ? -1 : 1} sign={sign} across />
      <Handle {...at} x={w} y={h / 2} axis={across} towards={sign} sign={sign} across />
      <Handle {...at} x={w / 2} y={0} axis={UP[view]} towards={1} sign={1} across={false} />
      <Handle {...at} x={w / 2} y={h} axis={UP[view]} towards={-1} sign={1} across={false} />
    </g>
  );
}

interface HandleProps {
  id: string;
  x: number;
  y: number;
  axis: Axis;
  towards: 1 | -1;
  scale: number;
  sign: 1 | -1;
  across: boolean;
  grid: number;
}

const Handle = memo(function Handle({ id, x, y, axis, towards, scale, sign, across, grid }: HandleProps) {
  const { edit, now } = useDeskActions();
  const drag = useDrag(
    ({
      movement: [dx, dy],
      memo,
    }: {
      movement: [number, number];
      memo?: { size: number; place: number; key: string };
    }) => {
      const item = now().items.find((i) => i.id === id);
      const start = memo ?? {
        size: item?.size[axis] ?? 0,
        place: item?.place[axis] ?? 0,
        key: `size-${id}-${axis}-${Date.now()}`,
      };
      const by = ((across ? sign * dx : -dy) / scale) * towards;
      const size = Math.max(grid, Math.round((start.size + by) / grid) * grid);
      edit((d) => {
        const it = d.items.find((i) => i.id === id);
        if (!it) return;
        sizePart(it, axis, Number(size.toFixed(6)));
        const side = it.mirrored && axis === "y" && start.place < 0 ? -1 : 1;
        it.place[axis] = Number((start.place + (side * towards * (size - start.size)) / 2).toFixed(6));
      }, start.key);
      return start;
    },
    { pointer: { keys: false } },
  );
  return (
    <rect
      {...drag()}
      x={x - 3.5}
      y={y - 3.5}
      width="7"
      height="7"
      fill="var(--sheet)"
      stroke="var(--accent)"
      strokeWidth="1.4"
      className={`touch-none ${across ? "cursor-ew-resize" : "cursor-ns-resize"}`}
      data-handle={`${axis}${towards === 1 ? "+" : "-"}`}
    />
  );
});
