import type { Phase } from "../../design/schema";
import { supportOf } from "../../design/support";
import { type Of, type Outcome, solved, subject } from "../../subject";
import { GRAVITY } from "../air/air";
import { mass } from "../mass/node";
import { notCovered } from "../propulsion/covered";
import { dragAt, missingOf, solveAll, thrustOf } from "../propulsion/nominal";
import { DRIVEN } from "../propulsion/node";
import type { PowerSetup } from "../propulsion/setup";
import { AT_REST } from "../propulsion/onWings";
import { plainSetup } from "../propulsion/vary";
import { type PoweredResult, powered } from "./node";

/** Whether what the duty asks of the drives holds the craft up while it lasts. */
export interface KeepsUpResult {
  /** What comes of it on the mean, where it does not: how much of the weight is pushed, or how fast it sinks, m/s. */
  sinks: { by: "rotors"; share: number } | { by: "wings"; rate: number } | null;
  /** Least throttle that would hold it; null where none does, or it is not one throttle that the duty states. */
  least: number | null;
}

/** Share of the weight that a mean thrust may be short of it: the method and the means of a duty are no closer. */
const NEARLY = 0.97;
/** m/s of sinking that are within what the duty's throttles are known to. */
const SLOWLY = 0.1;

/** A set-up whose drives go no further than a throttle. */
const upTo = (setup: PowerSetup, throttle: number): PowerSetup => ({
  ...setup,
  units: setup.units.map((u) => ({ ...u, limit: Math.min(u.limit, throttle) })),
});
/** N that the main drives push at a phase of the duty, at a speed. */
function pushIn(setup: PowerSetup, phase: Phase, speed: number): number {
  const which = setup.main.filter(
    (i) => phase.unitIds.length === 0 || phase.unitIds.includes(setup.units[i]?.unit.id ?? ""),
  );
  if (which.length === 0) return 0;
  if (phase.by === "thrust") return phase.value;
  if (phase.by === "thrustToWeight") return phase.value * (setup.weight ?? Number.NaN);
  // A speed asks for no more than its drag: what hangs on rotors is not carried by that.
  if (phase.by === "speed") return dragAt(setup, phase.value) ?? Number.NaN;
  const so = upTo(setup, phase.value);
  const s = solveAll(so, 1, speed, which);
  return s.status === "converged" ? thrustOf(so, s.points, which) : 0;
}

/** Mean over phases, by how long they last. */
const meanOver = (phases: readonly Phase[], of: (p: Phase) => number): number => {
  const all = phases.reduce((s, p) => s + p.seconds * p.repeats, 0);
  return phases.reduce((s, p) => s + p.seconds * p.repeats * of(p), 0) / all;
};

/** Craft on wings: each phase flown at the speed at which it climbs most, or sinks least. */
function onWings(flown: PoweredResult, setup: PowerSetup, phases: readonly Phase[]): KeepsUpResult {
  const rate = meanOver(phases, (phase) =>
    phase.by === "speed"
      ? 0
      : Math.max(...flown.points.map((p) => ((pushIn(setup, phase, p.speed) - p.drag) * p.speed) / flown.weight)),
  );
  if (!Number.isFinite(rate) || rate >= -SLOWLY) return { sinks: null, least: null };
  const throttles = flown.points.flatMap((p) => p.throttle ?? []);
  const limit = setup.units[setup.main[0] ?? 0]?.limit ?? 1;
  const one = phases.length === 1 && phases[0]?.by === "throttle" && throttles.length > 0;
  return { sinks: { by: "wings", rate: -rate }, least: one ? limit * Math.min(...throttles) : null };
}

function onRotors(setup: PowerSetup, phases: readonly Phase[]): KeepsUpResult {
  const weight = setup.weight ?? Number.NaN;
  const share = meanOver(phases, (p) => pushIn(setup, p, 0) / weight);
  return { sinks: Number.isFinite(share) && share < NEARLY ? { by: "rotors", share } : null, least: null };
}

/** The phases that tell whether it stays up: none where one is held by what the pack gives, whatever that pushes. */
function telling({ duty }: { duty: readonly Phase[] }): Phase[] {
  if (duty.some((p) => p.by === "current" || p.by === "power")) return [];
  return duty.filter((p) => p.by !== "throttle" || p.value >= AT_REST);
}

/**
 * Whether the duty, as it is stated, keeps the craft up: if not, how long it lasts is the time of a craft that falls.
 */
export const keepsUp = subject({
  name: "keepsUp",
  cost: "slow",
  reads: [...DRIVEN, "duty", "dragArea", "waterDragArea"],
  needs: [powered, mass],
  compute(view, of): Outcome<KeepsUpResult> {
    const holds: Outcome<KeepsUpResult> = { status: "solved", result: { sinks: null, least: null } };
    const phases = telling(view);
    const ledger = solved(of(mass));
    const held = supportOf(view);
    // What shares the weight with others need not push all of it.
    if (held.ways.length > 1 || held.beats) return holds;
    if (phases.length === 0 || !ledger || missingOf(view).length > 0 || notCovered(view) !== null) return holds;
    const setup: PowerSetup = { ...plainSetup(view), weight: ledger.mass * GRAVITY };
    if (held.onThrust) return { status: "solved", result: onRotors(setup, phases) };
    const flown = solved(of(powered));
    return flown ? { status: "solved", result: onWings(flown, setup, phases) } : holds;
  },
});

/** What is said of how long a duty lasts that does not keep the craft up. */
const FALLS = "the duty as stated does not keep it up";
const BEYOND = "the duty as stated lasts longer than it can fly level: standing, a thrust costs less than in flight";
/** Share by which a duty may last longer than the longest level flight before it is asked about (the method's own). */
const LONGER = 1.1;

/** Whether a duty that is all flight, and states a thrust, lasts (s) longer than the longest level flight. */
export const lastsBeyond = (duty: readonly Phase[], seconds: number, flown: PoweredResult | null): boolean =>
  flown?.time != null &&
  duty.some((p) => p.by === "thrust" || p.by === "thrustToWeight") &&
  telling({ duty }).length === duty.length &&
  seconds > LONGER * flown.time.is.value;

/** What stands against taking how long a duty lasts for a time in the air. */
export function aloft(duty: readonly Phase[], seconds: number, of: Of): string[] {
  if (solved(of(keepsUp))?.sinks) return [FALLS];
  return lastsBeyond(duty, seconds, solved(of(powered))) ? [BEYOND] : [];
}
