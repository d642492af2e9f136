import type { z } from "zod";
import { type Dimension, type UnitHabit, toDisplay } from "../../core/design/units";
import { MILLI_FROM, parseQuantity } from "../../core/design/readQuantity";
import { plain } from "../../core/wording/format";

/** What a field for a number accepts. */
export interface NumberSpec {
  dimension: Dimension;
  /** The value's own schema: its message is the error. */
  schema?: z.ZodType<number>;
  /** What an empty field shows; without it a number is needed. */
  empty?: string;
  /** Takes "20–30" too: a least and a most. */
  range?: boolean;
}

export type FieldRead =
  | { ok: true; value: number | null; most?: number | null; note?: string }
  | { ok: false; message: string };

/** Reads what was typed or pasted into a field for a number. */
export function readField(text: string, spec: NumberSpec, habit: UnitHabit): FieldRead {
  const { dimension, schema, empty, range } = spec;
  if (text.trim() === "" && empty !== undefined) return { ok: true, value: null };
  const ends = range ? /^\s*([^–—-]*\d[^–—-]*?)\s*(?:[–—-]|\.\.|\bto\b|\bbis\b)\s*(\d.*)$/i.exec(text) : null;
  if (ends) {
    const [least, most] = [ends[1] ?? "", ends[2] ?? ""].map((end) => readField(end, { dimension, schema }, habit));
    // "30-5" is a difference, "20-30" would be below nothing: it can only be a range.
    if (least?.ok && most?.ok && least.value !== null && most.value !== null && least.value < most.value)
      return { ok: true, value: least.value, most: most.value };
    if (/[–—]|\.\.|to|bis/i.test(text) && least?.ok && most?.ok)
      return { ok: false, message: "A range goes from its least to its most, as in 20–30." };
  }
  const read = parseQuantity(text, dimension, habit);
  if (!read.ok) return { ok: false, message: read.message };
  const problem = schema ? schemaMessage(schema, read.value, dimension, habit) : null;
  return problem === null ? { ok: true, value: read.value, note: read.note } : { ok: false, message: problem };
}

/**
 * Digits enough that showing a value and reading it back changes nothing that matters (1 in 100 000). A capacity that
 * would be read in mAh without its unit stands with it; whole seconds that make no short number of minutes are told as
 * minutes and seconds.
 */
export function editable(value: number, dimension: Dimension, habit: UnitHabit): string {
  const number = String(Number(toDisplay(value, dimension, habit).toPrecision(6)));
  if (dimension === "time" && value > 0 && value < 3600 && Number.isInteger(value) && /\.\d{3}/.test(number))
    return `${Math.floor(value / 60)}:${String(value % 60).padStart(2, "0")}`;
  return dimension === "capacity" && Math.abs(value) >= MILLI_FROM ? `${number} Ah` : number;
}

function schemaMessage(
  schema: z.ZodType<number>,
  value: number,
  dimension: Dimension,
  habit: UnitHabit,
): string | null {
  const result = schema.safeParse(value);
  if (result.success) return null;
  const issue = result.error.issues[0];
  if (!issue) return "Not accepted.";
  if (issue.code === "too_small" && (issue.minimum === 0 || Number(issue.minimum) === 0))
    return issue.inclusive ? "Accepted: zero or more." : "Accepted: more than zero.";
  if (issue.code === "too_small")
    return issue.message.startsWith("Too small")
      ? `Accepted: ${plain(Number(issue.minimum), dimension, habit)} or more.`
      : `${issue.message} (at least ${plain(Number(issue.minimum), dimension, habit)}).`;
  if (issue.code === "too_big")
    return issue.message.startsWith("Too big")
      ? `Accepted: ${plain(Number(issue.maximum), dimension, habit)} at most.`
      : `${issue.message}.`;
  return issue.message;
}
