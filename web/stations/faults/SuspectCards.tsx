import { moneySign } from "../../../core/design/money";
import type { ReactNode } from "react";
import type { Control, UseFieldArrayReturn, UseFormRegister, UseFormRegisterReturn } from "react-hook-form";
import { useWatch } from "react-hook-form";
import { RISKS } from "../../../core/design/risk";
import { useDesk } from "../../app/desk";
import { Balance } from "./Balance";
import { EffectField } from "./EffectField";
import type { Filled, Values } from "./form";
import { PartLit } from "./PartLit";

/** Stones: one for each line of a note. */
const stones = (note: string) => note.split(/\n|;/).filter((l) => l.trim() !== "").length;

/** What a suspect's test takes, in a few words. */
export const testCost = (s: {
  minutes?: number | null | undefined;
  cost?: number | undefined;
  risk?: string | undefined;
}): string =>
  [
    s.minutes ? `${s.minutes} min` : "",
    s.cost ? `${s.cost} ${moneySign()}` : "",
    s.risk && s.risk !== "none" ? `risks ${s.risk}` : "",
  ]
    .filter(Boolean)
    .join(", ");

/**
 * Suspects as cards: the part lit in the drawing, what speaks for and against it, the test that tells it apart and what
 * that showed, and what went into it. Those ruled out stay.
 */
export function SuspectCards({
  control,
  register,
  suspects,
}: {
  control: Control<Filled, unknown, Values>;
  register: UseFormRegister<Filled>;
  suspects: UseFieldArrayReturn<Filled, "suspects", "key">;
}) {
  const rows = useWatch({ control, name: "suspects" });
  if (suspects.fields.length === 0) return null;
  return (
    <ol className="border-t border-rule">
      {suspects.fields.map((field, i) => {
        const s = rows[i];
        return (
          s && <SuspectCard key={field.key} s={s} control={control} register={register} i={i} suspects={suspects} />
        );
      })}
    </ol>
  );
}

/** Minutes and money: what a test takes, or what went into it. */
function Effort({
  minutes,
  cost,
  named,
  spent = false,
}: {
  minutes: UseFormRegisterReturn;
  cost: UseFormRegisterReturn;
  named: (what: string) => string;
  spent?: boolean;
}) {
  const field = { className: "cell num w-12! text-right", type: "number", min: 0 };
  return (
    <span className={`flex items-center ${spent ? "font-semibold text-ink" : ""}`}>
      <input {...field} aria-label={named("minutes")} {...minutes} />
      min
      <input {...field} step="any" aria-label={named(moneySign())} {...cost} />
      {moneySign()}
    </span>
  );
}

const noNumber = { setValueAs: (v: unknown) => (v === "" || v === null ? null : Number(v)) };
const noughtIfEmpty = { setValueAs: (v: unknown) => (v === "" || v === null ? 0 : Number(v)) };

/** A field's name above it, as it is read on the card; what a listener hears names the suspect as well. */
function Named({ name, children }: { name: string; children: ReactNode }) {
  return (
    <div className="min-w-0">
      <span className="block text-[11px] text-pencil" aria-hidden>
        {name}
      </span>
      {children}
    </div>
  );
}

/** A suspect's name, how it stands, and the part that it is about, lit in the drawing. */
function About({ s, i, register }: { s: Filled["suspects"][number]; i: number; register: UseFormRegister<Filled> }) {
  const { design } = useDesk();
  const gone = s.part && !design.items.some((item) => item.id === s.part);
  return (
    <div>
      <Balance against={stones(s.against)} forIt={stones(s.for)} state={s.state} />
      <select
        className="cell text-[11px]"
        aria-label={`${s.cause}, the part that it is about`}
        {...register(`suspects.${i}.part`)}
      >
        <option value="">which part?</option>
        {design.items.map((item) => (
          <option key={item.id} value={item.id}>
            {item.name}
          </option>
        ))}
        {gone && <option value={s.part}>a part that is no longer there</option>}
      </select>
      {s.part && <PartLit design={design} partId={s.part} />}
    </div>
  );
}

/** One suspect: how it is tested, what that showed, how it stands. */
function SuspectCard({
  s,
  control,
  register,
  i,
  suspects,
}: {
  s: Filled["suspects"][number];
  control: Control<Filled, unknown, Values>;
  register: UseFormRegister<Filled>;
  i: number;
  suspects: UseFieldArrayReturn<Filled, "suspects", "key">;
}) {
  const out = s.state === "ruled out";
  // As high as what is written in it: nothing is cut, and nothing is held open for lines that nobody wrote.
  const field = (what: "for" | "against" | "test") => (
    <textarea
      className="cell field-sizing-content resize-none"
      rows={1}
      aria-label={`${s.cause}, ${what === "test" ? what : `${what} it`}`}
      placeholder="–"
      {...register(`suspects.${i}.${what}`)}
    />
  );
  return (
    <li
      data-suspect={s.id}
      className={`break-inside-avoid border-b border-rule px-2 py-2 ${s.state === "ruled in" ? "bg-tint-stop" : ""}`}
    >
      <div className="flex flex-wrap items-baseline gap-x-3">
        <span className={out ? "text-pencil line-through" : "font-semibold"}>{s.cause}</span>
        {out && (
          <span className="text-[11px] text-pencil">
            wrong turn{s.spentMinutes ? `, ${s.spentMinutes} min` : ""}
            {s.spentCost ? `, ${s.spentCost} ${moneySign()}` : ""}
          </span>
        )}
        <span className="ml-auto flex items-baseline gap-3">
          <select
            className={`cell w-auto! ${s.state === "ruled in" ? "font-semibold text-stop!" : ""}`}
            aria-label={`${s.cause}, state`}
            {...register(`suspects.${i}.state`)}
          >
            <option>open</option>
            <option>ruled in</option>
            <option>ruled out</option>
          </select>
          <button type="button" className="link text-[11px]" onClick={() => suspects.remove(i)}>
            remove
          </button>
        </span>
      </div>
      <div className="mt-1 grid grid-cols-[170px_1fr_1fr] gap-x-4 gap-y-2 max-sm:grid-cols-1">
        <About s={s} i={i} register={register} />
        <div className="grid content-start gap-2">
          <Named name="for it">{field("for")}</Named>
          <Named name="against it">{field("against")}</Named>
        </div>
        <div className="grid content-start gap-2">
          <Named name="test to confirm or rule out">
            {field("test")}
            <span className="flex flex-wrap items-center gap-x-2 text-[11px]">
              <Effort
                minutes={register(`suspects.${i}.minutes`, noNumber)}
                cost={register(`suspects.${i}.cost`, noughtIfEmpty)}
                named={(what) => `${s.cause}, ${what} of the test`}
              />
              <select
                className="cell w-auto!"
                aria-label={`${s.cause}, the test risks`}
                {...register(`suspects.${i}.risk`)}
              >
                {RISKS.map((r) => (
                  <option key={r} value={r}>
                    {r === "none" ? "risk not stated" : `risks ${r}`}
                  </option>
                ))}
              </select>
            </span>
          </Named>
          <Named name="result">
            <input
              className="cell"
              aria-label={`${s.cause}, result`}
              placeholder="–"
              {...register(`suspects.${i}.result`)}
            />
            <span className="flex items-center gap-2 text-[11px]">
              spent
              <Effort
                spent
                minutes={register(`suspects.${i}.spentMinutes`, noughtIfEmpty)}
                cost={register(`suspects.${i}.spentCost`, noughtIfEmpty)}
                named={(what) => `${s.cause}, ${what} spent`}
              />
            </span>
            <EffectField control={control} i={i} cause={s.cause} state={s.state} />
          </Named>
        </div>
      </div>
    </li>
  );
}
