import fc from "fast-check";
import { describe, expect, it } from "vitest";
import type { Design } from "../../core/design/schema";
import { lighterBallast, swapTo } from "../../core/subjects/balance/rearrange";
import { rollUp } from "../../core/subjects/mass/rollup";
import { packPatch } from "../../core/subjects/energy/packPatch";
import { tryPatch } from "../../core/design/patch";
import { changed, part, quietDesign } from "../support/designs";

const all = (d: Design) => {
  const r = rollUp(d);
  if (!r) throw new Error("no mass");
  return r;
};
const weight = (grams: number) => ({ value: grams / 1000, evidence: "measured" as const });

describe("ballast that comes off", () => {
  const with_ = (grams: number, x: number, pieces = 1) =>
    changed((d) => {
      d.items.push(
        part({ id: "lead", mass: weight(grams), quantity: pieces, role: "ballast", place: { x, y: 0, z: 0.05 } }),
      );
    });
  it("brings the CG where it is wanted, in whole or in part, by statics", () => {
    fc.assert(
      fc.property(
        fc.double({ min: 20, max: 200, noNaN: true }),
        fc.double({ min: 0.02, max: 0.58, noNaN: true }),
        fc.double({ min: 0.05, max: 0.95, noNaN: true }),
        (grams, x, share) => {
          const d = with_(grams, x);
          const r = all(d);
          // Where the CG comes to rest with a share of it gone.
          const gone = (share * grams) / 1000;
          const goal = (r.mass * r.cg.x - gone * x) / (r.mass - gone);
          const found = lighterBallast(d, r, "x", goal);
          if (Math.abs(goal - r.cg.x) < 1e-5 || gone < 0.002) return;
          expect(found?.by).toBeCloseTo(gone, 3);
          expect(found?.left).toBeCloseTo(Math.max(0, grams / 1000 - gone), 3);
        },
      ),
    );
  });
  it("does not offer more than there is, nor the other way, nor what is no ballast", () => {
    const d = with_(20, 0.05);
    const r = all(d);
    expect(lighterBallast(d, r, "x", r.cg.x + 0.2)).toBeNull();
    expect(lighterBallast(d, r, "x", r.cg.x - 0.01)).toBeNull();
    expect(lighterBallast(quietDesign(), all(quietDesign()), "x", 0.25)).toBeNull();
  });
  it("all but half a gram is all", () => {
    const d = with_(50, 0.05);
    const r = all(d);
    const goal = (r.mass * r.cg.x - 0.0498 * 0.05) / (r.mass - 0.0498);
    expect(lighterBallast(d, r, "x", goal)?.left).toBe(0);
  });
  it("counts every piece of an entry", () => {
    const d = with_(10, 0.05, 5);
    const r = all(d);
    const goal = (r.mass * r.cg.x - 0.03 * 0.05) / (r.mass - 0.03);
    expect(lighterBallast(d, r, "x", goal)?.by).toBeCloseTo(0.03, 5);
    expect(lighterBallast(d, r, "x", goal)?.left).toBeCloseTo(0.02, 5);
  });
});

describe("two parts that change places", () => {
  const small = { x: 0.04, y: 0.03, z: 0.02 };
  const two = (a: number, xa: number, b: number, xb: number, more: (d: Design) => void = () => {}) =>
    changed((d) => {
      d.items.push(
        part({ id: "a", mass: weight(a), place: { x: xa, y: 0, z: 0.05 }, size: small }),
        part({ id: "b", mass: weight(b), place: { x: xb, y: 0, z: 0.05 }, size: small }),
      );
      more(d);
    });
  const after = (d: Design, a: string, b: string) => {
    const c = structuredClone(d);
    const [p, q] = [a, b].map((id) => c.items.find((i) => i.id === id));
    if (!p || !q) throw new Error("gone");
    [p.place, q.place] = [{ ...q.place }, { ...p.place }];
    return all(c).cg;
  };
  it("bring the CG between the limits, as the ledger says once they have", () => {
    const d = two(60, 0.15, 10, 0.5);
    const r = all(d);
    const found = swapTo(d, r, "x", r.cg.x + 0.02, { low: r.cg.x + 0.005, high: r.cg.x + 0.05 });
    expect([found?.a.id, found?.b.id].toSorted()).toEqual(["a", "b"]);
    const cg = after(d, "a", "b").x;
    expect(cg).toBeCloseTo(r.cg.x + ((0.06 - 0.01) * (0.5 - 0.15)) / r.mass, 9);
    expect(cg).toBeGreaterThan(r.cg.x + 0.005);
  });
  it("are not offered where the other way is wanted, or limits are none", () => {
    const d = two(60, 0.15, 10, 0.5);
    const r = all(d);
    expect(swapTo(d, r, "x", r.cg.x - 0.02, { low: r.cg.x - 0.05, high: r.cg.x - 0.005 })).toBeNull();
    expect(swapTo(d, r, "x", r.cg.x, { low: 1, high: 0 })).toBeNull();
  });
  it.each([
    [
      "has no place",
      (d: Design) => void (d.items.find((i) => i.id === "a") as { unplaced: string[] }).unplaced.push("x"),
    ],
    ["has no size", (d: Design) => void ((d.items.find((i) => i.id === "a") as { unsized: boolean }).unsized = true)],
    [
      "hangs on another",
      (d: Design) => void ((d.items.find((i) => i.id === "a") as { parentId: string }).parentId = "hull"),
    ],
    ["is ballast", (d: Design) => void ((d.items.find((i) => i.id === "a") as { role: string }).role = "ballast")],
    ["turns the propeller", (d: Design) => void (d.units[0] && (d.units[0].motorItemId = "a"))],
    [
      "is far too large for the place",
      (d: Design) => void ((d.items.find((i) => i.id === "a") as { size: object }).size = { x: 0.2, y: 0.03, z: 0.02 }),
    ],
    [
      "stands on both sides",
      (d: Design) => void ((d.items.find((i) => i.id === "a") as { mirrored: boolean }).mirrored = true),
    ],
  ])("one that %s stays where it is", (_why, change) => {
    const d = two(60, 0.15, 10, 0.5, change);
    const r = all(d);
    const found = swapTo(d, r, "x", r.cg.x + 0.02, { low: r.cg.x + 0.005, high: r.cg.x + 0.06 });
    expect([found?.a.id, found?.b.id]).not.toContain("a");
  });
});

describe("a pack of another capacity", () => {
  it("weighs by its capacity, and its cells resist the less", () => {
    const d = quietDesign();
    const made = packPatch(d, "b", 4.4);
    if (!made) throw new Error("no pack");
    const next = tryPatch(d, made.patch);
    expect(made.mass).toBeCloseTo(0.4, 9);
    expect(next?.items.find((i) => i.id === "pack")?.mass?.value).toBeCloseTo(0.4, 9);
    expect(next?.batteries[0]?.capacity.value).toBeCloseTo(4.4, 9);
    // R·C stays: twice the plates, half the resistance (common practice).
    expect(next?.batteries[0]?.cellResistance.value).toBeCloseTo(0.004, 9);
    // What was measured of the old one is not said of the new one.
    expect(next?.batteries[0]?.cellResistance.evidence).toBe("guess");
    expect(next?.items.find((i) => i.id === "pack")?.mass?.evidence).toBe("datasheet");
  });
  it("back to where it was, it weighs what it did", () => {
    const d = quietDesign();
    const there = tryPatch(d, packPatch(d, "b", 5)?.patch ?? { set: [], addItems: [] });
    if (!there) throw new Error("not applied");
    const back = tryPatch(there, packPatch(there, "b", 2.2)?.patch ?? { set: [], addItems: [] });
    expect(back && rollUp(back)?.mass).toBeCloseTo(all(d).mass, 9);
    expect(packPatch(d, "none", 5)).toBeNull();
  });
});
