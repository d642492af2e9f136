import { join } from "node:path";
import type { ElementHandle } from "puppeteer-core";
import { beforeAll, describe, expect, it } from "vitest";
import { demoInBrowser } from "../support/browser";
import { type User, settled } from "../support/page";
import { root } from "../support/spawn";

const demo = demoInBrowser();
let user: User;
beforeAll(() => {
  user = demo.user();
});

describe("series", () => {
  it("two versions on one course are told apart, with what else could be the cause", async () => {
    await user.go("/craft/tern/v4/runs");
    await user.click("Compare series");
    await user.see(/Energy used is \d+\.\d % higher on v4 than on v3: between/);
    await user.page.waitForSelector('[data-confounder="changes"]');
    await user.page.waitForSelector('[data-confounder="days"]');
    expect(await user.read('[data-lap="7.5"]')).toContain("low pack");
    await user.choose("Taken", "per minute");
    await user.see(/Energy used per minute is/);
    await user.choose("Taken", "per ampere-hour");
    await user.see("Two laps or more of each are needed: 0 of v3 and 0 of v4 count.");
    await user.choose("Taken", "per lap");
    // A lap left out by hand is out, until it is counted again; the record keeps it.
    const lap = await user.page.waitForSelector('[data-lap="12.1"]');
    await (await lap?.$("button"))?.click();
    await user.page.waitForFunction(() =>
      document.querySelector('[data-lap="12.1"]')?.textContent?.includes("left out by hand"),
    );
    expect((await demo.exported("tern")).runs.find((r) => r.number === 12)?.laps[0]?.out).toBe("left out by hand");
    await (await (await user.page.waitForSelector('[data-lap="12.1"]'))?.$("button"))?.click();
    await user.page.waitForFunction(
      () => !document.querySelector('[data-lap="12.1"]')?.textContent?.includes("left out by hand"),
    );
  });
  it("laps are read from a file: what is refused and doubtful is named by its line, then they are compared", async () => {
    await user.go("/craft/annulus/v2/runs?series=1");
    await user.see("No series yet");
    await user.click("Read laps from a file");
    const input = (await user.page.waitForSelector('input[aria-label="Lap file"]')) as ElementHandle<HTMLInputElement>;
    await input.uploadFile(join(root, "tests/samples/runs-gannet.csv"));
    await user.see("24 laps, 2 refused, 3 doubtful.");
    await user.see("Line 14: Wh is -0.400: accepted is zero or more");
    await user.see(/Line 23: .*no Wh in this lap \(aborted\)/);
    await user.see("Line 11: lap 8: pack low at the start (14.16 V): not comparable");
    await user.see("Not yet: name the course.");
    await user.fill("Course", "Three buoys");
    await user.see("Not yet: read the cautions of this craft first.");
    const box = await user.page.$$('xpath/.//label[contains(., "The cautions of this craft were read")]/input');
    await box[0]?.click();
    await user.choose("Version A is", "v1");
    await user.choose("Version B is", "v1");
    await user.see("Not yet: each version of the list is another version of the craft.");
    await user.choose("Version B is", "v2");
    await user.click("Take 24 laps");
    await user.see("24 laps of Three buoys are in the log.");
    // The truth that the file was made from: 8.64 % less, between 7.18 and 10.11 %.
    await user.see("Energy used is 8.6 % lower on v2 than on v1: between 7.2 and 10.1 % (95 %).");
    // What only some ask for stands folded.
    await user.page.$eval("[data-welch] summary", (e) => (e as HTMLElement).click());
    await user.see("t -11.76, 18.0 degrees of freedom, p below 0.0001 (Welch). With the low packs in: t -6.81.");
    const { runs, versions } = await demo.exported("annulus");
    expect(runs.filter((r) => r.course === "Three buoys").map((r) => [r.version, r.laps.length])).toEqual([
      ["v1", 12],
      ["v2", 12],
    ]);
    expect(versions.at(-1)?.frozenAt).not.toBeNull();
  });
});

describe("checklists", () => {
  it("say not yet until what must be done is ticked; ticks last the day, and print", async () => {
    await user.go("/craft/tern/v4/runs");
    await user.click("Checklists");
    await user.see("Not yet: ");
    await user.see("Changed since v3: Fin and tailplane");
    await user.page.$$eval("[data-check] input:not(:checked)", (list) =>
      list.forEach((e) => void (e as HTMLElement).click()),
    );
    for (let k = 0; k < 30 && (await user.page.$("[data-check] input:not(:checked)")); k++)
      await (await user.page.$("[data-check] input:not(:checked)"))?.click();
    await user.see("All done");
    await user.page.reload({ waitUntil: "domcontentloaded" });
    await settled(user.page);
    await user.see("All done");
    await user.click("untick all");
    await user.page.waitForSelector('[data-ready="not yet"]');
    await user.click("after a crash");
    await user.see("Photograph it as it lies");
    expect(await user.page.$$eval(".print-only tbody tr", (rows) => rows.length)).toBeGreaterThan(5);
  });
});

describe("claims", () => {
  it(
    "are settled by what was measured: unclear from one repeat each, or not measured; several changes get " +
      "no credit",
    async () => {
      const verdicts = new Set<string>();
      for (const v of ["v2", "v3", "v3b", "v4"]) {
        await user.go(`/craft/tern/${v}/versions`);
        await user.page.waitForSelector("[data-claim]");
        for (const verdict of await user.page.$$eval("[data-claim]", (l) =>
          l.map((e) => e.getAttribute("data-claim") ?? ""),
        ))
          verdicts.add(verdict);
      }
      expect([...verdicts].sort()).toEqual(["not measured", "unclear"]);
      expect(await user.read("[data-credit]")).toMatch(
        /7 things were changed at once: the effect is credited to none of them\..*cheapest first: .*\(about 5 min\)/,
      );
      await user.go("/craft/tern/v2/versions");
      await user.see("nobody knows how far repeats scatter");
    },
  );
});

describe("on a phone", () => {
  it.each(["runs?series=1", "runs?list=at+the+site", "versions"])("%s fits 390 × 844", async (path) => {
    await user.page.setViewport({ width: 390, height: 844 });
    await user.go(`/craft/tern/v4/${path}`);
    await user.see("Verdicts");
    expect(
      await user.page.evaluate(() =>
        Math.max(document.documentElement.scrollWidth, document.querySelector("main")?.scrollWidth ?? 0),
      ),
    ).toBeLessThanOrEqual(390);
    expect(demo.pageErrors).toEqual([]);
  });
});
