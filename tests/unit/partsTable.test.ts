import { readFileSync } from "node:fs";
import { join } from "node:path";
import { describe, expect, it } from "vitest";
import { emptyDesign } from "../../core/design/schema";
import { mergeOf, partsText, toItems, updateFrom } from "../../core/exchange/partsExchange";
import { guessReading } from "../../core/exchange/partsColumns";
import { readParts, tableSums } from "../../core/exchange/partsTable";
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
    expect(table.reports.some((r) => r.line === 4 && r.code === "two-ways")).toBe(true);
  });
  it("so is one with a point in grams where nothing shows that a point is the decimal sign", () => {
    const read = (text: string) => readParts(text).parts.map((p) => p.mass);
    expect(read("Name;Masse (g);X (mm)\nRumpf;1.250;455\nMotor;118;852")).toEqual([null, 0.118]);
    expect(read("Name;Masse;X (mm)\nRumpf;1.250 g;455\nMotor;118 g;852")).toEqual([null, 0.118]);
    expect(read("name,mass g,x mm\nhull,1.250,455\nmotor,118.5,852")).toEqual([0.00125, 0.1185]);
    expect(read("name,mass g,x mm\nwire,1.250,455\nring,2.310,852")).toEqual([0.00125, 0.00231]);
    expect(read("name,mass kg,x mm\nhull,1.250,455\nmotor,2,852")).toEqual([1.25, 2]);
  });
  // Masses (g), quantities and places (mm) that each of them says, whatever the language of its head.
  it.each([
    [
      "Peça;Qtd;Massa (g);X (mm)\nMotor;2;86,5;120\nBateria;1;262;340\nTotal;;435,0;\n",
      "2 × 86.5 at 120, 1 × 262 at 340",
    ],
    [
      "Nazwa\tIlość\tMasa [g]\tx [mm]\nSilnik\t1\t58\t20\nPakiet\t1\t180,4\t150\nRazem\t\t238,4\t\n",
      "1 × 58 at 20, 1 × 180.4 at 150",
    ],
    ["Del;Antal;Vikt;Läge\nMotor;1;120 g;35 cm\nBatteri;2;0,45 kg;0,2 m\n", "1 × 120 at 350, 2 × 450 at 200"],
    ["Díl;Kusů;Hmotnost g;X mm\nMotor;1;1 250,5;30\nBaterie;2;300;60\n", "1 × 1250.5 at 30, 2 × 300 at 60"],
    ["Nombre;Cantidad;Peso (g);Brazo (mm)\nMotor;1;120;35\nServo;4;9,5;300\n", "1 × 120 at 35, 4 × 9.5 at 300"],
    ["Деталь;Кол-во;Масса, г;X, мм\nМотор;1;120;35\nСерво;2;9;300\nИтого;;138;\n", "1 × 120 at 35, 2 × 9 at 300"],
    [
      "部品,数量,質量(g),位置X(mm)\nモーター,1,55,20\nバッテリー,2,180,150\n合計,,415,\n",
      "1 × 55 at 20, 2 × 180 at 150",
    ],
    // A head in words that are not known here: units in the cells, whole numbers that are mostly one.
    [
      "Osat;Luku;Punnus;Kohta\nMoottori;1;120 g;35 mm\nAkku;2;260 g;150 mm\nServo;1;9 g;10 mm\n",
      "1 × 120 at 35, 2 × 260 at 150, 1 × 9 at 10",
    ],
    // No head, rows counted in front.
    ["1,Motor,120,35\n2,Battery,260,150\n3,Servo,9,300\n", "1 × 120 at 35, 1 × 260 at 150, 1 × 9 at 300"],
    ["Part,Qty,Wt (oz),Sta (in)\nMotor,1,2,1 1/4\nBattery,2,9.25,6-3/8\n", "1 × 56.7 at 31.8, 2 × 262.2 at 161.9"],
    ['Item,Weight,Arm\nHull,2 lb 3 oz,12.5\nMotor,"5.5 oz","3.2"""\n', "1 × 992.2 at 317.5, 1 × 155.9 at 81.3"],
    [
      "| Part | g | x mm |\n|---|---:|---:|\n| Motor | 120 | 35 |\n| Pack | 300 | 135 |\n",
      "1 × 120 at 35, 1 × 300 at 135",
    ],
    // A sum under another name stands nowhere and weighs what the others do.
    ["Part,Qty,g,x mm\nMotor,1,120,35\nPack,2,100,90\nAll up,,320,\n", "1 × 120 at 35, 2 × 100 at 90"],
  ])("reads what is meant: %j", (text, expected) => {
    const n = (si: number | null) => Number(((si ?? Number.NaN) * 1000).toFixed(1));
    expect(
      readParts(text)
        .parts.map((p) => `${p.quantity} × ${n(p.mass)} at ${n(p.x)}`)
        .join(", "),
    ).toBe(expected);
  });
  it("a part that weighs what two others do and has its place is a part", () => {
    const table = readParts("Part,Qty,g,x mm\nMotor,1,120,35\nController,1,60,90\nPack,1,180,150\n");
    expect(table.parts).toHaveLength(3);
    // A length under a head that is known to be of something else is no place, a few whole numbers no quantity, words
    // no place.
    const roles = (text: string) =>
      guessReading(text)
        .columns.map((c) => c.role)
        .join(" ");
    expect(roles("Part,Mass g,Diameter (mm)\nMotor,120,28\nWheel,9,40\n")).toBe("name mass ignore");
    expect(roles("Part,Mass g,in stock\nMotor,120,1\nWheel,9,2\n")).toBe("name mass ignore");
    expect(roles("Part,Mass g,Channel\nServo,9,1\nServo left,9,1\nESC,40,3\n")).toBe("name mass ignore");
    expect(roles("Part,Mass g,Composition\nSpar,9,carbon\nRib,2,balsa\n")).toBe("name mass ignore");
    expect(roles("部品,質量(g),位置X(mm),位置Y(mm)\nモーター,55,20,5\nサーボ,9,150,0\n")).toBe("name mass x y");
    expect(roles("Part,UnitMass,X\nSpar,9,20\nRib,2,30\n")).toBe("name mass x");
    // A part number counts nothing.
    expect(readParts("Part no,Name,Mass g\n17,Motor,120\n18,Pack,260\n").parts.map((p) => p.quantity)).toEqual([1, 1]);
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
