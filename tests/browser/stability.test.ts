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
    await user.go("/craft/tern/v5/stability");
    expect(await user.read("[data-window]")).toMatch(/^2\d\d\? to 3\d\d mm$/);
    expect(await metric("staticMargin")).toBeGreaterThan(5);
    await user.page.click('[data-metric="neutralPoint"]');
    await user.see("x_n = −M_α / L_α");
    await user.see("Tailplane: place along x");
    await user.click("Close");
    // What builders know a tail and a fin by, with what decides.
    await user.go("/craft/tern/v5/stability?of=tailplane");
    await user.see("Tail volume");
    expect(await user.read('[aria-label="Surface"]')).toMatch(
      /Tail volume 0\.\d\d common practice 0\.3 to 0\.7; the margin decides/,
    );
    // Near the ice it has a height point, ahead of the neutral one.
    const at = (name: string) => user.page.$eval(`[data-point="${name}"] path`, (e) => e.getBoundingClientRect().x);
    expect(await at("height")).toBeLessThan(await at("neutral"));
  });
  it("while a tail is pulled its neutral point goes along, marked; once the hand rests it is told in full", async () => {
    await user.go("/craft/tern/v5/stability?of=tailplane");
    const neutral = await metric("neutralPoint");
    const box = await (await user.page.waitForSelector('[data-handle="span and sweep"]'))?.boundingBox();
    if (!box) throw new Error("no handle");
    const [x, y] = [box.x + box.width / 2, box.y + box.height / 2];
    await user.page.mouse.move(x, y);
    await user.page.mouse.down();
    const seen: number[] = [];
    // A hand that does not rest: nothing is told in full meanwhile.
    for (let k = 0; k < 200 && seen.length < 3; k++) {
      await user.page.mouse.move(x + (k % 2), y - Math.min(30, k));
      const late = await user.page.$eval('[data-metric="neutralPoint"]', (e) =>
        e.hasAttribute("data-late") ? Number.parseFloat(e.textContent ?? "") : Number.NaN,
      );
      if (late > (seen.at(-1) ?? neutral)) seen.push(late);
    }
    expect(seen.length).toBe(3);
    await user.page.mouse.up();
    await user.page.waitForSelector('[data-metric="neutralPoint"]:not([data-late])');
    expect(await metric("neutralPoint")).toBeGreaterThan(neutral);
    await user.saved();
    await user.click("Undo");
    await user.page.waitForFunction(
      (was) => Number.parseFloat(document.querySelector('[data-metric="neutralPoint"]')?.textContent ?? "") === was,
      {},
      neutral,
    );
    await user.saved();
  });
  it("a tail is moved and grown where it is drawn: the window follows, and undo brings it back", async () => {
    const before = await demo.design("tern");
    await user.go("/craft/tern/v5/stability?of=tailplane");
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
    await user.go("/craft/tern/v5/stability?of=tailplane");
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
    await user.go("/craft/tern/v5/stability?sheet=flight");
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
    await user.go("/craft/samphire/v2/stability");
    await user.see("No wing is described yet");
    await user.see("it is not held up by wings");
    await user.click("fin");
    await user.page.waitForSelector('[data-surface][data-view="side"]');
    expect(await user.page.$('[data-metric="staticMargin"]')).toBeNull();
    await user.saved();
    await user.go("/craft/samphire/v2/stability?sheet=bodies");
    await user.click("Add a body");
    await user.page.waitForSelector('section[aria-label="Body"]');
    await user.fill("Body, frame 1, x aft", "9 m");
    await user.see("each frame must stand behind the one before");
    await user.saved();
    await user.go("/craft/samphire/v2/layout");
    expect(await user.page.$$eval('[data-shapes="side"] path', (l) => l.length)).toBeGreaterThanOrEqual(2);
    await user.go("/craft/samphire/v2/stability?sheet=bodies");
    await user.click("remove Body");
    await user.saved();
    await user.go("/craft/samphire/v2/stability");
    await user.click("remove Fin");
    await user.saved();
    await user.see("No wing is described yet");
  });
  it("a ring is one diameter and a chord", async () => {
    const before = await demo.design("annulus");
    await user.go("/craft/annulus/v2/stability");
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
    await user.go("/craft/tern/v5/bench?new=glide");
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
    await user.go("/craft/tern/v5/bench");
    await user.see("Glide, 2 passes");
    await user.go("/craft/tern/v5/power");
    await user.click("forget it");
    await user.saved();
    expect(await demo.design("tern")).toEqual(before);
  });
  it("says of rotors what they command, and what a dead one leaves", async () => {
    await user.go("/craft/annulus/v2/stability");
    expect(await user.read('[data-axis="roll"]')).toMatch(/never had –$/);
    expect(await user.read('[data-axis="yaw"]')).toMatch(/holds 0\.0\d+ N·m$/);
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
  it("what turns it stands against what answers, at three moments; open while wings may be missing", async () => {
    const lineOf = (axis: string) =>
      user.page.$eval(`[data-axis-line="${axis}"]`, (e) => (e as HTMLElement).dataset.word);
    await user.go("/craft/tern/v5/stability");
    await user.see("What turns it, and what answers");
    expect(await lineOf("roll")).toBe("never had");
    expect(await user.read('[data-axis-line="roll"]')).toMatch(/motor torque, port down 0\.1\d+ ± 0\.0\d+ N·m/);
    expect(await lineOf("pitch")).toBe("thin");
    await user.click("slow flight");
    expect(await lineOf("pitch")).toBe("holds");
    await user.click("throttle closed");
    expect(await user.read('[data-axis-line="pitch"]')).toMatch(/thrust line, nose up/);
    expect(await user.read('[data-axis-line="roll"]')).not.toMatch(/motor torque/);
    // Nothing holds for certain while a fin may be missing.
    await user.go("/craft/tern/v5/stability?sheet=flight");
    const whole = await user.page.$$('xpath/.//label[contains(., "All")]//input[@type="checkbox"]');
    if (whole[0]) {
      await whole[0].click();
      await user.page.waitForFunction(
        () => document.querySelector('[data-axis-line="pitch"]')?.getAttribute("data-word") === "open",
      );
      await user.click("Undo");
      await user.saved();
    }
  });
  it("a drive struck dead says what one would see of it, by keys too", async () => {
    await user.go("/craft/lantern/v2/stability");
    await user.see("What commands each axis");
    const lineOf = (axis: string) =>
      user.page.$eval(`[data-axis-line="${axis}"]`, (e) => (e as HTMLElement).dataset.word);
    expect(await lineOf("sway")).toBe("both ways");
    await user.click("Tail fan dead");
    await user.see(/What you would see: sideways, roll go/);
    expect(await lineOf("sway")).toBe("never had");
    expect(await user.read('[data-axis-line="sway"]')).toMatch(/gone \(was both ways\)/);
    await user.page.focus('[aria-label="Dead drive"] button');
    await user.page.keyboard.press("Enter");
    expect(await lineOf("sway")).toBe("both ways");
    await user.told("steers-by-thrust");
    await user.go("/craft/samphire/v2/stability");
    expect(await lineOf("sway")).toBe("never had");
    expect(await user.read('[data-axis-line="heave"]')).toMatch(/the ground/);
    await user.go("/craft/gannet/v1/stability");
    await user.see(/Open: .*Bilge pump without a place/);
  });
  it("the worst wind is named in Brief: what holding against it takes, and what it turns, stands here", async () => {
    await user.open("/craft/annulus/v2/stability?state=hover");
    await user.page.waitForSelector('[aria-label="In the wind"][data-held="hover"]');
    const calm = await metric("windShare");
    expect(await user.read('[data-wind-line="roll"]')).toContain("nothing answers");
    expect(await user.read('[data-wind-line="pitch"]')).toContain("holds");
    await user.page.waitForSelector('[aria-label="What its rotors store"][data-cancels="true"]');
    // A gale, typed with real keys: more of the thrust, and a verdict with a wind that it holds.
    await user.go("/craft/annulus/v2/brief?state=hover");
    await user.fill("Worst wind", "22 m/s");
    await user.saved();
    await user.told("wind-holds");
    await user.go("/craft/annulus/v2/stability?state=hover");
    await moved("windShare", calm);
    expect(await metric("windShare")).toBeGreaterThan(calm + 20);
    // None named: open, not calm.
    await user.go("/craft/annulus/v2/brief?state=hover");
    await user.fill("Worst wind", "0");
    await user.saved();
    await user.told("wind-holds", false);
    await user.go("/craft/annulus/v2/stability?state=hover");
    await user.see("No worst wind is named");
    expect(await user.page.$('[data-metric="windShare"]')).toBeNull();
    await user.click("Undo");
    await user.click("Undo");
    await user.saved();
  });
  it("near the ice it banks until a tip touches; away from it the turn is told with its drift", async () => {
    await user.go("/craft/tern/v5/stability");
    await user.see("a tip touches from");
    const tight = Number(await user.page.$eval("[data-tightest]", (e) => e.getAttribute("data-tightest")));
    expect(tight).toBeGreaterThan(25);
    expect(tight).toBeLessThan(60);
    await user.fill("Wanted radius of a turn", "-5");
    await user.see("Accepted: more than zero");
    await user.fill("Wanted radius of a turn", "10 m");
    await user.see("so little slip does not turn it so tight at that speed");
    await user.fill("Wanted radius of a turn", "50 m");
    await user.see(/in free air at the least \d+(\.\d)?° of the 20(\.0)?° of its rudder/);
    expect(await user.read('[data-push="pitch yaw"]')).toMatch(
      /pushes it about yaw with .* ± .*N·m, \d+ % of what answers/,
    );
    expect(await user.page.$('[data-metric="turnRadius"]')).toBeNull();
    // Its drag area was never entered: gear and struts are not in what thrust would have to hold.
    expect(await user.read("[data-turn]")).toMatch(/^\d+\.\d° \d+\.\d m\/s \d+\.\d m\/s \d+ m \d+ s \d+ m \d+ m open$/);
    await user.see("only wings and bodies are in its drag");
  });
  it("left to itself: what a lean and a swing do, at three speeds; not covered near the ground", async () => {
    await user.go("/craft/tern/v5/stability");
    await user.see("Not covered: so near the ground");
    await user.go("/craft/annulus/v2/stability");
    await (await user.page.waitForSelector('[data-state="wing"]'))?.click();
    await user.page.waitForSelector("[data-sideways]");
    expect(await user.page.$$eval("[data-sideways]", (l) => l.length)).toBe(3);
    // Its CG is behind what the ring holds, about both axes alike: a slip doubles in a blink.
    expect(await user.read("[data-sideways]")).toMatch(/doubles in 0\.\d+ s/);
    await (await user.page.waitForSelector('[data-state="usual"]'))?.click();
    await user.page.waitForFunction(() => !document.querySelector("[data-sideways]"));
  });
  it("stands on its feet: they are begun by one click, moved by keys, and what tips it over follows", async () => {
    await user.go("/craft/lantern/v2/stability");
    await user.page.waitForSelector('[data-stance="unsaid"]');
    await user.click("nose wheel and two");
    await user.page.waitForSelector('[data-stance="solved"] [data-metric="tipSlope"]');
    const rows = await user.page.$$eval("[data-over]", (l) => l.map((r) => r.getAttribute("data-over")));
    expect(rows).toContain("the tail");
    const side = () =>
      user.page.$$eval("[data-over]", (l) => l.find((r) => /side/.test(r.textContent ?? ""))?.textContent);
    const before = await side();
    await user.page.$eval('[aria-label="On the ground"] summary', (e) => (e as HTMLElement).click());
    await user.fill("Wheels, y", "900");
    await user.page.waitForFunction(
      (was: string | undefined) =>
        [...document.querySelectorAll("[data-over]")].find((r) => /side/.test(r.textContent ?? ""))?.textContent !==
        was,
      {},
      before ?? undefined,
    );
    // Its wheels far ahead of its CG: put down it falls over its tail, and is told.
    await user.fill("Wheels, x", "50");
    await user.see("Put down it falls over the tail");
    await user.told("stands-not");
    await user.click("Remove Wheels");
    await user.see("three points or more on the ground");
    await user.click("Remove Nose wheel");
    await user.page.waitForSelector('[data-stance="unsaid"]');
    await user.saved();
  });
  it(
    "says how long, how far and how steeply its drives carry it on its wings, and a run once the pull is " + "said",
    async () => {
      await user.go("/craft/tern/v5/stability");
      expect(await user.read('[aria-label="Under power"]')).toMatch(
        /\d+ ± \d+ min\? longest, at 1\d\.\d m\/s .* ± \d+ m\? farthest, .*run until it leaves the ground .* m\/s\? leaves the ground: full throttle, full nose up .* m\/s\? the nose comes up, by 4\.9° until “Hull” touches behind; without, it is carried from \d\d\.\d m\/s on/,
      );
      expect(await user.read('[aria-label="Speeds"]')).toMatch(
        /outside its method: \d+° nose up at the stall: at this height/,
      );
      // On the strip of speeds no name stands over another, however many and however narrow.
      for (const width of [390, 1280]) {
        await user.page.setViewport({ width, height: 800 });
        await user.page.waitForFunction(
          (narrow) =>
            (document.querySelector('[aria-label="Speeds of level flight"]')?.clientWidth ?? 0) < 400 === narrow,
          {},
          width < 400,
        );
        const boxes = await user.page.$$eval("[data-speed]", (l) =>
          l.map((e) => e.getBoundingClientRect()).map((b) => [b.left, b.right, b.top, b.bottom]),
        );
        expect(boxes.length).toBe(6);
        for (const [k, a] of boxes.entries())
          for (const b of boxes.slice(k + 1)) {
            const [over, beside] = [
              Math.min(a[3] as number, b[3] as number) - Math.max(a[2] as number, b[2] as number),
              Math.min(a[1] as number, b[1] as number) - Math.max(a[0] as number, b[0] as number),
            ];
            expect(over > 3 && beside > 0, `${width}: ${a} and ${b}`).toBe(false);
          }
      }
      // A working has the type of a sheet, whatever the size of the number that opened it.
      await user.page.click('[data-metric="noseUpSpeed"]');
      await user.see("about the hindmost feet, pitch control full up");
      expect(
        await user.page.$eval("dialog[open] td.num", (e) => Number.parseFloat(getComputedStyle(e).fontSize)),
      ).toBeLessThan(16);
      await user.page.keyboard.press("Escape");
      // Near the ice a climb leaves what carries it.
      expect(await user.page.$('[data-metric="climbRate"]')).toBeNull();
      await user.click("How it flies");
      const run = () => user.read('[data-metric="liftOffRun"]').then((t) => Number(/^\d+/.exec(t)?.[0]));
      const before = await run();
      await user.fill("Pull on the ground", "0.2");
      await user.page.waitForFunction(
        (was) =>
          Number(/^\d+/.exec(document.querySelector('[data-metric="liftOffRun"]')?.textContent ?? "")?.[0]) > was,
        {},
        before,
      );
      await user.fill("Pull on the ground", "");
      await user.see("say under How it flies how hard it is to pull");
      await user.click("Undo");
      await user.click("Undo");
      await user.saved();
    },
  );
  it("on foils the window of the CG is told, and waits for where the water stands", async () => {
    await user.go("/craft/gannet/v2/stability?state=foils");
    await user.page.waitForSelector("[data-waterline]");
    // No pitch control: what the margin asks for, and nothing of how far ahead it may be.
    const aft = () =>
      user.read("[data-window]").then((t) => Number(/^no farther aft than (\d+)/.exec(t)?.[1] ?? Number.NaN));
    const before = await aft();
    expect(before).toBeGreaterThan(400);
    // What its screw has against what the foils take, and against the hump before them.
    await user.page.waitForSelector('[data-foils="told"]');
    await user.see("foils and struts take at the least");
    // So near the surface and so slow it makes waves: how slow it is carried is not told, and no band says where it
    // flies.
    await user.see(/Below 1\.\d m\/s foils at that depth make waves.*how slow they carry it.*is open/);
    expect(await user.read('[aria-label="Speeds"]')).not.toMatch(/does not fly|Best glide/);
    // The waves of its brief come and go on the board; of none that break anything is told.
    await user.see(/of its weight comes and goes at 1\.\d m\/s/);
    expect(await user.read('[data-axis-line="pitch"]')).toMatch(/waves, as they come, nose up/);
    await user.station("1");
    await user.fill("Waves, crest to crest", "30 cm");
    await user.station("4");
    await user.see(/Open: .*waves break that are higher than a seventh of their length/);
    await user.click("Undo");
    await user.see(/of its weight comes and goes/);
    // Afloat it lies as deep as it weighs, and the water is drawn there.
    await user.click("afloat");
    await user.page.waitForSelector('[data-afloat="floats"]');
    await user.page.waitForSelector("[data-waterline]");
    expect(await user.read('[aria-label="Afloat"]')).toMatch(/from the lowest point of its hull.*settles by the stern/);
    expect(await user.read('[data-axis-line="yaw"] [data-flowed]')).toMatch(
      /no wash meets it.*with the throttle closed/,
    );
    await user.click("on the foils");
    await user.see("As if they made no waves: so slow they do");
    await user.see("From where the foils stop making waves.");
    // What turns it on them: the rudder is told, heel and pitch are open.
    await user.page.waitForSelector('[data-axis-line="yaw"][data-word="holds"]');
    await user.page.waitForSelector('[data-axis-line="roll"][data-word="open"]');
    await user.click("How it flies");
    await user.fill("Water on the foils", "");
    await user.see("Open: waits for: where the water stands on its foils");
    await user.fill("Water on the foils", "70 mm");
    await user.page.waitForSelector("[data-waterline]");
    // The main foil nearer to the surface carries less of what a change of pitch brings.
    expect(await aft()).toBeGreaterThan(before);
    await user.click("Undo");
    await user.click("Undo");
    await user.saved();
  });
  it("fits a phone", async () => {
    await user.page.setViewport({ width: 390, height: 844, hasTouch: true, isMobile: true });
    await user.go("/craft/tern/v5/stability");
    expect(await user.page.evaluate(() => document.documentElement.scrollWidth)).toBeLessThanOrEqual(390);
    await user.page.setViewport({ width: 1280, height: 800 });
  });
});
