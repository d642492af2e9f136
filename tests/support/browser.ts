import { existsSync, mkdtempSync, readFileSync, rmSync, statSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import type { Page } from "puppeteer-core";
import { afterAll, beforeAll, expect } from "vitest";
import type { CraftFile } from "../../core/design/craftFile";
import { startChromium } from "./chromium";
import { type User, quiet, userOf, WAIT } from "./page";
import { type Spawned, freshFolder, root, spawnServer } from "./spawn";

/**
 * The built application with the demo craft and a browser before it, for one test file. What went wrong in the pages
 * and every host that was asked are kept.
 */
export function demoInBrowser() {
  let server: Spawned;
  let user: User;
  let another: () => Promise<User>;
  let stopBrowser: () => Promise<void>;
  const data = freshFolder();
  const work = mkdtempSync(join(tmpdir(), "ultraform-work-"));
  const pageErrors: string[] = [];
  const pages: Page[] = [];
  const requests = new Set<string>();
  beforeAll(async () => {
    expect(existsSync(join(root, "dist/server/main.js"))).toBe(true);
    server = await spawnServer(data, ["--demo"]);
    expect(server.address, server.output()).not.toBe("");
    const { browser, stop } = await startChromium();
    stopBrowser = stop;
    // Of the browser itself: that of a page's session would end with the page.
    const session = await browser.target().createCDPSession();
    await session.send("Browser.setDownloadBehavior", { behavior: "allow", downloadPath: work });
    another = async () => {
      const page = await browser.newPage();
      // A picture written into the page itself (a date field's) is no request.
      page.on("request", (r) => r.url().startsWith("data:") || requests.add(new URL(r.url()).host));
      page.on("pageerror", (e) => pageErrors.push(String(e)));
      page.on("dialog", (d) => void d.accept());
      pages.push(page);
      return userOf(page, server.address);
    };
    user = await another();
  });
  afterAll(async () => {
    await stopBrowser?.();
    server?.process.kill("SIGTERM");
    await server?.exited;
    for (const folder of [data, work]) rmSync(folder, { recursive: true, force: true });
  });
  /**
   * What the server has, once the pages have sent what they had to send: a message of an earlier save may still stand
   * on the page.
   */
  const exported = async (slug: string): Promise<CraftFile> => {
    await Promise.all(pages.filter((p) => !p.isClosed()).map((p) => quiet(p)));
    return (await (await fetch(`${server.address}/api/crafts/${slug}/export`)).json()) as CraftFile;
  };
  return {
    user: () => user,
    another: () => another(),
    address: () => server.address,
    /** Ends the server as a power cut would. */
    stopServer: async () => {
      server.process.kill("SIGKILL");
      await server.exited;
    },
    /** Starts it again on the same data and address. */
    startServer: async () => {
      const port = Number(new URL(server.address).port);
      server = await spawnServer(data, ["--demo"], undefined, port);
      expect(server.address, server.output()).not.toBe("");
    },
    work,
    pageErrors,
    requests,
    exported,
    /** The newest design of a craft as the server has it. */
    design: async (slug: string) => {
      const design = (await exported(slug)).versions.at(-1)?.design;
      if (!design) throw new Error(`no design of ${slug}`);
      return design;
    },
    /** Text of a file that the page saved. The name stands, empty, before what belongs in it does. */
    downloaded: async (name: string) => {
      const file = join(work, name);
      const written = () => existsSync(file) && statSync(file).size > 0;
      for (const end = Date.now() + WAIT; !written() && Date.now() < end; )
        await new Promise((r) => setTimeout(r, 100));
      return readFileSync(file, "utf8");
    },
    /** A file to be chosen in a dialog; its path. */
    file: (name: string, text: string) => {
      writeFileSync(join(work, name), text);
      return join(work, name);
    },
  };
}
