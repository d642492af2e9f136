import Papa from "papaparse";

/** A line of a text with its 1-based number. */
export interface NumberedLine {
  line: number;
  text: string;
}

export const DELIMITERS = ["\t", ";", ",", "|"] as const;

/** A text as words are compared: small letters, without accents. */
export const plainly = (text: string): string =>
  text
    .normalize("NFD")
    .replace(/\p{M}/gu, "")
    .toLowerCase()
    .replaceAll("ł", "l")
    .replaceAll("ø", "o")
    .replaceAll("æ", "ae")
    .replaceAll("ß", "ss");

/** Lines of a text whatever its line ends, a byte-order mark taken off. */
export const linesOf = (text: string): NumberedLine[] =>
  text
    .replace(/^\uFEFF/, "")
    .split(/\r\n|\n|\r/)
    .map((t, k) => ({ line: k + 1, text: t }));

/** Whether a line is a comment: `#`, `//`, or `%` before words. */
export const isComment = ({ text }: NumberedLine): boolean => /^\s*(#|\/\/|%\s)/.test(text);

/** Lines that hold cells. */
export const dataLines = (lines: readonly NumberedLine[]): NumberedLine[] =>
  lines.filter((l) => l.text.trim() !== "" && !isComment(l));

/** Cells of one line, quotes undone. */
export const cellsOf = (line: string, delimiter: string): string[] =>
  (Papa.parse<string[]>(line, { delimiter }).data[0] ?? []).map((c) => c.trim());

/**
 * The separator that cuts most lines into the same number of cells, at least two. One that cuts the first line, its
 * heads, as it cuts the others goes before one that does not: a comma may be a decimal sign in all but the heads.
 */
export function guessDelimiter(lines: readonly string[]): string {
  const sample = lines.slice(0, 40);
  const score = (delimiter: string) => {
    const all = sample.map((l) => cellsOf(l, delimiter).length);
    const counts = all.filter((n) => n > 1);
    const alike = (n: number) => counts.filter((m) => m === n).length;
    return Math.max(0, ...counts.map((n) => alike(n) * Math.min(n, 6) * (all[0] === n ? 3 : 1)));
  };
  return DELIMITERS.map((d) => ({ d: d as string, s: score(d) })).reduce((a, b) => (b.s > a.s ? b : a)).d;
}

/** The decimal sign that the cells use: a comma when more of them have one between digits than have a point. */
export function guessDecimal(cells: readonly string[]): "." | "," {
  const commas = cells.filter((c) => /^-?\d+,\d+$/.test(c)).length;
  return commas > cells.filter((c) => /^-?\d+\.\d+$/.test(c)).length ? "," : ".";
}

/** A number in a cell: null for what was not read (empty, a dash, n/a), NaN for what is none. */
export function readNumber(cell: string, decimal: "." | ","): number | null {
  if (/^([-–—.*]+|n\/?a|nan|null|none|err(or)?|\?+)?$/i.test(cell.trim())) return null;
  const value = Number(decimal === "," ? cell.replace(/\./g, "").replace(",", ".") : cell);
  return Number.isFinite(value) ? value : Number.NaN;
}
