import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { type ListColumn, clean, complaint, listText, numberIn, readList } from "../../core/catalogue/listTable";

type Role = "name" | "mass" | "length" | "notes";
const COLUMNS: ListColumn<Role>[] = [
  { role: "name", title: "Name", named: /^(name|part)$/i },
  { role: "mass", title: "Mass (g)", named: /^(mass|weight)$/i, dimension: "mass", unit: "g" },
  { role: "length", title: "Length (mm)", named: /^(length|l)$/i, dimension: "length", unit: "mm" },
  { role: "notes", title: "Notes", named: /^notes?$/i },
];
const read = (text: string) => readList(text, COLUMNS, ["name", "mass"]);

describe("a list of parts as people keep it", () => {
  it.each([
    ["commas", "Name,Mass (g),Length (mm)\nFin,12.5,180"],
    ["semicolons and decimal commas", "Name;Mass (g);Length (mm)\nFin;12,5;180"],
    ["tabs", "Name\tMass (g)\tLength (mm)\nFin\t12.5\t180"],
    ["square brackets", "name,mass [g],length [mm]\nFin,12.5,180"],
    ["other words and another order", "l (mm),part,weight (g)\n180,Fin,12.5"],
    ["units of their own", "Part,Weight (kg),L (cm)\nFin,0.0125,18"],
    ["units in the cells", "part,mass,length\nFin,12.5 g,180 mm"],
    ["ounces and inches in the cells", "part,mass,length\nFin,0.440925 oz,7.0866 in"],
    [
      "a mark of its encoding, empty lines, columns nobody knows",
      "\uFEFF\n\nName,Colour,Mass (g),Length (mm)\n\nFin,red,12.5,180\n\n",
    ],
    ["bare numbers by the usual unit", "part,mass,length\nFin,12.5,180"],
  ])("%s", (_what, text) => {
    const { rows, refused } = read(text);
    expect(refused).toEqual([]);
    expect(rows).toHaveLength(1);
    expect(rows[0]?.wrong).toBeNull();
    expect(rows[0]?.text.name).toBe("Fin");
    expect(rows[0]?.number.mass).toBeCloseTo(0.0125, 6);
    expect(rows[0]?.number.length).toBeCloseTo(0.18, 5);
  });
  it("a column that is needed and missing is named, with the line of the header", () => {
    expect(read("\n\nName,Length (mm)\nFin,180")).toEqual({
      rows: [],
      refused: [{ line: 3, reason: expect.stringContaining("“Mass (g)”") }],
    });
    expect(read("").refused).toHaveLength(1);
  });
  it("what cannot be read is said with its column and line, and the rest of the list goes on", () => {
    const { rows } = read("Name,Mass (g)\nFin,heavy\nRod,7\nTube,3 V");
    expect(rows.map((r) => [r.line, r.wrong === null])).toEqual([
      [2, false],
      [3, true],
      [4, false],
    ]);
    expect(rows[0]?.wrong).toMatch(/^Mass \(g\): /);
    expect(rows[0]?.number.mass).toBeUndefined();
  });
  it("an empty cell is not zero", () => {
    expect(read("Name,Mass (g),Length (mm)\nFin,,180").rows[0]?.number).toEqual({ length: 0.18 });
  });
  it("never throws, whatever it is given", () => {
    fc.assert(
      fc.property(fc.string({ maxLength: 200 }), (text) => {
        const { rows, refused } = read(text);
        expect(Array.isArray(rows)).toBe(true);
        expect(refused.length).toBeLessThanOrEqual(1);
      }),
    );
  });
  it("goes out and comes in again as it was, whatever stands in its texts", () => {
    const word = fc
      .string({ minLength: 1, maxLength: 20 })
      .filter((s) => s.trim() === s && !/[\r\n]/.test(s) && s !== "");
    fc.assert(
      fc.property(
        fc.array(fc.tuple(word, fc.double({ min: 0.1, max: 5000, noNaN: true })), { minLength: 1, maxLength: 6 }),
        (list) => {
          const text = listText(
            COLUMNS,
            list.map(([name, grams]) => [name, clean(grams), null, "–"]),
          );
          const { rows, refused } = read(text);
          expect(refused).toEqual([]);
          expect(rows).toHaveLength(list.length);
          for (const [k, [name, grams]] of list.entries()) {
            // What a spreadsheet would run goes out marked, and is read with its mark.
            expect(rows[k]?.text.name?.replace(/^'/, "")).toBe(name.replace(/^'/, ""));
            expect(rows[k]?.number.mass).toBeCloseTo(grams / 1000, 7);
          }
        },
      ),
      { numRuns: 60 },
    );
  });
  it("marks what a spreadsheet would run as a formula", () => {
    expect(listText(COLUMNS, [["=2+5", 1, 2, "@cmd"]])).toContain("'=2+5");
    expect(listText(COLUMNS, [["=2+5", 1, 2, "@cmd"]])).toContain("'@cmd");
  });
  it("numbers by themselves, and the dust of conversions", () => {
    expect([numberIn("1,5"), numberIn("2.5"), numberIn(undefined), numberIn("x")]).toEqual([
      1.5,
      2.5,
      null,
      Number.NaN,
    ]);
    expect(clean(0.1 + 0.2)).toBe(0.3);
    expect(complaint({ path: ["mass"], message: "above zero" })).toBe("mass: above zero");
    expect(complaint(undefined)).toBe("row: cannot be read");
  });
});
