import { useState } from "react";
import { parseQuantity } from "../../../../core/design/readQuantity";
import { type Dimension, toDisplay } from "../../../../core/design/units";
import { plain } from "../../../../core/wording/format";
import { usePreferences } from "../../../app/preferences";

/** A list of values of one kind, typed with commas or spaces between them; each within what the design can hold. */
export function ListField({
  label,
  values,
  dimension,
  accepted: [least, most],
  onCommit,
}: {
  label: string;
  values: number[];
  dimension: Dimension;
  /** least and most of each, SI; of what is counted whole numbers */
  accepted: readonly [number, number];
  onCommit: (values: number[]) => void;
}) {
  const { habit } = usePreferences();
  const shown = values.map((v) => Number(toDisplay(v, dimension, habit).toPrecision(4))).join(", ");
  const [text, setText] = useState<string | null>(null);
  const [error, setError] = useState<string | null>(null);
  const commit = () => {
    if (text === null) return;
    const read = text
      .split(/[;,]\s*|\s+/)
      .filter(Boolean)
      .map((t) => parseQuantity(t, dimension, habit));
    const unread = read.find((r) => !r.ok);
    const list = [...new Set(read.flatMap((r) => (r.ok ? [r.value] : [])))].sort((a, b) => a - b);
    const fits = (v: number) => v >= least && v <= most && (dimension !== "count" || Number.isInteger(v));
    if (unread || list.length === 0 || !list.every(fits)) {
      const whole = dimension === "count" ? "whole numbers from" : "values from";
      const [from, to] = [least, most].map((v) => plain(v, dimension, habit, dimension === "count" ? 0 : undefined));
      setError(
        unread && !unread.ok ? unread.message : `Accepted: ${whole} ${from} to ${to}, with commas between them.`,
      );
      return;
    }
    setError(null);
    setText(null);
    onCommit(list);
  };
  return (
    <>
      <input
        className="box num"
        aria-label={label}
        aria-invalid={error !== null}
        value={text ?? shown}
        onChange={(e) => setText(e.target.value)}
        onBlur={commit}
        onKeyDown={(e) => e.key === "Enter" && commit()}
      />
      {error && (
        <span role="alert" className="block text-[11px] text-stop">
          {error}
        </span>
      )}
    </>
  );
}
