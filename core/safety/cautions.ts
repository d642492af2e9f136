import type { Design } from "../design/schema";

/** What can hurt someone about this craft, as codes; the words are in core/wording/cautions.ts. */
export type Caution = "propeller" | "fast-tips" | "lithium" | "cold-pack" | "takes-off" | "surface" | "gas" | "link" | "rules";

/** Tip speed above which a broken blade flies far, m/s (common practice). */
const FAST_TIPS = 150;

/**
 * The cautions of a craft, each once: from its propellers, packs, and what holds it up. The last is always to check local rules.
 * @param tipSpeed blade tip speed at full throttle, m/s; 0 when not known
 */
export function cautionsFor(design: Design, tipSpeed: number): Caution[] {
  const out: Caution[] = [];
  if (design.units.length > 0) out.push("propeller");
  if (tipSpeed > FAST_TIPS) out.push("fast-tips");
  if (design.batteries.some((b) => b.chemistry !== "nimh" && b.chemistry !== "lead")) out.push("lithium");
  if (design.brief.environment.packTemperature < 5 && design.batteries.length > 0) out.push("cold-pack");
  if (design.heldUpBy === "rotors" || design.heldUpBy === "wings" || design.heldUpBy === "flapping") out.push("takes-off");
  if (design.heldUpBy === "hull" || design.heldUpBy === "submerged" || design.brief.environment.airTemperature < 0) out.push("surface");
  if (design.heldUpBy === "gas") out.push("gas");
  out.push("link", "rules");
  return out;
}
