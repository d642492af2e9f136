import fc from "fast-check";
import { produce } from "immer";
import { describe, expect, it } from "vitest";
import { sameData } from "../../core/numeric/sameData";
import { plainDifference } from "../../core/lineage/plainDifference";
import { differs, fitted, keyOf } from "../../web/app/halfWritten";
import { whenSaid } from "../../web/app/dates";
import { blankRun } from "../../web/stations/runs/blankRun";

const data = fc.jsonValue({ maxDepth: 4 });

describe("whether two pieces of data are the same", () => {
  it("is so of a copy, and of one whose keys stand in another order", () => {
    fc.assert(
      fc.property(data, (a) => {
        const turned = (v: unknown): unknown =>
          Array.isArray(v)
            ? v.map(turned)
            : v !== null && typeof v === "object"
              ? Object.fromEntries(
                  Object.entries(v)
                    .reverse()
                    .map(([k, x]) => [k, turned(x)]),
                )
              : v;
        expect(sameData(a, structuredClone(a))).toBe(true);
        expect(sameData(a, turned(a))).toBe(true);
      }),
    );
  });
  it("tells what it is not: an entry more, another number, a list from an object, nothing from something", () => {
    for (const [a, b] of [
      [[1], [1, 2]],
      [{ a: 1 }, { a: 1, b: undefined }],
      [{ a: 1 }, { b: 1 }],
      [[], {}],
      [null, {}],
      [0, -0],
      ["1", 1],
      [{ a: { b: [1, { c: 2 }] } }, { a: { b: [1, { c: 3 }] } }],
    ])
      expect(sameData(a, b), JSON.stringify([a, b])).toBe(false);
    expect(sameData(Number.NaN, Number.NaN)).toBe(true);
  });
  it("is symmetric", () => {
    fc.assert(
      fc.property(data, data, (a, b) => {
        expect(sameData(a, b)).toBe(sameData(b, a));
      }),
    );
  });
});

describe("where two states of a record differ", () => {
  it("nothing differs from a copy, and every difference has a place and two sides", () => {
    fc.assert(
      fc.property(data, data, (a, b) => {
        expect(plainDifference(a, structuredClone(a))).toEqual([]);
        for (const { at, theirs, mine } of plainDifference(a, b)) {
          expect(typeof at).toBe("string");
          expect(theirs.length).toBeLessThanOrEqual(160);
          expect(mine.length).toBeLessThanOrEqual(160);
        }
      }),
    );
  });
  it("names places as people count, and entries by their names", () => {
    const theirs = { title: "skid hums", suspects: [{ cause: "ice", result: "" }] };
    const mine = {
      title: "skid hums",
      suspects: [
        { cause: "ice", result: "no" },
        { cause: "loose screw", result: "" },
      ],
      wrongTurns: 2,
    };
    expect(plainDifference(theirs, mine)).toEqual([
      { at: "suspects 1, result", theirs: "empty", mine: "no" },
      { at: "suspects 2", theirs: "empty", mine: "loose screw" },
      { at: "wrong turns", theirs: "empty", mine: "2" },
    ]);
  });
  it("cuts what is long, and stops at sixty", () => {
    expect(plainDifference({ a: "x".repeat(500) }, { a: "" })[0]?.theirs).toHaveLength(158);
    const many = Object.fromEntries(Array.from({ length: 200 }, (_, k) => [`k${k}`, k]));
    expect(plainDifference({}, many)).toHaveLength(60);
  });
  it("a null, an empty text and nothing are one: no difference is told between them", () => {
    expect(plainDifference({ a: null, b: "" }, { b: null })).toEqual([]);
  });
});

describe("what was half-written, as it is taken up again", () => {
  const blank = blankRun();
  it("is itself where the form has not changed since", () => {
    const left = produce(blank, (d) => {
      d.notes = "spray on the port skid";
      d.pack.restingVoltage = 12.4;
      d.measured.push({ metric: "speed", dimension: "speed", measured: null });
      d.eye = { "nose stays down": "held" } as never;
    });
    expect(fitted(blank, JSON.parse(JSON.stringify(left)))).toEqual(JSON.parse(JSON.stringify(left)));
  });
  it("of an earlier release has the fields of this one, and what it cannot be is as a form begins", () => {
    const old = { notes: "kept", pack: "P1", measured: "none", stage: "3", outcome: null, gone: [1] };
    const taken = fitted(blank, old) as unknown as Record<string, unknown>;
    expect(taken.notes).toBe("kept");
    expect(taken.pack).toEqual(blank.pack);
    expect(taken.measured).toEqual(blank.measured);
    expect(taken.stage).toBe(blank.stage);
    expect(taken.conditions).toEqual(blank.conditions);
    for (const key of Object.keys(blank)) expect(taken, key).toHaveProperty(key);
  });
  it("never throws, whatever lies there, and always has the shape of the form", () => {
    fc.assert(
      fc.property(data, (left) => {
        const taken = fitted(blank, left) as unknown as Record<string, unknown>;
        for (const [key, value] of Object.entries(blank)) {
          expect(taken).toHaveProperty(key);
          if (Array.isArray(value)) expect(Array.isArray(taken[key])).toBe(true);
        }
      }),
    );
  });
  it("nothing entered is no difference: empty, null and missing are one, the order of keys another matter", () => {
    expect(differs({ a: "", b: null, c: [1] }, { c: [1] })).toBe(false);
    expect(differs({ a: 1, b: 2 }, { b: 2, a: 1 })).toBe(false);
    expect(differs({ a: 0 }, {})).toBe(true);
    expect(differs({ a: false }, {})).toBe(true);
    expect(differs({ list: [{ x: "" }] }, { list: [] })).toBe(true);
    expect(differs({ nested: { a: "" } }, { nested: {} })).toBe(false);
  });
  it("keys of crafts, versions and forms never run into one another", () => {
    const odd = ["a/b", "a", "b", "", "a b", "ä%2F", "half-written/"];
    const keys = odd.flatMap((x) => odd.flatMap((y) => odd.map((z) => keyOf(x, y, z))));
    expect(new Set(keys).size).toBe(odd.length ** 3);
    for (const k of keys) expect(k.split("/")).toHaveLength(4);
  });
  it("is said by the time today, and by the day otherwise", () => {
    const now = new Date(2026, 2, 4, 18, 30);
    expect(whenSaid(new Date(2026, 2, 4, 3, 7).toISOString(), now)).toBe("at 03:07");
    expect(whenSaid(new Date(2026, 2, 3, 23, 59).toISOString(), now)).toBe("on 3 Mar 2026, 23:59");
  });
});
