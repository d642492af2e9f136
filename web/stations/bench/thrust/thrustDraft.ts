import type { StandSetup } from "../../../../api/contracts";
import type { Rig, ThrustTest } from "../../../../core/design/thrustTest";
import type { Design } from "../../../../core/design/schema";
import { air } from "../../../../core/subjects/air/air";

const meter = (step: number, error: number) => ({ step, error, session: null });

/** A stand as many are first built: a lever of one to one and a half on a kitchen scale. */
export const newRig = (): Rig => ({
  kind: "lever",
  thrustArm: 0.2,
  scaleArm: 0.2,
  armSd: 0.001,
  reads: "more",
  tare: 0,
  counterweight: 0,
  check: null,
  scale: meter(0.001, 0.005),
  voltage: meter(0.01, 0.005),
  current: meter(0.1, 0.02),
  rpm: meter(10, 0.002),
});

export const STEPS = (count: number, top = 1): number[] =>
  Array.from({ length: count }, (_, i) => Math.round(((i + 1) / count) * top * 1000) / 1000);

/** A sweep with nothing read yet, for the first drive of a design, in its air. */
export function newThrust(design: Design): ThrustTest | null {
  const [unit] = design.units;
  if (!unit) return null;
  const { altitude, airTemperature } = design.brief.environment;
  return {
    unitId: unit.id,
    rig: newRig(),
    air: { temperature: airTemperature, pressure: Math.round(air(altitude, airTemperature).pressure) },
    safety: notYetSafe(),
    plan: {
      steps: [0, ...STEPS(10)],
      down: true,
      repeats: 1,
      samples: 3,
      rest: 20,
      measures: ["thrust", "voltage", "current", "rpm"],
    },
    readings: [],
    drive: null,
  };
}

/** The throttles of a plan in order: up the steps, back down if asked, as often as repeated. */
export function throttlesOf({ steps, down, repeats }: ThrustTest["plan"]): number[] {
  const up = [...new Set(steps)].sort((a, b) => a - b);
  const once = down ? [...up, ...up.slice(0, -1).reverse()] : up;
  return Array.from({ length: repeats }, () => once).flat();
}

/** A safety list with nothing ticked yet. */
export const notYetSafe = (place: ThrustTest["safety"]["place"] = "indoors"): ThrustTest["safety"] => ({
  restraint: false,
  plane: false,
  shield: false,
  distance: false,
  people: false,
  cutOff: false,
  place,
});

/** Whether a throttle may be commanded with this safety list; why not, in words. */
export function notSafe(safety: ThrustTest["safety"], throttle: number): string | null {
  const open = Object.entries(safety).some(([key, value]) => key !== "place" && value === false);
  if (throttle > 0.1 && open) return "Tick the whole safety list before anything above idle.";
  if (throttle > 0.2 && safety.place === "indoors") return "Above 20 % throttle: outdoors, or behind a barrier.";
  return null;
}

/** The simulated stand as it should be. */
export const NO_FAULTS: StandSetup["faults"] = {
  bending: false,
  slipping: false,
  looseTare: false,
  wrongCurrent: false,
  silent: false,
  starved: false,
  weak: false,
  close: false,
};
