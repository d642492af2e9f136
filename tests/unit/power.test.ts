import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { air } from "../../core/subjects/air/air";
import { CHEMISTRY, coldFactor, openCircuit } from "../../core/subjects/energy/battery";
import { solveChain, solvePack, solveShared } from "../../core/subjects/propulsion/chain";
import { type Drive, type Source, throttleForThrust } from "../../core/subjects/propulsion/state";
import { endurance } from "../../core/subjects/energy/endurance";
import { nominalPower, nominalSetup } from "../../core/subjects/propulsion/nominal";
import { peakEfficiency, torqueConstant } from "../../core/subjects/propulsion/motor";
import { propellerMap } from "../../core/subjects/propulsion/propeller";
import { quietDesign } from "../support/designs";

describe("motor", () => {
  it("Kv 1000 rpm/V has Kt 9.5493e-3 N·m/A (60/2π/Kv)", () => {
    expect(torqueConstant(1000)).toBeCloseTo(9.5493e-3, 7);
  });
  it("peaks at √(V·I0/R) with (1 − √(I0·R/V))²: 10 V, 0.05 Ω, 1 A give 14.142 A and 0.8636", () => {
    const motor = { kv: 1000, resistance: 0.05, noLoadCurrent: 1 };
    const peak = peakEfficiency(motor, 10);
    expect(peak.current).toBeCloseTo(14.142, 3);
    expect(peak.efficiency).toBeCloseTo(0.8636, 4);
    // A scan of the current at 10 V with the no-load current held at what it is at 10 V, as the closed form takes it.
    const efficiency = (i: number) => {
      const rpm = (10 - i * 0.05) * 1000;
      const torque = (i - 1) * torqueConstant(1000);
      return (torque * rpm * 2 * Math.PI) / 60 / (10 * i);
    };
    const best = Array.from({ length: 4000 }, (_, k) => 1.01 + k * 0.01).reduce((a, b) =>
      efficiency(b) > efficiency(a) ? b : a,
    );
    expect(best).toBeCloseTo(14.142, 1);
    expect(efficiency(best)).toBeCloseTo(0.8636, 4);
  });
});

describe("battery", () => {
  it("open-circuit curves rise with charge and end where their tables end", () => {
    for (const c of Object.keys(CHEMISTRY) as (keyof typeof CHEMISTRY)[]) {
      for (let s = 0.01; s <= 1; s += 0.01) expect(openCircuit(c, s)).toBeGreaterThan(openCircuit(c, s - 0.01) - 1e-12);
      expect(openCircuit(c, 1)).toBe(CHEMISTRY[c].openCircuit.at(-1));
      expect(openCircuit(c, -3)).toBe(CHEMISTRY[c].openCircuit[0]);
    }
  });
  it(
    "a lithium-polymer cell has about twice the resistance at 0 °C (common practice), and none less above " + "25 °C",
    () => {
      expect(coldFactor("lipo", 0)).toBeCloseTo(2, 1);
      expect(coldFactor("lipo", 40)).toBe(1);
    },
  );
});

const drive = (d: {
  diameter: number;
  pitch: number;
  kv: number;
  count: number;
  ratio: number;
  resistance: number;
}): Drive => ({
  count: d.count,
  motor: { kv: d.kv, resistance: d.resistance, noLoadCurrent: 0.6 },
  controllerResistance: 0.003,
  pathResistance: 0.002,
  ratio: d.ratio,
  gearEfficiency: d.ratio === 1 ? 1 : 0.95,
  propeller: propellerMap(
    { diameter: d.diameter, pitch: d.pitch, blades: 2, chord: 0.105 * d.diameter, liftFactor: 1, dragFactor: 1 },
    air(0),
  ),
});
const anyDrive = fc.record({
  diameter: fc.double({ min: 0.08, max: 0.4, noNaN: true }),
  pitch: fc.double({ min: 0.04, max: 0.2, noNaN: true }),
  kv: fc.double({ min: 300, max: 3000, noNaN: true }),
  count: fc.integer({ min: 1, max: 4 }),
  ratio: fc.constantFrom(1, 1.4, 3),
  resistance: fc.double({ min: 0.01, max: 0.3, noNaN: true }),
});
const source: Source = { openCircuit: 12.4, resistance: 0.025, otherLoad: 4 };

describe("chain", () => {
  it("energy closes at every link, at any throttle", () => {
    fc.assert(
      fc.property(anyDrive, fc.double({ min: 0.1, max: 1, noNaN: true }), (d, u) => {
        const r = solveChain(drive(d), source, u);
        expect(r.status).toBe("converged");
        if (r.status !== "converged") return;
        const p = r.point;
        const near = (a: number, b: number) => expect(Math.abs(a - b)).toBeLessThan(1e-4 * Math.max(1, Math.abs(a)));
        near(source.openCircuit * p.packCurrent, p.packLoss + p.packVoltage * p.packCurrent);
        near(p.packVoltage * p.packCurrent, d.count * (p.pathLoss + p.controllerIn) + p.otherLoad);
        near(p.controllerIn, p.controllerLoss + p.motorIn);
        near(p.motorIn, p.motorLoss + p.shaftPower);
        near(p.shaftPower, p.gearLoss + p.propellerPower);
        expect(Math.min(p.packLoss, p.controllerLoss, p.motorLoss, p.gearLoss)).toBeGreaterThanOrEqual(-1e-9);
      }),
      { numRuns: 60 },
    );
  });
  it("more resistance in the pack never gives more thrust, a taller gear never less shaft speed", () => {
    fc.assert(
      fc.property(anyDrive, fc.double({ min: 1.05, max: 3, noNaN: true }), (d, more) => {
        const made = drive(d);
        const at = (s: Source, x = made) => {
          const r = solveChain(x, s, 0.8);
          return r.status === "converged" ? r.point : null;
        };
        const [usual, tired, geared] = [
          at(source),
          at({ ...source, resistance: source.resistance * more }),
          at(source, { ...made, ratio: made.ratio * more }),
        ];
        if (!usual || !tired || !geared) return;
        expect(tired.thrust).toBeLessThanOrEqual(usual.thrust * (1 + 1e-6));
        expect(geared.motorRpm).toBeGreaterThanOrEqual(usual.motorRpm * (1 - 1e-6));
      }),
      { numRuns: 40 },
    );
  });
  it(
    "more throttle never gives less thrust or current, up to the load that matches the pack (half its " + "voltage)",
    () => {
      fc.assert(
        fc.property(anyDrive, (d) => {
          const made = drive(d);
          let last = { thrust: 0, current: 0 };
          for (let u = 0; u <= 1; u += 0.1) {
            const r = solveChain(made, source, u);
            if (r.status !== "converged") throw new Error(r.status);
            if (r.point.packVoltage < 0.6 * source.openCircuit) break;
            expect(r.point.thrust).toBeGreaterThanOrEqual(last.thrust * (1 - 1e-6));
            expect(r.point.packCurrent).toBeGreaterThanOrEqual(last.current * (1 - 1e-6));
            last = { thrust: r.point.thrust, current: r.point.packCurrent };
          }
        }),
        { numRuns: 25 },
      );
    },
  );
  it("throttle for a thrust gives that thrust", () => {
    const made = drive({ diameter: 0.2, pitch: 0.11, kv: 1000, count: 2, ratio: 1, resistance: 0.06 });
    const u = throttleForThrust([made], source, 6);
    expect(u).not.toBeNull();
    const r = solveChain(made, source, u ?? 0);
    expect(r.status === "converged" && r.point.thrust * 2).toBeCloseTo(6, 3);
    expect(throttleForThrust([made], source, 1e4)).toBeNull();
  });
  it("the solver for several drives on a pack and the one for a single drive agree (two methods)", () => {
    fc.assert(
      fc.property(
        anyDrive,
        fc.double({ min: 0.2, max: 1, noNaN: true }),
        fc.double({ min: 0, max: 6, noNaN: true }),
        (d, throttle, speed) => {
          const made = drive(d);
          const one = solveChain(made, source, throttle, speed);
          const shared = solveShared([{ drive: made, throttle }], source, speed);
          expect(shared.status).toBe(one.status);
          if (one.status !== "converged" || shared.status !== "converged") return;
          // Beyond half the open-circuit voltage a pack has two balances: both solvers are held to the one in use.
          if (one.point.packVoltage < 0.55 * source.openCircuit) return;
          for (const k of ["rpm", "current", "packVoltage", "thrust"] as const)
            expect(Math.abs((shared.points[0]?.[k] ?? 0) / one.point[k] - 1)).toBeLessThan(1e-4);
        },
      ),
      { numRuns: 40 },
    );
  });
  it(
    "like units counted as one entry draw what as many entries draw; unlike ones share the sag and energy " + "closes",
    () => {
      const base = { diameter: 0.18, pitch: 0.1, kv: 1100, ratio: 1, resistance: 0.06 };
      const pair = solveChain(drive({ ...base, count: 2 }), source, 0.9);
      const two = solvePack(
        [1, 1].map(() => ({ drive: drive({ ...base, count: 1 }), throttle: 0.9 })),
        source,
      );
      if (pair.status !== "converged" || two.status !== "converged") throw new Error("not solved");
      expect(two.points[0]?.packCurrent).toBeCloseTo(pair.point.packCurrent, 4);
      const commands = [
        { drive: drive({ ...base, count: 2 }), throttle: 1 },
        { drive: drive({ ...base, diameter: 0.12, pitch: 0.06, kv: 1800, count: 1 }), throttle: 0.6 },
      ];
      const mixed = solvePack(commands, source);
      if (mixed.status !== "converged") throw new Error(mixed.status);
      const drawn = mixed.points.reduce(
        (s, p, k) => s + (commands[k]?.drive.count ?? 0) * (p.controllerIn + p.pathLoss),
        0,
      );
      const [a] = mixed.points;
      expect(drawn + source.otherLoad).toBeCloseTo((a?.packVoltage ?? 0) * (a?.packCurrent ?? 0), 2);
      const alone = solvePack(commands.slice(1), source);
      expect(mixed.points[1]?.thrust).toBeLessThan((alone.status === "converged" && alone.points[0]?.thrust) || 0);
    },
  );
  it("moving, thrust falls with speed until the air drives the propeller, and the solver says so", () => {
    const made = drive({ diameter: 0.2, pitch: 0.11, kv: 1000, count: 1, ratio: 1, resistance: 0.06 });
    let last = Infinity;
    for (const speed of [0, 3, 6, 9, 12]) {
      const r = solveChain(made, source, 1, speed);
      if (r.status !== "converged") throw new Error(`${speed}: ${r.status}`);
      expect(r.point.thrust).toBeLessThan(last);
      last = r.point.thrust;
    }
    // Far beyond its pitch speed the propeller brakes, or turns the motor faster than its voltage can.
    const fast = solveChain(made, source, 0.15, 25);
    expect(fast.status === "windmilling" || (fast.status === "converged" && fast.point.thrust < 0)).toBe(true);
  });
  it("says when the pack cannot even feed the other loads", () => {
    const made = drive({ diameter: 0.2, pitch: 0.11, kv: 1000, count: 1, ratio: 1, resistance: 0.06 });
    expect(solveChain(made, { openCircuit: 5, resistance: 1, otherLoad: 100 }, 1).status).toBe("overloaded");
  });
});

describe("endurance", () => {
  const pack = {
    chemistry: "lipo" as const,
    series: 3,
    capacity: 2.2,
    resistance: 0.025,
    usable: 0.8,
    startCharge: 1,
    otherLoad: 3,
  };
  it("of a constant power load agrees with an independent integration over time", () => {
    // No drive: 30 W drawn by the other load alone, stepped in time instead of charge.
    const load = { ...pack, otherLoad: 30 };
    const made = drive({ diameter: 0.2, pitch: 0.11, kv: 1000, count: 1, ratio: 1, resistance: 0.06 });
    const byCharge = endurance([{ drive: made, limit: 1 }], load, [
      { share: 1, drives: [0], by: { throttle: 0 }, speed: 0 },
    ]);
    let charge = 1;
    let seconds = 0;
    while (charge > 0.2) {
      const open = openCircuit("lipo", charge) * 3;
      const volts = (open + Math.sqrt(open * open - 4 * 0.025 * 30)) / 2;
      charge -= 30 / volts / 3600 / 2.2;
      seconds += 1;
    }
    expect(byCharge.endedBy).toBe("charge");
    expect(Math.abs(byCharge.seconds / seconds - 1)).toBeLessThan(0.005);
  });
  it("of a drive agrees with forty times finer steps within 0.5 %", () => {
    const made = drive({ diameter: 0.2, pitch: 0.11, kv: 1000, count: 1, ratio: 1, resistance: 0.06 });
    const phases = [
      { share: 0.3, drives: [0], by: { throttle: 0.8 }, speed: 0 },
      { share: 0.7, drives: [0], by: { thrust: 2.5 }, speed: 0 },
    ];
    const drives = [{ drive: made, limit: 1 }];
    expect(
      Math.abs(endurance(drives, pack, phases).seconds / endurance(drives, pack, phases, 960).seconds - 1),
    ).toBeLessThan(0.005);
  });
  it("ends at the cells' floor when the pack is weak, and says so", () => {
    const made = drive({ diameter: 0.25, pitch: 0.12, kv: 1200, count: 1, ratio: 1, resistance: 0.04 });
    expect(
      endurance([{ drive: made, limit: 1 }], { ...pack, resistance: 0.2 }, [
        { share: 1, drives: [0], by: { throttle: 1 }, speed: 0 },
      ]).endedBy,
    ).toBe("floor");
  });
});

describe("a whole design", () => {
  it("a colder pack and thinner air each lower full thrust; a larger propeller raises it", () => {
    const thrust = (change: (d: ReturnType<typeof quietDesign>) => void) => {
      const d = quietDesign();
      change(d);
      const setup = nominalSetup(d, 0.92);
      return (setup && nominalPower(setup)?.craft.thrust) ?? Number.NaN;
    };
    const base = thrust(() => {});
    expect(thrust((d) => void (d.brief.environment.packTemperature = -15))).toBeLessThan(base);
    expect(thrust((d) => void (d.brief.environment.altitude = 3000))).toBeLessThan(0.9 * base);
    expect(thrust((d) => void (d.units[0] && (d.units[0].propeller.diameter.value = 0.22)))).toBeGreaterThan(
      1.15 * base,
    );
  });
});
