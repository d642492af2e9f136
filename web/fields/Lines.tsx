import { useEffect, useState } from "react";

/** A list of sentences, one to a line. */
export function Lines({
  label,
  value,
  onCommit,
  most,
  rows = 3,
  length = 160,
  placeholder,
}: {
  label: string;
  value: string[];
  onCommit: (list: string[]) => void;
  most: number;
  rows?: number;
  length?: number;
  placeholder?: string;
}) {
  const joined = value.join("\n");
  const [text, setText] = useState(joined);
  useEffect(() => setText(joined), [joined]);
  const list = text
    .split("\n")
    .map((l) => l.trim())
    .filter((l) => l !== "");
  const wrong =
    list.length > most
      ? `At most ${most} lines.`
      : list.some((l) => l.length > length)
        ? `A line has at most ${length} characters.`
        : null;
  return (
    <>
      <textarea
        className="box"
        rows={rows}
        aria-label={label}
        aria-invalid={wrong !== null}
        placeholder={placeholder}
        value={text}
        onChange={(e) => setText(e.target.value)}
        onBlur={() => wrong === null && list.join("\n") !== joined && onCommit(list)}
      />
      {wrong && (
        <span role="alert" className="text-[11px] text-stop">
          {wrong}
        </span>
      )}
    </>
  );
}
