import type { WeighIn } from "../design/bench";
import type { Axis } from "../design/schema";
import { type Uncertain, propagate } from "../numeric/propagate";

/** What a weigh-in says of the whole craft. Only what its procedure can tell. */
export interface WeighInResult {
  mass?: Uncertain;
  cg: Partial<Record<Axis, Uncertain>>;
  /** Masses of single entries, all their pieces together, kg. */
  parts: ({ itemId: string } & Uncertain)[];
  /**
   * Scatter of repeated readings (sample standard deviation), largest of all; null with single readings. kg, or m for
   * a knife edge.
   */
  scatter: number | null;
  /** Why the result should not be trusted as it stands; empty when all is well. */
  doubts: ("one-reading" | "scatter" | "supports-close" | "outside-supports" | "load-changed" | "little-tilt")[];
}

const mean = (list: readonly number[]) => list.reduce((s, x) => s + x, 0) / list.length;
function sampleSd(list: readonly number[]): number | null {
  if (list.length < 2) return null;
  const m = mean(list);
  return Math.sqrt(list.reduce((s, x) => s + (x - m) ** 2, 0) / (list.length - 1));
}

/**
 * Mean of repeated readings with its standard uncertainty: √(max(s²/n, r²/12) + (e·x)²), with the scatter s,
 * resolution r and calibration error e.
 * Scatter of repeats holds the rounding to the step already; without scatter the step alone limits, and repeats never
 * make a result better than it.
 * Source: JCGM 100:2008 (GUM) 4.2.3 and F.2.2.1.
 */
export function meanOf(list: readonly number[], resolution: number, error = 0): Uncertain {
  const value = mean(list);
  const scatter = sampleSd(list) ?? 0;
  return { value, sd: Math.sqrt(Math.max(scatter ** 2 / list.length, resolution ** 2 / 12) + (error * value) ** 2) };
}

/**
 * Height of the CG above the supports: from the shares of weight on the rear support, level and tilted by θ nose up,
 * h = (f' − f)·L / tan θ.
 */
export const heightOverSupports = (level: number, tilted: number, base: number, angle: number): number =>
  ((tilted - level) * base) / Math.tan(angle);

/** Scatter beyond this many resolution steps is said. */
const SCATTER_STEPS = 5;

/**
 * Mass and CG from one weigh-in, with uncertainty propagated from readings, resolution, calibration and places.
 * Two supports: x = Σ F·x / Σ F; three: the same in x and y; tilted: see `heightOverSupports`. Supports touch where
 * entered, the craft is still, no wind.
 *
 * Source: statics of supports; FAA-H-8083-1 for weighing on points; the tilt method as used for road vehicles (SAE
 * practice; common practice).
 */
export function weighIn(w: WeighIn): WeighInResult {
  const doubts: WeighInResult["doubts"] = [];
  const lists =
    w.kind === "knife-edge"
      ? [w.places]
      : w.kind === "parts"
        ? w.parts.map((p) => p.loads)
        : w.kind === "level-and-tilted"
          ? [...w.level, ...w.tilted]
          : w.kind === "total"
            ? [w.loads]
            : [...w.loads];
  const scatters = lists.flatMap((l) => sampleSd(l) ?? []);
  const scatter = scatters.length > 0 ? Math.max(...scatters) : null;
  if (lists.some((l) => l.length === 1)) doubts.push("one-reading");
  const step = w.kind === "knife-edge" ? w.ruler : w.scale.resolution;
  if (scatter !== null && scatter > SCATTER_STEPS * step) doubts.push("scatter");
  const none: WeighInResult = { cg: {}, parts: [], scatter, doubts };

  switch (w.kind) {
    case "total":
      return { ...none, mass: meanOf(w.loads, w.scale.resolution, w.scale.error) };
    case "parts":
      return {
        ...none,
        parts: w.parts.map((p) => ({ itemId: p.itemId, ...meanOf(p.loads, w.scale.resolution, w.scale.error) })),
      };
    case "knife-edge": {
      // The ruler's error is one of place, not of resolution: it does not average out.
      const x = meanOf(w.places, 0);
      return { ...none, cg: { x: { value: x.value, sd: Math.hypot(x.sd, w.ruler) } } };
    }
    case "two-scales":
    case "three-scales": {
      const at = w.kind === "two-scales" ? w.at.map((x) => ({ x, y: 0 })) : w.at;
      const n = at.length;
      const loads = w.loads.map((l) => meanOf(l, w.scale.resolution));
      const places = at.flatMap((p) => [p.x, p.y]).map((value) => ({ value, sd: w.ruler }));
      const { results } = propagate(
        (v) => {
          const [forces, where] = [v.slice(0, n), v.slice(n)];
          const total = forces.reduce((s, x) => s + x, 0);
          const along = (offset: number) => forces.reduce((s, x, i) => s + x * (where[2 * i + offset] ?? 0), 0) / total;
          return [total, along(0), along(1)];
        },
        [...loads, ...places],
      );
      const [mass, x, y] = results;
      if (!mass || !x || !y || !(mass.value > 0)) return none;
      // Calibration is common to all readings: it shifts the mass and cancels out of the CG.
      const whole = { value: mass.value, sd: Math.hypot(mass.sd, w.scale.error * mass.value) };
      const base = Math.max(...at.map((p) => p.x)) - Math.min(...at.map((p) => p.x));
      if (base < 20 * w.ruler || base <= 0) doubts.push("supports-close");
      if (loads.some((l) => l.value <= w.scale.resolution)) doubts.push("outside-supports");
      return { ...none, mass: whole, cg: w.kind === "two-scales" ? { x } : { x, y } };
    }
    case "level-and-tilted": {
      const [front, rear] = w.level.map((l) => meanOf(l, w.scale.resolution));
      const [tiltedFront, tiltedRear] = w.tilted.map((l) => meanOf(l, w.scale.resolution));
      if (
        !front ||
        !rear ||
        !tiltedFront ||
        !tiltedRear ||
        !(front.value + rear.value > 0) ||
        !(tiltedFront.value + tiltedRear.value > 0)
      )
        return none;
      const { results } = propagate(
        ([a = 0, b = 0, c = 0, d = 0, x1 = 0, x2 = 0, z = 0, angle = 1]) => {
          const level = b / (a + b);
          return [a + b, x1 + level * (x2 - x1), z + heightOverSupports(level, d / (c + d), x2 - x1, angle)];
        },
        [
          front,
          rear,
          tiltedFront,
          tiltedRear,
          { value: w.at[0], sd: w.ruler },
          { value: w.at[1], sd: w.ruler },
          { value: w.height, sd: w.ruler },
          { value: w.angle, sd: w.angleSd },
        ],
      );
      const [mass, x, z] = results;
      if (!mass || !x || !z) return none;
      const change = Math.abs(tiltedFront.value + tiltedRear.value - mass.value);
      if (change > 4 * Math.hypot(mass.sd, w.scale.resolution)) doubts.push("load-changed");
      if (Math.abs(w.angle) < 0.17) doubts.push("little-tilt");
      return {
        ...none,
        mass: { value: mass.value, sd: Math.hypot(mass.sd, w.scale.error * mass.value) },
        cg: { x, z },
      };
    }
  }
}
