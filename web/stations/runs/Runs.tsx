import { useState } from "react";
import { useHotkeys } from "react-hotkeys-hook";
import { useSearchParams } from "react-router";
import { type Run, STAGES, isMetricKey } from "../../../core/design/craftFile";
import { METRICS } from "../../../core/design/metrics";
import { miss } from "../../../core/runs/miss";
import { plain, show } from "../../../core/wording/format";
import { useDesk } from "../../app/desk";
import { usePreferences } from "../../app/preferences";
import { Cairn } from "../../glyphs/Cairn";
import { MissBar } from "../../glyphs/MissBar";
import { ChecklistSheet } from "./ChecklistSheet";
import { RunForm } from "./RunForm";
import { SeriesSheet } from "./SeriesSheet";

export const OUTCOME: Record<Run["outcome"], { word: string; colour: string }> = {
  passed: { word: "Passed", colour: "text-clear" },
  partly: { word: "Partly", colour: "text-care" },
  failed: { word: "Failed", colour: "text-stop" },
  aborted: { word: "Aborted", colour: "text-care" },
};
const MISS_COLOUR = { agrees: "text-ink2", doubtful: "text-care", disagrees: "text-stop font-semibold" };

export const metricLabel = (name: string) => (isMetricKey(name) ? METRICS[name].label : name);
export const faultName = (n: number) => `F-${String(n).padStart(2, "0")}`;

/** The seven rungs with the runs of this version on them: filled squares passed, crosses failed. */
function Ladder({ runs, current, onPick }: { runs: Run[]; current: number | null; onPick: (n: number) => void }) {
  const reached = Math.max(0, ...runs.filter((r) => r.outcome === "passed").map((r) => r.stage));
  return (
    <ol aria-label="Test ladder" className="flex flex-col-reverse">
      {STAGES.map((stage, i) => {
        const rung = i + 1;
        const here = runs.filter((r) => r.stage === rung);
        const done = rung <= reached;
        return (
          <li key={stage} className={`border-l-[5px] pb-3 pl-3 ${done ? "border-ink" : "border-hair"}`}>
            <p className={done ? "font-semibold text-ink" : "text-pencil"}>
              <span className="num">{rung}</span> {stage}
            </p>
            <p className="flex flex-wrap gap-1">
              {here.map((r) => (
                <button
                  type="button"
                  key={r.number}
                  aria-current={r.number === current ? "true" : undefined}
                  aria-label={`Run ${r.number}, ${OUTCOME[r.outcome].word}`}
                  onClick={() => onPick(r.number)}
                  className={`num min-h-6 px-1 ${r.number === current ? "bg-accent text-on-accent" : OUTCOME[r.outcome].colour}`}
                >
                  {r.outcome === "passed" ? "■" : r.outcome === "failed" ? "×" : "□"} {r.number}
                </button>
              ))}
            </p>
          </li>
        );
      })}
    </ol>
  );
}

function Detail({ run, onEdit }: { run: Run; onEdit: () => void }) {
  const { file, go } = useDesk();
  const { habit } = usePreferences();
  const faults = file.faults.filter((f) => f.run === run.number);
  const outcome = OUTCOME[run.outcome];
  const condition = (label: string, value: string | null) =>
    value && (
      <tr>
        <td className="w-28">{label}</td>
        <td className="text-ink">{value}</td>
      </tr>
    );
  return (
    <article aria-label={`Run ${run.number}`}>
      <header className="flex items-baseline gap-3 border-b border-ink pb-1">
        <h2 className="text-[18px]">Run {run.number}</h2>
        <b className="text-ink">{run.purpose}</b>
        <span className="text-pencil">
          {run.date.slice(0, 10)}, {run.date.slice(11, 16)}
          {run.place && `, ${run.place}`}
        </span>
        <button type="button" className="link no-print ml-auto" onClick={onEdit}>
          Edit
        </button>
      </header>
      <div className="mt-2 grid grid-cols-2 gap-6 max-[640px]:grid-cols-[minmax(0,1fr)]">
        <section>
          <h3>Conditions</h3>
          <table className="w-full">
            <tbody>
              {condition("Air", run.conditions.airTemperature === null ? null : plain(run.conditions.airTemperature, "temperature", habit))}
              {condition("Wind", run.conditions.wind === null ? null : plain(run.conditions.wind, "speed", habit))}
              {condition("Surface", run.conditions.surface)}
              {condition("Pack", run.pack.name)}
              {condition("Pack at rest", run.pack.restingVoltage === null ? null : plain(run.pack.restingVoltage, "voltage"))}
              {condition("Pack afterwards", run.pack.endVoltage === null ? null : plain(run.pack.endVoltage, "voltage"))}
              {condition("Pilot", run.pilot)}
            </tbody>
          </table>
        </section>
        <section>
          <h3>Outcome</h3>
          <p className={`text-[15px] font-semibold ${outcome.colour}`}>
            {outcome.word}, rung {run.stage}
          </p>
          <p>{run.notes}</p>
          {run.laps.length > 0 && (
            <button type="button" className="link block" onClick={() => go({ station: "runs", search: { series: "1", course: run.course } })}>
              {run.laps.length} laps of {run.course}
            </button>
          )}
          {faults.map((f) => (
            <button key={f.number} type="button" className="link block" onClick={() => go({ station: "faults", search: { fault: String(f.number) } })}>
              {faultName(f.number)} {f.title}
            </button>
          ))}
          <button type="button" className="act no-print mt-2" onClick={() => go({ station: "faults", search: { new: String(run.number) } })}>
            Record a fault
          </button>
        </section>
      </div>
      <h3 className="mt-4">Predicted against measured</h3>
      {run.metrics.length === 0 ? (
        <p className="text-pencil">Nothing measured. Weigh it, or read the pack: one number is enough to learn from.</p>
      ) : (
        <div className="wide">
          <table className="rows mt-1 w-full">
            <thead>
              <tr>
                <th>measured in the run</th>
                <th className="text-right!">predicted</th>
                <th />
                <th className="text-right!">measured</th>
                <th>by</th>
                <th>miss, in steps of ±</th>
                <th />
              </tr>
            </thead>
            <tbody>
              {run.metrics.map((m) => {
                const p = m.predicted && show(m.predicted.value, m.predicted.sd, m.dimension, habit);
                const r = m.measured && show(m.measured.value, m.measured.sd, m.dimension, habit);
                const missed = m.predicted && m.measured ? miss(m.predicted, m.measured) : null;
                return (
                  <tr key={m.metric} data-run-metric={m.metric}>
                    <td className="text-ink">{metricLabel(m.metric)}</td>
                    <td className="num predicted whitespace-nowrap text-right">{p ? `${p.value}${p.sd ? ` ± ${p.sd}` : ""} ${p.unit}` : "not predicted"}</td>
                    <td>{m.predicted && <Cairn level={m.predicted.evidence} />}</td>
                    <td className="num measured whitespace-nowrap text-right">{r ? `${r.value}${r.sd ? ` ± ${r.sd}` : ""} ${r.unit}` : "–"}</td>
                    <td>{m.measured?.by}</td>
                    <td>{missed && <MissBar miss={missed} />}</td>
                    <td className={missed ? MISS_COLOUR[missed.verdict] : ""}>
                      {missed && (
                        <>
                          <span className="num">
                            {missed.steps > 0 ? "+" : "−"}
                            {Math.abs(missed.steps).toFixed(1)}
                          </span>{" "}
                          {missed.verdict}
                        </>
                      )}
                    </td>
                  </tr>
                );
              })}
            </tbody>
          </table>
        </div>
      )}
    </article>
  );
}

export function RunsStation() {
  const { file, version } = useDesk();
  const { keys } = usePreferences();
  const [search, setSearch] = useSearchParams();
  const [editing, setEditing] = useState<"new" | number | null>(null);
  const runs = file.runs.filter((r) => r.version === version.label);
  const asked = Number(search.get("run"));
  const run = runs.find((r) => r.number === asked) ?? runs.at(-1);
  const edited = typeof editing === "number" ? runs.find((r) => r.number === editing) : undefined;
  useHotkeys("n", () => setEditing("new"), { enabled: keys && editing === null, preventDefault: true });
  return (
    <div className="grid h-full grid-cols-[184px_1fr] max-[640px]:grid-cols-[minmax(0,1fr)]">
      <section className="border-r border-hair px-4 py-3 max-[640px]:hidden">
        <h2 className="mb-3">Test ladder</h2>
        <Ladder
          runs={runs}
          current={editing === null ? (run?.number ?? null) : null}
          onPick={(n) => {
            setEditing(null);
            setSearch({ run: String(n) });
          }}
        />
        <button type="button" className="act act-first no-print mt-2" disabled={editing === "new"} onClick={() => setEditing("new")}>
          Log a run
        </button>
        <button
          type="button"
          className="link no-print mt-3 block"
          onClick={() => {
            setEditing(null);
            setSearch({ series: "1" });
          }}
        >
          Compare series
        </button>
        <button
          type="button"
          className="link no-print mt-2 block"
          onClick={() => {
            setEditing(null);
            setSearch({ list: "at the site" });
          }}
        >
          Checklists
        </button>
      </section>
      <section className="px-4 py-3">
        {editing === null && search.has("list") ? (
          <ChecklistSheet />
        ) : editing === null && search.has("series") ? (
          <SeriesSheet />
        ) : editing === "new" || edited ? (
          <RunForm
            key={String(editing)}
            run={edited}
            onDone={(n) => {
              setEditing(null);
              if (n !== null) setSearch({ run: String(n) });
            }}
          />
        ) : run ? (
          <Detail run={run} onEdit={() => setEditing(run.number)} />
        ) : (
          <>
            <h2 className="text-[18px]">No run of {version.label} yet</h2>
            <p className="mt-2 max-w-lg">
              Start on the lowest rung: power off, on the bench. Weigh it, balance it, check that every surface moves the right way, and log that as run one.
            </p>
            <button type="button" className="act act-first mt-4" onClick={() => setEditing("new")}>
              Log the first run
            </button>
            <button type="button" className="link mt-3 block" onClick={() => setSearch({ series: "1" })}>
              or read laps of a course from a file
            </button>
          </>
        )}
      </section>
    </div>
  );
}
