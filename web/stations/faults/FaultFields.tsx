import type { FieldErrors, UseFieldArrayReturn, UseFormRegister, UseFormSetValue } from "react-hook-form";
import { contracts } from "../../../api/contracts";
import { saysPilot } from "../../../core/design/byWords";
import { newSuspect } from "../../../core/design/craftFile";
import { GROUPS } from "../../../core/faults/catalogue";
import { PILOT } from "../../../core/faults/state";
import type { Symptom } from "../../../core/faults/symptoms/kinds";
import { call } from "../../app/client";
import { useDesk } from "../../app/desk";
import { newKey } from "../runs/blankRun";
import { faultName } from "../runs/words";
import type { Filled } from "./form";

/** Which fault it is, and how it stands. */
export function FaultHead({
  number,
  register,
  errors,
  remove,
  onGone,
}: {
  number: number | null;
  register: UseFormRegister<Filled>;
  errors: FieldErrors<Filled>;
  remove: (question: string, done: string, remove: () => Promise<{ trash: number }>) => Promise<boolean>;
  onGone: () => void;
}) {
  const { slug } = useDesk();

  return (
    <header className="flex items-baseline gap-3 border-b border-ink pb-1">
      <h2 className="whitespace-nowrap text-[18px]">{number === null ? "New fault" : faultName(number)}</h2>
      <input
        className="cell text-[15px]! font-semibold text-ink"
        aria-label="What was seen, in a few words"
        placeholder="What was seen, in a few words"
        {...register("title")}
        aria-invalid={errors.title !== undefined}
      />
      {number !== null && (
        <button
          type="button"
          className="link no-print"
          onClick={async () => {
            if (
              await remove(`Delete ${faultName(number)} with its suspects?`, `${faultName(number)} is deleted.`, () =>
                call(contracts.deleteFault, { params: { slug, number } }),
              )
            )
              onGone();
          }}
        >
          Delete
        </button>
      )}
    </header>
  );
}

/** What was seen, when, and what had been changed. */
export function FaultBasics({
  register,
  catalogue,
}: {
  register: UseFormRegister<Filled>;
  catalogue: readonly Symptom[];
}) {
  const { file } = useDesk();
  const optional = { setValueAs: (v: unknown) => (v === "" || v === null ? null : v) };
  return (
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
              {catalogue
                .filter((s) => s.group === g)
                .map((s) => (
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
  );
}

/** What a fault of the pilot takes to be one. */
export function PilotError({ filled, setValue }: { filled: Filled; setValue: UseFormSetValue<Filled> }) {
  return (
    <div role="group" aria-label="Pilot error" className="mt-3 border-l-[3px] border-care pl-3">
      <label className="flex min-h-6 items-center gap-2">
        <input
          type="checkbox"
          checked={filled.pilotBlamed ?? false}
          onChange={(e) => setValue("pilotBlamed", e.target.checked, { shouldDirty: true })}
        />
        The one at the sticks is said to be the cause
      </label>
      <p>
        “Pilot error” needs the same pilot on another craft, or another pilot on this one. It closes nothing without.
      </p>
      <div className="grid max-w-2xl grid-cols-[220px_1fr] gap-2 max-[640px]:grid-cols-[minmax(0,1fr)]">
        <select
          className="box"
          aria-label="What was swapped"
          value={filled.pilotSwap?.how ?? ""}
          onChange={(e) =>
            setValue(
              "pilotSwap",
              e.target.value === ""
                ? null
                : { how: e.target.value as "same pilot, another craft", shown: filled.pilotSwap?.shown ?? "" },
              {
                shouldDirty: true,
              },
            )
          }
        >
          <option value="">not tried yet</option>
          <option>same pilot, another craft</option>
          <option>another pilot, this craft</option>
        </select>
        {filled.pilotSwap && (
          <input
            className="box"
            aria-label="What the swap showed"
            placeholder="what it showed"
            maxLength={300}
            value={filled.pilotSwap.shown}
            onChange={(e) =>
              filled.pilotSwap &&
              setValue("pilotSwap", { ...filled.pilotSwap, shown: e.target.value }, { shouldDirty: true })
            }
          />
        )}
      </div>
    </div>
  );
}

/** A suspect of one's own. */
export function AddSuspect({
  own,
  setOwn,
  suspects,
}: {
  own: string;
  setOwn: (next: string | null) => void;
  suspects: UseFieldArrayReturn<Filled, "suspects", "key">;
}) {
  const add = () => {
    const words = own.trim();
    // The one at the sticks is one suspect, whatever it is called.
    const pilot = saysPilot(words) && suspects.fields.every((s) => s.id !== PILOT);
    if (words) suspects.append(newSuspect(pilot ? PILOT : `own-${newKey()}`, words));
    setOwn(null);
  };
  return (
    <p className="mt-1 flex gap-2">
      <input
        className="box max-w-md"
        aria-label="What else could it be?"
        placeholder="What else could it be?"
        maxLength={300}
        value={own}
        onChange={(e) => setOwn(e.target.value)}
        onKeyDown={(e) => {
          if (e.key !== "Enter") return;
          e.preventDefault();
          add();
        }}
      />
      <button
        type="button"
        className="act"
        onClick={() => {
          add();
        }}
      >
        Add
      </button>
    </p>
  );
}
