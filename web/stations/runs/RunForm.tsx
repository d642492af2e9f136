import type { Angle } from "../../../core/design/run";
import { AnglesField } from "./AnglesField";
import { zodResolver } from "@hookform/resolvers/zod";
import { useEffect, useMemo, useRef, useState } from "react";
import { Controller, useFieldArray, useForm, useFormState, useWatch } from "react-hook-form";
import type { z } from "zod";
import { type NewRun, newRunSchema } from "../../../api/contracts";
import { type DriveReading, type Moment, type Plan, type Run, newCrash } from "../../../core/design/craftFile";
import { waysOf } from "../../../core/design/support";
import { fromPlan } from "../../../core/runs/board";
import { rowsFor } from "../../../core/runs/eachDrive";
import { useDesk } from "../../app/desk";
import { HalfLine } from "../../app/HalfLine";
import { type HalfWritten, differs, useHalfWritten, useKeeping } from "../../app/halfWritten";
import { useOutbox } from "../../app/outbox";
import { Pictures } from "../../fields/Pictures";
import { guarded } from "../../fields/guarded";
import { Cautions } from "./Cautions";
import { EachDrive } from "./EachDrive";
import { MeasuredRows } from "./MeasuredField";
import { MomentsField } from "./MomentsField";
import { GatesOfRung, RunBasics } from "./RunFields";
import { type RunDraft, blankRun } from "./blankRun";
import { asNewRun } from "./heldRun";
import type { Rows, RunFormOf } from "./runFormOf";
import { useLadder } from "./useLadder";
import { useSaveRun } from "./useSaveRun";

function start(run: Run | undefined, plan: Plan | undefined, stage: number, state: string): RunDraft {
  if (run) return asNewRun(run);
  const begun = plan ? fromPlan(plan) : { stage };
  return blankRun({ ...begun, state, measured: [{ metric: "auw", dimension: "mass", measured: null }] });
}

/** Why a rung is locked, and the sentence it takes to run all the same. */
function Locked({
  stage,
  because,
  why,
  form,
}: {
  stage: number;
  because: string;
  why: string | null;
  form: RunFormOf;
}) {
  return (
    <div role="group" aria-label="Locked" className="mt-3 border-l-[3px] border-stop pl-3">
      <p className="text-stop">
        Rung {stage} is locked: {because}.
      </p>
      <label>
        Reason for running anyway
        <input className="box" {...form.register("goneOn")} />
      </label>
      {why && (
        <p role="alert" className="text-[12px] text-stop">
          {why}
        </p>
      )}
    </div>
  );
}

/** What was read drive by drive, the angles and trims, and the moments of the run. */
function ReadAsItRan({ form }: { form: RunFormOf }) {
  const { design } = useDesk();
  const drives = useMemo(() => rowsFor(design.units), [design.units]);
  return (
    <>
      {drives.length > 1 && (
        <Controller
          control={form.control}
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
        control={form.control}
        name="angles"
        render={({ field }) => (
          <details
            className="mt-3"
            open={(field.value?.length ?? 0) > 0 || (form.watch("outcome") === "passed" && design.surfaces.length > 0)}
          >
            <summary className="min-h-6">
              Angles and trims as it ran: what to set it back to after the next crash
            </summary>
            <AnglesField angles={(field.value ?? []) as Angle[]} onChange={field.onChange} />
          </details>
        )}
      />
      <Controller
        control={form.control}
        name="moments"
        render={({ field }) => (
          <MomentsField moments={(field.value ?? []) as Moment[]} ways={waysOf(design)} onChange={field.onChange} />
        )}
      />
    </>
  );
}

/**
 * The state that a run is about is the one that is looked at: a run that is opened, or taken up again, is looked at in
 * its own; a new one goes along when another is chosen.
 */
function useStateOfRun(form: RunFormOf, run: Run | undefined): void {
  const { state, look } = useDesk();
  const opened = useRef(false);
  useEffect(() => {
    const own = form.getValues("state") ?? state.id;
    if (!opened.current && own !== state.id) look(own);
    else if (!run && own !== state.id) form.setValue("state", state.id);
    opened.current = true;
  }, [form, run, state.id, look]);
}

/** What the form of a run is called among what is half-written. */
export const runFormName = (run: number | undefined, plan: number | undefined): string =>
  run === undefined ? `run new${plan === undefined ? "" : ` ${plan}`}` : `run ${run}`;

/** Keeps what the form holds; apart from it, so that it is not drawn at every key. */
function KeepsHalf({ form, half, revision }: { form: RunFormOf; half: HalfWritten<RunDraft>; revision: number }) {
  const values = useWatch({ control: form.control });
  const { defaultValues } = useFormState({ control: form.control });
  useKeeping(half, values as RunDraft, differs(values, defaultValues), revision);
  return null;
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
  const { slug, version, revisions, frozen, state } = useDesk();
  const { rungs, locks, say, next } = useLadder();
  const waiting = useOutbox();
  const [why, setWhy] = useState<string | null>(null);
  // How it went has no default: the form refuses to be sent until it is said.
  const [begun] = useState(() => {
    const { outcome, ...rest } = start(run, plan, next, state.id);
    return outcome === null ? rest : { ...rest, outcome };
  });
  const form: RunFormOf = useForm<z.input<typeof newRunSchema>, unknown, NewRun>({
    resolver: zodResolver(newRunSchema),
    defaultValues: begun as z.input<typeof newRunSchema>,
  });
  const { formState } = form;
  useStateOfRun(form, run);
  const half = useHalfWritten<RunDraft>(slug, version.label, runFormName(run?.number, plan?.number), begun as RunDraft);
  // The revision that this form shows: what is saved elsewhere meanwhile must not pass for it.
  const heldRevision = run ? (revisions.runs[run.number] ?? 0) : 0;
  const opened = useRef(half.left?.revision ?? heldRevision);
  useEffect(() => {
    if (!run || half.left || formState.isDirty || heldRevision <= opened.current) return;
    opened.current = heldRevision;
    form.reset(asNewRun(run));
  }, [heldRevision, formState.isDirty, run, form, half.left]);
  const rows: Rows = useFieldArray({ control: form.control, name: "measured" });
  const stage = Number(form.watch("stage"));
  const gates = run && run.stage === stage ? run.gates.map((g) => g.gate) : (rungs[stage - 1]?.gates ?? []);
  const held = run ? [] : locks(stage);
  const eye = form.watch("eye") ?? {};
  const leftValue = half.left?.value;
  useEffect(() => {
    // What must be true at the stand is looked at anew.
    if (leftValue)
      form.reset({ ...leftValue, ...(run ? {} : { cautionsRead: false }) } as z.input<typeof newRunSchema>, {
        keepDefaultValues: true,
      });
  }, [leftValue, form, run]);
  const save = useSaveRun({
    run,
    opened,
    form,
    waiting,
    onDone: (number) => {
      half.done();
      onDone(number);
    },
  });
  return (
    <form
      noValidate
      onSubmit={guarded(
        form.handleSubmit((v) => {
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
      <KeepsHalf form={form} half={half} revision={opened.current} />
      <HalfLine
        left={half.left}
        onThrow={() => {
          half.done();
          opened.current = heldRevision;
          form.reset(run ? asNewRun(run) : (begun as z.input<typeof newRunSchema>));
        }}
      />
      <h2 className="text-[18px]">{run ? `Run ${run.number} of ${version.label}` : `New run of ${version.label}`}</h2>
      {!frozen && !run && (
        <p>Logging it freezes {version.label}: its design stays as tested, and the next change opens a child draft.</p>
      )}
      {!run && <Cautions places={["power", "site"]} />}
      {!run && (
        <label className="mt-2 flex items-center gap-2">
          <input type="checkbox" {...form.register("cautionsRead")} /> Read; this craft is held and clear of people when
          powered
        </label>
      )}
      {form.formState.errors.cautionsRead && (
        <p role="alert" className="text-[12px] text-stop">
          {form.formState.errors.cautionsRead.message}: rung {stage} is powered.
        </p>
      )}
      <RunBasics form={form} />
      {held.length > 0 && <Locked stage={stage} because={held.map(say).join("; ")} why={why} form={form} />}
      {gates.length > 0 && <GatesOfRung stage={stage} gates={gates} eye={eye} form={form} rows={rows} />}
      <MeasuredRows rows={rows} form={form} />
      <button
        type="button"
        className="link mt-1"
        onClick={() => rows.append({ metric: "", dimension: "speed", measured: null })}
      >
        Add a measurement
      </button>
      <ReadAsItRan form={form} />
      <label className="mt-3 block">
        What happened
        <textarea className="box" rows={3} {...form.register("notes")} />
      </label>
      <label className="mt-2 flex items-center gap-2">
        <Controller
          control={form.control}
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
        control={form.control}
        name="files"
        render={({ field }) => <Pictures files={field.value ?? []} onChange={field.onChange} />}
      />
      {Object.keys(form.formState.errors).length > 0 && (
        <p role="alert" className="mt-2 text-stop">
          Not saved: {Object.keys(form.formState.errors).join(", ")} needs a look above. Nothing entered is lost.
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
