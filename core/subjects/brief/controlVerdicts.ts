import { supportOf } from "../../design/support";
import { verdict } from "../../subject";
import { advice } from "../say";

/** Ways of being held up that fall at once when the drives stop. */
const FALLS = ["rotors", "flapping"] as const;

/**
 * Sticks switch the drives off, and the controller decides by itself when it has landed: each of the two can take the
 * other's moment for its own, in the air or tipped over on the ground.
 */
export const disarmsAloft = verdict({
  find({ design }) {
    const { disarm, landing } = design.control;
    const falls = supportOf(design).ways.some((way) => FALLS.some((f) => f === way));
    return falls && disarm === "by the sticks" && landing === "told by itself"
      ? [{ page: "versions", severity: "care", about: "control", params: {}, figure: null }]
      : [];
  },
  remedies: () => [advice("Disarm by a switch; try both ways tied down, tipped over too")],
  says: () => "Sticks switch it off and it tells landing by itself: it may stop in the air, or go on tipped over",
});

/** Nothing stops the drives when nobody commands them any more. */
export const runsOn = verdict({
  find: ({ design }) =>
    design.control.linkLost === "goes on as it was" && design.units.length > 0
      ? [{ page: "versions", severity: "stop", about: "link", params: {}, figure: null }]
      : [],
  remedies: () => [advice("Set the fail-safe to stop the drives, and try it with the transmitter off, propellers off")],
  says: () => "When the link is lost it goes on as it was: nothing stops the drives",
});
