import { moneySign } from "../../../core/design/money";
import { Controller, type UseFormRegister, type UseFormReturn } from "react-hook-form";
import { blamesByWords } from "../../../core/design/byWords";
import { asksNextWeakest } from "../../../core/faults/story";
import { useDesk } from "../../app/desk";
import { Lines } from "../../fields/Lines";
import { QuantityField } from "../../fields/QuantityField";
import type { Filled, Values } from "./form";

/** Cause, fix and proof; the part that failed, what the repair touched, and what is the next weakest. */
export function Mending({ form, filled }: { form: UseFormReturn<Filled, unknown, Values>; filled: Filled }) {
  const { design } = useDesk();
  const { register, control, setValue } = form;
  const nameOf = (part: string) => design.items.find((i) => i.id === part)?.name ?? part;
  const idOf = (name: string) =>
    design.items.find((i) => i.name.toLowerCase() === name.trim().toLowerCase())?.id ?? name.trim();
  const asks = asksNextWeakest({ part: filled.part ?? "", fix: filled.fix, nextWeakest: filled.nextWeakest ?? "" });
  return (
    <>
      <datalist id="parts-of-craft">
        {design.items.map((i) => (
          <option key={i.id} value={i.name} />
        ))}
      </datalist>
      <div className="mt-4 grid grid-cols-3 gap-3 max-[640px]:grid-cols-[minmax(0,1fr)] max-[640px]:[&>*]:col-span-1!">
        <label>
          Cause
          <textarea
            className="box"
            rows={2}
            {...register("cause", {
              onChange: (e) => blamesByWords(e.target.value) && setValue("pilotBlamed", true, { shouldDirty: true }),
            })}
          />
        </label>
        <label>
          Fix
          <textarea className="box" rows={2} {...register("fix")} />
        </label>
        <FixedIn filled={filled} register={register} />
        <label>
          Part that failed
          <Controller
            control={control}
            name="part"
            render={({ field }) => (
              <input
                key={field.value}
                className="box"
                aria-label="Part that failed"
                list="parts-of-craft"
                maxLength={120}
                defaultValue={nameOf(field.value ?? "")}
                onBlur={(e) => field.onChange(idOf(e.target.value))}
              />
            )}
          />
        </label>
        <label>
          What else was disturbed <span className="text-pencil">(one to a line)</span>
          <Controller
            control={control}
            name="touched"
            render={({ field }) => (
              <Lines
                label="What else was disturbed"
                most={40}
                rows={2}
                length={120}
                value={(field.value ?? []).map(nameOf)}
                onCommit={(list) => field.onChange(list.map(idOf))}
                placeholder="looked at before the next run"
              />
            )}
          />
        </label>
        <label>
          Mass that it added
          <Controller
            control={control}
            name="mass"
            render={({ field }) => (
              <QuantityField
                boxed
                label="Mass that it added"
                dimension="mass"
                value={field.value ?? 0}
                onCommit={(v) => field.onChange(v ?? 0)}
              />
            )}
          />
        </label>
        {(asks || filled.nextWeakest) && (
          <label className="col-span-3">
            <span className={asks ? "font-semibold text-care" : ""}>
              A part failed and was mended: what is the next weakest in that load path, and which part should break
              first?
            </span>
            <input className="box" aria-label="Next weakest" maxLength={300} {...register("nextWeakest")} />
          </label>
        )}
      </div>
    </>
  );
}

/** In which version it was fixed, and by which run that was seen. */
function FixedIn({ filled, register }: { filled: Filled; register: UseFormRegister<Filled> }) {
  const { file } = useDesk();
  const seen = file.runs.find((s) => s.number === Number(filled.run));
  const laterRuns = file.runs.filter((r) => seen && Date.parse(r.date) > Date.parse(seen.date));
  const optional = { setValueAs: (v: unknown) => (v === "" || v === null ? null : v) };
  const optionalNumber = { setValueAs: (v: unknown) => (v === "" || v === null ? null : Number(v)) };
  return (
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
        Minutes to mend
        <input
          className="box num"
          type="number"
          min={0}
          aria-label="Minutes spent"
          {...register("minutes", { valueAsNumber: true })}
        />
      </label>
      <label>
        repair cost, {moneySign()}
        <input
          className="box num"
          type="number"
          min={0}
          step="any"
          aria-label={`${moneySign()} spent`}
          {...register("cost", { valueAsNumber: true })}
        />
      </label>
    </div>
  );
}
