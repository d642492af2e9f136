import { armRatio } from "../../core/bench/rig";
import type { TestedDrive, ThrustTest } from "../../core/design/thrustTest";
import type { Design } from "../../core/design/schema";
import { GRAVITY } from "../../core/subjects/air/air";
import type { Random } from "../../core/numeric/random";
import { openCircuit } from "../../core/subjects/energy/battery";
import { solveChain } from "../../core/subjects/propulsion/chain";
import { type Hidden, realSetup } from "./hiddenCraft";

/** Thrust that the demo's pivot holds back, N, and the time between two readings, s. */
const FRICTION = 0.06;
const EVERY = 2;

const rounded = (value: number, step: number) => Number((Math.round(value / step) * step).toFixed(6));

/**
 * Reads a sweep off the real drive: its chain on a pack that empties, a pivot that sticks a little, instruments with
 * their steps and scatter.
 */
export function readThrust(test: ThrustTest, design: Design, hidden: Hidden, random: Random): ThrustTest {
  const index = design.units.findIndex((u) => u.id === test.unitId);
  const unit = design.units[index];
  const setup = realSetup(design, hidden, 1);
  const real = setup?.units[index];
  const pack = setup?.packs.find((p) => p.units.includes(index));
  if (!unit || !real || !pack) return test;
  const { rig } = test;
  let charge = 0;
  let pushed = 0;
  let warmth = 0;
  const readings = test.readings.map((r, k) => {
    const left = 1 - charge / (pack.pack.capacity * 3600);
    const open = openCircuit(pack.pack.chemistry, left) * pack.pack.series;
    // The controller of the demo starts late: below 7 % nothing turns.
    const duty = Math.max(0, (r.throttle - 0.07) / 0.93);
    const solved = solveChain(
      { ...real.drive, count: 1 },
      { openCircuit: open, resistance: pack.start.resistance, otherLoad: 0 },
      duty,
    );
    const point = solved.status === "converged" && duty > 0 ? solved.point : null;
    const thrust = point?.thrust ?? 0;
    pushed = Math.min(thrust + FRICTION, Math.max(thrust - FRICTION, pushed));
    const current = point?.packCurrent ?? 0;
    charge += current * EVERY;
    warmth += ((point?.motorLoss ?? 0) * 1.5 - warmth) * 0.06;
    const shown = rig.tare + ((rig.reads === "more" ? 1 : -1) * pushed) / GRAVITY / armRatio(rig);
    return {
      ...r,
      t: k * EVERY,
      scale: rounded(shown + 0.0006 * random.normal(), rig.scale.step),
      voltage: rounded((point?.packVoltage ?? open) + 0.01 * random.normal(), rig.voltage.step),
      current: Math.max(0, rounded(current * (1 + 0.006 * random.normal()), rig.current.step)),
      rpm: point ? rounded(point.rpm * (1 + 0.001 * random.normal()), rig.rpm.step) : 0,
      temperature: rounded(test.air.temperature + warmth + 0.3 * random.normal(), 0.1),
    };
  });
  const { motor, controller, gear, propeller } = unit;
  const { battery } = pack;
  const drive: TestedDrive = {
    motor,
    controller,
    gear,
    propeller,
    propulsor: null,
    battery: {
      chemistry: battery.chemistry,
      series: battery.series,
      capacity: battery.capacity,
      cellResistance: battery.cellResistance,
    },
  };
  return { ...test, readings, drive };
}
