import { describe, expect, it } from "vitest";
import { designSchema } from "../../core/design/schema";
import { SI } from "../../core/design/units";
import { rollUp } from "../../core/subjects/mass/rollup";
import {
  GENERIC_KINDS,
  type GenericPart,
  type GenericWish,
  fitGeneric,
  genericParts,
  genericText,
} from "../../core/catalogue/genericParts";
import { changed, quietDesign } from "../support/designs";

const wish: GenericWish = { kv: 1000, chemistry: "lipo", series: 3, blades: 2, pitchRatio: 0.5 };
const last = (kind: (typeof GENERIC_KINDS)[number]): GenericPart => genericParts(kind, wish).at(-1) as GenericPart;

describe("lists of generic parts", () => {
  it.each(GENERIC_KINDS)("%s: all figures are finite and positive, and mass grows with size", (kind) => {
    const parts = genericParts(kind, wish);
    expect(parts.length).toBeGreaterThan(5);
    for (const p of parts) for (const f of [{ value: p.mass }, ...p.figures]) expect(f.value).toBeGreaterThan(0);
    expect(parts.map((p) => p.mass)).toEqual(parts.map((p) => p.mass).toSorted((a, b) => a - b));
  });
  // Common practice, from memory of what such servos are sold with: 9 g about 0.15 to 0.25 N·m; 45 to 60 g about 0.8
  // to 1.6 N·m at 6 V.
  it("servos stall at usual torques", () => {
    const torque = (kg: number) => genericParts("servo", wish).find((p) => p.size === kg)?.figures[0]?.value ?? 0;
    expect(torque(0.009)).toBeGreaterThan(0.15);
    expect(torque(0.009)).toBeLessThan(0.25);
    expect(torque(0.045)).toBeGreaterThan(0.8);
    expect(torque(0.06)).toBeLessThan(1.6);
  });
  it("goes out as CSV with units in the headers", () => {
    const [head, first] = genericText(genericParts("pack", wish), (d) => SI[d]).split("\n");
    expect(head).toMatch(/^Part,"mass, kg","± mass, kg","capacity, A·h"/);
    expect(first).toMatch(/^"Pack, 3 cells, 0.3 A·h",0.0/);
  });
});

describe("fitting one", () => {
  it.each(GENERIC_KINDS)("%s: gives a valid design whose mass changes by the difference of the entry", (kind) => {
    const before = quietDesign();
    const part = last(kind);
    const { design, entry } = fitGeneric(before, before.units[0]?.id ?? "", part);
    expect(designSchema.safeParse(design).error).toBeUndefined();
    const item = design.items.find((i) => i.name === entry);
    const old = before.items.find((i) => i.id === item?.id);
    const difference = (item?.quantity ?? 0) * part.mass - (old?.quantity ?? 0) * (old?.mass?.value ?? 0);
    expect((rollUp(design)?.mass ?? 0) - (rollUp(before)?.mass ?? 0)).toBeCloseTo(difference, 9);
  });
  it("puts the numbers into the drive that was asked for only", () => {
    const two = changed(
      (d) =>
        void d.units.push({ ...structuredClone(d.units[0] as (typeof d.units)[number]), id: "second", name: "Second" }),
    );
    const part = last("motor");
    const { design } = fitGeneric(two, "second", part);
    expect(design.units[0]?.motor).toEqual(two.units[0]?.motor);
    expect(design.units[1]?.motor).toEqual(part.kind === "motor" && part.motor);
  });
  it("an entry that is motor and controller at once keeps its mass: the part is added", () => {
    const both = changed((d) => {
      d.items = d.items.filter((i) => !/motor|controller/i.test(i.name));
      const [first] = d.items;
      if (first) first.name = "Motor and controller";
    });
    const { design, entry } = fitGeneric(both, both.units[0]?.id ?? "", last("motor"));
    expect(design.items).toHaveLength(both.items.length + 1);
    expect(entry).toMatch(/^Motor, 1000/);
  });
});
