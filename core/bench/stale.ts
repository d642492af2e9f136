import type { Bench } from "../design/bench";
import type { Design } from "../design/schema";
import { changedSince } from "../subjects/mass/evidence";
import { partsChanged } from "../subjects/propulsion/learned";

/**
 * Whether a session no longer fits the design as it stands: the ledger of a weigh-in was changed, or a part of the
 * drive that a sweep or pulls were made with. Calibrations and fast-throttle tests stay.
 */
export function isStale(session: Bench, design: Design): boolean {
  if (session.weighIn) return changedSince(session.tested, design).length > 0;
  const tested = session.thrust ?? session.pulls;
  if (!tested?.drive) return false;
  const unit = design.units.find((u) => u.id === tested.unitId);
  return unit === undefined || partsChanged(unit, tested.drive).length > 0;
}
