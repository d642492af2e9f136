import { useState } from "react";
import { type Control, Controller } from "react-hook-form";
import { readPoints } from "../../../core/bench/free";
import { doubtsItself, effectOf } from "../../../core/faults/effect";
import { effectText } from "../../../core/wording/free";
import type { Filled, Values } from "./form";

type Effect = NonNullable<Values["suspects"][number]["effect"]>;
const BLANK: Effect = { what: "", unit: "", without: [], with: [] };

/** Numbers parted by blanks; null where something of it is none. */
function numbersOf(text: string): number[] | null {
  const { points, problems } = readPoints(text.trim().split(/\s+/).join("\n"));
  return problems.length > 0 || points.some((p) => p.x !== null) ? null : points.map((p) => p.y);
}

/** A list of readings in one field; what is no number is said, and nothing of it is lost. */
function Numbers({ label, list, onChange }: { label: string; list: number[]; onChange: (list: number[]) => void }) {
  const [text, setText] = useState(list.join("  "));
  const read = numbersOf(text);
  return (
    <label className="block">
      {label}
      <input
        className="box num"
        value={text}
        placeholder="8.1  7.9  8.4"
        aria-invalid={read === null}
        onChange={(e) => {
          setText(e.target.value);
          const now = numbersOf(e.target.value);
          if (now) onChange(now);
        }}
      />
      {read === null && (
        <span role="alert" className="block text-stop">
          Numbers, parted by blanks.
        </span>
      )}
    </label>
  );
}

/** What was read with and without a suspect: how large its effect is, and how sure that is. */
export function EffectField({
  control,
  i,
  cause,
  state,
}: {
  control: Control<Filled, unknown, Values>;
  i: number;
  cause: string;
  state: Values["suspects"][number]["state"];
}) {
  return (
    <Controller
      control={control}
      name={`suspects.${i}.effect`}
      render={({ field }) => {
        const effect = (field.value ?? null) as Effect | null;
        const set = (change: Partial<Effect>) => field.onChange({ ...(effect ?? BLANK), ...change });
        const found = effectOf({ effect });
        return (
          <details className="text-[11px]" open={effect !== null}>
            <summary className="min-h-6 cursor-pointer">
              {found && effect ? effectText(found, effect) : "readings"}
            </summary>
            <div className="grid grid-cols-[1fr_64px] gap-1">
              <label>
                what was read
                <input
                  className="box"
                  aria-label={`${cause}, what was read`}
                  maxLength={60}
                  value={effect?.what ?? ""}
                  onChange={(e) => set({ what: e.target.value })}
                />
              </label>
              <label>
                unit
                <input
                  className="box"
                  aria-label={`${cause}, unit`}
                  maxLength={20}
                  value={effect?.unit ?? ""}
                  onChange={(e) => set({ unit: e.target.value })}
                />
              </label>
            </div>
            <Numbers label="as it was" list={effect?.without ?? []} onChange={(list) => set({ without: list })} />
            <Numbers
              label="with the suspect away or changed"
              list={effect?.with ?? []}
              onChange={(list) => set({ with: list })}
            />
            {doubtsItself({ state, effect }) && (
              <p className="text-care">
                Ruled in, but its own readings do not show it: read more often, or leave it open.
              </p>
            )}
            {effect !== null && (
              <button type="button" className="link" onClick={() => field.onChange(null)}>
                without readings
              </button>
            )}
          </details>
        );
      }}
    />
  );
}
