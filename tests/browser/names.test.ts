import { gzipSync } from "node:zlib";
import type { SerializedAXNode } from "puppeteer-core";
import { afterAll, beforeAll, describe, expect, it } from "vitest";
import { demoInBrowser } from "../support/browser";
import { type User, WAIT } from "../support/page";

const demo = demoInBrowser();
let user: User;
beforeAll(() => {
  user = demo.user();
});
afterAll(() => {
  expect(demo.pageErrors).toEqual([]);
});

const ACTS = new Set([
  "button",
  "link",
  "textbox",
  "combobox",
  "checkbox",
  "radio",
  "spinbutton",
  "searchbox",
  "slider",
]);
const flat = (node: SerializedAXNode | null): SerializedAXNode[] =>
  node ? [node, ...(node.children ?? []).flatMap(flat)] : [];

/** Everything that can be acted on, as a screen reader meets it. */
const acts = async () => flat(await user.page.accessibility.snapshot()).filter((n) => ACTS.has(n.role));

const PATHS = [
  "/",
  "/field/tern/v4",
  ...["brief", "layout", "power", "bench", "runs", "faults", "versions"].map((s) => `/craft/tern/v4/${s}`),
  ...["plan=2", "newplan=3", "ladder=1", "ready=1", "list=at+the+site", "series=1", "log=new", "edit=12", "run=10"].map(
    (q) => `/craft/tern/v5/runs?${q}`,
  ),
  "/craft/tern/v3b/runs?evidence=10",
  ...["fault=8", "new=14", "costs=1", "catalogue=1"].map((q) => `/craft/tern/v4/faults?${q}`),
  ...["setup=1", "fate=1", "report=1"].map((q) => `/craft/tern/v5/versions?${q}`),
];

describe("for whoever does not see the page", () => {
  it.each(PATHS)(
    "%s: whatever can be acted on has a name, and no two fields of one form share it by mistake",
    async (path) => {
      await user.go(path);
      // It is the view of this address that stands there, not the one before.
      const station = /\/craft\/\w+\/\w+\/(\w+)/.exec(path)?.[1];
      if (station) expect((await user.page.title()).toLowerCase()).toContain(station);
      // A page at another address of its own draws itself after it was reached.
      await expect.poll(async () => (await acts()).length, { timeout: WAIT }).toBeGreaterThan(3);
      const list = await acts();
      expect(list.filter((n) => (n.name ?? "").trim() === "").map((n) => n.role)).toEqual([]);
      const ids = await user.page.$$eval("[id]", (all) => all.map((e) => e.id));
      expect(ids.filter((id, i) => ids.indexOf(id) !== i)).toEqual([]);
      // Pictures that say something have words; those that do not are hidden.
      expect(await user.page.$$eval("img:not([alt])", (l) => l.length)).toBe(0);
      expect(await user.page.$$eval('canvas:not([aria-label]):not([aria-hidden="true"])', (l) => l.length)).toBe(0);
    },
  );
  it("colour is never the only sign: rungs, gates, board lines and verdicts say it in words", async () => {
    await user.go("/craft/tern/v5/runs?plan=2");
    for (const text of await user.page.$$eval("[data-board]", (l) =>
      l.map((e) => `${e.getAttribute("data-board")}|${e.textContent}`),
    )) {
      const [state = "", said = ""] = text.split("|");
      expect(said).toContain(state);
    }
    await user.go("/craft/tern/v4/runs?run=14");
    for (const text of await user.page.$$eval("[data-gate]", (l) =>
      l.map((e) => `${e.getAttribute("data-gate")}|${e.textContent}`),
    )) {
      const [state = "", said = ""] = text.split("|");
      expect(said).toContain(state);
    }
    for (const said of await user.page.$$eval("[data-record]", (l) => l.map((e) => e.textContent ?? "")))
      expect(said).toMatch(/^(Stop|Care) /);
  });
});

describe("without a mouse", () => {
  it("a plan is opened, filled and saved by keys alone", async () => {
    await user.go("/craft/tern/v5/runs?newplan=2");
    await user.page.focus('form[aria-label="New plan"] input');
    await user.page.keyboard.type("Does it pull 5.4 N?");
    await user.page.keyboard.press("Enter");
    await user.see("Not yet:");
    await user.page.focus('[aria-label="People, each with a role"]');
    await user.page.keyboard.down("Control");
    await user.page.keyboard.press("End");
    await user.page.keyboard.up("Control");
    await user.page.keyboard.type("\nAda: watches");
    await user.page.keyboard.press("Tab");
    await user.page.waitForFunction(() =>
      [...document.querySelectorAll('[data-board="go"]')].some((e) =>
        e.textContent?.includes("People and roles are named"),
      ),
    );
    expect((await demo.exported("tern")).plans.at(-1)?.people.at(-1)).toEqual({ name: "Ada", role: "watches" });
  });
  it("the log at the site is ended by holding a key, and not by a tap on it", async () => {
    await user.go("/field/samphire/v1");
    const check = await user.page.$(".field input[type=checkbox]");
    if (check) await check.press("Space");
    const why = await user.page.$('[aria-label="Locked"] input');
    if (why) await why.type("in the yard");
    await user.page.focus(".field-start");
    await user.page.keyboard.press("Enter");
    await user.page.waitForSelector(".field-end");
    await user.page.focus(".field-end");
    await user.page.keyboard.press("Enter");
    await new Promise((r) => setTimeout(r, 1300));
    expect(await user.page.$(".field-end")).not.toBeNull();
    await user.page.keyboard.down("Enter");
    await user.page.waitForSelector('[aria-label="How it went"]');
    await user.page.keyboard.up("Enter");
  });
  it(
    "n begins a run, Escape leaves a dialog, and the stations are reached by their numbers from every new " + "sheet",
    async () => {
      await user.go("/craft/tern/v4/runs?ready=1");
      await user.key("n");
      await user.see("New run of v4");
      await user.go("/craft/tern/v4/versions?fate=1");
      await user.station("7");
      await user.see("Faults");
    },
  );
});

describe("on paper", () => {
  it.each(["/craft/tern/v4/versions?report=1", "/craft/tern/v5/runs?plan=2", "/craft/tern/v4/runs?ready=1"])(
    "%s: what only hands can press is left out",
    async (path) => {
      await user.go(path);
      await user.page.emulateMediaType("print");
      const shown = await user.page.$$eval(".no-print, .rail, .brand, .verdict-drawer, .track nav", (l) =>
        l.filter((e) => (e as HTMLElement).offsetParent !== null).map((e) => e.outerHTML.slice(0, 80)),
      );
      await user.page.emulateMediaType("screen");
      expect(shown).toEqual([]);
    },
  );
});

describe("the first view", () => {
  it("of the workshop takes at most 250 kB of script and style, compressed", async () => {
    const page = await user.page.browser().newPage();
    await page.setCacheEnabled(false);
    const sizes: Promise<number>[] = [];
    page.on("response", (r) => {
      if (/\.(js|css)$/.test(new URL(r.url()).pathname))
        sizes.push(r.buffer().then((b) => gzipSync(new Uint8Array(b)).length));
    });
    await page.goto(`${demo.address()}/`, { waitUntil: "networkidle0" });
    const sent = (await Promise.all(sizes)).reduce((s, n) => s + n, 0);
    await page.close();
    expect(sent).toBeGreaterThan(100_000);
    expect(sent).toBeLessThan(250_000);
  });
});
