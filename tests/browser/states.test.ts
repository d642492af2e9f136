import { beforeAll, describe, expect, it } from "vitest";
import { inState } from "../../core/design/inState";
import { type Design, plainState } from "../../core/design/schema";
import { openCraftFile } from "../../core/design/openFile";
import { evaluate } from "../../core/evaluate";
import { demoInBrowser } from "../support/browser";
import type { User } from "../support/page";

const demo = demoInBrowser();
let user: User;
beforeAll(() => {
  user = demo.user();
});

/** The state whose button on the strip is pressed. */
const looked = () => user.read('[aria-label="State"] [aria-pressed="true"]');
const look = async (name: string) => {
  await user.page.evaluate((n) => {
    const found = [...document.querySelectorAll<HTMLElement>('[aria-label="State"] button')].find((b) =>
      b.textContent?.startsWith(n),
    );
    if (!found) throw new Error(`no state ${n}`);
    found.click();
  }, name);
  await user.page.waitForFunction(
    (n) => document.querySelector('[aria-label="State"] [aria-pressed="true"]')?.textContent?.startsWith(n),
    {},
    name,
  );
};
const design = async (slug: string, label: string) => {
  const read = openCraftFile(await demo.exported(slug));
  if (!read.ok) throw new Error(JSON.stringify(read.problems));
  const found = read.file.versions.find((v) => v.label === label)?.design;
  if (!found) throw new Error("no version");
  return found;
};

describe("a craft with several states", () => {
  it("tells each by itself: what holds it up, verdicts, thrust, and how many stops the other has", async () => {
    await user.go("/craft/annulus/v2/stability");
    expect(await looked()).toMatch(/^hover/);
    await user.see("Hardest unit in hover");
    await user.see(/\d+ ± \d+ % with \d+ % left in its pack/);
    await user.see("Verdicts, hover");
    await user.page.waitForSelector('[data-state="wing"] .text-stop');
    await look("on the wing");
    await user.see("Static margin");
    await user.see("Verdicts, on the wing");
    await user.told("behind-wings");
    // It is the one that is looked at on every page, and after the page is loaded anew.
    await user.station("3");
    expect(await looked()).toMatch(/^on the wing/);
    await user.page.reload();
    await user.see("Verdicts, on the wing");
    // An address names it too.
    await user.go("/craft/annulus/v2/layout?state=usual");
    expect(await looked()).toMatch(/^hover/);
  });

  it("between hover and wing it is said what carries, and drawn over speed and raise", async () => {
    await user.go("/craft/annulus/v2/stability");
    await user.page.waitForSelector('[data-corridor="solved"]');
    await user.see("The CG stays where it is");
    await user.see(/thin between .* m\/s/);
    expect(await user.page.$$eval('[data-corridor="solved"] svg path', (all) => all.length)).toBeGreaterThan(8);
  });

  it("a duty over both is told in each, and lasts together", async () => {
    await user.go("/craft/annulus/v2/power");
    await user.page.waitForSelector('[data-mission="solved"]');
    expect(await user.read('[data-mission="solved"]')).toMatch(/Together it lasts \d/);
    await user.choose("Along the field, in the state", "hover");
    await user.page.waitForFunction(() => !document.querySelector("[data-mission]"));
    await user.click("Undo");
    await user.page.waitForSelector('[data-mission="solved"]');
  });
});

describe("a craft that gets another state", () => {
  it("begins as the one that it has; what differs is entered in words and numbers, and computed", async () => {
    await user.go("/craft/lantern/v2/brief");
    expect(await user.page.$('[aria-label="State"]')).toBeNull();
    await user.click("It has other states too: hover and cruise, folded, afloat and aground …");
    await user.page.waitForSelector('[aria-label="State"]');
    expect(await looked()).toMatch(/^State 2/);
    await user.fill("Name of the state", "gondola off");
    await user.page.waitForFunction(() =>
      document.querySelector('[aria-label="State"] [aria-pressed="true"]')?.textContent?.startsWith("gondola off"),
    );
    const weight = async () => {
      const { metrics } = evaluate(inState(await design("lantern", "v2"), "s2"));
      return metrics.auw?.value ?? 0;
    };
    await user.saved();
    const before = await weight();
    await user.page.$eval('[aria-label="States"] details', (d) => d.setAttribute("open", ""));
    const gone = await user.page.$eval('[aria-label="A part is not aboard"]', (s) => {
      const option = [...(s as HTMLSelectElement).options].find((o) => o.value === "pack" || /atter|ack/.test(o.text));
      return option?.text ?? "";
    });
    expect(gone).not.toBe("");
    await user.choose("A part is not aboard", gone);
    await user.page.waitForSelector("[data-without]");
    await user.saved();
    expect(await weight()).toBeLessThan(before);
    await look("as it is used");
    await user.page.waitForFunction(() => !document.querySelector("[data-without]"));
    const kept = await design("lantern", "v2");
    expect(kept.states.map((s) => s.name)).toEqual(["as it is used", "gondola off"]);
    expect(kept.states[1]?.without.length).toBe(1);
    expect(kept.states[1]?.heldUpBy).toEqual(kept.states[0]?.heldUpBy);
  });

  it("a part drawn where the state puts it is moved there alone, by its keys", async () => {
    await user.go("/craft/samphire/v2/layout?state=afloat");
    const before = await design("samphire", "v2");
    const part = '[data-part="camera-on-a-stalk"][data-view="side"]';
    await user.page.waitForSelector(part);
    await user.page.$eval(part, (e) => (e as SVGElement).focus());
    for (let k = 0; k < 5; k++) await user.page.keyboard.press("ArrowUp");
    const by = (d: typeof before) => d.states[1]?.moved[0]?.by.z ?? 0;
    await expect
      .poll(async () => by(await design("samphire", "v2")) - by(before), { timeout: 20_000 })
      .toBeCloseTo(0.005, 6);
    expect((await design("samphire", "v2")).items).toEqual(before.items);
  });

  it("a run is about the state that is looked at, and climbs that ladder alone", async () => {
    await user.go("/craft/samphire/v2/runs?state=afloat");
    await user.see("Tub");
    await user.click("Log the first run");
    await user.fill("Purpose of this run", "Does the creek lift it?");
    await user.choose("Outcome", "passed");
    await user.click("Log this run");
    await user.see(/Run \d+/);
    const file = await demo.exported("samphire");
    const logged = file.runs.at(-1);
    expect(logged).toMatchObject({ version: "v2", state: "afloat", stage: 1 });
    await user.see("afloat");
    await look("aground");
    await user.page.waitForFunction(
      () => document.querySelectorAll('[aria-label="Test ladder"] [data-run]').length === 0,
    );
  });

  it("a state is removed with what was its own, after a question, and comes back by undo", async () => {
    await user.go("/craft/gannet/v2/brief?state=foils");
    // Every question of a page is answered with yes here: what it asked is looked at.
    const asked = new Promise<string>((done) => user.page.once("dialog", (d) => done(d.message())));
    await user.click("remove it");
    expect(await asked).toMatch(/on the foils.*1 phase of the duty/);
    await user.page.waitForFunction(() => !document.querySelector('[aria-label="State"]'));
    await user.saved();
    expect((await design("gannet", "v2")).states.length).toBe(1);
    await user.click("Undo");
    await user.page.waitForSelector('[aria-label="State"]');
    await user.saved();
    const back = await design("gannet", "v2");
    expect(back.states.map((s) => s.name)).toEqual(["afloat", "on the foils"]);
    expect(back.transitions.length).toBe(1);
  });

  it("a state without any part, drive or wing opens on every page and says what is missing", async () => {
    const held = (await (await fetch(`${demo.address()}/api/crafts/tern`)).json()) as {
      revisions: { versions: Record<string, number> };
      file: { versions: { label: string; design: Design }[] };
    };
    const own = held.file.versions.find((v) => v.label === "v5")?.design;
    if (!own) throw new Error("no version");
    own.states.push({
      ...plainState("bare", "bare", ["rotors"]),
      without: own.items.map((i) => i.id),
      units: own.units.map((u) => ({ id: u.id, resting: true, turned: 0, works: null, on: null })),
      surfaces: own.surfaces.map((s) => ({ id: s.id, away: true, turned: 0, works: null })),
    });
    const saved = await fetch(`${demo.address()}/api/crafts/tern/versions/v5/design`, {
      method: "PUT",
      headers: { "content-type": "application/json" },
      body: JSON.stringify({ revision: held.revisions.versions.v5, design: own }),
    });
    expect(saved.status).toBe(200);
    for (const at of [
      "brief",
      "layout",
      "power",
      "power?sheet=search",
      "power?sheet=loop",
      "power?sheet=whatif",
      "power?sheet=generic",
      "stability",
      "bench",
      "runs",
      "faults",
      "versions?report=1",
    ]) {
      await user.go(`/craft/tern/v5/${at}${at.includes("?") ? "&" : "?"}state=bare`);
      await user.see("Verdicts, bare");
      expect(await user.page.evaluate(() => document.body.innerText)).not.toMatch(/NaN|undefined|Infinity/);
    }
    expect(demo.pageErrors).toEqual([]);
  });

  it("is weighed as in its first state, whichever was looked at, and says so", async () => {
    await user.go("/craft/samphire/v2/bench?state=afloat&new=total");
    await user.see("Set it up as in aground");
    expect(await looked()).toMatch(/^aground/);
  });

  it("at the site the state is chosen before the start, and its rungs are its own", async () => {
    await user.open("/field/annulus/v2?state=wing");
    expect(await user.read("select.box option:checked")).not.toBe("");
    await user.see("State");
    const rungs = () => user.page.$$eval("select option", (all) => all.map((o) => o.textContent ?? ""));
    expect((await rungs()).join()).toMatch(/Glide|slide/);
    await user.page.evaluate(() => {
      const select = [...document.querySelectorAll("select")].find((s) =>
        [...s.options].some((o) => o.value === "usual"),
      );
      if (!select) throw new Error("no choice of state");
      select.value = "usual";
      select.dispatchEvent(new Event("change", { bubbles: true }));
    });
    await user.see(/Tether/);
  });
});
