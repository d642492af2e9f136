import type { PullsTest } from "../design/pulls";
import type { Known } from "../design/evidence";
import type { Design, Unit } from "../design/schema";
import type { Around } from "../subjects/propulsion/around/declares";
import { aroundFactor } from "../subjects/propulsion/around/factor";
import { type AroundFactor, discOf } from "../subjects/propulsion/around/models";
import { worksInFluid } from "../subjects/propulsion/kinds/models";
import { partsChanged } from "../subjects/propulsion/learned";
import { voltageExponent } from "../subjects/propulsion/measured/curve";
import { type Mean, meanOf } from "./mean";

type Reading = PullsTest["readings"][number];

/** How well one pull is read off a scale that trembles, and what no repeat takes away, as shares (common practice). */
const PULL = { one: 0.04, floor: 0.01 };
/** The same of volts times amperes. */
const POWER = { one: 0.03, floor: 0.02 };
/**
 * By how much pulls may differ because a pack empties between them, as a share, where neither volts nor the order of
 * the readings tell (judgement).
 */
const EMPTIES = 0.04;

/** A share with its standard uncertainty. */
export interface Share {
  value: number;
  sd: number;
}

export interface PullsResult {
  /** N, of each side, brought to one voltage where that can be told; null: nothing was read of it */
  sides: (Mean | null)[];
  /** Power that a side drew, W; null where volts and amperes were not read with every pull of it. */
  power: (Mean | null)[];
  /** What brought the pulls to one state of the pack: its volts, a steady fall along the order, or nothing. */
  evened: "volts" | "order" | "not";
  /** Second over first, of one unit, at one throttle; null while one is missing, or of corners. */
  left: Share | null;
  /** The same at equal power. */
  atEqualPower: Share | null;
  /** Each corner over the mean of all; empty while one is missing, or of the other kinds. */
  corners: Share[];
}

/** How many sides a test has. */
export const sidesOf = ({ of, unitId }: Pick<PullsTest, "of" | "unitId">, design: Pick<Design, "units">): number =>
  of === "each corner" ? (design.units.find((u) => u.id === unitId)?.count ?? 0) : 2;

/**
 * Which side to read next, so that a pack that empties harms none: there and back again, like a b b a.
 */
export function nextSide(sides: number, read: number): number {
  if (sides < 1) return 0;
  const [turn, k] = [Math.floor(read / sides), read % sides];
  return turn % 2 === 0 ? k : sides - 1 - k;
}

const mean = (list: readonly number[]) => list.reduce((s, v) => s + v, 0) / list.length;

/**
 * Share by which pulls change from one reading to the next, whatever is pulled: the slope within the sides, by least
 * squares, with its standard error. Null where the sides were not read often enough to tell it.
 */
function fallOf(readings: readonly Reading[], sides: number): Share | null {
  const xs: number[] = [];
  const ys: number[] = [];
  for (let s = 0; s < sides; s++) {
    const own = readings.flatMap((r, k) => (r.side === s ? [{ k, pull: r.pull }] : []));
    const middle = mean(own.map((o) => o.pull));
    if (own.length < 2 || !(middle > 0)) continue;
    const centre = mean(own.map((o) => o.k));
    for (const o of own) {
      xs.push(o.k - centre);
      ys.push(o.pull / middle - 1);
    }
  }
  const spread = xs.reduce((t, x) => t + x * x, 0);
  const free = readings.length - sides - 1;
  if (free < 1 || !(spread > 0)) return null;
  const value = xs.reduce((t, x, k) => t + x * (ys[k] ?? 0), 0) / spread;
  const rest = xs.reduce((t, x, k) => t + ((ys[k] ?? 0) - value * x) ** 2, 0);
  // Few readings tell little of their own scatter.
  const each = free > 3 ? Math.sqrt(rest / free) : Math.max(Math.sqrt(rest / free), PULL.one / 2);
  return { value, sd: each / Math.sqrt(spread) };
}

/**
 * The pulls as they would have been at one state of the pack; `apart` is what is left in doubt of that between sides.
 */
function even(
  readings: readonly Reading[],
  sides: number,
  fluid: boolean,
): { pulls: number[]; evened: PullsResult["evened"]; apart: (a: number, b: number) => number } {
  const volts = readings.flatMap((r) => r.voltage ?? []);
  const at = (s: number) => readings.flatMap((r, k) => (r.side === s ? [k] : []));
  if (volts.length > 0 && volts.length === readings.length) {
    const reference = mean(volts);
    const k = voltageExponent(fluid ? "air" : "the ground");
    const log = (s: number) => mean(at(s).map((i) => Math.log((readings[i]?.voltage ?? reference) / reference)));
    return {
      pulls: readings.map((r) => r.pull * (reference / (r.voltage ?? reference)) ** k.value),
      evened: "volts",
      apart: (a, b) => Math.abs(log(a) - log(b)) * k.sd,
    };
  }
  const fall = fallOf(readings, sides);
  const middle = (readings.length - 1) / 2;
  if (!fall) return { pulls: readings.map((r) => r.pull), evened: "not", apart: () => EMPTIES };
  return {
    pulls: readings.map((r, k) => r.pull / Math.max(0.1, 1 + fall.value * (k - middle))),
    evened: "order",
    apart: (a, b) => Math.abs(mean(at(a)) - mean(at(b))) * fall.sd,
  };
}

/** One side over another; null where one of them pushes nothing or was not read. */
function over(upper: Mean | null | undefined, lower: Mean | null | undefined, apart: number): Share | null {
  if (!upper || !lower || !(lower.value > 0) || !(upper.value > 0)) return null;
  const value = upper.value / lower.value;
  return { value, sd: value * Math.hypot(upper.sd / upper.value, lower.sd / lower.value, apart) };
}

/**
 * What pulls in turns say of the units of one drive, one throttle and one pack: by how much built in pushes less than
 * by itself, a pair less than twice one, or one corner less than the mean.
 *
 * A pack that empties is taken out by its volts (force by the power of 1.6 to 2 of them in a fluid, 0 to 1 on the
 * ground), else as a steady fall along the order of the readings, else it is in the doubt. Thrust at equal power by
 * T ∝ P^(2/3) (momentum theory, standing), in a fluid only.
 *
 * @param sides how many there are to hold against one another
 * @param fluid whether they push on air or water
 */
export function pullsOf(
  test: Pick<PullsTest, "of" | "together" | "readings">,
  sides: number,
  fluid: boolean,
): PullsResult {
  const readings = test.readings.filter((r) => r.side < sides);
  const { pulls, evened, apart } = even(readings, sides, fluid);
  const each = Array.from({ length: sides }, (_, s) =>
    meanOf(
      pulls.filter((_p, k) => readings[k]?.side === s),
      PULL.one,
      PULL.floor,
    ),
  );
  const power = each.map((m, s) => {
    const own = readings.filter((r) => r.side === s);
    const drawn = own.flatMap((r) => (r.voltage !== null && r.current !== null ? r.voltage * r.current : []));
    return m && drawn.length === own.length ? meanOf(drawn, POWER.one, POWER.floor) : null;
  });
  const result: PullsResult = { sides: each, power, evened, left: null, atEqualPower: null, corners: [] };
  if (test.of === "each corner") {
    const known = each.flatMap((m) => m ?? []);
    const all = mean(known.map((m) => m.value));
    if (known.length < 2 || known.length < sides || !(all > 0)) return result;
    result.corners = known.map((m, s) => ({
      value: m.value / all,
      sd: Math.hypot(m.sd / all, (m.value / all) * Math.max(...known.map((_, o) => apart(s, o)))),
    }));
    return result;
  }
  const units = test.of === "one and a pair" ? test.together : 1;
  const share = over(each[1], each[0], apart(0, 1));
  if (!share) return result;
  result.left = { value: share.value / units, sd: share.sd / units };
  const [first, second] = power;
  if (fluid && first && second && first.value > 0 && second.value > 0) {
    const ratio = (first.value * units) / second.value;
    const value = result.left.value * ratio ** (2 / 3);
    const doubt = Math.hypot(first.sd / first.value, second.sd / second.value) * (2 / 3);
    result.atEqualPower = { value, sd: value * Math.hypot(result.left.sd / result.left.value, doubt) };
  }
  return result;
}

/** What is computed of the same by what is said to be around the drive; null: nothing, or not all of it is told. */
export const leftAsComputed = (unit: Unit): AroundFactor | null =>
  aroundFactor({ ...unit, around: unit.around.filter((a) => a.kind !== "weighed") });

type TakenOver = { ok: true; apply: (design: Design) => void } | { ok: false; why: string };
const not = (why: string): TakenOver => ({ ok: false, why });

/**
 * What to change in a design so that it reckons with what was found, or why it cannot: each corner's own pull, or what
 * a drive pushes by itself and built in.
 *
 * @param number of the session that it comes from
 */
export function takePulls(design: Design, test: PullsTest, result: PullsResult, number: number): TakenOver {
  const unit = design.units.find((u) => u.id === test.unitId);
  if (!unit) return not("the drive is not in this version any more");
  if (test.drive && partsChanged(unit, test.drive).length > 0)
    return not(`${partsChanged(unit, test.drive).join(", ")} changed since it was read`);
  const known = (m: { value: number; sd: number; n: number }): Known => ({
    value: m.value,
    sd: m.sd,
    evidence: "measured",
    note: `${m.n} × pull, B-${String(number).padStart(2, "0")}`,
  });
  if (test.of === "each corner") {
    if (test.readings.some((r) => r.side >= result.sides.length)) return not("it had more units when it was read");
    if (result.corners.length === 0) return not("a pull of each corner is needed");
    const dead = result.sides.findIndex((m) => m && !(m.value > 0));
    if (dead >= 0) return not(`unit ${dead + 1} pushes nothing: find out why first`);
    if (unit.places.length !== result.sides.length) return not("place each unit first, under Power");
    const corners = result.sides.flatMap((m, s) =>
      m ? known({ ...m, sd: (result.corners[s]?.sd ?? 0) * (m.value / (result.corners[s]?.value ?? 1)) }) : [],
    );
    return {
      ok: true,
      apply: (d) => {
        const own = d.units.find((u) => u.id === unit.id);
        for (const [k, place] of (own?.places ?? []).entries()) {
          const weighed = corners[k];
          if (weighed) place.weighed = weighed;
        }
      },
    };
  }
  const disc = discOf(unit);
  const [one, all] = result.sides;
  if (!disc || !worksInFluid(unit)) return not("nothing passes through it that something around it could hinder");
  if (unit.measured?.asBuilt) return not("its curve was measured as it is built in: that has it already");
  if (!result.left || !one || !all) return not("a pull of each is needed, and more than zero");
  // The doubt of the ratio is what counts; it is laid on both alike.
  const half = result.left.sd / result.left.value / Math.SQRT2;
  const alone = known({ ...one, sd: one.value * half });
  const builtIn = known({ ...all, value: one.value * result.left.value, sd: one.value * result.left.value * half });
  return {
    ok: true,
    apply: (d) => {
      const own = d.units.find((u) => u.id === unit.id);
      if (!own) return;
      const weighed: Around = { kind: "weighed", alone, builtIn, disc: disc.area };
      own.around = own.around.some((a) => a.kind === "weighed")
        ? own.around.map((a) => (a.kind === "weighed" ? weighed : a))
        : [...own.around, weighed];
    },
  };
}
