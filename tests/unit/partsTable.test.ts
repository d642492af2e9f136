import { readFileSync } from "node:fs";
import { join } from "node:path";
import { describe, expect, it } from "vitest";
import { emptyDesign } from "../../core/design/schema";
import { mergeOf, partsText, toItems, updateFrom } from "../../core/exchange/partsExchange";
import { guessReading, readParts, tableSums } from "../../core/exchange/partsTable";
import { rollUp } from "../../core/subjects/mass/rollup";
import { part, quietDesign } from "../support/designs";

interface Truth {
  format: {
    delimiter: string;
    decimal: string;
    header_line: number;
    columns: Record<string, string>;
    mass_column_is: string;
    default_units: { mass: string; length: string };
  };
  values: Record<string, { value: number | Record<string, number>; tol_rel?: number; tol_abs?: number }>;
  must_report: { line: number; severity: string; reason: string }[];
  parts: {
    line: number;
    name: string;
    qty: number;
    mass_each_kg: number | null;
    x_m: number | null;
    y_m?: number | null;
    z_m?: number | null;
    price?: number;
    source?: string;
  }[];
}
const folder = new URL("../samples/", import.meta.url).pathname;
const truth = JSON.parse(readFileSync(join(folder, "parts-truth.json"), "utf8")) as Record<string, Truth>;

// Three parts lists as builders keep them, with what a careful reader finds in them written beside (parts-truth.json).
describe.each(Object.keys(truth))("%s", (name) => {
  const text = readFileSync(join(folder, name), "utf8");
  const t = truth[name] as Truth;
  const table = readParts(text);
  const sums = tableSums(table.parts);

  it("is understood: separator, decimals, header, columns, units", () => {
    const { reading } = table;
    expect(reading.delimiter).toBe(t.format.delimiter === "tab" ? "\t" : t.format.delimiter);
    expect(reading.decimal).toBe(t.format.decimal);
    expect(reading.headerLine).toBe(t.format.header_line);
    const roles: Record<string, string> = { qty: "quantity" };
    for (const [header, role] of Object.entries(t.format.columns))
      expect(reading.columns.find((c) => c.header === header)?.role, header).toBe(roles[role] ?? role);
    expect(reading.massIs).toBe(t.format.mass_column_is.includes("whole row") ? "row" : "each");
    expect(reading.columns.find((c) => c.role === "x")?.unit).toBe(t.format.default_units.length);
    expect(reading.columns.find((c) => c.role === "mass")?.unit).toBe(t.format.default_units.mass);
  });
  it("gives every part with its numbers", () => {
    expect(table.parts.map((p) => p.line)).toEqual(t.parts.map((p) => p.line));
    for (const p of t.parts) {
      const got = table.parts.find((x) => x.line === p.line);
      expect(got).toMatchObject({
        name: p.name,
        quantity: p.qty,
        price: p.price ?? null,
        ...(p.source === undefined ? {} : { source: p.source }),
      });
      for (const [mine, theirs] of [
        [got?.mass, p.mass_each_kg],
        [got?.x, p.x_m],
        [got?.pair ? 0 : got?.y, p.y_m ?? null],
        [got?.z, p.z_m ?? null],
      ] as const)
        if (theirs === null) expect(mine ?? null, p.name).toBeNull();
        else expect(mine, p.name).toBeCloseTo(theirs, 6);
    }
  });
  it("adds up to the known sums, currencies apart", () => {
    const v = t.values;
    expect(sums.rows).toBe(v.part_rows?.value);
    expect(sums.pieces).toBe(v.pieces?.value);
    expect(sums.withMass).toBe(v.rows_with_mass?.value);
    expect(sums.mass).toBeCloseTo(v.total_mass?.value as number, 5);
    expect(sums.placedMass).toBeCloseTo(v.mass_with_position?.value as number, 5);
    expect(sums.cg?.x).toBeCloseTo(v.cg_x?.value as number, 6);
    if (v.cg_y) expect(sums.cg?.y).toBeCloseTo(v.cg_y.value as number, 6);
    if (v.cg_z) expect(sums.cg?.z).toBeCloseTo(v.cg_z.value as number, 6);
    for (const [currency, amount] of Object.entries((v.price_sums?.value ?? {}) as Record<string, number>))
      expect(sums.prices[currency]).toBeCloseTo(amount, 2);
  });
  it("reports every line that must be reported, with its severity", () => {
    for (const m of t.must_report)
      expect(
        table.reports.some((r) => r.line === m.line && r.severity === m.severity),
        `line ${m.line}: ${m.reason}`,
      ).toBe(true);
    expect(table.reports.filter((r) => r.severity === "error").map((r) => r.line)).toEqual(
      t.must_report.filter((m) => m.severity === "error").map((m) => m.line),
    );
  });
  it("goes into a ledger whose roll-up is the same sum; a part without an x moves nothing", () => {
    const design = emptyDesign("wings");
    design.items = toItems(table.parts, design, { evidence: "datasheet" });
    const r = rollUp(design);
    expect(r?.mass).toBeCloseTo(sums.mass, 9);
    expect(r?.cg.x).toBeCloseTo(sums.cg?.x ?? 0, 9);
  });
});

describe("cells", () => {
  const one = (massCell: string, rest = "") =>
    readParts(`part;qty;mass g;x mm\nA;1;${massCell};100${rest}\nB;1;2,5;1\nC;1;3,5;1`);
  it.each([
    ["1 lb 8 oz", 0.6803886],
    ["0,412 kg", 0.412],
    ["~64 g", 0.064],
    ["ca. 64", 0.064],
    ["120+35", 0.155],
    ["0.34 lb", 0.1542214],
  ])("%s", (cell, kg) => expect(one(cell).parts[0]?.mass).toBeCloseTo(kg, 6));
  it("a number that could be read two ways is dropped and said", () => {
    const table = readParts('part,mass g,x mm\nA,1.5,1\nB,2.5,2\n"C","1,250",3');
    expect(table.reading.decimal).toBe(".");
    expect(table.parts[2]?.mass).toBeNull();
    expect(table.reports.some((r) => r.line === 4 && r.code === "no-mass")).toBe(true);
  });
  it("a quoted line break keeps physical line numbers", () => {
    const table = readParts('part,mass g,x mm\n"A\nlong",5,1\nB,-2,2');
    expect(table.parts[0]).toMatchObject({ line: 2, name: "A\nlong" });
    expect(table.reports.find((r) => r.code === "negative-mass")?.line).toBe(4);
  });
  it("half a piece is refused; NaN, words and nothing are no masses", () => {
    const table = readParts("part;qty;mass;x\nA;0.5;10;1\nB;1;NaN;1\nC;1;heavy;1\nD;1;;1\nE;1;1e999;2");
    expect(table.reports.filter((r) => r.code === "quantity").map((r) => r.line)).toEqual([2]);
    expect(table.parts.map((p) => p.mass)).toEqual([null, null, null, null]);
  });
  it("an empty or absurd text gives no parts and does not throw", () => {
    for (const text of ["", "\n\n", "hello", '"', ";;;\n;;;", "\u0000"])
      expect(readParts(text).parts.filter((p) => p.mass !== null)).toEqual([]);
  });
  it("a slip of unit is noticed", () => {
    const rows = Array.from({ length: 6 }, (_, i) => `P${i},10,${100 + i}`).join("\n");
    expect(
      readParts(`part,mass g,x mm\n${rows}\nfar,10,9000`).reports.some(
        (r) => r.code === "far-out" && r.text === "far, x",
      ),
    ).toBe(true);
    const gannet = readParts(readFileSync(join(folder, "parts-gannet.csv"), "utf8"));
    expect(gannet.reports.filter((r) => r.code === "far-out").map((r) => r.text)).toEqual(["Float foil 45°, y"]);
  });
});

describe("own parts list", () => {
  const items = [
    part({
      id: "a",
      name: 'Hull, left; "thin"',
      group: "Hull",
      quantity: 2,
      mass: { value: 0.1234, evidence: "measured" },
      place: { x: 0.1, y: 0.05, z: 0.02 },
      mirrored: true,
      cost: 4.5,
    }),
    part({ id: "b", name: "=SUM(A1)", mass: null, place: { x: 0.25, y: -0.01, z: 0 } }),
  ];
  it.each([",", "\t"] as const)("written with %j is read back with the same numbers", (delimiter) => {
    const text = partsText(items, delimiter);
    expect(guessReading(text).delimiter).toBe(delimiter);
    const [a, b] = readParts(text).parts;
    expect(a).toMatchObject({ name: 'Hull, left; "thin"', group: "Hull", quantity: 2, pair: true, price: 4.5 });
    expect(a?.mass).toBeCloseTo(0.1234, 9);
    expect([a?.x, a?.y, a?.z]).toEqual([0.1, 0.05, 0.02]);
    expect(b).toMatchObject({ mass: null, x: 0.25, y: -0.01 });
  });
  it("a name that looks like a formula is written as text", () => {
    expect(partsText(items, ",")).toContain("'=SUM(A1)");
  });
});

describe("a list of parts that are there already", () => {
  it("updates them by name, keeps what it does not say, and leaves the others to be added", () => {
    const design = quietDesign();
    const text = "part;qty;mass g;x mm\n HULL ;1;512;\nRudder;2;14;700\ntail;1;;610";
    const { same, others } = mergeOf(readParts(text).parts, design);
    expect(same.map((s) => s.name)).toEqual([design.items[0]?.name, design.items[4]?.name]);
    expect(others.map((p) => p.name)).toEqual(["Rudder"]);
    const [hull, , , , tail] = structuredClone(design.items);
    updateFrom(design, same, { evidence: "measured" });
    expect(design.items[0]).toMatchObject({ mass: { value: 0.512, evidence: "measured" }, place: hull?.place });
    expect(design.items[4]).toMatchObject({ mass: tail?.mass, place: { ...tail?.place, x: 0.61 }, group: tail?.group });
  });
  it("that says nothing of quantities leaves them, and shares a row's mass among them", () => {
    const one = () => {
      const design = quietDesign();
      if (design.items[0]) design.items[0].quantity = 2;
      return design;
    };
    const { same } = mergeOf(readParts("part;mass g\nhull;188").parts, one());
    const each = one();
    updateFrom(each, same, { evidence: "measured" });
    expect(each.items[0]).toMatchObject({ quantity: 2, mass: { value: 0.188 } });
    const row = one();
    updateFrom(row, same, { evidence: "measured", massIs: "row" });
    expect(row.items[0]).toMatchObject({ quantity: 2, mass: { value: 0.094 } });
  });
  it("takes a name that stands twice for no name", () => {
    const design = quietDesign();
    expect(mergeOf(readParts("part;mass g\nhull;1\nhull;2").parts, design).same).toEqual([]);
  });
});

describe("the sides of a list", () => {
  const y = (head: string) => readParts(`part;mass g;aft [in];${head}\nFin;10;5;2\nRod;4;7;-1`).parts.map((p) => p.y);
  it.each(["right [in]", "to starboard, in", "rechts in", "y [in]"])("%s counts to starboard", (head) => {
    expect(y(head).map((v) => Number(v?.toFixed(4)))).toEqual([0.0508, -0.0254]);
  });
  it.each(["left [in]", "port, in", "links in"])("%s counts to port, and is turned round", (head) => {
    expect(y(head).map((v) => Number(v?.toFixed(4)))).toEqual([-0.0508, 0.0254]);
  });
  it("“aft” alone is x", () => {
    expect(readParts("part;mass g;aft [in];left [in]\nFin;10;5;2").parts[0]?.x).toBeCloseTo(0.127, 6);
  });
});
