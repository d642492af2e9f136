import { describe, expect, it } from "vitest";
import { learnFrom } from "../../core/bench/learn";
import { predictLevels } from "../../core/bench/predict";
import { sharedCurrentError } from "../../core/bench/rig";
import type { ThrustReading } from "../../core/design/thrustTest";
import { type Design, type Unit, designSchema } from "../../core/design/schema";
import { applyPatch } from "../../core/design/patch";
import { evaluate, remediesFor } from "../../core/evaluate";
import { operatingAt } from "../../core/subjects/propulsion/band";
import { solveChain } from "../../core/subjects/propulsion/chain";
import { learnedHolds, packChanged, partsChanged } from "../../core/subjects/propulsion/learned";
import { nominalSetup } from "../../core/subjects/propulsion/nominal";
import { changed, quietDesign } from "../support/designs";
import { TRUTH, learn, measuredOn, resultOf } from "../support/measured";
import { rig } from "../support/sweeps";

const unitOf = (d: Design): Unit => {
  const [u] = d.units;
  if (!u) throw new Error("no drive");
  return u;
};

describe("what a sweep teaches", () => {
  const design = quietDesign();
  const unit = unitOf(design);
  const lesson = learn(unit, measuredOn(unit));
  if (!lesson.ok) throw new Error(lesson.message);
  const { learned } = lesson;

  it(
    "tells nothing of the propeller moving: the ± of what is pushed standing narrows, that of the top " +
      "speed does not",
    () => {
      const at = (taught: boolean) => {
        const design = changed((d) => void (taught && (unitOf(d).learned = learned)));
        return evaluate({ ...design, dragArea: { value: 0.02, evidence: "measured", sd: 0.0002 } }).metrics;
      };
      const rel = (q: { value: number; sd: number } | undefined) => (q?.sd ?? 0) / (q?.value ?? 1);
      expect(rel(at(true).thrust)).toBeLessThan(0.6 * rel(at(false).thrust));
      expect(rel(at(true).speed)).toBeGreaterThan(0.03);
    },
  );
  it("finds the factors that the real drive was made with", () => {
    expect(learned.kv.value).toBeCloseTo(TRUTH.kv, 3);
    expect(Math.abs(learned.thrust.value / TRUTH.thrust - 1)).toBeLessThan(0.01);
    expect(Math.abs(learned.torque.value / TRUTH.torque - 1)).toBeLessThan(0.02);
    expect(lesson.before).toBeLessThan(0.9);
  });
  it("makes the predicted curve the measured one, at every throttle, on the voltage it was measured at", () => {
    const taught = changed((d) => void (unitOf(d).learned = learned));
    expect(designSchema.safeParse(taught).error).toBeUndefined();
    const setup = nominalSetup(taught, 0.9);
    const drive = setup?.units[0]?.drive;
    if (!drive) throw new Error("no setup");
    for (const p of learned.points.filter((x) => x.thrust > 0.3)) {
      const solved = solveChain(
        { ...drive, pathResistance: 0 },
        { openCircuit: p.voltage, resistance: 0, otherLoad: 0 },
        p.throttle,
      );
      if (solved.status !== "converged") throw new Error(solved.status);
      // The air of the design is a little other than that of the stand.
      const density = (setup?.medium.density ?? 1) / learned.density;
      expect(Math.abs(solved.point.thrust / density / p.thrust - 1)).toBeLessThan(0.02);
      expect(Math.abs(solved.point.packCurrent / p.current - 1)).toBeLessThan(0.06);
    }
  });
  it("changes thrust and what follows from it, with a smaller ± and better evidence; the dead band is in it", () => {
    const guessed = changed((d) => {
      for (const k of ["kv", "resistance", "noLoadCurrent"] as const) unitOf(d).motor[k].evidence = "datasheet";
      for (const k of ["diameter", "pitch", "chord"] as const) unitOf(d).propeller[k].evidence = "datasheet";
    });
    const taught = structuredClone(guessed);
    const fresh = learn(unitOf(taught), measuredOn(unitOf(taught)));
    if (!fresh.ok) throw new Error(fresh.message);
    unitOf(taught).learned = fresh.learned;
    const [before, after] = [evaluate(guessed), evaluate(taught)];
    expect(after.metrics.thrust?.value ?? 9).toBeLessThan(before.metrics.thrust?.value ?? 0);
    expect(after.metrics.thrust?.sd ?? 9).toBeLessThan((before.metrics.thrust?.sd ?? 0) / 2);
    expect(after.metrics.thrust?.evidence).toBe("calculated");
    expect(before.metrics.thrust?.evidence).toBe("datasheet");
    const at = (d: typeof taught) => operatingAt(d, 0.05)?.points[0]?.thrust ?? 0;
    expect(at(taught)).toBe(0);
    expect(at(guessed)).toBeGreaterThan(0);
  });
  it("a sweep that stops short of full duty leaves Kv as it was stated, with the doubt of that", () => {
    const short = learn(
      unit,
      measuredOn(unit).filter((r) => r.throttle <= 0.8),
    );
    expect(short.ok && short.learned.kv).toEqual({ value: 1, sd: 0.03 });
    expect(learned.kv.sd / learned.kv.value).toBeCloseTo(0.005, 12);
  });
  it("a calibrated current meter leaves its torque with the doubt of the calibration, not of the maker", () => {
    const stated = rig();
    expect(sharedCurrentError(stated)).toBe(stated.current.error);
    const calibrated = sharedCurrentError(stated, { gain: 1.04, gainSd: 0.0052, zero: 0, zeroSd: 0 });
    expect(calibrated).toBeCloseTo(0.005, 12);
    const sd = (current: number) => {
      const r = learnFrom(unit, null, resultOf(measuredOn(unit), unit), 3, "Test", 0.005, current);
      return r.ok ? r.learned.torque.sd / r.learned.torque.value : Number.NaN;
    };
    // Root of the squares with the 3 % of the drive's own figures, by hand.
    expect(sd(calibrated)).toBeCloseTo(0.030414, 5);
    expect(sd(0.04)).toBeCloseTo(0.05, 5);
  });
  it("without a speed: torque from the current, thrust from the scale; the top is met all the same", () => {
    const blind = learn(unit, measuredOn(unit, false));
    if (!blind.ok) throw new Error(blind.message);
    expect(blind.learned.kv).toEqual({ value: 1, sd: 0.03 });
    const taught = changed((d) => void (unitOf(d).learned = blind.learned));
    const top = blind.learned.points.at(-1);
    const drive = nominalSetup(taught, 0.9)?.units[0]?.drive;
    const solved =
      drive &&
      top &&
      solveChain({ ...drive, pathResistance: 0 }, { openCircuit: top.voltage, resistance: 0, otherLoad: 0 }, 1);
    expect(solved?.status === "converged" && Math.abs(solved.point.thrust / (top?.thrust ?? 1) - 1) < 0.03).toBe(true);
  });
  it.each<[string, (r: ThrustReading[]) => ThrustReading[], RegExp]>([
    ["no volts", (r) => r.map((x) => ({ ...x, voltage: null })), /with a scale alone: in power, under the drive/i],
    ["half a sweep", (r) => r.filter((x) => x.throttle < 0.5), /ends at 45 % throttle/],
    ["a speed read with the wrong pole count", (r) => r.map((x) => ({ ...x, rpm: (x.rpm ?? 0) * 7 })), /pole count/],
    [
      "a current meter that shows next to nothing",
      (r) => r.map((x) => ({ ...x, current: (x.current ?? 0) * 0.01 })),
      /below what the motor draws/,
    ],
    [
      "a lever entered the wrong way round",
      (r) => r.map((x) => ({ ...x, scale: 0.0313 + ((x.scale ?? 0) - 0.0313) * 12 })),
      /check the lever arms/,
    ],
  ])("refuses %s, and says what to check", (_, spoil, message) => {
    const refused = learn(unit, spoil(measuredOn(unit)));
    expect(refused.ok ? "" : refused.message).toMatch(message);
  });

  it("holds while the parts are those that were on the stand; to know a figure better is not another part", () => {
    expect(learnedHolds({ ...unit, learned })).toBe(true);
    expect(
      partsChanged(
        { ...unit, motor: { ...unit.motor, kv: { value: unit.motor.kv.value, evidence: "proven", sd: 1 } } },
        learned.of,
      ),
    ).toEqual([]);
    const other = {
      ...unit,
      propeller: { ...unit.propeller, pitch: { value: 0.15, evidence: "measured" as const } },
      gear: { ...unit.gear, ratio: 2 },
    };
    expect(partsChanged(other, learned.of)).toEqual(["gearing", "propeller"]);
    expect(learnedHolds({ ...other, learned })).toBe(false);
    expect(
      packChanged(
        { chemistry: "lipo", series: 4, capacity: { value: 2 } },
        { chemistry: "lipo", series: 3, capacity: { value: 2, evidence: "datasheet" } },
      ),
    ).toBe(true);
  });
  it(
    "a later change of part makes it stale, visibly; a propeller like it is corrected with more doubt, " +
      "another one not at all",
    () => {
      const with1 = (diameter: number, blades: number, taught: boolean) =>
        evaluate(
          changed((d) => {
            if (taught) unitOf(d).learned = learned;
            unitOf(d).propeller.diameter = { value: diameter, evidence: "measured" };
            unitOf(d).propeller.blades = blades;
          }),
        );
      const thrust = (e: ReturnType<typeof evaluate>) => e.metrics.thrust?.value ?? 0;
      const [like, bare] = [with1(0.23, 2, true), with1(0.23, 2, false)];
      expect(thrust(like) / thrust(bare)).toBeLessThan(0.95);
      expect(like.metrics.thrust?.sd ?? 0).toBeGreaterThan(
        (evaluate(changed((d) => void (unitOf(d).learned = learned))).metrics.thrust?.sd ?? 1) * 1.5,
      );
      expect(like.findings.find((f) => f.code === "sweep-stale")?.params).toEqual({
        drive: unit.name,
        changed: "propeller",
        carried: true,
      });
      // Three blades, or half as large again: the model as it is.
      for (const [diameter, blades] of [
        [0.2, 3],
        [0.31, 2],
      ] as const) {
        expect(thrust(with1(diameter, blades, true))).toBeCloseTo(thrust(with1(diameter, blades, false)), 9);
        expect(with1(diameter, blades, true).findings.find((f) => f.code === "sweep-stale")?.params).toMatchObject({
          carried: false,
        });
      }
    },
  );
  it("a remedy that changes the propeller goes on from what was measured, without a jump", () => {
    const short = changed((d) => {
      unitOf(d).learned = learned;
      d.brief.targets.push({
        id: "t",
        metric: "thrust",
        comparison: "atLeast",
        value: 1.15 * (evaluate(changed((x) => void (unitOf(x).learned = learned))).metrics.thrust?.value ?? 0),
        weight: "must",
      });
    });
    const finding = evaluate(short).findings.find((f) => f.code === "thrust-short");
    const remedy = finding && remediesFor(short, evaluate(short), finding)[0];
    expect(remedy?.code).toBe("fit-diameter");
    if (!remedy?.patch) throw new Error("no patch");
    expect(
      unitOf(applyPatch(short, remedy.patch)).propeller.diameter.value / unitOf(short).propeller.diameter.value,
    ).toBeGreaterThan(1.02);
  });
  it("what the model alone expects is the model's, at the voltage of each level", () => {
    const [low, high] = predictLevels(
      unit,
      [
        { throttle: 1, voltage: 10 },
        { throttle: 1, voltage: 12 },
      ],
      1.225,
      11,
    );
    expect(high?.thrust ?? 0).toBeGreaterThan(low?.thrust ?? 0);
    expect(predictLevels(unit, [{ throttle: 1, voltage: null }], 1.225, 12)[0]?.thrust).toBeCloseTo(
      high?.thrust ?? 0,
      9,
    );
  });
});
