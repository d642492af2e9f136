import { findRoot } from "../../numeric/root";
import { type Vector, cross, dot, minus, scaled, sum } from "../../numeric/vector";
import { type FlightModel, trimmed } from "../flight/model";
import { type Edge, type Rest, tippingOf } from "../stance/feet";

/** A craft on its run along the ground, as plain numbers. */
export interface OnTheRun {
  model: FlightModel;
  rest: Pick<Rest, "up" | "ahead" | "touching">;
  /** rad that its own level stands nose up on its feet */
  noseUp: number;
  cg: Vector;
  /** N */
  weight: number;
  /** of its drives, for each N that they push together, about the datum */
  push: { force: Vector; moment: Vector };
  /** N of the drives at full throttle by the speed, m/s */
  thrust: (speed: number) => number;
  /** m², and the height at which it acts, m above the baseline */
  drag: { area: number; height: number };
  /** kg/m³ */
  density: number;
  /** pull on the ground over the weight on it */
  rolling: number;
  /** slowest level flight, m/s */
  stall: number;
  /** multiple of it before which it is not let leave */
  atLeast: number;
  /** rad that it can still turn nose up on its hindmost feet until something behind touches the ground */
  clear: number;
}

/** How fast the run is looked at, over the speed at which it should leave the ground. */
const AS_FAST = 3;
const STEPS = 45;

/** The line across its foot or feet farthest back: over it the nose comes up. */
export function pivotOf({ ahead, touching }: OnTheRun["rest"]): Edge | null {
  const [first] = touching;
  if (!first) return null;
  const back = (p: Vector) => -dot(p, ahead);
  const last = touching.reduce((b, p) => (back(p) > back(b) ? p : b), first);
  const from = { ...last, y: 0 };
  return { from, to: { ...from, y: 1 }, out: scaled(ahead, -1), inside: Number.NaN };
}

/** Controls full nose up, or as far as the first of their strips carries it; rad, each with its sign. */
function fullUp(m: FlightModel, cg: number, alpha: number): { command: number; signs: readonly number[] } {
  const trim = trimmed(m, cg);
  if (!trim?.command) return { command: 0, signs: [] };
  let command = trim.travel.up;
  for (const [i, s] of m.strips.entries()) {
    if (s.most > 1e9) continue;
    const at0 = s.set + s.alpha * alpha;
    const per = m.controls.reduce((sum, c, k) => sum + (trim.signs[k] ?? 0) * (c.cl[i] ?? 0), 0);
    // What stalls by itself on the ground says nothing of the control.
    if (at0 > s.most || at0 < -s.mostDown) continue;
    const limit =
      per > 1e-9 ? (s.most - at0) / per : per < -1e-9 ? (-s.mostDown - at0) / per : Number.POSITIVE_INFINITY;
    // The wash of the control over another surface is small, and linear beyond what it carries.
    if (Math.abs(per) > OWN) command = Math.min(command, limit);
  }
  return { command: Math.max(0, command), signs: trim.signs };
}
/** Lift coefficient per rad of command above which a strip is of the control's own surface. */
const OWN = 0.8;

/**
 * Lift over ½ρV² (m²) on its feet, and pitching moment about the datum (m³), with the control at a share of full up.
 */
function carriedBy({ model, cg, noseUp }: OnTheRun, share: number): { z: number; my: number } {
  const { command, signs } = fullUp(model, cg.x, noseUp);
  const of = (key: "z" | "my") =>
    model.set[key] +
    model.alpha[key] * noseUp +
    share * command * model.controls.reduce((s, c, k) => s + (signs[k] ?? 0) * c.reaction[key], 0);
  return { z: of("z"), my: of("my") };
}

/**
 * Moment about its hindmost feet on the run, N·m, positive nose up: wings with the pitch control full up, weight,
 * thrust at its height, drag at its own, and the mass that is sped up by what is left of them.
 */
export function noseUpMoment(c: OnTheRun, pivot: Edge, speed: number, wings = carriedBy(c, 1)): number {
  const { rest, weight, cg } = c;
  const q = (c.density * speed ** 2) / 2;
  const thrust = c.thrust(speed);
  const force = scaled(c.push.force, thrust);
  const drag = q * c.drag.area;
  const down = Math.max(0, weight - q * wings.z - dot(force, rest.up));
  const left = dot(force, rest.ahead) - drag - c.rolling * down;
  const about = (f: Vector, at: Vector) => tippingOf(pivot, rest.up, f, at);
  return (
    q * (wings.my + pivot.from.x * wings.z) +
    about(scaled(rest.up, -weight), cg) +
    about(force, { x: 0, y: 0, z: 0 }) +
    thrust * dot(c.push.moment, cross(rest.up, pivot.out)) +
    about(scaled(rest.ahead, -drag), { x: cg.x, y: 0, z: c.drag.height }) +
    about(scaled(rest.ahead, -left), cg)
  );
}

/** How it leaves the ground. */
export interface Leaving {
  /** m/s at which full nose up lifts the nose; 0: at once; null: at no speed looked at */
  nose: number | null;
  /** m/s at which it is carried as it stands on its feet; null: never, or beyond what is looked at */
  carries: number | null;
  /** m/s below which it flies steeper than it can stand on its hindmost feet; 0: nothing behind is in the way */
  steep: number | null;
  /** m/s at which it leaves the ground: the sooner of them, and not before it may; null: it does not */
  leaves: number | null;
}

/**
 * m/s of the level flight, trimmed, that is as steep as it can turn on its hindmost feet: slower, what is behind would
 * drag along. Null where no speed is flat enough.
 */
function steepTo({ model, cg, weight, density, noseUp, clear }: OnTheRun): number | null {
  if (!Number.isFinite(clear)) return 0;
  const trim = trimmed(model, cg.x);
  if (!trim || !(trim.alpha.per > 0)) return null;
  const load = (noseUp + clear - trim.alpha.at0) / trim.alpha.per;
  return load > 0 ? Math.sqrt((2 * weight) / (density * load)) : null;
}

/** When the nose comes up, when it is carried as it stands, and when by the sooner of them it leaves the ground. */
export function leavingOf(c: OnTheRun): Leaving | null {
  const pivot = pivotOf(c.rest);
  if (!pivot) return null;
  const least = c.atLeast * c.stall;
  const end = AS_FAST * least;
  const wings = carriedBy(c, 1);
  const moment = (v: number) => noseUpMoment(c, pivot, v, wings);
  let nose: number | null = null;
  let [before, known] = [0, moment(0)];
  if (known >= 0) nose = 0;
  for (let k = 1; k <= STEPS && nose === null; k++) {
    const v = (k / STEPS) * end;
    const here = moment(v);
    if (here >= 0) {
      const root = findRoot(moment, before, v, 1e-4 * end);
      nose = root.status === "converged" ? root.x : v;
    }
    [before, known] = [v, here];
  }
  const { z } = carriedBy(c, 0);
  const carried = z > 0 ? Math.sqrt((2 * c.weight) / (c.density * z)) : Number.POSITIVE_INFINITY;
  const carries = carried <= end ? carried : null;
  const flat = steepTo(c);
  const steep = flat !== null && flat <= end ? flat : null;
  const turned = nose === null || steep === null ? Number.POSITIVE_INFINITY : Math.max(nose, steep);
  const first = Math.min(turned, carries ?? Number.POSITIVE_INFINITY);
  return { nose, carries, steep, leaves: Number.isFinite(first) ? Math.max(least, first) : null };
}

/** How far ahead its hindmost feet must stand for the nose to come up in time, m; null where that is no answer. */
export function feetAhead(c: OnTheRun): number | null {
  const pivot = pivotOf(c.rest);
  if (!pivot) return null;
  const v = c.atLeast * c.stall;
  const moved = (by: number) => noseUpMoment(c, { ...pivot, from: sum(pivot.from, scaled(c.rest.ahead, by)) }, v);
  // Not so far that it sits down on its tail.
  const room = 0.8 * -dot(minus(pivot.from, c.cg), c.rest.ahead);
  if (!(room > 0) || moved(0) >= 0 || moved(room) < 0) return null;
  const root = findRoot(moved, 0, room, 1e-4);
  return root.status === "converged" ? root.x : null;
}
