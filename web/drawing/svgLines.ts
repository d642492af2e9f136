import type { Flat } from "../../core/numeric/thinned";

/** One figure of an SVG drawing as a line of points, y up, in the drawing's own unit. */
export interface SvgFigure {
  name: string;
  lines: Flat[][];
}
export type SvgRead =
  | {
      ok: true;
      figures: SvgFigure[];
      /** metres that one of its units is; null: the file does not say */
      unit: number | null;
    }
  | { ok: false; problem: string };

const FIGURES = ["path", "polygon", "polyline", "line", "rect", "circle", "ellipse"];
/** What is drawn elsewhere or not at all: layers that are turned off are hidden by a style. */
const HIDDEN = "defs, clipPath, mask, symbol, pattern, marker, [display=none], [visibility=hidden]";
const HIDES = /(?:^|[;\s])(?:display\s*:\s*none|visibility\s*:\s*hidden)/i;
function isHidden(e: Element): boolean {
  if (e.closest(HIDDEN) !== null) return true;
  for (let at: Element | null = e; at; at = at.parentElement)
    if (HIDES.test(at.getAttribute("style") ?? "")) return true;
  return false;
}
/** What places and shapes a figure; nothing else of the file comes into the page. */
const SHAPE = ["d", "points", "x", "y", "width", "height", "rx", "ry", "cx", "cy", "r", "x1", "y1", "x2", "y2"];
const POINTS = 1200;
const MOST = 60;
/** Metres in a unit of length of SVG. A px is none: what draws it chooses how large one is. */
const UNITS: Record<string, number> = { mm: 1e-3, cm: 0.01, in: 0.0254, pt: 0.0254 / 72, pc: 0.0254 / 6, q: 0.25e-3 };

/** Metres of a unit of its drawing, by its width or height in a unit of length over its view box. */
function unitOf(svg: Element): number | null {
  const box = (svg.getAttribute("viewBox") ?? "")
    .trim()
    .split(/[\s,]+/)
    .map(Number);
  for (const [side, k] of [
    ["width", 2],
    ["height", 3],
  ] as const) {
    const said = /^\s*([\d.eE+-]+)\s*([a-zA-Z]+)\s*$/.exec(svg.getAttribute(side) ?? "");
    const metres = said && UNITS[(said[2] ?? "").toLowerCase()];
    const across = box.length === 4 ? box[k] : undefined;
    if (said && metres && across !== undefined && across > 0) return (Number(said[1]) * metres) / across;
  }
  return null;
}

/**
 * The lines of an SVG drawing: paths and plain figures with all their turns and shifts, as points along them. Nothing
 * of the file itself comes into the page: figures are made anew from their numbers.
 */
export function readSvg(text: string): SvgRead {
  const drawing = new DOMParser().parseFromString(text, "image/svg+xml");
  const root = drawing.documentElement;
  if (root.nodeName !== "svg" || drawing.querySelector("parsererror"))
    return { ok: false, problem: "This is not an SVG drawing, or it is not whole." };
  const found = [...root.querySelectorAll(FIGURES.join())].filter((e) => !isHidden(e));
  if (found.length === 0)
    return { ok: false, problem: "No line is in it: paths and plain figures are read, pictures and letters are not." };
  const stage = document.createElementNS("http://www.w3.org/2000/svg", "svg");
  stage.setAttribute("style", "position:absolute;visibility:hidden;width:10px;height:10px");
  document.body.append(stage);
  try {
    const figures = found
      .map((e, k) => ({ name: e.getAttribute("id") ?? `figure ${k + 1}`, lines: linesOf(e, stage) }))
      .filter((f) => f.lines.length > 0)
      .map((f) => ({ ...f, size: sizeOf(f.lines) }))
      .toSorted((a, b) => b.size - a.size)
      .slice(0, MOST);
    if (figures.length === 0) return { ok: false, problem: "Its figures have no length." };
    return { ok: true, figures: figures.map(({ size: _, ...f }) => f), unit: unitOf(root) };
  } finally {
    stage.remove();
  }
}

function sizeOf(lines: Flat[][]): number {
  const all = lines.flat();
  const over = (of: (p: Flat) => number) => all.reduce((m, p) => Math.max(m, of(p)), -Infinity);
  return over((p) => p.a) + over((p) => -p.a) + over((p) => p.b) + over((p) => -p.b);
}

function linesOf(from: Element, stage: SVGSVGElement): Flat[][] {
  const figure = document.createElementNS("http://www.w3.org/2000/svg", from.localName);
  if (!(figure instanceof SVGGeometryElement)) return [];
  for (const name of SHAPE) {
    const value = from.getAttribute(name);
    if (value !== null) figure.setAttribute(name, value);
  }
  const turns: string[] = [];
  for (let e: Element | null = from; e && e.localName !== "svg"; e = e.parentElement)
    turns.unshift(e.getAttribute("transform") ?? "");
  figure.setAttribute("transform", turns.join(" ").trim());
  stage.append(figure);
  const matrix = figure.transform.baseVal.consolidate()?.matrix;
  const length = figure.getTotalLength();
  if (!(length > 0) || !Number.isFinite(length)) return [];
  const step = length / POINTS;
  const lines: Flat[][] = [[]];
  let before: DOMPoint | null = null;
  for (let k = 0; k <= POINTS; k++) {
    const p = figure.getPointAtLength(k * step);
    // From one stretch of a path to the next nothing is drawn.
    if (before && Math.hypot(p.x - before.x, p.y - before.y) > 1.6 * step) lines.push([]);
    const [x, y] = matrix
      ? [matrix.a * p.x + matrix.c * p.y + matrix.e, matrix.b * p.x + matrix.d * p.y + matrix.f]
      : [p.x, p.y];
    lines.at(-1)?.push({ a: x, b: -y });
    before = p;
  }
  return lines.filter((l) => l.length > 1);
}
