import type { Quantity } from "../../design/quantity";
import { supportOf } from "../../design/support";
import { newPhase } from "../energy/declares";
import { type Doubtful, sdOf } from "../../numeric/doubt";
import { type Outcome, doubtsOf, keysOf, subject } from "../../subject";
import { findRoot } from "../../numeric/root";
import { flight } from "../flight/node";
import { mass } from "../mass/node";
import { notCovered, standingOnly, wetDrive } from "../propulsion/covered";
import type { Driven, PowerInput } from "../propulsion/inputs";
import { FASTEST, dragAt, enduranceOf, mainThrottle, missingOf } from "../propulsion/nominal";
import { DRIVEN } from "../propulsion/node";
import { type PowerSetup, setUp } from "../propulsion/setup";
import { type Varied, vary } from "../propulsion/vary";
import { inputsOf, knownBy, shapesOutside } from "../propulsion/words";
import { type FullThrust, fullThrust, lacksOf, spread } from "./fullThrust";
import { quantities } from "./declares";

type PoweredKey = keyof typeof quantities;

/** Level flight at one speed under its own power, the pack as at the start. */
export interface LevelPoint {
  /** m/s */
  speed: number;
  /** N that hold it back */
  drag: number;
  /** N at full throttle */
  thrust: number;
  /** share of the throttle limits that holds it level; null where full throttle does not, or something touches */
  throttle: number | null;
  /** W from the packs; null where it is not held */
  power: number | null;
  /** s until the first pack is spent, held at this speed; null where it is not held */
  seconds: number | null;
}

/** A number at its best, and the speed at which that is, m/s. */
export interface Best {
  speed: number;
  is: Doubtful;
}

export interface PoweredResult {
  points: LevelPoint[];
  /** fastest climb, longest and farthest level flight; null where there is none */
  climb: Best | null;
  time: Best | null;
  range: Best | null;
  /** fastest level flight; null where there is none */
  top: Doubtful | null;
  /** why that is not flown, as a sentence: something touches the ground first; null where nothing does */
  touching: string | null;
  /** thrust less drag, N, where that is most, and the speed there */
  surplus: Best;
  /** N */
  weight: number;
  stall: number;
  inputs: PowerInput[];
}

/** Slowest that it is cruised at, as a multiple of the stall speed (common practice). */
export const CRUISED_FROM = 1.2;
/** Ratio of one speed to the one before it in the table. */
const STEP = 1.07;
/** Speeds that lie so close; beyond, four times as far apart. */
const CLOSE = 24;
/** Speeds that are looked at where full throttle never holds it level, as a multiple of the stall speed. */
const IN_VAIN = 2.5;
/** Steps of the discharge for the table. */
const STEPS = 12;

const surplusOf = (full: FullThrust, setup: PowerSetup, speed: number): number =>
  full(setup, speed) - (dragAt(setup, speed) ?? 0);
/** m/s upward: all that full throttle has over the drag, against the weight, at most straight up. */
const climbOf = (full: FullThrust, setup: PowerSetup, speed: number): number =>
  speed * Math.min(1, surplusOf(full, setup, speed) / (setup.weight ?? Number.NaN));

/** The packs as they are when it flies level at a speed, and nothing else is asked. */
const held = (design: Driven, speed: number): Driven => ({
  ...design,
  duty: [newPhase({ id: "level", name: "level flight", by: "speed", value: speed })],
});
/** How long the packs last so, s, and what they give at first, W. */
function lasting(setup: PowerSetup, steps?: number): { seconds: number; power: number } | null {
  const runs = setup.packs.map((p) => enduranceOf(setup, p, steps));
  if (runs.some((r) => r === null)) return null;
  return {
    seconds: Math.min(...runs.map((r) => r?.seconds ?? Number.POSITIVE_INFINITY)),
    power: runs.reduce((s, r) => s + (r?.trace[0]?.power ?? 0), 0),
  };
}

/** Speeds that are looked at, m/s: ever farther apart, and the slowest that is flown among them. */
function speedsFrom(low: number, slowest: number): number[] {
  const out: number[] = [];
  for (let v = low; v < FASTEST; v *= out.length < CLOSE ? STEP : STEP ** 4) {
    if (v > slowest && (out.at(-1) ?? slowest) < slowest) out.push(slowest);
    out.push(v);
  }
  return out;
}

/** Speeds from just above the stall to just beyond what full throttle holds, each with what it takes. */
function tableOf(
  full: FullThrust,
  { design, base, values }: { design: Driven; base: PowerSetup; values: ReadonlyMap<string, number> },
  stall: number,
  slowest: number,
): LevelPoint[] {
  const points: LevelPoint[] = [];
  let holds = false;
  for (const v of speedsFrom(1.05 * stall, slowest)) {
    const [drag, thrust] = [dragAt(base, v) ?? Number.NaN, full(base, v)];
    const holdsHere = thrust >= drag;
    const flown = holdsHere && v >= slowest;
    const at = flown ? lasting(setUp(held(design, v), values, base), STEPS) : null;
    points.push({
      speed: v,
      drag,
      thrust,
      throttle: flown ? mainThrottle(base, drag, v) : null,
      power: at?.power ?? null,
      seconds: at?.seconds ?? null,
    });
    if (holds ? !holdsHere : v > IN_VAIN * Math.max(stall, slowest) && !holdsHere) break;
    holds ||= holdsHere;
  }
  return points;
}

/** Speed at which a number of the table is greatest, m/s: between its points as a parabola has it. */
function bestSpeed(points: readonly LevelPoint[], of: (p: LevelPoint) => number | null): number | null {
  const all = points.flatMap((p) => {
    const y = of(p);
    return y === null || !Number.isFinite(y) ? [] : [{ x: p.speed, y }];
  });
  const k = all.reduce((best, p, i) => (p.y > (all[best]?.y ?? Number.NEGATIVE_INFINITY) ? i : best), 0);
  const [a, b, c] = [all[k - 1], all[k], all[k + 1]];
  if (!b) return null;
  if (!a || !c) return b.x;
  const [l, r] = [(b.y - a.y) / (b.x - a.x), (c.y - b.y) / (c.x - b.x)];
  const bend = (r - l) / (c.x - a.x);
  if (!(bend < 0)) return b.x;
  const top = (a.x + b.x) / 2 - l / (2 * bend);
  return Math.min(c.x, Math.max(a.x, top));
}

/** Fastest level flight: where full thrust meets the drag behind the last point that it holds. */
function topOf(full: FullThrust, varied: Varied, points: readonly LevelPoint[]): Doubtful | null {
  const last = points.findLastIndex((p) => p.thrust >= p.drag);
  const [low, high] = [points[last], points[last + 1]];
  if (!low || !high) return null;
  const found = findRoot((v) => surplusOf(full, varied.base, v), low.speed, high.speed, 1e-3);
  if (found.status !== "converged") return null;
  const v = found.x;
  const slope = (surplusOf(full, varied.base, v * 1.01) - surplusOf(full, varied.base, v)) / (0.01 * v);
  const { by } = spread(varied, (s) => surplusOf(full, s, v) / -slope);
  return slope < 0 ? { value: v, by } : null;
}

/** Level flight and climb of wings under their own power. */
export const powered = subject({
  name: "powered",
  cost: "slow",
  reads: [...DRIVEN, "flight"],
  needs: [flight, mass],
  gives: keysOf(quantities),
  compute(view, of): Outcome<PoweredResult> {
    const flown = of(flight);
    if (flown.status !== "solved") return flown;
    if (flown.result.inWater)
      return {
        status: "not covered",
        because: "foils carry it: what pods, struts and spray cost is not computed so far",
      };
    const missing = missingOf(view);
    if (missing.length > 0) return { status: "missing", needs: missing };
    const because =
      notCovered(view) ??
      standingOnly(view) ??
      (supportOf(view).ways.length > 1 ? "more than its wings carry it" : null) ??
      (wetDrive(view) ? "a drive works in water: what that costs in motion is not computed so far" : null);
    if (because !== null) return { status: "not covered", because };
    const ledger = of(mass);
    const { levelDrag, slowest: least, values: wings } = flown.result;
    if (ledger.status !== "solved" || !levelDrag || !wings.stallSpeed || least === null)
      return { status: "missing", needs: [flown.result.at ? "a trim that flies level" : "mass and CG"] };
    const slowest = least.value;
    if (slowest > FASTEST)
      return {
        status: "not covered",
        because:
          `at the height that it flies at “${flown.result.touches?.name}” touches the ground at every ` +
          "angle that carries it",
      };
    const { mass: value, massSd: sd, evidence } = ledger.result;
    const auw = { value, sd, evidence };
    const design: Driven = { ...view, levelDrag };
    const varied = vary(design, auw);
    const { base, inputs } = varied;
    const along = base.units[base.main[0] ?? 0]?.unit.direction;
    if (along !== "ahead" && along !== "astern") return { status: "not covered", because: "no drive pushes ahead" };
    const stall = wings.stallSpeed;
    const full = fullThrust();
    const known = new Map(inputs.map((i) => [`${i.of}/${i.key}`, i.value]));
    const points = tableOf(full, { design, base, values: known }, stall.value, slowest);
    const cruised = (p: LevelPoint) => p.speed >= CRUISED_FROM * stall.value;
    const most = bestSpeed(points, (p) => p.thrust - p.drag) ?? stall.value;
    const surplus: Best = { speed: most, is: spread(varied, (s) => surplusOf(full, s, most)) };
    // Far above the ground: near it a climb leaves what carries it.
    const upAt = view.flight.height === null ? bestSpeed(points, (p) => (p.thrust - p.drag) * p.speed) : null;
    const lasts = (v: number | null): Doubtful | null => {
      if (v === null) return null;
      const so = vary(held(design, v), auw);
      const coarse = spread(so, (s) => lasting(s, STEPS)?.seconds ?? Number.NaN);
      const fine = lasting(so.base)?.seconds ?? Number.NaN;
      return Number.isFinite(fine) ? { value: fine, by: coarse.by } : null;
    };
    const timeAt = bestSpeed(points, (p) => (cruised(p) ? p.seconds : null));
    const rangeAt = bestSpeed(points, (p) => (cruised(p) && p.seconds !== null ? p.seconds * p.speed : null));
    const [time, far] = [lasts(timeAt), lasts(rangeAt)];
    const top = topOf(full, varied, points);
    return {
      status: "solved",
      result: {
        points,
        climb: upAt === null ? null : { speed: upAt, is: spread(varied, (s) => climbOf(full, s, upAt)) },
        time: time && timeAt !== null ? { speed: timeAt, is: time } : null,
        range:
          far && rangeAt !== null
            ? {
                speed: rangeAt,
                is: {
                  value: far.value * rangeAt,
                  by: Object.fromEntries(Object.entries(far.by).map(([k, d]) => [k, d * rangeAt])),
                },
              }
            : null,
        top,
        touching:
          top && flown.result.touches && top.value < slowest
            ? `at its top speed it flies so nose up that “${flown.result.touches.name}” touches the ground`
            : null,
        surplus,
        weight: base.weight ?? Number.NaN,
        stall: stall.value,
        inputs,
      },
    };
  },
  quantities(result, view, of) {
    const incomplete = lacksOf(view, of(flight), of(mass));
    const out: Partial<Record<PoweredKey, Quantity>> = {};
    for (const key of keysOf(quantities)) {
      const d = numberOf(result, key);
      if (!d) continue;
      out[key] = {
        value: d.value,
        sd: sdOf(d),
        dimension: quantities[key].dimension,
        evidence: knownBy(result.inputs, d),
        ...doubtsOf(shapesOutside(view.units), incomplete),
      };
    }
    return out;
  },
  lacks: (key, result, view) => whyNot(key as PoweredKey, result, view.flight),
  working(key, result, view) {
    const d = numberOf(result, key as PoweredKey);
    return d ? inputsOf(result.inputs, d, view.units.length > 1) : [];
  },
});

function numberOf(result: PoweredResult, key: PoweredKey): Doubtful | null {
  switch (key) {
    case "climbRate":
      return result.climb?.is ?? null;
    case "levelTime":
      return result.time?.is ?? null;
    case "levelRange":
      return result.range?.is ?? null;
  }
}

function whyNot(key: PoweredKey, result: PoweredResult, said: { height: unknown }): string | null {
  if (numberOf(result, key)) return null;
  if (key === "climbRate" && said.height !== null) return "so near the ground a climb leaves what carries it";
  return result.touching ?? "full throttle does not hold it level";
}
