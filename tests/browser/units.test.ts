import { beforeAll, describe, expect, it } from "vitest";
import { demoInBrowser } from "../support/browser";
import type { User } from "../support/page";

const demo = demoInBrowser();
let user: User;
beforeAll(async () => {
  user = demo.user();
  await user.page.evaluateOnNewDocument(() =>
    localStorage.setItem("ultraform-preferences", JSON.stringify({ habit: "imperial" })),
  );
});

/** Views of a craft whose records hold few words with units of their own. */
const PATHS = [
  "/",
  "/craft/lantern/v2/brief",
  "/craft/lantern/v2/layout?part=envelope",
  "/craft/lantern/v2/layout?sheet=balance",
  "/craft/lantern/v2/layout?sheet=leverage",
  "/craft/lantern/v2/power",
  "/craft/tern/v5/stability",
  "/craft/lantern/v2/power?sheet=loop",
  "/craft/lantern/v2/power?sheet=whatif",
  "/craft/lantern/v2/power?sheet=search",
  "/craft/lantern/v2/runs",
  "/craft/annulus/v1/bench",
  "/craft/samphire/v1/bench?session=2",
  "/craft/tern/v4/runs?series=1",
  "/craft/lantern/v2/runs?list=leaving+home",
  "/craft/lantern/v2/layout?sheet=paper",
  "/craft/lantern/v2/bench?new=moment",
  "/craft/tern/v4/bench?session=5",
];
/** Words of people, and marks of what is the same in both habits: snapping, air, how units may be typed. */
const OWN =
  /^(1 mm|5 mm)$|Any unit and simple sums|mN\/W|nose up near|Stand behind a barrier|vice\. 180 mm|on the scale/;

describe("in inches", () => {
  it.each(PATHS)("%s shows no length, mass, force, speed or temperature in metric units", async (path) => {
    await user.go(path);
    const found = await user.page.evaluate(() => {
      const texts: string[] = [];
      const walk = document.createTreeWalker(document.body, NodeFilter.SHOW_TEXT);
      while (walk.nextNode())
        if (!walk.currentNode.parentElement?.closest(".sr-only, script, style"))
          texts.push((walk.currentNode.textContent ?? "").trim());
      return texts;
    });
    // It is the other habit that is offered: inches and ounces are on.
    expect(found.join(" ")).toContain("show g, mm");
    expect(found.length).toBeGreaterThan(20);
    expect(
      found.filter(
        (t) =>
          /\d[\s\u00a0\u202f]?(mm|cm|g|kg|N|°C|m\/s|m²|dm²|cm²|kg\/m³|kg·m²|g\/dm²)(?![\w²·³/])/.test(t) &&
          !OWN.test(t),
      ),
    ).toEqual([]);
  });
});
