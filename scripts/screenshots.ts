/** Takes the pictures in docs/screenshots of a running demo. Run: npx tsx scripts/screenshots.ts [address] [name …] */
import { mkdirSync } from "node:fs";
import { startChromium } from "../tests/support/chromium";

const [address = "http://localhost:4870", ...only] = process.argv.slice(2);
const folder = process.env.SHOTS ?? "docs/screenshots";

const VIEWS: Record<string, string> = {
  workshop: "/",
  brief: "/craft/tern/v5/brief",
  layout: "/craft/tern/v5/layout?part=pack",
  balance: "/craft/tern/v5/layout?part=pack&sheet=balance",
  sweep: "/craft/tern/v4/bench?session=5",
  bench: "/craft/samphire/v1/bench?session=2",
  power: "/craft/tern/v5/power",
  stability: "/craft/tern/v5/stability?of=tailplane",
  series: "/craft/tern/v4/runs?series=1",
  plan: "/craft/tern/v5/runs?plan=2",
  runs: "/craft/tern/v4/runs?run=14",
  field: "/field/tern/v4",
  faults: "/craft/tern/v4/faults?fault=8",
  versions: "/craft/tern/v4/versions?from=v3",
  lantern: "/craft/lantern/v2/power",
  search: "/craft/tern/v5/power?sheet=search",
  shelf: "/craft/tern/v5/power?sheet=shelf",
  loop: "/craft/annulus/v2/power?sheet=loop",
  night: "/craft/gannet/v2/layout?part=pump",
};

mkdirSync(folder, { recursive: true });
const { browser, stop } = await startChromium();
const page = await browser.newPage();
page.on("pageerror", (e) => console.error("page error:", e));
page.on("console", (m) => m.type() === "error" && console.error("console:", m.text()));
/** Begins a log on the phone's screen and marks some moments of it. It is never ended, and so never logged. */
async function runInTheField(): Promise<void> {
  await page.setViewport({ width: 390, height: 844 });
  await page.waitForSelector('[aria-label="Locked"] input');
  await page.type('[aria-label="Locked"] input', "the nose is watched");
  await page.click(".field input[type=checkbox]");
  await page.click(".field-start");
  for (const mark of ["Rose", "Nose went up"]) {
    await page.waitForSelector(`[aria-label^="${mark}"], .field-key`);
    await page.evaluate(
      (word) =>
        (
          [...document.querySelectorAll(".field-key")].find((k) => k.textContent?.includes(word)) as
            | HTMLElement
            | undefined
        )?.click(),
      mark,
    );
    await new Promise((r) => setTimeout(r, 1500));
  }
}

for (const [name, path] of Object.entries(VIEWS)) {
  if (only.length > 0 && !only.includes(name)) continue;
  await page.goto(address + path, { waitUntil: "networkidle0" });
  await page.evaluate(
    (wishes) => localStorage.setItem("ultraform-preferences", JSON.stringify({ habit: "metric", ...wishes })),
    {
      theme: name === "night" ? "night" : "paper",
      views: name === "crawler" ? ["side", "top", "front"] : ["side", "top"],
      turned: name === "night",
    },
  );
  await page.reload({ waitUntil: "networkidle0" });
  await page.evaluate(() => document.fonts.ready);
  if (name === "search") {
    await page.click('section[aria-label="Search"] .act-first');
    await page.waitForSelector('section[aria-label="Search"] td button', { timeout: 60_000 });
    await page.click('section[aria-label="Search"] td button');
  }
  if (name === "shelf") {
    await page.waitForSelector("[data-pack] button");
    await page.click("[data-pack] button");
  }
  if (name === "field") await runInTheField();
  // The lower sheet of the station is what these pictures are about.
  const down = { balance: 330, search: 0, shelf: 500, loop: 500 }[name];
  if (down) await page.evaluate((y) => document.querySelector(".frame-main")?.scrollTo(0, y), down);
  await page.screenshot({ path: `${folder}/${name}.png` as `${string}.png` });
  if (name === "field") await page.setViewport({ width: 1280, height: 800 });
  console.log(name);
}
await stop();
