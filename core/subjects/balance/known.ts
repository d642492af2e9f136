import type { Axis } from "../../design/schema";
import type { See } from "../../subject";
import { placesUnsaid } from "../mass/placed";
import type { MassResult } from "../mass/rollup";
import { balance } from "./node";

/** Where the mass is, when every part has a place along these axes; null while one has none. */
export const balanceAlong = (see: See, ...axes: Axis[]): MassResult | null =>
  placesUnsaid(see.design.items, ...axes).length === 0 ? see.result(balance) : null;
