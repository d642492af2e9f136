import { useState } from "react";
import type { NewRun } from "../../api/contracts";
import type { FieldSheet } from "../../core/runs/sheetShape";
import { QuantityField } from "../fields/QuantityField";
import type { RunDraft } from "../stations/runs/blankRun";
import { RungSelect } from "../stations/runs/RungSelect";

/** Before the start: the rung, the question, the pack, and what stands against it. */
export function Before({
  sheet: { rungs },
  cautions,
  run,
  onChange,
  onStart,
}: {
  sheet: FieldSheet;
  cautions: readonly string[];
  run: RunDraft;
  onChange: (run: RunDraft) => void;
  onStart: () => void;
}) {
  const [asked, setAsked] = useState(false);
  const rung = rungs[run.stage - 1];
  const locks = rung?.locked ?? [];
  const noReason = locks.length > 0 && run.goneOn.trim() === "";
  const notRead = run.stage > 1 && !run.cautionsRead;
  const set = (change: Partial<NewRun>) => onChange({ ...run, ...change });
  return (
    <section aria-label="Before the start" className="flex flex-col gap-3">
      <RungSelect rungs={rungs} value={run.stage} onChange={(stage) => set({ stage })} />
      <p className="text-[13px]">{rung?.doing}.</p>
      <label>
        What do you want to find out?
        <input className="box" maxLength={200} value={run.purpose} onChange={(e) => set({ purpose: e.target.value })} />
      </label>
      <label>
        Course, if laps of it are to be compared
        <input
          className="box"
          maxLength={80}
          placeholder="none"
          value={run.course}
          onChange={(e) => set({ course: e.target.value })}
        />
      </label>
      <PackAndAir run={run} set={set} />
      {rung && rung.abort.length > 0 && (
        <p className="border-l-4 border-ink pl-2 text-[14px]">
          <b>Break off when</b> {rung.abort.join("; ")}.
        </p>
      )}
      {locks.length > 0 && (
        <div role="group" aria-label="Locked" className="border-l-4 border-stop pl-2 text-[14px]">
          <p className="text-stop">Locked: {locks.join("; ")}.</p>
          <label>
            To go on, say why
            <input
              className="box"
              maxLength={500}
              value={run.goneOn}
              onChange={(e) => set({ goneOn: e.target.value })}
            />
          </label>
          {asked && noReason && (
            <p role="alert" className="text-stop">
              Say why, or choose a rung that is open.
            </p>
          )}
        </div>
      )}
      {run.stage > 1 && (
        <details className="text-[13px]" open={!run.cautionsRead}>
          <summary className="min-h-8 font-semibold">Before power</summary>
          <ul className="list-[square] pl-5">
            {cautions.map((c) => (
              <li key={c}>{c}</li>
            ))}
          </ul>
        </details>
      )}
      {run.stage > 1 && (
        <label className="flex min-h-11 items-center gap-3">
          <input
            type="checkbox"
            className="h-6 w-6 shrink-0"
            checked={run.cautionsRead}
            onChange={(e) => set({ cautionsRead: e.target.checked })}
          />{" "}
          Read; held or clear of people when powered
        </label>
      )}
      {asked && notRead && (
        <p role="alert" className="text-stop">
          Read the cautions first: this rung is powered.
        </p>
      )}
      <button
        type="button"
        className="field-start"
        onClick={() => {
          setAsked(true);
          if (!noReason && !notRead) onStart();
        }}
      >
        Start the log
      </button>
      <p className="text-[13px]">
        Every tap is kept in this phone first, and sent when the server answers.{" "}
        {window.isSecureContext
          ? "Once opened, this page starts without the server too."
          : "Leave this page open on the way: over plain http a browser cannot start it without the server."}
      </p>
    </section>
  );
}

/** The pack and the air, as they are now. */
function PackAndAir({ run, set }: { run: RunDraft; set: (change: Partial<NewRun>) => void }) {
  return (
    <div className="grid grid-cols-3 gap-2">
      <label>
        Pack
        <input
          className="box"
          maxLength={80}
          value={run.pack.name}
          onChange={(e) => set({ pack: { ...run.pack, name: e.target.value } })}
        />
      </label>
      <label>
        V at rest
        <QuantityField
          boxed
          label="Pack at rest"
          dimension="voltage"
          empty="–"
          value={run.pack.restingVoltage}
          onCommit={(v) => set({ pack: { ...run.pack, restingVoltage: v } })}
        />
      </label>
      <label>
        V loaded
        <QuantityField
          boxed
          label="Pack loaded"
          dimension="voltage"
          empty="–"
          value={run.pack.loadedVoltage}
          onCommit={(v) => set({ pack: { ...run.pack, loadedVoltage: v } })}
        />
      </label>
      <label>
        Pilot
        <input className="box" maxLength={80} value={run.pilot} onChange={(e) => set({ pilot: e.target.value })} />
      </label>
      <label>
        Wind
        <QuantityField
          boxed
          label="Wind"
          dimension="speed"
          empty="–"
          value={run.conditions.wind}
          onCommit={(v) => set({ conditions: { ...run.conditions, wind: v } })}
        />
      </label>
      <label>
        Air
        <QuantityField
          boxed
          label="Air"
          dimension="temperature"
          empty="–"
          value={run.conditions.airTemperature}
          onCommit={(v) => set({ conditions: { ...run.conditions, airTemperature: v } })}
        />
      </label>
    </div>
  );
}
