import type { Extent } from "../../core/mass/rollup";

/** Which two axes of the craft a view shows: across the sheet and up the sheet. */
export type ViewName = "side" | "top";
export const VERTICAL: Record<ViewName, "z" | "y"> = { side: "z", top: "y" };

export interface Sheet {
  /** px per metre */
  scale: number;
  width: number;
  height: number;
  /** x of the craft (m) to x on the sheet (px) */
  px: (x: number) => number;
  /** z (side) or y (top) of the craft (m) to y on the sheet (px) */
  py: (view: ViewName, value: number) => number;
  /** Sheet ranges of the two views, px */
  views: Record<ViewName, { top: number; bottom: number }>;
  ruler: number;
  min: number;
  max: number;
}

const SIDE_MARGIN = 34;
const GAP = 34;
const TOP_MARGIN = 22;

/**
 * One scale for both views of a craft, as large as the sheet allows. x runs to the right (aft); up the sheet is z in the side view, y
 * (starboard) in the top view, as seen from above with the nose to the left.
 */
export function sheetFor(box: Extent, width: number, height: number): Sheet {
  const pad = 0.04 * Math.max(box.max.x - box.min.x, 0.1);
  const min = box.min.x - pad;
  const max = box.max.x + pad;
  const dz = Math.max(box.max.z - box.min.z, 0.01);
  const dy = Math.max(box.max.y - box.min.y, 0.01);
  const free = height - TOP_MARGIN - GAP - 12;
  const scale = Math.min((width - 2 * SIDE_MARGIN) / (max - min), free / (dz + dy));
  const left = (width - (max - min) * scale) / 2;
  const slack = Math.max(0, free - (dz + dy) * scale);
  const side = { top: TOP_MARGIN + slack / 4, bottom: TOP_MARGIN + slack / 4 + dz * scale };
  const top = { top: side.bottom + GAP + slack / 4, bottom: side.bottom + GAP + slack / 4 + dy * scale };
  return {
    scale,
    width,
    height,
    min,
    max,
    views: { side, top },
    ruler: side.bottom + 8,
    px: (x) => left + (x - min) * scale,
    py: (view, value) => (view === "side" ? side.bottom - (value - box.min.z) * scale : top.bottom - (value - box.min.y) * scale),
  };
}

/** Round step (1, 2, 5 × 10^n) that cuts a range into about `count` parts. */
export function roundStep(range: number, count: number): number {
  const raw = range / count;
  const ten = 10 ** Math.floor(Math.log10(raw));
  const lead = raw / ten;
  return (lead < 1.5 ? 1 : lead < 3.5 ? 2 : lead < 7.5 ? 5 : 10) * ten;
}

export interface Box {
  x: number;
  y: number;
  w: number;
  h: number;
}

const overlap = (a: Box, b: Box) => a.x < b.x + b.w && b.x < a.x + a.w && a.y < b.y + b.h && b.y < a.y + a.h;

/** Puts each label at the first of its candidate places that is free and on the sheet, else drops it. */
export function placeLabels<T>(labels: { candidates: Box[]; data: T }[], bounds: Box, taken: Box[] = []): { box: Box; data: T }[] {
  const used = [...taken];
  const out: { box: Box; data: T }[] = [];
  for (const { candidates, data } of labels) {
    const box = candidates.find(
      (c) => c.x >= bounds.x && c.y >= bounds.y && c.x + c.w <= bounds.x + bounds.w && c.y + c.h <= bounds.y + bounds.h && !used.some((u) => overlap(u, c)),
    );
    if (box) {
      used.push(box);
      out.push({ box, data });
    }
  }
  return out;
}
