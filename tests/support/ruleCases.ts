import { CRAFT_CASES } from "./rules/craft";
import { DRIVE_CASES } from "./rules/drives";

/** Each rule with a design on which it fires, and a near neighbour on which it is silent. */
export const RULE_CASES = [...CRAFT_CASES, ...DRIVE_CASES];
