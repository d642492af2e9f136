import { writeFileSync } from "node:fs";
import { join } from "node:path";
import { beforeAll, describe, expect, it } from "vitest";
import { demoInBrowser } from "../support/browser";
import { type User, settled } from "../support/page";

const demo = demoInBrowser();
let user: User;
beforeAll(() => {
  user = demo.user();
});

const priceField = '[aria-label$=", price"]';

describe("the money of a workshop", () => {
  it("a range is typed as people write it, shown as one, and counted as one", async () => {
    await user.go("/craft/tern/v5/layout");
    await user.click("making and cost");
    const label = await user.page.evaluate((of: string) => {
      const field = document.querySelector<HTMLElement>(of);
      return field?.getAttribute("aria-label") ?? "";
    }, priceField);
    expect(label).not.toBe("");
    await user.fill(label, "20-30");
    await user.saved();
    await user.page.waitForFunction(
      (l: string) => document.querySelector<HTMLInputElement>(`[aria-label="${l}"]`)?.value === "20–30",
      {},
      label,
    );
    const item = (await demo.design("tern")).items.find((i) => `${i.name}, price` === label);
    expect(item).toMatchObject({ cost: 20, costMost: 30 });
    await user.fill(label, "30–20");
    await user.see("from its least to its most");
    expect((await demo.design("tern")).items.find((i) => `${i.name}, price` === label)).toMatchObject({ cost: 20 });
    await user.fill(label, "25");
    await user.saved();
    expect((await demo.design("tern")).items.find((i) => `${i.name}, price` === label)).toMatchObject({
      cost: 25,
      costMost: null,
    });
  });

  it("is chosen once and holds everywhere, and no number changes", async () => {
    const before = (await demo.design("tern")).items.map((i) => i.cost);
    await user.go("/");
    await user.page.select("#currency", "GBP");
    await user.see("No number was changed");
    await user.see("Usual prices that come with the application are in euros");
    await user.go("/craft/tern/v5/layout");
    await user.click("making and cost");
    await user.see("unit price £");
    await user.go("/craft/tern/v5/power?sheet=search");
    await user.see("what a euro is worth in GBP");
    await user.go("/craft/tern/v5/faults?sheet=costs");
    await settled(user.page);
    expect(await user.page.evaluate(() => document.body.textContent?.includes("€"))).toBe(false);
    expect((await demo.design("tern")).items.map((i) => i.cost)).toEqual(before);
    expect((await demo.exported("tern")).currency).toBe("GBP");
    await user.go("/");
    await user.fill("What one euro is worth", "0.85");
    await user.gone("Usual prices that come with the application");
    await user.go("/craft/tern/v5/power?sheet=search");
    await user.see("Cost at most");
  });

  it("a craft file in euros is asked about before it comes in, and converted by what was said", async () => {
    const file = { ...(await demo.exported("tern")), currency: "EUR" };
    file.craft = { ...file.craft, name: "Tern from elsewhere" };
    const path = join(demo.work, "elsewhere.json");
    writeFileSync(path, JSON.stringify(file));
    await user.go("/");
    const input = await user.page.$('input[aria-label="Craft file"]');
    await (input as unknown as { uploadFile: (p: string) => Promise<void> }).uploadFile(path);
    await user.see("are in EUR, those of this workshop in GBP");
    await user.click("Convert and import");
    await user.see("Accepted: a number above zero");
    await user.fill("1 EUR in GBP", "0,5");
    await user.click("Convert and import");
    await user.page.waitForFunction(() => location.pathname.startsWith("/craft/tern-from-elsewhere"));
    const [was, is] = [file.versions.at(-1)?.design.items ?? [], (await demo.design("tern-from-elsewhere")).items];
    expect(is.map((i) => i.cost)).toEqual(
      was.map((i) => (i.cost === null ? null : Number((i.cost / 2).toPrecision(4)))),
    );
  });

  it("is euros again when somebody says so", async () => {
    await user.go("/");
    await user.page.select("#currency", "EUR");
    await user.page.waitForFunction(() => document.querySelector("[aria-label='What one euro is worth']") === null);
    expect((await demo.exported("tern")).currency).toBe("EUR");
    expect(demo.pageErrors).toEqual([]);
  });
});
