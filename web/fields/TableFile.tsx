import { useMemo, useState } from "react";
import { decoded } from "./decoded";

/** Text of a chosen file, whatever a spreadsheet saved it as. */
export const textOf = async (file: File): Promise<string> => decoded(new Uint8Array(await file.arrayBuffer()));

/** A table that is being read: its text, how it was understood, and what a person corrected of that. */
export function useTable<R extends object>(guess: (text: string, delimiter?: string) => R, start = "") {
  const [text, setText] = useState(start);
  const [corrected, setCorrected] = useState<R | null>(null);
  const reading = useMemo(() => corrected ?? guess(text), [corrected, text, guess]);
  return {
    text,
    reading,
    take: (next: string) => {
      setText(next);
      setCorrected(null);
    },
    /** Understands it anew with another separator. */
    separate: (delimiter: string) => setCorrected(guess(text, delimiter)),
    correct: (change: (r: R) => void) => {
      const next = structuredClone(reading);
      change(next);
      setCorrected(next);
    },
  };
}

/** Chooses a table's file; one that is too large is refused in words, and what was there stays. */
export function TableFile({
  label,
  what,
  mostBytes,
  onText,
}: {
  label: string;
  what: string;
  mostBytes: number;
  onText: (text: string) => void;
}) {
  const [problem, setProblem] = useState<string | null>(null);
  const read = async (file: File) => {
    if (file.size > mostBytes)
      return setProblem(
        `${file.name} has ${Math.round(file.size / 1e6)} MB: ${what} is smaller than ${mostBytes / 1e6} MB.`,
      );
    setProblem(null);
    onText(await textOf(file));
  };
  return (
    <label>
      A CSV or text file
      <input
        type="file"
        accept=".csv,.tsv,.txt,text/*"
        className="block"
        aria-label={label}
        onChange={(e) => e.target.files?.[0] && void read(e.target.files[0])}
      />
      {problem && (
        <span role="alert" className="block text-stop">
          {problem}
        </span>
      )}
    </label>
  );
}

/** Which separator and decimal sign a table was understood with; both can be corrected. */
export function TableSigns({
  reading,
  onDelimiter,
  onDecimal,
}: {
  reading: { delimiter: string; decimal: "." | "," };
  onDelimiter: (delimiter: string) => void;
  onDecimal: (decimal: "." | ",") => void;
}) {
  return (
    <>
      <label>
        separator{" "}
        <select
          className="box w-auto!"
          aria-label="Separator"
          value={reading.delimiter}
          onChange={(e) => onDelimiter(e.target.value)}
        >
          <option value=",">comma</option>
          <option value=";">semicolon</option>
          <option value={"\t"}>tab</option>
          <option value="|">bar</option>
        </select>
      </label>
      <label>
        decimals{" "}
        <select
          className="box w-auto!"
          aria-label="Decimal sign"
          value={reading.decimal}
          onChange={(e) => onDecimal(e.target.value as "." | ",")}
        >
          <option value=".">1.5</option>
          <option value=",">1,5</option>
        </select>
      </label>
    </>
  );
}

/** What was noticed about lines of a table, each with its number. */
export function LineReports({
  list,
  tone,
  most = 15,
}: {
  list: readonly { line: number; text: string }[];
  tone: "stop" | "care" | "pencil";
  most?: number;
}) {
  if (list.length === 0) return null;
  return (
    <ul
      role={tone === "stop" ? "alert" : undefined}
      className={{ stop: "text-stop", care: "text-care", pencil: "text-pencil" }[tone]}
    >
      {list.slice(0, most).map((r) => (
        <li key={r.line}>
          Line {r.line}: {r.text}
        </li>
      ))}
      {list.length > most && <li>and {list.length - most} more</li>}
    </ul>
  );
}
