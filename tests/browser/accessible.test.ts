import { readFileSync } from "node:fs";
import { join } from "node:path";
import type { AxeResults } from "axe-core";
import { beforeAll, describe, expect, it } from "vitest";
import { demoInBrowser } from "../support/browser";
import type { User } from "../support/page";
import { root } from "../support/spawn";

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
  "/craft/tern/v5/power",
  "/craft/tern/v5/stability",
  "/craft/tern/v5/power?sheet=search",
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
async function wrong(rules: string[] = []): Promise<string[]> {
  const only = rules.length > 0 ? `runOnly: ${JSON.stringify(rules)},` : "";
  const { violations } = (await user.page.evaluate(
    `axe.run(document, { ${only} resultTypes: ['violations'] })`,
  )) as AxeResults;
  return violations
    .filter((v) => v.impact === "serious" || v.impact === "critical")
    .map((v) => `${v.id} (${v.nodes.length}): ${v.nodes[0]?.html.slice(0, 160)} ${v.nodes[0]?.any[0]?.message ?? ""}`);
}
const theme = (name: string) =>
  user.page.evaluate((t) => {
    document.documentElement.dataset.theme = t;
  }, name);

describe("no view has anything that axe calls serious or critical", () => {
  it.each(VIEWS)("%s, on paper and in the dark, on a desk and on a phone", async (path) => {
    const found: string[] = [];
    const note = (where: string, list: string[]) => void found.push(...list.map((w) => `${where}: ${w}`));
    await user.page.setViewport(SIZES.desk);
    await user.go(path);
    await user.page.evaluate(AXE);
    note("desk", await wrong());
    await theme("night");
    // Of the theme only the colours differ.
    note("desk, dark", await wrong(["color-contrast"]));
    await user.page.setViewport(SIZES.phone);
    // What is wider than its place is made reachable a moment after it is drawn.
    await new Promise((r) => setTimeout(r, 300));
    note("phone, dark", await wrong(["color-contrast"]));
    await theme("paper");
    note("phone", await wrong());
    expect(new URL(user.page.url()).pathname).toBe(path.split("?")[0]);
    expect(found).toEqual([]);
  });
});

describe("on a phone", () => {
  it.each(["brief", "layout", "power", "stability", "bench", "runs", "faults", "versions"])(
    "%s: bars that do not scroll take at most 15 %% of the height, and the page reaches its end above them",
    async (station) => {
      await user.page.setViewport(SIZES.phone);
      await user.go(`/craft/tern/v5/${station}`);
      const { share, above } = await user.page.evaluate(() => {
        const page = document.querySelector(".frame-scroll");
        const last = document.querySelector("main")?.lastElementChild;
        if (!page || !last) throw new Error("no page");
        page.scrollTo(0, page.scrollHeight);
        const box = page.getBoundingClientRect();
        return {
          share: 1 - (Math.min(box.bottom, innerHeight) - Math.max(box.top, 0)) / innerHeight,
          above: box.bottom - last.getBoundingClientRect().bottom,
        };
      });
      expect(share).toBeLessThanOrEqual(0.15);
      expect(above).toBeGreaterThanOrEqual(-1);
    },
  );
  it.each([
    ["brief", "[data-target]"],
    ["versions", "[data-thing]"],
    ["faults?fault=8", "[data-suspect]"],
  ])("%s: rows are cards, and nothing of them is cut", async (path, row) => {
    await user.page.setViewport(SIZES.phone);
    await user.go(`/craft/tern/v5/${path}`);
    await user.page.waitForSelector(row);
    const cut = await user.page.$$eval(row, (rows) =>
      rows.flatMap((r) =>
        [...r.querySelectorAll("td")]
          .filter((cell) => cell.getBoundingClientRect().right > innerWidth)
          .map((cell) => cell.textContent),
      ),
    );
    expect(cut).toEqual([]);
    await user.page.setViewport(SIZES.desk);
  });
});
