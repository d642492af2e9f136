import Papa from "papaparse";

/** Text with this many lines at least may be parted by commas: fewer are a sentence, or a decimal comma. */
const LINES = 2;

/**
 * Cells of what a spreadsheet put on the clipboard, or of lines with semicolons or commas: rows of texts. Null for
 * one cell alone, which the field that has the focus takes by itself.
 */
export function blockOf(text: string): string[][] | null {
  const trimmed = text.replace(/(\r?\n)+$/, "");
  const lines = trimmed.split(/\r?\n/);
  const commas = lines.map((l) => l.split(",").length - 1);
  const delimiter = trimmed.includes("\t")
    ? "\t"
    : trimmed.includes(";")
      ? ";"
      : lines.length >= LINES &&
          (commas[0] ?? 0) > 0 &&
          new Set(commas).size === 1 &&
          !lines.every((l) => /^\s*[\d.\s]+,\d+\s*\p{L}*\s*$/u.test(l))
        ? ","
        : null;
  if (delimiter === null) return lines.length > 1 ? lines.map((l) => [l.trim()]) : null;
  const { data } = Papa.parse<string[]>(trimmed, { delimiter, skipEmptyLines: "greedy" });
  return data.map((row) => row.map((cell) => cell.trim()));
}
