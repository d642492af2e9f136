import { afterAll, beforeAll, describe, expect, it } from "vitest";
import { demoInBrowser } from "../support/browser";
import { type User, WAIT, settled } from "../support/page";
import { asNewRun } from "../../web/stations/runs/heldRun";

const demo = demoInBrowser();
let user: User;
beforeAll(() => {
  user = demo.user();
});
afterAll(() => {
  expect(demo.pageErrors).toEqual([]);
});

/** Types into a field as a keyboard does, and stays in it: what is half-written is not committed by leaving. */
const type = async (selector: string, text: string) => {
  await user.page.waitForSelector(selector);
  await user.page.click(selector);
  await user.page.keyboard.type(text, { delay: 10 });
};
const value = (selector: string) =>
  user.page.waitForSelector(selector).then((e) => e?.evaluate((x) => (x as HTMLInputElement).value));
const stands = (selector: string, text: string) =>
  user.page.waitForFunction(
    (s, t) => (document.querySelector(s) as HTMLInputElement | null)?.value === t,
    {},
    selector,
    text,
  );
/** The page read anew, as after a crash of the browser: what was typed a moment before is there. */
const reload = async () => {
  await user.page.reload({ waitUntil: "domcontentloaded" });
  await settled(user.page);
};
const halves = () =>
  user.page.$$eval('ul[aria-label="Half-written"] button', (l) => l.map((e) => (e as HTMLElement).innerText));
const NOTES = 'form[aria-label="New run"] textarea[name="notes"]';

describe("a run that is half-written", () => {
  it("survives another station, a checklist and a reload, and is offered again", async () => {
    await user.open("/craft/tern/v4/runs?log=new");
    await type('form[aria-label="New run"] input[name="purpose"]', "does she lift off into the wind");
    await type(NOTES, "spray on the port skid at 14 m/s");
    await user.go("/craft/tern/v4/faults");
    await user.go("/craft/tern/v4/runs?list=1");
    await user.page.waitForSelector('ul[aria-label="Half-written"] button');
    expect(await halves()).toEqual([expect.stringMatching(/^New run, half-written at \d\d:\d\d$/)]);
    await user.page.click('ul[aria-label="Half-written"] button');
    await stands(NOTES, "spray on the port skid at 14 m/s");
    expect(await value('form[aria-label="New run"] input[name="purpose"]')).toBe("does she lift off into the wind");
    await user.see("not saved: it stands here again");
    await reload();
    await stands(NOTES, "spray on the port skid at 14 m/s");
    // The form that is open is not offered a second time.
    expect(await halves()).toEqual([]);
  });
  it("asks for the cautions anew, is of its own version, and is gone when it is thrown away", async () => {
    const box = 'form[aria-label="New run"] input[name="cautionsRead"]';
    await user.page.click(box);
    await reload();
    await user.page.waitForSelector(box);
    expect(await user.page.$eval(box, (e) => (e as HTMLInputElement).checked)).toBe(false);
    await user.go("/craft/tern/v5/runs?log=new");
    await user.page.waitForFunction(() => document.body.innerText.includes("New run of v5"));
    expect(await value(NOTES)).toBe("");
    await user.go("/craft/tern/v4/runs?log=new");
    await stands(NOTES, "spray on the port skid at 14 m/s");
    await user.click("throw it away");
    await stands(NOTES, "");
    await reload();
    expect(await value(NOTES)).toBe("");
    expect(await user.page.$("[data-half]")).toBeNull();
  });
  it("that is saved is not offered again", async () => {
    await user.open("/craft/tern/v4/runs?edit=12");
    const notes = 'form[aria-label="Run 12"] textarea[name="notes"]';
    await type(notes, " and more");
    const text = (await value(notes)) ?? "";
    await user.go("/craft/tern/v4/runs?run=12");
    await user.see("Run 12, half-written");
    await user.go("/craft/tern/v4/runs?edit=12");
    await stands(notes, text);
    await user.click("Save");
    await user.page.waitForFunction(() => !document.querySelector('form[aria-label="Run 12"]'));
    expect((await demo.exported("tern")).runs.find((r) => r.number === 12)?.notes).toBe(text);
    expect(await halves()).toEqual([]);
  });
  it("typed back to what is saved, nothing is half-written", async () => {
    await user.open("/craft/tern/v4/runs?edit=12");
    const place = 'form[aria-label="Run 12"] input[name="place"]';
    await type(place, "x");
    await user.page.waitForFunction(() => Object.keys(localStorage).some((k) => k.includes("run%2012")));
    await user.page.keyboard.press("Backspace");
    await user.page.waitForFunction(() => !Object.keys(localStorage).some((k) => k.includes("run%2012")));
  });
  it("and saved elsewhere meanwhile, is not merged in silence: both states are shown", async () => {
    await user.open("/craft/tern/v4/runs?edit=12");
    const notes = 'form[aria-label="Run 12"] textarea[name="notes"]';
    await type(notes, " from here");
    await user.go("/craft/tern/v4/brief");
    const run = (await demo.exported("tern")).runs.find((r) => r.number === 12);
    const revision = (await (await fetch(`${demo.address()}/api/crafts/tern`)).json()).revisions.runs[12];
    if (!run) throw new Error("run 12 is gone");
    const body = asNewRun(run);
    const answer = await fetch(`${demo.address()}/api/crafts/tern/runs/12`, {
      method: "PUT",
      headers: { "content-type": "application/json", origin: demo.address() },
      body: JSON.stringify({ revision, run: { ...body, notes: "from there" } }),
    });
    expect(answer.status, await answer.text()).toBe(200);
    await user.open("/craft/tern/v4/runs?edit=12");
    await user.see("it stands here again");
    await user.click("Save");
    await user.see("Run 12 was saved elsewhere in the meantime");
    await user.click("Use the saved version");
    await user.page.waitForFunction(() => !document.querySelector('form[aria-label="Run 12"]'));
    expect((await demo.exported("tern")).runs.find((r) => r.number === 12)?.notes).toBe("from there");
  });
});

describe("a fault that is half-written", () => {
  const seen = 'form[aria-label="New fault"] textarea[name="seen"]';
  it("survives a stopped server and a reload, and can be saved when it is back", async () => {
    await user.open("/craft/tern/v4/faults?new=12");
    await type('form[aria-label="New fault"] input[name="title"]', "skid hums");
    await type(seen, "a hum at half throttle, only on the ice");
    await demo.stopServer();
    await user.click("Save the fault");
    await user.see("Cannot reach the server");
    await stands(seen, "a hum at half throttle, only on the ice");
    await demo.startServer();
    await reload();
    await stands(seen, "a hum at half throttle, only on the ice");
    await user.click("Save the fault");
    await user.see(/F-\d\d saved/);
    const kept = (await demo.exported("tern")).faults.at(-1);
    expect([kept?.title, kept?.seen]).toEqual(["skid hums", "a hum at half throttle, only on the ice"]);
    expect(await halves()).toEqual([]);
  });
  it("with its suspects, in every version of the craft", async () => {
    await user.open("/craft/tern/v4/faults?new=12");
    await type('form[aria-label="New fault"] input[name="title"]', "rudder slow");
    await user.click("Add a suspect of your own");
    await user.page.waitForSelector('input[aria-label="Suspect"], [placeholder*="suspect"], form input');
    await user.go("/craft/tern/v5/faults?fault=1");
    await user.page.waitForSelector('ul[aria-label="Half-written"] button');
    expect((await halves())[0]).toMatch(/^New fault, half-written at/);
    await user.page.click('ul[aria-label="Half-written"] button');
    await stands('form[aria-label="New fault"] input[name="title"]', "rudder slow");
    await user.click("throw it away");
    await stands('form[aria-label="New fault"] input[name="title"]', "");
  });
});

describe("a bench session that is half-written", () => {
  it("a weigh-in keeps its readings through another station and a reload", async () => {
    await user.open("/craft/tern/v4/bench?new=total");
    await user.page.waitForSelector('input[aria-label="On the scale, reading 1"], main input');
    const first = await user.page.$eval('main section input, main form input, main input[class*="box"]', (e) =>
      e.getAttribute("aria-label"),
    );
    expect(first).toBeTruthy();
    await user.page.waitForSelector("textarea");
    await type("main textarea", "scale on the ice, levelled");
    await user.go("/craft/tern/v4/layout");
    await user.go("/craft/tern/v4/bench");
    await user.page.waitForSelector('ul[aria-label="Half-written"] button');
    await user.page.click('ul[aria-label="Half-written"] button');
    await stands("main textarea", "scale on the ice, levelled");
    await reload();
    await stands("main textarea", "scale on the ice, levelled");
    await user.click("throw it away");
    await stands("main textarea", "");
  });
  it("a sweep is taken up again with its safety list to tick anew", async () => {
    await user.open("/craft/tern/v4/bench?new=sweep");
    const boxes = 'section[aria-label="Safety"] input[type="checkbox"], [aria-label*="afety"] input[type="checkbox"]';
    await user.page.waitForSelector(boxes);
    await user.page.click(boxes);
    await type("main textarea", "stand in the doorway");
    await reload();
    await stands("main textarea", "stand in the doorway");
    expect(await user.page.$$eval(boxes, (l) => l.filter((e) => (e as HTMLInputElement).checked).length)).toBe(0);
    await user.click("throw it away");
  });
});

describe("a sentence that is half-written", () => {
  it.each([
    ["runs?newplan=3", 'form[aria-label="New plan"] input', "does the nose stay down"],
    ["versions", 'input[aria-label="Advice"]', "stiffen the skid mounts"],
    ["versions?fate=1", 'textarea[aria-label="Why this decision"]', "the ice is going"],
  ])("in %s is there again", async (path, selector, text) => {
    await user.open(`/craft/tern/v4/${path}`);
    await type(selector, text);
    await user.go("/craft/tern/v4/brief");
    await user.go(`/craft/tern/v4/${path}`);
    await stands(selector, text);
    await reload();
    await stands(selector, text);
  });
});

describe("words about a version, with the server stopped", () => {
  it("stand in the page, survive another station, and are sent when it is back", async () => {
    await user.open("/craft/tern/v4/versions");
    const advice = async () =>
      (await demo.exported("tern")).versions.find((v) => v.label === "v4")?.advice.map((a) => a.text) ?? [];
    const before = await advice();
    await user.page.waitForSelector('input[aria-label="Advice"]');
    await user.page.$eval('input[aria-label="Advice"]', (e) => (e as HTMLInputElement).select());
    await type('input[aria-label="Advice"]', "longer skids");
    await demo.stopServer();
    await user.click("Note it");
    await user.see("kept in this browser and sent later");
    await user.see("longer skids");
    await user.page.waitForSelector("[data-unsent]");
    await user.go("/craft/tern/v4/brief");
    await user.go("/craft/tern/v4/versions");
    await user.see("longer skids");
    await demo.startServer();
    await user.page.waitForFunction(() => !document.querySelector("[data-unsent]"), { timeout: 20_000 });
    const now = await advice();
    expect(now.slice(0, before.length)).toEqual(before);
    expect(now.at(-1)).toMatch(/longer skids$/);
    expect(now).toHaveLength(before.length + 1);
  });
  it("that were not sent before the page was closed are sent by the next one", async () => {
    await demo.stopServer();
    await user.page.waitForSelector('input[aria-label="Advice"]');
    await type('input[aria-label="Advice"]', "softer rudder");
    await user.click("Note it");
    await user.page.waitForSelector("[data-unsent]");
    await demo.startServer();
    const other = await demo.another();
    await user.page.close();
    user = other;
    await user.open("/craft/tern/v4/brief");
    await user.page.waitForFunction(() => !Object.keys(localStorage).some((k) => k.includes("words%20not%20sent")), {
      timeout: 20_000,
    });
    const kept = (await demo.exported("tern")).versions.find((v) => v.label === "v4")?.advice ?? [];
    expect(kept.filter((a) => a.text.endsWith("softer rudder"))).toHaveLength(1);
  });
  it("and written over by somebody else meanwhile, are not sent in silence: one of the two is chosen", async () => {
    const versionOf = async () => (await demo.exported("tern")).versions.find((v) => v.label === "v4");
    await user.open("/craft/tern/v4/versions");
    await demo.stopServer();
    await user.page.waitForSelector('input[aria-label="Advice"]');
    await type('input[aria-label="Advice"]', "written here");
    await user.click("Note it");
    await user.page.waitForSelector("[data-unsent]");
    // The page sleeps, as a phone in a pocket does, while another writes.
    await user.page.goto("about:blank");
    await demo.startServer();
    const held = await (await fetch(`${demo.address()}/api/crafts/tern`)).json();
    const theirs = [...((await versionOf())?.advice ?? [])];
    theirs.push({
      id: "other",
      date: "2026-03-01T10:00:00Z",
      from: "",
      text: "written there",
      state: "open",
      made: "",
    });
    const answer = await fetch(`${demo.address()}/api/crafts/tern/versions/v4`, {
      method: "PUT",
      headers: { "content-type": "application/json", origin: demo.address() },
      body: JSON.stringify({ revision: held.revisions.versions.v4, advice: theirs }),
    });
    expect(answer.status, await answer.text()).toBe(200);
    await user.open("/craft/tern/v4/versions");
    await user.page.waitForSelector('[data-unsent="clash"]', { timeout: 30_000 });
    expect((await versionOf())?.advice.at(-1)?.text).toBe("written there");
    await user.click("Keep theirs");
    await user.page.waitForFunction(() => !document.querySelector("[data-unsent]"));
    expect((await versionOf())?.advice.map((a) => a.text)).toEqual(theirs.map((a) => a.text));
  });
});

describe("a number that is half typed", () => {
  const field = '[aria-label="Motor, weighed each"]';
  const massOf = async () => (await demo.design("tern")).items.find((i) => i.name === "Motor")?.mass?.value;
  it("counts when one goes back in the browser, and when the page is read anew", async () => {
    await user.open("/craft/tern/v5/brief");
    await user.go("/craft/tern/v5/layout");
    await type(field, "133");
    await user.page.goBack();
    await user.page.waitForFunction(() => document.title.toLowerCase().includes("brief"), {});
    await expect.poll(massOf, { timeout: WAIT }).toBeCloseTo(0.133, 9);
    await user.go("/craft/tern/v5/layout");
    await type(field, "134");
    await reload();
    await expect.poll(massOf, { timeout: WAIT }).toBeCloseTo(0.134, 9);
    expect(await value(field)).toBe("134");
  });
});

describe("forms beside runs and faults", () => {
  it("a ladder that is being made one's own is there again, and is offered", async () => {
    await user.open("/craft/tern/v5/runs?ladder=1");
    const name = '[aria-label="Rung 3, name"]';
    await type(name, " and wet");
    const text = (await value(name)) ?? "";
    expect(text).toContain("and wet");
    await reload();
    await stands(name, text);
    await user.go("/craft/tern/v5/runs");
    await user.see("The test ladder, half-written");
    await user.go("/craft/tern/v5/runs?ladder=1");
    await user.click("throw it away");
    await user.page.waitForFunction(
      (s, t) => (document.querySelector(s) as HTMLInputElement | null)?.value !== t,
      {},
      name,
      text,
    );
    await reload();
    expect(await value(name)).not.toBe(text);
  });
  it("an entry of one's own in the catalogue, a load test and a pack's reading stand again", async () => {
    await user.open("/craft/tern/v5/faults?catalogue=1");
    await user.click("Add an entry of your own");
    await type('[aria-label="Symptom in words"]', "hums on the ice at dusk");
    await reload();
    await user.click("Add an entry of your own");
    await stands('[aria-label="Symptom in words"]', "hums on the ice at dusk");
    await user.click("throw it away");
    await stands('[aria-label="Symptom in words"]', "");
  });
});
