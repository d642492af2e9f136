import { DISPLAY, type Dimension, type UnitHabit, acceptedUnits, spellingsOf, toStored } from "./units";

export type ParseResult =
  | { ok: true; value: number /** how it was read, when that is not how it was written */; note?: string }
  | { ok: false; message: string };

/** What a person wrote, as a tree: numbers with their units, sums, products and quotients. */
type Node =
  | { kind: "number"; value: number; unit: string | null }
  | { kind: "sum"; terms: { sign: 1 | -1; node: Node; beside: boolean }[] }
  | { kind: "product"; left: Node; right: Node }
  | { kind: "quotient"; left: Node; right: Node };

/** Why a text was not read, in words; the text itself is named by whoever asked. */
class Unread extends Error {}

const HALVES: Record<string, string> = {
  "½": "1/2",
  "⅓": "1/3",
  "⅔": "2/3",
  "¼": "1/4",
  "¾": "3/4",
  "⅛": "1/8",
  "⅜": "3/8",
  "⅝": "5/8",
  "⅞": "7/8",
};

/**
 * A text as it is read: one kind of space, minus, cross and fraction. A space may group thousands, as it does
 * wherever numbers are shown here.
 */
function tidy(text: string): string {
  return text
    .trim()
    .replace(/\s+/g, " ")
    .replace(
      /(\d)? ?([½⅓⅔¼¾⅛⅜⅝⅞])/g,
      (_, whole: string | undefined, half: string) => `${whole ?? ""}${whole === undefined ? "" : " "}${HALVES[half]}`,
    )
    .replace(/(?<![\d.,/])[1-9]\d{0,2}(?: \d{3})+(?![\d/])/g, (grouped) => grouped.replaceAll(" ", ""))
    .replace(/[−–]/g, "-")
    .replace(/[×✕]/g, "*")
    .replace(/÷/g, "/")
    .replace(/^~ ?/, "");
}

const DECIMAL = /^(?:\d+(?:[.,]\d+)?|[.,]\d+)(?:e[+-]?\d+)?/i;
const FRACTION = /^(?:(\d+) )?(\d+)\/(\d+)(?![\d.,])/;
const CLOCK = /^(?:(\d+):)?(\d{1,3}):([0-5]\d(?:[.,]\d+)?)(?![\d:])/;
/** A word that says no quantity: what stands behind a unit is not read. */
const WORD = /^[\p{L}(][^\d]*$/u;

/** The unit that follows one that a person left out after it: 2m30, 1h30, 5'6. */
const NEXT: Partial<Record<Dimension, Record<string, string>>> = {
  time: { h: "min", hr: "min", min: "s", m: "s" },
  length: { ft: "in", "'": "in", "′": "in", "’": "in", feet: "in", lb: "oz" },
  mass: { lb: "oz", lbs: "oz", kg: "g" },
};

class Reader {
  private at = 0;
  private readonly spellings: string[];
  constructor(
    private readonly text: string,
    private readonly dimension: Dimension,
  ) {
    this.spellings = spellingsOf(dimension);
  }

  private rest = () => this.text.slice(this.at);
  private skip() {
    while (this.text[this.at] === " ") this.at++;
  }
  private take(sign: string): boolean {
    this.skip();
    if (this.text[this.at] !== sign) return false;
    this.at++;
    return true;
  }

  /** A unit of the dimension at this place, the longest that fits; a letter right behind it makes it another word. */
  private unit(): string | null {
    const before = this.at;
    this.skip();
    const rest = this.rest();
    const fits = (s: string, fold: boolean) => {
      const here = rest.slice(0, s.length);
      if (fold ? here.toLowerCase() !== s.toLowerCase() : here !== s) return false;
      const next = rest[s.length] ?? "";
      return !(/[\p{L}°µ²³·]/u.test(next) && /[\p{L}²³]$/u.test(s)) || (this.dimension === "time" && /\d/.test(next));
    };
    const found = this.spellings.find((s) => fits(s, false)) ?? this.spellings.find((s) => fits(s, true));
    if (found === undefined) {
      this.at = before;
      return null;
    }
    this.at += found.length;
    return found;
  }

  private number(): Node {
    // The sign of money may stand before its amount.
    if (this.dimension === "money") this.unit();
    this.skip();
    if (this.take("(")) {
      const inside = this.sum();
      if (!this.take(")")) throw new Unread("a bracket is not closed");
      const unit = this.unit();
      return unit === null ? inside : { kind: "product", left: inside, right: { kind: "number", value: 1, unit } };
    }
    const rest = this.rest();
    const clock = this.dimension === "time" || this.dimension === "stopwatch" ? CLOCK.exec(rest) : null;
    if (clock) {
      this.at += clock[0].length;
      const [, hours, minutes, seconds = ""] = clock;
      return {
        kind: "number",
        value: Number(hours ?? 0) * 3600 + Number(minutes) * 60 + Number(seconds.replace(",", ".")),
        unit: "s",
      };
    }
    const fraction = FRACTION.exec(rest);
    if (fraction) {
      this.at += fraction[0].length;
      if (Number(fraction[3]) === 0) throw new Unread("nothing is divided by zero");
      return {
        kind: "number",
        value: Number(fraction[1] ?? 0) + Number(fraction[2]) / Number(fraction[3]),
        unit: this.unit(),
      };
    }
    const plain = DECIMAL.exec(rest);
    if (!plain) throw new Unread("");
    if (/^[1-9]\d{0,2},\d{3}$/.test(plain[0]))
      throw new Unread(
        `“${plain[0]}” could be read two ways. Write ${plain[0].replace(",", "")} or ${plain[0].replace(",", ".")}.`,
      );
    this.at += plain[0].length;
    const value = Number(plain[0].replace(",", "."));
    if (this.dimension !== "percent" && this.take("%")) return { kind: "number", value: value / 100, unit: null };
    return { kind: "number", value, unit: this.unit() };
  }

  private product(): Node {
    let left = this.number();
    for (;;) {
      this.skip();
      const cross = /^(?:\*|[xX](?= ?[\d(.]))/.exec(this.rest());
      if (cross) {
        this.at += cross[0].length;
        left = { kind: "product", left, right: this.number() };
      } else if (this.take("/")) left = { kind: "quotient", left, right: this.number() };
      else return left;
    }
  }

  private sum(): Node {
    const terms: Extract<Node, { kind: "sum" }>["terms"] = [];
    this.skip();
    let sign: 1 | -1 = this.take("-") ? -1 : 1;
    if (sign === 1) this.take("+");
    let beside = false;
    for (;;) {
      const node = this.product();
      terms.push({ sign, node, beside });
      this.skip();
      if (this.take("+")) [sign, beside] = [1, false];
      else if (this.take("-")) [sign, beside] = [-1, false];
      // Quantities follow one another without a sign, as in "1 lb 8 oz" or "2m30".
      else if (/^[\d.,]/.test(this.rest()) && unitOf(node) !== null) [sign, beside] = [1, true];
      else return terms.length === 1 && sign === 1 && terms[0]?.sign === 1 ? node : { kind: "sum", terms };
    }
  }

  read(): Node {
    const node = this.sum();
    this.skip();
    const rest = this.rest();
    // Words behind a quantity say nothing of it; another unit would.
    if (rest !== "" && !(WORD.test(rest) && unitOf(node) !== null && this.text[this.at - 1] === " "))
      throw new Unread(this.stranger(rest));
    return node;
  }
  private stranger(rest: string): string {
    const unit = /^[^\d\s+\-*/()]+/.exec(rest)?.[0];
    return unit === undefined ? "" : `“${unit}” is not a unit of ${this.dimension}`;
  }
}

/** The unit that a tree says last; null where it says none. */
function unitOf(node: Node): string | null {
  if (node.kind === "number") return node.unit;
  if (node.kind === "sum") return node.terms.map((t) => unitOf(t.node)).findLast((u) => u !== null) ?? null;
  return unitOf(node.right) ?? unitOf(node.left);
}

/** A tree without units, or with none but this one, as the number that it is. */
function pure(node: Node, but: string | null = null): number {
  switch (node.kind) {
    case "number":
      if (node.unit !== null && node.unit !== but)
        throw new Unread("two quantities are not multiplied or divided here");
      return node.value;
    case "sum":
      return node.terms.reduce((s, t) => s + t.sign * pure(t.node, but), 0);
    case "product":
      return pure(node.left, but) * pure(node.right, but);
    case "quotient":
      return pure(node.left, but) / pure(node.right, but);
  }
}

/** Value in the stored unit; what has no unit of its own takes the one given. */
function inStored(node: Node, dimension: Dimension, unit: string): number {
  // A temperature is no multiple of its unit: what is added or negated is so on its own scale.
  if (dimension === "temperature") {
    const own = unitOf(node);
    // Degrees alone are those that are shown.
    return toStored(pure(node, own), dimension, own === null || own === "°" ? unit : own);
  }
  switch (node.kind) {
    case "number": {
      const own = node.unit ?? unit;
      return own === "" ? node.value : toStored(node.value, dimension, own);
    }
    case "sum": {
      // A term without a unit takes that of the next one that has one; beside another, the unit that usually follows
      // it.
      let total = 0;
      let next = unit;
      for (const [i, t] of [...node.terms.entries()].reverse()) {
        const own = unitOf(t.node);
        const before = node.terms[i - 1];
        const follows = t.beside && own === null && before ? NEXT[dimension]?.[unitOf(before.node) ?? ""] : undefined;
        if (t.beside && own === null && follows === undefined) throw new Unread("");
        if (own !== null) next = own;
        total += t.sign * inStored(t.node, dimension, follows ?? next);
      }
      return total;
    }
    case "product":
      return unitOf(node.right) !== null
        ? pure(node.left) * inStored(node.right, dimension, unit)
        : inStored(node.left, dimension, unit) * pure(node.right);
    case "quotient":
      // "1/3 lb": the unit behind a fraction is that of the whole.
      if (node.right.kind === "number" && node.right.unit !== null && unitOf(node.left) === null)
        return inStored(
          { kind: "number", value: pure(node.left) / node.right.value, unit: node.right.unit },
          dimension,
          unit,
        );
      return inStored(node.left, dimension, unit) / pure(node.right);
  }
}

/**
 * Stages multiply: "48:13 × 2.5", "97 × 95 %". Each is a number, or teeth over teeth. Null when the text is no
 * product and no quotient.
 */
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
        message:
          `“${text.trim()}” is not a product of stages. Accepted: 3.2, 48:13, or several such as ` +
          `${dimension === "ratio" ? "48:13 × 2.5" : "97 × 95 %"}.`,
      };
    product *= top.value / bottom.value;
  }
  return { ok: true, value: Number(product.toPrecision(12)) };
}

/** Two numbers with a cross between them: of a length it is what is stamped on a propeller as likely as a product. */
const STAMP = /\d\s*[x×]\s*[\d.,]/i;

/** A fraction as rulers have them, joined to its whole number: six and three eighths, and no difference. */
const JOINED = /(?<![\d.,/)*])(\d+)-(\d+)\/(2|4|8|16|32|64)(?![\d.,/])/g;
const apart = (text: string): string =>
  text.replace(JOINED, (as, whole: string, n: string, d: string) =>
    Number(n) < Number(d) ? `${whole} ${n}/${d}` : as,
  );

/** A capacity as large as this without a unit is in mAh: no small craft carries a hundred ampere-hours. */
export const MILLI_FROM = 100;

/**
 * Reads a typed quantity: numbers with any accepted unit (`7 oz`, `11.5 in`, `0,412 kg`), sums, products, quotients
 * and brackets (`120+35 g`, `2×14 g`, `(30+12)/2`), fractions (`½ in`,
 * `1 1/2 in`, `1-1/2 in`, `1/3 lb`), pairs (`1 lb 8 oz`, `5'6"`), times (`1:14`, `2m30s`, `1h30`), and whatever is
 * shown here. Words behind a unit are left aside. A term without a unit takes the unit of the next term that has one,
 * else the display unit.
 *
 * @returns the value in the stored unit, with a note where it was read otherwise than written; or a message that says
 *   what is wrong and what would be accepted
 */
export function parseQuantity(text: string, dimension: Dimension, habit: UnitHabit = "metric"): ParseResult {
  const staged = dimension === "ratio" || dimension === "percent" ? readStages(text, dimension, habit) : null;
  if (staged) return staged;
  const units = acceptedUnits(dimension).filter(Boolean).join(", ");
  const example = `a number${units ? `, in ${units}` : ""}; sums such as 120+35 work too`;
  const tidied = tidy(text);
  const rest = dimension === "length" || dimension === "mass" ? apart(tidied) : tidied;
  if (dimension === "length" && STAMP.test(text))
    return {
      ok: false,
      message:
        `“${text.trim()}” may be the stamp of a propeller: write its diameter here and its pitch there, ` +
        `each by itself. Accepted: ${example}.`,
    };
  if (rest === "") return { ok: false, message: `Empty. Accepted: ${example}.` };
  try {
    const tree = new Reader(rest, dimension).read();
    const shown = DISPLAY[habit][dimension];
    const bare = unitOf(tree) === null;
    const milli = dimension === "capacity" && bare && Math.abs(pure(tree)) >= MILLI_FROM;
    const value = inStored(tree, dimension, milli ? "mAh" : shown);
    if (!Number.isFinite(value)) return { ok: false, message: `“${text.trim()}” is too large. Accepted: ${example}.` };
    // Twelve digits: sums and conversions leave no dust such as 0.16999999999999998.
    return {
      ok: true,
      value: Number(value.toPrecision(12)),
      ...(milli ? { note: `read as ${Number(pure(tree).toPrecision(6))} mAh` } : {}),
      ...(rest === tidied ? {} : { note: `read as ${rest}` }),
    };
  } catch (e) {
    if (!(e instanceof Unread)) throw e;
    if (e.message.endsWith(".")) return { ok: false, message: e.message };
    return {
      ok: false,
      message: `${e.message === "" ? `“${text.trim()}” is not a number` : e.message}. Accepted: ${example}.`,
    };
  }
}
