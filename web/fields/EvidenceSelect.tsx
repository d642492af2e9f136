import { Cairn, EVIDENCE_WORD } from "../glyphs/Cairn";
import type { Evidence } from "../../core/design/evidence";

/**
 * Levels that a person chooses for what they enter; "calculated" and "proven" are earned, and shown when they stand.
 */
const CHOICES: Evidence[] = ["guess", "datasheet", "measured"];

/** How an entered number is known: its cairn, with a choice under it. */
export function EvidenceSelect({
  label,
  value,
  onChange,
  disabled,
  drawing,
  inList,
}: {
  label: string;
  value: Evidence;
  onChange: (level: Evidence) => void;
  disabled?: boolean;
  drawing?: boolean;
  /** In a list it is reached by the arrow keys: Tab goes from number to number. */
  inList?: boolean;
}) {
  const choices = CHOICES.includes(value) ? CHOICES : [...CHOICES, value];
  return (
    <span
      className={
        "relative inline-flex h-6 w-6 items-center justify-center focus-within:outline-2 " +
        "focus-within:outline-pencil"
      }
    >
      <Cairn level={value} />
      <select
        aria-label={label}
        className="absolute inset-0 opacity-0"
        value={value}
        disabled={disabled}
        tabIndex={inList ? -1 : undefined}
        onChange={(e) => onChange(e.target.value as Evidence)}
      >
        {choices.map((c) => (
          <option key={c} value={c}>
            {drawing && c === "datasheet" ? "drawing" : EVIDENCE_WORD[c]}
          </option>
        ))}
      </select>
    </span>
  );
}
