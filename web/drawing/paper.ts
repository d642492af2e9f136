import type { UnitHabit } from "../../core/design/units";

/** Sheets as they lie in a printer, across, mm (ISO 216; ANSI/ASME Y14.1 size A). */
export const PAPERS = { A4: { width: 297, height: 210 }, Letter: { width: 279.4, height: 215.9 } } as const;
export type Paper = keyof typeof PAPERS;

/** mm that printers keep clear, for the title above and the measure below, and by which sheets lie over one another. */
const MARGIN = 10;
const TITLE = 8;
const FOOT = 14;
export const LAP = 10;

/** Of CSS: 96 px are an inch. */
export const PX_PER_MM = 96 / 25.4;

/**
 * Scales to draw at, times full size, largest first: those of ISO 5455 where one works in millimetres, halves where
 * one works in inches (common practice).
 */
const SCALES: Record<UnitHabit, readonly number[]> = {
  metric: [10, 5, 2, 1, 1 / 2, 1 / 5, 1 / 10, 1 / 20, 1 / 50, 1 / 100],
  imperial: [8, 4, 2, 1, 1 / 2, 1 / 4, 1 / 8, 1 / 16, 1 / 32, 1 / 64],
};

/** Full size is 1:1, half of it 1:2, twice of it 2:1. */
export const scaleName = (scale: number): string =>
  scale >= 1 ? `${Math.round(scale)}:1` : `1:${Math.round(1 / scale)}`;

/** What a sheet of paper holds of a drawing, px. */
export function roomOn(paper: Paper): { width: number; height: number } {
  const { width, height } = PAPERS[paper];
  return { width: (width - 2 * MARGIN) * PX_PER_MM, height: (height - 2 * MARGIN - TITLE - FOOT) * PX_PER_MM };
}

/** A part of a drawing that goes on one sheet, px from its top left. */
export interface Tile {
  column: number;
  row: number;
  x: number;
  y: number;
}

/** The sheets that a drawing (px) takes, row by row, each lying over the next by a strip to glue. */
export function tilesOf(width: number, height: number, paper: Paper): Tile[] {
  const room = roomOn(paper);
  const lap = LAP * PX_PER_MM;
  const along = (length: number, free: number) => {
    const n = length <= free ? 1 : Math.ceil((length - lap) / (free - lap));
    // What is left over is shared by both ends.
    const slack = n * free - (n - 1) * lap - length;
    return Array.from({ length: n }, (_, k) => k * (free - lap) - slack / 2);
  };
  return along(height, room.height).flatMap((y, row) =>
    along(width, room.width).map((x, column) => ({ column, row, x, y })),
  );
}

/** More sheets than this are not offered: nobody glues them. */
export const MOST_SHEETS = 60;

/** The scales at which a drawing can be had, with how many sheets each takes, largest scale first. */
export const scalesFor = (
  sizeAt: (scale: number) => { width: number; height: number },
  paper: Paper,
  habit: UnitHabit,
): { scale: number; sheets: number }[] =>
  SCALES[habit]
    .map((scale) => {
      const { width, height } = sizeAt(scale);
      const room = roomOn(paper);
      // Counted before it is cut: a ship at ten times its size would be a million sheets.
      if ((width / room.width) * (height / room.height) > MOST_SHEETS) return { scale, sheets: Infinity };
      return { scale, sheets: tilesOf(width, height, paper).length };
    })
    .filter((s) => s.sheets <= MOST_SHEETS);
