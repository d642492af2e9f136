import type { Surface } from "../surfaces/declares";
import { type Station, stationsOf } from "../surfaces/planform";

/** A surface of which nothing is there: it keeps its place in the list. */
const none = (s: Surface): Surface => ({ ...s, panels: [], controls: [] });

/**
 * Surfaces as far as they are under water: those in the air do nothing beside (a thousandth of the density), one that
 * comes out is cut at the water's surface. Each keeps its place in the list; one of which nothing is left has no
 * panels.
 *
 * @param level height of the water's surface above the baseline, m
 */
export function wetted(surfaces: readonly Surface[], level: number): Surface[] {
  return surfaces.map((s) => {
    if (s.medium !== "water") return none(s);
    const cuts = stationsOf(s);
    if (cuts.every((c) => c.at.z <= level)) return s;
    const first = cuts.findIndex((c) => c.at.z < level);
    if (first < 0) return none(s);
    const past = cuts.findIndex((c, k) => k > first && c.at.z > level);
    // From where it dips in, or its root, to where it comes out, or its end.
    const inside = cuts.slice(first, past < 0 ? undefined : past);
    const before = cuts[first - 1];
    const behind = past < 0 ? undefined : cuts[past];
    const all: Station[] = [
      ...(before ? [crossing(before, inside[0] as Station, level)] : []),
      ...inside,
      ...(behind ? [crossing(inside.at(-1) as Station, behind, level)] : []),
    ];
    return rebuilt(s, all, cuts.at(-1)?.along ?? 0);
  });
}

/** The cut between two where the surface meets the water. */
function crossing(a: Station, b: Station, level: number): Station {
  const t = (level - a.at.z) / (b.at.z - a.at.z);
  const mix = (p: number, q: number) => p + (q - p) * t;
  return {
    at: { x: mix(a.at.x, b.at.x), y: mix(a.at.y, b.at.y), z: level },
    chord: mix(a.chord, b.chord),
    incidence: mix(a.incidence, b.incidence),
    along: mix(a.along, b.along),
  };
}

/** The surface through these of its cuts; controls keep where they are. */
function rebuilt(s: Surface, cuts: readonly Station[], long: number): Surface {
  const [root, end] = [cuts[0], cuts.at(-1)];
  if (!root || !end || !(end.along > root.along)) return none(s);
  const share = (of: number) => Math.min(1, Math.max(0, (of * long - root.along) / (end.along - root.along)));
  return {
    ...s,
    at: root.at,
    chord: root.chord,
    incidence: root.incidence,
    panels: cuts.slice(1).map((c, k) => {
      const from = cuts[k] as Station;
      const [dx, dy, dz] = [c.at.x - from.at.x, c.at.y - from.at.y, c.at.z - from.at.z];
      const span = c.along - from.along;
      return {
        span,
        chord: c.chord,
        sweep: Math.atan2(dx, span),
        dihedral: Math.atan2(dz, dy),
        twist: c.incidence - root.incidence,
      };
    }),
    controls: s.controls
      .map((c) => ({ ...c, from: share(c.from), to: share(c.to) }))
      .filter((c) => c.to - c.from > 0.01),
  };
}
