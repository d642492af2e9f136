import type { Surface } from "./declares";
import { type Station, lifts, planformOf, stationsOf } from "./planform";

/** What a surface does as a tail (or canard) and as a fin of the main wing, as the field's two volumes have it. */
export interface Volumes {
  /** S_h·l / (S·c̄): level area times its distance behind the wing; negative ahead of it */
  tail: number;
  /** S_v·l / (S·b): upright area times its distance behind the wing; negative ahead of it */
  fin: number;
}

/**
 * Ranges in which they mostly lie for craft that fly themselves straight; a canard's is as large, ahead (common
 * practice, from memory: Raymer, *Aircraft Design*, gives 0.5 and 0.02 for sailplanes, 0.5 and 0.04 for home-built).
 */
export const USUAL_VOLUMES = { tail: [0.3, 0.7], fin: [0.02, 0.06] } as const;

/** Areas of a surface as they lie and as they stand, m², both sides: of a leaning panel cos²Γ and sin²Γ of its own. */
function areasOf(s: Surface): { level: number; upright: number } {
  const cuts = stationsOf(s);
  const sides = s.mirrored ? 2 : 1;
  let [level, upright] = [0, 0];
  for (const [k, p] of s.panels.entries()) {
    const [a, b] = [cuts[k] as Station, cuts[k + 1] as Station];
    const area = (sides * (a.chord + b.chord) * p.span) / 2;
    level += area * Math.cos(p.dihedral) ** 2;
    upright += area * Math.sin(p.dihedral) ** 2;
  }
  return { level, upright };
}

/** m from the datum of the quarter point of a surface's mean chord. */
const quarterOf = (s: Surface): number => {
  const { mac, macX } = planformOf(s);
  return macX + mac / 4;
};

/** The wing that the others are held against: of those that lift the one with the largest area as seen from above. */
export function mainOf(surfaces: readonly Surface[]): Surface | null {
  const lifting = surfaces.filter(lifts);
  const [first] = lifting;
  return first ? lifting.reduce((m, s) => (planformOf(s).plan > planformOf(m).plan ? s : m), first) : null;
}

/**
 * Tail and fin volume of a surface beside the main wing, from the quarter of one mean chord to that of the other.
 * Any shapes; null for the wing itself, and where the wing has no area.
 */
export function volumesOf(surface: Surface, surfaces: readonly Surface[]): Volumes | null {
  const main = mainOf(surfaces);
  if (!main || main.id === surface.id) return null;
  const { plan, mac, span } = planformOf(main);
  if (!(plan > 0 && mac > 0 && span > 0)) return null;
  const away = quarterOf(surface) - quarterOf(main);
  const { level, upright } = areasOf(surface);
  return { tail: (level * away) / (plan * mac), fin: (upright * away) / (plan * span) };
}
