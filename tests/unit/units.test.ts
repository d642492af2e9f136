import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { plain, show } from "../../core/wording/format";
import { type Dimension, toDisplay } from "../../core/design/units";
import { parseQuantity } from "../../core/design/readQuantity";
import { editable, readField } from "../../web/fields/readField";

const read = (text: string, dimension: Dimension) => {
  const r = parseQuantity(text, dimension);
  return r.ok ? r.value : r.message;
};

describe("typed quantities", () => {
  // Definitions: international yard and pound (1959): 1 lb = 0.45359237 kg, 1 in = 25.4 mm exactly.
  it.each<[string, Dimension, number]>([
    ["7 oz", "mass", 0.198446662],
    ["3.4 lb", "mass", 1.542214058],
    ["120+35 g", "mass", 0.155],
    ["1 lb 8 oz", "mass", 0.680388555],
    ["0,412 kg", "mass", 0.412],
    ["~64 g", "mass", 0.064],
    ["92g", "mass", 0.092],
    ["412", "mass", 0.412],
    ["11.5 in", "length", 0.2921],
    ['4"', "length", 0.1016],
    ["−24", "length", -0.024],
    ["101.2 cm", "length", 1.012],
    ["18 mph", "speed", 8.04672],
    ["2200 mAh", "capacity", 2.2],
    ["8 mohm", "resistance", 0.008],
    ["80 %", "percent", 0.8],
    ["80", "percent", 0.8],
    ["15 min", "time", 900],
    ["90 s", "time", 90],
    ["850 g", "force", 8.3356525],
    ["14 F", "temperature", -10],
    ["1000 ft", "distance", 304.8],
    ["100-30 g", "mass", 0.07],
    ["48:13 × 2.5", "ratio", 9.230769231],
    ["48:12", "ratio", 4],
    ["1.4:1", "ratio", 1.4],
    ["3 * 2 x 1.5", "ratio", 9],
    ["97 × 95 %", "percent", 0.9215],
    ["1 250 mAh", "capacity", 1.25],
    ["32\u202f243 rpm", "rotation", 32243],
    ["1 250+1 250 g", "mass", 2.5],
    ["2×14 g", "mass", 0.028],
    ["2 x 14 g", "mass", 0.028],
    ["3 × 2", "mass", 0.006],
    ["(30+12)/2", "length", 0.021],
    ["(30+12)*2 cm", "length", 0.84],
    ["120 g × 95 %", "mass", 0.114],
    ["½ in", "length", 0.0127],
    ["1½ in", "length", 0.0381],
    ["1 1/2 in", "length", 0.0381],
    // As rulers have them, joined by a hyphen; with spaces, or of anything that no ruler has, it is a difference.
    ["6-3/8 in", "length", 0.161925],
    ['2-1/16"', "length", 0.0523875],
    ["2-3/4 oz", "mass", 0.077961188525],
    ["6 - 3/8 in", "length", 0.142875],
    ["6-9/8 in", "length", 0.123825],
    ["6-1/3 in", "length", 0.143933333333],
    ["1/3 lb", "mass", 0.151197457],
    [`5'6"`, "length", 1.6764],
    ["5 ft 6", "length", 1.6764],
    ["1:14", "time", 74],
    ["1:02:03", "time", 3723],
    ["2m30s", "time", 150],
    ["0:19.6", "stopwatch", 19.6],
    ["1:02,5", "stopwatch", 62.5],
    ["2m30", "time", 150],
    ["1h30", "time", 5400],
    ["8 minutes", "time", 480],
    ["12 rev/s", "rotation", 720],
    ["50 Hz", "rotation", 3000],
    ["20 oz·in", "torque", 0.14123104],
    ["20 oz in", "torque", 0.14123104],
    ["3 kg·cm", "torque", 0.2941995],
    ["120 mm²", "area", 1.2e-4],
    ["30 sq in", "area", 0.0193548],
    ["12 kt", "speed", 6.17333333],
    ["2 miles", "distance", 3218.688],
    ["1 nautical mile", "distance", 1852],
    ["113 g tail", "mass", 0.113],
    ["42 mm (measured)", "length", 0.042],
    ["−6 °C", "temperature", -6],
    ["1300", "capacity", 1.3],
    ["2.2", "capacity", 2.2],
    ["5 Wh/km", "energyPerDistance", 18],
  ])("%s as %s", (text, dimension, expected) => {
    expect(read(text, dimension)).toBeCloseTo(expected, 8);
  });
  it.each<[string, Dimension, RegExp]>([
    ["NaN", "mass", /not a number.*Accepted/],
    ["", "mass", /Empty/],
    ["12 furlongs", "length", /not a unit of length.*mm, cm, m, in, ft/],
    ["1,478", "mass", /two ways.*1478.*1\.478/],
    ["4 5", "mass", /not a number/],
    ["4 50 g", "mass", /not a number/],
    ["48:0", "ratio", /not a product of stages.*48:13/],
    ["3 × apple", "ratio", /not a product of stages/],
    ["2 g × 3 g", "mass", /not multiplied/],
    ["10x4.7", "length", /stamp of a propeller/],
    ["10 × 5 in", "length", /stamp of a propeller/],
    ["12 gr", "mass", /not a unit of mass/],
    ["12 lb", "length", /not a unit of length/],
    ["12 mmm", "length", /not a unit of length/],
    ["12 lb mm", "length", /not a unit of length/],
    ["(3+4", "mass", /bracket is not closed/],
    ["3/0 g", "mass", /zero|too large/],
    ["tail 113 g", "mass", /not a number/],
    ["4 g 5", "mass", /not a number/],
    ["1e999", "mass", /too large/],
  ])("refuses %s as %s and says what would do", (text, dimension, message) => {
    expect(read(text, dimension)).toMatch(message);
  });
  it("says how it read a capacity that can only be in mAh", () => {
    expect(parseQuantity("2200", "capacity")).toEqual({ ok: true, value: 2.2, note: "read as 2200 mAh" });
    expect(parseQuantity("2200 mAh", "capacity")).toEqual({ ok: true, value: 2.2 });
    expect(parseQuantity("99", "capacity")).toEqual({ ok: true, value: 99 });
  });
  it("agrees with plain arithmetic on random sums, products and brackets", () => {
    const expression: fc.Arbitrary<string> = fc.letrec<{ e: string }>((tie) => ({
      e: fc.oneof(
        { maxDepth: 4 },
        fc.integer({ min: 1, max: 99 }).map(String),
        fc.tuple(tie("e"), fc.constantFrom("+", "-", "*"), tie("e")).map(([a, op, b]) => `(${a}${op}${b})`),
        fc.tuple(tie("e"), fc.integer({ min: 1, max: 9 })).map(([a, b]) => `(${a}/${b})`),
      ),
    })).e;
    fc.assert(
      fc.property(expression, (text) => {
        const r = parseQuantity(`${text} g`, "mass");
        // Apart from the product: the language's own arithmetic.
        const wanted = Function(`return ${text}`)() as number;
        // Twelve digits are kept.
        const off = r.ok ? Math.abs(r.value * 1000 - wanted) : Number.NaN;
        expect(off, text).toBeLessThan(1e-9 * Math.abs(wanted) + 1e-5);
      }),
      { numRuns: 300 },
    );
  });
  it("reads back the text that it shows, thousands grouped and all", () => {
    fc.assert(
      fc.property(
        fc.double({ min: 200, max: 1e6, noNaN: true }),
        fc.constantFrom<Dimension>("rotation", "kv", "mass", "force", "current"),
        (v, d) => {
          const back = parseQuantity(plain(v, d, "metric"), d);
          expect(back.ok && Math.abs(back.value / v - 1) < 0.01).toBe(true);
        },
      ),
    );
  });
  it("reads back what it shows, in either habit", () => {
    fc.assert(
      fc.property(
        fc.double({ min: 1e-4, max: 1e4, noNaN: true }),
        fc.constantFrom<Dimension>("mass", "length", "force", "speed", "capacity", "angle"),
        fc.constantFrom("metric" as const, "imperial" as const),
        (v, d, habit) => {
          const shown = toDisplay(v, d, habit);
          // A capacity of a hundred and more without its unit is one in mAh: a field shows it with its unit.
          const back = parseQuantity(d === "capacity" ? `${shown.toFixed(9)} Ah` : shown.toFixed(9), d, habit);
          expect(back.ok && Math.abs(back.value - v) < 1e-6 * Math.max(1, v)).toBe(true);
        },
      ),
    );
  });
});

describe("a time that stands in a field", () => {
  it("is a short number of minutes, or minutes and seconds, and reads back as the very same time", () => {
    expect([12, 88, 90, 74, 720, 0.5, 5401].map((s) => editable(s, "time", "metric"))).toEqual([
      "0.2",
      "1:28",
      "1.5",
      "1:14",
      "12",
      "0.00833333",
      "90.0167",
    ]);
    for (let s = 1; s < 3600; s++)
      expect(readField(editable(s, "time", "metric"), { dimension: "time" }, "metric")).toMatchObject({ value: s });
  });
});

describe("degrees Fahrenheit", () => {
  // By definition t/°F = 1.8 t/°C + 32; the scales meet at −40 (NIST SP 811, B.8, from memory).
  it.each([
    [-40, "−40 °F"],
    [0, "32 °F"],
    [20, "68 °F"],
    [100, "212 °F"],
  ])("%d °C is %s", (celsius, text) => {
    expect(plain(celsius, "temperature", "imperial", 0).replace("\u00a0", " ")).toBe(text);
    expect(parseQuantity(text, "temperature")).toEqual({ ok: true, value: celsius });
    expect(parseQuantity(text.replace(" °F", ""), "temperature", "imperial")).toEqual({ ok: true, value: celsius });
    expect(toDisplay(celsius, "temperature")).toBe(celsius);
  });
  it("a degree sign alone is that of the habit", () => {
    expect(parseQuantity("20°", "temperature")).toEqual({ ok: true, value: 20 });
    expect(parseQuantity("68°", "temperature", "imperial")).toEqual({ ok: true, value: 20 });
  });
  it("grow by nine for each five: of a rise and of a ± nothing is added", () => {
    expect(plain(50, "warmth", "imperial", 0)).toBe("90\u00a0°F");
    expect(plain(50, "warmth", "metric", 0)).toBe("50\u00a0K");
    expect(show(20, 5, "temperature", "imperial")).toEqual({ value: "68", sd: "9", unit: "°F" });
  });
});
