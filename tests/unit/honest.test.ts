import { describe, expect, it } from "vitest";
import { evaluate, workingOf } from "../../core/evaluate";
import { coldCapacity } from "../../core/subjects/energy/battery";
import { discharge, endurance } from "../../core/subjects/energy/endurance";
import { WORK, followState, solveState, stateForThrust, thrustIn } from "../../core/subjects/propulsion/state";
import { indices, nominalSetup } from "../../core/subjects/propulsion/nominal";
import { propellerMap, variedMap } from "../../core/subjects/propulsion/propeller";
import { air } from "../../core/subjects/air/air";
import { changed, quietDesign } from "../support/designs";

const setupOf = (design = quietDesign()) => {
  const setup = nominalSetup(design, 0.92);
  const pack = setup?.packs[0];
  if (!setup || !pack) throw new Error("no pack");
  return { setup, pack, drives: setup.units.map((u) => ({ drive: u.drive, limit: u.limit })) };
};

describe("the ± of a drive that was never on a stand", () => {
  it("is never tighter than the method's: thrust 10 %, and it is the method that leads when all is measured", () => {
    const e = evaluate(quietDesign());
    const thrust = e.metrics.thrust;
    expect((thrust?.sd ?? 0) / (thrust?.value ?? 1)).toBeGreaterThan(0.1);
    expect(workingOf(quietDesign(), e, "thrust")[0]?.name).toBe("Thrust, method or stand");
  });
  it("two drives err apart: the pair is known better than one of them, as a share", () => {
    const twin = changed((d) => {
      const [u] = d.units;
      if (u) d.units.push({ ...structuredClone(u), id: "e", name: "other" });
    });
    const share = (d: ReturnType<typeof quietDesign>) => {
      const t = evaluate(d).metrics.thrust;
      return (t?.sd ?? 0) / (t?.value ?? 1);
    };
    expect(share(twin)).toBeLessThan(share(quietDesign()));
    expect(share(twin)).toBeGreaterThan(share(quietDesign()) / 2);
  });
  it("a printed Kv is known to 4 %, a guessed one to a quarter", () => {
    const kv = (evidence: "datasheet" | "guess") => {
      const design = changed((d) => void (d.units[0] && (d.units[0].motor.kv.evidence = evidence)));
      return workingOf(design, evaluate(design), "thrust").find((i) => i.name === "Kv")?.sd;
    };
    expect(kv("datasheet")).toBeCloseTo(40, 9);
    expect(kv("guess")).toBeCloseTo(250, 9);
  });
});

describe("the end of a run", () => {
  it("is found inside its step: no jumps as the thrust asked goes up, and the same with forty times the steps", () => {
    const { setup, pack, drives } = setupOf();
    const full = solveState(
      drives.map(({ drive }) => ({ drive, throttle: 1 })),
      pack.start,
      0,
    );
    if (full.status !== "converged") throw new Error(full.status);
    const most = thrustIn(
      indices(setup).map((i) => ({ drive: setup.units[i]?.drive as (typeof drives)[number]["drive"], throttle: 1 })),
      full,
      0,
    );
    const lasts = (share: number, steps?: number) =>
      endurance(drives, pack.pack, [{ share: 1, drives: [0], by: { thrust: share * most }, speed: 0 }], steps);
    let before = Number.NaN;
    let ends = 0;
    for (let share = 0.84; share < 0.97; share += 0.004) {
      const { seconds, endedBy } = lasts(share);
      if (endedBy !== "thrust") continue;
      ends++;
      expect(Math.abs(seconds / lasts(share, 960).seconds - 1), `at ${share}`).toBeLessThan(0.02);
      if (Number.isFinite(before)) expect(before - seconds).toBeLessThan(0.12 * before + 4);
      if (Number.isFinite(before)) expect(seconds).toBeLessThanOrEqual(before + 1e-6);
      before = seconds;
    }
    expect(ends).toBeGreaterThan(10);
  });
  it("is nothing when the first second cannot be held", () => {
    const { pack, drives } = setupOf();
    expect(endurance(drives, pack.pack, [{ share: 1, drives: [0], by: { thrust: 1e3 }, speed: 0 }])).toMatchObject({
      seconds: 0,
      endedBy: "thrust",
    });
  });
  it("value and ± come from the same steps: neighbours have like doubts", () => {
    const sd = (thrust: number) =>
      evaluate(changed((d) => void (d.duty[0] && (d.duty[0].value = thrust)))).metrics.endurance;
    let before: ReturnType<typeof sd>;
    for (let t = 2; t < 6.4; t += 0.1) {
      const now = sd(t);
      if (before && now) expect(now.sd / before.sd, `${t} N`).toBeGreaterThan(0.6);
      if (before && now) expect(now.sd / before.sd, `${t} N`).toBeLessThan(1.6);
      before = now;
    }
  });
});

describe("a cold pack", () => {
  it("gives less charge as well as less voltage", () => {
    expect(coldCapacity("lipo", 20)).toBe(1);
    expect(coldCapacity("lipo", 45)).toBe(1);
    expect(coldCapacity("lipo", 0)).toBeCloseTo(0.84, 9);
    for (const t of [-60, -40, -20, -10, 0, 10])
      expect(coldCapacity("liion", t)).toBeLessThan(coldCapacity("liion", t + 5) + 1e-12);
    expect(coldCapacity("lead", -200)).toBe(0.5);
    const lasts = (packTemperature: number) =>
      evaluate(changed((d) => void (d.brief.environment.packTemperature = packTemperature))).metrics.endurance?.value ??
      0;
    expect(lasts(0) / lasts(20)).toBeLessThan(0.85);
    expect(lasts(0) / lasts(20)).toBeGreaterThan(0.7);
  });
});

describe("a state followed from one nearby", () => {
  it(
    "is the one that is found from nothing, for one drive and for several on a pack, moving or not (two " + "methods)",
    () => {
      const { setup, pack } = setupOf(
        changed((d) => {
          const [u] = d.units;
          if (u)
            d.units.push({
              ...structuredClone(u),
              id: "e",
              name: "other",
              motor: { ...u.motor, kv: { value: 1300, evidence: "measured" } },
            });
        }),
      );
      for (const drives of [setup.units.slice(0, 1), setup.units])
        for (const speed of [0, 4, 8]) {
          const commands = drives.map((u) => ({ drive: u.drive, throttle: 0.8 }));
          const from = solveState(commands, pack.start, speed);
          if (from.status !== "converged") throw new Error(from.status);
          for (const change of [0.9, 0.97, 1.05]) {
            const source = { ...pack.start, openCircuit: pack.start.openCircuit * change };
            const near = followState(commands, source, speed, from);
            const anew = solveState(commands, source, speed);
            if (anew.status !== "converged") throw new Error(anew.status);
            expect(near?.rail).toBeCloseTo(anew.rail, 5);
            for (const [k, n] of anew.speeds.entries()) expect((near?.speeds[k] ?? 0) / n).toBeCloseTo(1, 5);
          }
        }
    },
  );
  it("with its throttle unknown it pushes what is wanted", () => {
    const { setup, pack } = setupOf();
    const drives = setup.units.map((u) => u.drive);
    for (const wanted of [0.2, 1, 3, 5, 6.5])
      for (const speed of [0, 5]) {
        const state = stateForThrust(drives, pack.start, wanted, 1, speed);
        if (state === null) continue;
        expect(
          thrustIn(
            drives.map((drive) => ({ drive, throttle: state.throttle })),
            state,
            speed,
          ),
        ).toBeCloseTo(wanted, 4);
      }
    expect(stateForThrust(drives, pack.start, 1e4)).toBeNull();
  });
  it("costs a discharge one solution at its start, and no more", () => {
    const { pack, drives } = setupOf();
    const before = WORK.solved;
    discharge(drives, pack.pack, [{ share: 1, drives: [0], by: { throttle: 0.6 }, speed: 0 }]);
    expect(WORK.solved - before).toBe(1);
  });
});

describe("a propeller that differs a little from one whose map is known", () => {
  it("has the difference that two whole maps give, within 3 % of it", () => {
    const medium = air(0, 15);
    const was = { diameter: 0.23, pitch: 0.13, blades: 2, chord: 0.024, liftFactor: 1, dragFactor: 1 };
    const base = propellerMap(was, medium);
    for (const is of [
      { ...was, diameter: 0.235 },
      { ...was, pitch: 0.137 },
      { ...was, chord: 0.026 },
    ]) {
      const [near, whole] = [variedMap(base, was, is, medium), propellerMap(is, medium)];
      for (const [rpm, speed] of [
        [4000, 0],
        [8000, 0],
        [12000, 0],
        [8000, 5],
        [11000, 9],
      ] as const) {
        const [a, b, c] = [base.at(rpm, speed), near.at(rpm, speed), whole.at(rpm, speed)];
        const scale = Math.abs(a.thrust);
        expect(Math.abs(b.thrust - c.thrust), `thrust ${rpm} ${speed}`).toBeLessThan(
          0.03 * Math.abs(c.thrust - a.thrust) + 0.004 * scale,
        );
        expect(Math.abs(b.torque - c.torque), `torque ${rpm} ${speed}`).toBeLessThan(
          0.03 * Math.abs(c.torque - a.torque) + 0.004 * Math.abs(a.torque),
        );
      }
    }
  });
});
