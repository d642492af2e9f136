import { readFileSync } from "node:fs";
import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { EVIDENCE } from "../../core/design/evidence";
import { designSchema } from "../../core/design/schema";
import { type PlainPart, shelfPartSchema } from "../../core/design/shelf";
import { rollUp } from "../../core/subjects/mass/rollup";
import { GENERIC_KINDS, genericParts, shelfPartOf } from "../../core/catalogue/genericParts";
import { entryOf } from "../../core/catalogue/ledgerEntry";
import {
  PART_FIELDS,
  PLAIN_KINDS,
  type PlainKind,
  fitPart,
  partFrom,
  partsText,
  readParts,
} from "../../core/catalogue/partShelf";
import { changed, quietDesign } from "../support/designs";

const amount = fc.integer({ min: 1, max: 9_999 });
const known = amount.chain((n) =>
  fc.record(
    {
      value: fc.constant(n / 100),
      evidence: fc.constantFrom(...EVIDENCE),
      sd: fc.integer({ min: 1, max: 500 }).map((k) => (k * n) / 1e5),
    },
    { requiredKeys: ["value", "evidence", "sd"] },
  ),
);
/** Any part of a kind, by the list of its own figures. */
const anyPart = (kind: PlainKind) =>
  fc.record({
    kind: fc.constant(kind),
    name: fc.constantFrom("A", "B; the old one", 'C "new"', "Ä, 5"),
    mass: fc.option(known),
    price: fc.option(fc.integer({ min: 0, max: 999 })),
    notes: fc.constantFrom("", "bent; straightened"),
    ...Object.fromEntries(
      PART_FIELDS[kind].map((f) => [
        f.key,
        f.how === "known"
          ? known
          : f.dimension === "count"
            ? fc.integer({ min: 2, max: 6 })
            : amount.map((n) => n / 200),
      ]),
    ),
  }) as unknown as fc.Arbitrary<PlainPart>;

describe("lists of one's own parts", () => {
  it.each(PLAIN_KINDS)("%s: come back as they went out, with every ± and evidence", (kind) => {
    fc.assert(
      fc.property(fc.uniqueArray(anyPart(kind), { selector: (p) => p.name, minLength: 1 }), (list) => {
        for (const p of list) expect(shelfPartSchema.safeParse(p).error).toBeUndefined();
        const back = readParts(kind, partsText(kind, list));
        expect(back.refused).toEqual([]);
        const round = (v: unknown) =>
          JSON.parse(
            JSON.stringify(v, (_, x: unknown) => (typeof x === "number" ? Number(x.toPrecision(8)) : x)),
          ) as unknown;
        expect(round(back.parts)).toEqual(round(list));
      }),
      { numRuns: 40 },
    );
  });
  it("as users have them: other names of columns, inches, what is left out filled in as a guess", () => {
    const { parts, refused } = readParts(
      "propeller",
      "Name;Diameter [in];Pitch\nA;8;4,5 in\nB;203 mm;110\nC;;5\nD;big;5\nA;8;4\n",
    );
    expect(parts.map((p) => [p.name, p.diameter.value, p.blades, p.chord.evidence])).toEqual([
      ["A", 0.2032, 2, "guess"],
      ["B", 0.203, 2, "guess"],
    ]);
    expect(parts[0]?.pitch.value).toBeCloseTo(0.1143, 9);
    expect(refused.map((r) => r.line)).toEqual([4, 5, 6]);
    expect(refused.map((r) => r.reason).join("\n")).toMatch(
      /Diameter is missing[^\n]*\n[^\n]*“big” is not a number[^\n]*\n“A” is in the list already/,
    );
    expect(readParts("motor", "Motor,Kv\nA,1000").refused[0]?.reason).toContain("no column “Winding resistance (mΩ)”");
    expect(
      readParts("motor", "Motor,Kv,Kv known by,Resistance,No-load current,Rated current\nA,1000,hearsay,50,1,20")
        .refused[0]?.reason,
    ).toContain("“hearsay” is not a way of knowing");
    expect(
      readParts("motor", "Motor,Kv,Resistance,No-load current,Rated current\nA,0,50,1,20").refused[0]?.reason,
    ).toMatch(/^kv: /);
  });
  it.each(PLAIN_KINDS)("the demo's %ss are read without a complaint", (kind) => {
    const { parts, refused } = readParts(
      kind,
      readFileSync(new URL(`../../demo/${kind}s.csv`, import.meta.url), "utf8"),
    );
    expect(refused).toEqual([]);
    expect(parts.length).toBeGreaterThan(1);
  });
  it.each(GENERIC_KINDS)("a generic %s can be kept, as a guess", (kind) => {
    for (const p of genericParts(kind, { kv: 1000, chemistry: "lipo", series: 3, blades: 2, pitchRatio: 0.5 })) {
      const kept = shelfPartOf(p);
      expect(shelfPartSchema.safeParse(kept).error).toBeUndefined();
      expect(kept.mass).toMatchObject({ value: p.mass, evidence: "guess" });
    }
  });
});

describe("fitting one", () => {
  const design = quietDesign();
  const unit = design.units[0];
  if (!unit) throw new Error("no drive");
  const motor = {
    ...partFrom(design, unit, "motor", "Mine", entryOf(design, unit, "motor")),
    mass: { value: 0.09, evidence: "measured" as const },
    price: 12,
  };
  it(
    "puts figures into the drive, mass and price into its ledger entry; the prediction stays beside the " + "weighing",
    () => {
      const guessed = changed((d) => {
        const item = d.items.find((i) => i.id === "motor");
        if (item) item.mass = { value: 0.12, evidence: "guess" };
      });
      const { design: after, entry } = fitPart(guessed, unit.id, {
        ...motor,
        kv: { value: 777, evidence: "measured", sd: 5 },
      } as PlainPart);
      expect(designSchema.safeParse(after).error).toBeUndefined();
      expect(after.units[0]?.motor.kv).toEqual({ value: 777, evidence: "measured", sd: 5 });
      const item = after.items.find((i) => i.name === entry);
      expect(item).toMatchObject({
        id: "motor",
        cost: 12,
        mass: motor.mass,
        predicted: { value: 0.12, evidence: "guess" },
      });
      expect(rollUp(after)?.mass).toBeCloseTo((rollUp(guessed)?.mass ?? 0) - 0.03, 9);
    },
  );
  it("a part that nobody weighed leaves the entry's mass alone", () => {
    const { design: after } = fitPart(design, unit.id, { ...motor, mass: null } as PlainPart);
    expect(rollUp(after)?.mass).toBeCloseTo(rollUp(design)?.mass ?? 0, 12);
  });
  it("with two drives an entry is known by reference only; without one the part is added for that drive", () => {
    const two = changed((d) => void d.units.push({ ...structuredClone(unit), id: "second", name: "Second" }));
    expect(two.units.map((u) => entryOf(two, u, "motor"))).toEqual([null, null]);
    const { design: after, entry } = fitPart(two, "second", motor as PlainPart);
    expect(after.items).toHaveLength(two.items.length + 1);
    expect(after.units[1]?.motorItemId).toBe(after.items.find((i) => i.name === entry)?.id);
    // A second fitting goes into the entry of the first.
    expect(fitPart(after, "second", motor as PlainPart).design.items).toHaveLength(after.items.length);
    // Now the first drive's motor is the only one left by its name.
    expect(entryOf(after, after.units[0], "motor")).toBe("motor");
  });
  it("a servo goes into the ledger and loads the rail with its stall current", () => {
    const railed = changed(
      (d) =>
        void d.regulators.push({
          id: "r",
          name: "5 V",
          batteryId: unit.batteryId,
          kind: "switching",
          voltage: 5,
          maxCurrent: 3,
          dropout: 1,
          efficiency: 0.85,
          loads: [],
        }),
    );
    const servo: PlainPart = {
      kind: "servo",
      name: "Tail",
      mass: null,
      price: null,
      notes: "",
      torque: { value: 0.2, evidence: "datasheet" },
      voltage: 6,
      stallCurrent: { value: 1.5, evidence: "datasheet" },
      minVoltage: 4.8,
    };
    const { design: after } = fitPart(railed, unit.id, servo);
    expect(designSchema.safeParse(after).error).toBeUndefined();
    expect(after.regulators[0]?.loads[0]).toMatchObject({ name: "Tail", peak: 1.5, minVoltage: 4.8 });
    expect(after.items.at(-1)?.name).toBe("Tail");
  });
});
