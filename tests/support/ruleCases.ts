import { AXES_CASES } from "./rules/axes";
import { CRAFT_CASES } from "./rules/craft";
import { DRIVE_CASES } from "./rules/drives";
import { FLOAT_CASES } from "./rules/floats";
import { GAS_CASES } from "./rules/gas";
import { HOVER_CASES } from "./rules/hover";
import { BOX_CASES } from "./rules/box";
import { SPIN_CASES } from "./rules/spin";
import { STANCE_CASES } from "./rules/stance";
import { WIND_CASES } from "./rules/wind";
import { WING_CASES } from "./rules/wings";

/** Each rule with a design on which it fires, and a near neighbour on which it is silent. */
export const RULE_CASES = [
  ...CRAFT_CASES,
  ...DRIVE_CASES,
  ...WING_CASES,
  ...HOVER_CASES,
  ...AXES_CASES,
  ...WIND_CASES,
  ...SPIN_CASES,
  ...BOX_CASES,
  ...GAS_CASES,
  ...FLOAT_CASES,
  ...STANCE_CASES,
];
