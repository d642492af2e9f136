import { beforeAll, describe, expect, it } from "vitest";
import { demoInBrowser } from "../support/browser";
import type { User } from "../support/page";

const demo = demoInBrowser();
let user: User;
beforeAll(() => {
  user = demo.user();
});

const metric = async (key: string) => Number.parseFloat(await user.read(`[data-metric="${key}"]`));
/** Waits until a number of the page has moved from what it was, and is no longer that of before. */
const moved = (key: string, from: number) =>
  user.page.waitForFunction(
    (k, was) => {
      const e = document.querySelector(`[data-metric="${k}"]`);
      return e !== null && !e.hasAttribute("data-late") && Number.parseFloat(e.textContent ?? "") !== was;
    },
    {},
    key,
    from,
  );
const pull = async (selector: string, dx: number, dy: number) => {
  const box = await (await user.page.waitForSelector(selector))?.boundingBox();
  if (!box) throw new Error(`${selector} is not there`);
  const [x, y] = [box.x + box.width / 2, box.y + box.height / 2];
  await user.page.mouse.move(x, y);
  await user.page.mouse.down();
  for (let k = 1; k <= 5; k++) await user.page.mouse.move(x + (dx * k) / 5, y + (dy * k) / 5);
  await user.page.mouse.up();
};

describe("where the CG must be", () => {
  it("is said of the demo craft, with its neutral point and stall; the working opens", async () => {
    await user.open("/craft/tern/v5/stability");
    expect(await user.read("[data-window]")).toMatch(/^2\d\d to 3\d\d mm$/);
    expect(await metric("staticMargin")).toBeGreaterThan(5);
    await user.page.click('[data-metric="neutralPoint"]');
    await user.see("x_n = −M_α / L_α");
    await user.see("Tailplane: place along x");
    await user.click("Close");
    // Near the ice it has a height point, ahead of the neutral one.
    const at = (name: string) => user.page.$eval(`[data-point="${name}"] path`, (e) => e.getBoundingClientRect().x);
    expect(await at("height")).toBeLessThan(await at("neutral"));
  });
  it("a tail is moved and grown where it is drawn: the window follows, and undo brings it back", async () => {
    const before = await demo.design("tern");
    await user.open("/craft/tern/v5/stability?of=tailplane");
    const neutral = await metric("neutralPoint");
    await pull('[data-handle="span and sweep"]', 0, -25);
    await moved("neutralPoint", neutral);
    expect(await metric("neutralPoint")).toBeGreaterThan(neutral);
    await user.saved();
    const tail = (await demo.design("tern")).surfaces[1];
    expect(tail?.panels[0]?.span).toBeGreaterThan(before.surfaces[1]?.panels[0]?.span ?? 1);
    await user.click("Undo");
    await user.saved();
    expect(await demo.design("tern")).toEqual(before);
    // The same by keys, a millimetre a press.
    await user.page.$eval('[data-surface="tailplane"][data-view="top"]', (e) => (e as SVGElement).focus());
    for (let k = 0; k < 3; k++) await user.page.keyboard.press("ArrowRight");
    await user.saved();
    expect((await demo.design("tern")).surfaces[1]?.at.x).toBeCloseTo((before.surfaces[1]?.at.x ?? 0) + 0.003, 9);
    await user.click("Undo");
    await user.saved();
    expect(await demo.design("tern")).toEqual(before);
  });
  it("figures are typed, and what cannot be is refused at its field", async () => {
    await user.open("/craft/tern/v5/stability?of=tailplane");
    const neutral = await metric("neutralPoint");
    await user.fill("Panel 1, sweep", "95");
    await user.see("−80° to 80°");
    await user.fill("Panel 1, sweep", "30");
    await moved("neutralPoint", neutral);
    await user.fill("Elevator, travel up", "120");
    await user.see("0° to 90°");
    await user.fill("Elevator, travel up", "22");
    await user.fill("Elevator, from", "98");
    await user.see("it must end beyond where it begins");
    await user.fill("Elevator, from", "5");
    await user.fill("Panel 1, sweep", "8");
    await user.saved();
  });
  it("before all is said to be described nothing is held to be known, and one click says it", async () => {
    await user.open("/craft/tern/v5/stability?sheet=flight");
    await user.click("every wing, tail, fin and body is described");
    await user.told("wings-not-whole");
    await user.see("nothing is held to be known yet");
    await user.click("All are described");
    await user.told("wings-not-whole", false);
    await user.fill("Least static margin", "70 %");
    await user.see("1 to 50 %");
    await user.fill("Least static margin", "10 %");
    await user.saved();
    expect((await demo.design("tern")).flight.margin).toBeCloseTo(0.1, 9);
    await user.click("Undo");
    await user.saved();
  });
  it("begins with a picture on a craft without a wing; a body is added, and both are drawn in Layout too", async () => {
    await user.open("/craft/samphire/v2/stability");
    await user.see("No wing is described yet");
    await user.see("it is not held up by wings");
    await user.click("fin");
    await user.page.waitForSelector('[data-surface][data-view="side"]');
    expect(await user.page.$('[data-metric="staticMargin"]')).toBeNull();
    await user.saved();
    await user.open("/craft/samphire/v2/stability?sheet=bodies");
    await user.click("Add a body");
    await user.page.waitForSelector('section[aria-label="Body"]');
    await user.fill("Body, frame 1, x aft", "9 m");
    await user.see("each frame must stand behind the one before");
    await user.saved();
    await user.open("/craft/samphire/v2/layout");
    expect(await user.page.$$eval('[data-shapes="side"] path', (l) => l.length)).toBeGreaterThanOrEqual(2);
    await user.open("/craft/samphire/v2/stability?sheet=bodies");
    await user.click("remove Body");
    await user.saved();
    await user.open("/craft/samphire/v2/stability");
    await user.click("remove Fin");
    await user.saved();
    await user.see("No wing is described yet");
  });
  it("a ring is one diameter and a chord", async () => {
    const before = await demo.design("annulus");
    await user.open("/craft/annulus/v2/stability");
    await user.fill("Diameter", "260 mm");
    await user.saved();
    const ring = (await demo.design("annulus")).surfaces[0];
    expect(ring?.panels).toHaveLength(10);
    expect(ring?.panels.reduce((s, p) => s - p.span * Math.sin(p.dihedral), 0)).toBeCloseTo(0.26, 9);
    await user.click("Undo");
    await user.saved();
    expect(await demo.design("annulus")).toEqual(before);
  });
  it("a glide test is typed with real keys, kept, and its drag area taken over", async () => {
    const before = await demo.design("tern");
    await user.open("/craft/tern/v5/bench?new=glide");
    await user.page.waitForSelector('[aria-label="New pass, height lost"]');
    for (const [h, d, t] of [
      ["1.5", "5.2", "0.3"],
      ["1.2", "4.2", "0.24"],
    ]) {
      await user.page.click('[aria-label="New pass, height lost"]');
      for (const text of [h, d, t]) {
        await user.page.keyboard.type(text as string, { delay: 20 });
        await user.page.keyboard.press("Tab");
      }
    }
    await user.page.waitForSelector('[data-pass="2"]');
    expect(await user.read('[data-glide="glideRatio"]')).toMatch(/^3\.[45]/);
    await user.fill("New pass, distance", "-3");
    await user.see("More than zero");
    await user.click("Keep this session");
    await user.see("Glide, 2 passes");
    await user.click("Take it over");
    await user.saved();
    expect((await demo.design("tern")).dragArea).toMatchObject({ evidence: "measured" });
    await user.open("/craft/tern/v5/bench");
    await user.see("Glide, 2 passes");
    await user.open("/craft/tern/v5/power");
    await user.click("forget it");
    await user.saved();
    expect(await demo.design("tern")).toEqual(before);
  });
  it("says of rotors what they command, and what a dead one leaves", async () => {
    await user.open("/craft/annulus/v2/stability");
    expect(await user.read('[data-axis="roll"]')).toMatch(/never had$/);
    expect(await user.read('[data-axis="yaw"]')).toMatch(/holds$/);
    expect(await user.read('[data-unit-row="1"]')).toMatch(/6\d % comes down/);
    // What each unit answers goes out as a file, with the axes that nothing commands left empty.
    const kept = await user.page.evaluate(() => {
      const texts: Promise<string>[] = [];
      const real = URL.createObjectURL;
      URL.createObjectURL = (blob) => {
        texts.push((blob as Blob).text());
        return real(blob);
      };
      for (const b of document.querySelectorAll("button")) if (b.textContent === "allocation as CSV") b.click();
      URL.createObjectURL = real;
      return Promise.all(texts);
    });
    expect(kept).toHaveLength(1);
    expect(kept[0]).toMatch(/for yaw, nose to starboard \(share per N·m\)/);
    expect(kept[0]?.split("\n")[1]).toMatch(/,,,-?\d\.\d+$/);
    await user.page.click('[data-metric="hoverShare"]');
    await user.see("no moment about the CG");
    await user.click("Close");
    await user.told("axis-bare");
  });
  it("fits a phone", async () => {
    await user.page.setViewport({ width: 390, height: 844, hasTouch: true, isMobile: true });
    await user.open("/craft/tern/v5/stability");
    expect(await user.page.evaluate(() => document.documentElement.scrollWidth)).toBeLessThanOrEqual(390);
    await user.page.setViewport({ width: 1280, height: 800 });
  });
});
