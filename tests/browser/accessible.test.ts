import { readFileSync } from "node:fs";
import { join } from "node:path";
import type { AxeResults } from "axe-core";
import { beforeAll, describe, expect, it } from "vitest";
import { demoInBrowser } from "../support/browser";
import type { User } from "../support/page";
import { root } from "../support/server";

const demo = demoInBrowser();
let user: User;
beforeAll(() => {
  user = demo.user();
});

const AXE = readFileSync(join(root, "node_modules/axe-core/axe.min.js"), "utf8");
/** Every view of the application, by its address. */
const VIEWS = [
  "/",
  "/craft/tern/v5/brief",
  "/craft/tern/v5/layout",
  "/craft/tern/v5/layout?sheet=balance",
  "/craft/tern/v5/layout?sheet=walk",
  "/craft/tern/v5/power",
  "/craft/tern/v5/power?sheet=search",
  "/craft/tern/v5/power?sheet=shelf",
  "/craft/tern/v5/stability",
  "/craft/tern/v5/bench",
  "/craft/tern/v5/bench?session=6",
  "/craft/tern/v4/runs",
  "/craft/tern/v5/runs?log=new",
  "/craft/tern/v4/faults",
  "/craft/tern/v5/versions",
  "/field/tern/v4",
];
const SIZES = { desk: { width: 1280, height: 800 }, phone: { width: 390, height: 844 } };

/** What axe calls serious or critical on the page as it stands, each with the first element that it is said of. */
async function wrong(): Promise<string[]> {
  await user.page.evaluate(AXE);
  const { violations } = (await user.page.evaluate("axe.run(document, { resultTypes: ['violations'] })")) as AxeResults;
  return violations
    .filter((v) => v.impact === "serious" || v.impact === "critical")
    .map((v) => `${v.id} (${v.nodes.length}): ${v.nodes[0]?.html.slice(0, 160)} ${v.nodes[0]?.any[0]?.message ?? ""}`);
}

describe.each(["paper", "night"])("in the theme %s", (theme) => {
  describe.each(Object.entries(SIZES))("on a %s", (_name, size) => {
    it("no view has anything that axe calls serious or critical", async () => {
      await user.page.setViewport(size);
      await user.open("/");
      await user.page.evaluate((t) => localStorage.setItem("theme", t), theme);
      const found: string[] = [];
      for (const path of VIEWS) {
        await user.open(path);
        expect(await user.page.evaluate(() => document.documentElement.dataset.theme)).toBe(theme);
        for (const w of await wrong()) found.push(`${path}: ${w}`);
      }
      expect(found).toEqual([]);
    });
  });
});
