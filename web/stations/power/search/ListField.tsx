import { useState } from "react";
import { parseQuantity } from "../../../../core/design/readQuantity";
import { type Dimension, toDisplay } from "../../../../core/design/units";
import { usePreferences } from "../../../app/preferences";

/** A list of values of one kind, typed with commas or spaces between them. */
export function ListField({
  label,
  values,
  dimension,
  onCommit,
}: {
  label: string;
  values: number[];
  dimension: Dimension;
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
    const bad = read.find((r) => !r.ok);
    const list = [...new Set(read.flatMap((r) => (r.ok && r.value > 0 ? [r.value] : [])))].sort((a, b) => a - b);
    if (bad || list.length === 0) {
      setError(bad && !bad.ok ? bad.message : "Accepted: values above zero, with commas between them.");
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
