import { describe, expect, it } from "vitest";
import { BOUNDS } from "../../core/design/bounds";
import { type Design, designSchema } from "../../core/design/schema";
import { evaluate } from "../../core/evaluate";
import { glanceAt } from "../../core/glance";
import { demoFile } from "../support/server";

const EXTREMES: number[] = [...Object.values(BOUNDS).map((b) => b[0]), ...Object.values(BOUNDS).map((b) => b[1])];

/** Places of all values with evidence in a design. */
function knowns(node: unknown, path: (string | number)[] = []): (string | number)[][] {
  if (typeof node !== "object" || node === null) return [];
  const own = "value" in node && "evidence" in node && typeof node.value === "number" ? [path] : [];
  return [
    ...own,
    ...Object.entries(node).flatMap(([key, inner]) =>
      knowns(inner, [...path, Array.isArray(node) ? Number(key) : key]),
    ),
  ];
}
function put(design: Design, path: (string | number)[], value: number): Design {
  const copy = structuredClone(design);
  let node: unknown = copy;
  for (const key of path) node = (node as Record<string | number, unknown>)[key];
  Object.assign(node as object, { value, evidence: "measured" });
  return copy;
}

describe("a design at the bounds of what can be entered", () => {
  it.each(["annulus", "samphire", "lantern", "gannet"])("%s is evaluated, whatever one value of it is", (name) => {
    const design = demoFile(name).versions.at(-1)?.design;
    if (!design) throw new Error("no design");
    const places = knowns(design);
    expect(places.length).toBeGreaterThan(10);
    let tried = 0;
    for (const [k, path] of places.entries())
      for (const value of EXTREMES.filter((_, n) => n % 9 === k % 9)) {
        const checked = designSchema.safeParse(put(design, path, value));
        if (!checked.success) continue;
        tried++;
        expect(() => evaluate(checked.data), `${path.join(".")} = ${value}`).not.toThrow();
      }
    expect(tried).toBeGreaterThan(5);
    expect(() => structuredClone(glanceAt(design))).not.toThrow();
  });
});
