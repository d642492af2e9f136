import Qty from "js-quantities";

/**
 * Kinds of quantity that the application shows and reads. The SI unit named here is the one stored (see
 * docs/format.md).
 */
export const SI = {
  mass: "kg",
  length: "m",
  distance: "m",
  time: "s",
  /** what a stop-watch shows: in seconds */
  stopwatch: "s",
  speed: "m/s",
  temperature: "°C",
  /** how much warmer than something else */
  warmth: "K",
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
  volume: "m³",
  loading: "kg/m²",
  pressure: "Pa",
  /** the currency of the workshop */
  money: "",
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

/**
 * What may be typed for each dimension. Pound-force units are named after the mass (the field writes thrust in grams
 * and ounces).
 */
const ACCEPTED: Record<Dimension, Accepted[]> = {
  mass: [
    u("g", "g", "gram", "grams"),
    u("kg", "kg", "kilo", "kilos"),
    u("oz", "oz", "ounce", "ounces"),
    u("lb", "lb", "lbs", "pound", "pounds"),
    u(1e-6, "mg"),
    u(1000, "t"),
  ],
  length: [
    u("mm", "mm"),
    u("cm", "cm"),
    u("m", "m", "metre", "metres", "meter", "meters"),
    u("in", "in", "inch", "inches", '"', "″", "”"),
    u("ft", "ft", "feet", "foot", "'", "′", "’"),
    u(0.9144, "yd", "yard", "yards"),
    u(1e-6, "µm", "μm", "um"),
  ],
  distance: [
    u("m", "m", "metre", "metres", "meter", "meters"),
    u("km", "km"),
    u("cm", "cm"),
    u("mm", "mm"),
    u("in", "in", "inch", "inches", '"', "″"),
    u("ft", "ft", "feet", "foot"),
    u(0.9144, "yd", "yard", "yards"),
    u(1609.344, "mi", "mile", "miles"),
    u(1852, "nmi", "NM", "nautical mile", "nautical miles"),
  ],
  time: [
    u(1, "s", "sec", "secs", "second", "seconds"),
    u(60, "min", "mins", "m", "minute", "minutes"),
    u(3600, "h", "hr", "hrs", "hour", "hours"),
    u(1e-3, "ms"),
    u(86_400, "d", "day", "days"),
  ],
  stopwatch: [u(1, "s", "sec", "secs", "second", "seconds"), u(60, "min", "minute", "minutes"), u(1e-3, "ms")],
  speed: [
    u(1, "m/s"),
    u("km/h", "km/h", "kmh", "kph"),
    u("mph", "mph", "mi/h"),
    u("knots", "kn", "kt", "kts", "knot", "knots"),
    u("ft/s", "ft/s", "fps"),
  ],
  temperature: [u(1, "°C", "C", "°"), u(5 / 9, "°F", "F")],
  warmth: [u(1, "K", "°C", "C"), u(5 / 9, "°F", "F")],
  force: [
    u(1, "N"),
    u(1e-3, "mN"),
    u(1e3, "kN"),
    u(9.80665e-3, "g", "gf"),
    u(9.80665, "kg", "kgf", "kp"),
    u("lbf", "lbf", "lb", "lbs"),
    u(0.278013851, "ozf", "oz"),
  ],
  torque: [
    u(1, "N·m", "Nm", "N m"),
    u(1e-3, "mNm", "mN·m"),
    u(0.01, "N·cm", "Ncm"),
    u(0.0980665, "kg·cm", "kgcm", "kg-cm", "kg cm"),
    u(9.80665e-5, "g·cm", "gcm", "g-cm"),
    u(7.061552e-3, "oz·in", "ozin", "oz-in", "oz in"),
    u(0.1129848, "lb·in", "lbin", "lb-in", "in-lb"),
    u(1.355818, "lb·ft", "lbft", "lb-ft", "ft-lb"),
  ],
  voltage: [u(1, "V", "volt", "volts"), u(1e-3, "mV")],
  current: [u(1, "A", "amp", "amps"), u(1e-3, "mA")],
  resistance: [
    u(1, "Ω", "Ω", "ohm", "ohms"),
    u(1e-3, "mΩ", "mΩ", "mohm", "mohms", "milliohm", "milliohms"),
    u(1e-6, "µΩ", "uohm"),
  ],
  power: [u(1, "W", "watt", "watts"), u(1e3, "kW"), u(1e-3, "mW"), u("hp", "hp")],
  energy: [u(1, "J"), u(1e3, "kJ"), u(3600, "Wh"), u(3.6, "mWh"), u(3.6e6, "kWh")],
  energyPerDistance: [u(1, "J/m"), u(3.6, "Wh/km"), u(3600 / 1609.344, "Wh/mi")],
  angle: [u(1, "rad"), u("deg", "°", "deg", "degrees")],
  capacity: [u(1, "A·h", "Ah", "AH"), u(1e-3, "mAh", "mA·h", "mAH", "maH", "mah")],
  kv: [u(1, "rpm/V", "rpm/v", "kv", "KV", "Kv")],
  rotation: [u(1, "rpm", "RPM", "1/min", "/min"), u(60, "rev/s", "rps", "Hz", "1/s"), u(9.549296586, "rad/s")],
  inertia: [
    u(1, "kg·m²", "kgm2"),
    u(1e-7, "g·cm²", "gcm2"),
    u(1.828998e-5, "oz·in²", "ozin2"),
    u(0.04214011, "lb·ft²", "lbft2"),
  ],
  density: [u(1, "kg/m³", "kg/m3"), u(1000, "g/cm³", "g/cm3"), u(16.018463, "lb/ft³", "lb/ft3")],
  area: [
    u(1, "m²", "m2"),
    u(0.01, "dm²", "dm2"),
    u(1e-4, "cm²", "cm2"),
    u(1e-6, "mm²", "mm2"),
    u(6.4516e-4, "in²", "in2", "sq in"),
    u(0.09290304, "ft²", "ft2", "sq ft"),
  ],
  volume: [
    u(1, "m³", "m3"),
    u(1e-3, "l", "L", "litre", "litres", "dm³", "dm3"),
    u(1e-6, "cm³", "cm3", "ml", "mL"),
    u(1.6387064e-5, "in³", "in3", "cu in"),
    u(0.028316847, "ft³", "ft3", "cu ft"),
  ],
  loading: [u(1, "kg/m²", "kg/m2"), u(0.1, "g/dm²", "g/dm2"), u(0.30515, "oz/ft²", "oz/ft2", "oz/sq ft")],
  pressure: [u(1, "Pa"), u(100, "hPa", "mbar"), u(1000, "kPa"), u(1e5, "bar"), u(6894.757, "psi"), u(3386.389, "inHg")],
  money: [u(1, "€", "EUR")],
  count: [],
  ratio: [u(1, ":1")],
  percent: [u(0.01, "%")],
};

const factors = new Map<string, number | undefined>();

/**
 * Multiplier from an accepted spelling to the stored unit; undefined when the spelling is not known. Worked out once
 * for each.
 */
export function factor(dimension: Dimension, spelling: string): number | undefined {
  const key = `${dimension} ${spelling}`;
  if (!factors.has(key)) factors.set(key, findFactor(dimension, spelling));
  return factors.get(key);
}

function findFactor(dimension: Dimension, spelling: string): number | undefined {
  const list = ACCEPTED[dimension];
  const unit =
    list.find((a) => a.spellings.includes(spelling)) ??
    list.find((a) => a.spellings.some((s) => s.toLowerCase() === spelling.toLowerCase()));
  if (!unit) return undefined;
  if (typeof unit.to === "number") return unit.to;
  return Qty(1, unit.to).to(TARGET[dimension] ?? "").scalar;
}

const METRIC: Record<Dimension, string> = {
  mass: "g",
  length: "mm",
  distance: "m",
  time: "min",
  stopwatch: "s",
  speed: "m/s",
  temperature: "°C",
  warmth: "K",
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
  volume: "l",
  loading: "g/dm²",
  pressure: "hPa",
  money: "€",
  count: "",
  ratio: "",
  percent: "%",
};

/**
 * Unit in which a dimension is shown, for each of the two habits. Electrical and mechanical units are the same in
 * both.
 */
export const DISPLAY = {
  metric: METRIC,
  imperial: {
    ...METRIC,
    mass: "oz",
    length: "in",
    distance: "ft",
    speed: "mph",
    force: "ozf",
    torque: "oz·in",
    energyPerDistance: "Wh/mi",
    loading: "oz/ft²",
    area: "in²",
    volume: "in³",
    density: "lb/ft³",
    inertia: "oz·in²",
    temperature: "°F",
    warmth: "°F",
  },
} satisfies Record<string, Record<Dimension, string>>;
export type UnitHabit = keyof typeof DISPLAY;

/** Shows and reads amounts of money by this sign, and by the three letters of its currency. */
export function showMoneyIn(sign: string, letters: string): void {
  DISPLAY.metric.money = DISPLAY.imperial.money = sign;
  ACCEPTED.money = [u(1, sign, letters)];
  for (const key of factors.keys()) if (key.startsWith("money ")) factors.delete(key);
}

/** What a unit reads where the stored one reads zero: 32 °F. */
const atZero = (dimension: Dimension, spelling: string): number =>
  dimension === "temperature" && /f$/i.test(spelling) ? 32 : 0;

/** Converts a stored (SI) value to the shown unit of its dimension. */
export function toDisplay(value: number, dimension: Dimension, habit: UnitHabit = "metric"): number {
  return spanToDisplay(value, dimension, habit) + atZero(dimension, DISPLAY[habit][dimension]);
}

/** Converts a difference or a ± to the shown unit: 10 °C more are 18 °F more. */
export function spanToDisplay(span: number, dimension: Dimension, habit: UnitHabit = "metric"): number {
  return span / (factor(dimension, DISPLAY[habit][dimension]) ?? 1);
}

/** A number in an accepted unit as the stored value. NaN where the unit is none of the dimension. */
export const toStored = (value: number, dimension: Dimension, spelling: string): number =>
  (value - atZero(dimension, spelling)) * (factor(dimension, spelling) ?? Number.NaN);

/** Every spelling that a field of this dimension accepts, the longest first. */
export const spellingsOf = (dimension: Dimension): string[] =>
  ACCEPTED[dimension].flatMap((a) => a.spellings).sort((a, b) => b.length - a.length);

/** Spellings that a field of this dimension accepts, for hints and errors. */
export function acceptedUnits(dimension: Dimension): string[] {
  return ACCEPTED[dimension].map((a) => a.spellings[0] ?? "");
}
