import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { LAP, MOST_SHEETS, PX_PER_MM, roomOn, scaleName, scalesFor, tilesOf } from "../../web/drawing/paper";
import { type ViewName, sheetAt } from "../../web/drawing/scale";

const papers = ["A4", "Letter"] as const;
const size = fc.double({ min: 1, max: 8000, noNaN: true });

describe("a drawing on several sheets of paper", () => {
  it("is whole: every point of it is on a sheet, and what lies at a seam on both", () => {
    fc.assert(
      fc.property(size, size, fc.constantFrom(...papers), (width, height, paper) => {
        const room = roomOn(paper);
        const tiles = tilesOf(width, height, paper);
        const rows = new Map<number, number>(tiles.map((t) => [t.row, t.y]));
        const columns = new Map<number, number>(tiles.map((t) => [t.column, t.x]));
        // Every row has every column, each once.
        expect(tiles.length).toBe(rows.size * columns.size);
        for (const [starts, length, free] of [
          [[...columns.values()], width, room.width],
          [[...rows.values()], height, room.height],
        ] as const) {
          expect(starts[0]).toBeLessThanOrEqual(1e-6);
          expect((starts.at(-1) ?? 0) + free).toBeGreaterThanOrEqual(length - 1e-6);
          for (let k = 1; k < starts.length; k++)
            expect((starts[k - 1] ?? 0) + free - (starts[k] ?? 0)).toBeCloseTo(LAP * PX_PER_MM, 6);
          // None too many: one sheet less would not do.
          if (starts.length > 1)
            expect((starts.length - 1) * free - (starts.length - 2) * LAP * PX_PER_MM).toBeLessThan(length);
        }
      }),
      { numRuns: 200 },
    );
  });
  it("a millimetre of it is a millimetre: CSS puts 96 px on an inch of 25.4 mm, and A4 is 297 by 210 (ISO 216)", () => {
    expect(roomOn("A4").width / PX_PER_MM).toBeCloseTo(297 - 20, 9);
    expect(100 * PX_PER_MM).toBeCloseTo((96 * 100) / 25.4, 9);
    const box = { min: { x: 0, y: -0.2, z: 0 }, max: { x: 1, y: 0.2, z: 0.1 } };
    for (const scale of [1, 0.2]) {
      const sheet = sheetAt(box, scale * 1000 * PX_PER_MM, ["side", "top", "front"]);
      for (const [view, value] of [
        ["side", 1],
        ["top", 1],
        ["front", -0.2],
      ] as [ViewName, number][]) {
        const from = view === "front" ? 0.2 : 0;
        const mm = (sheet.px(view, value) - sheet.px(view, from)) / PX_PER_MM;
        expect(mm).toBeCloseTo(Math.abs(value - from) * 1000 * scale, 6);
        // All of it is on the sheet.
        const frame = sheet.views[view];
        expect(frame.x + frame.w).toBeLessThanOrEqual(sheet.width);
        expect(frame.y + frame.h).toBeLessThanOrEqual(sheet.height);
      }
    }
  });
  it(
    "is offered at the scales of ISO 5455, or halves where one works in inches, as far as somebody would " + "glue it",
    () => {
      // 0.9 m by 0.4 m, one view.
      const at = (scale: number) => ({ width: 900 * scale * PX_PER_MM, height: 400 * scale * PX_PER_MM });
      const metric = scalesFor(at, "A4", "metric");
      expect(metric.map((s) => scaleName(s.scale))).toEqual([
        "2:1",
        "1:1",
        "1:2",
        "1:5",
        "1:10",
        "1:20",
        "1:50",
        "1:100",
      ]);
      expect(metric.find((s) => s.scale === 0.2)?.sheets).toBe(1);
      // 900 mm over 277 mm less the strips are 4 sheets, 400 mm over 168 mm 3.
      expect(metric.find((s) => s.scale === 1)?.sheets).toBe(12);
      for (const s of metric) expect(s.sheets).toBeLessThanOrEqual(MOST_SHEETS);
      expect(scalesFor(at, "Letter", "imperial").map((s) => scaleName(s.scale))).toContain("1:4");
      expect(scalesFor(() => ({ width: 1e9, height: 1e9 }), "A4", "metric")).toEqual([]);
    },
  );
});
