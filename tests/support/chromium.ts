import { mkdtempSync, rmSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import puppeteer, { type Browser } from "puppeteer-core";

/** Where Debian's package puts Chromium; CHROMIUM names another. */
const PATH = process.env.CHROMIUM ?? "/usr/bin/chromium";

/** Headless Chromium with a fresh profile that tries to reach nothing by itself. */
export async function startChromium(
  width = 1280,
  height = 800,
): Promise<{ browser: Browser; stop: () => Promise<void> }> {
  const profile = mkdtempSync(join(tmpdir(), "ultraform-chromium-"));
  const browser = await puppeteer.launch({
    executablePath: PATH,
    userDataDir: profile,
    defaultViewport: { width, height },
    args: [
      "--no-sandbox",
      "--disable-quic",
      "--no-first-run",
      "--disable-background-networking",
      "--disable-component-update",
      "--disable-sync",
      "--disable-gpu",
      // What would drop down from its address bar is two more pages that it keeps ready.
      "--disable-features=WebUIOmniboxPopup,WebUIOmniboxAimPopup",
      "--lang=en-GB",
    ],
  });
  return {
    browser,
    stop: async () => {
      await browser.close();
      rmSync(profile, { recursive: true, force: true });
    },
  };
}
