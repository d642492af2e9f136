import { memo, useMemo } from "react";
import type { Design } from "../../../../core/design/schema";
import { standingOnly } from "../../../../core/subjects/propulsion/covered";
import { operatingAt } from "../../../../core/subjects/propulsion/band";
import { PowerBand } from "../PowerBand";
import { stillIn } from "./useWorkingPoint";

/** From every pack to the thrust: solved for what it is worked at. */
export const PathOfPower = memo(function PathOfPower({
  design,
  throttle,
  speed,
  still,
  solved,
  uncovered,
}: {
  design: Design;
  throttle: number;
  speed: number;
  still: string;
  solved: boolean;
  uncovered: string | null;
}) {
  const here = useMemo(() => {
    const idle = stillIn(still);
    const working = design.units.flatMap((u, i) => (idle.has(u.id) ? [] : [i]));
    return solved ? operatingAt(design, throttle, speed, working) : null;
  }, [design, throttle, speed, still, solved]);
  if (here)
    return design.batteries.map((b) => (
      <PowerBand
        key={b.id}
        battery={b}
        path={design.conductors.filter((c) => c.batteryId === b.id && c.unitId === null)}
        rails={design.regulators.filter((r) => r.batteryId === b.id)}
        drives={design.units.flatMap((u, i) => {
          const point = here.points[i];
          return u.batteryId === b.id && point ? [{ unit: u, point, sd: here.sd[i] ?? {} }] : [];
        })}
      />
    ));
  return (
    <p className="pb-3">
      {uncovered !== null
        ? `Not covered: ${uncovered}. No thrust, current or endurance is shown; what you measure on the ` +
          "bench and in runs stands."
        : speed > 0 && standingOnly(design) !== null
          ? `Not covered: ${standingOnly(design)}.`
          : speed > 0
            ? "At this speed and throttle the air drives a propeller, or the pack cannot feed it: slow " +
              "down, or open the throttle."
            : "The drive has no operating point at this throttle. The verdict says why."}
    </p>
  );
});
