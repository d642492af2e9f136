import type { Figure, See } from "../../subject";
import { wingsOpen } from "../balance/window";
import { type FlightResult, flight } from "./node";

export const page = { page: "stability" as const };
/** Nothing stops on wings of which some may be missing, or guessed. */
export const stop = (see: See) => (wingsOpen(see.design) === null ? ("stop" as const) : ("care" as const));
export const onWings = (see: See): FlightResult | null => see.result(flight);
export const figureBare = (
  label: string,
  value: number,
  limit: number,
  dimension: Figure["dimension"] = "percent",
): Figure => ({
  label,
  value,
  sd: 0,
  dimension,
  evidence: "calculated",
  limit,
});
