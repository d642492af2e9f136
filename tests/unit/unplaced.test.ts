import { readFileSync } from "node:fs";
import { describe, expect, it } from "vitest";
import { openCraftFile } from "../../core/design/openFile";
import { applyPatch } from "../../core/design/patch";
import { AXES, type Axis, type Design, newItem } from "../../core/design/schema";
import { evaluate, findingText, remediesFor } from "../../core/evaluate";
import { partsText, toItems, updateFrom } from "../../core/exchange/partsExchange";
import { readParts } from "../../core/exchange/partsTable";
import { blankPart, duplicateItems } from "../../core/subjects/mass/ledger";
import { overlaps } from "../../core/subjects/mass/clash";
import { withEvidence } from "../../core/subjects/mass/evidence";
import { isPlaced, placesUnsaid, sizePart, unsayPlace } from "../../core/subjects/mass/placed";
import { extent, rollUp } from "../../core/subjects/mass/rollup";
import { moveItem, placeItem } from "../../core/subjects/mass/tree";
import { craft, version } from "../support/records";
import { thingsChanged } from "../../core/lineage/things";
import { buildReport } from "../../core/wording/report";
import { reconcile } from "../../core/bench/reconcile";
import { balance } from "../../core/subjects/balance/solver";
import { walkBack } from "../../core/subjects/balance/walkBack";
import { seededRandom } from "../../core/numeric/random";
import { quietDesign } from "../support/designs";

const demo = (name: string): Design => {
  const opened = openCraftFile(
    JSON.parse(readFileSync(new URL(`../../demo/${name}.json`, import.meta.url), "utf8")) as unknown,
  );
  const design = opened.ok ? opened.file.versions.at(-1)?.design : undefined;
  if (!design) throw new Error(name);
  return design;
};
const at = (id: string, x: number, more: object = {}) =>
  newItem({ id, name: id, mass: { value: 0.1, evidence: "measured" }, place: { x, y: 0, z: 0.05 }, ...more });
const withItems = (...items: ReturnType<typeof at>[]): Design => ({ ...quietDesign(), items });

describe("a place that nobody gave", () => {
  it("is no knowledge: wherever such a part is drawn, not a number and not a verdict changes", () => {
    const random = seededRandom(7);
    const which = ["tern", "samphire", "lantern", "annulus", "gannet"].flatMap((name) =>
      AXES.flatMap((axis) => [3, 1].map((every) => ({ name, axis, every }))),
    );
    for (const { name, axis, every } of which) {
      const design = structuredClone(demo(name));
      const some = design.items.filter((_, k) => k % every === every - 1);
      for (const item of some) unsayPlace(item, axis);
      const moved = structuredClone(design);
      for (const item of moved.items) if (!isPlaced(item, axis)) item.place[axis] += random.uniform() - 0.3;
      const said = (d: Design) => {
        const e = evaluate(d);
        return {
          metrics: e.metrics,
          targets: e.targets,
          findings: e.findings.map((f) => [f.severity, f.about, findingText(f, "metric"), f.figure]),
        };
      };
      expect(said(moved), `${name} ${axis} every ${every}`).toEqual(said(design));
    }
  });
  it("leaves the CG along that axis open, with the parts named, and along the others told", () => {
    const design = withItems(at("Hull", 0.2), at("Camera", 0.5, { unplaced: ["z"] }), at("Motor", 0.6));
    design.brief.targets = [
      { id: "x", metric: "cgX", comparison: "between", value: 0.1, upper: 0.9, weight: "must" },
      { id: "z", metric: "cgZ", comparison: "between", value: 0, upper: 0.1, weight: "must" },
    ];
    const e = evaluate(design);
    expect(e.metrics.cgX?.value).toBeCloseTo(1.3 / 3, 9);
    expect(e.metrics.cgZ).toBeUndefined();
    expect(e.metrics.inertiaPitch).toBeUndefined();
    expect(e.metrics.inertiaYaw).toBeDefined();
    expect(e.targets.map((t) => [t.status, t.because])).toEqual([
      ["met", null],
      ["open", "Camera without a place in z"],
    ]);
    const found = e.findings.find((f) => f.code === "places-unsaid");
    expect(found && findingText(found, "metric")).toBe("The CG along z is open: Camera without a place in z");
  });
  it("takes part in no overlap and in no size", () => {
    const two = [at("A", 0.2), at("B", 0.2)];
    expect(overlaps({ items: two })).toHaveLength(1);
    const unsaid = [at("A", 0.2), at("B", 0.2, { unplaced: ["x", "y", "z"] })];
    expect(overlaps({ items: unsaid })).toEqual([]);
    const far = [at("A", 0.2), at("B", 0.3), at("C", 9, { unplaced: ["x"] })];
    const box = extent({ items: far });
    expect((box?.max.x ?? 0) < 1).toBe(true);
    expect(extent({ items: far }, true)?.max.x).toBeGreaterThan(8.9);
    const { length } = evaluate(withItems(...far)).metrics;
    expect(length?.incomplete).toEqual(["C without a place"]);
  });
  it("gives neither a plan to balance nor a walk back: they say what is missing", () => {
    const design = withItems(
      at("Pack", 0.2, { slide: { from: 0.1, to: 0.4 } }),
      at("Camera", 0.5, { unplaced: ["x"] }),
    );
    expect(balance(design, { sliders: ["Pack"], spots: [], goals: { x: { low: 0.3, high: 0.31 } } })).toEqual({
      status: "noPlace",
      open: "Camera without a place in x",
    });
    expect(
      walkBack(design, {
        itemId: "Pack",
        by: "slide",
        steps: 3,
        stop: 0.5,
        start: null,
        neutral: null,
        records: [],
      } as unknown as Parameters<typeof walkBack>[1]).status,
    ).toBe("noPlace");
    expect(balance(design, { sliders: ["Pack"], spots: [], goals: { z: { low: 0, high: 0.1 } } }).status).toBe(
      "solved",
    );
  });
  it("against statics by hand: the CG of those that have one is that of a ledger without the others' moments", () => {
    const all = [at("A", 0.1), at("B", 0.4), at("C", 0.9, { unplaced: ["x"] })];
    const placed = rollUp({ items: all.slice(0, 2) });
    const mixed = rollUp({ items: all });
    expect(mixed?.cg.x).toBeCloseTo(placed?.cg.x ?? Number.NaN, 12);
    expect(mixed?.cgSd.x).toBeCloseTo(placed?.cgSd.x ?? Number.NaN, 12);
    expect(mixed?.mass).toBeCloseTo(0.3, 12);
    expect(mixed?.placed).toEqual({ x: false, y: true, z: true });
  });
});

describe("a place is said", () => {
  it("by typing it, for that axis alone, also where it is what was drawn already", () => {
    const design = withItems(at("A", 0.2, { unplaced: ["x", "y", "z"] }));
    placeItem(design, "A", { y: 0 });
    expect(design.items[0]?.unplaced).toEqual(["x", "z"]);
    placeItem(design, "A", { x: 0.7, z: 0.1 });
    expect(design.items[0]).toMatchObject({ unplaced: [], place: { x: 0.7, y: 0, z: 0.1 } });
  });
  it("by a weighing along its axis", () => {
    const design = withItems(at("A", 0.2, { unplaced: ["x", "y"] }));
    const next = withEvidence(design, {
      entries: [{ itemId: "A", place: { axis: "x", value: 0.3, sd: 0.001 } }],
      found: [],
    });
    expect(next.items[0]?.unplaced).toEqual(["y"]);
  });
  it("by a remedy that puts it somewhere; the one on the centreline is offered and closes y", () => {
    const design = withItems(at("A", 0.2, { unplaced: ["y"] }), at("B", 0.4, { unplaced: ["y", "z"] }));
    const e = evaluate(design);
    const found = e.findings.find((f) => f.code === "places-unsaid");
    if (!found) throw new Error("not found");
    const [centre] = remediesFor(design, e, found, "metric", {});
    expect(centre?.text).toBe("All 2 sit on the centreline: y 0");
    const after = applyPatch(design, centre?.patch ?? { set: [], addItems: [] });
    expect(after.items.map((i) => i.unplaced)).toEqual([[], ["z"]]);
    expect(evaluate(after).metrics.cgY).toBeDefined();
  });
  it("not by being carried along by what it hangs on", () => {
    const design = withItems(at("A", 0.2), at("B", 0.3, { parentId: "A", unplaced: ["x"] }));
    moveItem(design, "A", { x: 0.1 });
    expect(design.items[1]?.unplaced).toEqual(["x"]);
    expect(placesUnsaid(design.items, "x")).toEqual(["B without a place in x"]);
  });
});

describe("a part that the application made up a place for has none", () => {
  const none: Axis[] = ["x", "y", "z"];
  it("a new row and a copy", () => {
    const design = withItems(at("A", 0.2));
    expect(blankPart(design).unplaced).toEqual(none);
    const [id] = duplicateItems(design, new Set(["A"]));
    expect(design.items.find((i) => i.id === id)?.unplaced).toEqual(none);
  });
  it("a list without heights: ten parts of which nobody gave one leave the CG's height open", () => {
    const text = `part;g;x mm\n${Array.from({ length: 10 }, (_, k) => `P${k};${20 + k};${100 + 10 * k}`).join("\n")}`;
    const design = withItems(...toItems(readParts(text).parts, withItems(), { evidence: "measured" }));
    expect(design.items.every((i) => i.unplaced.join() === "y,z")).toBe(true);
    const { cgX, cgZ, cgY } = evaluate(design).metrics;
    expect(cgX).toBeDefined();
    expect([cgY, cgZ]).toEqual([undefined, undefined]);
  });
  it("and such a list, written and read again, still has none; an update by name says it", () => {
    const design = withItems(at("A", 0.2, { unplaced: ["y", "z"] }), at("B", 0.4));
    const rows = readParts(partsText(design.items, ",")).parts;
    expect(toItems(rows, withItems(), { evidence: "measured" }).map((i) => i.unplaced)).toEqual([["y", "z"], []]);
    const [row] = readParts("part;g;z mm\nA;100;30\n").parts;
    if (!row) throw new Error("no row");
    updateFrom(design, [{ id: "A", name: "A", part: row }], { evidence: "measured" });
    expect(design.items[0]).toMatchObject({ unplaced: ["y"], place: { z: 0.03 } });
  });
});

describe("a size that nobody gave", () => {
  const two = [at("A", 0.2), at("B", 0.21)];
  it("overlaps nothing, and how it is drawn changes no number and no verdict", () => {
    expect(overlaps({ items: two })).toHaveLength(1);
    const design = withItems(at("A", 0.2), at("B", 0.21, { unsized: true }), at("C", 0.6));
    const larger = structuredClone(design);
    for (const i of larger.items) if (i.unsized) i.size = { x: 3, y: 4, z: 5 };
    expect(overlaps(design)).toEqual([]);
    const said = (d: Design) => {
      const { metrics, findings } = evaluate(d);
      return { metrics, findings: findings.map((f) => findingText(f, "metric")) };
    };
    expect(said(larger)).toEqual(said(design));
    expect(said(design).metrics.length?.incomplete).toEqual(["B without a size"]);
    expect(said(design).metrics.inertiaYaw?.incomplete).toEqual(["B without a size"]);
    expect(said(design).metrics.cgX?.incomplete).toBeUndefined();
  });
  it("is that of a new row, and said once somebody gives one edge", () => {
    const part = blankPart(withItems());
    expect(part.unsized).toBe(true);
    sizePart(part, "y", 0.2);
    expect(part).toMatchObject({ unsized: false, size: { y: 0.2 } });
  });
});

describe("a weigh-in", () => {
  it("is held against the ledger along the axes along which every part has a place, and no others", () => {
    const design = withItems(at("A", 0.1), at("B", 0.4, { unplaced: ["y"] }));
    const cg = { x: { value: 0.25, sd: 0.001 }, y: { value: 0.2, sd: 0.001 } };
    const told = reconcile(design, { mass: { value: 0.2, sd: 0.001 }, cg });
    expect(Object.keys(told?.steps.cg ?? {})).toEqual(["x"]);
    expect(told?.suspects.some((s) => s.what === "y")).toBe(false);
    for (const item of design.items) item.unplaced = [];
    expect(Object.keys(reconcile(design, { mass: { value: 0.2, sd: 0.001 }, cg })?.steps.cg ?? {})).toEqual(["x", "y"]);
  });
});

describe("what else tells of places", () => {
  it("a report writes none that nobody gave", () => {
    const file = craft([
      version("v1", null, { design: withItems(at("A", 0.2), at("B", 0.345, { unplaced: ["x", "z"] })) }),
    ]);
    const [v] = file.versions;
    if (!v) throw new Error("no version");
    const row = buildReport(file, v, evaluate(v.design))
      .split("\n")
      .find((line) => line.startsWith("| B"));
    expect(row).toMatch(/not said.*0\.0.*not said/);
    expect(row).not.toContain("345");
  });
  it("between versions nobody knows how the CG moved while a part has no place; the mass is told", () => {
    const from = withItems(at("A", 0.2), at("B", 0.4, { unplaced: ["x"] }));
    const to = withItems(at("A", 0.3), at("B", 0.4, { unplaced: ["x"] }), at("C", 0.5));
    const open = thingsChanged(from, to);
    expect(open.total).toEqual({ mass: expect.closeTo(0.1, 9), cg: null });
    expect(open.things.every((t) => t.cg === null)).toBe(true);
    for (const d of [from, to]) for (const i of d.items) i.unplaced = [];
    expect(thingsChanged(from, to).total.cg).toBeCloseTo(0.4 - 0.3, 9);
  });
  it("a copy of a pair stands behind it and has no place either", () => {
    const design = withItems(at("A", 0.2, { mirrored: true, quantity: 2 }));
    const [id] = duplicateItems(design, new Set(["A"]));
    expect(design.items.find((i) => i.id === id)?.unplaced).toEqual(["x", "y", "z"]);
  });
});
