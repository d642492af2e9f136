import { beforeAll, describe, expect, it } from "vitest";
import { demoInBrowser } from "../support/browser";
import { type User, settled } from "../support/page";

const demo = demoInBrowser();
let user: User;
beforeAll(() => {
  user = demo.user();
});

const items = async (slug: string) => (await demo.design(slug)).items;
const focused = () => user.page.evaluate(() => document.activeElement?.getAttribute("aria-label") ?? "");
const into = async (label: string) => {
  await user.page.$eval(`[aria-label="${label}"], [data-number][aria-label$=", ${label}"]`, (e) => {
    e.scrollIntoView({ block: "center" });
    (e as HTMLElement).focus();
  });
};
/** Text as a quick hand sends it. */
const type = (text: string) => user.page.keyboard.type(text, { delay: 12 });
let strokes = 0;
const press = async (...keys: string[]) => {
  for (const key of keys) {
    strokes++;
    await user.page.keyboard.press(key as "Tab", { delay: 5 });
    await new Promise((r) => setTimeout(r, 35));
  }
};
const withKey = async (held: string, key: string) => {
  await user.page.keyboard.down(held as "Control");
  await press(key);
  await user.page.keyboard.up(held as "Control");
};
const pasteHere = (text: string) =>
  user.page.evaluate((t: string) => {
    const data = new DataTransfer();
    data.setData("text/plain", t);
    document.activeElement?.dispatchEvent(
      new ClipboardEvent("paste", { clipboardData: data, bubbles: true, cancelable: true }),
    );
  }, text);

describe("the ledger by keyboard alone", () => {
  it("takes ten parts with mass and place in at most 60 keys beyond their text", async () => {
    await user.open("/");
    await user.fill("Parts you already have", "0 g");
    await user.fill("Name", "Ruff");
    await user.click("Create craft");
    await user.see("What it must do");
    await user.station("2");
    await user.see("No parts yet");
    strokes = 0;
    await press("n");
    for (let k = 0; k < 10; k++) {
      await user.page.waitForFunction(
        (n: number) => document.activeElement?.getAttribute("aria-label") === `Part ${n}, name`,
        {},
        k + 1,
      );
      // Digits and a letter that is a command elsewhere: none of them does anything but be written.
      await type(`Fin ${k} n`);
      await press("Tab", "Tab");
      expect(await focused()).toBe(`Fin ${k} n, predicted each`);
      await type(String(20 + k));
      await press("Tab", "Tab");
      expect(await focused()).toBe(`Fin ${k} n, x`);
      await type(String(100 + 10 * k));
      if (k < 9) await press("Enter");
    }
    await press("Tab");
    expect(strokes).toBeLessThanOrEqual(60);
    await user.saved();
    expect(user.page.url()).toContain("/ruff/v1/layout");
    expect((await items("ruff")).map((i) => [i.name, i.mass?.value, i.place.x])).toEqual(
      Array.from({ length: 10 }, (_, k) => [`Fin ${k} n`, (20 + k) / 1000, (100 + 10 * k) / 1000]),
    );
  });
  it("goes with the arrows from cell to cell, and into the text with F2", async () => {
    await into("Fin 3 n, predicted each");
    await press("ArrowDown", "ArrowRight");
    expect(await focused()).toBe("Fin 4 n, weighed each");
    await press("ArrowUp", "ArrowLeft", "ArrowLeft");
    expect(await focused()).toBe("Fin 3 n, quantity");
    await press("ArrowRight", "F2", "ArrowLeft");
    expect(await focused()).toBe("Fin 3 n, predicted each");
    await type("5");
    await press("Enter");
    await user.saved();
    expect((await items("ruff"))[3]?.mass?.value).toBeCloseTo(0.253, 9);
    await into("Fin 3 n, weighed each");
    await withKey("Control", "z");
    await user.saved();
    expect((await items("ruff"))[3]?.mass?.value).toBeCloseTo(0.023, 9);
  });
  it("fills down, moves, doubles and removes rows, each taken back by one undo", async () => {
    await into("Fin 1 n, predicted each");
    await withKey("Control", "d");
    await user.saved();
    expect((await items("ruff"))[1]?.mass?.value).toBeCloseTo(0.02, 9);
    await into("select Fin 5 n");
    await withKey("Alt", "ArrowUp");
    await user.saved();
    expect((await items("ruff")).map((i) => i.name).slice(3, 6)).toEqual(["Fin 3 n", "Fin 5 n", "Fin 4 n"]);
    await into("select Fin 5 n");
    await withKey("Control", "d");
    await user.page.waitForFunction(() => document.activeElement?.getAttribute("aria-label") === "Fin 5 n copy, name");
    await user.saved();
    expect(await items("ruff")).toHaveLength(11);
    await into("select Fin 5 n copy");
    await press("Delete");
    await user.see("1 part removed");
    await user.saved();
    expect(await items("ruff")).toHaveLength(10);
    await user.click("Undo");
    await user.saved();
    expect(await items("ruff")).toHaveLength(11);
  });
  it("chooses several with Shift, fills and removes them together", async () => {
    const pick = async (name: string, held: "Shift" | "Control") => {
      await user.page.keyboard.down(held);
      await user.page.click(`[data-number][aria-label$="select ${name}"]`);
      await user.page.keyboard.up(held);
    };
    await pick("Fin 6 n", "Control");
    await pick("Fin 9 n", "Shift");
    await user.see("4 chosen");
    await into("Fin 7 n, quantity");
    await withKey("Control", "d");
    await user.saved();
    await user.click("remove");
    await user.see("4 parts removed");
    await user.saved();
    expect((await items("ruff")).map((i) => i.name)).not.toContain("Fin 7 n");
    await user.click("Undo");
    await user.saved();
    expect((await items("ruff")).map((i) => i.name)).toContain("Fin 7 n");
  });
});

describe("a block from a spreadsheet", () => {
  it("goes into the cells that it is pasted on, and adds rows; one undo takes all of it back", async () => {
    const before = await items("ruff");
    await into("Fin 8 n, name");
    await pasteHere("Keel\t1\t41\nSkeg\t2\t0,5 oz\nBow\t1\t12 g");
    await user.see(/9 cells pasted, 1 part added/);
    await user.saved();
    const after = await items("ruff");
    expect(after.slice(-3).map((i) => [i.name, i.quantity, Number(i.mass?.value.toFixed(6))])).toEqual([
      ["Keel", 1, 0.041],
      ["Skeg", 2, 0.014175],
      ["Bow", 1, 0.012],
    ]);
    await user.click("Undo");
    await user.saved();
    expect(await items("ruff")).toEqual(before);
  });
  it("with a cell that cannot be is refused as a whole, in words", async () => {
    const before = await items("ruff");
    await into("Fin 8 n, name");
    await pasteHere("Keel\t1\t41\nSkeg\tmany\t12");
    await user.see(/Nothing was pasted: row 2, n: /);
    expect(await items("ruff")).toEqual(before);
  });
});

describe("a list that is looked through", () => {
  it("is sorted by its heads, found in by words, and shows the columns that are wanted", async () => {
    const order = () =>
      user.page.$$eval("[data-row] [data-col=name] input", (l) => l.map((e) => (e as HTMLInputElement).value));
    const sortBy = (head: string) =>
      user.page.$$eval(
        "[data-grid] th button",
        (l, h) => (l.find((e) => e.textContent?.startsWith(h)) as HTMLElement | undefined)?.click(),
        head,
      );
    await sortBy("weighed");
    await sortBy("predicted");
    const masses = await user.page.$$eval('[data-row] [data-col="predicted"] input', (l) =>
      l.map((e) => Number((e as HTMLInputElement).value)),
    );
    expect(masses.length).toBeGreaterThan(5);
    expect(masses).toEqual(masses.toSorted((a, b) => b - a));
    await user.fill("Find a part", "fin 7");
    await user.see("1 found");
    expect(await order()).toEqual(["Fin 7 n"]);
    await user.fill("Find a part", "");
    await user.click("columns");
    await user.page.waitForSelector('[role="menuitemcheckbox"]');
    await user.page.$$eval('[role="menuitemcheckbox"]', (l) =>
      (l.find((e) => e.textContent?.includes("adds to CG")) as HTMLElement | undefined)?.click(),
    );
    await user.page.keyboard.press("Escape");
    expect(await user.page.$('[data-col="blur"]')).toBeNull();
    await user.page.reload({ waitUntil: "domcontentloaded" });
    await settled(user.page);
    expect(await user.page.$('[data-col="blur"]')).toBeNull();
    expect(await user.page.$('[data-col="z"]')).not.toBeNull();
  });
  it("of a thousand parts draws what is in view, and goes to its end by the keyboard", async () => {
    const file = await demo.exported("ruff");
    const [version] = file.versions;
    if (!version) throw new Error("no version");
    const [first] = version.design.items;
    if (!first) throw new Error("no part");
    version.design.items = Array.from({ length: 1000 }, (_, k) => ({
      ...first,
      id: `m${k}`,
      name: `Piece ${k}`,
      place: { x: (k % 50) / 100, y: Math.floor(k / 50) / 100, z: 0 },
      size: { x: 0.005, y: 0.005, z: 0.005 },
    }));
    file.craft.name = "Knot";
    const { slug } = (await (
      await fetch(`${demo.address()}/api/crafts/import`, {
        method: "POST",
        headers: { "content-type": "application/json" },
        body: JSON.stringify(file),
      })
    ).json()) as { slug: string };
    await user.open(`/craft/${slug}/v1/layout`);
    await user.page.waitForSelector("[data-row]");
    await user.page.waitForFunction(() => document.querySelectorAll("[data-row]").length < 100);
    // On paper all of them stand.
    await user.page.evaluate(() => window.dispatchEvent(new Event("beforeprint")));
    expect(await user.page.$$eval("[data-row]", (l) => l.length)).toBe(1000);
    await user.page.evaluate(() => window.dispatchEvent(new Event("afterprint")));
    await user.page.waitForFunction(() => document.querySelectorAll("[data-row]").length < 100);
    await user.page.$eval(".frame-main", (e) => e.scrollTo(0, e.scrollHeight));
    await user.page.waitForSelector('[data-row="m999"]');
    await into("Piece 999, x");
    await press("ArrowDown");
    // A ledger holds a thousand parts: the one too many is refused in words, and nothing is lost.
    await user.see("Not changed");
    expect(await items(slug)).toHaveLength(1000);
    expect(demo.pageErrors).toEqual([]);
  });
});

describe("the ledger on a phone", () => {
  it("has the weighed mass beside the name", async () => {
    await user.page.setViewport({ width: 390, height: 844 });
    await user.open("/craft/ruff/v1/layout");
    await user.page.waitForSelector("[data-row]");
    const order = await user.page.$$eval("[data-row]:first-of-type td, [data-row] td", (l) =>
      l.slice(0, 4).map((e) => (e as HTMLElement).dataset.col ?? ""),
    );
    expect(order.slice(0, 3)).toEqual(["number", "name", "weighed"]);
  });
});
