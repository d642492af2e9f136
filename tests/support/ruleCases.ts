import { CRAFT_CASES } from "./rules/craft";
import { DRIVE_CASES } from "./rules/drives";
import { HOVER_CASES } from "./rules/hover";
import { WING_CASES } from "./rules/wings";

/** Each rule with a design on which it fires, and a near neighbour on which it is silent. */
export const RULE_CASES = [...CRAFT_CASES, ...DRIVE_CASES, ...WING_CASES, ...HOVER_CASES];
