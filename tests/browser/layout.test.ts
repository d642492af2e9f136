import { join } from "node:path";
import type { ElementHandle } from "puppeteer-core";
import { beforeAll, describe, expect, it } from "vitest";
import { demoInBrowser } from "../support/browser";
import type { User } from "../support/page";
import { root } from "../support/spawn";

const demo = demoInBrowser();
const { downloaded, exported, pageErrors } = demo;
let user: User;
beforeAll(() => {
  user = demo.user();
});

const items = async (slug: string) => (await demo.design(slug)).items;
const cgX = async () => Number((await user.read('[data-metric="cgX"]')).split(" ")[0]);

describe("a parts list into an empty craft", () => {
  it("is understood, shows what it refuses and why, and is added", async () => {
    await user.go("/");
    await user.fill("Parts you already have", "0 g");
    await user.fill("Name", "Dunlin");
    await user.click("Create craft");
    await user.see("What it must do");
    await user.station("2");
    await user.see("No parts yet");
    await user.click("import a list");
    const input = (await user.page.waitForSelector(
      'input[aria-label="Parts list file"]',
    )) as ElementHandle<HTMLInputElement>;
    await input.uploadFile(join(root, "tests/samples/parts-gannet.csv"));
    await user.see(/30 parts, 42 pieces, 4378 g/);
    await user.see(/line 21: a mass of “-120,0 g” cannot be: the row is refused/);
    await user.see(/line 14: “Zwischensumme foils” is a sum of other rows/);
    await user.click("Add 30 parts");
    await user.see("30 parts from the list, 1 row refused");
    await user.saved();
    const list = await items("dunlin");
    expect(list).toHaveLength(30);
    expect(list.reduce((s, i) => s + (i.mass?.value ?? 0) * i.quantity, 0)).toBeCloseTo(4.378, 9);
    expect(Math.abs((await cgX()) - 742.3)).toBeLessThan(1);
  });
  it("a wrongly guessed column is corrected before anything is imported", async () => {
    await user.click("import a list");
    const area = await user.page.waitForSelector('textarea[aria-label="Rows of a parts list"]');
    await area?.type("part;arm mm;g\nlead;20;30");
    await user.see(/1 part, 1 piece, 30 g, CG at 20\.0 mm/);
    await user.choose("Column 3 unit", "oz");
    await user.see(/1 part, 1 piece, 850 g/);
    await user.click("Cancel");
    expect(await items("dunlin")).toHaveLength(30);
  });
  it("a sentence is parted into rows, which are looked at before they are added", async () => {
    await user.click("import a list");
    const area = await user.page.waitForSelector('textarea[aria-label="Rows of a parts list"]');
    await area?.type("113g skid, 300 lining and 2x14 g wheels at 40 mm");
    await user.see("Read as a sentence");
    await user.see(/3 parts, 4 pieces, 441 g, CG of the 28 g that have a place at 40\.0 mm/);
    await user.click("Cancel");
  });
  it("rows pasted from a spreadsheet open the same step", async () => {
    await user.page.evaluate(() => {
      const data = new DataTransfer();
      data.setData("text/plain", "Part\tMass g\tx mm\nPasted lead\t12\t100\nOther lead\t8\t120");
      document
        .querySelector('[aria-label="Parts"]')
        ?.dispatchEvent(new ClipboardEvent("paste", { clipboardData: data, bubbles: true }));
    });
    await user.see("2 parts, 2 pieces, 20 g");
    await user.click("Add 2 parts");
    await user.saved();
    expect((await items("dunlin")).slice(-2).map((i) => [i.name, i.mass?.value, i.place.x])).toEqual([
      ["Pasted lead", 0.012, 0.1],
      ["Other lead", 0.008, 0.12],
    ]);
  });
  it("the ledger and the drawing go out as CSV and SVG", async () => {
    await user.click("save CSV");
    expect(await downloaded("dunlin-v1-parts.csv")).toContain("Pasted lead");
    await user.click("save SVG");
    const svg = await downloaded("dunlin-drawing.svg");
    expect(svg).toMatch(/^<svg[^>]+width="\d+(\.\d+)?mm"/);
    expect(svg).not.toContain("var(--");
    expect((svg.match(/<rect/g) ?? []).length).toBeGreaterThan(50);
  });
});

describe("Layout of the demo craft", () => {
  it("groups carry subtotals that add up; the other sheets show cost and shares", async () => {
    await user.go("/craft/tern/v5/layout");
    await user.page.waitForSelector("[data-group]");
    const weighed = await user.page.$$eval("[data-group], [data-total]", (rows) =>
      rows.map((r) => Number((r.children[5]?.textContent ?? "").replace(/[^\d.]/g, ""))),
    );
    const sum = weighed.slice(0, -1).reduce((a, b) => a + b, 0);
    expect(Math.abs(sum - (weighed.at(-1) ?? 0))).toBeLessThan(4);
    await user.click("shares and leverage");
    await user.see("1 g here costs at the nose");
    await user.click("making and cost");
    await user.see("minutes to make");
    await user.click("mass and place");
  });
  it("a part drags what hangs on it; a size is dragged by its face", async () => {
    const before = await items("tern");
    const x = (list: typeof before, id: string) => list.find((i) => i.id === id)?.place.x ?? 0;
    await user.page.$eval('[data-part="motor"][data-view="side"]', (e) => (e as SVGElement).focus());
    await user.page.keyboard.press("ArrowRight");
    await user.saved();
    const after = await items("tern");
    for (const id of ["motor", "shaft", "prop"]) expect(x(after, id) - x(before, id)).toBeCloseTo(0.001, 9);
    expect(x(after, "hull")).toBe(x(before, "hull"));
    const handle = await user.page.waitForSelector('[data-handle="x+"]');
    const box = await handle?.boundingBox();
    if (!box) throw new Error("no handle");
    await user.page.mouse.move(box.x + 3, box.y + 3);
    await user.page.mouse.down();
    await user.page.mouse.move(box.x + 23, box.y + 3, { steps: 5 });
    await user.page.mouse.up();
    await user.saved();
    const sized = (await items("tern")).find((i) => i.id === "motor");
    const was = after.find((i) => i.id === "motor");
    expect(sized?.size.x).toBeGreaterThan((was?.size.x ?? 0) + 0.01);
    expect((sized?.place.x ?? 0) - (sized?.size.x ?? 0) / 2).toBeCloseTo(
      (was?.place.x ?? 0) - (was?.size.x ?? 0) / 2,
      6,
    );
    for (let k = 0; k < 2; k++) await user.click("Undo");
    await user.saved();
  });
  it("Escape puts back a part that is being dragged; clicks at one place take one part after another", async () => {
    const before = await items("tern");
    const rect = await user.page.waitForSelector('[data-part="pack"][data-view="side"] rect');
    await rect?.evaluate((e) => e.scrollIntoView({ block: "center" }));
    const box = await rect?.boundingBox();
    if (!box) throw new Error("no pack");
    const [x, y] = [box.x + box.width / 2, box.y + box.height / 2];
    await user.page.mouse.move(x, y);
    await user.page.mouse.down();
    await user.page.mouse.move(x - 60, y, { steps: 6 });
    await user.page.keyboard.press("Escape");
    await user.page.mouse.move(x - 80, y, { steps: 3 });
    await user.page.mouse.up();
    await user.saved();
    expect((await items("tern")).map((i) => i.place)).toEqual(before.map((i) => i.place));
    const seen = new Set<string>();
    for (let k = 0; k < 4; k++) {
      const part = () => new URL(user.page.url()).searchParams.get("part") ?? "";
      const was = part();
      await user.page.mouse.click(x, y);
      // A part that was selected already changes nothing in the address.
      await user.page
        .waitForFunction((p) => new URL(location.href).searchParams.get("part") !== p, { timeout: 2000 }, was)
        .catch(() => {});
      seen.add(part());
    }
    expect(seen.size).toBeGreaterThan(1);
  });
  it("the solver's ways preview and apply; what is out of reach is said with the nearest point", async () => {
    await user.go("/craft/tern/v5/layout?sheet=balance");
    await user.see("Move Battery, 3 cells, large 65 mm forward");
    await user.fill("CG goal x", "345");
    await user.page.waitForFunction(() => document.querySelectorAll("[data-way]").length >= 2);
    await user.fill("CG goal z", "20");
    await user.see("Out of reach");
    await user.see(/The nearest point is x/);
    await user.fill("CG goal z", "");
    await user.fill("CG goal x", "340");
    await user.page.waitForFunction(() => !document.querySelector("[data-infeasible]"));
    const apply = await user.page.waitForSelector("[data-way] button");
    await apply?.click();
    await user.saved();
    expect(Math.abs((await cgX()) - 340)).toBeLessThan(1);
    await user.click("Undo");
    await user.saved();
  });
  it("plans the walk back to a stop line", async () => {
    await user.go("/craft/tern/v5/layout?sheet=walk");
    await user.choose("Part to walk with", "Battery");
    await user.fill("Stop line", "347");
    await user.fill("Steps", "2");
    await user.page.waitForFunction(() => document.querySelectorAll("[data-step]").length === 2);
    await user.saved();
    expect((await demo.design("tern")).walkBack).toMatchObject({ stop: 0.347, steps: 2, itemId: "pack" });
  });
  it("lays an outline under the side view and refuses what is none", async () => {
    await user.go("/craft/tern/v5/layout?sheet=drawing");
    const area = await user.page.waitForSelector('textarea[aria-label="SVG path"]');
    await area?.type("<script>");
    await user.click("Lay it under");
    await user.see("This is not an SVG path");
    await area?.evaluate((e) => (e as HTMLTextAreaElement).select());
    await area?.type("M0 10 L100 0 L100 20 Z");
    await user.click("Lay it under");
    await user.page.waitForSelector("[data-outline]");
    await user.fill("Outline 1, spans", "800");
    await user.saved();
    expect((await demo.design("tern")).outlines[0]?.scale).toBeCloseTo(0.008, 6);
  });
});

describe("a weigh-in", () => {
  it("tells mass and CG, is kept, and names what the ledger has wrong", async () => {
    await user.go("/craft/dunlin/v1/bench?new=two-scales");
    await user.fill("Support 1, x", "300");
    await user.fill("Support 2, x", "1000");
    await user.click("Keep this session");
    await user.see("Not complete: at least one reading");
    // 4398 g at 739.4 mm by the ledger; the craft is 150 g heavier about the rudder: 4548 g at 757 mm.
    const [total, x] = [4.548, 0.757];
    const rear = (total * (x - 0.3)) / 0.7;
    for (const [k, load] of [total - rear, rear].entries())
      for (const [r, off] of [0, 1, -1].entries())
        await user.fill(`Scale ${k + 1}, reading ${r + 1}`, `${Math.round(load * 1000) + off} g`);
    await user.see(/CG aft of datum.*757/s);
    await user.click("Keep this session");
    await user.see("B-01 kept.");
    await user.see("Reconciled with the ledger");
    expect(await user.read('[data-weighed="auw"]')).toMatch(/4548/);
    const before = await items("dunlin");
    const accept = await user.page.waitForSelector("[data-suspect] button");
    const id = await accept?.evaluate((e) => e.closest("[data-suspect]")?.getAttribute("data-suspect"));
    await accept?.click();
    await user.see(/Taken over: /);
    const after = (await items("dunlin")).find((i) => i.id === id);
    const was = before.find((i) => i.id === id);
    expect([after?.mass?.value, after?.place]).not.toEqual([was?.mass?.value, was?.place]);
    expect((await exported("dunlin")).bench).toHaveLength(1);
  });
  it("goes stale when the ledger changes, and says what changed", async () => {
    await user.station("2");
    await user.fill("Varnish, predicted each", "30 g");
    await user.saved();
    await user.station("5");
    await user.see(/Stale: the ledger has changed since \(Varnish/);
  });
  it("adds evidence to a frozen version without opening a draft; the runs keep what was predicted", async () => {
    const runs = (await exported("samphire")).runs;
    await user.go("/craft/samphire/v1/bench?session=2");
    await user.see(/Undecided: \d+ entries explain it about equally/);
    const accept = await user.page.waitForSelector("[data-suspect] button");
    await accept?.click();
    await user.see(/Taken over: /);
    const file = await exported("samphire");
    expect(file.versions.map((v) => v.label)).toEqual(["v1", "v2"]);
    expect(file.runs).toEqual(runs);
  });
  it("weighed parts go into the ledger with their predictions kept beside them", async () => {
    await user.go("/craft/tern/v5/bench?new=parts");
    await user.fill("Fin and tailplane, reading 1", "131 g");
    await user.click("Keep this session");
    await user.see("kept.");
    await user.click("Take this mass into the ledger");
    await user.see(/Taken over: 1 weighed mass/);
    const tail = (await items("tern")).find((i) => i.id === "tail");
    expect(tail).toMatchObject({
      mass: { value: 0.131, evidence: "measured" },
      predicted: { value: expect.closeTo(0.118, 9), evidence: "guess" },
    });
  });
});

describe("on a phone", () => {
  it("every view of 390 × 844 fits its width", async () => {
    await user.page.setViewport({ width: 390, height: 844 });
    for (const path of [
      "/",
      ...["brief", "layout", "power", "stability", "bench", "runs", "faults", "versions"].map(
        (s) => `/craft/tern/v4/${s}`,
      ),
    ]) {
      await user.go(path);
      const wide = await user.page.evaluate(() => {
        const main = document.querySelector("main");
        return Math.max(document.documentElement.scrollWidth, main?.scrollWidth ?? 0);
      });
      expect(wide, path).toBeLessThanOrEqual(390);
    }
    expect(pageErrors).toEqual([]);
  });
});

it("each page has its own title, and Back goes back one sheet", async () => {
  const chosen = () => user.page.$eval("[role=tab][aria-selected=true]", (e) => e.textContent);
  await user.go("/craft/tern/v5/layout");
  expect(await user.page.title()).toBe("Tern v5, layout · Ultraform");
  const first = await chosen();
  await user.page.$$eval("[role=tab]", (l) =>
    (l[1] as HTMLElement | undefined)?.dispatchEvent(new MouseEvent("mousedown", { bubbles: true, button: 0 })),
  );
  await user.page.waitForFunction(
    (was: string | null) =>
      location.search.includes("sheet=") &&
      document.querySelector("[role=tab][aria-selected=true]")?.textContent !== was,
    {},
    first,
  );
  await user.page.goBack();
  await user.page.waitForFunction(
    (was: string | null) => document.querySelector("[role=tab][aria-selected=true]")?.textContent === was,
    {},
    first,
  );
  expect(await user.page.title()).toBe("Tern v5, layout · Ultraform");
  await user.go("/");
  expect(await user.page.title()).toBe("Workshop · Ultraform");
});

describe("the craft turned", () => {
  it("is turned by mouse and keys, a part is taken from it, and it goes back to its flat views", async () => {
    await user.go("/craft/lantern/v2/layout");
    await user.click("turned");
    const eye = () => user.page.$eval("[data-eye]", (e) => (e.getAttribute("data-eye") ?? "").split(" ").map(Number));
    const [around = 0, above = 0] = await eye();
    const box = await (await user.page.$("[data-eye]"))?.boundingBox();
    if (!box) throw new Error("no drawing");
    const [x, y] = [box.x + box.width - 40, box.y + box.height - 30];
    await user.page.mouse.move(x, y);
    await user.page.mouse.down();
    for (let k = 1; k <= 8; k++) await user.page.mouse.move(x - 12 * k, y - 4 * k);
    await user.page.mouse.up();
    const [turned = 0, raised = 0] = await eye();
    expect(turned - around).toBeGreaterThan(0.5);
    expect(raised - above).toBeLessThan(-0.1);
    await user.page.$eval("[data-eye]", (e) => (e as SVGElement).focus());
    await user.page.keyboard.press("0");
    expect(await eye()).toEqual([around, above]);
    await user.page.keyboard.press("ArrowLeft");
    expect((await eye())[0]).toBeCloseTo(around + Math.PI / 36, 3);
    expect(await user.page.$$eval("[data-thrust]", (l) => l.length)).toBe(5);
    expect(await user.page.$$eval('[data-mark="cg-turned"], [data-mark="window"]', (l) => l.length)).toBe(2);
    await user.page.$eval('[data-part="fins"][data-view="turned"], [data-part][data-view="turned"]', (e) =>
      e.dispatchEvent(new MouseEvent("click", { bubbles: true })),
    );
    await user.see("Selected:");
    await user.click("side");
    await user.page.waitForSelector('[data-part][data-view="side"]');
    expect(await user.page.$("[data-eye]")).toBeNull();
    expect(pageErrors).toEqual([]);
  });
});
