import { inState } from "./design/inState";
import type { Design, State, Transition, Unit } from "./design/schema";
import { supportOf } from "./design/support";
import { type Evaluation, evaluate, resultIn } from "./evaluate";
import { probabilityWithin } from "./numeric/normal";
import { LOST, SURE } from "./design/targets";
import { type AnySubject, whyNone } from "./subject";
import { type Fallen, fallenAt, fallenShares } from "./subjects/axes/falling";
import { type FlightResult, flight } from "./subjects/flight/node";
import { type Polar, polarOf } from "./subjects/flight/trim";
import { type LatticeResult, lattice } from "./subjects/flight/latticeNode";
import { trimmed } from "./subjects/flight/model";
import { GRAVITY } from "./subjects/air/air";
import { towardOf } from "./subjects/propulsion/placed";
import { propulsion } from "./subjects/propulsion/node";
import { balance } from "./subjects/balance/node";
import { mass } from "./subjects/mass/node";
import { planformOf } from "./subjects/surfaces/planform";

/** A wing with what it carries at any angle, beyond its stall too. Loads and drags are over ½ρV², m². */
export interface WingAtAngle {
  /** least and greatest load below the stall */
  most: number;
  /** angle of attack of a load, rad: at0 + per · load */
  alpha: { at0: number; per: number };
  polar: Polar;
  /** what stands in the wind besides, m² */
  still: number;
  area: number;
  aspect: number;
}

/**
 * Load and drag (m², over ½ρV²) of a wing held at an angle. Below its stall by the lattice; beyond it a plate that the
 * flow has left, joined at the stall: C_L = ½·C_m·sin 2α + A·cos²α/sin α and C_D = C_m·sin²α + B·cos α with
 * C_m = 1.11 + 0.018·AR (Viterna & Corrigan 1982, from memory). Below zero angle it is taken to carry nothing.
 */
export function wingAt(w: WingAtAngle, angle: number): { load: number; drag: number; stalled: boolean } {
  const below = (load: number) => w.still + w.polar.c0 + w.polar.c1 * load + w.polar.c2 * load ** 2;
  const load = w.alpha.per > 0 ? (angle - w.alpha.at0) / w.alpha.per : 0;
  if (load <= w.most) {
    const carried = Math.max(0, load);
    return { load: carried, drag: below(carried), stalled: false };
  }
  const stall = Math.max(w.alpha.at0 + w.alpha.per * w.most, 0.02);
  const most = 1.11 + 0.018 * Math.min(w.aspect, 50);
  const [s, c] = [Math.sin(stall), Math.cos(stall)];
  const a = ((w.most / w.area - most * s * c) * s) / c ** 2;
  const b = (below(w.most) / w.area - most * s ** 2) / c;
  const [sin, cos] = [Math.sin(angle), Math.cos(angle)];
  return {
    load: w.area * (0.5 * most * Math.sin(2 * angle) + (a * cos ** 2) / sin),
    drag: w.area * Math.max(most * sin ** 2 + b * cos, 0),
    stalled: true,
  };
}

/** What a thrust does between two states. */
export interface Pusher {
  /** N, standing at full throttle, all like units */
  most: number;
  /** share of it that is left at a speed along its axis, m/s */
  left: (speed: number) => number;
  /** turns: raised as the craft or its mount turns; up: stays upright; ahead: pushes ahead only */
  acts: "turns" | "up" | "ahead";
}

export interface CorridorGiven {
  /** N */
  weight: number;
  /** kg/m³ */
  density: number;
  wing: WingAtAngle;
  pushers: readonly Pusher[];
  /** the wing turns with the thrust: one that stands on its tail */
  wholeTurns: boolean;
  /** slowest flight on the wing alone, m/s */
  slowest: number;
  /** standard uncertainties as shares: of thrust, of lift below the stall */
  doubt: { thrust: number; lift: number; weight: number };
}

export interface Cell {
  /** lift and raised thrust over the weight */
  carried: number;
  carriedSd: number;
  /** thrust ahead less drag, over the weight: it goes on getting faster where this is positive */
  ahead: number;
  aheadSd: number;
}
export type CorridorWord = "carries" | "thin" | "does not carry";
export interface AtSpeed {
  /** m/s */
  speed: number;
  /** rad, raise of the thrust at which most is left */
  raise: number;
  /** share of the weight that is left over, in lift or ahead, whichever is less */
  margin: number;
  sd: number;
  word: CorridorWord;
}
export type Corridor =
  | {
      status: "solved";
      speeds: number[];
      /** rad, from upright to level */
      raises: number[];
      /** by raise, then by speed */
      cells: Cell[][];
      /** the best at each speed */
      path: AtSpeed[];
      /** where least is left up to the slowest flight on the wing alone */
      least: AtSpeed;
      slowest: number;
      ends: Ends;
    }
  | { status: "open"; because: string; ends: Ends };

/** Both ends of a transition beside one another. */
export interface Ends {
  from: End;
  to: End;
  /** how far the CG goes, m aft; null: open at an end */
  shift: number | null;
}
export interface End {
  id: string;
  name: string;
  mass: number | null;
  cg: number | null;
  stops: number;
}

/** Doubt of lift and drag beyond the stall, as a share (judgement: plates of small aspect ratio scatter so). */
const STALLED = 0.25;
/** Doubt of the drag below the stall, as a share (judgement: surfaces and bodies by their parts). */
const DRAG = 0.2;
/** Up to this many times the slowest flight it is looked at: there the wing carries alone. */
const BEYOND = 1.3;
const SPEEDS = 27;
const RAISES = 46;

const lifts = ({ pushers }: CorridorGiven, speed: number, raise: number) => {
  let [up, ahead] = [0, 0];
  for (const p of pushers) {
    if (p.acts === "up") up += p.most;
    else if (p.acts === "ahead") ahead += p.most * p.left(speed);
    else {
      const push = p.most * p.left(speed * Math.cos(raise));
      up += push * Math.sin(raise);
      ahead += push * Math.cos(raise);
    }
  }
  return { up, ahead };
};

/** What carries at a speed (m/s) with the thrust raised so far (rad) over the level, in steady level flight. */
export function cellAt(given: CorridorGiven, speed: number, raise: number): Cell {
  const { weight, density, wing, wholeTurns, doubt } = given;
  const q = (density * speed ** 2) / 2;
  const { up, ahead } = lifts(given, speed, raise);
  // A wing that stays as it is is flown at the angle that is wanted, up to its stall.
  const wanted = q > 0 ? Math.min(Math.max((weight - up) / q, 0), wing.most) : 0;
  const w = wholeTurns ? wingAt(wing, raise) : wingAt(wing, wing.alpha.at0 + wing.alpha.per * wanted);
  const [lift, drag] = [q * w.load, q * w.drag];
  const off = w.stalled ? STALLED : doubt.lift;
  // What it could carry counts as carried; its drag is that of what it has to.
  const most = wholeTurns ? lift : q * wing.most;
  const carried = (most + up) / weight;
  return {
    carried,
    carriedSd: Math.hypot((most * off) / weight, (up * doubt.thrust) / weight, carried * doubt.weight),
    ahead: (ahead - drag) / weight,
    aheadSd: Math.hypot((ahead * doubt.thrust) / weight, (drag * (w.stalled ? STALLED : DRAG)) / weight),
  };
}

/** The worse of two first. */
const WORDS = ["does not carry", "thin", "carries"] as const;
const wordOf = (margin: number, sd: number): CorridorWord => {
  const odds = probabilityWithin(margin, sd, 0, Number.POSITIVE_INFINITY);
  return odds >= SURE ? "carries" : odds <= LOST ? "does not carry" : "thin";
};

/** Looks at every speed up to flight on the wing and every raise of the thrust. */
export function corridorOf(given: CorridorGiven): Omit<Extract<Corridor, { status: "solved" }>, "ends"> {
  const speeds = Array.from({ length: SPEEDS }, (_, k) => (k * BEYOND * given.slowest) / (SPEEDS - 1));
  const raises = Array.from({ length: RAISES }, (_, k) => ((Math.PI / 2) * (RAISES - 1 - k)) / (RAISES - 1));
  const cells = raises.map((raise) => speeds.map((speed) => cellAt(given, speed, raise)));
  const path = speeds.map((speed, i): AtSpeed => {
    let best: AtSpeed | null = null;
    for (const [k, raise] of raises.entries()) {
      const cell = cells[k]?.[i] as Cell;
      const [spare, ahead] = [cell.carried - 1, cell.ahead];
      const [margin, sd] = spare < ahead ? [spare, cell.carriedSd] : [ahead, cell.aheadSd];
      if (best && margin <= best.margin) continue;
      const words = [wordOf(spare, cell.carriedSd), wordOf(ahead, cell.aheadSd)];
      const word = WORDS.find((w) => words.includes(w)) ?? "carries";
      best = { speed, raise, margin, sd, word };
    }
    return best as AtSpeed;
  });
  // From where the wing carries alone it is flight: how fast it can be is told elsewhere.
  const between = path.filter((p) => p.speed <= given.slowest * (1 + 1e-9));
  const worse = (a: AtSpeed, b: AtSpeed) => WORDS.indexOf(a.word) - WORDS.indexOf(b.word) || a.margin - b.margin;
  const least = between.reduce((a, b) => (worse(b, a) < 0 ? b : a));
  return { status: "solved", speeds, raises, cells, path, least, slowest: given.slowest };
}

const why = (e: Evaluation, subject: AnySubject<unknown>): string | null => {
  const outcome = e.outcomes[subject.name];
  return outcome ? whyNone(outcome) : null;
};

function endOf(state: State, e: Evaluation): End {
  const cg = resultIn(e, balance);
  return {
    id: state.id,
    name: state.name,
    mass: resultIn(e, mass)?.mass ?? null,
    cg: cg?.placed.x ? cg.cg.x : null,
    stops: e.findings.filter((f) => f.severity === "stop").length,
  };
}

/** A transition: both its ends, and where one hangs on its drives and the other on its wings what carries between. */
export function transitionAt(design: Design, { from, to, wholeTurns }: Transition): Corridor | null {
  const [a, b] = [from, to].map((id) => design.states.find((s) => s.id === id));
  if (!a || !b) return null;
  const [one, other] = [a, b].map((s) => {
    const own = inState(design, s.id);
    return { design: own, evaluation: evaluate(own) };
  }) as [Seen, Seen];
  const [start, end] = [endOf(a, one.evaluation), endOf(b, other.evaluation)];
  const ends: Ends = {
    from: start,
    to: end,
    shift: start.cg === null || end.cg === null ? null : end.cg - start.cg,
  };
  const hung = [one, other].find((s) => supportOf(s.design).onThrust);
  const winged = [one, other].find((s) => supportOf(s.design).ways.includes("wings"));
  if (!hung || !winged || hung === winged)
    return { status: "open", because: "what carries between is worked out from rotors to wings, and not here", ends };
  const given = givenBy(hung, winged, wholeTurns);
  return "because" in given ? { status: "open", because: given.because, ends } : { ...corridorOf(given), ends };
}

interface Seen {
  design: Design;
  evaluation: Evaluation;
}

function wingOf(l: LatticeResult, f: FlightResult, cg: number, design: Design): WingAtAngle | null {
  const level = trimmed(l.model, cg);
  const main = design.surfaces[l.main];
  if (!level || !f.slow || !main || !(level.alpha.per > 0)) return null;
  return {
    most: f.slow.load,
    alpha: level.alpha,
    polar: polarOf(l, level),
    still: f.resistance.area,
    area: l.area,
    aspect: planformOf(main).aspect,
  };
}

function givenBy(hung: Seen, winged: Seen, wholeTurns: boolean): CorridorGiven | { because: string } {
  for (const [seen, subject] of [
    [hung, mass],
    [hung, propulsion],
    [winged, propulsion],
    [winged, lattice],
    [winged, flight],
  ] as const) {
    const because = why(seen.evaluation, subject);
    if (because !== null) return { because: `${seen.design.states[0]?.name ?? ""}: ${because}` };
  }
  const [l, f] = [resultIn(winged.evaluation, lattice), resultIn(winged.evaluation, flight)];
  const [drives, onWing] = [resultIn(hung.evaluation, propulsion), resultIn(winged.evaluation, propulsion)];
  const ledger = resultIn(hung.evaluation, mass);
  if (f?.inWater) return { because: "foils carry it, and what holds back its hull until then is not computed so far" };
  const stall = f?.values.stallSpeed;
  if (!l || !f?.at || !stall || !drives || !onWing || !ledger)
    return { because: "how slowly it flies on its wing is open" };
  const lacks = [
    ...[drives, onWing].flatMap((d) => [...d.incomplete, ...d.unknown, ...d.outside]),
    ...ledger.incomplete,
  ][0];
  if (lacks !== undefined) return { because: lacks };
  if (!winged.design.flight.whole)
    return { because: "not every surface and body is described (Stability, How it flies)" };
  const wing = wingOf(l, f, f.at.cg, winged.design);
  if (!wing) return { because: "the wing is not trimmed" };
  const shares = fallenShares(winged.design);
  const upright = fallenShares(hung.design);
  if ("because" in shares) return shares;
  if ("because" in upright) return upright;
  const pushers = pushersOf(hung, winged, upright, shares, wholeTurns);
  if ("because" in pushers) return pushers;
  const sd = Math.max(...drives.drives.map((d) => d.sd.thrust / d.values.thrust), 0);
  const stallSd = Math.hypot(...Object.values(stall.by));
  return {
    weight: Math.max(f.at.weight, ledger.mass * GRAVITY),
    density: f.at.density,
    wing,
    pushers,
    wholeTurns,
    slowest: stall.value,
    doubt: { thrust: sd, lift: (2 * stallSd) / stall.value, weight: ledger.massSd / ledger.mass },
  };
}

/**
 * Which way a drive pushes in the plane of symmetry, rad over the level ahead; null: to the side, or its units cancel.
 */
function raiseOf(unit: Unit): number | null {
  const ways = unit.places.length > 0 ? unit.places.map((p) => p.toward) : [towardOf(unit)];
  const mean = (key: "x" | "z") => ways.reduce((s, v) => s + v[key] / Math.hypot(v.x, v.y, v.z), 0) / ways.length;
  const [ahead, up] = [-mean("x"), mean("z")];
  return Math.hypot(ahead, up) > 0.5 ? Math.atan2(up, ahead) : null;
}

/** More upright than this a thrust carries, and less raised than that it pushes ahead, rad. */
const UPRIGHT = Math.PI / 3;
const LEVEL = Math.PI / 6;
const isUp = (raise: number | null) => raise !== null && raise > UPRIGHT && raise < Math.PI - UPRIGHT;
const isAhead = (raise: number | null) => raise !== null && Math.abs(raise) < LEVEL;

/**
 * What each drive does on the way. Each pushes as by itself on its pack: where rotors and a pusher share one, both at
 * full throttle push a little less. What pushes to the side has no part in it; a drive that stands neither upright nor
 * level is not covered.
 */
function pushersOf(
  hung: Seen,
  winged: Seen,
  upright: Fallen,
  level: Fallen,
  wholeTurns: boolean,
): Pusher[] | { because: string } {
  const out: Pusher[] = [];
  const unitIn = ({ design }: Seen, id: string) => design.units.find((u) => u.id === id);
  const indexIn = ({ design }: Seen, id: string) => design.units.findIndex((u) => u.id === id);
  const thrustIn = (seen: Seen, id: string): number =>
    resultIn(seen.evaluation, propulsion)?.drives[indexIn(seen, id)]?.values.thrust ?? 0;
  const leftIn = (fallen: Fallen, seen: Seen, id: string) => (speed: number) =>
    fallenAt(fallen, speed)[indexIn(seen, id)]?.thrust ?? 0;
  const main = resultIn(hung.evaluation, propulsion)?.main.map((i) => hung.design.units[i]?.id) ?? [];
  for (const id of new Set([...hung.design.units, ...winged.design.units].map((u) => u.id))) {
    const [before, after] = [unitIn(hung, id), unitIn(winged, id)];
    const [up, ahead] = [before ? raiseOf(before) : null, after ? raiseOf(after) : null];
    const turns: Pusher = { most: thrustIn(hung, id), left: leftIn(upright, hung, id), acts: "turns" };
    if (wholeTurns) {
      // Of one that stands on its tail those count that it hangs on.
      if (main.includes(id)) out.push(turns);
    } else if (isUp(up) && isAhead(ahead)) out.push(turns);
    // It stays upright, and rests once the wing carries: until then it helps.
    else if (isUp(up) && (ahead === null || isUp(ahead))) out.push({ ...turns, left: () => 1, acts: "up" });
    else if (isAhead(ahead) && (up === null || isAhead(up)))
      out.push({ most: thrustIn(winged, id), left: leftIn(level, winged, id), acts: "ahead" });
    else if (up !== null || ahead !== null)
      return { because: `${(before ?? after)?.name ?? id} stands neither upright nor level in both states` };
  }
  if (out.every((p) => p.acts === "ahead"))
    return {
      because: "no drive is raised in either state: say of the transition that the craft turns as a whole (Brief)",
    };
  return out;
}

/** What carries between the states of a design, by the id of each transition. */
export const corridorsOf = (design: Design): Record<string, Corridor> =>
  Object.fromEntries(
    design.transitions.flatMap((t) => {
      const found = transitionAt(design, t);
      return found ? [[t.id, found] as const] : [];
    }),
  );
