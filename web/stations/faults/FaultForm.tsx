import { zodResolver } from "@hookform/resolvers/zod";
import { useMutation } from "@tanstack/react-query";
import { useEffect, useMemo, useRef, useState } from "react";
import { type UseFormReturn, type UseFormSetValue, useFieldArray, useForm, useWatch } from "react-hook-form";
import { toast } from "sonner";
import { contracts } from "../../../api/contracts";
import { FAULT_STATES } from "../../../core/design/craftFile";
import { symptomsLike } from "../../../core/faults/find";
import { blamesPilot, refusal } from "../../../core/faults/state";
import { call, sayError } from "../../app/client";
import { useDesk } from "../../app/desk";
import { HalfLine } from "../../app/HalfLine";
import { type HalfWritten, differs, useHalfWritten, useKeeping } from "../../app/halfWritten";
import { NotChosen, saveAgainst } from "../../app/saveAgainst";
import { useDelete } from "../../app/useDelete";
import { faultName } from "../runs/words";
import { AddSuspect, FaultBasics, FaultHead, PilotError } from "./FaultFields";
import { Mending } from "./Mending";
import { Proposals } from "./Proposals";
import { Story } from "./Story";
import { SuspectCards } from "./SuspectCards";
import { type Filled, type Values, formSchema } from "./form";
import { useCatalogue } from "./useCatalogue";

/** A closed fault whose fix was not put to the test: says so, and plans the run that could fail again. */
function Unproven({ run }: { run: number | null | undefined }) {
  const { file, go } = useDesk();
  return (
    <p className="mt-1 border-l-[3px] border-care pl-2" data-unproven>
      <b className="text-care">Not proven yet:</b> the fix has not been through a run in which it could have failed.{" "}
      <button
        type="button"
        className="link"
        onClick={() =>
          go({
            station: "runs",
            search: { newplan: String(file.runs.find((r) => r.number === run)?.stage ?? 4) },
          })
        }
      >
        plan that run
      </button>
    </p>
  );
}

/** Known symptoms that are worded alike, to take one over. */
function KnownLike({
  words,
  chosen,
  setValue,
}: {
  words: string;
  chosen: string | null | undefined;
  setValue: UseFormSetValue<Filled>;
}) {
  const catalogue = useCatalogue();
  const like = useMemo(() => symptomsLike(words, 4, catalogue), [words, catalogue]);
  if (like.length === 0) return null;
  return (
    <p className="mt-1 flex flex-wrap items-center gap-1 text-[12px]" role="group" aria-label="Similar known faults">
      <span className="text-pencil">Similar known faults:</span>
      {like.map((s) => (
        <button
          key={s.id}
          type="button"
          className={`chip ${s.id === chosen ? "chip-on" : ""}`}
          aria-pressed={s.id === chosen}
          onClick={() => setValue("symptom", s.id, { shouldDirty: true })}
        >
          {s.text}
        </button>
      ))}
    </p>
  );
}

/** What the form of a fault is called among what is half-written. */
export const faultFormName = (number: number | null): string => (number === null ? "fault new" : `fault ${number}`);

/** Saves the fault against the revision that the form shows; one saved elsewhere meanwhile is asked about. */
function useSaveFault({
  fault,
  number,
  form,
  half,
  onSaved,
  setRefused,
}: {
  fault: Values & { number?: number };
  number: number | null;
  form: UseFormReturn<Filled, unknown, Values>;
  half: HalfWritten<Filled>;
  onSaved: (n: number) => void;
  setRefused: (why: string | null) => void;
}) {
  const { slug, revisions, refresh } = useDesk();
  const { isDirty } = form.formState;
  // The revision that this form shows: what is saved elsewhere meanwhile must not pass for it.
  const heldRevision = number === null ? 0 : (revisions.faults[number] ?? 0);
  const opened = useRef(half.left?.revision ?? heldRevision);
  useEffect(() => {
    if (half.left || isDirty || heldRevision <= opened.current) return;
    opened.current = heldRevision;
    const { number: _n, ...shown } = fault;
    form.reset(shown);
  }, [heldRevision, isDirty, fault, form, half.left]);
  const save = useMutation({
    mutationFn: async (input: Values) => {
      if (number === null) return (await call(contracts.createFault, { params: { slug }, body: input })).number;
      const saved = await saveAgainst<Values>({
        what: faultName(number),
        revision: opened.current,
        mine: input,
        read: (current) => {
          const held = current as { revision: number; fault: unknown };
          return { revision: held.revision, value: formSchema.parse(held.fault) };
        },
        send: (revision) => call(contracts.saveFault, { params: { slug, number }, body: { revision, fault: input } }),
      });
      opened.current = saved.revision;
      form.reset(saved.kept === "theirs" ? saved.value : input);
      return number;
    },
    onSuccess: async (n) => {
      await refresh();
      half.done();
      toast.success(`${faultName(n)} saved`);
      onSaved(n);
    },
    onError: (error) => (error instanceof NotChosen ? toast(error.message) : setRefused(sayError(error))),
  });
  const leftValue = half.left?.value;
  useEffect(() => {
    if (leftValue) form.reset(leftValue, { keepDefaultValues: true });
  }, [leftValue, form]);
  const values = useWatch({ control: form.control }) as Filled;
  useKeeping(half, values, differs(values, form.formState.defaultValues), opened.current);
  const beginAnew = () => {
    half.done();
    opened.current = heldRevision;
    const { number: _n, ...shown } = fault;
    form.reset(shown);
  };
  return { save, beginAnew };
}

/** One fault: what was seen, its suspects and their tests, cause, fix and proof. */
export function FaultForm({
  fault,
  number,
  onSaved,
  onGone,
}: {
  fault: Values & { number?: number };
  number: number | null;
  onSaved: (n: number) => void;
  onGone: () => void;
}) {
  const { slug, file } = useDesk();
  const { number: _, ...values } = fault;
  const form = useForm<Filled, unknown, Values>({ resolver: zodResolver(formSchema), defaultValues: values });
  const { register, control, handleSubmit, formState, setValue } = form;
  const suspects = useFieldArray({ control, name: "suspects", keyName: "key" });
  const [refused, setRefused] = useState<string | null>(null);
  const [own, setOwn] = useState<string | null>(null);
  const filled = useWatch({ control }) as Filled;
  const catalogue = useCatalogue();
  const remove = useDelete();
  const { errors } = formState;
  const checked = useMemo(() => formSchema.safeParse({ ...filled, title: filled.title || "–" }), [filled]);
  const half = useHalfWritten<Filled>(slug, "", faultFormName(number), values as Filled);
  const { save, beginAnew } = useSaveFault({ fault, number, form, half, onSaved, setRefused });
  const submit = handleSubmit((input) => {
    const why = refusal(input, file.runs);
    setRefused(why);
    if (!why) save.mutate(input);
  });
  const pilot = filled.pilotBlamed || filled.suspects.some((s) => s.state !== "ruled out" && blamesPilot(s));
  return (
    <form noValidate onSubmit={submit} aria-label={number === null ? "New fault" : faultName(number)}>
      <HalfLine left={half.left} onThrow={beginAnew} />
      <FaultHead number={number} register={register} errors={errors} remove={remove} onGone={onGone} />
      {errors.title && (
        <p role="alert" className="text-[12px] text-stop">
          {errors.title.message}
        </p>
      )}
      {fault.state === "closed" && number !== null && <Unproven run={fault.run} />}
      <KnownLike words={`${filled.title} ${filled.seen}`} chosen={filled.symptom} setValue={setValue} />
      <FaultBasics register={register} catalogue={catalogue} />

      <h3 className="mt-4">Suspects</h3>
      <SuspectCards control={control} register={register} suspects={suspects} />
      <Proposals
        symptom={filled.symptom || null}
        run={Number(filled.run)}
        self={number}
        taken={filled.suspects}
        onSuspect={(s) => suspects.append(s)}
      />
      {own === null ? (
        <button type="button" className="link mt-1" onClick={() => setOwn("")}>
          Add a suspect of your own
        </button>
      ) : (
        <AddSuspect own={own} setOwn={setOwn} suspects={suspects} />
      )}
      {pilot && <PilotError filled={filled} setValue={setValue} />}
      <Mending form={form} filled={filled} />
      {checked.success && <Story fault={{ ...checked.data, ...(number === null ? {} : { number }) }} />}
      <fieldset className="mt-4 flex flex-wrap items-center gap-3">
        <legend className="sr-only">State</legend>
        {FAULT_STATES.map((s) => (
          <label key={s} className="flex min-h-6 items-center gap-1">
            <input type="radio" value={s} {...register("state")} onClick={() => setValue("state", s)} /> {s}
          </label>
        ))}
      </fieldset>
      {refused && (
        <p role="alert" className="mt-2 text-stop">
          {refused}
        </p>
      )}
      {Object.keys(errors).length > 0 && (
        <p role="alert" className="mt-2 text-stop">
          Not saved: {Object.keys(errors).join(", ")} needs a look above.
        </p>
      )}
      <p className="mt-3">
        <button type="submit" className="act act-first" disabled={save.isPending}>
          Save the fault
        </button>
      </p>
    </form>
  );
}
