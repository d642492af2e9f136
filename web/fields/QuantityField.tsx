import { type KeyboardEvent, useEffect, useId, useRef, useState } from "react";
import type { z } from "zod";
import { type Dimension, toDisplay } from "../../core/design/units";
import { MILLI_FROM, parseQuantity } from "../../core/design/readQuantity";
import { plain } from "../../core/wording/format";
import { usePreferences } from "../app/preferences";
import { enterByMouse, selectAll } from "./selectAll";

interface Props {
  label: string;
  value: number | null;
  dimension: Dimension;
  /** Takes the value; a returned text is why it was refused, and stands at the field. */
  onCommit: (value: number | null) => unknown;
  /** The value's own schema: its message is the error. */
  schema?: z.ZodType<number>;
  empty?: string;
  disabled?: boolean;
  boxed?: boolean;
  className?: string;
}

/**
 * Digits enough that showing a value and reading it back changes nothing that matters (1 in 100 000). A capacity that
 * would be read in mAh without its unit stands with it.
 */
function editable(value: number, dimension: Dimension, habit: "metric" | "imperial"): string {
  const number = String(Number(toDisplay(value, dimension, habit).toPrecision(6)));
  return dimension === "capacity" && Math.abs(value) >= MILLI_FROM ? `${number} Ah` : number;
}

/** Moves to the same column of the next or previous row of a table, like a spreadsheet. */
function moveInColumn(input: HTMLInputElement, step: 1 | -1): void {
  const cell = input.closest("td");
  const row = cell?.closest("tr");
  let next = step === 1 ? row?.nextElementSibling : row?.previousElementSibling;
  while (next && !next.querySelector("td input"))
    next = step === 1 ? next.nextElementSibling : next.previousElementSibling;
  const target = cell ? next?.children[cell.cellIndex]?.querySelector("input") : null;
  if (target) target.focus();
  else input.blur();
}

export function tableKeys(event: KeyboardEvent<HTMLInputElement>, revert: () => void): void {
  if (event.key === "Enter") {
    event.preventDefault();
    moveInColumn(event.currentTarget, event.shiftKey ? -1 : 1);
  } else if (event.key === "Escape") {
    event.stopPropagation();
    revert();
    event.currentTarget.blur();
  }
}

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
  const known = useRef(value);
  /** What was typed since the field was entered stays, whatever changes beneath it. */
  const typed = useRef(false);
  useEffect(() => {
    if (known.current === value) return;
    known.current = value;
    if (typed.current) return;
    setText(null);
    setError(null);
  }, [value]);

  const finish = () => {
    typed.current = false;
    if (reverting.current) {
      reverting.current = false;
      setText(null);
      setError(null);
      return;
    }
    if (text === null) return;
    if (text.trim() === "" && empty !== undefined) {
      setText(null);
      setError(null);
      if (value !== null) onCommit(null);
      return;
    }
    const read = parseQuantity(text, dimension, habit);
    const problem = !read.ok ? read.message : schema ? schemaMessage(schema, read.value, dimension) : null;
    if (problem !== null || !read.ok) {
      setError(problem);
      return;
    }
    const unchanged = value !== null && Math.abs(read.value - value) <= 1e-6 * Math.abs(value);
    const refused = unchanged ? null : onCommit(read.value);
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
              : editable(value, dimension, habit))
        }
        onMouseDown={enterByMouse}
        onFocus={(e) => {
          setNote(null);
          const shown = text === null && value !== null ? editable(value, dimension, habit) : undefined;
          if (shown !== undefined) setText(shown);
          selectAll(e.currentTarget, shown);
        }}
        onChange={(e) => {
          typed.current = true;
          setText(e.target.value);
        }}
        onBlur={finish}
        onKeyDown={(e) =>
          tableKeys(e, () => {
            reverting.current = true;
          })
        }
      />
      {note !== null && error === null && (
        <span
          role="status"
          className="absolute left-0 top-full z-20 block border border-hair bg-sheet px-2 py-1 text-left text-[11px] whitespace-nowrap text-care"
        >
          {note}
        </span>
      )}
      {error !== null && (
        <span
          id={id}
          role="alert"
          className="absolute left-0 top-full z-20 block w-64 border border-stop bg-sheet px-2 py-1 text-left text-[11px] text-stop"
        >
          {error}
        </span>
      )}
    </span>
  );
}

function placesFor(value: number, dimension: Dimension, habit: "metric" | "imperial"): number {
  const shown = Math.abs(toDisplay(value, dimension, habit));
  const text = String(Number(shown.toPrecision(5)));
  return text.includes("e") ? 3 : (text.split(".")[1]?.length ?? 0);
}

function schemaMessage(schema: z.ZodType<number>, value: number, dimension: Dimension): string | null {
  const result = schema.safeParse(value);
  if (result.success) return null;
  const issue = result.error.issues[0];
  if (!issue) return "Not accepted.";
  if (issue.code === "too_small" && (issue.minimum === 0 || Number(issue.minimum) === 0))
    return issue.inclusive ? "Accepted: zero or more." : "Accepted: more than zero.";
  if (issue.code === "too_small")
    return issue.message.startsWith("Too small")
      ? `Accepted: ${plain(Number(issue.minimum), dimension)} or more.`
      : `${issue.message} (at least ${plain(Number(issue.minimum), dimension)}).`;
  if (issue.code === "too_big")
    return issue.message.startsWith("Too big")
      ? `Accepted: ${plain(Number(issue.maximum), dimension)} at most.`
      : `${issue.message}.`;
  return issue.message;
}
