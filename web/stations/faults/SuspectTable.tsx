import { moneySign } from "../../../core/design/money";
import type { Control, UseFieldArrayReturn, UseFormRegister } from "react-hook-form";
import { useWatch } from "react-hook-form";
import { RISKS } from "../../../core/design/risk";
import { Balance } from "./Balance";
import { EffectField } from "./EffectField";
import type { Filled, Values } from "./form";

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
      <table className="rows w-full min-w-[660px] table-fixed">
        <thead>
          <tr>
            <th className="w-[17%]">suspect</th>
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
            const small = "cell num w-12! text-right";
            return (
              <SuspectRow
                key={field.key}
                s={s}
                control={control}
                register={register}
                i={i}
                suspects={suspects}
                small={small}
                number={number}
              />
            );
          })}
        </tbody>
      </table>
    </div>
  );
}

/** One suspect: how it is tested, what that showed, how it stands. */
function SuspectRow({
  s,
  control,
  register,
  i,
  suspects,
  small,
  number,
}: {
  s: Filled["suspects"][number];
  control: Control<Filled, unknown, Values>;
  register: UseFormRegister<Filled>;
  i: number;
  suspects: UseFieldArrayReturn<Filled, "suspects", "key">;
  small: "cell num w-12! text-right";
  number: { setValueAs: (v: unknown) => number };
}) {
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
      </td>
      <td>
        <Balance against={stones(s.against)} forIt={stones(s.for)} state={s.state} />
      </td>
      <td>
        <textarea
          className="cell"
          rows={2}
          aria-label={`${s.cause}, for it`}
          placeholder="–"
          {...register(`suspects.${i}.for`)}
        />
      </td>
      <td>
        <textarea
          className="cell"
          rows={2}
          aria-label={`${s.cause}, against it`}
          placeholder="–"
          {...register(`suspects.${i}.against`)}
        />
      </td>
      <td>
        <textarea className="cell" rows={2} aria-label={`${s.cause}, test`} {...register(`suspects.${i}.test`)} />
        <input
          className="cell text-ink"
          aria-label={`${s.cause}, result`}
          placeholder="result"
          {...register(`suspects.${i}.result`)}
        />
        <EffectField control={control} i={i} cause={s.cause} state={s.state} />
      </td>
      <td className="text-[11px]">
        <select className="cell" aria-label={`${s.cause}, state`} {...register(`suspects.${i}.state`)}>
          <option>open</option>
          <option>ruled in</option>
          <option>ruled out</option>
        </select>
        <button type="button" className="link text-[11px]" onClick={() => suspects.remove(i)}>
          remove
        </button>
        <span className="flex items-center">
          <input
            className={small}
            type="number"
            min={0}
            aria-label={`${s.cause}, minutes of the test`}
            {...register(`suspects.${i}.minutes`, {
              setValueAs: (v: unknown) => (v === "" || v === null ? null : Number(v)),
            })}
          />
          min
          <input
            className={small}
            type="number"
            min={0}
            step="any"
            aria-label={`${s.cause}, ${moneySign()} of the test`}
            {...register(`suspects.${i}.cost`, number)}
          />
          {moneySign()}
        </span>
        <select className="cell" aria-label={`${s.cause}, the test risks`} {...register(`suspects.${i}.risk`)}>
          {RISKS.map((r) => (
            <option key={r} value={r}>
              {r === "none" ? "risk not stated" : `risks ${r}`}
            </option>
          ))}
        </select>
        <span className="flex items-center font-semibold text-ink">
          <input
            className={small}
            type="number"
            min={0}
            aria-label={`${s.cause}, minutes spent`}
            {...register(`suspects.${i}.spentMinutes`, number)}
          />
          min
          <input
            className={small}
            type="number"
            min={0}
            step="any"
            aria-label={`${s.cause}, ${moneySign()} spent`}
            {...register(`suspects.${i}.spentCost`, number)}
          />
          {moneySign()}
        </span>
      </td>
    </tr>
  );
}
