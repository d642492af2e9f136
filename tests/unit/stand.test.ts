import { describe, expect, it } from "vitest";
import { PLAIN } from "../../core/bench/calibration";
import { learnFrom } from "../../core/bench/learn";
import { predictLevels } from "../../core/bench/predict";
import type { SweepSuspect } from "../../core/bench/suspects";
import { readSweep } from "../../core/bench/sweep";
import type { StandSetup } from "../../api/contracts";
import { demoFile } from "../support/demo";
import { setupFor, sweepOn } from "../support/stand";

const design = demoFile("tern").versions.at(-1)?.design;
if (!design) throw new Error("no demo");
const up = Array.from({ length: 17 }, (_, i) => i / 16);
const throttles = [...up, ...up.slice(0, -1).reverse()];
const [unit] = design.units;
if (!unit) throw new Error("no drive");
const run = async (faults: Partial<StandSetup["faults"]> = {}, seed = 1) => {
  const setup = setupFor(design, faults, seed);
  return readSweep(
    { rig: setup.rig, air: setup.air, readings: await sweepOn(setup, throttles) },
    { scale: PLAIN, voltage: PLAIN, current: PLAIN },
    unit,
  );
};
const kinds = (list: readonly SweepSuspect[]) => list.map((s) => s.kind);

describe("the simulated stand", () => {
  it("without a fault gives a sweep of a usual drive, with dead band, saturation and friction of its own", async () => {
    const r = await run();
    expect(kinds(r.suspects)).not.toEqual(expect.arrayContaining(["zero-moved"]));
    for (const k of ["zero-moved", "meter-low", "blades-bend", "slip", "spike"])
      expect(kinds(r.suspects)).not.toContain(k);
    expect(r.deadBand?.start ?? 0).toBeGreaterThan(r.deadBand?.stop ?? 1);
    // Published surveys, from memory: electrical figures of merit of small drives lie between 0.25 and 0.65.
    expect(r.half?.merit ?? 0).toBeGreaterThan(0.25);
    expect(r.half?.merit ?? 1).toBeLessThan(0.65);
    expect(r.temperature?.rise ?? 0).toBeGreaterThan(2);
    expect(r.resistance?.value ?? 0).toBeGreaterThan(0.01);
  });
  it(
    "works by another model than the core: what it measures differs from what is predicted, and is " + "learned",
    async () => {
      const r = await run();
      const top = r.levels.at(-1);
      const predicted = predictLevels(unit, top ? [top] : [], r.density, 11)[0]?.thrust ?? 0;
      expect(Math.abs(r.top.value / predicted - 1)).toBeGreaterThan(0.03);
      const lesson = learnFrom(unit, null, r, 1, "x", 0.005, 0.02);
      expect(lesson.ok).toBe(true);
    },
  );
  it.each<[keyof StandSetup["faults"], SweepSuspect["kind"]]>([
    ["bending", "blades-bend"],
    ["slipping", "slip"],
    ["looseTare", "zero-moved"],
    ["wrongCurrent", "meter-low"],
  ])("a fault switched on is given away by the readings: %s", async (fault, suspect) => {
    for (const seed of [1, 2, 3]) expect(kinds((await run({ [fault]: true }, seed)).suspects)).toContain(suspect);
  });
  it("the same seed gives the same readings", async () => {
    const setup = setupFor(design, {}, 5);
    expect(await sweepOn(setup, [0, 0.5, 1])).toEqual(await sweepOn(setup, [0, 0.5, 1]));
  });
  it("goes silent when told to, above a third of the throttle", async () => {
    const setup = setupFor(design, { silent: true });
    const race = await Promise.race([
      sweepOn(setup, [0, 0.2, 0.5, 0.2]),
      new Promise((r) => setTimeout(() => r("silent"), 800)),
    ]);
    expect(race).toBe("silent");
  });
});
