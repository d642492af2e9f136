import { type KeyboardEvent, useEffect, useId, useRef, useState } from "react";
import { type Dimension, type UnitHabit, toDisplay } from "../../core/design/units";
import { inOtherUnits, plain } from "../../core/wording/format";
import { usePreferences } from "../app/preferences";
import { type NumberSpec, editable, readField } from "./readField";
import { enterByMouse, selectAll } from "./selectAll";

interface Props extends NumberSpec {
  label: string;
  value: number | null;
  /** The most of a range whose least is the value. */
  most?: number | null;
  /** Takes the value, and of a range its most; a returned text is why it was refused, and stands at the field. */
  onCommit: (value: number | null, most: number | null) => unknown;
  disabled?: boolean;
  boxed?: boolean;
  className?: string;
}

/** Moves to the same column of the next or previous row of a table, like a spreadsheet. */
function moveInColumn(input: HTMLInputElement, step: 1 | -1, stays = false): void {
  const cell = input.closest("td");
  const row = cell?.closest("tr");
  let next = step === 1 ? row?.nextElementSibling : row?.previousElementSibling;
  while (next && !next.querySelector("td input"))
    next = step === 1 ? next.nextElementSibling : next.previousElementSibling;
  const target = cell ? next?.children[cell.cellIndex]?.querySelector("input") : null;
  if (target) target.focus();
  else if (!stays) input.blur();
}

/** Whether a key alone was pressed in a list that has no keys of its own. */
const inPlainList = (event: KeyboardEvent<HTMLInputElement>): boolean =>
  !(event.ctrlKey || event.metaKey || event.altKey || event.shiftKey) &&
  event.currentTarget.closest("table.rows td") !== null &&
  event.currentTarget.closest("[data-grid]") === null;

export function tableKeys(event: KeyboardEvent<HTMLInputElement>, revert: () => void): void {
  if (event.key === "Enter") {
    event.preventDefault();
    moveInColumn(event.currentTarget, event.shiftKey ? -1 : 1);
  } else if ((event.key === "ArrowDown" || event.key === "ArrowUp") && inPlainList(event)) {
    event.preventDefault();
    moveInColumn(event.currentTarget, event.key === "ArrowDown" ? 1 : -1, true);
  } else if (event.key === "Escape") {
    event.stopPropagation();
    revert();
    event.currentTarget.blur();
  }
}

/** What stands beside a field, over the page. */
const BUBBLE = "absolute z-20 block bg-sheet text-left text-[11px]";

/**
 * A number with its unit, edited in place. Takes any accepted unit and simple sums, shows the user's own unit when
 * left. What cannot be
 * read stays as typed, with the reason beneath.
 */
export function QuantityField({
  label,
  value,
  dimension,
  onCommit,
  schema,
  empty,
  range,
  most = null,
  disabled,
  boxed,
  className = "",
}: Props) {
  const { habit } = usePreferences();
  const [text, setText] = useState<string | null>(null);
  const [error, setError] = useState<string | null>(null);
  const reverting = useRef(false);
  const id = useId();
  const [note, setNote] = useState<string | null>(null);
  /** The value in the other units, while the field is entered and nothing is typed. */
  const [echo, setEcho] = useState<string | null>(null);
  const known = useRef(`${value} ${most}`);
  /** What was typed since the field was entered stays, whatever changes beneath it. */
  const typed = useRef(false);
  useEffect(() => {
    const now = `${value} ${most}`;
    if (known.current === now) return;
    known.current = now;
    if (typed.current) return;
    setText(null);
    setError(null);
  }, [value, most]);

  const finish = () => {
    typed.current = false;
    setEcho(null);
    if (reverting.current) {
      reverting.current = false;
      setText(null);
      setError(null);
      return;
    }
    if (text === null) return;
    const read = readField(text, { dimension, schema, empty, range }, habit);
    if (!read.ok) {
      setError(read.message);
      return;
    }
    if (read.value === null) {
      setText(null);
      setError(null);
      if (value !== null) onCommit(null, null);
      return;
    }
    const unchanged =
      value !== null && Math.abs(read.value - value) <= 1e-6 * Math.abs(value) && (read.most ?? null) === most;
    const refused = unchanged ? null : onCommit(read.value, read.most ?? null);
    if (typeof refused === "string") {
      setError(`${refused[0]?.toUpperCase()}${refused.slice(1)}.`);
      return;
    }
    setError(null);
    setText(null);
    setNote(read.note ?? null);
  };
  return (
    <span className={`relative inline-block ${boxed ? "w-full" : ""} ${className}`}>
      <input
        className={`${boxed ? "box" : "cell"} num text-right`}
        aria-label={label}
        aria-invalid={error !== null}
        data-unread={error === null ? undefined : ""}
        aria-describedby={error === null ? undefined : id}
        disabled={disabled}
        inputMode="text"
        autoComplete="off"
        placeholder={empty}
        value={
          text ??
          (value === null
            ? ""
            : boxed
              ? plain(value, dimension, habit, placesFor(value, dimension, habit))
              : written(value, most, dimension, habit))
        }
        onMouseDown={enterByMouse}
        onFocus={(e) => {
          setNote(null);
          setEcho(value === null ? null : inOtherUnits(value, dimension, habit));
          const shown = text === null && value !== null ? written(value, most, dimension, habit) : undefined;
          if (shown !== undefined) setText(shown);
          selectAll(e.currentTarget, shown);
        }}
        onChange={(e) => {
          typed.current = true;
          setEcho(null);
          setText(e.target.value);
        }}
        onBlur={finish}
        onKeyDown={(e) =>
          tableKeys(e, () => {
            reverting.current = true;
          })
        }
      />
      {echo !== null && note === null && error === null && (
        <span
          data-echo
          aria-hidden="true"
          className={`pointer-events-none right-0 bottom-full px-1 leading-4 whitespace-nowrap text-pencil ${BUBBLE}`}
        >
          {echo}
        </span>
      )}
      {note !== null && error === null && (
        <span
          role="status"
          className={`left-0 top-full border border-hair px-2 py-1 whitespace-nowrap text-care ${BUBBLE}`}
        >
          {note}
        </span>
      )}
      {error !== null && (
        <span id={id} role="alert" className={`left-0 top-full w-64 border border-stop px-2 py-1 text-stop ${BUBBLE}`}>
          {error}
        </span>
      )}
    </span>
  );
}

/** What stands in the field: one number, or a range. */
const written = (value: number, most: number | null, dimension: Dimension, habit: UnitHabit) =>
  `${editable(value, dimension, habit)}${most === null || most <= value ? "" : `–${editable(most, dimension, habit)}`}`;

function placesFor(value: number, dimension: Dimension, habit: "metric" | "imperial"): number {
  const shown = Math.abs(toDisplay(value, dimension, habit));
  const text = String(Number(shown.toPrecision(5)));
  return text.includes("e") ? 3 : (text.split(".")[1]?.length ?? 0);
}
