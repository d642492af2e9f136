import { blankAround } from "../../core/subjects/propulsion/around/declares";
import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { type Design, newPhase, usualState } from "../../core/design/schema";
import { evaluate } from "../../core/evaluate";
import { monotone } from "../../core/numeric/monotone";
import { endurance } from "../../core/subjects/energy/endurance";
import { solvePack } from "../../core/subjects/propulsion/chain";
import { stateForThrust } from "../../core/subjects/propulsion/state";
import { measuredSchema } from "../../core/subjects/propulsion/measured/declares";
import { nominalSetup } from "../../core/subjects/propulsion/nominal";
import { sizingLoop } from "../../core/sizing/loop";
import { curveFromSweep } from "../../core/bench/measuredFrom";
import { changed } from "../support/designs";
import { demoFile } from "../support/demo";
import { calm, rig, syntheticSweep } from "../support/sweeps";
import { measuredAs, readOff, scaleOnly } from "../support/curves";

const TENTHS = [0.1, 0.2, 0.3, 0.4, 0.5, 0.6, 0.7, 0.8, 0.9, 1];
const first = (d: Design) => {
  const [unit] = d.units;
  if (!unit) throw new Error("no drive");
  return unit;
};
const modelled = (change: (d: Design) => void = () => {}) => changed(change);
/** The same craft, its drive known by a curve alone. */
const byCurve = (readings = readOff(modelled(), TENTHS), change: (d: Design) => void = () => {}) =>
  changed((d) => {
    first(d).measured = measuredAs(readings);
    change(d);
  });
const of = (d: Design) => evaluate(d).metrics;
const share = (a: number | undefined, b: number | undefined) => Math.abs((a ?? Number.NaN) / (b ?? Number.NaN) - 1);

describe("a curve through points", () => {
  it("does what Fritsch and Carlson ask on their own data: rises where it does, level where it is level", () => {
    // RPN 14 of Fritsch & Carlson 1980, table 1 (from memory).
    const xs = [7.99, 8.09, 8.19, 8.7, 9.2, 10, 12, 15, 20];
    const ys = [0, 2.76429e-5, 4.37498e-2, 0.169183, 0.469428, 0.94374, 0.998636, 0.999919, 0.999994];
    const f = monotone(xs, ys);
    for (const [k, x] of xs.entries()) expect(f(x)).toBeCloseTo(ys[k] ?? 0, 12);
    let before = 0;
    for (let x = 7.99; x <= 20; x += 0.001) {
      expect(f(x)).toBeGreaterThanOrEqual(before - 1e-12);
      before = f(x);
    }
  });
  it("never leaves the box of its two neighbours", () => {
    fc.assert(
      fc.property(fc.array(fc.integer({ min: -50, max: 50 }), { minLength: 2, maxLength: 8 }), (ys) => {
        const f = monotone(
          ys.map((_, k) => k),
          ys,
        );
        for (let k = 0; k + 1 < ys.length; k++) {
          const [a, b] = [ys[k] ?? 0, ys[k + 1] ?? 0];
          for (const t of [0.2, 0.5, 0.9]) {
            expect(f(k + t)).toBeGreaterThanOrEqual(Math.min(a, b) - 1e-9);
            expect(f(k + t)).toBeLessThanOrEqual(Math.max(a, b) + 1e-9);
          }
        }
      }),
    );
  });
  it("is a parabola through points of one, but for a hundredth", () => {
    const xs = [0, 0.25, 0.5, 0.75, 1];
    const f = monotone(
      xs,
      xs.map((x) => x * x),
    );
    for (let x = 0; x <= 1; x += 0.05) expect(Math.abs(f(x) - x * x)).toBeLessThan(0.012);
  });
});

describe("a drive known by its curve alone", () => {
  it(
    "gives on its own pack what the model gave that it was read off: thrust, draw, throttle for a thrust, " +
      "endurance",
    () => {
      const [model, curve] = [of(modelled()), of(byCurve())];
      expect(share(curve.thrust?.value, model.thrust?.value)).toBeLessThan(0.002);
      expect(share(curve.packCurrent?.value, model.packCurrent?.value)).toBeLessThan(0.002);
      expect(share(curve.packVoltage?.value, model.packVoltage?.value)).toBeLessThan(0.002);
      expect(share(curve.endurance?.value, model.endurance?.value)).toBeLessThan(0.03);
      expect(curve.thrust?.evidence).toBe("calculated");
      expect(curve.current).toBeUndefined();
      expect(curve.torque).toBeUndefined();
    },
  );
  it.each([
    [4, 0.06],
    [2, 0.12],
  ])("on a pack of %i cells instead of three: within its band, which is wider", (series, most) => {
    const other = (d: Design) => {
      if (d.batteries[0]) d.batteries[0].series = series;
    };
    const [model, curve] = [of(modelled(other)), of(byCurve(undefined, other))];
    expect(share(curve.thrust?.value, model.thrust?.value)).toBeLessThan(most);
    const own = of(byCurve());
    const wide = (m: typeof own) => (m.thrust?.sd ?? 0) / (m.thrust?.value ?? 1);
    expect(wide(curve)).toBeGreaterThan(1.5 * wide(own));
    expect(Math.abs((curve.thrust?.value ?? 0) - (model.thrust?.value ?? 0))).toBeLessThan(
      2.5 * (curve.thrust?.sd ?? 0),
    );
    expect(share(curve.packCurrent?.value, model.packCurrent?.value)).toBeLessThan(2 * most);
  });
  it("high up, as the thinner air has it, within a twentieth of the model", () => {
    const high = (d: Design) => {
      d.brief.environment.altitude = 2500;
    };
    const curve = byCurve(undefined, (d) => {
      high(d);
      const m = first(d).measured;
      if (m) m.density = of(modelled()).airDensity?.value ?? null;
    });
    expect(share(of(curve).thrust?.value, of(modelled(high)).thrust?.value)).toBeLessThan(0.05);
  });
  it("knows less between few points than at them", () => {
    const few = byCurve(readOff(modelled(), [0.3, 0.6, 1]));
    const throttled = (u: number) =>
      of(
        changed((d) => {
          Object.assign(first(d), { measured: first(few).measured, throttleLimit: u });
        }),
      ).thrust;
    const width = (u: number) => (throttled(u)?.sd ?? 0) / (throttled(u)?.value ?? 1);
    expect(width(0.8)).toBeGreaterThan(1.5 * width(1));
    expect(width(0.6)).toBeLessThan(width(0.8));
  });
  it("solved by following a state and from nothing is the same; on a pack with a modelled one too", () => {
    const design = byCurve(undefined, (d) => {
      d.units.push({ ...structuredClone(first(d)), id: "e", name: "other", measured: null });
    });
    const setup = nominalSetup(design, 1);
    const pack = setup?.packs[0];
    if (!setup || !pack) throw new Error("no setup");
    const drives = setup.units.map((u) => u.drive);
    const at = (u: number) => drives.map((drive) => ({ drive, throttle: u }));
    const near = solvePack(at(0.7), pack.start, 0);
    if (near.status !== "converged") throw new Error(near.status);
    const followed = solvePack(at(0.72), pack.start, 0, near.state);
    const found = solvePack(at(0.72), pack.start, 0);
    if (followed.status !== "converged" || found.status !== "converged") throw new Error("not solved");
    for (const [k, p] of followed.points.entries()) {
      expect(p.thrust).toBeCloseTo(found.points[k]?.thrust ?? 0, 5);
      expect(p.packCurrent).toBeCloseTo(found.points[k]?.packCurrent ?? 0, 5);
    }
    const wanted = stateForThrust(drives, pack.start, 6);
    if (!wanted) throw new Error("no state");
    const there = solvePack(at(wanted.throttle), pack.start, 0);
    if (there.status !== "converged") throw new Error(there.status);
    expect(there.points.reduce((s, p) => s + p.thrust, 0)).toBeCloseTo(6, 4);
    // What the pack gives is what goes into both, what else hangs on it, and nothing more.
    const [p] = there.points;
    const into = there.points.reduce((s, x) => s + x.controllerIn + x.pathLoss, 0) + pack.start.otherLoad;
    expect((p?.packVoltage ?? 0) * (p?.packCurrent ?? 0)).toBeCloseTo(into, 5);
  });
});

describe("a kitchen scale alone", () => {
  /** A drum in mud: nothing but grams at three settings of the stick. */
  const drum = (change: (d: Design) => void = () => {}) =>
    changed((d) => {
      d.states = [usualState("ground")];
      Object.assign(first(d), {
        surroundings: "not a propeller",
        measured: measuredAs(
          scaleOnly([
            [0.33, 1.1],
            [0.66, 3.2],
            [1, 4.5],
          ]),
          { on: "the ground", principle: "screw drum" },
        ),
      });
      change(d);
    });
  it("is enough for thrust, weight and odds; nobody knows what it draws, and nothing is made up", () => {
    const e = evaluate(drum());
    expect(e.metrics.thrust?.value).toBeCloseTo(4.5, 1);
    expect(e.metrics.thrustToWeight?.value).toBeGreaterThan(0);
    expect(e.targets.find((t) => t.target.metric === "thrustToWeight")?.odds).not.toBeNull();
    expect(e.metrics.packCurrent).toBeUndefined();
    expect(e.metrics.packVoltage).toBeUndefined();
    expect(e.metrics.endurance).toBeUndefined();
    expect(e.outcomes.energy).toMatchObject({ status: "missing", needs: [expect.stringMatching(/draws/)] });
    expect(e.findings.filter((f) => f.severity === "clear" && f.page === "power")).toEqual([]);
    expect(e.targets.find((t) => t.target.metric === "endurance")?.status).toBe("open");
    expect(sizingLoop(drum(), 600, 0)).toBeNull();
  });
  it("grips the less surely the more the voltage differs: on the ground the force need not follow it at all", () => {
    const sixCells = drum((d) => {
      if (d.batteries[0]) d.batteries[0].series = 6;
    });
    const [own, other] = [evaluate(drum()).metrics.thrust, evaluate(sixCells).metrics.thrust];
    expect((other?.value ?? 0) / (own?.value ?? 1)).toBeLessThan(2);
    expect((other?.sd ?? 0) / (other?.value ?? 1)).toBeGreaterThan(0.15);
  });
  it("without the volts of its pack the targets on it stay open", () => {
    const e = evaluate(
      drum((d) => {
        const m = first(d).measured;
        if (m) m.restVoltage = null;
      }),
    );
    expect(e.metrics.thrust?.unknown?.join()).toMatch(/volts/);
    expect(e.findings.map((f) => f.code)).toContain("curve-unknown");
    expect(e.targets.find((t) => t.target.metric === "thrustToWeight")?.status).toBe("open");
  });
  it("measured to 66 % it pushes no more beyond, and says so", () => {
    const e = evaluate(
      drum((d) => {
        const m = first(d).measured;
        if (m)
          m.readings = scaleOnly([
            [0.2, 0.5],
            [0.33, 1.1],
            [0.66, 3.2],
          ]);
      }),
    );
    expect(e.metrics.thrust?.value).toBeCloseTo(3.2, 1);
    expect(e.metrics.thrust?.unknown?.join()).toMatch(/up to 66 %/);
    expect(e.targets.find((t) => t.target.metric === "thrustToWeight")?.status).toBe("open");
  });
  it("a craft that hangs on a rotor measured to 66 % is not said to be too heavy for it: nobody saw the rest", () => {
    const hanging = (top: number) => (d: Design) => {
      d.states = [usualState("rotors")];
      const m = first(d).measured;
      if (m)
        m.readings = scaleOnly([
          [0.2, 0.5],
          [0.33, 1.1],
          [top, 3.2],
        ]);
    };
    const said = (top: number) => evaluate(drum(hanging(top))).findings.map((f) => f.code);
    expect(said(1)).toContain("cannot-lift");
    expect(said(0.66)).not.toContain("cannot-lift");
    expect(said(0.66)).toContain("curve-unknown");
  });
  it("pushes when moving what nobody knows: no top speed, no duty at a speed, and the reason is said", () => {
    const e = evaluate(
      byCurve(undefined, (d) => {
        d.dragArea = { value: 0.02, evidence: "guess" };
        d.duty = [newPhase({ id: "p", name: "cruise", by: "speed", value: 8 })];
      }),
    );
    expect(e.outcomes.speed).toMatchObject({ status: "not covered", because: expect.stringMatching(/in motion/) });
    expect(e.outcomes.energy).toMatchObject({ status: "not covered", because: expect.stringMatching(/in motion/) });
    expect(e.metrics.thrust).toBeDefined();
  });
});

describe("where a curve holds", () => {
  const because = (change: (d: Design) => void) => {
    const outcome = evaluate(byCurve(undefined, change)).outcomes.propulsion;
    return outcome?.status === "not covered" ? outcome.because : (outcome?.status ?? "");
  };
  type Works = Pick<Design["units"][number], "surroundings"> & Partial<Pick<Design["units"][number], "around">>;
  const works = (where: Works, asBuilt: boolean) => (d: Design) => {
    const unit = first(d);
    Object.assign(unit, where);
    if (unit.measured) unit.measured.asBuilt = asBuilt;
  };
  it("a fan in a box that was weighed without it is not covered; weighed with the lid on it is", () => {
    const among = (kind: "openings" | "overlap") => ({ surroundings: "in air" as const, around: [blankAround(kind)] });
    expect(because(works(among("openings"), false))).toMatch(/by itself: enter .* or weigh it as it is built in/);
    expect(because(works(among("openings"), true))).toBe("solved");
    expect(because(works(among("overlap"), true))).toBe("solved");
  });
  it("measured in air it tells nothing of water, and the other way round", () => {
    expect(because(works({ surroundings: "in water" }, true))).toMatch(/works in water and was measured in air/);
    expect(
      because((d) => {
        const m = first(d).measured;
        if (m) m.on = "fresh water";
      }),
    ).toMatch(/works in the air and was measured in fresh water/);
  });
  it("no rule about parts speaks of a drive whose parts do not count", () => {
    const e = evaluate(
      byCurve(undefined, (d) => {
        Object.assign(first(d).controller, { maxCells: 1, maxCurrent: 0.1 });
        first(d).motor.maxCurrent = 0.1;
        first(d).propeller.pitch.value = 0.9;
      }),
    );
    const about = e.findings.filter((f) => f.about === "d" && f.severity !== "clear").map((f) => f.code);
    expect(about.filter((c) => /motor|controller|cells|blade|stall|pitch|throttle/.test(c))).toEqual([]);
    expect(e.metrics.tipMach).toBeUndefined();
  });
});

it("an endurance of a curve is that of its draw: charge over current, on a stiff pack", () => {
  const design = byCurve(undefined, (d) => {
    d.duty = [newPhase({ id: "p", name: "half", by: "throttle", value: 0.5 })];
    const b = d.batteries[0];
    if (b) Object.assign(b, { cellResistance: { value: 1e-6, evidence: "measured" }, otherLoad: 0 });
  });
  const setup = nominalSetup(design, null);
  const pack = setup?.packs[0];
  const drive = setup?.units[0]?.drive;
  if (!pack || !drive?.measured) throw new Error("no setup");
  const run = endurance([{ drive, limit: 1 }], pack.pack, pack.phases);
  const means = run.trace.map((t) => drive.measured?.current(0.5, t.voltage) ?? 0);
  const mean = means.reduce((s, i) => s + 1 / i, 0) / means.length;
  expect(share(run.seconds, pack.pack.capacity * 3600 * pack.pack.usable * mean)).toBeLessThan(0.005);
});

describe("a sweep on the stand as a curve", () => {
  const file = demoFile("tern");
  const stood = file.bench.find((b) => b.thrust);
  if (!stood?.thrust) throw new Error("no thrust session in the demo");
  const session = { ...stood, thrust: { ...stood.thrust, rig: rig(), air: calm, readings: syntheticSweep(7) } };
  it("has its levels, of one unit, corrected for the lever and the tare; the drive known by it pushes that", () => {
    const curve = curveFromSweep(session, []);
    if (!curve) throw new Error("no curve");
    expect(curve).toMatchObject({ session: session.number, on: "air", together: 1 });
    expect(measuredSchema.safeParse(curve).success).toBe(true);
    expect(curve.readings.length).toBe(20);
    // T(u) = 12·(0.3·u + 0.7·u²) is what the sweep was made from.
    for (const r of curve.readings)
      expect(Math.abs(r.force - 12 * (0.3 * r.command + 0.7 * r.command ** 2))).toBeLessThan(0.15);
    const known = changed((d) => void (first(d).measured = { ...curve, restVoltage: 12.6 }));
    expect(Math.abs((of(known).thrust?.value ?? 0) - 12)).toBeLessThan(0.3);
  });
  it("of fewer than three throttles, or without a thrust, is none", () => {
    const few = { ...session, thrust: { ...session.thrust, readings: session.thrust.readings.slice(0, 6) } };
    expect(curveFromSweep(few, [])).toBeNull();
    expect(curveFromSweep({ ...session, thrust: null }, [])).toBeNull();
    expect(curveFromSweep(stood, file.bench)).toBeNull();
  });
});
