import Qty from "js-quantities";

/** Kinds of quantity that the application shows and reads. The SI unit named here is the one stored (see docs/format.md). */
export const SI = {
  mass: "kg",
  length: "m",
  distance: "m",
  time: "s",
  speed: "m/s",
  temperature: "°C",
  force: "N",
  torque: "N·m",
  voltage: "V",
  current: "A",
  resistance: "Ω",
  power: "W",
  energy: "J",
  energyPerDistance: "J/m",
  angle: "rad",
  capacity: "A·h",
  kv: "rpm/V",
  rotation: "rpm",
  inertia: "kg·m²",
  density: "kg/m³",
  area: "m²",
  pressure: "Pa",
  money: "€",
  count: "",
  ratio: "",
  percent: "1",
} as const;
export type Dimension = keyof typeof SI;

interface Accepted {
  /** Spellings that a person may type. */
  spellings: string[];
  /** Multiplier to the stored unit, or the name js-quantities knows the unit by. */
  to: number | string;
}

/** Unit name that js-quantities converts to, for the dimensions that it converts. */
const TARGET: Partial<Record<Dimension, string>> = {
  mass: "kg",
  length: "m",
  distance: "m",
  time: "s",
  speed: "m/s",
  force: "N",
  power: "W",
  angle: "rad",
};

const u = (to: number | string, ...spellings: string[]): Accepted => ({ to, spellings });

/** What may be typed for each dimension. Pound-force units are named after the mass (the field writes thrust in grams and ounces). */
const ACCEPTED: Record<Dimension, Accepted[]> = {
  mass: [u("g", "g", "gram", "grams"), u("kg", "kg"), u("oz", "oz", "ounce", "ounces"), u("lb", "lb", "lbs", "pound", "pounds"), u(1e-6, "mg")],
  length: [u("mm", "mm"), u("cm", "cm"), u("m", "m"), u("in", "in", "inch", "inches", '"', "″"), u("ft", "ft", "feet", "foot")],
  distance: [u("m", "m", "metres"), u("km", "km"), u("ft", "ft", "feet")],
  time: [u(1, "s", "sec"), u(60, "min", "mins", "minutes"), u(3600, "h", "hr", "hours")],
  speed: [u(1, "m/s"), u("km/h", "km/h", "kmh", "kph"), u("mph", "mph"), u("knots", "kn", "kt", "knots"), u("ft/s", "ft/s", "fps")],
  temperature: [],
  force: [u(1, "N"), u(9.80665e-3, "g", "gf"), u(9.80665, "kg", "kgf"), u("lbf", "lbf", "lb"), u(0.278013851, "ozf", "oz")],
  torque: [u(1, "N·m", "Nm"), u(1e-3, "mNm", "mN·m"), u(0.0980665, "kg·cm", "kgcm")],
  voltage: [u(1, "V"), u(1e-3, "mV")],
  current: [u(1, "A"), u(1e-3, "mA")],
  resistance: [u(1, "Ω", "ohm"), u(1e-3, "mΩ", "mohm")],
  power: [u(1, "W"), u(1e3, "kW"), u("hp", "hp")],
  energy: [u(1, "J"), u(3600, "Wh")],
  energyPerDistance: [u(1, "J/m"), u(3.6, "Wh/km"), u(3600 / 1609.344, "Wh/mi")],
  angle: [u(1, "rad"), u("deg", "°", "deg", "degrees")],
  capacity: [u(1, "A·h", "Ah"), u(1e-3, "mAh", "mA·h")],
  kv: [u(1, "rpm/V", "kv")],
  rotation: [u(1, "rpm")],
  inertia: [u(1, "kg·m²", "kgm2"), u(1e-7, "g·cm²", "gcm2")],
  density: [u(1, "kg/m³", "kg/m3")],
  area: [u(1, "m²", "m2"), u(0.01, "dm²", "dm2"), u(1e-4, "cm²", "cm2")],
  pressure: [u(1, "Pa"), u(100, "hPa", "mbar"), u(1000, "kPa")],
  money: [u(1, "€", "EUR")],
  count: [],
  ratio: [u(1, ":1")],
  percent: [u(0.01, "%")],
};

const factors = new Map<string, number | undefined>();

/** Multiplier from an accepted spelling to the stored unit; undefined when the spelling is not known. Worked out once for each. */
function factor(dimension: Dimension, spelling: string): number | undefined {
  const key = `${dimension} ${spelling}`;
  if (!factors.has(key)) factors.set(key, findFactor(dimension, spelling));
  return factors.get(key);
}

function findFactor(dimension: Dimension, spelling: string): number | undefined {
  const list = ACCEPTED[dimension];
  const unit = list.find((a) => a.spellings.includes(spelling)) ?? list.find((a) => a.spellings.some((s) => s.toLowerCase() === spelling.toLowerCase()));
  if (!unit) return undefined;
  if (typeof unit.to === "number") return unit.to;
  return Qty(1, unit.to).to(TARGET[dimension] ?? "").scalar;
}

const METRIC: Record<Dimension, string> = {
  mass: "g",
  length: "mm",
  distance: "m",
  time: "min",
  speed: "m/s",
  temperature: "°C",
  force: "N",
  torque: "N·m",
  voltage: "V",
  current: "A",
  resistance: "mΩ",
  power: "W",
  energy: "Wh",
  energyPerDistance: "Wh/km",
  angle: "°",
  capacity: "Ah",
  kv: "rpm/V",
  rotation: "rpm",
  inertia: "kg·m²",
  density: "kg/m³",
  area: "dm²",
  pressure: "hPa",
  money: "€",
  count: "",
  ratio: "",
  percent: "%",
};

/** Unit in which a dimension is shown, for each of the two habits. Electrical and mechanical units are the same in both. */
export const DISPLAY = {
  metric: METRIC,
  imperial: { ...METRIC, mass: "oz", length: "in", distance: "ft", speed: "mph", force: "ozf" },
} satisfies Record<string, Record<Dimension, string>>;
export type UnitHabit = keyof typeof DISPLAY;

/** Converts a stored (SI) value to the shown unit of its dimension. */
export function toDisplay(value: number, dimension: Dimension, habit: UnitHabit = "metric"): number {
  return value / (factor(dimension, DISPLAY[habit][dimension]) ?? 1);
}

/** Spellings that a field of this dimension accepts, for hints and errors. */
export function acceptedUnits(dimension: Dimension): string[] {
  return ACCEPTED[dimension].map((a) => a.spellings[0] ?? "");
}

export type ParseResult = { ok: true; value: number } | { ok: false; message: string };

const TERM = /^\s*([+-]?)\s*(\d+(?:[.,]\d+)?(?:e[+-]?\d+)?|[.,]\d+)\s*([^\d+\s,.-][^\d+\s-]*(?:\/[a-zA-Z]+)?)?/u;

/** Stages multiply: "48:13 × 2.5", "97 × 95 %". Each is a number, or teeth over teeth. Null when the text is no product and no quotient. */
function readStages(text: string, dimension: "ratio" | "percent", habit: UnitHabit): ParseResult | null {
  const stages = text.split(/[×x*]/i).map((stage) => stage.trim());
  if (stages.length === 1 && !(dimension === "ratio" && /\d\s*:\s*\d/.test(text))) return null;
  let product = 1;
  for (const stage of stages) {
    const teeth = dimension === "ratio" ? /^(\S+)\s*:\s*(\S+)$/.exec(stage) : null;
    const [top, bottom] = (teeth ? [teeth[1] ?? "", teeth[2] ?? ""] : [stage, null]).map((t) =>
      t === null ? { ok: true as const, value: 1 } : parseQuantity(t, dimension, habit),
    );
    if (!top?.ok || !bottom?.ok || bottom.value === 0)
      return {
        ok: false,
        message: `“${text.trim()}” is not a product of stages. Accepted: 3.2, 48:13, or several such as ${dimension === "ratio" ? "48:13 × 2.5" : "97 × 95 %"}.`,
      };
    product *= top.value / bottom.value;
  }
  return { ok: true, value: Number(product.toPrecision(12)) };
}

/**
 * Reads a typed number with any accepted unit, and simple sums (`7 oz`, `11.5 in`, `120+35 g`, `0,412 kg`). A term without a unit
 * takes the unit of the next term that has one, else the display unit.
 *
 * @returns the value in the stored unit, or a message that says what is wrong and what would be accepted
 */
export function parseQuantity(text: string, dimension: Dimension, habit: UnitHabit = "metric"): ParseResult {
  const product = dimension === "ratio" || dimension === "percent" ? readStages(text, dimension, habit) : null;
  if (product) return product;
  const shown = DISPLAY[habit][dimension];
  const units = acceptedUnits(dimension).filter(Boolean).join(", ");
  const example = `a number${units ? `, in ${units}` : ""}; sums such as 120+35 work too`;
  // A space may group thousands, as it does wherever numbers are shown here: "1 250" is 1250.
  let rest = text
    .trim()
    .replace(/\s+/g, " ")
    .replace(/(?<![\d.,])[1-9]\d{0,2}(?: \d{3})+(?!\d)/g, (grouped) => grouped.replaceAll(" ", ""))
    .replace(/[−–]/g, "-")
    .replace(/^~/, "");
  if (rest === "") return { ok: false, message: `Empty. Accepted: ${example}.` };
  const terms: { value: number; unit: string | undefined }[] = [];
  while (rest !== "") {
    const match = TERM.exec(rest);
    // Terms follow one another without a sign only with a unit each, as in "1 lb 8 oz".
    if (!match || (terms.length > 0 && match[1] === "" && (match[3] === undefined || terms.at(-1)?.unit === undefined)))
      return { ok: false, message: `“${text.trim()}” is not a number. Accepted: ${example}.` };
    if (/^[1-9]\d{0,2},\d{3}$/.test(match[2] ?? ""))
      return { ok: false, message: `“${match[2]}” could be read two ways. Write ${match[2]?.replace(",", "")} or ${match[2]?.replace(",", ".")}.` };
    const sign = match[1] === "-" ? -1 : 1;
    terms.push({ value: sign * Number((match[2] ?? "").replace(",", ".")), unit: match[3] });
    rest = rest.slice(match[0].length).trim();
  }
  let total = 0;
  let unit = shown;
  for (const term of terms.toReversed()) {
    if (term.unit !== undefined) unit = term.unit;
    const multiplier = dimension === "temperature" ? temperatureFactor(unit) : unit === "" ? 1 : factor(dimension, unit);
    if (multiplier === undefined) return { ok: false, message: `“${unit}” is not a unit of ${dimension}. Accepted: ${example}.` };
    total += dimension === "temperature" && /f$/i.test(unit) ? ((term.value - 32) * 5) / 9 : term.value * multiplier;
  }
  if (!Number.isFinite(total)) return { ok: false, message: `“${text.trim()}” is too large. Accepted: ${example}.` };
  // Twelve digits: sums and conversions leave no dust such as 0.16999999999999998.
  return { ok: true, value: Number(total.toPrecision(12)) };
}

function temperatureFactor(unit: string): number | undefined {
  return /^°?[cf]$/i.test(unit) ? 1 : undefined;
}
