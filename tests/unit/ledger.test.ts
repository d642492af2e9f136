import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { editDesign } from "../../core/design/edit";
import { AXES, type Design, type Item, designSchema } from "../../core/design/schema";
import { overlaps } from "../../core/subjects/mass/clash";
import { blankPart, duplicateItems, freePlace, moveRow, removeItems } from "../../core/subjects/mass/ledger";
import { bodies, extent } from "../../core/subjects/mass/rollup";
import { attachedTo } from "../../core/subjects/mass/tree";
import { blockOf } from "../../web/grid/block";
import { pasteBlock } from "../../web/stations/layout/ledger/pasteBlock";
import { changed, part, quietDesign } from "../support/designs";

const names = (d: Design) => d.items.map((i) => i.name);
const placed = (id: string, x: number, parentId: string | null = null) =>
  part({ id, name: id, place: { x, y: 0, z: 0 }, size: { x: 0.05, y: 0.05, z: 0.05 }, parentId });

describe("a new part", () => {
  it("stands in nothing, and makes the craft no longer", () => {
    const design = quietDesign();
    const before = extent(design);
    for (let k = 0; k < 6; k++) {
      const made = blankPart(design);
      const hit = overlaps({ items: [...design.items.map((i) => ({ ...i, hollow: false })), made] });
      expect(hit.filter((o) => o.a === made.id || o.b === made.id)).toEqual([]);
      design.items.push(made);
    }
    expect(extent(design)).toEqual(before);
    expect(designSchema.safeParse(design).success).toBe(true);
  });
  it("stands behind the craft where nothing is free", () => {
    const full = { items: [part({ id: "block", size: { x: 1, y: 1, z: 1 }, place: { x: 0.5, y: 0, z: 0.5 } })] };
    expect(freePlace(full).x).toBeGreaterThan(1);
  });
});

describe("rows of the ledger", () => {
  it("taken out leave what hung on them where they hung themselves", () => {
    const design = changed((d) => void (d.items = [placed("a", 0), placed("b", 1, "a"), placed("c", 2, "b")]));
    removeItems(design, new Set(["b"]));
    expect(design.items.map((i) => [i.id, i.parentId])).toEqual([
      ["a", null],
      ["c", "a"],
    ]);
    removeItems(design, new Set(["a", "c"]));
    expect(design.items).toEqual([]);
  });
  it("copied stand after their original with a name and a place of their own", () => {
    const design = changed((d) => void (d.items = [placed("a", 0), placed("b", 1)]));
    const made = duplicateItems(design, new Set(["a", "b"]));
    expect(names(design)).toEqual(["a", "a copy", "b", "b copy"]);
    expect(new Set(design.items.map((i) => i.id)).size).toBe(4);
    expect(made).toHaveLength(2);
    expect(overlaps(design)).toEqual([]);
  });
  it("copied are neither weighed nor placed by anybody, and slide nowhere", () => {
    const design = changed((d) => {
      d.items = [placed("a", 0), { ...placed("b", 1), mirrored: true, place: { x: 1, y: 0.2, z: 0 } }];
      for (const i of d.items) i.slide = { from: -1, to: 2 };
    });
    duplicateItems(design, new Set(["a", "b"]));
    const [, a, , b] = design.items;
    expect([a?.mass?.evidence, a?.placeEvidence, a?.slide]).toEqual(["guess", "guess", null]);
    expect(b).toMatchObject({ mirrored: true, place: { y: 0.2 } });
    expect(overlaps(design)).toEqual([]);
    expect(designSchema.safeParse(design).success).toBe(true);
  });
  it("moved go before another, or to the end, and join its group", () => {
    const design = changed(
      (d) => void (d.items = [placed("a", 0), placed("b", 1), { ...placed("c", 2), group: "Tail" }]),
    );
    moveRow(design, "a", "c");
    expect(names(design)).toEqual(["b", "a", "c"]);
    expect(design.items[1]?.group).toBe("Tail");
    moveRow(design, "b", null);
    expect(names(design)).toEqual(["a", "c", "b"]);
  });
});

describe("overlaps", () => {
  const box = fc.record({
    x: fc.double({ min: 0, max: 0.6, noNaN: true }),
    y: fc.double({ min: -0.2, max: 0.2, noNaN: true }),
    z: fc.double({ min: 0, max: 0.2, noNaN: true }),
    long: fc.double({ min: 0.01, max: 0.3, noNaN: true }),
    mirrored: fc.boolean(),
    host: fc.option(fc.nat(20), { nil: null }),
  });
  it("swept from nose to tail are the same as every pair held against every other", () => {
    fc.assert(
      fc.property(fc.array(box, { maxLength: 14 }), (list) => {
        const items: Item[] = list.map((b, k) =>
          part({
            id: `p${k}`,
            place: { x: b.x, y: b.y, z: b.z },
            size: { x: b.long, y: b.long / 2, z: b.long / 3 },
            mirrored: b.mirrored,
            parentId: b.host !== null && b.host < k ? `p${b.host}` : null,
          }),
        );
        const deep = (a: Item, c: Item) =>
          bodies(a).some((p) =>
            bodies(c).some((q) =>
              AXES.every((axis) => (a.size[axis] + c.size[axis]) / 2 - Math.abs(p.place[axis] - q.place[axis]) > 0.002),
            ),
          );
        const wanted = items.flatMap((a, i) =>
          items
            .slice(i + 1)
            .filter((c) => deep(a, c) && !attachedTo(items, a.id).includes(c) && !attachedTo(items, c.id).includes(a))
            .map((c) => `${a.id} ${c.id}`),
        );
        // Where one box holds another whole, both ways of reckoning its depth agree that it is one.
        expect(
          overlaps({ items })
            .map((o) => `${o.a} ${o.b}`)
            .sort(),
        ).toEqual(wanted.sort());
      }),
      { numRuns: 200, seed: 4 },
    );
  });
});

describe("a change of rows", () => {
  it("is checked as the whole would be, and keeps what did not change", () => {
    const design = quietDesign();
    const good = editDesign(design, (d) => {
      const [first] = d.items;
      if (first) first.place.x += 0.01;
    });
    expect(good.ok && good.design.items[1] === design.items[1] && good.design.items[0] !== design.items[0]).toBe(true);
    const bad = editDesign(design, (d) => {
      const second = d.items[1];
      if (second) second.quantity = 0;
    });
    expect(bad).toMatchObject({ ok: false, path: ["items", 1, "quantity"] });
    const loop = editDesign(design, (d) => {
      const [a, b] = d.items;
      if (a && b) [a.parentId, b.parentId] = [b.id, a.id];
    });
    expect(loop.ok).toBe(false);
    const twice = editDesign(design, (d) => void (d.items[1] && (d.items[1].id = d.items[0]?.id ?? "")));
    expect(twice.ok).toBe(false);
  });
});

describe("what is pasted into a list", () => {
  it.each<[string, string[][] | null]>([
    ["12 g", null],
    ["7,5 oz", null],
    ["Hull\t120", [["Hull", "120"]]],
    [
      "Hull;120,5\nPack;80",
      [
        ["Hull", "120,5"],
        ["Pack", "80"],
      ],
    ],
    [
      "Hull, 120\nPack, 80\n",
      [
        ["Hull", "120"],
        ["Pack", "80"],
      ],
    ],
    ["120\n80\n40\r\n", [["120"], ["80"], ["40"]]],
    ["7,5\n8,25", [["7,5"], ["8,25"]]],
    ["Nose, the red one", null],
    ['"a\tb"\t1', [["a\tb", "1"]]],
  ])("%j", (text, block) => expect(blockOf(text)).toEqual(block));

  const columns = [
    {
      id: "quantity",
      head: "n",
      cell: () => null,
      write: (_d: Design, i: Item, text: string) => {
        if (!Number.isInteger(Number(text))) return "a whole number.";
        i.quantity = Number(text);
        return null;
      },
    },
    { id: "sd", head: "±", cell: () => null },
    {
      id: "group",
      head: "group",
      cell: () => null,
      write: (_d: Design, i: Item, text: string) => {
        i.group = text;
        return null;
      },
    },
  ];
  const into = (design: Design, row: string, column: string) => ({
    rows: design.items.map((i) => i.id),
    columns,
    row,
    column,
  });
  it("fills cells to the right and down, passes over what is computed, and adds rows beyond the last", () => {
    const design = quietDesign();
    const [, , , prop, tail] = design.items;
    const done = pasteBlock(
      design,
      [
        ["Screw", "2", "x", "Drive"],
        ["Rudder", "1", "", "Tail"],
        ["Skid", "4", "", "Hull"],
      ],
      into(design, prop?.id ?? "", "name"),
    );
    expect(done).toEqual({ cells: 9, added: 1, refused: [] });
    expect([prop, tail, design.items[5]].map((i) => [i?.name, i?.quantity, i?.group])).toEqual([
      ["Screw", 2, "Drive"],
      ["Rudder", 1, "Tail"],
      ["Skid", 4, "Hull"],
    ]);
  });
  it("names the row and the column of what it cannot take", () => {
    const design = quietDesign();
    const done = pasteBlock(design, [["1"], ["two"]], into(design, design.items[0]?.id ?? "", "quantity"));
    expect(done.refused).toEqual(["row 2, n: a whole number."]);
  });
});
