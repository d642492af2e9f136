import { type Known, positiveOf } from "../../core/design/evidence";
import { plain } from "../../core/wording/format";
import { usePreferences } from "../app/preferences";
import { KnownField } from "./KnownField";

/** m², of a craft in the air. */
const GUESS = 0.02;

/** A drag area that may not be known: entered, guessed by a click that says so, forgotten. */
export function DragAreaField({
  label,
  value,
  guess = GUESS,
  onChange,
}: {
  label: string;
  value: Known | null;
  /** m²: where somebody who guesses begins */
  guess?: number;
  onChange: (known: Known | null) => unknown;
}) {
  const { habit } = usePreferences();
  return value ? (
    <span className="flex items-center gap-2">
      <span className="w-40">
        <KnownField
          label={label}
          value={value}
          dimension="area"
          schema={positiveOf("area")}
          onCommit={(known) => onChange(known)}
        />
      </span>
      {value.note && <span className="flex-1 text-pencil">{value.note}</span>}
      <button type="button" className="link" onClick={() => onChange(null)}>
        forget it
      </button>
    </span>
  ) : (
    <button type="button" className="link" onClick={() => onChange({ value: guess, evidence: "guess" })}>
      guess {plain(guess, "area", habit, 0)}
    </button>
  );
}
