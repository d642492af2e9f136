import { useMemo, useState } from "react";
import { useSearchParams } from "react-router";
import { METRICS, type MetricKey } from "../../../core/design/metrics";
import { plain } from "../../../core/wording/format";
import type { PowerResult } from "../../../core/power/evaluatePower";
import { Computed } from "../../app/Computed";
import { useDesk } from "../../app/desk";
import { usePreferences } from "../../app/preferences";
import "../../charts/setup";
import { CurveChart, type Limit } from "../../charts/CurveChart";
import { Cautions } from "../runs/Cautions";
import { DriveForm } from "./DriveForm";
import { Duty } from "./Duty";
import { PowerBand } from "./PowerBand";
import { firstDrive } from "./describe";

const RESULTS: MetricKey[] = [
  "thrust",
  "thrustToWeight",
  "thrustThrottle",
  "current",
  "packCurrent",
  "packVoltage",
  "packPower",
  "rpm",
  "torque",
  "motorLoss",
  "tipMach",
  "endurance",
];

function Curves({ result, throttle }: { result: PowerResult; throttle: number }) {
  const { design, evaluation } = useDesk();
  const unit = design.units[0];
  const weight = (evaluation.mass?.mass ?? 0) * 9.80665;
  const thrust = useMemo(() => result.curve.map((c) => ({ x: c.throttle * 100, y: c.thrust, sd: c.thrustSd })), [result]);
  const current = useMemo(() => result.curve.map((c) => ({ x: c.throttle * 100, y: c.current, sd: c.currentSd })), [result]);
  const full = result.values.thrust;
  const thrustLimits = useMemo<Limit[]>(() => {
    const asked = design.brief.targets.flatMap((t): Limit[] =>
      t.metric === "thrustToWeight" && t.comparison === "atLeast" && weight > 0
        ? [{ value: t.value * weight, label: `asked ${(t.value * weight).toFixed(1)} N`, colour: "care" }]
        : t.metric === "thrust" && t.comparison === "atLeast"
          ? [{ value: t.value, label: `asked ${t.value.toFixed(1)} N`, colour: "care" }]
          : [],
    );
    return weight > 0 && weight < full * 2 ? [...asked, { value: weight, label: `weight ${weight.toFixed(1)} N`, colour: "clear" }] : asked;
  }, [design.brief.targets, weight, full]);
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
  return (
    <div className="grid grid-cols-2 gap-4 px-4 py-3 max-[640px]:grid-cols-1">
      <CurveChart title="Thrust, standing" xTitle="throttle, %" yTitle="thrust, N" points={thrust} limits={thrustLimits} at={throttle * 100} />
      <CurveChart title="Motor current, standing" xTitle="throttle, %" yTitle="current, A" points={current} limits={currentLimits} at={throttle * 100} />
    </div>
  );
}

export function PowerStation() {
  const { design, evaluation, edit, preview } = useDesk();
  const { habit } = usePreferences();
  const [search, setSearch] = useSearchParams();
  const { power } = evaluation;
  const unit = design.units[0];
  const battery = design.batteries[0];
  const limit = unit?.throttleLimit ?? 1;
  const asked = Number(search.get("throttle") ?? Number.NaN);
  const [live, setLive] = useState<number | null>(null);
  const throttle = Math.min(live ?? (Number.isFinite(asked) ? asked / 100 : limit), 1);
  const here = power.status === "solved" ? power.result.at(throttle) : null;
  if (!unit || !battery)
    return (
      <section className="p-6">
        <h2 className="text-[18px]">No drive yet</h2>
        <p className="mt-2">Begin with what is on the bench: the pack's cells and capacity, the motor's Kv, the size stamped on the propeller.</p>
        <button
          type="button"
          className="act act-first mt-4"
          onClick={() =>
            edit((d) => {
              const made = firstDrive(d, evaluation.mass?.mass ?? null);
              d.batteries = [made.battery];
              d.units = [made.unit];
              if (d.duty.length === 0)
                d.duty = [
                  {
                    id: "p1",
                    name: d.heldUpBy === "rotors" ? "Hover" : "Cruise",
                    share: 1,
                    by: d.heldUpBy === "rotors" ? "thrustToWeight" : "throttle",
                    value: d.heldUpBy === "rotors" ? 1 : 0.5,
                  },
                ];
            })
          }
        >
          Describe a drive
        </button>
      </section>
    );
  const { environment } = design.brief;
  return (
    <>
      <div className="flex flex-wrap items-center gap-3 border-b border-hair px-4 py-2">
        <label className="flex flex-1 items-center gap-2">
          Standing, throttle
          <input
            type="range"
            min={0}
            max={100}
            aria-label="Throttle, %"
            className="w-56 accent-[var(--accent)]"
            value={Math.round(throttle * 100)}
            onChange={(e) => setLive(Number(e.target.value) / 100)}
            onPointerUp={() => {
              setSearch({ throttle: String(Math.round(throttle * 100)) }, { replace: true });
              setLive(null);
            }}
            onBlur={() => {
              if (live !== null) setSearch({ throttle: String(Math.round(throttle * 100)) }, { replace: true });
              setLive(null);
            }}
          />
          <b className="num w-12 text-ink">{Math.round(throttle * 100)} %</b>
        </label>
        <span className="num text-[11px] text-pencil">
          air {environment.airTemperature} °C, pack {environment.packTemperature} °C, {evaluation.metrics.airDensity?.value.toFixed(3)} kg/m³
        </span>
      </div>
      <div className="wide px-4 pt-3">
        {here ? <PowerBand point={here.point} sd={here.sd} unit={unit} battery={battery} /> : <p>The drive has no operating point at this throttle. The verdict says why.</p>}
      </div>
      {power.status === "solved" && <Curves result={power.result} throttle={throttle} />}
      <div className="grid grid-cols-[1fr_320px] gap-6 border-t border-hair px-4 py-3 max-[640px]:grid-cols-[minmax(0,1fr)]">
        <DriveForm unit={unit} battery={battery} />
        <div>
          <h2>At full throttle{limit < 1 ? `, limited to ${Math.round(limit * 100)} %` : ""}</h2>
          <table className="rows mt-1 w-full">
            <tbody>
              {RESULTS.map((key) => {
                const q = evaluation.metrics[key];
                const then = preview?.evaluation.metrics[key];
                if (!q && key === "thrustThrottle") return null;
                return (
                  <tr key={key}>
                    <td>{METRICS[key].label.replace(", full throttle", "")}</td>
                    <td className="text-right">
                      <Computed metric={key} quantity={q} />
                      {then && q && Math.abs(then.value - q.value) > 1e-4 * Math.abs(q.value) && (
                        <span className="num block text-accent">→ {then.value === undefined ? "" : shownNumber(then.value, key, habit)}</span>
                      )}
                    </td>
                  </tr>
                );
              })}
            </tbody>
          </table>
          <Duty />
          <Cautions />
        </div>
      </div>
    </>
  );
}

const shownNumber = (value: number, key: MetricKey, habit: "metric" | "imperial") => plain(value, METRICS[key].dimension, habit);
