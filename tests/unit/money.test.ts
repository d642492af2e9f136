import { afterEach, describe, expect, it } from "vitest";
import { readFileSync } from "node:fs";
import { packsText, readPacks } from "../../core/catalogue/packShelf";
import { cheapestTest } from "../../core/faults/rank";
import { type Price, costOf, expected, likely, priceSd } from "../../core/design/price";
import { EUROS, inEuros, signOf, takeMoney, usualPrice } from "../../core/design/money";
import { openCraftFile } from "../../core/design/openFile";
import { parseQuantity } from "../../core/design/readQuantity";
import { designSchema, newItem } from "../../core/design/schema";
import { evaluate } from "../../core/evaluate";
import { holdsAmounts, inCurrency } from "../../core/exchange/currency";
import { partsText, toItems } from "../../core/exchange/partsExchange";
import { guessReading } from "../../core/exchange/partsColumns";
import { readParts } from "../../core/exchange/partsTable";
import { buildReport } from "../../core/wording/report";
import { plain, rangeText } from "../../core/wording/format";
import { evaluateFile, reportFile } from "../../cli/evaluateFile";
import { readField } from "../../web/fields/readField";
import { quietDesign } from "../support/designs";
import { craft, version } from "../support/records";

afterEach(() => takeMoney(EUROS));
const POUNDS = { currency: "GBP", perEuro: 0.85 };
const KRONOR = { currency: "SEK", perEuro: null };

describe("a price as a range", () => {
  it("is as uncertain as a number anywhere in it alike: width over √12 (GUM, ISO/IEC Guide 98-3, 4.3.7)", () => {
    expect(priceSd({ least: 20, most: 30 })).toBeCloseTo(10 / Math.sqrt(12), 12);
    // Against draws: a mean and a deviation of the same uniform numbers.
    const draws = Array.from({ length: 20_000 }, (_, k) => 20 + (10 * (k + 0.5)) / 20_000);
    const mean = draws.reduce((s, x) => s + x, 0) / draws.length;
    const sd = Math.sqrt(draws.reduce((s, x) => s + (x - mean) ** 2, 0) / draws.length);
    expect(expected({ least: 20, most: 30 })).toBeCloseTo(mean, 6);
    expect(priceSd({ least: 20, most: 30 })).toBeCloseTo(sd, 3);
  });
  it("ranges add as independent, single prices as wrong together", () => {
    const range: Price = { least: 20, most: 30 };
    const one: Price = { least: 40, most: 40 };
    expect(
      costOf([
        { price: range, pieces: 1 },
        { price: range, pieces: 1 },
      ]).sd,
    ).toBeCloseTo(priceSd(range) * Math.SQRT2);
    expect(
      costOf([
        { price: one, pieces: 1 },
        { price: one, pieces: 1 },
      ]).sd,
    ).toBeCloseTo(2 * priceSd(one));
    expect(costOf([{ price: range, pieces: 3 }]).value).toBe(75);
  });
  it("19 in 20 sums of such prices lie where it says, by drawing them", () => {
    const list = Array.from({ length: 8 }, (_, k) => ({ price: { least: 5 + k, most: 12 + 3 * k }, pieces: 1 }));
    const { least, most } = likely(costOf(list));
    // A fixed sequence of numbers, spread evenly (Halton, by prime bases).
    const halton = (n: number, base: number) => {
      let [f, r] = [1, 0];
      for (let k = n; k > 0; k = Math.floor(k / base)) {
        f /= base;
        r += f * (k % base);
      }
      return r;
    };
    const bases = [2, 3, 5, 7, 11, 13, 17, 19];
    const count = 4000;
    let inside = 0;
    for (let n = 1; n <= count; n++) {
      const total = list.reduce(
        (s, { price }, k) => s + price.least + halton(n, bases[k] ?? 2) * (price.most - price.least),
        0,
      );
      if (total >= least && total <= most) inside++;
    }
    expect(inside / count).toBeGreaterThan(0.94);
    expect(inside / count).toBeLessThan(0.98);
  });
  it("what somebody pays is never told as one sure number: the craft's cost comes with its doubt", () => {
    const design = quietDesign();
    design.items = [
      newItem({ id: "a", name: "Hull", cost: 20, costMost: 30, quantity: 2 }),
      newItem({ id: "b", name: "Motor", cost: 40, source: "buy" }),
    ];
    const { cost, costToBuy } = evaluate(design).metrics;
    expect(cost?.value).toBe(90);
    expect(cost?.sd).toBeCloseTo(Math.hypot(2 * priceSd({ least: 20, most: 30 }), 0.05 * 40), 9);
    expect(costToBuy?.value).toBe(40);
    expect(costToBuy?.sd).toBeCloseTo(2, 9);
  });
  it("a most below its least, or without one, is refused", () => {
    const design = quietDesign();
    const refused = (change: object) =>
      designSchema.safeParse({ ...design, items: [{ ...newItem({ id: "a", name: "A" }), ...change }] }).success;
    expect(refused({ cost: 20, costMost: 30 })).toBe(true);
    expect(refused({ cost: 20, costMost: 10 })).toBe(false);
    expect(refused({ cost: null, costMost: 10 })).toBe(false);
  });
});

describe("a price as it is typed", () => {
  const read = (text: string) => readField(text, { dimension: "money", empty: "", range: true }, "metric");
  it.each([
    ["25", 25, undefined],
    ["20–30", 20, 30],
    ["20-30", 20, 30],
    ["20 - 30 €", 20, 30],
    ["20 to 30", 20, 30],
    ["20 bis 30 €", 20, 30],
    ["20..30", 20, 30],
    ["1.5–2,25", 1.5, 2.25],
    ["2×12", 24, undefined],
    ["30-5", 25, undefined],
    ["€25", 25, undefined],
  ])("“%s”", (text, value, most) => {
    expect(read(text)).toMatchObject(most === undefined ? { ok: true, value } : { ok: true, value, most });
  });
  it.each(["30–20", "twenty", "20 £", "20 £ to 30 £"])("“%s” is refused in words", (text) => {
    const r = read(text);
    expect(r.ok).toBe(false);
    if (!r.ok) expect(r.message.length).toBeGreaterThan(10);
  });
  it("a field of any other kind reads no range", () => {
    expect(readField("30-20", { dimension: "money" }, "metric")).toMatchObject({ ok: true, value: 10 });
    expect(readField("20-30", { dimension: "mass" }, "metric")).toMatchObject({ ok: true, value: -0.01 });
  });
});

describe("the currency of a workshop", () => {
  it.each([
    ["EUR", "€"],
    ["GBP", "£"],
    ["USD", "$"],
    ["JPY", "¥"],
    ["PLN", "zł"],
    ["SEK", "kr"],
    ["CHF", "CHF"],
  ])("%s is written %s", (code, sign) => expect(signOf(code)).toBe(sign));
  it("its amounts are shown and read in it, and no others", () => {
    takeMoney(POUNDS);
    expect(plain(25, "money", "metric")).toBe("25\u00a0£");
    expect(plain(25, "money", "imperial")).toBe("25\u00a0£");
    expect(parseQuantity("25 £", "money")).toMatchObject({ ok: true, value: 25 });
    expect(parseQuantity("£25", "money")).toMatchObject({ ok: true, value: 25 });
    expect(parseQuantity("25 gbp", "money")).toMatchObject({ ok: true, value: 25 });
    expect(parseQuantity("25 €", "money").ok).toBe(false);
    takeMoney(EUROS);
    expect(parseQuantity("25 €", "money")).toMatchObject({ ok: true, value: 25 });
    expect(parseQuantity("25 £", "money").ok).toBe(false);
  });
  it("a usual price is converted by what its user said a euro is worth, and open where nobody did", () => {
    expect(usualPrice(10)).toBe(10);
    takeMoney(POUNDS);
    expect(usualPrice(10)).toBeCloseTo(8.5);
    expect(inEuros(8.5)).toBeCloseTo(10);
    takeMoney(KRONOR);
    expect(usualPrice(10)).toBeNull();
    expect(inEuros(100)).toBeNull();
  });
  it("the cheapest test is the same one whatever it is counted in", () => {
    const tests = [
      { minutes: 20, cost: 0, risk: "none" as const, powered: false },
      { minutes: 4, cost: 5, risk: "none" as const, powered: false },
      { minutes: 2, cost: 12, risk: "none" as const, powered: false },
    ];
    const inEuro = cheapestTest(tests);
    takeMoney({ currency: "SEK", perEuro: 11 });
    expect(cheapestTest(tests.map((t) => ({ ...t, cost: t.cost * 11 })))).toMatchObject({ minutes: inEuro?.minutes });
  });
});

describe("lists with prices", () => {
  const parts = (text: string) => readParts(text, guessReading(text));
  it.each([
    ["part;mass;price (€)\nHull;100 g;20-30\n", 20, 30, "EUR"],
    ["part;mass;price\nHull;100 g;20–30 €\n", 20, 30, "EUR"],
    ["part;mass;price\nHull;100 g;12,50 €\n", 12.5, null, "EUR"],
    ["part;mass;price\nHull;100 g;£12\n", 12, null, "GBP"],
    ["part;mass;price\nHull;100 g;120 kr SEK\n", 120, null, "SEK"],
    ["part;mass;price\nHull;100 g;3 for 20\n", null, null, null],
    ["part;mass;price\nHull;100 g;30-20 €\n", null, null, null],
  ])("%j", (text, price, most, currency) => {
    expect(parts(text).parts[0]).toMatchObject({ price, priceMost: most, currency });
  });
  it("a price in another currency is not entered as if it were in this one, and that is said", () => {
    const text = "part;mass;price\nHull;100 g;£12\nKeel;20 g;9\n";
    const read = parts(text);
    expect(read.reports.map((r) => r.code)).toContain("currency");
    expect(
      toItems(read.parts, quietDesign(), { evidence: "measured" }).find((i) => i.name === "Hull")?.cost,
    ).toBeNull();
    takeMoney(POUNDS);
    const here = parts(text);
    expect(here.reports.map((r) => r.code)).not.toContain("currency");
    expect(toItems(here.parts, quietDesign(), { evidence: "measured" }).map((i) => i.cost)).toEqual([12, 9]);
  });
  it.each([EUROS, POUNDS, KRONOR])("the ledger's own list comes back with its ranges, in %j", (money) => {
    takeMoney(money);
    const design = quietDesign();
    design.items = [
      newItem({ id: "a", name: "Hull", cost: 20, costMost: 30 }),
      newItem({ id: "b", name: "Keel", cost: 7.5 }),
      newItem({ id: "c", name: "Tape" }),
    ];
    const text = partsText(design.items, ",");
    expect(text.split("\n")[0]).toContain(`Price each (${money.currency})`);
    const back = toItems(parts(text).parts, { ...design, items: [] }, { evidence: "measured" });
    expect(back.map(({ cost, costMost }) => [cost, costMost])).toEqual([
      [20, 30],
      [7.5, null],
      [null, null],
    ]);
  });
  it("a shelf written in euros is not read as pounds", () => {
    const text = "Pack,Chemistry,Cells,Capacity (mAh),Price (EUR)\nP,LiPo,3,2200,20\n";
    expect(readPacks(text).parts[0]?.price).toBe(20);
    takeMoney(POUNDS);
    const { parts: packs, refused } = readPacks(text);
    expect(packs).toEqual([]);
    expect(refused[0]?.reason).toMatch(/EUR/);
    expect(packsText([]).split("\n")[0]).toContain("Price (GBP)");
  });
});

describe("the command line", () => {
  it("says amounts in the currency of the file, by its letters", () => {
    const file = craft([version("v1", null)]);
    file.currency = "GBP";
    const [v] = file.versions;
    if (!v) throw new Error("no version");
    v.design.items = [
      newItem({ id: "a", name: "Hull", mass: { value: 1, evidence: "measured" }, cost: 20, costMost: 30 }),
    ];
    v.design.brief.targets = [{ id: "t", metric: "cost", comparison: "atMost", value: 10, weight: "must" }];
    const told = evaluateFile(JSON.stringify(file), undefined);
    if (!told.ok) throw new Error("not read");
    const output = told.output as {
      results: Record<string, { unit: string; value: number }>;
      targets: { unit: string }[];
      verdicts: { text: string }[];
    };
    expect(output.results.cost).toMatchObject({ unit: "GBP", value: 25 });
    expect(output.results.auw?.unit).toBe("kg");
    expect(output.targets[0]?.unit).toBe("GBP");
    expect(JSON.stringify(output.verdicts)).toContain("£ over the budget");
    const report = reportFile(JSON.stringify(file), undefined);
    expect(report.ok && report.output).toContain("20–30\u00a0£");
  });
});

describe("a craft file", () => {
  const file = () => {
    const made = craft([version("v1", null)]);
    const [v] = made.versions;
    if (!v) throw new Error("no version");
    v.design.items = [newItem({ id: "a", name: "Hull", cost: 20, costMost: 30 })];
    v.design.brief.targets = [{ id: "t", metric: "cost", comparison: "atMost", value: 200, weight: "must" }];
    return made;
  };
  it("of an older release was in euros", () => {
    const old = JSON.parse(readFileSync(new URL("../fixtures/craft-8.json", import.meta.url), "utf8")) as object;
    expect("currency" in old).toBe(false);
    const opened = openCraftFile(old);
    expect(opened.ok && opened.file.currency).toBe("EUR");
  });
  it.each(["eur", "EURO", "", 5, null])("currency %j is refused with what would be accepted", (currency) => {
    const opened = openCraftFile({ ...file(), currency });
    expect(opened.ok).toBe(false);
  });
  it("is converted by the rate that was said: prices, limits, what was spent; there and back it is the same", () => {
    const there = inCurrency(file(), "GBP", 0.85);
    expect(there.currency).toBe("GBP");
    expect(there.versions[0]?.design.items[0]).toMatchObject({ cost: 17, costMost: 25.5 });
    expect(there.versions[0]?.design.brief.targets[0]?.value).toBe(170);
    const back = inCurrency(there, "EUR", 1 / 0.85);
    expect(back).toEqual(file());
  });
  it("without a rate its amounts are left out, not taken as they are", () => {
    const out = inCurrency(file(), "GBP", null);
    expect(out.versions[0]?.design.items[0]).toMatchObject({ cost: null, costMost: null });
    expect(out.versions[0]?.design.brief.targets).toEqual([]);
    expect(holdsAmounts(out)).toBe(false);
    expect(holdsAmounts(file())).toBe(true);
  });
  it("its report writes prices as the ranges that they are", () => {
    const made = file();
    const [v] = made.versions;
    if (!v) throw new Error("no version");
    takeMoney(POUNDS);
    expect(buildReport(made, v, evaluate(v.design), "metric")).toContain("20–30\u00a0£");
    expect(rangeText({ least: 0.75, most: 0.75 }, "money", "metric")).toBe("0.75\u00a0£");
  });
});
