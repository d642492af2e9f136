import { type Lap, isMetricKey } from "../design/craftFile";
import { METRICS } from "../design/metrics";
import { DISPLAY, type Dimension, acceptedUnits } from "../design/units";
import { parseQuantity } from "../design/readQuantity";
import {
  cellsOf,
  dataLines,
  guessDecimal,
  guessDelimiter,
  isComment,
  linesOf,
  plainly,
  readNumber,
} from "../exchange/textTable";

/** What a column of a lap list can hold. `metric`: a quantity, under a name of its own. */
export const LAP_ROLES = [
  "label",
  "version",
  "metric",
  "wind",
  "pack",
  "startVoltage",
  "pilot",
  "remark",
  "ignore",
] as const;
export type LapRole = (typeof LAP_ROLES)[number];

export interface LapColumn {
  header: string;
  role: LapRole;
  /** Name of the quantity when it is one: a metric key, or one's own. */
  metric: string;
  /** Unit of its cells; empty for words, and for a quantity of one's own, whose numbers are kept as they stand. */
  unit: string;
}
export interface LapReading {
  delimiter: string;
  decimal: "." | ",";
  headerLine: number;
  columns: LapColumn[];
}
export interface LapReport {
  line: number;
  severity: "error" | "warning" | "info";
  text: string;
}
export interface LapTable {
  reading: LapReading;
  laps: (Lap & { version: string; line: number })[];
  /** names that the version column uses */
  versions: string[];
  reports: LapReport[];
}

/** Dimension of a column's numbers; null when it has none that is known. */
function dimensionOf({ role, metric }: Pick<LapColumn, "role" | "metric">): Dimension | null {
  if (role === "wind") return "speed";
  if (role === "startVoltage") return "voltage";
  return role === "metric" && isMetricKey(metric) ? METRICS[metric].dimension : null;
}

/** Units that a column can be in; none for words and for quantities of one's own. */
export function lapUnits(column: Pick<LapColumn, "role" | "metric">): string[] {
  const dimension = dimensionOf(column);
  return dimension === null
    ? []
    : dimension === "temperature"
      ? ["°C", "°F"]
      : acceptedUnits(dimension).filter(Boolean);
}

/** What a header says its quantity is, when it names no unit that tells; common practice. */
const QUANTITIES: [RegExp, metric: string][] = [
  [/energ|watt.?hours?/, "energyUsed"],
  [/charge|capacity|ladung|kapazitat|capacite|capacidad/, "charge"],
  [/\b(lap ?time|time|duration|zeit|rundenzeit|temps|tiempo|tempo|tijd|tid|czas|lap)\b/, "lapTime"],
  [/distance|course|strecke|distanz|distancia|distanza|afstand/, "distance"],
  [/speed|geschwindigkeit|tempo|vitesse|velocidad|velocita|snelheid|hastighet|predkosc/, "speed"],
];
/** What a unit alone tells; the quantity that it is of. */
const BY_UNIT: [string, metric: string][] = [
  ["Wh", "energyUsed"],
  ["J", "energyUsed"],
  ["mAh", "charge"],
  ["Ah", "charge"],
  ["min", "lapTime"],
  ["s", "lapTime"],
  ["km", "distance"],
  ["m", "distance"],
  ["km/h", "speed"],
  ["m/s", "speed"],
];

/** The unit that a header ends with or has in brackets. */
const unitIn = (header: string): string =>
  (/[([]\s*([^)\]]+?)\s*[)\]]/.exec(header) ?? /(?:^|\s)(\S+)\s*$/.exec(header))?.[1] ?? "";

function columnOf(header: string): LapColumn {
  const said = unitIn(header);
  const filled = (role: LapRole, metric = ""): LapColumn => {
    const units = lapUnits({ role, metric });
    const dimension = dimensionOf({ role, metric });
    const unit = units.find((u) => u === said) ?? units.find((u) => u.toLowerCase() === said.toLowerCase());
    return { header, role, metric, unit: unit ?? (dimension && units.length > 0 ? DISPLAY.metric[dimension] : "") };
  };
  const text = plainly(header);
  if (/wind|\b(vent|viento|vento|vind|wiatr|vitr)\b|ветер/.test(text)) return filled("wind");
  if (/^(version|ver|variant|variante|model|modell|wersja|versie)\b/.test(text)) return filled("version");
  if (/start|rest/.test(text) && /volt|\bv\b/.test(text)) return filled("startVoltage");
  if (/pack|battery|akku|batteri/.test(text)) return filled("pack");
  if (/pilot|driver/.test(text)) return filled("pilot");
  if (/remark|note|comment|bemerkung|uwagi|opmerking/.test(text)) return filled("remark");
  if (/^(lap|no\.?|nr\.?|run|#|runde|tour|vuelta|giro|ronde|varv)$/.test(text)) return filled("label");
  const byUnit = BY_UNIT.find(([unit]) => unit.toLowerCase() === said.toLowerCase())?.[1];
  const byWord = QUANTITIES.find(([named]) => named.test(text))?.[1];
  // A unit of something else says more than a word: "Tempo km/h" is no time.
  const fits = byWord !== undefined && lapUnits({ role: "metric", metric: byWord }).includes(said);
  const metric = fits ? byWord : (byUnit ?? byWord);
  return metric ? filled("metric", metric) : filled("ignore");
}

/** Minutes beyond which a time under a head without a unit is taken for seconds (judgement). */
const MINUTES = 20;
/** The unit of times whose head names none, by what stands in the cells. */
function timeUnit(column: LapColumn, cells: readonly string[], decimal: "." | ","): string {
  if (column.metric !== "lapTime" || lapUnits(column).includes(unitIn(column.header))) return column.unit;
  const numbers = cells.flatMap((c) => readNumber(c, decimal) ?? []).filter(Number.isFinite);
  return numbers.length > 0 && Math.max(...numbers) > MINUTES ? "s" : column.unit;
}

/** Understands a list of laps as people keep them: comments, any of the usual separators, a header in words. */
export function guessLaps(text: string, delimiter?: string): LapReading {
  const data = dataLines(linesOf(text));
  const chosen = delimiter ?? guessDelimiter(data.map((l) => l.text));
  const columns = cellsOf(data[0]?.text ?? "", chosen).map(columnOf);
  // Each role once; a second column of a kind is left for a person to say.
  columns.forEach((c, k) => {
    if (c.role !== "ignore" && columns.slice(0, k).some((b) => b.role === c.role && b.metric === c.metric))
      Object.assign(c, { role: "ignore", metric: "", unit: "" });
  });
  if (!columns.some((c) => c.role === "label") && columns[0]?.role === "ignore") columns[0].role = "label";
  const rows = data.slice(1, 500).map((l) => cellsOf(l.text, chosen));
  const decimal = guessDecimal(rows.flat());
  return {
    delimiter: chosen,
    decimal,
    headerLine: data[0]?.line ?? 1,
    columns: columns.map((c, k) => ({
      ...c,
      unit: timeUnit(
        c,
        rows.map((r) => r[k] ?? ""),
        decimal,
      ),
    })),
  };
}

/** Start voltage (V) below which the comments of a file call a pack low; null when they say nothing. */
export function lowPackIn(text: string): number | null {
  const said = /under ([\d.,]+) ?V/i.exec(
    linesOf(text)
      .filter(isComment)
      .map((l) => l.text)
      .join("\n"),
  )?.[1];
  return said ? Number(said.replace(",", ".")) : null;
}

/** A number of a column in the stored unit. */
function stored(value: number, column: LapColumn): number {
  const dimension = dimensionOf(column);
  if (dimension === null || column.unit === "") return value;
  const read = parseQuantity(`${value < 0 ? "-" : ""}${Math.abs(value)} ${column.unit}`, dimension);
  return read.ok ? read.value : Number.NaN;
}

/**
 * Reads laps as they were understood. A lap whose first quantity is missing, no number or negative is refused by its
 * line; a low pack is named, and left to the comparison.
 */
export function readLaps(text: string, reading: LapReading): LapTable {
  const reports: LapReport[] = [];
  const laps: LapTable["laps"] = [];
  const limit = lowPackIn(text);
  const first = reading.columns.find((c) => c.role === "metric");
  for (const l of dataLines(linesOf(text))) {
    const { line } = l;
    if (line <= reading.headerLine) continue;
    const row = cellsOf(l.text, reading.delimiter);
    if (row.length !== reading.columns.length) {
      reports.push({ line, severity: "error", text: `${row.length} cells where ${reading.columns.length} belong` });
      continue;
    }
    const lap: LapTable["laps"][number] = {
      label: String(laps.length + 1),
      values: {},
      wind: null,
      pack: "",
      startVoltage: null,
      pilot: "",
      remark: "",
      out: "",
      version: "",
      line,
    };
    let wrong: string | null = null;
    let missing: string | null = null;
    reading.columns.forEach((column, c) => {
      const { role, metric, header } = column;
      const cell = row[c] ?? "";
      if (role === "ignore") return;
      if (role === "label" || role === "version" || role === "pack" || role === "pilot" || role === "remark") {
        if (cell !== "") lap[role] = cell.slice(0, role === "remark" ? 200 : 40);
        return;
      }
      // 1:33.2 is a time whatever its column is in.
      const clock = metric === "lapTime" && cell.includes(":") ? parseQuantity(cell, "time") : null;
      if (clock?.ok) {
        lap.values[metric] = clock.value;
        return;
      }
      const number = readNumber(cell, reading.decimal);
      if (number !== null && Number.isNaN(number)) wrong ??= `“${cell}” under “${header}” is not a number`;
      else if (role !== "metric") lap[role] = number === null || number < 0 ? null : stored(number, column);
      else if (number === null) missing ??= header;
      else if (number < 0 && column === first) wrong ??= `${header} is ${cell}: accepted is zero or more`;
      else lap.values[metric] = stored(number, column);
    });
    if (wrong === null && first && lap.values[first.metric] === undefined)
      wrong = `no ${first.header} in this lap${lap.remark ? ` (${lap.remark})` : ""}`;
    if (wrong !== null) {
      reports.push({ line, severity: "error", text: wrong });
      continue;
    }
    if (missing !== null) reports.push({ line, severity: "info", text: `no ${missing}` });
    if (limit !== null && lap.startVoltage !== null && lap.startVoltage < limit)
      reports.push({
        line,
        severity: "warning",
        text: `lap ${lap.label}: pack low at the start (${lap.startVoltage.toFixed(2)} V): not comparable`,
      });
    laps.push(lap);
  }
  return { reading, laps, versions: [...new Set(laps.map((l) => l.version))], reports };
}
