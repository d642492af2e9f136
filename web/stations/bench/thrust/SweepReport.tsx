import { useMemo, useState } from "react";
import { learnFrom } from "../../../../core/bench/learn";
import { predictLevels } from "../../../../core/bench/predict";
import { correctionsFor, sharedCurrentError, sharedThrustError } from "../../../../core/bench/rig";
import { STANDARD_DENSITY, readSweep } from "../../../../core/bench/sweep";
import type { Bench, ThrustTest } from "../../../../core/design/bench";
import { operatingAt } from "../../../../core/subjects/propulsion/band";
import { openCircuit } from "../../../../core/subjects/energy/battery";
import { packFrom } from "../../../../core/bench/learnPack";
import { partsChanged } from "../../../../core/subjects/propulsion/learned";
import { plain, showSd } from "../../../../core/wording/format";
import { curveText, learnText, suspectText } from "../../../../core/wording/sweep";
import { useDesk } from "../../../app/desk";
import { usePreferences } from "../../../app/preferences";
import { SweepChart } from "../../../charts/SweepChart";
import { miss } from "../../../../core/runs/miss";
import { MissBar } from "../../../glyphs/MissBar";
import { code } from "../useSession";

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
  // Drives that have the very parts that were on the stand: what was learned is theirs too.
  const tested = session?.thrust?.drive ?? null;
  const alike = design.units.filter(
    (u) => unit && (tested ? partsChanged(u, tested) : partsChanged(u, unit)).length === 0,
  );
  const fed =
    unit &&
    packFrom(
      design,
      unit.id,
      tested?.battery ?? battery ?? null,
      result.resistance,
      test.air.temperature,
      session?.number ?? 1,
    );
  const [packToo, setPackToo] = useState<boolean | null>(null);
  const withPack = fed ? (packToo ?? fed.usual) : false;
  const [chosen, setChosen] = useState<string[] | null>(null);
  const taken = chosen ?? alike.map((u) => u.id);
  if (result.levels.length < 2)
    return <p className="mt-3 text-pencil">Readings at two throttles or more, and the result stands here.</p>;

  const topPredicted = predicted.at(-1)?.thrust ?? null;
  const counted = result.points.filter((p) => p.thrust !== null && p.out === "" && p.expected === null);
  const pick = (direction: "up" | "down") => counted.filter((p) => (direction === "down") === (p.direction === "down"));
  const left = result.points.filter((p) => p.thrust !== null && (p.out !== "" || p.expected !== null));
  const percentOf = (v: number) => v * 100;
  const fit =
    result.curve.status === "converged"
      ? Array.from({ length: 41 }, (_, i) => i / 40).map((u) => ({
          x: u * 100,
          y: Math.max(0, result.curve.tMax * ((1 - result.curve.e) * u + result.curve.e * u * u)),
        }))
      : [];
  const spikes = result.points.filter((p) => p.expected !== null);
  const leave = (index: number, why: string) =>
    onChange((t) => void (t.readings[index] && (t.readings[index].out = why)));
  const standard = STANDARD_DENSITY / result.density;
  const row = (label: string, value: string, hint = "") => (
    <tr key={label} data-sweep={label}>
      <td>{label}</td>
      <td className="num measured text-right whitespace-nowrap text-ink">{value}</td>
      <td className="text-pencil">{hint}</td>
    </tr>
  );
  const was = topPredicted === null ? null : { value: topPredicted, sd: share * topPredicted };
  const missed = was && miss(was, result.top);
  return (
    <section aria-label="Result of the sweep" className="mt-3 text-[12px]">
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
      <div className="mt-3 grid grid-cols-[minmax(0,1fr)_minmax(0,1fr)] gap-5 max-[900px]:grid-cols-[minmax(0,1fr)]">
        <table className="rows h-max w-full">
          <tbody>
            {row(
              "Top thrust",
              `${plain(result.top.value, "force", habit)} ± ${showSd(result.top.sd, "force", habit)}`,
              result.top.each.length > 1 ? `by sweep ${result.top.each.map((t) => t.toFixed(2)).join(", ")} N` : "",
            )}
            {row(
              "In standard air",
              plain(result.top.value * standard, "force", habit),
              `at the same speed, × ${standard.toFixed(3)}`,
            )}
            {result.curve.status === "converged" &&
              row(
                "Curve",
                `e ${result.curve.e.toFixed(2)} ± ${result.curve.range.toFixed(2)}`,
                curveText(result).replace(/^[^:]*: /, ""),
              )}
            {result.deadBand &&
              row(
                "Dead band",
                `${(result.deadBand.mean * 100).toFixed(1)} ± ${(result.deadBand.sd * 100).toFixed(1)} %`,
                result.deadBand.by === "rpm"
                  ? `starts at ${((result.deadBand.start ?? 0) * 100).toFixed(1)} %, stops at ${((result.deadBand.stop ?? 0) * 100).toFixed(1)} %`
                  : "by thrust: 2 % of the top",
              )}
            {row(
              "Most useful throttle",
              `${(result.maxUseful * 100).toFixed(0)} %`,
              result.saturation === null ? "it rises to the end" : "nothing more comes above it",
            )}
            {result.idle !== null &&
              row("Idle throttle, suggested", `${(result.idle * 100).toFixed(0)} %`, "just above where it starts")}
            {result.half &&
              row(
                "At half thrust",
                `${(result.half.throttle * 100).toFixed(1)} %`,
                [
                  result.half.power !== null &&
                    `${plain(result.half.power, "power", habit)}, ${((1000 * result.half.thrust) / result.half.power).toFixed(1)} mN/W (${(((result.half.thrust / 9.80665) * 1000) / result.half.power).toFixed(2)} g/W)`,
                  result.half.merit !== null && `figure of merit ${result.half.merit.toFixed(2)}`,
                ]
                  .filter(Boolean)
                  .join(", "),
              )}
            {result.hysteresis &&
              row(
                "Rising less falling",
                `${plain(result.hysteresis.value, "force", habit)} ± ${showSd(result.hysteresis.sd, "force", habit)}`,
                `at ${(result.hysteresis.throttle * 100).toFixed(0)} %`,
              )}
            {result.constancy &&
              row(
                "Thrust over speed²",
                `${(result.constancy.change * 100).toFixed(2)} ± ${(result.constancy.sd * 100).toFixed(2)} %`,
                "from the middle speed to the top: steady blades stay near 0",
              )}
            {result.resistance &&
              row(
                "Pack and leads",
                `${plain(result.resistance.value, "resistance", habit)} ± ${showSd(result.resistance.sd, "resistance", habit)}`,
                `sag ${plain(result.resistance.volts, "voltage", habit)} at most`,
              )}
            {result.temperature &&
              row(
                "Motor",
                plain(result.temperature.highest, "temperature", habit),
                `rise ${result.temperature.rise.toFixed(0)} K${result.temperature.perMinute === null ? "" : `, ${result.temperature.perMinute.toFixed(1)} K a minute`}`,
              )}
            {result.highest.current !== null && row("Most current", plain(result.highest.current, "current", habit))}
            {result.highest.rpm !== null && row("Highest speed", plain(result.highest.rpm, "rotation", habit))}
            {result.noise !== null && row("Loudest", `${result.noise.toFixed(0)} dB`)}
          </tbody>
        </table>
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
          {(spikes.length > 0 || left.length > 0) && (
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
          )}
          <section aria-label="Take it over" className="mt-3 border-t border-hair pt-2">
            <h3 className="text-[13px]">Take it over</h3>
            {unit?.measured && (
              <p className="text-care">
                {unit.name} counts by its measured curve: what is taken over here counts once it is known by its parts.
                In Power, under the drive, these readings can be its curve.
              </p>
            )}
            {lesson === null ? (
              <p>The drive of this sweep is no longer in the version.</p>
            ) : !lesson.ok ? (
              <p className="text-care">{lesson.message}</p>
            ) : (
              <>
                <p className="mt-1" data-lesson>
                  {learnText(lesson)}
                </p>
                {alike.length === 0 ? (
                  <p className="mt-1 text-care">
                    Stale: no drive of this version has the parts that were on the stand.
                  </p>
                ) : (
                  <p className="mt-1 flex flex-wrap items-center gap-x-3">
                    {alike.map((u) => (
                      <label key={u.id} className="flex min-h-7 items-center gap-1">
                        <input
                          type="checkbox"
                          checked={taken.includes(u.id)}
                          onChange={(e) =>
                            setChosen(e.target.checked ? [...taken, u.id] : taken.filter((x) => x !== u.id))
                          }
                        />
                        {u.name}
                        {u.count > 1 ? `, ${u.count}` : ""}
                      </label>
                    ))}
                    {fed && (
                      <label className="flex min-h-7 w-full items-center gap-1" data-pack-too>
                        <input type="checkbox" checked={withPack} onChange={(e) => setPackToo(e.target.checked)} />
                        <span>
                          {fed.name} fed the stand: take over its resistance too,{" "}
                          <b className="num text-ink">{plain(fed.cellResistance.value, "resistance", habit)}</b>{" "}
                          <span className="num">± {showSd(fed.cellResistance.sd ?? 0, "resistance", habit)}</span> a
                          cell
                          {fed.usual
                            ? ""
                            : `, far from the ${plain(battery?.cellResistance.value ?? 0, "resistance", habit)} entered: a bench supply, a tired pack or a poor plug`}
                        </span>
                      </label>
                    )}
                    <button
                      type="button"
                      className="act act-first"
                      disabled={session === null || busy || taken.length === 0}
                      onClick={() => onLearn({ unitIds: taken, pack: withPack })}
                    >
                      Take the curve over
                    </button>
                    {session === null && <span className="text-pencil">Keep the session first.</span>}
                    {session && session.adopted !== "" && (
                      <span className="text-clear">
                        {code(session.number)}: {session.adopted}
                      </span>
                    )}
                  </p>
                )}
              </>
            )}
          </section>
        </div>
      </div>
      <button type="button" className="link mt-3" aria-expanded={everyLevel} onClick={() => setEveryLevel(!everyLevel)}>
        {everyLevel ? "hide" : "show"} every throttle
      </button>
      {everyLevel && (
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
      )}
      <p className="mt-1 text-[11px] text-pencil" hidden={habit === "metric"}>
        Thrust is shown in newtons here, whatever the other units.
      </p>
    </section>
  );
}
