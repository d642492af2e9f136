import { badRequest } from "./problems";

/** How deep a document may be nested: far deeper than any of ours. */
const DEEPEST = 64;
// biome-ignore lint/suspicious/noControlCharactersInRegex: these are the signs that are looked for
const CONTROL = /[\u0000-\u0008\u000b\u000c\u000e-\u001f]/;

/** Whether every surrogate of a text has its other half. */
const isWellFormed = (text: string): boolean => (text as unknown as { isWellFormed: () => boolean }).isWellFormed();

/** Why a text cannot be stored; null: it can. */
function wrongText(text: string): string | null {
  if (CONTROL.test(text)) return "holds a control character: only tabs and line breaks are accepted";
  return isWellFormed(text) ? null : "holds half of a character (a lone surrogate)";
}

/**
 * Refuses what no schema looks at and no database takes: control characters, halves of characters, numbers beyond all
 * bounds, and documents nested without end.
 * @throws a problem (400) with the place
 */
export function checkWellFormed(root: unknown): void {
  const stack: { value: unknown; path: string; depth: number }[] = [{ value: root, path: "", depth: 0 }];
  const refuse = (path: string, why: string) => badRequest(`${path || "the body"} ${why}.`);
  for (let at = stack.pop(); at; at = stack.pop()) {
    const { value, path, depth } = at;
    if (depth > DEEPEST) throw refuse(path.slice(0, 80), "is nested too deep");
    if (typeof value === "string") {
      const why = wrongText(value);
      if (why) throw refuse(path, why);
    } else if (typeof value === "number") {
      if (!Number.isFinite(value)) throw refuse(path, "is a number beyond all bounds");
    } else if (typeof value === "object" && value !== null)
      for (const [key, inner] of Object.entries(value)) {
        const why = wrongText(key);
        if (why) throw refuse(path, `has a name that ${why}`);
        stack.push({ value: inner, path: path === "" ? key : `${path}.${key}`, depth: depth + 1 });
      }
  }
}
