import type { UnitHabit } from "../../design/units";
import { plain } from "../../wording/format";

/** Ballast as a remedy says it: kg, at a place in m. */
export const addBallast = (kg: number, x: number, y: number, h: UnitHabit) =>
  `Add ${plain(kg, "mass", h)} at x ${plain(x, "length", h, 0)}${y === 0 ? "" : `, y ${plain(y, "length", h, 0)}`}`;
