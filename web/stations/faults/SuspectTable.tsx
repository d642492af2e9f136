import { moneySign } from "../../../core/design/money";
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
 * Suspects with what speaks for and against each, the test that tells it apart, its result, and what went into it.
 * Those ruled out stay.
 */
export function SuspectTable({
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
    <div className="wide">
      <table className="rows cards w-full min-w-[660px] table-fixed">
        <thead>
          <tr>
            <th className="w-[19%]">suspect</th>
            <th className="w-[104px]">against, for</th>
            <th>for it</th>
            <th>against it</th>
            <th className="w-[24%]">test to confirm or rule out, result</th>
            <th className="w-[132px]">planned effort; actual effort</th>
          </tr>
        </thead>
        <tbody>
          {suspects.fields.map((field, i) => {
            const s = rows[i];
            if (!s) return null;
            const number = { setValueAs: (v: unknown) => (v === "" || v === null ? 0 : Number(v)) };
            return (
              <SuspectRow
                key={field.key}
                s={s}
                control={control}
                register={register}
                i={i}
                suspects={suspects}
                number={number}
              />
            );
          })}
        </tbody>
      </table>
    </div>
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

/** One suspect: how it is tested, what that showed, how it stands. */
function SuspectRow({
  s,
  control,
  register,
  i,
  suspects,
  number,
}: {
  s: Filled["suspects"][number];
  control: Control<Filled, unknown, Values>;
  register: UseFormRegister<Filled>;
  i: number;
  suspects: UseFieldArrayReturn<Filled, "suspects", "key">;
  number: { setValueAs: (v: unknown) => number };
}) {
  const { design } = useDesk();
  const gone = s.part && !design.items.some((item) => item.id === s.part);
  return (
    <tr data-suspect={s.id} className={s.state === "ruled in" ? "bg-tint-stop" : ""}>
      <td className={`text-ink ${s.state === "ruled out" ? "text-pencil" : "font-semibold"}`}>
        <span className={s.state === "ruled out" ? "line-through" : ""}>{s.cause}</span>
        {s.state === "ruled in" && <span className="block text-[11px] text-stop">ruled in</span>}
        {s.state === "ruled out" && (
          <span className="block text-[11px] font-normal">
            wrong turn{s.spentMinutes ? `, ${s.spentMinutes} min` : ""}
            {s.spentCost ? `, ${s.spentCost} ${moneySign()}` : ""}
          </span>
        )}
        <select
          className="cell font-normal text-[11px]"
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
      </td>
      <td>
        <Balance against={stones(s.against)} forIt={stones(s.for)} state={s.state} />
      </td>
      <td data-label="for it">
        <textarea
          className="cell"
          rows={2}
          aria-label={`${s.cause}, for it`}
          placeholder="–"
          {...register(`suspects.${i}.for`)}
        />
      </td>
      <td data-label="against it">
        <textarea
          className="cell"
          rows={2}
          aria-label={`${s.cause}, against it`}
          placeholder="–"
          {...register(`suspects.${i}.against`)}
        />
      </td>
      <td data-label="test, result">
        <span className="block">
          {" "}
          <textarea className="cell" rows={2} aria-label={`${s.cause}, test`} {...register(`suspects.${i}.test`)} />
          <input
            className="cell text-ink"
            aria-label={`${s.cause}, result`}
            placeholder="result"
            {...register(`suspects.${i}.result`)}
          />
          <EffectField control={control} i={i} cause={s.cause} state={s.state} />
        </span>
      </td>
      <td className="text-[11px]" data-label="effort">
        <span className="block">
          {" "}
          <select className="cell" aria-label={`${s.cause}, state`} {...register(`suspects.${i}.state`)}>
            <option>open</option>
            <option>ruled in</option>
            <option>ruled out</option>
          </select>
          <button type="button" className="link text-[11px]" onClick={() => suspects.remove(i)}>
            remove
          </button>
          <Effort
            minutes={register(`suspects.${i}.minutes`, {
              setValueAs: (v: unknown) => (v === "" || v === null ? null : Number(v)),
            })}
            cost={register(`suspects.${i}.cost`, number)}
            named={(what) => `${s.cause}, ${what} of the test`}
          />
          <select className="cell" aria-label={`${s.cause}, the test risks`} {...register(`suspects.${i}.risk`)}>
            {RISKS.map((r) => (
              <option key={r} value={r}>
                {r === "none" ? "risk not stated" : `risks ${r}`}
              </option>
            ))}
          </select>
          <Effort
            spent
            minutes={register(`suspects.${i}.spentMinutes`, number)}
            cost={register(`suspects.${i}.spentCost`, number)}
            named={(what) => `${s.cause}, ${what} spent`}
          />
        </span>
      </td>
    </tr>
  );
}
