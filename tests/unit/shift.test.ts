import { describe, expect, it } from "vitest";
import type { Design } from "../../core/design/schema";
import { evaluate, resultIn } from "../../core/evaluate";
import { lattice } from "../../core/subjects/flight/latticeNode";
import { trimmed } from "../../core/subjects/flight/model";
import { flight } from "../../core/subjects/flight/node";
import { cgPerCommand, withCgAt } from "../../core/subjects/flight/shift";
import { AT_SPEED } from "../../core/subjects/flight/trim";
import { demoFile } from "../support/demo";

const tern = demoFile("tern").versions.find((v) => v.label === "v5")?.design as Design;
function flying(design: Design) {
  const e = evaluate(design);
  const [l, f] = [resultIn(e, lattice), resultIn(e, flight)];
  if (!l || !f?.at || !f.values.stallSpeed) throw new Error("it does not fly");
  return { l, at: f.at, travel: f.travel, e, speed: AT_SPEED * f.values.stallSpeed.value };
}

describe("a shift of the CG", () => {
  it("with no shift is what is told as trim and margin", () => {
    const { l, at, travel, e, speed } = flying(tern);
    const [here] = withCgAt(l, at, speed, travel, [at.cg]);
    expect(here?.margin).toBeCloseTo(e.metrics.staticMargin?.value ?? 0, 9);
    expect(here?.command).toBeCloseTo(e.metrics.trimCommand?.value ?? 0, 6);
    expect(here?.reached).toBe(true);
  });
  it("is what the whole craft is told with its pack moved", () => {
    const { l, at, travel } = flying(tern);
    const moved = structuredClone(tern);
    const pack = moved.items.find((i) => i.id === "pack");
    if (!pack) throw new Error("no pack");
    pack.place.x -= 0.03;
    const other = flying(moved);
    expect(other.at.cg).toBeLessThan(at.cg - 0.003);
    const [asked] = withCgAt(l, at, other.speed, travel, [other.at.cg]);
    const [told] = withCgAt(other.l, other.at, other.speed, other.travel, [other.at.cg]);
    expect(asked?.margin).toBeCloseTo(told?.margin ?? 0, 9);
    expect(asked?.command).toBeCloseTo(told?.command ?? 0, 6);
    expect(told?.margin).toBeCloseTo(other.e.metrics.staticMargin?.value ?? 0, 9);
  });
  it("farther aft takes margin share for share, and less of the nose up", () => {
    const { l, at, travel, speed } = flying(tern);
    const rows = withCgAt(l, at, speed, travel, [at.cg - 0.02, at.cg, at.cg + 0.02]);
    const [a, b, c] = rows;
    expect((a?.margin ?? 0) - (b?.margin ?? 0)).toBeCloseTo(0.02 / l.mac, 9);
    expect((b?.margin ?? 0) - (c?.margin ?? 0)).toBeCloseTo(0.02 / l.mac, 9);
    expect((a?.command ?? 0) > (b?.command ?? 0) && (b?.command ?? 0) > (c?.command ?? 0)).toBe(true);
    // So far ahead that no travel holds it.
    expect(withCgAt(l, at, speed, travel, [at.cg - 3 * l.mac])[0]?.reached).toBe(false);
  });
  it(
    "and what a degree of the control is worth, by moments: W·dx = q·(moment of the control at the same " + "lift)·de",
    () => {
      const { l, at, speed } = flying(tern);
      // Without the couple of thrust over drag, which goes with the drag too.
      const still = { ...at, thrust: null };
      const q = (at.density * speed ** 2) / 2;
      const trim = trimmed(l.model, at.cg);
      if (!trim) throw new Error("no trim");
      const about = (r: { my: number; z: number }) => r.my + at.cg * r.z;
      const [moment, lift] = l.model.controls.reduce(
        ([m, z], c, k) => {
          const sign = trim.signs[k] ?? 0;
          return [m + sign * about(c.reaction), z + sign * c.reaction.z];
        },
        [0, 0],
      );
      const { alpha } = l.model;
      const atLift = moment - (about(alpha) / alpha.z) * lift;
      const byHand = (q * atLift) / at.weight;
      const found = cgPerCommand(l, still, speed) ?? Number.NaN;
      // The angle of attack that keeps the lift turns about the new CG: second order in the shift.
      expect(Math.abs(found) / byHand).toBeGreaterThan(0.97);
      expect(Math.abs(found) / byHand).toBeLessThan(1.03);
    },
  );
});
