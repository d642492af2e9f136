import { zodResolver } from "@hookform/resolvers/zod";
import { useMutation } from "@tanstack/react-query";
import { useMemo, useState } from "react";
import { useFieldArray, useForm } from "react-hook-form";
import { toast } from "sonner";
import type { z } from "zod";
import { contracts } from "../../../api/contracts";
import { FAULT_STATES, type Fault, faultSchema } from "../../../core/design/craftFile";
import { evaluate } from "../../../core/evaluate";
import { GROUPS, SYMPTOMS } from "../../../core/faults/catalogue";
import { symptomsLike } from "../../../core/faults/find";
import { rankCauses } from "../../../core/faults/rank";
import { refusal } from "../../../core/faults/state";
import { difference, kindsOf } from "../../../core/lineage/difference";
import { reasonText } from "../../../core/wording/faults";
import { call, sayError } from "../../app/client";
import { useDesk } from "../../app/desk";
import { faultName } from "../runs/words";
import { Balance } from "./Balance";

const formSchema = faultSchema.omit({ number: true });
type Values = Omit<Fault, "number">;

/** Stones: one for each line of a note. */
const stones = (note: string) => note.split(/\n|;/).filter((l) => l.trim() !== "").length;

/** The catalogue's suspects for a symptom, ordered for the version on which it was seen. */
function useRanked(symptomId: string | null, runNumber: number) {
  const { file } = useDesk();
  return useMemo(() => {
    const symptom = SYMPTOMS.find((s) => s.id === symptomId);
    const run = file.runs.find((r) => r.number === runNumber);
    const version = file.versions.find((v) => v.label === run?.version);
    if (!symptom || !version) return null;
    const parent = file.versions.find((v) => v.label === version.parent);
    const { findings } = evaluate(version.design);
    const changed = kindsOf(parent ? difference(parent.design, version.design) : []);
    return { findings, version, causes: rankCauses(symptom, { findings, changed }) };
  }, [symptomId, runNumber, file]);
}

/** One fault: what was seen, its suspects and their tests, cause, fix and proof. */
export function FaultForm({ fault, number, onSaved }: { fault: Values & { number?: number }; number: number | null; onSaved: (n: number) => void }) {
  const { slug, file, revisions, refresh } = useDesk();
  const { number: _, ...values } = fault;
  const { register, control, handleSubmit, watch, formState, setValue } = useForm<z.input<typeof formSchema>, unknown, Values>({
    resolver: zodResolver(formSchema),
    defaultValues: values,
  });
  const suspects = useFieldArray({ control, name: "suspects", keyName: "key" });
  const [refused, setRefused] = useState<string | null>(null);
  const symptom = watch("symptom");
  const runNumber = Number(watch("run"));
  const rows = watch("suspects");
  const words = `${watch("title")} ${watch("seen")}`;
  const like = useMemo(() => symptomsLike(words, 4), [words]);
  const ranked = useRanked(symptom || null, runNumber);
  const proposals = ranked?.causes.filter((c) => !rows.some((s) => s.id === c.cause.id || s.cause === c.cause.text)) ?? [];
  const { errors } = formState;
  const save = useMutation({
    mutationFn: async (input: Values) => {
      if (number === null) return (await call(contracts.createFault, { params: { slug }, body: input })).number;
      await call(contracts.saveFault, { params: { slug, number }, body: { revision: revisions.faults[number] ?? 0, fault: input } });
      return number;
    },
    onSuccess: async (n) => {
      await refresh();
      toast.success(`${faultName(n)} saved`);
      onSaved(n);
    },
    onError: (error) => setRefused(sayError(error)),
  });
  const submit = handleSubmit((input) => {
    const why = refusal(input, file.runs);
    setRefused(why);
    if (!why) save.mutate(input);
  });
  const laterRuns = file.runs.filter((r) => {
    const seen = file.runs.find((s) => s.number === runNumber);
    return seen && Date.parse(r.date) > Date.parse(seen.date);
  });
  const optional = { setValueAs: (v: unknown) => (v === "" || v === null ? null : v) };
  const optionalNumber = { setValueAs: (v: unknown) => (v === "" || v === null ? null : Number(v)) };
  return (
    <form noValidate onSubmit={submit} aria-label={number === null ? "New fault" : faultName(number)}>
      <header className="flex items-baseline gap-3 border-b border-ink pb-1">
        <h2 className="whitespace-nowrap text-[18px]">{number === null ? "New fault" : faultName(number)}</h2>
        <input
          className="cell text-[15px]! font-semibold text-ink"
          aria-label="What was seen, in a few words"
          placeholder="What was seen, in a few words"
          {...register("title")}
          aria-invalid={errors.title !== undefined}
        />
      </header>
      {errors.title && (
        <p role="alert" className="text-[12px] text-stop">
          {errors.title.message}
        </p>
      )}
      {like.length > 0 && (
        <p className="mt-1 flex flex-wrap items-center gap-1 text-[12px]" role="group" aria-label="Sounds like">
          <span className="text-pencil">Sounds like:</span>
          {like.map((s) => (
            <button
              key={s.id}
              type="button"
              className={`chip ${s.id === symptom ? "chip-on" : ""}`}
              aria-pressed={s.id === symptom}
              onClick={() => setValue("symptom", s.id, { shouldDirty: true })}
            >
              {s.text}
            </button>
          ))}
        </p>
      )}
      <div className="mt-2 grid grid-cols-3 gap-3 max-[640px]:grid-cols-[minmax(0,1fr)] max-[640px]:[&>*]:col-span-1!">
        <label>
          Seen in
          <select className="box" {...register("run", { valueAsNumber: true })}>
            {file.runs.map((r) => (
              <option key={r.number} value={r.number}>
                run {r.number}, {r.version}, {r.date.slice(0, 10)}
              </option>
            ))}
          </select>
        </label>
        <label>
          Symptom
          <select className="box" {...register("symptom", optional)}>
            <option value="">none of the list</option>
            {GROUPS.map((g) => (
              <optgroup key={g} label={g}>
                {SYMPTOMS.filter((s) => s.group === g).map((s) => (
                  <option key={s.id} value={s.id}>
                    {s.text}
                  </option>
                ))}
              </optgroup>
            ))}
          </select>
        </label>
        <label>
          Harm
          <select className="box" {...register("severity")}>
            <option>harmless</option>
            <option>damage</option>
            <option>danger</option>
          </select>
        </label>
        <label className="col-span-2">
          What was seen, heard, smelt
          <textarea className="box" rows={2} {...register("seen")} />
        </label>
        <label>
          Damage
          <textarea className="box" rows={2} {...register("damage")} />
        </label>
      </div>

      <h3 className="mt-4">Suspects</h3>
      {rows.length > 0 && (
        <div className="wide">
          <table className="rows w-full">
            <thead>
              <tr>
                <th className="w-40">suspect</th>
                <th className="w-24">against, for</th>
                <th>for it</th>
                <th>against it</th>
                <th>test that tells it apart, and result</th>
                <th className="w-24" />
              </tr>
            </thead>
            <tbody>
              {suspects.fields.map((field, i) => {
                const s = rows[i];
                if (!s) return null;
                return (
                  <tr key={field.key} data-suspect={s.id} className={s.state === "ruled in" ? "bg-tint-stop" : ""}>
                    <td className={`text-ink ${s.state === "ruled out" ? "text-pencil line-through" : "font-semibold"}`}>
                      {s.cause}
                      {s.state === "ruled in" && <span className="block text-[11px] text-stop">ruled in</span>}
                      {s.state === "ruled out" && <span className="inline-block text-[11px] no-underline">ruled out</span>}
                    </td>
                    <td>
                      <Balance against={stones(s.against)} forIt={stones(s.for)} state={s.state} />
                    </td>
                    <td>
                      <textarea className="cell" rows={2} aria-label={`${s.cause}, for it`} placeholder="–" {...register(`suspects.${i}.for`)} />
                    </td>
                    <td>
                      <textarea className="cell" rows={2} aria-label={`${s.cause}, against it`} placeholder="–" {...register(`suspects.${i}.against`)} />
                    </td>
                    <td>
                      <textarea className="cell" rows={2} aria-label={`${s.cause}, test`} {...register(`suspects.${i}.test`)} />
                      <input
                        className="cell text-ink"
                        aria-label={`${s.cause}, result`}
                        placeholder={`result${s.minutes ? `, about ${s.minutes} min` : ""}`}
                        {...register(`suspects.${i}.result`)}
                      />
                    </td>
                    <td>
                      <select className="cell" aria-label={`${s.cause}, state`} {...register(`suspects.${i}.state`)}>
                        <option>open</option>
                        <option>ruled in</option>
                        <option>ruled out</option>
                      </select>
                      <button type="button" className="link text-[11px]" onClick={() => suspects.remove(i)}>
                        remove
                      </button>
                    </td>
                  </tr>
                );
              })}
            </tbody>
          </table>
        </div>
      )}
      {proposals.length > 0 && ranked && (
        <section aria-label="Proposed suspects" className="mt-2">
          <p className="text-pencil">Proposed for this symptom on {ranked.version.label}, likeliest first:</p>
          <ol>
            {proposals.map(({ cause, reasons }) => (
              <li
                key={cause.id}
                data-proposal={cause.id}
                className="grid grid-cols-[1fr_1fr_auto] items-center gap-3 border-b border-hair py-1 max-[640px]:grid-cols-[minmax(0,1fr)]"
              >
                <span>
                  <b className="text-ink">{cause.text}</b>
                  {reasons.map((r) => (
                    <span key={`${r.why}${r.why === "finding" ? r.code : r.kind}`} className={`block text-[11px] ${r.effect > 0 ? "text-care" : "text-clear"}`}>
                      {reasonText(r, ranked.findings)}
                    </span>
                  ))}
                </span>
                <span className="text-[12px]">
                  {cause.test} <span className="num text-pencil">{cause.minutes} min</span>
                </span>
                <button
                  type="button"
                  className="act"
                  aria-label={`Suspect: ${cause.text}`}
                  onClick={() =>
                    suspects.append({
                      id: cause.id,
                      cause: cause.text,
                      for: reasons
                        .filter((r) => r.effect > 0)
                        .map((r) => reasonText(r, ranked.findings).replace(/^up: /, ""))
                        .join("\n"),
                      against: reasons
                        .filter((r) => r.effect < 0)
                        .map((r) => reasonText(r, ranked.findings).replace(/^down: /, ""))
                        .join("\n"),
                      test: cause.test,
                      minutes: cause.minutes,
                      result: "",
                      state: "open",
                    })
                  }
                >
                  Suspect it
                </button>
              </li>
            ))}
          </ol>
        </section>
      )}
      <button
        type="button"
        className="link mt-1"
        onClick={() => {
          const cause = window.prompt("What else could it be?")?.trim();
          if (cause) suspects.append({ id: `own-${Date.now()}`, cause, for: "", against: "", test: "", minutes: null, result: "", state: "open" });
        }}
      >
        Add a suspect of your own
      </button>

      <div className="mt-4 grid grid-cols-3 gap-3 max-[640px]:grid-cols-[minmax(0,1fr)] max-[640px]:[&>*]:col-span-1!">
        <label>
          Cause
          <textarea className="box" rows={2} {...register("cause")} />
        </label>
        <label>
          Fix
          <textarea className="box" rows={2} {...register("fix")} />
        </label>
        <div className="grid grid-cols-2 gap-2">
          <label>
            Fixed in
            <select className="box" {...register("fixVersion", optional)}>
              <option value="">–</option>
              {file.versions.map((v) => (
                <option key={v.label}>{v.label}</option>
              ))}
            </select>
          </label>
          <label>
            Proof
            <select className="box" {...register("proofRun", optionalNumber)}>
              <option value="">–</option>
              {laterRuns.map((r) => (
                <option key={r.number} value={r.number}>
                  run {r.number}
                </option>
              ))}
            </select>
          </label>
          <label>
            Minutes spent
            <input className="box num" type="number" min={0} {...register("minutes", { valueAsNumber: true })} />
          </label>
          <label>
            € spent
            <input className="box num" type="number" min={0} step="any" {...register("cost", { valueAsNumber: true })} />
          </label>
        </div>
      </div>
      <fieldset className="mt-3 flex flex-wrap items-center gap-3">
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
