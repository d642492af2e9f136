import { useMemo, useState } from "react";
import type { PowerResult } from "../../../core/power/evaluatePower";
import "../../charts/setup";
import { CurveChart, type Limit } from "../../charts/CurveChart";
import { useDesk } from "../../app/desk";

const SHEETS = { throttle: "against throttle", speed: "against speed", discharge: "over the discharge" } as const;
type Sheet = keyof typeof SHEETS;

/** Curves of the drives that the craft is judged by: standing against throttle, at full throttle against speed, and the pack over a run. */
export function Curves({ result, throttle, speed }: { result: PowerResult; throttle: number; speed: number }) {
  const { design, evaluation } = useDesk();
  const [sheet, setSheet] = useState<Sheet>(speed > 0 ? "speed" : "throttle");
  const unit = result.units[result.lead]?.unit;
  const weight = (evaluation.mass?.mass ?? 0) * 9.80665;
  const full = result.values.thrust;
  const curve = useMemo(() => (sheet === "throttle" ? result.curve().map((c) => ({ ...c, x: c.x * 100 })) : sheet === "speed" ? result.speedCurve() : []), [result, sheet]);
  const points = useMemo(
    () => ({
      thrust: curve.map((c) => ({ x: c.x, y: c.thrust, sd: c.thrustSd })),
      current: curve.map((c) => ({ x: c.x, y: c.current, sd: c.currentSd })),
      economy: curve.flatMap((c) => (c.economy > 0 && c.x > (sheet === "throttle" ? 8 : -1) ? [{ x: c.x, y: c.economy * 1000, sd: c.economySd * 1000 }] : [])),
    }),
    [curve, sheet],
  );
  const drag = useMemo(() => (sheet === "speed" && result.drag(1) !== null ? curve.map((c) => ({ x: c.x, y: result.drag(c.x) ?? 0 })) : null), [curve, result, sheet]);
  const thrustLimits = useMemo<Limit[]>(() => {
    if (sheet === "speed") return [];
    const asked = design.brief.targets.flatMap((t): Limit[] =>
      t.metric === "thrustToWeight" && t.comparison === "atLeast" && weight > 0
        ? [{ value: t.value * weight, label: `asked ${(t.value * weight).toFixed(1)} N`, colour: "care" }]
        : t.metric === "thrust" && t.comparison === "atLeast"
          ? [{ value: t.value, label: `asked ${t.value.toFixed(1)} N`, colour: "care" }]
          : [],
    );
    return weight > 0 && weight < full * 2 ? [...asked, { value: weight, label: `weight ${weight.toFixed(1)} N`, colour: "clear" }] : asked;
  }, [design.brief.targets, weight, full, sheet]);
  const currentLimits = useMemo<Limit[]>(
    () =>
      unit
        ? [
            { value: unit.motor.maxCurrent, label: `motor ${unit.motor.maxCurrent} A`, colour: "stop" },
            { value: unit.controller.maxCurrent, label: `controller ${unit.controller.maxCurrent} A`, colour: "stop" },
          ]
        : [],
    [unit],
  );
  const [pack, setPack] = useState<"as it is" | "cold" | "old">("as it is");
  const run = useMemo(
    () => (sheet !== "discharge" || pack === "as it is" ? result.endurance : result.endureWith(pack === "cold" ? { packTemperature: -5 } : { resistanceFactor: 2 })),
    [result, pack, sheet],
  );
  const trace = run?.trace ?? [];
  const xMax = sheet === "throttle" ? 100 : (curve.at(-1)?.x ?? 1);
  const x = sheet === "throttle" ? { title: "throttle, %", at: throttle * 100 } : { title: "speed, m/s", at: speed };
  return (
    <section aria-label="Curves" className="px-4 py-3">
      <div className="no-print mb-2 flex gap-4" role="tablist" aria-label="Curves shown">
        {(Object.keys(SHEETS) as Sheet[]).map((s) => (
          <button
            key={s}
            type="button"
            role="tab"
            aria-selected={s === sheet}
            className={`min-h-6 border-b-2 text-[12px] ${s === sheet ? "border-accent text-accent" : "border-transparent text-ink2"}`}
            onClick={() => setSheet(s)}
          >
            {SHEETS[s]}
          </button>
        ))}
        {sheet === "discharge" && (
          <span className="ml-auto flex items-center gap-1 text-[11px]" role="group" aria-label="Pack">
            {(["as it is", "cold", "old"] as const).map((p) => (
              <button key={p} type="button" className={`chip ${p === pack ? "chip-on" : ""}`} aria-pressed={p === pack} onClick={() => setPack(p)}>
                {p === "cold" ? "at −5 °C" : p === "old" ? "old, twice the resistance" : p}
              </button>
            ))}
            <b className="num ml-2 text-ink">{run ? `${(run.seconds / 60).toFixed(1)} min` : ""}</b>
          </span>
        )}
      </div>
      <div className="grid grid-cols-3 gap-4 max-[900px]:grid-cols-[minmax(0,1fr)]">
        {sheet === "discharge" ? (
          trace.length > 0 ? (
            <>
              <CurveChart
                title="Pack voltage under the heaviest phase"
                xTitle="minutes"
                yTitle="voltage, V"
                points={trace.map((t) => ({ x: t.seconds / 60, y: t.voltage, sd: 0 }))}
                limits={[]}
                xMax={(trace.at(-1)?.seconds ?? 60) / 60}
                fromZero={false}
              />
              <CurveChart
                title="Pack power, heaviest phase"
                xTitle="minutes"
                yTitle="power, W"
                points={trace.map((t) => ({ x: t.seconds / 60, y: t.power, sd: 0 }))}
                limits={[]}
                xMax={(trace.at(-1)?.seconds ?? 60) / 60}
              />
              <CurveChart
                title="State of charge"
                xTitle="minutes"
                yTitle="charge, %"
                points={trace.map((t) => ({ x: t.seconds / 60, y: t.charge * 100, sd: 0 }))}
                limits={[]}
                xMax={(trace.at(-1)?.seconds ?? 60) / 60}
              />
            </>
          ) : (
            <p>State a duty first: what the pack is asked for over a run.</p>
          )
        ) : (
          <>
            <CurveChart
              title={sheet === "speed" ? "Thrust and drag" : "Thrust, standing"}
              xTitle={x.title}
              yTitle="thrust, N"
              points={points.thrust}
              limits={thrustLimits}
              at={x.at}
              xMax={xMax}
              line={drag}
            />
            <CurveChart title="Motor current" xTitle={x.title} yTitle="current, A" points={points.current} limits={currentLimits} at={x.at} xMax={xMax} />
            <CurveChart title="Thrust for each watt" xTitle={x.title} yTitle="mN for each W" points={points.economy} limits={[]} at={x.at} xMax={xMax} />
          </>
        )}
      </div>
    </section>
  );
}
