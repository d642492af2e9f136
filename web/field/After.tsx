import { useState } from "react";
import type { NewRun } from "../../api/contracts";
import type { Gate } from "../../core/design/ladder";
import { EVIDENCE_STEPS, OUTCOMES } from "../../core/design/runEnds";
import type { DriveRow } from "../../core/runs/eachDrive";
import type { FieldRung } from "../../core/runs/sheetShape";
import { EVIDENCE_TEXT } from "../../core/wording/evidence";
import { gateLine } from "../../core/wording/gate";
import { usePreferences } from "../app/preferences";
import { QuantityField } from "../fields/QuantityField";
import type { RunDraft } from "../stations/runs/blankRun";
import { EachDrive } from "../stations/runs/EachDrive";
import { OUTCOME, clock } from "../stations/runs/words";
import { type FieldLog, crashed } from "./log";

/** Standard uncertainty of a reading at the site when nobody says another, as a share (common practice). */
const READING = 0.02;

/** What comes first after a crash, in its order; what follows waits until it is done. */
function Evidence({ run, onChange }: { run: RunDraft; onChange: (run: RunDraft) => void }) {
  const { crash } = run;
  if (!crash) return null;
  const first = EVIDENCE_STEPS.find((s) => !crash.steps[s]);
  return (
    <section aria-label="Evidence first" className="border-2 border-stop p-3">
      <h2 className="text-[19px] text-stop">Evidence first, in this order</h2>
      <ol>
        {EVIDENCE_STEPS.map((step, i) => (
          <li key={step} data-step={step}>
            <label
              className={`flex min-h-14 items-center gap-3 ${!crash.steps[step] && step !== first ? "text-pencil" : ""}`}
            >
              <input
                type="checkbox"
                className="h-7 w-7 shrink-0"
                checked={crash.steps[step]}
                disabled={!crash.steps[step] && step !== first}
                onChange={(e) =>
                  onChange({ ...run, crash: { ...crash, steps: { ...crash.steps, [step]: e.target.checked } } })
                }
              />
              <span>
                <b>
                  {i + 1} {EVIDENCE_TEXT[step].title}
                </b>
                <span className="block text-[13px] leading-4">{EVIDENCE_TEXT[step].how}</span>
              </span>
            </label>
          </li>
        ))}
      </ol>
      <p className="text-[13px]">
        It may be ended later; the log keeps what was done. No arming before one suspect has been tested.
      </p>
    </section>
  );
}

/** After the end: what became of it. After a crash the evidence stands before everything else. */
export function After({
  log,
  rung,
  drives,
  onChange,
  onKeep,
}: {
  log: FieldLog;
  rung: FieldRung | undefined;
  drives: readonly DriveRow[];
  onChange: (log: FieldLog) => void;
  onKeep: () => void;
}) {
  const { run } = log;
  const set = (change: Partial<NewRun>) => onChange({ ...log, run: { ...run, ...change } });
  const [later, setLater] = useState(false);
  // What became of it waits until the evidence is secured, or until somebody says that it cannot be now.
  const held = run.crash !== null && Object.values(run.crash.steps).some((done) => !done) && !later;
  return (
    <section aria-label="How it went" className="flex flex-col gap-3">
      <p className="text-[16px]">
        <b>{clock(run.seconds ?? 0)}</b>, {run.moments.length} {run.moments.length === 1 ? "moment" : "moments"}
        {run.laps.length > 0 && `, ${run.laps.length} ${run.laps.length === 1 ? "lap" : "laps"} of ${run.course}`}
      </p>
      <label className="flex min-h-12 items-center gap-3 text-[16px]">
        <input
          type="checkbox"
          className="h-7 w-7"
          checked={run.crash !== null}
          onChange={(e) => onChange(crashed(log, e.target.checked))}
        />{" "}
        It crashed or got away
      </label>
      <Evidence run={run} onChange={(r) => onChange({ ...log, run: r })} />
      {held ? (
        <button type="button" className="field-small" onClick={() => setLater(true)}>
          It cannot be done now: go on, it stays open in the log
        </button>
      ) : (
        <Outcome log={log} rung={rung} drives={drives} set={set} onKeep={onKeep} />
      )}
    </section>
  );
}

/** What became of it: outcome, gates, the pack, and words. */
function Outcome({
  log,
  rung,
  drives,
  set,
  onKeep,
}: {
  log: FieldLog;
  rung: FieldRung | undefined;
  drives: readonly DriveRow[];
  set: (change: Partial<NewRun>) => void;
  onKeep: () => void;
}) {
  const { run } = log;
  return (
    <>
      <div className="grid grid-cols-2 gap-2" role="group" aria-label="Outcome">
        {OUTCOMES.map((o) => (
          <button
            key={o}
            type="button"
            aria-pressed={run.outcome === o}
            className={`field-small min-h-14! text-[17px]! ${run.outcome === o ? "field-key-last" : ""}`}
            onClick={() => set({ outcome: o })}
          >
            {OUTCOME[o].word}
          </button>
        ))}
      </div>
      {(rung?.gates ?? []).map(({ gate: g, name }) => (
        <GateAfter key={g.id} run={run} g={g} name={name} set={set} />
      ))}
      <label>
        Pack voltage after the run, at rest
        <QuantityField
          boxed
          label="Pack voltage after the run"
          dimension="voltage"
          empty="not read"
          value={run.pack.endVoltage}
          onCommit={(v) => set({ pack: { ...run.pack, endVoltage: v } })}
        />
      </label>
      {drives.length > 1 && (
        <details open={run.perDrive.length > 0}>
          <summary className="min-h-11 content-center font-semibold">
            Drive by drive, the pack out before hands go near
          </summary>
          <EachDrive rows={drives} value={run.perDrive} onChange={(perDrive) => set({ perDrive })} />
        </details>
      )}
      <label>
        What happened
        <textarea
          className="box"
          rows={3}
          maxLength={8000}
          value={run.notes}
          onChange={(e) => set({ notes: e.target.value })}
        />
      </label>
      {run.outcome === null && <p id="how-it-went">Say above how it went: nothing is taken for granted.</p>}
      <button
        type="button"
        className="field-start"
        disabled={run.outcome === null}
        aria-describedby={run.outcome === null ? "how-it-went" : undefined}
        onClick={onKeep}
      >
        Put it in the log
      </button>
    </>
  );
}

/** One gate: what was measured of it, or how it looked. */
function GateAfter({
  run,
  g,
  name,
  set,
}: {
  run: RunDraft;
  g: Gate;
  name: string;
  set: (change: Partial<NewRun>) => void;
}) {
  const { habit } = usePreferences();
  const measured = (metric: string) => run.measured.find((m) => m.metric === metric)?.measured?.value ?? null;
  return (
    <div className="border-b border-ink pb-2" role="group" aria-label={gateLine(g, name, habit)}>
      <p>{gateLine(g, name, habit)}</p>
      {g.metric === "" ? (
        <span className="grid grid-cols-3 gap-2">
          {(["passed", "failed"] as const).map((r) => (
            <button
              key={r}
              type="button"
              aria-pressed={run.eye[g.id] === r}
              className={`field-small ${run.eye[g.id] === r ? "field-key-last" : ""}`}
              onClick={() => set({ eye: { ...run.eye, [g.id]: r } })}
            >
              {r === "passed" ? "Yes" : "No"}
            </button>
          ))}
          <button
            type="button"
            aria-pressed={run.eye[g.id] === undefined}
            className="field-small"
            onClick={() => set({ eye: Object.fromEntries(Object.entries(run.eye).filter(([id]) => id !== g.id)) })}
          >
            Not seen
          </button>
        </span>
      ) : (
        <QuantityField
          boxed
          label={name}
          dimension={g.dimension}
          empty="not read"
          value={measured(g.metric)}
          onCommit={(v) =>
            set({
              measured: [
                ...run.measured.filter((m) => m.metric !== g.metric),
                ...(v === null
                  ? []
                  : [
                      {
                        metric: g.metric,
                        dimension: g.dimension,
                        measured: { value: v, sd: Math.abs(v) * READING, by: "read at the site" },
                      },
                    ]),
              ],
            })
          }
        />
      )}
    </div>
  );
}
