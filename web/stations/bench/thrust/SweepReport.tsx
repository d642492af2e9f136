import { useMemo, useState } from "react";
import { learnFrom } from "../../../../core/bench/learn";
import type { PredictedLevel } from "../../../../core/bench/predict";
import { predictLevels } from "../../../../core/bench/predict";
import { correctionsFor, sharedCurrentError, sharedThrustError } from "../../../../core/bench/rig";
import type { SweepPoint, SweepResult } from "../../../../core/bench/sweep";
import { readSweep } from "../../../../core/bench/sweep";
import type { Bench } from "../../../../core/design/bench";
import type { ThrustTest } from "../../../../core/design/thrustTest";
import { miss } from "../../../../core/runs/miss";
import { openCircuit } from "../../../../core/subjects/energy/battery";
import { operatingAt } from "../../../../core/subjects/propulsion/band";
import { plain, showSd } from "../../../../core/wording/format";
import { suspectText } from "../../../../core/wording/sweep";
import { useDesk } from "../../../app/desk";
import { usePreferences } from "../../../app/preferences";
import { MissBar } from "../../../glyphs/MissBar";
import { SweepCharts } from "./SweepCharts";
import { SweepNumbers } from "./SweepNumbers";
import { TakeOver } from "./TakeOver";

interface Props {
  test: ThrustTest;
  /** null while it is not kept, or changed since */
  session: Bench | null;
  onChange: (change: (t: ThrustTest) => void) => void;
  onLearn: (asked: { unitIds: string[]; pack: boolean }) => void;
  busy: boolean;
}

/**
 * What a sweep says: at once, beside the prediction, with what the stand and the drive give away, and what may be
 * taken over.
 */
export function SweepReport({ test, session, onChange, onLearn, busy }: Props) {
  const { file, design } = useDesk();
  const { habit } = usePreferences();
  const [everyLevel, setEveryLevel] = useState(false);
  const unit = design.units.find((u) => u.id === test.unitId);
  const corrections = useMemo(() => correctionsFor(test.rig, file.bench), [test.rig, file.bench]);
  const result = useMemo(() => readSweep(test, corrections, unit ?? null), [test, corrections, unit]);
  const battery = design.batteries.find((b) => b.id === unit?.batteryId);
  const predicted = useMemo(
    () =>
      unit
        ? predictLevels(
            unit,
            result.levels,
            result.density,
            battery ? openCircuit(battery.chemistry, 0.8) * battery.series : 10,
          )
        : [],
    [unit, result, battery],
  );
  // How far off the model alone was thought to be, whatever has been learned since.
  const share = useMemo(() => {
    if (!unit) return 0.15;
    const k = design.units.indexOf(unit);
    const bare = operatingAt(
      { ...design, units: design.units.map((u) => (u.id === unit.id ? { ...u, learned: null } : u)) },
      1,
    );
    const point = bare?.points[k];
    return point ? (bare?.sd[k]?.thrust ?? 0) / Math.max(1e-9, point.thrust) : 0.15;
  }, [design, unit]);
  const current = sharedCurrentError(test.rig, corrections.current);
  const shared = sharedThrustError(test.rig, corrections.scale);
  const lesson = useMemo(
    () =>
      unit ? learnFrom(unit, battery ?? null, result, session?.number ?? 1, file.craft.name, shared, current) : null,
    [unit, battery, result, session, file.craft.name, shared, current],
  );
  const [packToo, setPackToo] = useState<boolean | null>(null);
  const [chosen, setChosen] = useState<string[] | null>(null);
  if (result.levels.length < 2)
    return <p className="mt-3 text-pencil">Readings at two throttles or more, and the result stands here.</p>;

  const topPredicted = predicted.at(-1)?.thrust ?? null;
  const left = result.points.filter((p) => p.thrust !== null && (p.out !== "" || p.expected !== null));
  const spikes = result.points.filter((p) => p.expected !== null);
  const was = topPredicted === null ? null : { value: topPredicted, sd: share * topPredicted };
  const missed = was && miss(was, result.top);
  return (
    <section aria-label="Result of the sweep" className="mt-3 text-[12px]">
      <SweepCharts result={result} predicted={predicted} left={left} />
      <div className="mt-3 grid grid-cols-[minmax(0,1fr)_minmax(0,1fr)] gap-5 max-[900px]:grid-cols-[minmax(0,1fr)]">
        <SweepNumbers result={result} />
        <div>
          {was && (
            <div data-miss>
              <h3 className="text-[13px]">Predicted and measured, top thrust</h3>
              <p className="num mt-1">
                <span className="predicted">
                  {plain(was.value, "force", habit)} ± {showSd(was.sd, "force", habit)}
                </span>{" "}
                → <span className="measured text-ink">{plain(result.top.value, "force", habit)}</span>{" "}
                {missed && <MissBar miss={missed} />}
              </p>
            </div>
          )}
          {result.suspects.length > 0 && (
            <>
              <h3 className="mt-3 text-[13px]">What the readings give away</h3>
              <ul className="mt-1 list-disc pl-4">
                {result.suspects.map((s) => (
                  <li
                    key={s.kind}
                    data-suspect={s.kind}
                    className={s.kind === "fades" || s.kind === "friction" ? "" : "text-care"}
                  >
                    {suspectText(s, habit)}
                    {s.kind === "off-tare" && (
                      <button
                        type="button"
                        className="link ml-1"
                        onClick={() => onChange((t) => void (t.rig.tare = s.reading))}
                      >
                        take {plain(s.reading, "mass", habit, 1)} as tare
                      </button>
                    )}
                  </li>
                ))}
              </ul>
            </>
          )}
          {(spikes.length > 0 || left.length > 0) && <LeftOut onChange={onChange} left={left} />}
          <TakeOver
            session={session}
            unit={unit}
            battery={battery}
            result={result}
            test={test}
            packToo={packToo}
            chosen={chosen}
            lesson={lesson}
            setChosen={setChosen}
            setPackToo={setPackToo}
            busy={busy}
            onLearn={onLearn}
          />
        </div>
      </div>
      <button type="button" className="link mt-3" aria-expanded={everyLevel} onClick={() => setEveryLevel(!everyLevel)}>
        {everyLevel ? "hide" : "show"} every throttle
      </button>
      {everyLevel && <EveryLevel result={result} predicted={predicted} />}
      <p className="mt-1 text-[11px] text-pencil" hidden={habit === "metric"}>
        Thrust is shown in newtons here, whatever the other units.
      </p>
    </section>
  );
}

/** Every throttle of the sweep. */
function EveryLevel({ result, predicted }: { result: SweepResult; predicted: PredictedLevel[] }) {
  const { habit } = usePreferences();

  return (
    <div className="wide">
      <table className="rows mt-1 w-full">
        <thead>
          <tr>
            {["throttle", "readings", "thrust", "predicted", "V", "A", "W", "rpm", "mN/W"].map((h) => (
              <th key={h} className="text-right!">
                {h}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {result.levels.map((l) => (
            <tr key={l.throttle} className="num text-right">
              <td>{(l.throttle * 100).toFixed(1)} %</td>
              <td>{l.count}</td>
              <td className="text-ink">
                {plain(l.thrust, "force", habit)} ± {showSd(l.thrustSd, "force", habit)}
              </td>
              <td className="predicted">
                {plain(predicted.find((p) => p.throttle === l.throttle)?.thrust ?? 0, "force", habit)}
              </td>
              <td>{l.voltage?.toFixed(2) ?? "–"}</td>
              <td>{l.current?.toFixed(2) ?? "–"}</td>
              <td>{l.power?.toFixed(1) ?? "–"}</td>
              <td>{l.rpm?.toFixed(0) ?? "–"}</td>
              <td>{l.power !== null && l.power > 1 ? ((1000 * l.thrust) / l.power).toFixed(1) : "–"}</td>
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  );
}

/** Readings that do not count, each with why. */
function LeftOut({ onChange, left }: { onChange: (change: (t: ThrustTest) => void) => void; left: SweepPoint[] }) {
  const { habit } = usePreferences();
  const leave = (index: number, why: string) =>
    onChange((t) => void (t.readings[index] && (t.readings[index].out = why)));
  return (
    <>
      <h3 className="mt-3 text-[13px]">Left out</h3>
      <ul className="mt-1">
        {left.slice(0, 12).map((p) => (
          <li key={p.index}>
            Reading {p.index + 1} at {(p.throttle * 100).toFixed(1)} %:{" "}
            <b className="num">{plain(p.thrust ?? 0, "force", habit)}</b>
            {p.expected !== null ? `, ${plain(p.expected, "force", habit)} beside it` : `, ${p.out}`}{" "}
            {p.out === "" ? (
              <button type="button" className="link" onClick={() => leave(p.index, "stands far off")}>
                leave it out for good
              </button>
            ) : (
              <button type="button" className="link" onClick={() => leave(p.index, "")}>
                count it
              </button>
            )}
          </li>
        ))}
      </ul>
    </>
  );
}
