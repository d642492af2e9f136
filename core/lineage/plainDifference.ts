/** One value that differs between two states of a document. */
export interface PlainChange {
  /** Place in words: "suspects 2, result". */
  at: string;
  theirs: string;
  mine: string;
}

const MOST = 60;
const words = (key: string) => key.replace(/([a-z])([A-Z])/g, (_, a: string, b: string) => `${a} ${b.toLowerCase()}`);
/** A place in words; numbers count from one, as people do. */
const place = (path: readonly (string | number)[]) =>
  path.reduce<string>(
    (text, key) =>
      typeof key === "number" ? `${text} ${key + 1}` : text === "" ? words(key) : `${text}, ${words(key)}`,
    "",
  );

function short(value: unknown): string {
  if (value === undefined || value === null || value === "") return "empty";
  if (typeof value === "string") return value.length > 160 ? `${value.slice(0, 157)}…` : value;
  if (typeof value !== "object") return String(value);
  if (Array.isArray(value)) return value.length === 0 ? "none" : `${value.length} entries`;
  const named = value as { name?: unknown; text?: unknown; cause?: unknown; title?: unknown };
  const name = [named.name, named.text, named.cause, named.title].find((n) => typeof n === "string" && n !== "");
  return typeof name === "string" ? short(name) : "an entry";
}

/**
 * Every value in which two states of one document differ, place by place. An entry that only one of them has is one
 * difference.
 */
export function plainDifference(theirs: unknown, mine: unknown): PlainChange[] {
  const out: PlainChange[] = [];
  const walk = (a: unknown, b: unknown, path: (string | number)[]) => {
    if (out.length >= MOST || Object.is(a, b)) return;
    const inside =
      typeof a === "object" &&
      a !== null &&
      typeof b === "object" &&
      b !== null &&
      Array.isArray(a) === Array.isArray(b);
    if (!inside) {
      const whole = (v: unknown) => typeof v === "object" && v !== null;
      if (short(a) !== short(b) || whole(a) || whole(b))
        out.push({ at: place(path), theirs: short(a), mine: short(b) });
      return;
    }
    if (Array.isArray(a) && Array.isArray(b))
      for (let k = 0; k < Math.max(a.length, b.length); k++) walk(a[k], b[k], [...path, k]);
    else
      for (const key of new Set([...Object.keys(a), ...Object.keys(b)]))
        walk((a as Record<string, unknown>)[key], (b as Record<string, unknown>)[key], [...path, key]);
  };
  walk(theirs, mine, []);
  return out;
}
