import { beforeAll, describe, expect, it } from "vitest";
import { type Evaluation, evaluate, resultIn } from "../../core/evaluate";
import type { Design } from "../../core/design/schema";
import type { MetricKey } from "../../core/design/metrics";
import { axes } from "../../core/subjects/axes/node";
import { authority } from "../../core/subjects/authority/node";
import { placedUnits } from "../../core/subjects/propulsion/placed";
import { demoFile } from "../support/demo";

/**
 * What a craft does cannot depend on how it is written down: where the datum stands, in which order its parts are
 * listed, what they are called, or whether two like drives are one entry or two.
 */
const CRAFTS = ["tern", "samphire", "lantern", "annulus", "gannet"] as const;
const designOf = (name: string): Design => {
  const d = demoFile(name).versions.at(-1)?.design;
  if (!d) throw new Error(name);
  return structuredClone(d);
};
const at = (d: Design) => evaluate(d, {}, null);

/** Numbers that are places along x: they go with the datum. */
const ALONG: MetricKey[] = ["cgX", "sideCentre", "neutralPoint", "cgAft", "cgForward"];
function shifted(design: Design, by: number): Design {
  const d = structuredClone(design);
  for (const i of d.items) {
    i.place.x += by;
    if (i.slide) i.slide = { from: i.slide.from + by, to: i.slide.to + by };
  }
  for (const s of d.surfaces) s.at.x += by;
  for (const b of d.bodies) for (const f of b.frames) f.x += by;
  for (const u of d.units) for (const p of u.places) p.at.x += by;
  for (const f of d.feet) f.at.x += by;
  for (const t of d.brief.targets)
    if (t.metric === "cgX") {
      t.value += by;
      if (t.upper !== undefined) t.upper += by;
    }
  return d;
}

/** The same craft seen in a mirror: what stood to port stands to starboard, and rotors turn the other way. */
function mirrored(design: Design): Design {
  const d = structuredClone(design);
  for (const i of d.items) {
    // A pair on both sides is its own mirror image; so is what has no place across.
    if (!i.mirrored) i.place.y = -i.place.y;
    if (i.slideY) i.slideY = { from: -i.slideY.to, to: -i.slideY.from };
  }
  for (const s of d.surfaces)
    if (!s.mirrored) {
      s.at.y = -s.at.y;
      for (const p of s.panels) p.dihedral = Math.PI - p.dihedral;
    }
  for (const b of d.bodies) b.y = -b.y;
  for (const u of d.units) {
    u.spin = u.spin === "clockwise" ? "anticlockwise" : u.spin === "anticlockwise" ? "clockwise" : u.spin;
    if (u.direction === "port" || u.direction === "starboard")
      u.direction = u.direction === "port" ? "starboard" : "port";
    for (const p of u.places) {
      p.at.y = -p.at.y;
      p.toward.y = -p.toward.y;
    }
  }
  return d;
}

const near = (a: number, b: number, relative: number) =>
  Math.abs(a - b) <= relative * Math.max(Math.abs(a), Math.abs(b), 1e-6) + 1e-9;

/** Every number of two evaluations, and where they differ. */
function differing(
  a: Evaluation,
  b: Evaluation,
  expected: (key: MetricKey, value: number) => number = (_, v) => v,
  relative = 1e-6,
): string[] {
  const keys = new Set([...Object.keys(a.metrics), ...Object.keys(b.metrics)]) as Set<MetricKey>;
  return [...keys].flatMap((key) => {
    const [p, q] = [a.metrics[key], b.metrics[key]];
    if (!p || !q) return [`${key}: ${p?.value} and ${q?.value}`];
    if (near(expected(key, p.value), q.value, relative) && near(p.sd, q.sd, 1e-3)) return [];
    return [`${key}: ${expected(key, p.value)} ± ${p.sd} and ${q.value} ± ${q.sd}`];
  });
}
const codes = (e: Evaluation) => e.findings.map((f) => `${f.severity} ${f.code}`).toSorted();

describe.each(CRAFTS)("%s", (name) => {
  let design: Design;
  let here: Evaluation;
  beforeAll(() => {
    design = designOf(name);
    here = at(design);
  });

  it("with its datum a metre further ahead: every place goes along, nothing else changes", () => {
    const there = at(shifted(design, 1));
    expect(differing(here, there, (key, v) => (ALONG.includes(key) ? v + 1 : v), 1e-5)).toEqual([]);
    expect(codes(there)).toEqual(codes(here));
  });
  it("with its datum behind its tail: places below zero are places", () => {
    const there = at(shifted(design, -3));
    expect(differing(here, there, (key, v) => (ALONG.includes(key) ? v - 3 : v), 1e-5)).toEqual([]);
  });
  it("with its parts listed the other way round", () => {
    const other = structuredClone(design);
    other.items.reverse();
    expect(differing(here, at(other))).toEqual([]);
    expect(codes(at(other))).toEqual(codes(here));
  });
  it("with every part, drive, pack, surface and body called otherwise: no name decides anything", () => {
    const other = structuredClone(design);
    const rename = (list: { name: string }[], k: number) => {
      for (const [i, x] of list.entries()) x.name = `Ding ${k}${String.fromCharCode(97 + i)}`;
    };
    for (const [k, list] of [other.items, other.units, other.batteries, other.surfaces, other.bodies].entries())
      rename(list, k);
    for (const i of other.items) i.group = `Gruppe ${i.group.length}`;
    const there = at(other);
    expect(differing(here, there)).toEqual([]);
    expect(codes(there)).toEqual(codes(here));
  });
  it("seen in a mirror: the CG on the other side, all else alike", () => {
    const there = at(mirrored(design));
    expect(differing(here, there, (key, v) => (key === "cgY" ? -v : v), 1e-4)).toEqual([]);
    const [a, b] = [resultIn(here, axes), resultIn(there, axes)];
    expect(b?.kind).toBe(a?.kind);
    if (a?.kind === "drives" && b?.kind === "drives")
      for (const [k, line] of a.lines.entries()) {
        const other = b.lines[k];
        expect(other?.word, line.axis).toBe(line.word);
        const across = ["sway", "roll", "yaw"].includes(line.axis);
        expect(other?.command.alone[across ? "minus" : "plus"]).toBeCloseTo(line.command.alone.plus, 4);
      }
    if (a?.kind === "wings" && b?.kind === "wings")
      for (const [k, m] of a.moments.entries())
        for (const [j, l] of m.lines.entries()) {
          const other = b.moments[k]?.lines[j];
          const sum = (x: typeof l | undefined) => x?.disturbs.reduce((s, p) => s + p.value, 0) ?? Number.NaN;
          expect(sum(other), `${m.moment} ${l.axis}`).toBeCloseTo(l.axis === "pitch" ? sum(l) : -sum(l), 5);
          expect(other?.word).toBe(l.word);
        }
  });
  it("judged twice is judged alike, and judging leaves the design as it was", () => {
    const before = JSON.stringify(design);
    expect(at(design)).toEqual(here);
    expect(JSON.stringify(design)).toBe(before);
  });
  it("with a part of nothing added: mass and CG stay as they are", () => {
    const other = structuredClone(design);
    const [first] = other.items;
    if (!first) throw new Error("no part");
    other.items.push({
      ...structuredClone(first),
      id: "nothing",
      name: "nothing",
      mass: { value: 0, evidence: "measured", sd: 0 },
      planned: null,
      mirrored: false,
      cost: null,
      hollow: true,
      size: { x: 0, y: 0, z: 0 },
      parentId: null,
      twinId: null,
    });
    const there = at(other);
    for (const key of ["auw", "cgX", "cgY", "cgZ", "inertiaPitch", "thrust", "hoverShare"] as const) {
      const [p, q] = [here.metrics[key], there.metrics[key]];
      if (p || q) expect(q?.value, key).toBeCloseTo(p?.value ?? Number.NaN, 9);
    }
  });
});

describe("like drives as one entry or as several", () => {
  it("Annulus' two rotors apart push, draw and hold as they do together", () => {
    const one = designOf("annulus");
    const [u] = one.units;
    const placed = placedUnits(one, 0);
    if (!u) throw new Error("no drive");
    expect(placed).toHaveLength(2);
    u.places = placed.map(({ at: where, toward }) => ({ at: { ...where }, toward: { ...toward } }));
    const two = structuredClone(one);
    two.units = u.places.map((p, k) => ({
      ...structuredClone(u),
      id: `u${k}`,
      name: `Rotor ${k}`,
      count: 1,
      places: [structuredClone(p)],
      spin: k % 2 === 0 ? ("clockwise" as const) : ("anticlockwise" as const),
    }));
    const [a, b] = [at(one), at(two)];
    for (const key of ["thrust", "packCurrent", "packVoltage"] as const)
      expect(b.metrics[key]?.value, key).toBeCloseTo(a.metrics[key]?.value ?? Number.NaN, 3);
    const [p, q] = [resultIn(a, authority), resultIn(b, authority)];
    expect(q?.holding.shares?.length).toBe(p?.holding.shares?.length);
    for (const [k, s] of (p?.holding.shares ?? []).entries()) expect(q?.holding.shares?.[k]).toBeCloseTo(s, 3);
  });
  it("Samphire's screws: twice the screws of half the thrust each are as many newtons on the same axis", () => {
    const d = designOf("samphire");
    const e = at(d);
    const board = resultIn(e, axes);
    if (board?.kind !== "drives") throw new Error("no board");
    const surge = board.lines.find((l) => l.axis === "surge")?.command.coupled.plus ?? Number.NaN;
    expect(surge).toBeLessThanOrEqual((e.metrics.thrust?.value ?? 0) + 1e-9);
    expect(surge).toBeGreaterThan(0.95 * (e.metrics.thrust?.value ?? 0));
  });
});
