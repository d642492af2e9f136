import { kindOf } from "./models";
import type { Unit } from "../../../design/schema";

/** Whether an open propeller tells what a drive pushes: no curve that was measured, and nothing else on its shaft. */
export const isOpenPropeller = (unit: Pick<Unit, "measured" | "propulsor">): boolean =>
  !unit.measured && unit.propulsor === null;

/** Whether the model of a drive pushes on the ground. */
export const onGroundByModel = ({ measured, propulsor: p }: Pick<Unit, "measured" | "propulsor">): boolean =>
  !measured && p !== null && kindOf(p).ground(p);
