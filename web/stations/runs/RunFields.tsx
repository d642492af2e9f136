import { Controller } from "react-hook-form";
import type { Gate } from "../../../core/design/craftFile";
import { gateText } from "../../../core/wording/ladder";
import { usePreferences } from "../../app/preferences";
import { QuantityField } from "../../fields/QuantityField";
import type { Rows, RunFormOf } from "./runFormOf";
import { RungSelect } from "./RungSelect";
import { useLadder } from "./useLadder";

function WordsField({
  form,
  label,
  name,
}: {
  form: RunFormOf;
  label: string;
  name: "place" | "pilot" | "conditions.surface" | "pack.name";
}) {
  return (
    <label>
      {label}
      <input className="box" {...form.register(name)} />
    </label>
  );
}

/** What a meter said of the run. */
function ReadField({
  form,
  label,
  name,
  dimension,
}: {
  form: RunFormOf;
  label: string;
  name:
    | "conditions.airTemperature"
    | "conditions.wind"
    | "pack.restingVoltage"
    | "pack.loadedVoltage"
    | "pack.endVoltage"
    | "seconds";
  dimension: "temperature" | "speed" | "voltage" | "time";
}) {
  return (
    <label>
      {label}
      <Controller
        control={form.control}
        name={name}
        render={({ field }) => (
          <QuantityField
            boxed
            label={label}
            value={field.value ?? null}
            dimension={dimension}
            empty="not read"
            onCommit={field.onChange}
          />
        )}
      />
    </label>
  );
}

/** The gates of the rung: by eye, or by what is measured. */
export function GatesOfRung({
  stage,
  gates,
  eye,
  form,
  rows,
}: {
  stage: number;
  gates: Gate[];
  eye: Record<string, "passed" | "failed">;
  form: RunFormOf;
  rows: Rows;
}) {
  const { habit } = usePreferences();
  return (
    <div role="group" aria-label="Gates of the rung" className="mt-3">
      <h3>Gates of rung {stage}</h3>
      <ul>
        {gates.map((g) => (
          <li key={g.id} className="flex min-h-6 flex-wrap items-center gap-2">
            <span className="text-ink">{gateText(g, habit)}</span>
            {g.metric === "" ? (
              <select
                className="box w-auto!"
                aria-label={`Gate: ${g.text}`}
                value={eye[g.id] ?? ""}
                onChange={(e) => {
                  // A gate that is not judged is left out: nothing was said of it.
                  const { [g.id]: _, ...others } = eye;
                  form.setValue(
                    "eye",
                    e.target.value === "" ? others : { ...others, [g.id]: e.target.value as "passed" | "failed" },
                    { shouldDirty: true },
                  );
                }}
              >
                <option value="">not judged</option>
                <option value="passed">passed</option>
                <option value="failed">failed</option>
              </select>
            ) : form.watch("measured").some((m) => m.metric === g.metric && m.measured) ? (
              <span className="text-pencil">decided by what is measured below</span>
            ) : (
              <button
                type="button"
                className="link"
                onClick={() => rows.append({ metric: g.metric, dimension: g.dimension, measured: null })}
              >
                measured? add it below
              </button>
            )}
          </li>
        ))}
      </ul>
    </div>
  );
}

/** What run it was, how it went, where and with which pack. */
export function RunBasics({ form }: { form: RunFormOf }) {
  const { rungs } = useLadder();
  return (
    <div className="mt-3 grid grid-cols-4 gap-3 max-[640px]:grid-cols-2">
      <label className="col-span-2">
        Purpose of this run
        <input className="box" {...form.register("purpose")} />
      </label>
      <Controller
        control={form.control}
        name="stage"
        render={({ field }) => <RungSelect rungs={rungs} value={field.value} onChange={field.onChange} />}
      />
      <label>
        Outcome
        <select
          className="box"
          aria-invalid={form.formState.errors.outcome !== undefined}
          {...form.register("outcome")}
        >
          <option value="">how did it go?</option>
          <option value="passed">passed</option>
          <option value="partly">partly successful</option>
          <option value="failed">failed</option>
          <option value="aborted">aborted</option>
        </select>
        {form.formState.errors.outcome && (
          <span role="alert" className="block text-[12px] text-stop">
            Say how it went: passed, partly successful, failed or aborted.
          </span>
        )}
      </label>
      <WordsField form={form} label="Place" name="place" />
      <WordsField form={form} label="Pilot" name="pilot" />
      <WordsField form={form} label="Surface" name="conditions.surface" />
      <WordsField form={form} label="Pack" name="pack.name" />
      <ReadField form={form} label="Air temperature" name="conditions.airTemperature" dimension="temperature" />
      <ReadField form={form} label="Wind" name="conditions.wind" dimension="speed" />
      <ReadField form={form} label="Pack at rest, V" name="pack.restingVoltage" dimension="voltage" />
      <ReadField form={form} label="Pack loaded, V" name="pack.loadedVoltage" dimension="voltage" />
      <ReadField form={form} label="Pack voltage after the run" name="pack.endVoltage" dimension="voltage" />
      <ReadField form={form} label="Run time" name="seconds" dimension="time" />
      <label>
        Course <span className="text-pencil">(repeats of one are a series)</span>
        <input className="box" {...form.register("course")} />
      </label>
    </div>
  );
}
