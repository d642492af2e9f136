import { magnitudeSd } from "../../design/evidence";
import { drivesSign } from "../propulsion/learned";
import type { FlightSaid } from "../surfaces/declares";

type Weighed = Parameters<typeof drivesSign>[0] & {
  flight: Pick<FlightSaid, "torque" | "steering" | "weighedWith">;
};

/** Whether drives or packs are others now than those that torque and steering were weighed with. */
export const withOtherDrives = (view: Weighed): boolean =>
  view.flight.weighedWith !== "" && view.flight.weighedWith !== drivesSign(view);

/** A moment that was weighed, with its standard uncertainty, N·m; null: it was not, or with other drives. */
export function weighedOf(view: Weighed, key: "torque" | "steering"): { value: number; sd: number } | null {
  const known = view.flight[key];
  return known && !withOtherDrives(view) ? { value: known.value, sd: magnitudeSd(known) } : null;
}
