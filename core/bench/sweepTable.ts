import Papa from "papaparse";
import {
  cellsOf,
  dataLines,
  guessDecimal,
  guessDelimiter,
  isComment,
  linesOf,
  readNumber,
  plainly,
} from "../exchange/textTable";
import { type ThrustReading, emptyReading } from "../design/thrustTest";

/** What a column of a sweep can hold. */
export const SWEEP_ROLES = [
  "t",
  "throttle",
  "scale",
  "voltage",
  "current",
  "rpm",
  "temperature",
  "noise",
  "out",
  "ignore",
] as const;
export type SweepRole = (typeof SWEEP_ROLES)[number];

export interface SweepColumn {
  header: string;
  role: SweepRole;
  unit: string;
}

/** How a file was understood, and what a person may correct. */
export interface SweepReading {
  delimiter: string;
  decimal: "." | ",";
  /** 1-based physical line */
  headerLine: number | null;
  columns: SweepColumn[];
}

/** What the comment lines of a file say of the stand. SI; null where they say nothing. */
export interface SweepHints {
  thrustArm: number | null;
  scaleArm: number | null;
  /** kg */
  tare: number | null;
  /** kg/m³ */
  density: number | null;
  /** °C */
  temperature: number | null;
  /** m */
  diameter: number | null;
}

export interface SweepReport {
  line: number;
  severity: "error" | "warning" | "info";
  code: "comment" | "blank" | "unreadable" | "impossible" | "too-many";
  text: string;
}

export interface SweepTable {
  reading: SweepReading;
  hints: SweepHints;
  readings: (ThrustReading & { line: number })[];
  reports: SweepReport[];
}

/** Units that a column may be in, with what they are of the stored one. The first is taken when nothing is said. */
export const SWEEP_UNITS: Record<Exclude<SweepRole, "ignore" | "out">, Record<string, number>> = {
  t: { s: 1, ms: 1e-3, min: 60 },
  throttle: { "%": 0.01, "0…1": 1, µs: 1e-3 },
  scale: { g: 1e-3, kg: 1, N: 1 / 9.80665, oz: 0.028349523125, lb: 0.45359237 },
  voltage: { V: 1, mV: 1e-3 },
  current: { A: 1, mA: 1e-3 },
  rpm: { rpm: 1, Hz: 60 },
  temperature: { "°C": 1, "°F": 1 },
  noise: { dB: 1 },
};

/** Words of a head, without accents; European languages, common practice. */
const WORDS: [SweepRole, RegExp][] = [
  ["out", /left out|excluded/],
  ["t", /^(t|time|zeit|temps|tiempo|tempo|tijd|tid|czas)\b|\btime\b|\bseconds?\b/],
  ["throttle", /throttle|command|duty|\bgas\b|\bpwm\b|pulse|stick|gashebel|acelerador|acceleratore|przepustnica/],
  ["temperature", /temp|°\s?c\b|\bdeg\s?c\b/],
  [
    "scale",
    /scale|thrust|force|load|schub|waage|poussee|\bpull\b|balance|empuje|spinta|impulso|stuwkracht|dragkraft|ciag/,
  ],
  ["voltage", /volt|spannung|spanning|tension|tensao|napiecie|\bv\b/],
  ["current", /\bamp|current|strom|stroom|courant|corrente|corriente|prad\b|\ba\b/],
  ["rpm", /rpm|speed|drehzahl|1\/min|tours|toerental|varvtal|obroty|\bgiri\b|rotac/],
  ["noise", /noise|sound|\bdb\b|larm|bruit|ruido|rumore/],
];

/** Other spellings of the units. */
const ALIAS: Record<string, string> = {
  ...Object.fromEntries(["grams", "gram", "gf", "gr", "gramm"].map((u) => [u, "g"])),
  ...Object.fromEntries(["kgf", "kp", "kilograms", "kilos"].map((u) => [u, "kg"])),
  ...Object.fromEntries(["newton", "newtons"].map((u) => [u, "N"])),
  ...Object.fromEntries(["ozf", "ounces"].map((u) => [u, "oz"])),
  ...Object.fromEntries(["lbf", "lbs", "pounds"].map((u) => [u, "lb"])),
  ...Object.fromEntries(["us", "μs", "usec"].map((u) => [u, "µs"])),
  ...Object.fromEntries(["c", "degc", "celsius"].map((u) => [u, "°C"])),
  ...Object.fromEntries(["f", "degf", "fahrenheit"].map((u) => [u, "°F"])),
  ...Object.fromEntries(["1/min", "r/min", "u/min", "rev/min", "min-1", "min⁻¹"].map((u) => [u, "rpm"])),
  ...Object.fromEntries(["rps", "rev/s", "1/s"].map((u) => [u, "Hz"])),
  ...Object.fromEntries(["sec", "secs", "seconds"].map((u) => [u, "s"])),
  ...Object.fromEntries(["volts", "volt"].map((u) => [u, "V"])),
  ...Object.fromEntries(["amps", "amp", "ampere"].map((u) => [u, "A"])),
  ...Object.fromEntries(["percent", "pct"].map((u) => [u, "%"])),
};
/** Units of other things: a head that names one of them is not of the quantity that its words tell. */
const FOREIGN = new Set(
  [
    "m/s km/h kmh kph mph kn kt w kw wh mah ah mn nm n·m n*m mnm kv ohm mohm",
    "deg ° rad rad/s pa kpa mbar bar m mm cm in ft j k",
  ].flatMap((u) => u.split(" ")),
);

/** The unit that a head names for its role; empty where it names none, null where it is one of something else. */
function unitIn(role: SweepRole, header: string): string | null {
  if (role === "ignore" || role === "out") return "";
  const units = Object.keys(SWEEP_UNITS[role]);
  const inBrackets = /[([]\s*([^)\]]+?)\s*[)\]]/.exec(header)?.[1]?.toLowerCase();
  const said = inBrackets ?? /[\s,/](\S+)\s*$/.exec(header)?.[1]?.toLowerCase() ?? "";
  const known = units.find((u) => u.toLowerCase() === said) ?? ALIAS[said];
  if (known !== undefined) return units.includes(known) ? known : null;
  // "in" is a word too where it stands without brackets.
  return FOREIGN.has(said) && (inBrackets !== undefined || said !== "in") ? null : "";
}

/** The unit of a throttle whose head names none, by its numbers: a share, a servo pulse, else per cent. */
function throttleUnit(cells: readonly number[]): string {
  const [low, high] = [Math.min(...cells), Math.max(...cells)];
  if (cells.length === 0) return "%";
  return high <= 1 && low >= 0 && high > 0 ? "0…1" : low >= 800 && high <= 2300 ? "µs" : "%";
}

/**
 * Understands a file as users have them: any of the usual separators and decimal signs, comment lines, a header
 * anywhere near the top.
 */
export function guessSweep(text: string, delimiter?: string): SweepReading {
  const data = dataLines(linesOf(text));
  const chosen = delimiter ?? guessDelimiter(data.map((l) => l.text));
  const wordy = data
    .slice(0, 6)
    .find(
      (l) =>
        cellsOf(l.text, chosen).filter((c) => /\p{L}/u.test(c) && WORDS.some(([, w]) => w.test(plainly(c)))).length >=
        2,
    );
  const headers = wordy
    ? cellsOf(wordy.text, chosen)
    : cellsOf(data[0]?.text ?? "", chosen).map((_, i) => `column ${i + 1}`);
  const decimal = guessDecimal(data.slice(1, 200).flatMap((l) => cellsOf(l.text, chosen)));
  const numbersIn = (k: number) =>
    data.slice(0, 500).flatMap((l) => {
      const read = l === wordy ? null : readNumber(cellsOf(l.text, chosen)[k] ?? "", decimal);
      return read === null || Number.isNaN(read) ? [] : [read];
    });
  const taken = new Set<SweepRole>();
  const columns = headers.map((header, k): SweepColumn => {
    const role =
      WORDS.find(([r, w]) => w.test(plainly(header)) && !taken.has(r) && unitIn(r, header) !== null)?.[0] ?? "ignore";
    if (role === "ignore" || role === "out") return { header, role, unit: "" };
    taken.add(role);
    const usual = role === "throttle" ? throttleUnit(numbersIn(k)) : (Object.keys(SWEEP_UNITS[role])[0] ?? "");
    return { header, role, unit: unitIn(role, header) || usual };
  });
  return {
    delimiter: chosen,
    decimal,
    headerLine: wordy?.line ?? null,
    columns,
  };
}

const LENGTH: Record<string, number> = { mm: 1e-3, cm: 1e-2, m: 1, in: 0.0254 };
const MASS: Record<string, number> = { g: 1e-3, kg: 1, oz: 0.028349523125 };

/** Reads what comment lines say of arms, tare, air and propeller. */
function hintsOf(comments: readonly string[]): SweepHints {
  const all = comments.join("\n").replaceAll("−", "-");
  const find = (pattern: RegExp, units: Record<string, number> | null) => {
    const m = pattern.exec(all);
    if (!m) return null;
    const value = Number((m[1] ?? "").replace(",", "."));
    return Number.isFinite(value) ? value * (units ? (units[(m[2] ?? "").toLowerCase()] ?? 1) : 1) : null;
  };
  return {
    thrustArm: find(/(?:propeller|thrust|motor) arm[^\d\n]{0,12}([\d.,]*\d)\s*(mm|cm|m|in)\b/i, LENGTH),
    scaleArm: find(/scale arm[^\d\n]{0,12}([\d.,]*\d)\s*(mm|cm|m|in)\b/i, LENGTH),
    tare: find(/tare[^\d\n-]{0,12}(-?[\d.,]*\d)\s*(kg|g|oz)\b/i, MASS),
    density: find(/(?:rho|density|ρ)[^\d\n]{0,8}([\d.,]*\d)\s*kg/i, null),
    temperature: find(/(-?[\d.,]*\d)\s*°?\s?C\b/, null),
    diameter: find(/(?:\bD|diameter)[^\d\n]{0,6}([\d.,]*\d)\s*(mm|cm|m|in)\b/i, LENGTH),
  };
}

const MOST_ROWS = 8000;
/** Readings that no stand of this kind gives: what would be accepted, by role, in stored units. */
const POSSIBLE: Partial<Record<SweepRole, [low: number, high: number, words: string]>> = {
  throttle: [0, 1, "a throttle between 0 and 100 %"],
  voltage: [0, 200, "a voltage between 0 and 200 V"],
  current: [-5, 2000, "a current between -5 and 2000 A"],
  rpm: [0, 300_000, "a speed between 0 and 300 000 rpm"],
  temperature: [-60, 400, "a temperature between -60 and 400 °C"],
  scale: [-100, 1000, "a reading between -100 and 1000 kg"],
};

/**
 * Reads a sweep as it was understood. A row that cannot be read is left out and named by its line; an empty cell or a
 * dash is a reading that was not taken.
 */
export function readSweepTable(text: string, reading: SweepReading): SweepTable {
  const lines = linesOf(text);
  const reports: SweepReport[] = [];
  const readings: SweepTable["readings"] = [];
  for (const l of lines) {
    const { line } = l;
    if (line === reading.headerLine) continue;
    if (l.text.trim() === "") {
      if (line < lines.length) reports.push({ line, severity: "info", code: "blank", text: "empty line" });
      continue;
    }
    if (isComment(l)) {
      if (reading.headerLine !== null && line > reading.headerLine)
        reports.push({
          line,
          severity: "info",
          code: "comment",
          text: `a note between the readings: ${l.text.replace(/^\s*\W+/, "")}`,
        });
      continue;
    }
    const cells = cellsOf(l.text, reading.delimiter);
    if (cells.length !== reading.columns.length) {
      reports.push({
        line,
        severity: "error",
        code: "unreadable",
        text: `${cells.length} cells where ${reading.columns.length} belong: ${l.text.slice(0, 60)}`,
      });
      continue;
    }
    if (readings.length >= MOST_ROWS) {
      reports.push({
        line,
        severity: "error",
        code: "too-many",
        text: `more than ${MOST_ROWS} readings: this one and those after it are left out`,
      });
      break;
    }
    const row: ThrustReading = emptyReading(Number.NaN);
    let wrong: Pick<SweepReport, "code" | "text"> | null = null;
    reading.columns.forEach(({ role, unit, header }, c) => {
      const cell = cells[c] ?? "";
      if (role === "ignore") return;
      if (role === "out") {
        row.out = cell.slice(0, 200);
        return;
      }
      const number = readNumber(cell, reading.decimal);
      if (number === null) return;
      if (Number.isNaN(number)) {
        const text = `“${cell}” under “${header}” is not a number`;
        // A row without its throttle or thrust says nothing; one that lacks another reading says the rest.
        if (role === "throttle" || role === "scale") wrong ??= { code: "unreadable", text };
        else
          reports.push({ line, severity: "warning", code: "unreadable", text: `${text}: the row is kept without it` });
        return;
      }
      // A servo pulse of 1000 to 2000 µs is a throttle of 0 to 100 %.
      const value =
        unit === "µs"
          ? (number - 1000) / 1000
          : unit === "°F"
            ? ((number - 32) * 5) / 9
            : number * (SWEEP_UNITS[role][unit] ?? 1);
      const limit = POSSIBLE[role];
      if (limit && (value < limit[0] - 1e-9 || value > limit[1] + 1e-9))
        wrong ??= { code: "impossible", text: `${cell} under “${header}” cannot be: accepted is ${limit[2]}` };
      row[role] = value;
    });
    if (Number.isNaN(row.throttle)) wrong ??= { code: "unreadable", text: "no throttle in this row" };
    if (wrong !== null) reports.push({ line, severity: "error", ...(wrong as Pick<SweepReport, "code" | "text">) });
    else readings.push({ ...row, throttle: Math.min(1, Math.max(0, row.throttle)), line });
  }
  return { reading, hints: hintsOf(lines.filter(isComment).map((l) => l.text)), readings, reports };
}

/**
 * Readings as CSV, one column for each quantity that was read, units in the header: opens again here and in a
 * spreadsheet.
 */
export function sweepText(readings: readonly ThrustReading[]): string {
  const columns = (
    [
      ["t", "t (s)", 1],
      ["throttle", "throttle (%)", 100],
      ["scale", "scale (g)", 1000],
      ["voltage", "voltage (V)", 1],
      ["current", "current (A)", 1],
      ["rpm", "rpm", 1],
      ["temperature", "temperature (°C)", 1],
      ["noise", "noise (dB)", 1],
    ] as const
  ).filter(([key]) => key === "throttle" || readings.some((r) => r[key] !== null));
  const number = (v: number | null, scale: number) => (v === null ? "" : Number((v * scale).toPrecision(9)));
  const data = readings.map((r) => [...columns.map(([key, , scale]) => number(r[key], scale)), r.out]);
  return Papa.unparse(
    { fields: [...columns.map((c) => c[1]), "left out"], data },
    { newline: "\n", escapeFormulae: /^[=@]/ },
  );
}
