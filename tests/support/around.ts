import { type Design, usualState } from "../../core/design/schema";
import type { Around } from "../../core/subjects/propulsion/around/declares";
import { aroundFactor } from "../../core/subjects/propulsion/around/factor";
import { changed } from "./designs";

export const measured = (value: number) => ({ value, evidence: "measured" as const });
export const first = (d: Design) => {
  const [unit] = d.units;
  if (!unit) throw new Error("no drive");
  return unit;
};
/** Four of the drive that lift, with this around each. */
export const quad = (...around: Around[]) =>
  changed((d) => {
    d.states = [usualState("rotors")];
    Object.assign(first(d), { count: 4, direction: "up", spin: "half each", surroundings: "in air", around });
  });
export const openings = (
  inlet: number | null,
  outlet: number | null,
  edges: "sharp" | "rounded" | "not said" = "not said",
): Around => ({
  kind: "openings",
  inlet: inlet === null ? null : measured(inlet),
  outlet: outlet === null ? null : measured(outlet),
  edges,
});
/** What all of this leaves of the thrust. */
export const left = (...around: Around[]) => aroundFactor(first(quad(...around)));
/** m² */
export const disc = () => (Math.PI / 4) * first(quad()).propeller.diameter.value ** 2;
/** m */
export const radius = () => first(quad()).propeller.diameter.value / 2;
