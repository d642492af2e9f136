import { describe, expect, it } from "vitest";
import { motorAlone, ratioFor, voltsOf } from "../../core/subjects/propulsion/alone";
import { solveChain } from "../../core/subjects/propulsion/chain";
import { nominalSetup } from "../../core/subjects/propulsion/nominal";
import { changed } from "../support/designs";

const known = (value: number) => ({ value, evidence: "measured" as const });
const unit = (ratio: number, efficiency = 1) => ({
  motor: { kv: known(1000), resistance: known(0.05), noLoadCurrent: known(1), maxCurrent: 20 },
  controller: { resistance: { value: 0, evidence: "measured" as const }, maxCurrent: 30, maxCells: 4 },
  gear: { ratio, efficiency: known(efficiency) },
});

describe("a motor by itself", () => {
  it("wastes least at √(V·I0/R): 10 V, 0.05 Ω, 1 A give 14.142 A and 86.36 % (closed form)", () => {
    const m = motorAlone(unit(1), 10);
    expect(m.best.current).toBeCloseTo(14.142, 3);
    expect(m.best.efficiency).toBeCloseTo(0.8636, 4);
    expect(m.stallCurrent).toBeCloseTo(200, 9);
    // Kt of 1000 rpm/V is 9.5493e-3 N·m/A.
    expect(m.stallTorque).toBeCloseTo(9.5493e-3 * 199, 5);
    expect(m.free).toBeCloseTo(9950, -1);
    expect(m.ratedPower).toBeCloseTo(9.5493e-3 * 19 * 9000 * ((2 * Math.PI) / 60), 2);
  });
  it(
    "through a reduction gives its torque times that at its speed over that: power stays, less what the " +
      "gears take",
    () => {
      const [direct, geared] = [motorAlone(unit(1), 10), motorAlone(unit(8, 0.9), 10)];
      expect(geared.free).toBeCloseTo(direct.free / 8, 6);
      expect(geared.stallTorque).toBeCloseTo(direct.stallTorque * 8 * 0.9, 9);
      const p = (m: typeof direct) => m.best.torque * m.best.rpm;
      expect(p(geared) / p(direct)).toBeCloseTo(0.9, 9);
      expect(geared.ratedPower).toBe(direct.ratedPower);
    },
  );
  it("has the reduction for a wanted rate, whatever it is geared with now", () => {
    const wanted = ratioFor(unit(3), 10, 600);
    expect(motorAlone(unit(wanted), 10).best.rpm).toBeCloseTo(600, 6);
    expect(ratioFor(unit(1), 10, 600)).toBeCloseTo(wanted, 9);
  });
  it("is what the chain says of it on a stiff pack with next to nothing on its shaft", () => {
    const design = changed((d) => {
      const u = d.units[0];
      if (u) Object.assign(u.propeller, { diameter: known(0.012), pitch: known(0.006), chord: known(0.001) });
    });
    const drive = nominalSetup(design, null)?.units[0]?.drive;
    const u = design.units[0];
    const volts = u && voltsOf(u, design.batteries);
    if (!drive || !u || !volts) throw new Error("no drive");
    const solved = solveChain(
      { ...drive, pathResistance: 0 },
      { openCircuit: volts, resistance: 1e-9, otherLoad: 0 },
      1,
    );
    if (solved.status !== "converged") throw new Error(solved.status);
    expect(Math.abs(solved.point.motorRpm / motorAlone(u, volts).free - 1)).toBeLessThan(0.003);
  });
});
