import type { NeutralSide } from "../subjects/balance/walkBack";

/** What a step of a walk-back asks of the trim, whatever holds the craft. */
export const TRIM_LINE =
  "Trim: each step asks for more nose-down trim, of a reflexed section for less reflex. Note it; once " +
  "it takes more than half of the control travel, stop.";

/** How to tune at a step, by the side of the neutral point that its CG lies on (common practice). */
export const TUNE_LINE: Record<NeutralSide, string> = {
  ahead:
    "Tune: pitch answers more quickly the further aft it is. Start with the gain of the step before " +
    "taken down by a fifth, then raise it until it is damped again.",
  near:
    "Tune: about neutral. It no longer comes back by itself: do not take the gain down any more, raise " +
    "damping first, and never let go of it with the controller off.",
  behind:
    "Tune: it diverges unless the controller holds it, so there is a least gain as well as a greatest. " +
    "Find both in small steps at height, and stay between them; lowering the gain until it is calm " +
    "loses it. Controller on before it is let go, and never off in the air.",
  unknown:
    "Tune: nobody has said where the neutral point is, so take this step as one behind it: there may be " +
    "a least gain as well as a greatest. Do not cure a twitch by lowering the gain alone.",
};
export const SIDE_WORD: Record<NeutralSide, string> = {
  ahead: "ahead of neutral",
  near: "about neutral",
  behind: "behind neutral",
  unknown: "neutral not known",
};
