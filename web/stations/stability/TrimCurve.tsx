import { useMemo } from "react";
import { DISPLAY, toDisplay } from "../../../core/design/units";
import type { LatticeResult } from "../../../core/subjects/flight/latticeNode";
import { type FlightResult, trimCurve } from "../../../core/subjects/flight/node";
import { CurveChart } from "../../charts/CurveChart";
import { usePreferences } from "../../app/preferences";

/** Pitch control and nose angle in level flight over the speed. */
export function TrimCurve({ wings, flown }: { wings: LatticeResult; flown: FlightResult }) {
  const { habit } = usePreferences();
  const { travel, values } = flown;
  const trims = useMemo(() => trimCurve(wings, flown), [wings, flown]);
  const chart = useMemo(() => {
    const speed = (v: number) => toDisplay(v, "speed", habit);
    const angle = (v: number) => toDisplay(v, "angle", habit);
    const sd = values.trimCommand ? Math.hypot(...Object.values(values.trimCommand.by)) : 0;
    return {
      points: trims.flatMap((t) =>
        t.command === null ? [] : [{ x: speed(t.speed), y: angle(t.command), sd: angle(sd) }],
      ),
      line: trims.map((t) => ({ x: speed(t.speed), y: angle(t.alpha) })),
      limits: travel
        ? [
            { value: angle(travel.up), label: "travel, nose up", colour: "stop" as const },
            { value: -angle(travel.down), label: "travel, nose down", colour: "stop" as const },
          ]
        : [],
      xMax: Math.ceil(speed(trims.at(-1)?.speed ?? 20)),
    };
  }, [trims, travel, values.trimCommand, habit]);
  if (trims.length === 0) return null;
  return (
    <div className="min-w-0">
      <CurveChart
        title="Trim"
        xTitle={`speed, ${DISPLAY[habit].speed}`}
        yTitle={chart.points.length > 0 ? "pitch control, nose up, °" : "angle of attack, °"}
        fromZero={false}
        {...chart}
      />
      <p className="mt-1 text-pencil">
        {chart.points.length > 0
          ? "Solid: angle of attack. "
          : "No pitch control is described: only the lift is balanced. "}
        Thrust as large as the drag, from where the drives are.
        {flown.waves > (values.stallSpeed?.value ?? 0) && " From where the foils stop making waves."}
      </p>
    </div>
  );
}
