import type { Known } from "../../design/evidence";
import type { Outcome, View } from "../../subject";
import type { BodyShape, Surface } from "../surfaces/declares";
import { lifts, planformOf, stationsOf } from "../surfaces/planform";
import { wetted } from "./wet";

/**
 * What lies near: how far the baseline is over it (m), as it was said, and how far the surfaces are from it at most.
 */
export interface Near {
  over: number;
  known: Known;
  depth: number;
}
/** Height of a surface's middle, m. */
const middleOf = (s: Surface): number => {
  const zs = stationsOf(s).map((c) => c.at.z);
  return (Math.max(...zs) + Math.min(...zs)) / 2;
};
/** The one with the most area as seen from above. */
const largest = (surfaces: readonly Surface[]): Surface | undefined =>
  surfaces.filter(lifts).toSorted((a, b) => planformOf(b).plan - planformOf(a).plan)[0];

/** What of the craft the flow meets, and what lies near: air far above or over a ground, or water under its surface. */
export function surroundings(
  view: View<"surfaces" | "bodies" | "flight">,
):
  | { surfaces: readonly Surface[]; bodies: BodyShape[]; over: Near | null; image: -1 | 1 }
  | Exclude<Outcome<never>, { status: "solved" }> {
  const { height, waterline } = view.flight;
  const foils = view.surfaces.filter((s) => s.medium === "water" && lifts(s));
  if (foils.length > 0) {
    if (view.surfaces.some((s) => s.medium !== "water" && lifts(s)))
      return {
        status: "not covered",
        because:
          "wings in the air and foils in water share the weight: where each of them lifts is not computed so far",
      };
    if (!waterline) return { status: "missing", needs: ["where the water stands on its foils (How it flies)"] };
    const surfaces = wetted(view.surfaces, waterline.value);
    const main = largest(surfaces);
    if (!main) return { status: "failed", reason: "no foil is under water where the water is said to stand" };
    const piercing = foils.find((s) => {
      const zs = stationsOf(s).map((c) => c.at.z);
      return Math.max(...zs) > waterline.value && Math.min(...zs) < waterline.value;
    });
    if (piercing)
      return {
        status: "not covered",
        because:
          `“${piercing.name}” comes out of the water: what such a foil gains and loses as it rises is not ` +
          "computed so far",
      };
    const depth = waterline.value - middleOf(main);
    // Bodies are in the air above, or said by nobody to be below.
    return { surfaces, bodies: [], over: { over: -waterline.value, known: waterline, depth }, image: 1 };
  }
  const { surfaces, bodies } = view;
  const lowest = Math.min(...surfaces.flatMap((x) => stationsOf(x).map((c) => c.at.z)));
  if (height && lowest <= -height.value)
    return { status: "failed", reason: "a surface reaches into the ground at that height in flight" };
  const over = height && { over: height.value, known: height, depth: height.value };
  return { surfaces, bodies, over, image: -1 };
}
