import { writeFileSync } from "node:fs";
import { join } from "node:path";
import { gzipSync } from "node:zlib";
import type { ElementHandle } from "puppeteer-core";
import { afterAll, describe, expect, it } from "vitest";
import { demoInBrowser } from "../support/browser";
import { type User, settled } from "../support/page";

const demo = demoInBrowser();
const PHONE = { width: 390, height: 844, isMobile: true, hasTouch: true };
const wait = (ms: number) => new Promise((r) => setTimeout(r, ms));

/** A thumb on the phone: taps keys, holds the one that ends. */
function thumb(user: User) {
  const tap = async (word: string) => {
    const key = await user.page.waitForSelector(
      `xpath/.//button[contains(@class, "field") and contains(., "${word}")]`,
      { visible: true },
    );
    await (key as ElementHandle<Element>).evaluate((e) => e.scrollIntoView({ block: "center" }));
    await (key as ElementHandle<Element>).click();
  };
  return {
    tap,
    hold: async (ms: number) => {
      const end = await user.page.waitForSelector(".field-end", { visible: true });
      const box = await end?.boundingBox();
      if (!box) throw new Error("no key to end the log");
      await user.page.mouse.move(box.x + 60, box.y + 30);
      await user.page.mouse.down();
      await wait(ms);
      await user.page.mouse.up();
    },
    begin: async (question: string) => {
      await user.fill("What do you want to find out?", question);
      if (await user.page.$('[aria-label="Locked"]')) await user.fill("To go on, say why", "short and low, as before");
      if (await user.page.$(".field input[type=checkbox]:not(:checked)"))
        await user.page.click(".field input[type=checkbox]");
      await tap("Start the log");
      await user.page.waitForSelector(".field-end");
    },
  };
}
const waiting = (user: User, n: number) =>
  user.page.waitForFunction(
    (wanted: number) => Number(document.querySelector("[data-outbox]")?.getAttribute("data-outbox") ?? 0) === wanted,
    { timeout: 20_000 },
    n,
  );

afterAll(() => {
  // The only errors are the answers that a stopped server did not give, and those are no page errors.
  expect(demo.pageErrors).toEqual([]);
});

describe("field mode on a phone", () => {
  it("asks for the reason and the cautions before it starts; fits 390 × 844 with keys of 44 px and more", async () => {
    const user = demo.user();
    await user.page.setViewport(PHONE);
    await user.open("/field/tern/v4");
    await user.see("Locked:");
    const { tap } = thumb(user);
    await tap("Start the log");
    await user.see("Say why, or choose a rung that is open.");
    await user.see("Read the cautions first");
    const small = await user.page.$$eval(".field button, .field select, .field input:not([type=checkbox])", (list) =>
      list.filter((e) => e.getBoundingClientRect().height < 44).map((e) => e.outerHTML.slice(0, 80)),
    );
    expect(small).toEqual([]);
    expect(await user.page.evaluate(() => document.documentElement.scrollWidth)).toBeLessThanOrEqual(390);
  });

  it(
    "marks with one tap, takes the last one back, notes words, a pack and a photo, and survives being " + "reloaded",
    async () => {
      const user = demo.user();
      const { tap, begin } = thumb(user);
      await begin("Does the nose stay down to 15 m/s?");
      expect(await user.page.evaluate(() => document.documentElement.scrollWidth)).toBeLessThanOrEqual(390);
      await tap("Rose");
      await tap("Nose went up");
      await tap("Nose went up");
      await user.see("Nose went up, 0:0");
      expect(await user.page.$eval('[aria-label="Nose went up, 2 times"]', (e) => e.className)).toContain(
        "field-key-last",
      );
      await tap("Undo");
      await user.page.waitForSelector('[aria-label="Nose went up, 1 times"]');
      await tap("Say it");
      await user.fill("What was it?", "gust from the left");
      await tap("Keep it");
      await user.see("gust from the left, 0:");
      await tap("Pack");
      await user.fill("Name of the pack", "P-02");
      await user.fill("Volts at rest", "12.4");
      await user.fill("Volts loaded", "11.1 V");
      await tap("Put in");
      const shot = join(demo.work, "ice.png");
      writeFileSync(
        shot,
        Buffer.from(
          "iVBORw0KGgoAAAANSUhEUgAAAAEAAAABCAQAAAC1HAwCAAAAC0lEQVR42mP8/x8AAwMCAO+ip1sAAAAASUVORK5CYII=",
          "base64",
        ),
      );
      const input = (await user.page.waitForSelector(
        'input[aria-label="Take a photo"]',
      )) as unknown as ElementHandle<HTMLInputElement>;
      await input.uploadFile(shot);
      await user.see("Photo, 0:");
      await user.page.reload({ waitUntil: "domcontentloaded" });
      await settled(user.page);
      await user.see("Photo, 0:");
      await user.page.waitForSelector('[aria-label="Rose, 1 times"]');
    },
  );

  it(
    "a short press does not end it, a second does; what the server does not answer is kept in the browser " +
      "with its count",
    async () => {
      const user = demo.user();
      const { tap, hold } = thumb(user);
      await hold(400);
      expect(await user.page.$(".field-end")).not.toBeNull();
      await demo.stopServer();
      await tap("Settled");
      await hold(1300);
      await user.see("It crashed or got away");
      await tap("Partly successful");
      await user.fill("Nose angle", "9");
      await user.fill("Pack voltage after the run", "11.6");
      await tap("Put it in the log");
      await waiting(user, 1);
      await user.see(/1\s+entry kept in this browser/);
      expect(await user.page.$('[aria-label="Before the start"]')).not.toBeNull();
    },
  );

  it("goes on with the craft as it was read, and a second entry waits behind the first", async () => {
    const user = demo.user();
    const { tap, hold, begin } = thumb(user);
    await begin("And a second one?");
    await tap("Rose");
    await hold(1300);
    await tap("Passed");
    await tap("Put it in the log");
    await waiting(user, 2);
    await user.see(/2\s+entries kept in this browser/);
  });

  it("when the server answers again they are sent in order, each once, with their pictures", async () => {
    const user = demo.user();
    const before = 14;
    await demo.startServer();
    await waiting(user, 0);
    const file = await demo.exported("tern");
    const fresh = file.runs.filter((r) => r.number > before);
    expect(fresh.map((r) => r.purpose)).toEqual(["Does the nose stay down to 15 m/s?", "And a second one?"]);
    const [first, second] = fresh;
    expect(first?.moments.map((m) => [m.kind, m.mark])).toEqual([
      ["mark", "rose"],
      ["mark", "nose-up"],
      ["words", ""],
      ["pack in", ""],
      ["photo", ""],
      ["mark", "settled"],
    ]);
    expect(first?.moments.every((m, i, all) => i === 0 || m.seconds >= (all[i - 1]?.seconds ?? 0))).toBe(true);
    expect(first?.moments[3]?.pack).toEqual({ name: "P-02", resting: 12.4, loaded: 11.1 });
    const picture = first?.moments[4]?.files[0];
    expect(file.files.map((f) => f.hash)).toEqual([picture?.hash]);
    expect(first).toMatchObject({ outcome: "partly", pack: { endVoltage: 11.6 }, goneOn: "short and low, as before" });
    expect(first?.seconds).toBeGreaterThan(1);
    expect(first?.gates.find((g) => g.gate.metric === "noseAngle")).toMatchObject({
      result: "failed",
      value: expect.closeTo((9 * Math.PI) / 180, 6),
    });
    expect(second?.locks.length).toBeGreaterThan(0);
  });

  it("times the laps of a course by one key, and begins with the first of them", async () => {
    const user = demo.user();
    await user.open("/field/tern/v4");
    const { tap, hold, begin } = thumb(user);
    await user.fill("Course, if laps of it are to be compared", "Pegs across the bay");
    await user.fill("Pack", "P-03");
    await begin("How even are the laps?");
    await tap("begin the first lap");
    await wait(1000);
    await tap("Lap 1 done");
    await wait(600);
    await tap("Lap 2 done");
    await hold(1300);
    await user.see(/2 laps of Pegs across the bay/);
    await tap("Passed");
    await tap("Put it in the log");
    await user.see("is in the log.");
    const run = (await demo.exported("tern")).runs.at(-1);
    expect(run).toMatchObject({ course: "Pegs across the bay", laps: [{ pack: "P-03" }, { pack: "P-03" }] });
    const times = run?.laps.map((l) => l.values.lapTime ?? 0) ?? [];
    expect(times[0]).toBeGreaterThan(0.9);
    expect(times[1]).toBeGreaterThan(0.5);
    expect(times[0]).toBeLessThan(6);
  });

  it("a run logged at the desk is kept as well while nothing answers, and stands in the log once", async () => {
    const user = demo.user();
    await user.page.setViewport({ width: 1280, height: 800 });
    await user.open("/craft/tern/v4/runs?log=new");
    await user.choose("Rung", "1 Power off");
    await user.choose("Outcome", "passed");
    await user.fill("Purpose of this run", "Still straight?");
    await user.click("Add a moment");
    await user.fill("Moment 1, after", "2 min");
    await user.choose("Moment 1, mark", "Smell or smoke");
    await demo.stopServer();
    await user.click("Log this run");
    await user.see("Cannot reach the server: the run is kept in this browser");
    await waiting(user, 1);
    await user.click("1 entry kept in this browser, sent when the server answers");
    await user.see(/Still straight\?.*v4, rung 1/);
    await user.page.keyboard.press("Escape");
    await demo.startServer();
    await waiting(user, 0);
    const runs = (await demo.exported("tern")).runs.filter((r) => r.purpose === "Still straight?");
    expect(runs.length).toBe(1);
    expect(runs[0]?.moments).toMatchObject([{ seconds: 120, mark: "smoke", kind: "mark" }]);
    await user.page.setViewport(PHONE);
  });

  it("an entry outlives the page in which it was made", async () => {
    const user = await demo.another();
    await user.page.setViewport(PHONE);
    await user.open("/field/tern/v4");
    const { tap, hold, begin } = thumb(user);
    await begin("Kept over night?");
    await hold(1300);
    await demo.stopServer();
    await tap("Passed");
    await tap("Put it in the log");
    await waiting(user, 1);
    await user.page.close();
    await demo.startServer();
    const next = await demo.another();
    // In one step it went out of the log and into what waits: it is never in both.
    await next.page.setViewport(PHONE);
    await next.open("/field/tern/v4");
    await next.page.waitForSelector('[aria-label="Before the start"]');
    await next.open("/");
    await waiting(next, 0);
    await wait(500);
    const file = await demo.exported("tern");
    expect(file.runs.filter((r) => r.purpose === "Kept over night?").length).toBe(1);
    await next.page.close();
  });

  it("takes what was read of each drive, and says at once which one differs", async () => {
    const user = demo.user();
    await user.page.setViewport(PHONE);
    await user.open("/field/lantern/v2");
    const { tap, hold, begin } = thumb(user);
    await begin("Do the fans pull alike?");
    await hold(1300);
    await user.page.$eval("details summary", (e) => (e as HTMLElement).click());
    await user.fill("Side fans 1, current", "8.1");
    await user.fill("Side fans 2, current", "0");
    await user.see(/Side fans 2 gives nothing: 0\.0\sA where its like read 8\.1\sA; dead or unplugged/);
    await user.fill("Side fans 1, rpm", "-5");
    await user.see(/Accepted: 0\srpm to 1/);
    await user.fill("Side fans 1, rpm", "");
    await user.fill("Side fans 1, temperature", "-300");
    await user.see(/Accepted: −60\s°C to 400\s°C/);
    await user.fill("Side fans 1, temperature", "");
    expect(await user.page.evaluate(() => document.documentElement.scrollWidth)).toBeLessThanOrEqual(390);
    await tap("Aborted");
    await tap("Put it in the log");
    await user.see("is in the log.");
    const run = (await demo.exported("lantern")).runs.at(-1);
    expect(run?.perDrive.map((d) => [d.copy, d.current, d.rpm])).toEqual([
      [1, 8.1, null],
      [2, 0, null],
    ]);
    await user.page.setViewport({ width: 1280, height: 800 });
    await user.open(`/craft/lantern/v2/runs?run=${run?.number}`);
    await user.page.waitForSelector('[data-odd="gives nothing"]');
    await user.click("Edit");
    await user.fill("Side fans 2, current", "8.3");
    await user.click("Save");
    await user.page.waitForFunction(() => document.querySelector("[data-odd]") === null);
    await user.page.setViewport(PHONE);
  });

  it("opens without a server once it was opened, and what is logged then is sent later", async () => {
    const user = await demo.another();
    await user.page.setViewport(PHONE);
    await user.open("/field/tern/v4");
    await user.page.waitForFunction(() => navigator.serviceWorker.ready.then(() => true));
    await demo.stopServer();
    await user.page.goto("about:blank");
    await user.open("/field/tern/v4");
    await user.see("Cannot reach the server: this is the craft as it was read last.");
    await user.see("Locked:");
    const { tap, hold, begin } = thumb(user);
    await begin("With no server anywhere?");
    await tap("Rose");
    await hold(1300);
    await tap("Partly successful");
    await tap("Put it in the log");
    await waiting(user, 1);
    // A version whose page was never opened here is not made up.
    await user.open("/field/tern/v1");
    await user.see("Cannot reach the server.");
    await demo.startServer();
    await waiting(user, 0);
    const file = await demo.exported("tern");
    expect(file.runs.filter((r) => r.purpose === "With no server anywhere?").length).toBe(1);
    await user.open("/field/tern/v99");
    await user.see("There is no version v99 of Tern.");
    await user.page.close();
  });

  it("is small: script and style of it are sent in less than 200 kB", async () => {
    const page = await (await fetch(`${demo.address()}/field/tern/v4`)).text();
    const files = [...new Set([...page.matchAll(/\/assets\/[\w.-]+/g)].map(([path]) => path))];
    let sent = 0;
    for (const path of files)
      sent += gzipSync(new Uint8Array(await (await fetch(demo.address() + path)).arrayBuffer())).length;
    expect(files.length).toBeGreaterThan(2);
    expect(sent).toBeGreaterThan(50_000);
    expect(sent).toBeLessThan(200_000);
  });

  it("after a crash the evidence stands before everything else, in its order, here and at the desk", async () => {
    const user = demo.user();
    await user.page.setViewport(PHONE);
    await user.open("/field/tern/v4");
    const { tap, hold, begin } = thumb(user);
    await begin("Faster?");
    await tap("Struck");
    await hold(1300);
    await user.page.click("section[aria-label='How it went'] input[type=checkbox]");
    await user.see("Evidence first, in this order");
    expect(await user.page.$('[aria-label="Outcome"]')).toBeNull();
    expect(
      await user.page.$$eval("[data-step] input", (list) => list.map((e) => (e as HTMLInputElement).disabled)),
    ).toEqual([false, true, true, true, true]);
    await user.page.click('[data-step="safe"] input');
    await user.page.waitForFunction(
      () => !(document.querySelector('[data-step="log"] input') as HTMLInputElement).disabled,
    );
    await tap("It cannot be done now");
    expect(await user.page.$eval('[aria-label="Outcome"] [aria-pressed="true"]', (e) => e.textContent)).toBe("Failed");
    await tap("Put it in the log");
    await user.see("is in the log.");

    await user.page.setViewport({ width: 1280, height: 800 });
    await user.open("/craft/tern/v4/layout");
    await user.see("evidence first");
    await user.see(/Run \d+ crashed: secure the evidence first/);
    await user.station("6");
    await user.see("crashed: evidence first");
    for (const step of ["log", "photographs", "unmoved", "suspects"]) {
      await user.page.waitForSelector(`[data-step="${step}"] input:not(:disabled)`);
      await user.page.click(`[data-step="${step}"] input`);
      await user.page.waitForSelector(`[data-step="${step}"] input:checked`);
    }
    await user.see("Not to be armed again before one suspect has been tested, and not near people");
    expect(await user.read("[data-rearm]")).toMatch(/Not to be armed/);
    const crash = (await demo.exported("tern")).runs.findLast((r) => r.crash)?.crash;
    expect(Object.values(crash?.steps ?? {})).toEqual([true, true, true, true, true]);
    await user.click("Record what was seen, and its suspects");
    await user.fill("What was seen, in a few words", "Propeller struck crust again");
    await user.choose("Symptom", "propeller-struck");
    await user.page.waitForSelector("[data-proposal]");
    expect(await user.page.$$eval('[aria-label="Proposed suspects"] li', (l) => l.length)).toBeGreaterThan(1);
  });
});
