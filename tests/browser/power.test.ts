import type { ElementHandle } from "puppeteer-core";
import { beforeAll, describe, expect, it } from "vitest";
import { demoInBrowser } from "../support/browser";
import type { User } from "../support/page";

const demo = demoInBrowser();
let user: User;
beforeAll(() => {
  user = demo.user();
});

/** Number that a text begins with, spaces of grouping left out. */
const first = (text: string) => Number.parseFloat(text.replace(/[\s\u00a0\u202f]/g, "").replace("−", "-"));
const metric = async (key: string) => first(await user.read(`[data-metric="${key}"]`));
/** Numbers of the hidden table beneath a curve: x, y and ±. */
const curve = async (title: string) =>
  user.page.$$eval(
    "figure table",
    (tables, wanted) =>
      tables
        .filter((t) => t.caption?.textContent === wanted)
        .flatMap((t) => [...(t.tBodies[0]?.rows ?? [])].map((r) => [...r.cells].map((c) => Number(c.textContent)))),
    title,
  );

describe("a drive that cannot be", () => {
  it.each([
    ["", "Motor Kv", "0", /[Gg]reater|above|more than|>0/],
    ["", "Winding resistance", "-3 mΩ", /[Gg]reater|above|more than|>0/],
    ["", "Gear ratio", "0", /a gear ratio is a positive number|A gear ratio is a positive number/],
    ["", "Blades", "1", /2 to 6 blades/],
    ["", "Motor Kv", "fast", /not a number.*Accepted/],
    ["", "Throttle limit", "140 %", /1|100/],
    ["b", "Cells in series", "100", /at most 24 cells|At most 24 cells/],
    ["b", "Usable share", "NaN", /not a number/],
  ])("%s %s of %s is refused at its field, and nothing is lost", async (of, label, text, message) => {
    const design = await demo.design("tern");
    await user.go(`/craft/tern/v5/power${of === "b" ? `?of=${design.batteries[0]?.id}` : ""}`);
    await user.fill(label, text);
    const field = await user.page.waitForSelector(`[aria-label="${label}"][aria-invalid="true"]`);
    expect(await field?.evaluate((e) => (e as HTMLInputElement).value)).toBe(text);
    const said = await field?.evaluate(
      (e) => document.getElementById(e.getAttribute("aria-describedby") ?? "")?.textContent ?? "",
    );
    expect(said).toMatch(message);
    expect(await demo.design("tern")).toEqual(design);
  });
  it("gearing is taken in stages, by teeth", async () => {
    await user.go("/craft/tern/v5/power");
    await user.fill("Gear ratio", "42:30 × 1.5");
    await user.saved();
    expect((await demo.design("tern")).units[0]?.gear.ratio).toBeCloseTo(2.1, 9);
    await user.click("Undo");
    await user.saved();
    expect((await demo.design("tern")).units[0]?.gear.ratio).toBeCloseTo(1.4, 9);
  });
});

describe("what is worked out beside the page", () => {
  it(
    "is worked out in it when the worker's script is not there: a number never stays that of the design " + "before",
    async () => {
      const { page } = user;
      const { identifier } = await page.evaluateOnNewDocument(() => {
        const Real = window.Worker;
        window.Worker = class extends Real {
          constructor(_: string | URL, options?: WorkerOptions) {
            super("/assets/none.js", options);
          }
        };
      });
      await user.go("/craft/tern/v5/power");
      await page.removeScriptToEvaluateOnNewDocument(identifier);
      const before = await metric("thrust");
      await user.fill("Propeller diameter", "300 mm");
      await page.waitForFunction(
        (was) => {
          const number = document.querySelector('[data-metric="thrust"]');
          return (
            number &&
            !number.closest("[data-late]") &&
            Math.abs(Number.parseFloat(number.textContent ?? "") - was) > 0.3
          );
        },
        {},
        before,
      );
      await user.saved();
      await user.click("Undo");
      await user.saved();
    },
  );
});

describe("points of work", () => {
  it("less throttle gives less thrust; the throttle for a thrust is the one that gives it", async () => {
    await user.go("/craft/tern/v5/power?throttle=60");
    await user.fill("Throttle for thrust", "6 N", "Enter");
    await user.page.waitForFunction(() => /throttle=\d+/.test(location.search));
    const throttle = Number(new URL(user.page.url()).searchParams.get("throttle"));
    expect(throttle).toBeGreaterThan(50);
    expect(throttle).toBeLessThan(85);
    const points = await curve("Thrust, standing");
    const below = points.filter((p) => (p[0] ?? 0) <= throttle).at(-1);
    const above = points.find((p) => (p[0] ?? 0) >= throttle);
    expect(below?.[1] ?? 0).toBeLessThanOrEqual(6.05);
    expect(above?.[1] ?? 0).toBeGreaterThanOrEqual(5.95);
  });
  it("moving takes thrust away, and a drag area gives a top speed that a timed run can state", async () => {
    await user.go("/craft/tern/v5/power?speed=10");
    await user.click("against speed");
    const moving = await curve("Thrust and drag");
    expect(moving.length).toBeGreaterThan(8);
    expect(moving.at(-1)?.[1] ?? 99).toBeLessThan(moving[0]?.[1] ?? 0);
    await user.fill("Timed speed", "16 m/s");
    await user.click("Work it out");
    await user.saved();
    const { dragArea } = await demo.design("tern");
    expect(dragArea?.evidence).toBe("calculated");
    expect(dragArea?.value ?? 0).toBeGreaterThan(0);
    // By its own meaning: at full throttle the craft now goes as fast as it was timed.
    await user.page.waitForFunction(
      () => Math.abs(Number.parseFloat(document.querySelector('[data-metric="speed"]')?.textContent ?? "0") - 16) < 0.3,
    );
    await user.click("Undo");
    await user.saved();
  });
  it("over the discharge: a band, and another time for a cold pack and an old one, which sag more", async () => {
    await user.go("/craft/tern/v5/power");
    await user.click("over the discharge");
    await user.see(/min ± /);
    const now = await curve("Pack voltage under the heaviest phase");
    expect(now.length).toBeGreaterThan(10);
    for (const p of now) expect(p[2]).toBeGreaterThan(0);
    const minutes = async () => first(await user.read('[role="group"][aria-label="Pack"] b'));
    const lasts = await minutes();
    const full = now[0]?.[1] ?? 0;
    const cold = "at −5\u00a0°C";
    for (const other of [cold, "old, twice the resistance"]) {
      await user.click(other);
      const sag = async () => (await curve("Pack voltage under the heaviest phase"))[0]?.[1] ?? full;
      for (let k = 0; k < 100 && !((await sag()) < full); k++) await new Promise((r) => setTimeout(r, 100));
      expect(await sag()).toBeLessThan(full);
      // At a speed the old one gives the same power, and lasts about as long.
      if (other === cold) expect(await minutes()).toBeLessThan(lasts - 0.5);
      else expect(await minutes()).toBeLessThan(lasts + 0.1);
      await user.click("as it is");
    }
  });
});

describe("several drives", () => {
  it("share the pack's sag: with the others at rest a drive has more volts", async () => {
    await user.go("/craft/lantern/v2/power");
    const loaded = await metric("packVoltage");
    const text = () => user.page.$eval("main svg", (e) => e.textContent ?? "");
    const all = await text();
    await user.click("Lift, fore");
    await user.click("Lift, aft");
    await user.click("Tail fan");
    await user.page.waitForFunction(
      (before: string) => document.querySelector("main svg")?.textContent !== before,
      {},
      all,
    );
    const alone = await text();
    const volts = (t: string) => Number(/(\d\.\d\d) ± \d\.\d\d V/.exec(t)?.[1]);
    expect(volts(alone)).toBeGreaterThan(volts(all));
    expect(loaded).toBeCloseTo(volts(all), 1);
  });
  it("a drive is added, fed by another pack, and taken out again", async () => {
    await user.go("/craft/lantern/v2/power");
    await user.click("add a pack");
    await user.saved();
    await user.click("add a drive");
    await user.saved();
    await user.choose("Fed by pack", "Pack 2");
    await user.saved();
    const design = await demo.design("lantern");
    expect(design.units).toHaveLength(5);
    expect(design.units.at(-1)?.batteryId).toBe(design.batteries.at(-1)?.id);
    for (let k = 0; k < 3; k++) await user.click("Undo");
    await user.saved();
    expect((await demo.design("lantern")).units).toHaveLength(4);
  });
  it("a thin plug and a thirsty servo are said, and the plug's remedy clears it", async () => {
    const design = await demo.design("lantern");
    const [plug] = design.conductors;
    const [rail] = design.regulators;
    if (!plug || !rail) throw new Error("no path");
    await user.go("/craft/lantern/v2/power?of=path");
    await user.fill(`${plug.name}, made for`, "4 A");
    await user.saved();
    await user.see(`${plug.name} carries`);
    await user.fill(`${rail.name}, at most`, "0.1 A");
    await user.saved();
    await user.told("conductor-current");
    await user.told("rail-current");
    const finding = await user.page.waitForSelector('[data-code="conductor-current"]');
    const apply = await finding?.$("button.act");
    await apply?.evaluate((e) => e.scrollIntoView({ block: "center" }));
    await apply?.click();
    await user.page.waitForFunction(() => document.querySelector('[data-code="conductor-current"]') === null);
    for (let k = 0; k < 3; k++) await user.click("Undo");
    await user.saved();
    expect((await demo.design("lantern")).conductors[0]?.maxCurrent).toBe(plug.maxCurrent);
  });
});

const upload = async (text: string, what = "packs") => {
  const input = (await user.page.waitForSelector(
    `input[aria-label="Read ${what} from a CSV list"]`,
  )) as ElementHandle<HTMLInputElement>;
  await input.uploadFile(demo.file("shed.csv", text));
};

describe("packs of one's own", () => {
  it(
    "a list is read: what is refused is named with its line, the rest stands on the shelf, and goes out " + "again",
    async () => {
      await user.go("/craft/tern/v5/power?sheet=shelf");
      await user.page.waitForSelector('[data-pack="Ice box, A"]');
      await upload(
        "Pack;Cells;Capacity (mAh);Mass (g)\nShed one;3;2 200;181\nShed two;3;2,200;180\nShed three;90;1000;50\n",
      );
      await user.page.waitForSelector('[data-pack="Shed one"]');
      await user.see(/Line 3: Capacity.*could be read two ways/);
      await user.see(/Line 4: .*at most 24 cells/);
      expect(await user.read('[data-pack="Shed one"]')).toMatch(/3 × LiPo.*2\.20 Ah.*181 g/);
      await upload("Pack,Cells,Capacity (mAh)\nShed one,3,2200\n");
      await user.see("There is a pack called “Shed one” already");
      await user.click("save as CSV");
      expect(await demo.downloaded("packs.csv")).toMatch(
        /^Pack,Chemistry,Cells,Capacity \(mAh\)[^\n]*\n[\s\S]*Shed one,LiPo,3,2200,181/,
      );
    },
  );
  it("a save from a page that was opened before another's is refused, and shows what is held", async () => {
    const other = await demo.another();
    for (const who of [user, other]) {
      await who.open("/craft/tern/v5/power?sheet=shelf");
      await (await who.page.waitForSelector('[data-pack="Shed one"] button'))?.click();
      await who.page.waitForSelector('[aria-label="Log of Shed one"]');
    }
    await other.fill("Shelf pack cycles", "12");
    await other.page.waitForFunction(() =>
      /\b12\b/.test(document.querySelector('[data-pack="Shed one"]')?.textContent ?? ""),
    );
    await user.fill("Shelf pack cycles", "7");
    // Both states are shown, and one is chosen.
    await user.see("was saved elsewhere in the meantime");
    expect(await user.read("dialog table")).toMatch(/cycles\s+12\s+7/);
    await user.click("Use the saved version");
    await user.page.waitForFunction(() =>
      /\b12\b/.test(document.querySelector('[data-pack="Shed one"]')?.textContent ?? ""),
    );
    await other.page.close();
  });
  it("fitted, the craft is predicted with it", async () => {
    await user.go("/craft/tern/v5/power");
    const before = await metric("packVoltage");
    await user.go("/craft/tern/v5/power?sheet=shelf");
    await user.click("Fit Ice box, B");
    await user.see("Ice box, B is in the draft.");
    await user.saved();
    await user.go("/craft/tern/v5/power");
    // Twice the resistance of the newer pack: it sags more.
    expect(await metric("packVoltage")).toBeLessThan(before);
    const { batteries, items } = await demo.design("tern");
    expect(batteries[0]).toMatchObject({ name: "Ice box, B", cellResistance: { evidence: "measured" } });
    expect(items.find((i) => i.id === batteries[0]?.itemId)?.mass?.value).toBeCloseTo(0.309, 9);
    await user.click("Undo");
    await user.saved();
  });
});

describe("parts of one's own", () => {
  it("a list of motors is read; one is measured, fitted, and the ledger and the drive have it", async () => {
    await user.go("/craft/tern/v5/power?sheet=shelf");
    await user.click("Motors");
    await user.page.waitForSelector('[data-part="Long can"]');
    await upload(
      "Motor;Mass (g);Kv;Resistance;No-load current;Rated current\nShed " +
        "motor;120;1600;38;1,2;30\nBroken;100;0;38;1,2;30\n",
      "motors",
    );
    await user.page.waitForSelector('[data-part="Shed motor"]');
    await user.see(/Line 3: kv: /);
    await (await user.page.waitForSelector('[data-part="Shed motor"] button'))?.click();
    await user.fill("Shelf Kv", "1585");
    await user.page.waitForFunction(() =>
      /1.?585/.test(document.querySelector('[data-part="Shed motor"]')?.textContent ?? ""),
    );
    // A figure that no part can have is refused where it was typed, and stays there.
    await user.fill("Shelf Rated current", "0");
    await user.see("Accepted: more than zero.");
    await user.fill("Shelf Rated current", "30");
    await user.click("Fit Shed motor");
    await user.see("Shed motor is in the draft.");
    await user.saved();
    const design = await demo.design("tern");
    expect(design.units[0]?.motor).toMatchObject({
      kv: { value: 1585 },
      resistance: { value: 0.038, evidence: "datasheet" },
      maxCurrent: 30,
    });
    expect(design.items.find((i) => i.id === design.units[0]?.motorItemId)?.mass).toMatchObject({
      value: 0.12,
      evidence: "measured",
    });
    await user.click("Undo");
    await user.saved();
    await user.click("save as CSV");
    expect(await demo.downloaded("motors.csv")).toMatch(/Shed motor,120,,measured,1585/);
  });
  it("the search is held to them, and says which", async () => {
    await user.go("/craft/tern/v5/power?sheet=search");
    const chip = async (kind: string) => {
      const path = `xpath/.//*[@aria-label="Only from your shelf"]//button[contains(., "${kind}")]`;
      await (await user.page.waitForSelector(path))?.evaluate((e) => (e as HTMLElement).click());
      await user.page.waitForSelector(`${path}[contains(@class, "chip-on")]`);
    };
    for (const kind of ["motors", "propellers", "controllers"]) await chip(kind);
    for (const [label, text] of [
      ["Endurance at least", ""],
      ["Thrust to weight at least", ""],
      ["All-up mass at most", ""],
    ] as const)
      await user.fill(label, text);
    const start = await user.page.waitForSelector('section[aria-label="Search"] .act-first');
    await start?.click();
    await (await user.page.waitForSelector('[data-candidate="0"] button'))?.click();
    await user.see("from your shelf");
    const row = await user.read('[data-candidate="0"]');
    expect(row).toMatch(/Tern's, rewound|Long can|Flat one|Lantern's small|Shed motor/);
    expect(row).toMatch(/Grey|Wide three/);
  });
});

describe("a closed space", () => {
  it("says how warm its air gets as soon as its walls are said; closed it is told, with vents it is cooler", async () => {
    await user.go("/craft/tern/v5/power?of=path");
    await user.click("add a closed space");
    await user.see("tick what is in it, or enter its heat");
    await user.page.$$eval('[aria-label="Closed spaces"] fieldset label', (l) =>
      l
        .find((x) => x.textContent?.startsWith("motor"))
        ?.querySelector("input")
        ?.click(),
    );
    await user.see("enter the area of its outer walls");
    await user.fill("Closed space, Outer walls", "6 dm²");
    await user.page.waitForSelector("[data-warmth]");
    const air = () => user.page.$eval("[data-warmth] b", (b) => b.textContent ?? "").then(first);
    const closed = await air();
    expect(closed).toBeGreaterThan(40);
    await user.told("hot-box");
    await user.fill("Closed space, Vents, each", "20 cm²");
    await user.see("enter how far its vents are apart in height");
    await user.fill("Closed space, Apart in height", "60");
    await user.page.waitForSelector("[data-warmth]");
    expect(await air()).toBeLessThan(closed - 5);
    await user.click("remove Closed space");
    await user.page.waitForFunction(() => !document.querySelector("[data-box]"));
    await user.saved();
  });
});

describe("the search", () => {
  it("can be stopped while it runs, and says when its bounds leave nothing", async () => {
    await user.open("/craft/tern/v5/power?sheet=search");
    // Some seconds of it: a slow page is no faster with its click.
    await user.fill("Search Kv", "1000, 1200, 1400, 1600, 1800, 2000, 2200", "Enter");
    await user.fill("Search Motor mass", "60, 70, 80, 90, 100, 110, 120, 130, 140, 150, 160, 170, 180, 190", "Enter");
    const start = await user.page.waitForSelector('section[aria-label="Search"] .act-first');
    await start?.click();
    await user.click("Cancel");
    await user.page.waitForSelector('section[aria-label="Search"] .act-first');
    expect(await user.page.$("[data-candidate]")).toBeNull();
    await user.fill("Search Kv", "1900", "Enter");
    await user.fill("Search Motor mass", "80, 120", "Enter");
    await user.fill("Search Capacity", "3.8", "Enter");
    await user.fill("All-up mass at most", "700 g");
    await (await user.page.waitForSelector('section[aria-label="Search"] .act-first'))?.click();
    await user.see(/[Nn]othing|[Nn]one/);
    await user.see(/mass \d+/);
  });
  it("asks what matters, draws all that nothing beats, and names a dozen first", async () => {
    await user.open("/craft/tern/v5/power?sheet=search");
    await (await user.page.waitForSelector('section[aria-label="Search"] .act-first'))?.click();
    await user.page.waitForSelector("[data-candidate]");
    const rows = () =>
      user.page.$$eval("[data-candidate]", (l) =>
        l.map((r) => ({
          auw: Number.parseFloat(r.children[3]?.textContent ?? ""),
          time: Number.parseFloat(r.children[4]?.textContent ?? ""),
        })),
      );
    expect(await rows()).toHaveLength(12);
    await user.click("lighter");
    await user.see("Show all");
    const light = await rows();
    expect(light.map((r) => r.auw)).toEqual(light.map((r) => r.auw).toSorted((a, b) => a - b));
    await user.click("lighter");
    await user.click("longer");
    const long = await rows();
    expect(long.map((r) => r.time)).toEqual(long.map((r) => r.time).toSorted((a, b) => b - a));
    // The plot is the page: wider than high, and most of the sheet's width.
    const [plot, sheet] = await user.page.$eval('section[aria-label="Search"] svg[role="group"]', (e) => [
      e.getBoundingClientRect().width,
      e.closest("section")?.getBoundingClientRect().width ?? 0,
    ]);
    expect((plot ?? 0) / (sheet ?? 1)).toBeGreaterThan(0.9);
    await user.click("Show all");
    expect((await rows()).length).toBeGreaterThan(12);
  });
  it("refuses at its field what no design can hold, and loses nothing of it", async () => {
    await user.open("/craft/tern/v5/power?sheet=search");
    const field = (name: string) =>
      user.page.$eval(`[aria-label="Search ${name}"]`, (e) => (e as HTMLInputElement).value);
    for (const [name, typed, said] of [
      ["Cells in series", "2.5, 3", /Accepted: whole numbers from 1 to 24/],
      ["Capacity", "2, 1e99", /Accepted: values from .* to .*Ah/],
      ["Kv", "0, 900", /Accepted: values from/],
      ["Motor mass", "heavy", /heavy/],
    ] as const) {
      await user.fill(`Search ${name}`, typed);
      await user.see(said);
      expect(await field(name)).toBe(typed);
    }
  });
  it("varies drives of unlike kinds together, each with its own fields, and what is applied comes true", async () => {
    await user.open("/craft/lantern/v2/power?sheet=search");
    const sheet = 'section[aria-label="Search"]';
    await user.see("Drives that are searched");
    const boxes = await user.page.$$(`${sheet} fieldset input[type="checkbox"]`);
    const names = await user.page.$$eval(`${sheet} fieldset label`, (l) => l.map((e) => (e as HTMLElement).innerText));
    for (const [k, name] of names.entries()) if (/Lift/.test(name)) await boxes[k]?.click();
    await user.page.waitForSelector('[aria-label="Search Duct inside of Lift, fore and Lift, aft"]');
    expect(await user.page.$('[aria-label="Search Diameter of Side fans"]')).not.toBeNull();
    await user.see("like ones get the same parts");
    const count = async () =>
      Number(await user.page.$eval(`${sheet} .act-first`, (e) => /\d+/.exec((e as HTMLElement).innerText)?.[0]));
    const together = await count();
    await user.click("each its own parts");
    await user.page.waitForSelector('[aria-label="Search Duct inside of Lift, aft"]');
    expect(await count()).toBe(together * 9);
    await user.click("each its own parts");
    for (const bound of ["All-up mass at most", "Endurance at least", "Thrust to weight at least"])
      await user.fill(bound, "");
    await (await user.page.waitForSelector(`${sheet} .act-first`))?.click();
    await user.see(/that nothing beats/);
    await user.see(/have no entry of their own in the parts list/);
    const row = await user.page.waitForSelector('[data-candidate="0"]');
    if (!row) throw new Error("no row");
    const [shafts, auw] = await row.evaluate((e) => [0, 3].map((k) => (e.children[k] as HTMLElement).innerText));
    expect(shafts).toMatch(/Side fans/);
    expect(shafts).toMatch(/Lift, fore and Lift, aft/);
    await (await row.$("button"))?.click();
    await user.click("Apply to the draft");
    await user.saved();
    await user.see("The drive is in the draft");
    await user.open("/craft/lantern/v2/layout");
    await user.see(new RegExp(`\\b${Number.parseFloat(auw ?? "")} (\u00b1|g)`));
    await user.click("Undo");
    await user.saved();
  });
});

describe("what swims", () => {
  it("tells its drag by a tow, and its speed is open where the hull makes other waves", async () => {
    await user.open("/craft/gannet/v2/power");
    const area = 'section[aria-label="Drag area in water"]';
    await user.see("towed at 1.6 m/s");
    // Nothing is given away by a wrong number: it is refused where it stands.
    await user.fill("Drag area in water, taken at", "-3", "Enter");
    await user.see("More than zero.");
    await user.fill("Drag area in water, taken at", "1.6", "Enter");
    await user.fill("Timed speed", "2.4", "Enter");
    await user.click("Work it out");
    await user.saved();
    await user.see(/from a timed run, 2.4 m\/s at 100 %/);
    await user.fill("Timed speed", "2", "Enter");
    await user.fill("Towed with", "5", "Enter");
    await user.click("Work it out");
    await user.saved();
    await user.see("towed at 2.0 m/s");
    expect((await demo.design("gannet")).waterDragArea?.value).toBeCloseTo(0.0025, 4);
    expect((await demo.design("gannet")).waterDragAt).toBe(2);
    expect(await user.page.$(area)).not.toBeNull();
    // On its foils it is not the water that it swims in that holds it back.
    await user.open("/craft/gannet/v2/power?state=foils");
    await user.page.waitForSelector('section[aria-label="Drag area"]');
    expect(await user.page.$(area)).toBeNull();
  });
});

describe("on a phone", () => {
  it.each(["drives", "search", "loop", "whatif", "shelf", "generic"])(
    "the sheet %s of Power fits 390 × 844",
    async (sheet) => {
      await user.page.setViewport({ width: 390, height: 844 });
      await user.go(`/craft/lantern/v2/power?sheet=${sheet}`);
      await user.see("Verdicts");
      const wide = await user.page.evaluate(() =>
        Math.max(document.documentElement.scrollWidth, document.querySelector("main")?.scrollWidth ?? 0),
      );
      expect(wide).toBeLessThanOrEqual(390);
      expect(demo.pageErrors).toEqual([]);
    },
  );
});
