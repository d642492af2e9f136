import { beforeAll, describe, expect, it } from "vitest";
import { demoInBrowser } from "../support/browser";
import type { User } from "../support/page";

const demo = demoInBrowser();
let user: User;
beforeAll(() => {
  user = demo.user();
});

describe("a drive of any principle", () => {
  const choose = (k: 0 | 1) =>
    user.page.$$eval('input[name^="known-"]', (list, n) => (list[n] as HTMLInputElement).click(), k);
  it("counts by what a scale said: typed with real keys, refused at its row, taken, and off again", async () => {
    const before = await demo.design("tern");
    await user.go("/craft/tern/v5/power");
    await user.page.waitForSelector('input[name^="known-"]');
    await choose(1);
    await user.page.waitForSelector('form[aria-label="Measured curve"]');
    await user.page.click("#curve-0-command");
    for (const [k, cell] of ["40", "", "100", "620"].entries()) {
      await user.page.keyboard.type(cell, { delay: 20 });
      if (k % 2 === 0) await user.page.keyboard.press("Tab");
      else await user.page.click(`#curve-${(k + 1) / 2}-command`);
    }
    await user.click("Use this curve");
    await user.page.waitForFunction(
      () => document.querySelector("[data-reading='1'] [role=alert]")?.textContent === "how much did it push?",
    );
    expect(await user.page.$eval("#curve-1-force", (e) => (e as HTMLInputElement).value)).toBe("620");
    expect((await demo.design("tern")).units[0]?.measured).toBeNull();
    await user.page.click("#curve-0-force");
    await user.page.keyboard.type("170");
    await user.click("Use this curve");
    await user.page.waitForFunction(() => /at least 3 different commands/.test(document.body.textContent ?? ""));
    // A block from a table, pasted where the second reading was.
    await user.page.$eval("#curve-1-command", (e) => {
      const data = new DataTransfer();
      data.setData("text", "70\t395\t9,1\t11.9\n100\t620\t17,8\t11.4\n");
      e.dispatchEvent(new ClipboardEvent("paste", { clipboardData: data, bubbles: true, cancelable: true }));
    });
    await user.page.$$eval("form[aria-label='Measured curve'] button", (list) =>
      (list.find((b) => b.textContent?.startsWith("as this pack")) as HTMLButtonElement).click(),
    );
    await user.click("Use this curve");
    await user.saved();
    const measured = (await demo.design("tern")).units[0]?.measured;
    expect(measured?.readings.map((r) => [r.command, Math.round(r.force / 0.00980665), r.current])).toEqual([
      [0.4, 170, null],
      [0.7, 395, 9.1],
      [1, 620, 17.8],
    ]);
    await user.page.waitForFunction(() =>
      /^6\.\d/.test(document.querySelector('[data-metric="thrust"]')?.textContent ?? ""),
    );
    // Current at two commands of three shows no curve: nothing of the pack is made up.
    expect(await user.page.$('[data-metric="packCurrent"]')).toBeNull();
    expect(await user.page.$eval("main", (m) => m.textContent)).toMatch(/What it draws was not read/);
    expect(await user.page.$('[aria-label="Motor Kv"]')).toBeNull();
    await choose(0);
    await user.page.waitForSelector('[aria-label="Motor Kv"]');
    await user.saved();
    expect(await demo.design("tern")).toEqual(before);
  });
  it(
    "in a box it is open until its openings are entered, then it says what they leave; several things at " + "once",
    async () => {
      const before = await demo.design("tern");
      const toggle = (word: string) =>
        user.page.$$eval(
          "fieldset[data-around] label",
          (l, w) =>
            l
              .find((x) => x.textContent === w)
              ?.querySelector("input")
              ?.click(),
          word,
        );
      const left = () => user.page.$eval("fieldset[data-around] > p b", (b) => Number.parseFloat(b.textContent ?? ""));
      await user.go("/craft/tern/v5/power");
      await user.page.waitForSelector("fieldset[data-works='in air']");
      await toggle("box or duct");
      await user.page.waitForFunction(() => !document.querySelector('[data-metric="thrust"]'));
      await user.told("drive-not-covered");
      // An area in the wrong unit would take nothing away: no opening is larger than the craft.
      await user.fill("Open before it, box or duct", "300 m²");
      await user.see(/Larger than the craft from any side\. Accepted: up to [\d.]+/);
      await user.fill("Open before it, box or duct", "300 cm²");
      await user.page.waitForFunction(() => document.querySelector('[data-metric="thrust"]'));
      expect(await user.page.$eval("fieldset[data-around]", (f) => f.textContent)).toMatch(/Leaves \d+ ± \d+ %/);
      await user.told("taken-by-around");
      const boxed = await left();
      // A second thing beside it: open until it is told, and both are counted.
      await toggle("ground near");
      await user.page.waitForFunction(() => !document.querySelector('[data-metric="thrust"]'));
      await user.fill("Height, ground near", "120");
      await user.page.waitForFunction(() => document.querySelector('[data-metric="thrust"]'));
      expect(await left()).toBeGreaterThan(boxed);
      // Beyond its method no share is shown, and it is said.
      await user.fill("Height, ground near", "2");
      await user.page.waitForSelector("fieldset[data-around] [data-outside]");
      expect(await user.page.$("fieldset[data-around] > p b")).toBeNull();
      await toggle("ground near");
      await user.click("Open before it, box or duct: not said");
      await user.page.waitForFunction(() => !document.querySelector('[data-metric="thrust"]'));
      await toggle("box or duct");
      await user.saved();
      expect((await demo.design("tern")).units[0]).toEqual(before.units[0]);
    },
  );
  it(
    "is chosen by picture: only its own fields stand there, a number that cannot be is refused, and back " + "again",
    async () => {
      const before = await demo.design("tern");
      await user.go("/craft/tern/v5/power");
      const turns = async (word: string) => {
        await user.page.waitForSelector("fieldset[data-turns]");
        await user.page.$$eval(
          "fieldset[data-turns] label",
          (l, w) =>
            l
              .find((e) => e.textContent?.trim() === w)
              ?.querySelector("input")
              ?.click(),
          word,
        );
      };
      const open = Number.parseFloat(await user.read('[data-metric="thrust"]'));
      await turns("ducted fan");
      await user.page.waitForSelector('[aria-label="Duct inside"]');
      expect(await user.page.$('[aria-label="Propeller diameter"]')).toBeNull();
      await user.fill("Duct inside", "70 mm");
      await user.page.waitForFunction(() =>
        /narrower than its fan/.test(document.querySelector("main")?.textContent ?? ""),
      );
      expect((await demo.design("tern")).units[0]?.propulsor).toMatchObject({ diameter: { value: 0.19 } });
      await user.fill("Hub", "30 mm");
      await user.fill("Duct inside", "70 mm");
      await user.fill("Pitch", "75 mm");
      await user.fill("Chord", "16 mm");
      await user.fill("Exit", "32 cm²");
      await user.page.waitForFunction(
        (was) => {
          const now = Number.parseFloat(document.querySelector('[data-metric="thrust"]')?.textContent ?? "");
          return now > 0 && now < 0.5 * was && !document.querySelector('[data-metric="thrust"][data-late]');
        },
        {},
        open,
      );
      await user.saved();
      expect((await demo.design("tern")).units[0]?.propulsor).toMatchObject({
        kind: "ducted fan",
        hub: { value: 0.03 },
        exit: { value: 0.0032, evidence: "measured" },
      });
      await turns("wheel or track");
      await user.page.waitForSelector('[aria-label="Rolling radius"]');
      // What it pushes on is the ground: where it works is not asked, and a skimmer over ice does not stand on wheels.
      expect(await user.page.$("fieldset[data-works]")).toBeNull();
      await user.page.waitForSelector('[data-code="drive-not-covered"]');
      await turns("open propeller");
      await user.page.waitForSelector('[aria-label="Propeller diameter"]');
      await user.saved();
      expect(await demo.design("tern")).toEqual(before);
    },
  );
  it("says what its motor gives by itself, and the reduction for a wanted rate", async () => {
    await user.go("/craft/tern/v5/power");
    expect(await user.read("[data-alone]")).toMatch(/free [\d\s ]+ rpm; wastes least at .*held still/);
    await user.fill("Rate to turn at", "600 rpm");
    await user.see(/a reduction of \d+(\.\d)? : 1/);
    await user.click("Gear it so");
    await user.saved();
    const ratio = (await demo.design("tern")).units[0]?.gear.ratio ?? 0;
    expect(ratio).toBeGreaterThan(20);
    expect(ratio).toBeLessThan(40);
    await user.click("Undo");
    await user.saved();
  });
  it(
    "has its units placed one by one, in numbers and with the pointer; the verdict and the ledger's way " + "come back",
    async () => {
      const before = await demo.design("lantern");
      await user.go("/craft/lantern/v2/power");
      expect(await user.read("[data-places]")).toMatch(/Placed by “Side fans” in the mass list, half on each side/);
      await user.click("Place each one");
      await user.page.waitForSelector('[data-places="2"]');
      await user.told("thrust-beside", false);
      await user.fill("Unit 2, y", "-100");
      await user.page.waitForSelector('[data-code="thrust-beside"]');
      await user.fill("Unit 1, raised", "95");
      await user.page.waitForFunction(() => /−90° to 90°/.test(document.querySelector("main")?.textContent ?? ""));
      await user.fill("Unit 1, raised", "10");
      await user.saved();
      const [one, two] = (await demo.design("lantern")).units[0]?.places ?? [];
      expect(two?.at.y).toBeCloseTo(-0.1, 9);
      expect(one?.toward.z).toBeCloseTo(Math.sin(Math.PI / 18), 9);
      await user.go("/craft/lantern/v2/layout");
      const handle = await user.page.waitForSelector('[data-unit="0-1"]');
      const box = await handle?.boundingBox();
      if (!box) throw new Error("no handle");
      const [x, y] = [box.x + box.width / 2, box.y + box.height / 2];
      await user.page.mouse.move(x, y);
      await user.page.mouse.down();
      await user.page.mouse.move(x + 20, y, { steps: 4 });
      await user.page.mouse.up();
      await user.saved();
      const moved = (await demo.design("lantern")).units[0]?.places[1]?.at;
      expect(moved?.x ?? 0).toBeGreaterThan((two?.at.x ?? 0) + 0.01);
      await user.click("Undo");
      await user.saved();
      expect((await demo.design("lantern")).units[0]?.places[1]?.at).toEqual(two?.at);
      await user.go("/craft/lantern/v2/power");
      await user.fill("Unit 1, raised", "0");
      await user.click("back to the mass list");
      await user.saved();
      expect(await demo.design("lantern")).toEqual(before);
    },
  );
});
