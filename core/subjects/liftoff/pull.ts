import type { Outcome } from "../../subject";
import { subject } from "../../subject";
import { flight } from "../flight/node";
import { mass } from "../mass/node";
import { fullThrust } from "../powered/fullThrust";
import { powered } from "../powered/node";
import type { Driven, PowerInput } from "../propulsion/inputs";
import { solveAll, thrustOf } from "../propulsion/nominal";
import { DRIVEN } from "../propulsion/node";
import type { PowerSetup } from "../propulsion/setup";
import { vary } from "../propulsion/vary";

/** One craft at full throttle along the ground, as plain numbers. */
export interface Pulling {
  /** N of the main drives at speeds evenly apart from rest to the end */
  thrust: number[];
  /** N */
  weight: number;
  /** m² */
  dragArea: number;
  /** kg/m³ */
  density: number;
}
export interface PullResult {
  base: Pulling;
  /** the same with each input of the drives one standard uncertainty higher */
  others: ({ id: string } & Pulling)[];
  /** m/s of the last thrust */
  end: number;
  /** share of the thrust at rest that each main drive gives */
  shares: { drive: number; thrust: number }[];
  inputs: PowerInput[];
}

/** The speeds go so far beyond the stall speed; so many of them. */
const TO = 4;
const POINTS = 13;

/** N at a speed, straight between the speeds of a table that go evenly from rest to `end`. */
export function thrustAt(table: readonly number[], end: number): (speed: number) => number {
  const last = table.length - 1;
  return (speed) => {
    const x = Math.min(Math.max(speed / end, 0), 1) * last;
    const k = Math.min(last - 1, Math.floor(x));
    const [a, b] = [table[k] ?? 0, table[k + 1] ?? 0];
    return a + (b - a) * (x - k);
  };
}

/** Full throttle along the ground, wherever the CG is: solved once, so that moving a part never solves it again. */
export const pull = subject({
  name: "pull",
  cost: "slow",
  reads: [...DRIVEN, "flight"],
  needs: [flight, mass, powered],
  compute(view, of): Outcome<PullResult> {
    const { launch, rolling } = view.flight;
    if (launch === "water") return { status: "not covered", because: "drag of what floats is not computed so far" };
    if (launch !== "wheels" && launch !== "skids")
      return { status: "not covered", because: "it is not said to start from wheels or skids" };
    const [under, flown, ledger] = [of(powered), of(flight), of(mass)];
    if (under.status !== "solved") return under;
    if (!rolling) return { status: "missing", needs: ["how hard it is to pull along the ground"] };
    if (flown.status !== "solved" || ledger.status !== "solved" || !flown.result.levelDrag)
      return { status: "missing", needs: ["mass and CG"] };
    const { mass: value, massSd: sd, evidence } = ledger.result;
    const design: Driven = { ...view, levelDrag: flown.result.levelDrag };
    const { base, others, inputs } = vary(design, { value, sd, evidence });
    const end = TO * under.result.stall;
    const full = fullThrust();
    const plain = (setup: PowerSetup): Pulling => ({
      thrust: Array.from({ length: POINTS }, (_, k) => full(setup, (k / (POINTS - 1)) * end)),
      weight: setup.weight ?? Number.NaN,
      dragArea: setup.dragArea ?? Number.NaN,
      density: setup.medium.density,
    });
    const still = solveAll(base, 1, 0, base.main, null);
    if (still.status !== "converged") return { status: "failed", reason: "full throttle at rest has no solution" };
    const thrusts = base.main.map((drive) => ({ drive, thrust: thrustOf(base, still.points, [drive]) }));
    const all = thrusts.reduce((s, t) => s + t.thrust, 0);
    if (!(all > 0)) return { status: "not covered", because: "at full throttle nothing pushes it" };
    return {
      status: "solved",
      result: {
        base: plain(base),
        others: others.map(({ id, setup }) => ({ id, ...plain(setup) })),
        end,
        shares: thrusts.map((t) => ({ ...t, thrust: t.thrust / all })),
        inputs,
      },
    };
  },
});
