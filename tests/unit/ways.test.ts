import { describe, expect, it } from "vitest";
import { applyPatch } from "../../core/design/patch";
import { type Design, newWalkBack } from "../../core/design/schema";
import { evaluate, findingText, remediesFor } from "../../core/evaluate";
import { gramPrice } from "../../core/subjects/balance/gram";
import { changed, part } from "../support/designs";

const ways = (design: Design, code: string) => {
  const e = evaluate(design);
  const finding = e.findings.find((f) => f.code === code);
  if (!finding) throw new Error(`${code} is silent: ${e.findings.map((f) => f.code).join(", ")}`);
  return { finding, remedies: remediesFor(design, e, finding) };
};
const known = (value: number) => ({ value, evidence: "measured" as const });
const move = (d: Design, id: string, x: number) => {
  const item = d.items.find((i) => i.id === id);
  if (item) item.place.x = x;
};
/** The CG along an axis after a remedy, worked out apart: the sum of the moments. */
const cgOf = (d: Design, axis: "x" | "z") => {
  const mass = (i: Design["items"][number]) => (i.mass?.value ?? 0) * i.quantity;
  return d.items.reduce((s, i) => s + mass(i) * i.place[axis], 0) / d.items.reduce((s, i) => s + mass(i), 0);
};

describe("ways to bring the CG where it must be", () => {
  it("ballast that is there already comes off, as much as it takes and no more", () => {
    const design = changed(
      (d) =>
        void d.items.push(
          part({ id: "lead", name: "Ballast, tail", mass: known(0.12), place: { x: 0.6, y: 0, z: 0.05 } }),
        ),
    );
    const { remedies } = ways(design, "cg-outside");
    const off = remedies.find((r) => r.code === "take-off");
    if (!off?.patch) throw new Error("none");
    const after = applyPatch(design, off.patch);
    expect(off.text).toMatch(/^Take [\d.]+\sg of Ballast, tail off$/);
    expect(cgOf(after, "x")).toBeLessThan(0.32);
    expect(cgOf(after, "x")).toBeGreaterThan(0.28);
    expect(after.items.reduce((s, i) => s + (i.mass?.value ?? 0), 0)).toBeLessThan(
      design.items.reduce((s, i) => s + (i.mass?.value ?? 0), 0),
    );
  });
  it("two parts change places, when they fit and it brings the CG inside", () => {
    const design = changed((d) => {
      move(d, "hull", 0.36);
      d.items.push(
        part({
          id: "box",
          name: "Camera",
          mass: known(0.12),
          place: { x: 0.45, y: 0, z: 0.05 },
          size: { x: 0.06, y: 0.05, z: 0.04 },
        }),
      );
      d.items.push(
        part({
          id: "rx",
          name: "Receiver",
          mass: known(0.015),
          place: { x: 0.16, y: 0, z: 0.05 },
          size: { x: 0.05, y: 0.04, z: 0.04 },
        }),
      );
    });
    const { remedies } = ways(design, "cg-outside");
    const swap = remedies.find((r) => r.code === "swap-parts");
    expect(swap?.text).toBe("Let Camera and Receiver change places");
    const after = swap?.patch ? applyPatch(design, swap.patch) : design;
    expect(after.items.find((i) => i.id === "box")?.place.x).toBeCloseTo(0.16, 9);
    expect(cgOf(after, "x")).toBeGreaterThan(0.28);
    expect(cgOf(after, "x")).toBeLessThan(0.32);
    // What a drive holds where it is stays there.
    const held = changed((d) => {
      Object.assign(d, structuredClone(design));
      const unit = d.units[0];
      if (unit) unit.motorItemId = "box";
    });
    expect(ways(held, "cg-outside").remedies.map((r) => r.code)).not.toContain("swap-parts");
  });
  it("height has its ways too: a part that slides up or down, or ballast low down", () => {
    const design = changed((d) => {
      d.brief.targets.push({
        id: "cgz",
        metric: "cgZ",
        comparison: "between",
        value: 0.02,
        upper: 0.048,
        weight: "must",
      });
      const pack = d.items.find((i) => i.id === "pack");
      if (pack) pack.slideZ = { from: -0.02, to: 0.08 };
      d.ballastSpots = [{ id: "keel", name: "keel", place: { x: 0.3, y: 0, z: -0.05 }, most: 0.3 }];
    });
    const { remedies, finding } = ways(design, "cg-vertical");
    expect(finding.severity).toBe("stop");
    const up = remedies.find((r) => r.code === "move-part-up");
    expect(up?.text).toMatch(/^Move pack \d+\smm down$/);
    for (const r of remedies.filter((x) => x.patch)) {
      const z = r.patch ? cgOf(applyPatch(design, r.patch), "z") : Number.NaN;
      expect(z, r.text).toBeLessThanOrEqual(0.048 + 1e-9);
    }
    expect(remedies.map((r) => r.code)).toContain("add-ballast");
  });
  it("a guessed window in height stops nothing, and between sure and lost it is measured first", () => {
    const at = (upper: number, evidence?: "guess") =>
      evaluate(
        changed(
          (d) =>
            void d.brief.targets.push({
              id: "cgz",
              metric: "cgZ",
              comparison: "between",
              value: 0.02,
              upper,
              weight: "must",
              ...(evidence ? { evidence } : {}),
            }),
        ),
      ).findings.find((f) => f.code === "cg-vertical" || f.code === "cg-height-doubtful");
    expect(at(0.048)?.severity).toBe("stop");
    expect(at(0.048, "guess")?.severity).toBe("care");
    expect(at(0.054)?.code).toBe("cg-height-doubtful");
  });
});

describe("a craft that is unstable on purpose", () => {
  const aft = (change: (d: Design) => void = () => {}) =>
    changed((d) => {
      move(d, "pack", 0.36);
      d.schools.balance = "unstable on purpose";
      d.walkBack = newWalkBack({ stop: 0.38, steps: 4, itemId: "pack", by: "slide" });
      change(d);
    });
  it("is held against its stop line, not against the window that a stable one would need", () => {
    const stable = aft((d) => void (d.schools.balance = "stable"));
    expect(evaluate(stable).findings.map((f) => f.code)).toContain("cg-outside");
    const codes = evaluate(aft()).findings.map((f) => f.code);
    expect(codes).not.toContain("cg-outside");
    const inside = evaluate(aft()).findings.find((f) => f.code === "cg-inside");
    expect(inside && findingText(inside, "metric")).toMatch(/ahead of its stop line/);
  });
  it("stops behind its stop line, and says so", () => {
    const { finding, remedies } = ways(
      aft((d) => void (d.walkBack = newWalkBack({ stop: 0.3, steps: 4, itemId: "pack", by: "slide" }))),
      "cg-outside",
    );
    expect(finding).toMatchObject({ severity: "stop", about: "walkBack" });
    expect(findingText(finding, "metric")).toMatch(/behind its stop line/);
    expect(remedies.length).toBeGreaterThan(0);
  });
  it("without a stop line is asked for one, and stays held against the window meanwhile", () => {
    const codes = evaluate(aft((d) => void (d.walkBack = null))).findings.map((f) => f.code);
    expect(codes).toContain("no-stop-line");
    expect(codes).toContain("cg-outside");
  });
  it("its target in the brief is open while the stop line holds instead", () => {
    const t = evaluate(aft()).targets.find((x) => x.target.metric === "cgX");
    expect(t?.status).toBe("open");
    expect(t?.because).toMatch(/stop line/);
  });
});

describe("the price of a gram", () => {
  const cg = (d: Design) => evaluate(d).metrics.cgX?.value ?? 0;
  it("holds the CG at the edge of its window when it is outside, at the spot that answers that side", () => {
    const aft = changed((d) => move(d, "pack", 0.36));
    const price = gramPrice(aft, cg(aft));
    expect(price?.heldAt).toBeCloseTo(0.32, 9);
    expect(price?.spot.name).toBe("nose");
    const ahead = changed((d) => move(d, "pack", 0.02));
    expect(gramPrice(ahead, cg(ahead))).toMatchObject({ heldAt: 0.28, spot: { name: "tail" } });
  });
  it("is paid in full: with that counterweight the CG stays where it is held", () => {
    const design = changed((d) => move(d, "pack", 0.28));
    const held = cg(design);
    const price = gramPrice(design, held);
    if (!price) throw new Error("none");
    const heavier = changed((d) => {
      move(d, "pack", 0.28);
      d.items.push(part({ id: "more", mass: known(0.031), place: { x: 0.6, y: 0, z: 0 } }));
      d.items.push(part({ id: "lead", mass: known(0.031 * price.at(0.6)), place: price.spot.place }));
    });
    expect(cg(heavier)).toBeCloseTo(held, 9);
  });
  it("follows the ballast that is there, and the spot that is chosen", () => {
    const design = changed((d) => {
      d.ballastSpots = ["bow", "keel", "stern"].map((name, i) => ({
        id: name,
        name,
        place: { x: 0.05 + 0.3 * i, y: 0, z: 0 },
        most: 1,
      }));
      d.items.push(part({ id: "lead", name: "Ballast", mass: known(0.001), place: { x: 0.64, y: 0, z: 0 } }));
    });
    expect(gramPrice(design, cg(design))?.spot.name).toBe("stern");
    expect(gramPrice(design, cg(design), "keel")?.spot.name).toBe("keel");
  });
});
