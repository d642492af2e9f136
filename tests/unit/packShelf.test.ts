import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { CHEMISTRIES, designSchema } from "../../core/design/schema";
import type { ShelfPack } from "../../core/design/shelf";
import { coldFactor } from "../../core/subjects/energy/battery";
import { ageOf, fitPack, newestResistance, packsText, readPacks } from "../../core/catalogue/packShelf";
import { rollUp } from "../../core/subjects/mass/rollup";
import { quietDesign } from "../support/designs";

const pack: ShelfPack = {
  kind: "pack",
  name: "Field A",
  price: null,
  chemistry: "lipo",
  series: 3,
  capacity: { value: 3.8, evidence: "datasheet" },
  cellResistance: { value: 0.006, evidence: "measured" },
  cRating: 25,
  mass: { value: 0.305, evidence: "measured" },
  bought: "2025-04-02",
  cycles: 41,
  notes: "",
  readings: [
    { date: "2026-09-01", resting: 12.4, loaded: 11.5, current: 20, temperature: 25, returned: 2.81 },
    { date: "2026-03-01", resting: 12.41, loaded: 11.81, current: 20, temperature: 25, returned: 2.9 },
  ],
};

describe("a pack of one's own", () => {
  // By hand: 0.9 V / (20 A x 3 cells) = 15 mOhm; the older reading would give 10.
  it("has the resistance of its newest load test, whatever the order", () => {
    expect(newestResistance(pack)?.value).toBeCloseTo(0.015, 9);
    expect(newestResistance({ ...pack, readings: pack.readings.toReversed() })?.date).toBe("2026-09-01");
    expect(newestResistance({ ...pack, readings: [] })).toBeNull();
    const cold = { ...pack, readings: pack.readings.map((r) => ({ ...r, temperature: 5 })) };
    expect(newestResistance(cold)?.value).toBeCloseTo(0.015 / coldFactor("lipo", 5), 9);
  });
  it("ages by the calendar", () => {
    expect(ageOf(pack, "2026-04-02T09:00:00Z")).toBe(365);
    expect(ageOf({ bought: null }, "2026-04-02")).toBeNull();
  });
  it("fitted, brings its numbers, name and mass, and stays where the old one sat", () => {
    const before = quietDesign();
    const old = before.batteries[0];
    const after = fitPack(before, old?.id ?? "", pack);
    expect(designSchema.safeParse(after).error).toBeUndefined();
    expect(after.batteries[0]).toMatchObject({
      name: "Field A",
      capacity: { value: 3.8 },
      cellResistance: { value: expect.closeTo(0.015, 9), evidence: "measured" },
      usable: old?.usable,
    });
    const [was, is] = [before, after].map((d) => d.items.find((i) => i.id === old?.itemId));
    expect(is?.place).toEqual(was?.place);
    expect((rollUp(after)?.mass ?? 0) - (rollUp(before)?.mass ?? 0)).toBeCloseTo(0.305 - (was?.mass?.value ?? 0), 9);
    expect(fitPack(before, "none", pack)).toEqual(before);
  });
});

describe("lists of packs", () => {
  it("come back as they went out", () => {
    const amount = fc.integer({ min: 1, max: 99_999 });
    const readings = fc.array(
      fc.record({
        date: fc.constantFrom("2026-01-02", "2024-02-29"),
        resting: fc.option(amount.map((n) => n / 1000)),
        loaded: fc.option(amount.map((n) => n / 1000)),
        current: fc.option(amount.map((n) => n / 100)),
        temperature: fc.option(fc.integer({ min: -20, max: 60 })),
        returned: fc.option(amount.map((n) => n / 1000)),
      }),
      { maxLength: 4 },
    );
    const any = fc.record({
      kind: fc.constant("pack" as const),
      price: fc.option(fc.integer({ min: 0, max: 999 })),
      name: fc.constantFrom("A", "B, the swollen one", 'C "new"', "=D", "Ä; 5"),
      chemistry: fc.constantFrom(...CHEMISTRIES),
      series: fc.integer({ min: 1, max: 24 }),
      capacity: amount.map((n) => ({ value: n / 1000, evidence: "datasheet" as const })),
      cellResistance: amount.map((n) => ({ value: n / 1e6, evidence: "measured" as const })),
      cRating: fc.integer({ min: 1, max: 300 }),
      mass: fc.option(amount.map((n) => ({ value: n / 1000, evidence: "measured" as const }))),
      bought: fc.option(fc.constant("2025-05-06")),
      cycles: fc.option(fc.nat(900)),
      notes: fc.constantFrom("", "puffed; retired"),
      readings,
    });
    fc.assert(
      fc.property(fc.uniqueArray(any, { selector: (p) => p.name, minLength: 1 }), (list) => {
        const back = readPacks(packsText(list));
        expect(back.refused).toEqual([]);
        const round = (v: unknown) =>
          JSON.parse(
            JSON.stringify(v, (_, x: unknown) => (typeof x === "number" ? Number(x.toPrecision(8)) : x)),
          ) as unknown;
        // A name that a spreadsheet would run as a formula goes out marked as text.
        expect(round(back.parts)).toEqual(
          round(list.map((p) => ({ ...p, name: p.name.startsWith("=") ? `'${p.name}` : p.name }))),
        );
      }),
      { numRuns: 60 },
    );
  });
  it(
    "as users have them: semicolons, decimal commas, units in the cell, and rows that are left out with a " + "reason",
    () => {
      const { parts: packs, refused } = readPacks(
        "\uFEFF\nName;Chemistry;Cells;Capacity [mAh];Weight;Read on;Resting (V)\nA;lipo;3;2200;7 " +
          "oz;2026-03-01;12,41\nB;NiMH;7;3 " +
          "Ah;;;\nC;mystery;3;1000;;;\nD;lipo;40;1000;;;\nE;lipo;3;much;;;\nF;lipo;3;1000;;;12,1\nG;lipo;3;1000;;03/04/26;12,1\n",
      );
      expect(packs.map((p) => p.name)).toEqual(["A", "B"]);
      expect(packs[0]?.mass?.value).toBeCloseTo(7 * 0.028349523, 6);
      expect(packs[0]?.readings[0]?.resting).toBeCloseTo(12.41, 9);
      expect(packs[1]?.capacity.value).toBeCloseTo(3, 9);
      expect(refused.map((r) => r.line)).toEqual([5, 6, 7, 8, 9]);
      expect(refused.map((r) => r.reason).join("\n")).toMatch(
        /“mystery” is not known. Accepted: [^\n]*\n.*at most 24 cells[^\n]*\nCapacity[^\n]*\nA reading needs its date[^\n]*\n.*a date like 2026-03-21/,
      );
    },
  );
  it("without the columns that it needs, nothing is read and it says which", () => {
    expect(readPacks("Pack,Colour\nA,red")).toEqual({
      parts: [],
      refused: [{ line: 1, reason: expect.stringContaining("no column “Cells”") }],
    });
    expect(readPacks("").parts).toEqual([]);
  });
});
