import type { PredictedLevel } from "../../../../core/bench/predict";
import type { SweepPoint, SweepResult } from "../../../../core/bench/sweep";
import { SweepChart } from "../../../charts/SweepChart";

/** The four charts of a sweep: thrust, current, speed of the shaft, efficiency. */
export function SweepCharts({
  result,
  predicted,
  left,
}: {
  result: SweepResult;
  predicted: PredictedLevel[];
  left: SweepPoint[];
}) {
  const counted = result.points.filter((p) => p.thrust !== null && p.out === "" && p.expected === null);
  const pick = (direction: "up" | "down") => counted.filter((p) => (direction === "down") === (p.direction === "down"));
  const percentOf = (v: number) => v * 100;
  const fit =
    result.curve.status === "converged"
      ? Array.from({ length: 41 }, (_, i) => i / 40).map((u) => ({
          x: u * 100,
          y: Math.max(0, result.curve.tMax * ((1 - result.curve.e) * u + result.curve.e * u * u)),
        }))
      : [];
  return (
    <div className="grid grid-cols-[minmax(0,1fr)_minmax(0,1fr)] gap-4 max-[900px]:grid-cols-[minmax(0,1fr)]">
      <SweepChart
        title="Thrust against throttle"
        xTitle="throttle, %"
        yTitle="thrust, N"
        predicted={predicted.map((p) => ({ x: percentOf(p.throttle), y: p.thrust }))}
        up={pick("up").map((p) => ({ x: percentOf(p.throttle), y: p.thrust ?? 0 }))}
        down={pick("down").map((p) => ({ x: percentOf(p.throttle), y: p.thrust ?? 0 }))}
        out={left.map((p) => ({ x: percentOf(p.throttle), y: p.thrust ?? 0 }))}
        fit={fit}
        misses={result.levels.flatMap((l) => {
          const p = predicted.find((x) => x.throttle === l.throttle);
          return p && l.throttle > 0.05
            ? [
                [
                  { x: percentOf(l.throttle), y: p.thrust },
                  { x: percentOf(l.throttle), y: l.thrust },
                ] as [{ x: number; y: number }, { x: number; y: number }],
              ]
            : [];
        })}
      />
      <SweepChart
        title="Power against throttle"
        xTitle="throttle, %"
        yTitle="power, W"
        predicted={predicted.map((p) => ({ x: percentOf(p.throttle), y: p.power }))}
        up={result.levels.flatMap((l) => (l.power === null ? [] : [{ x: percentOf(l.throttle), y: l.power }]))}
      />
      <SweepChart
        title="Current against throttle"
        xTitle="throttle, %"
        yTitle="current, A"
        predicted={predicted.map((p) => ({ x: percentOf(p.throttle), y: p.current }))}
        up={result.levels.flatMap((l) => (l.current === null ? [] : [{ x: percentOf(l.throttle), y: l.current }]))}
      />
      <SweepChart
        title="Thrust for each watt against throttle"
        xTitle="throttle, %"
        yTitle="mN for each W"
        predicted={predicted.flatMap((p) =>
          p.thrust > 0.05 * result.top.value && p.power > 0
            ? [{ x: percentOf(p.throttle), y: (1000 * p.thrust) / p.power }]
            : [],
        )}
        up={result.levels.flatMap((l) =>
          l.power !== null && l.power > 0 && l.thrust > 0.05 * result.top.value
            ? [{ x: percentOf(l.throttle), y: (1000 * l.thrust) / l.power }]
            : [],
        )}
      />
    </div>
  );
}
