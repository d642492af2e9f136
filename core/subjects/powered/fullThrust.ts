import type { Outcome } from "../../subject";
import { solved } from "../../subject";
import type { Doubtful } from "../../numeric/doubt";
import { type FlightResult, NOT_WHOLE, ONLY_WINGS } from "../flight/node";
import type { LedgerMass } from "../mass/node";
import { assumed } from "../propulsion/covered";
import { solveAll, thrustOf } from "../propulsion/nominal";
import type { PowerSetup } from "../propulsion/setup";
import { type Varied, spreadOf } from "../propulsion/vary";

/** N at full throttle of the main drives at a speed; 0 where they windmill. */
export type FullThrust = (setup: PowerSetup, speed: number) => number;
/** Solved for one set-up at a speed, another one near it is followed from there. */
export function fullThrust(): FullThrust {
  const near = new Map<number, Parameters<typeof solveAll>[4]>();
  return (setup, speed) => {
    const s = solveAll(setup, 1, speed, setup.main, near.get(speed) ?? null);
    if (s.status !== "converged") return 0;
    if (!near.has(speed)) near.set(speed, s.states);
    return thrustOf(setup, s.points, setup.main);
  };
}
/** What each input does to a number. */
export const spread = ({ base, others }: Varied, of: (setup: PowerSetup) => number): Doubtful =>
  spreadOf(
    { is: of(base) },
    others.map(({ id, setup }) => ({ id, values: { is: of(setup) } })),
  ).is;

/** What nobody said of a craft on its wings and under power, as sentences. */
export function lacksOf(
  view: Parameters<typeof assumed>[0] & { flight: { whole: boolean } },
  flown: Outcome<FlightResult>,
  ledger: Outcome<LedgerMass>,
): string[] {
  const unsaid = assumed(view);
  return [
    ...(view.flight.whole ? [] : [NOT_WHOLE]),
    ...(unsaid === null ? [] : [unsaid]),
    ...(solved(ledger)?.incomplete ?? []),
    ...(solved(flown)?.whole === false ? [ONLY_WINGS] : []),
  ];
}
