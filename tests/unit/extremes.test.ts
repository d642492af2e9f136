import { describe, expect, it } from "vitest";
import { BOUNDS } from "../../core/design/bounds";
import { corridorsOf } from "../../core/corridor";
import { everyState } from "../../core/design/inState";
import { type Design, type State, designSchema, plainState } from "../../core/design/schema";
import { evaluate, findingText } from "../../core/evaluate";
import { glanceAt } from "../../core/glance";
import { missionOf } from "../../core/mission";
import { demoFile } from "../support/demo";

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

/** States that change what can be changed, as far as it can be. */
const FAR: ((d: Design) => State)[] = [
  (d) => ({ ...plainState("all-gone", "all gone", ["ground"]), without: d.items.map((i) => i.id) }),
  (d) => ({
    ...plainState("far", "far away", ["hull", "gas"]),
    moved: d.items.map((i) => ({ id: i.id, by: { x: 100, y: -100, z: 100 } })),
  }),
  (d) => ({
    ...plainState("over", "all turned over", ["rotors"]),
    units: d.units.map((u) => ({ id: u.id, resting: false, turned: Math.PI, works: "in water", on: "snow" })),
    surfaces: d.surfaces.map((s) => ({ id: s.id, away: false, turned: Math.PI / 4, works: null })),
  }),
  (d) => ({
    ...plainState("still", "still", ["wings", "rotors", "hull", "submerged"]),
    units: d.units.map((u) => ({ id: u.id, resting: true, turned: -1, works: null, on: null })),
    surfaces: d.surfaces.map((s) => ({ id: s.id, away: true, turned: 0, works: null })),
  }),
  () => ({ ...plainState("flaps", "flaps", ["flapping"]), dragArea: { value: 1e-8, evidence: "guess" } }),
];

describe("a craft in a state that changes all of it", () => {
  it.each(["tern", "annulus", "samphire", "lantern", "gannet"])("%s is evaluated, and no number is none", (name) => {
    const given = demoFile(name).versions.at(-1)?.design;
    if (!given) throw new Error("no design");
    const states = FAR.map((make) => make(given));
    const read = designSchema.safeParse({
      ...given,
      states: [given.states[0], ...states],
      transitions: states.map((s, k) => ({
        id: `t${k}`,
        from: given.states[0]?.id,
        to: s.id,
        wholeTurns: k % 2 === 0,
      })),
    });
    if (!read.success) throw new Error(read.error.message);
    for (const { state, design } of everyState(read.data)) {
      const { metrics, findings } = evaluate(design);
      for (const [key, q] of Object.entries(metrics))
        expect(Number.isFinite(q?.value) && Number.isFinite(q?.sd), `${state.name}, ${key}`).toBe(true);
      for (const f of findings)
        expect(findingText(f, "imperial"), `${state.name}, ${f.code}`).not.toMatch(/NaN|undefined|Infinity|null/);
    }
    // A craft without any part, and one without a drive, carry nothing anywhere; none of it is a number that is none.
    const corridors = corridorsOf(read.data);
    expect(Object.keys(corridors).length).toBe(states.length);
    for (const c of Object.values(corridors))
      if (c.status === "solved") for (const p of c.path) expect(Number.isFinite(p.margin)).toBe(true);
      else expect(c.because).not.toBe("");
    expect(() => structuredClone(missionOf(read.data))).not.toThrow();
    expect(() => structuredClone(glanceAt(read.data))).not.toThrow();
  });
});

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
