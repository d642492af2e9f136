import { waysOf } from "../../../core/design/support";
import { localIso } from "../../app/dates";
import { guarded } from "../../fields/guarded";
import { zodResolver } from "@hookform/resolvers/zod";
import { useMutation } from "@tanstack/react-query";
import { useEffect, useMemo, useRef, useState } from "react";
import { Controller, useFieldArray, useForm } from "react-hook-form";
import { toast } from "sonner";
import type { z } from "zod";
import { type NewRun, contracts, newRunSchema } from "../../../api/contracts";
import {
  DIMENSIONS,
  type DriveReading,
  type Moment,
  type Plan,
  type Run,
  isMetricKey,
  newCrash,
} from "../../../core/design/craftFile";
import { METRICS, METRIC_KEYS } from "../../../core/design/metrics";
import { DISPLAY } from "../../../core/design/units";
import { fromPlan } from "../../../core/runs/board";
import { gateText, metricName } from "../../../core/wording/ladder";
import { call, sayError } from "../../app/client";
import { Value } from "../../app/Computed";
import { useDesk } from "../../app/desk";
import { keep, unanswered, useOutbox } from "../../app/outbox";
import { usePreferences } from "../../app/preferences";
import { NotChosen, saveAgainst } from "../../app/saveAgainst";
import { Pictures } from "../../fields/Pictures";
import { QuantityField } from "../../fields/QuantityField";
import { Cautions } from "./Cautions";
import { type RunDraft, blankRun, newKey } from "./blankRun";
import { asNewRun, heldRun } from "./heldRun";
import { rowsFor } from "../../../core/runs/eachDrive";
import { EachDrive } from "./EachDrive";
import { MomentsField } from "./MomentsField";
import { RungSelect } from "./RungSelect";
import { useLadder } from "./useLadder";

/** Metrics offered for a run: what a builder can read there. */
const READABLE = METRIC_KEYS.filter(
  (k) =>
    ![
      "cost",
      "costToBuy",
      "packShare",
      "airDensity",
      "tipMach",
      "motorLoss",
      "torque",
      "length",
      "width",
      "height",
      "inertiaRoll",
      "inertiaPitch",
      "inertiaYaw",
      "thrustToWeight",
    ].includes(k),
);
/** Instrument uncertainty to begin with, as a share of the reading (common practice); a person states their own. */
const FIRST_SHARE = 0.01;

function start(run: Run | undefined, plan: Plan | undefined, stage: number): RunDraft {
  if (run) return asNewRun(run);
  const begun = plan ? fromPlan(plan) : { stage };
  return blankRun({ ...begun, measured: [{ metric: "auw", dimension: "mass", measured: null }] });
}

/**
 * Logs a run of the version in view, or edits what was written of one. What cannot be sent is kept in the browser and
 * sent later.
 */
export function RunForm({
  run,
  plan,
  onDone,
}: {
  run: Run | undefined;
  plan?: Plan | undefined;
  onDone: (number: number | null) => void;
}) {
  const { slug, version, design, revisions, evaluation, flush, refresh, frozen } = useDesk();
  const { habit } = usePreferences();
  const { rungs, locks, say, next } = useLadder();
  const waiting = useOutbox();
  const [why, setWhy] = useState<string | null>(null);
  // How it went has no default: the form refuses to be sent until it is said.
  const [begun] = useState(() => {
    const { outcome, ...rest } = start(run, plan, next);
    return outcome === null ? rest : { ...rest, outcome };
  });
  const form = useForm<z.input<typeof newRunSchema>, unknown, NewRun>({
    resolver: zodResolver(newRunSchema),
    defaultValues: begun as z.input<typeof newRunSchema>,
  });
  const { register, control, handleSubmit, formState, watch, setValue } = form;
  // The revision that this form shows: what is saved elsewhere meanwhile must not pass for it.
  const heldRevision = run ? (revisions.runs[run.number] ?? 0) : 0;
  const opened = useRef(heldRevision);
  useEffect(() => {
    if (!run || formState.isDirty || heldRevision <= opened.current) return;
    opened.current = heldRevision;
    form.reset(asNewRun(run));
  }, [heldRevision, formState.isDirty, run, form]);
  const rows = useFieldArray({ control, name: "measured" });
  const drives = useMemo(() => rowsFor(design.units), [design.units]);
  const { errors } = formState;
  const stage = Number(watch("stage"));
  const gates = run && run.stage === stage ? run.gates.map((g) => g.gate) : (rungs[stage - 1]?.gates ?? []);
  const held = run ? [] : locks(stage);
  const eye = watch("eye") ?? {};
  useEffect(() => {
    const warn = (e: BeforeUnloadEvent) => {
      if (formState.isDirty && !formState.isSubmitSuccessful) e.preventDefault();
    };
    window.addEventListener("beforeunload", warn);
    return () => window.removeEventListener("beforeunload", warn);
  }, [formState.isDirty, formState.isSubmitSuccessful]);
  const save = useMutation({
    mutationFn: async (values: NewRun) => {
      await flush();
      const body = { ...values, measured: values.measured.filter((m) => m.metric.trim() !== "") };
      if (run) {
        const saved = await saveAgainst<NewRun>({
          what: `Run ${run.number}`,
          revision: opened.current,
          mine: body,
          read: heldRun,
          send: (revision) =>
            call(contracts.saveRun, { params: { slug, number: run.number }, body: { revision, run: body } }),
        });
        opened.current = saved.revision;
        if (saved.kept === "theirs") form.reset(saved.value);
        return run.number;
      }
      const entry = {
        key: body.key ?? newKey(),
        slug,
        label: version.label,
        run: body,
        pictures: [],
        at: localIso(new Date()),
        refused: "",
      };
      // Behind what waits already: the log keeps its order.
      if (waiting.some((w) => w.refused === "")) {
        await keep(entry);
        return null;
      }
      try {
        return (await call(contracts.createRun, { params: { slug, label: version.label }, body })).number;
      } catch (error) {
        if (!unanswered(error)) throw error;
        await keep(entry);
        return null;
      }
    },
    onSuccess: async (number) => {
      if (number === null) {
        toast("Cannot reach the server: the run is kept in this browser and sent later.");
        onDone(null);
        return;
      }
      await refresh();
      onDone(number);
    },
    onError: (error) => (error instanceof NotChosen ? toast(error.message) : toast.error(sayError(error))),
  });
  const number = (
    label: string,
    name:
      | "conditions.airTemperature"
      | "conditions.wind"
      | "pack.restingVoltage"
      | "pack.loadedVoltage"
      | "pack.endVoltage"
      | "seconds",
    dimension: "temperature" | "speed" | "voltage" | "time",
  ) => (
    <label>
      {label}
      <Controller
        control={control}
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
  const words = (label: string, name: "place" | "pilot" | "conditions.surface" | "pack.name") => (
    <label>
      {label}
      <input className="box" {...register(name)} />
    </label>
  );
  return (
    <form
      noValidate
      onSubmit={guarded(
        handleSubmit((v) => {
          const missing =
            held.length > 0 && v.goneOn.trim() === ""
              ? "Say why it was run all the same, or choose a rung that is open."
              : null;
          setWhy(missing);
          if (!missing) save.mutate(v);
        }),
      )}
      aria-label={run ? `Run ${run.number}` : "New run"}
    >
      <h2 className="text-[18px]">{run ? `Run ${run.number} of ${version.label}` : `New run of ${version.label}`}</h2>
      {!frozen && !run && (
        <p>Logging it freezes {version.label}: its design stays as tested, and the next change opens a child draft.</p>
      )}
      {!run && <Cautions places={["power", "site"]} />}
      {!run && (
        <label className="mt-2 flex items-center gap-2">
          <input type="checkbox" {...register("cautionsRead")} /> Read; this craft is held and clear of people when
          powered
        </label>
      )}
      {errors.cautionsRead && (
        <p role="alert" className="text-[12px] text-stop">
          {errors.cautionsRead.message}: rung {stage} is powered.
        </p>
      )}
      <div className="mt-3 grid grid-cols-4 gap-3 max-[640px]:grid-cols-2">
        <label className="col-span-2">
          Purpose of this run
          <input className="box" {...register("purpose")} />
        </label>
        <Controller
          control={control}
          name="stage"
          render={({ field }) => <RungSelect rungs={rungs} value={field.value} onChange={field.onChange} />}
        />
        <label>
          Outcome
          <select className="box" aria-invalid={errors.outcome !== undefined} {...register("outcome")}>
            <option value="">how did it go?</option>
            <option value="passed">passed</option>
            <option value="partly">partly successful</option>
            <option value="failed">failed</option>
            <option value="aborted">aborted</option>
          </select>
          {errors.outcome && (
            <span role="alert" className="block text-[12px] text-stop">
              Say how it went: passed, partly successful, failed or aborted.
            </span>
          )}
        </label>
        {words("Place", "place")}
        {words("Pilot", "pilot")}
        {words("Surface", "conditions.surface")}
        {words("Pack", "pack.name")}
        {number("Air temperature", "conditions.airTemperature", "temperature")}
        {number("Wind", "conditions.wind", "speed")}
        {number("Pack at rest, V", "pack.restingVoltage", "voltage")}
        {number("Pack loaded, V", "pack.loadedVoltage", "voltage")}
        {number("Pack voltage after the run", "pack.endVoltage", "voltage")}
        {number("Run time", "seconds", "time")}
        <label>
          Course <span className="text-pencil">(repeats of one are a series)</span>
          <input className="box" {...register("course")} />
        </label>
      </div>
      {held.length > 0 && (
        <div role="group" aria-label="Locked" className="mt-3 border-l-[3px] border-stop pl-3">
          <p className="text-stop">
            Rung {stage} is locked: {held.map(say).join("; ")}.
          </p>
          <label>
            Reason for running anyway
            <input className="box" {...register("goneOn")} />
          </label>
          {why && (
            <p role="alert" className="text-[12px] text-stop">
              {why}
            </p>
          )}
        </div>
      )}
      {gates.length > 0 && (
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
                      setValue(
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
                ) : watch("measured").some((m) => m.metric === g.metric && m.measured) ? (
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
      )}
      <h3 className="mt-4">Measured</h3>
      <div className="wide">
        <table className="rows w-full">
          <thead>
            <tr>
              <th>what</th>
              <th className="text-right!">predicted</th>
              <th className="w-32">measured</th>
              <th className="w-28">±</th>
              <th className="w-32">with</th>
              <th />
            </tr>
          </thead>
          <tbody>
            {rows.fields.map((row, i) => {
              const name = watch(`measured.${i}.metric`);
              const dimension = watch(`measured.${i}.dimension`);
              const q = isMetricKey(name) ? evaluation.metrics[name] : undefined;
              return (
                <tr key={row.id}>
                  <td>
                    <input
                      className="cell text-ink"
                      aria-label={`Measured ${i + 1}, what`}
                      list="readable"
                      placeholder="choose or name it"
                      defaultValue={metricName(name)}
                      onChange={(e) => {
                        const key = READABLE.find((k) => METRICS[k].label === e.target.value);
                        setValue(`measured.${i}.metric`, key ?? e.target.value, { shouldDirty: true });
                        if (key) setValue(`measured.${i}.dimension`, METRICS[key].dimension);
                      }}
                    />
                    {errors.measured?.[i]?.metric && (
                      <span role="alert" className="text-[11px] text-stop">
                        Say what was measured.
                      </span>
                    )}
                  </td>
                  <td className="text-right">
                    {q ? <Value quantity={q} /> : <span className="text-pencil">not predicted</span>}
                  </td>
                  <td>
                    <span className="flex items-center gap-1">
                      <Controller
                        control={control}
                        name={`measured.${i}.measured`}
                        render={({ field }) => (
                          <QuantityField
                            boxed
                            label={`Measured ${i + 1}, value`}
                            value={field.value?.value ?? null}
                            dimension={dimension}
                            empty="not read"
                            onCommit={(v) =>
                              field.onChange(
                                v === null
                                  ? null
                                  : {
                                      value: v,
                                      sd: field.value?.sd ?? Math.abs(v) * FIRST_SHARE,
                                      by: field.value?.by ?? "",
                                    },
                              )
                            }
                          />
                        )}
                      />
                      {!isMetricKey(name) && (
                        <select
                          className="box w-16!"
                          aria-label={`Measured ${i + 1}, unit`}
                          value={dimension}
                          onChange={(e) =>
                            setValue(`measured.${i}.dimension`, e.target.value as (typeof DIMENSIONS)[number])
                          }
                        >
                          {DIMENSIONS.filter((d) => d !== "percent" || true).map((d) => (
                            <option key={d} value={d}>
                              {DISPLAY[habit][d] || d}
                            </option>
                          ))}
                        </select>
                      )}
                    </span>
                  </td>
                  <td>
                    <Controller
                      control={control}
                      name={`measured.${i}.measured`}
                      render={({ field }) => (
                        <QuantityField
                          boxed
                          label={`Measured ${i + 1}, ±`}
                          value={field.value?.sd ?? null}
                          dimension={dimension}
                          empty=""
                          disabled={!field.value}
                          onCommit={(v) => field.value && field.onChange({ ...field.value, sd: Math.abs(v ?? 0) })}
                        />
                      )}
                    />
                  </td>
                  <td>
                    <Controller
                      control={control}
                      name={`measured.${i}.measured`}
                      render={({ field }) => (
                        <input
                          className="box"
                          aria-label={`Measured ${i + 1}, with`}
                          placeholder="scale, logger"
                          disabled={!field.value}
                          value={field.value?.by ?? ""}
                          onChange={(e) => field.value && field.onChange({ ...field.value, by: e.target.value })}
                        />
                      )}
                    />
                  </td>
                  <td>
                    <button
                      type="button"
                      className="link"
                      aria-label={`Remove measured ${i + 1}`}
                      onClick={() => rows.remove(i)}
                    >
                      ×
                    </button>
                  </td>
                </tr>
              );
            })}
          </tbody>
        </table>
      </div>
      <datalist id="readable">
        {READABLE.map((k) => (
          <option key={k} value={METRICS[k].label} />
        ))}
      </datalist>
      <button
        type="button"
        className="link mt-1"
        onClick={() => rows.append({ metric: "", dimension: "speed", measured: null })}
      >
        Add a measurement
      </button>
      {drives.length > 1 && (
        <Controller
          control={control}
          name="perDrive"
          render={({ field }) => (
            <details className="mt-3" open={(field.value?.length ?? 0) > 0}>
              <summary className="min-h-6">Drive by drive: what was read of each, at the same command</summary>
              <EachDrive rows={drives} value={(field.value ?? []) as DriveReading[]} onChange={field.onChange} />
            </details>
          )}
        />
      )}
      <Controller
        control={control}
        name="moments"
        render={({ field }) => (
          <MomentsField moments={(field.value ?? []) as Moment[]} ways={waysOf(design)} onChange={field.onChange} />
        )}
      />
      <label className="mt-3 block">
        What happened
        <textarea className="box" rows={3} {...register("notes")} />
      </label>
      <label className="mt-2 flex items-center gap-2">
        <Controller
          control={control}
          name="crash"
          render={({ field }) => (
            <input
              type="checkbox"
              checked={field.value !== null && field.value !== undefined}
              onChange={(e) => field.onChange(e.target.checked ? newCrash() : null)}
            />
          )}
        />
        It crashed or got away (record the evidence first)
      </label>
      <Controller
        control={control}
        name="files"
        render={({ field }) => <Pictures files={field.value ?? []} onChange={field.onChange} />}
      />
      {Object.keys(errors).length > 0 && (
        <p role="alert" className="mt-2 text-stop">
          Not saved: {Object.keys(errors).join(", ")} needs a look above. Nothing entered is lost.
        </p>
      )}
      <p className="mt-3 flex gap-2">
        <button type="submit" className="act act-first" disabled={save.isPending}>
          {run ? "Save" : "Log this run"}
        </button>
        <button type="button" className="act" onClick={() => onDone(null)}>
          Cancel
        </button>
      </p>
    </form>
  );
}
