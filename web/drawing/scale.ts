import { scaleLinear } from "d3-scale";
import type { Axis } from "../../core/design/schema";
import type { Extent } from "../../core/subjects/mass/rollup";
import { VIEWS, type ViewName } from "./views";

export { VIEWS, type ViewName } from "./views";

/** Axis of the craft across and up the sheet, and the way it runs. */
export const ACROSS: Record<ViewName, { axis: Axis; sign: 1 | -1 }> = {
  side: { axis: "x", sign: 1 },
  top: { axis: "x", sign: 1 },
  front: { axis: "y", sign: -1 },
};
export const UP: Record<ViewName, Axis> = { side: "z", top: "y", front: "z" };

export interface Box {
  x: number;
  y: number;
  w: number;
  h: number;
}

export interface Zoom {
  factor: number;
  x: number;
  y: number;
}
export const NO_ZOOM: Zoom = { factor: 1, x: 0, y: 0 };

export interface Sheet {
  /** px per metre */
  scale: number;
  width: number;
  height: number;
  shown: readonly ViewName[];
  /** Place of each shown view on the sheet, px */
  views: Record<ViewName, Box>;
  /** Coordinate of a view's across axis (m) to x on the sheet (px) */
  px: (view: ViewName, value: number) => number;
  /** Coordinate of a view's up axis (m) to y on the sheet (px) */
  py: (view: ViewName, value: number) => number;
}

const MARGIN = { left: 34, right: 30, top: 20, bottom: 14 };
const GAP = 36;

type Cell = { view: ViewName; column: number; row: number };
/** Ways to lay the views out: projected (front beside side, top below it), in a row, in a column. */
const PROJECTED = (views: readonly ViewName[]): Cell[] =>
  views.map((view) => ({
    view,
    column: view === "front" && views.length > 1 ? 1 : 0,
    row: view === "top" && views.length > 1 ? 1 : 0,
  }));
const ARRANGEMENTS: ((views: readonly ViewName[]) => Cell[])[] = [
  PROJECTED,
  (views) => views.map((view, i) => ({ view, column: i, row: 0 })),
  (views) => views.map((view, i) => ({ view, column: 0, row: i })),
];

/** How far each view spans, m, with a little room at the ends of it. */
function spanOf(box: Extent) {
  const size = (axis: Axis) => Math.max(box.max[axis] - box.min[axis], 0.01);
  const pad = 0.03 * Math.max(size("x"), size("y"), size("z"), 0.1);
  return { pad, wide: (v: ViewName) => size(ACROSS[v].axis) + 2 * pad, tall: (v: ViewName) => size(UP[v]) };
}

/** Widths of the columns and heights of the rows that hold these views, m. */
function arranged(cells: Cell[], wide: (v: ViewName) => number, tall: (v: ViewName) => number) {
  const lines = (of: "column" | "row", span: (v: ViewName) => number) =>
    [...new Set(cells.map((c) => c[of]))]
      .sort()
      .map((k) => Math.max(...cells.filter((c) => c[of] === k).map((c) => span(c.view))));
  return { cells, columns: lines("column", wide), rows: lines("row", tall) };
}

/**
 * One scale for all views of a craft, as large as the sheet allows: the arrangement is the one that gives the
 * largest, so that tall and wide craft read as well as long ones.
 */
export function sheetFor(
  box: Extent,
  width: number,
  height: number,
  shown: readonly ViewName[] = ["side", "top"],
  zoom: Zoom = NO_ZOOM,
): Sheet {
  const { wide, tall } = spanOf(box);
  const free = { w: width - MARGIN.left - MARGIN.right, h: height - MARGIN.top - MARGIN.bottom - 20 };
  const sum = (list: number[]) => list.reduce((a, b) => a + b, 0);
  const tried = ARRANGEMENTS.map((arrange) => {
    const { cells, columns, rows } = arranged(arrange(shown), wide, tall);
    const scale = Math.min(
      (free.w - GAP * (columns.length - 1)) / sum(columns),
      (free.h - GAP * (rows.length - 1)) / sum(rows),
    );
    return { cells, columns, rows, scale };
  });
  const best = tried.reduce((a, b) => (b.scale > a.scale * 1.02 ? b : a));
  const scale = Math.max(best.scale, 1e-6);
  // What room is left over is shared out around the views.
  const slack = {
    x: Math.max(0, (free.w - GAP * (best.columns.length - 1) - sum(best.columns) * scale) / (best.columns.length + 1)),
    y: Math.max(0, (free.h - GAP * (best.rows.length - 1) - sum(best.rows) * scale) / (best.rows.length + 1)),
  };
  return laidOut(box, best, scale, { width, height, shown, zoom, slack });
}

/**
 * The views of a craft projected, front beside side and top below it, at a scale that is given: on paper. As large as
 * they need.
 *
 * @param pxPerMetre more than 0
 */
export function sheetAt(box: Extent, pxPerMetre: number, shown: readonly ViewName[]): Sheet {
  const { wide, tall } = spanOf(box);
  const tried = arranged(PROJECTED(shown), wide, tall);
  const sum = (list: number[]) => list.reduce((a, b) => a + b, 0);
  const width = MARGIN.left + MARGIN.right + GAP * (tried.columns.length - 1) + sum(tried.columns) * pxPerMetre;
  const height = MARGIN.top + MARGIN.bottom + 20 + GAP * (tried.rows.length - 1) + sum(tried.rows) * pxPerMetre;
  return laidOut(box, tried, pxPerMetre, { width, height, shown, zoom: NO_ZOOM, slack: { x: 0, y: 0 } });
}

/** Puts the views of an arrangement at a scale where they stand on their sheet. */
function laidOut(
  box: Extent,
  { cells, columns, rows }: ReturnType<typeof arranged>,
  scale: number,
  on: Pick<Sheet, "width" | "height" | "shown"> & { zoom: Zoom; slack: { x: number; y: number } },
): Sheet {
  const { wide, tall, pad } = spanOf(box);
  const { zoom, slack } = on;
  const start = (list: number[], k: number, s: number) =>
    list.slice(0, k).reduce((a, b) => a + b, 0) * scale + k * (GAP + s) + s;
  const columnAt = [...new Set(cells.map((c) => c.column))].sort();
  const rowAt = [...new Set(cells.map((c) => c.row))].sort();
  const nothing: Box = { x: 0, y: 0, w: 0, h: 0 };
  const plain: Record<ViewName, Box> = { side: nothing, top: nothing, front: nothing };
  for (const { view, column, row } of cells)
    plain[view] = {
      x: MARGIN.left + start(columns, columnAt.indexOf(column), slack.x),
      y: MARGIN.top + start(rows, rowAt.indexOf(row), slack.y),
      w: wide(view) * scale,
      h: tall(view) * scale,
    };
  const zx = (x: number) => x * zoom.factor + zoom.x;
  const zy = (y: number) => y * zoom.factor + zoom.y;
  const views = Object.fromEntries(
    VIEWS.map((v) => [
      v,
      { x: zx(plain[v].x), y: zy(plain[v].y), w: plain[v].w * zoom.factor, h: plain[v].h * zoom.factor },
    ]),
  ) as Record<ViewName, Box>;
  return {
    scale: scale * zoom.factor,
    width: on.width,
    height: on.height,
    shown: on.shown,
    views,
    px: (view, value) => {
      const { axis, sign } = ACROSS[view];
      const from = sign === 1 ? value - box.min[axis] : box.max[axis] - value;
      return zx(plain[view].x + (from + pad) * scale);
    },
    py: (view, value) => zy(plain[view].y + plain[view].h - (value - box.min[UP[view]]) * scale),
  };
}

/** Round places (1, 2, 5 × 10^n of a unit, m) that cut a range (m) into about `count` parts. */
export const ticksIn = (min: number, max: number, count: number, unit: number): number[] =>
  scaleLinear()
    .domain([min / unit, max / unit])
    .ticks(count)
    .map((t) => t * unit);

const overlap = (a: Box, b: Box) => a.x < b.x + b.w && b.x < a.x + a.w && a.y < b.y + b.h && b.y < a.y + a.h;

/** Puts each label at the first of its candidate places that is free and on the sheet, else drops it. */
export function placeLabels<T>(
  labels: { candidates: Box[]; data: T }[],
  bounds: Box,
  taken: Box[] = [],
): { box: Box; data: T }[] {
  const used = [...taken];
  const out: { box: Box; data: T }[] = [];
  for (const { candidates, data } of labels) {
    const box = candidates.find(
      (c) =>
        c.x >= bounds.x &&
        c.y >= bounds.y &&
        c.x + c.w <= bounds.x + bounds.w &&
        c.y + c.h <= bounds.y + bounds.h &&
        !used.some((u) => overlap(u, c)),
    );
    if (box) {
      used.push(box);
      out.push({ box, data });
    }
  }
  return out;
}

export interface SnapLine {
  /** Where the moved centre goes, m */
  value: number;
  /** The face or centreline that it stands at, m; null on the grid alone */
  at: number | null;
}

/**
 * Where a part's centre snaps along one axis: to a face or the centre of another part, or to the centreline, when one
 * of its own faces or its centre comes within `reach`
 * of it; else to the grid. All in m.
 */
export function snap(centre: number, half: number, lines: readonly number[], reach: number, grid: number): SnapLine {
  let best: SnapLine & { off: number } = { value: Math.round(centre / grid) * grid, at: null, off: reach };
  for (const at of lines)
    for (const own of [0, -half, half]) {
      const off = Math.abs(centre + own - at);
      if (off < best.off) best = { value: at - own, at, off };
    }
  return { value: best.value, at: best.at };
}
