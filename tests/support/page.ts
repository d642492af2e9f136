import type { ElementHandle, HTTPRequest, Page } from "puppeteer-core";

/** A page driven as a person would: by visible words and accessible names. */
export interface User {
  page: Page;
  open: (path: string) => Promise<void>;
  /**
   * The same as a link within the application: nothing is loaded anew. For looking at a view, not for what was kept.
   */
  go: (path: string) => Promise<void>;
  click: (name: string) => Promise<void>;
  /** Puts text into the field with this accessible name, as typing would, and leaves the field. */
  fill: (label: string, text: string, leaveWith?: "Tab" | "Enter") => Promise<void>;
  choose: (label: string, option: string) => Promise<void>;
  see: (text: string | RegExp) => Promise<void>;
  gone: (text: string) => Promise<void>;
  /** Text of the first element that matches. */
  read: (selector: string) => Promise<string>;
  /** Waits until a verdict of this code is told (or, with false, no longer is): the column may follow the sheet. */
  told: (code: string, is?: boolean) => Promise<void>;
  saved: () => Promise<void>;
  key: (key: string) => Promise<void>;
  /** The page reads nothing anew for a while, as where the network is slow: what others save it learns by a refusal. */
  unaware: (meanwhile: () => Promise<void>) => Promise<void>;
  /** Goes to a station by its key and waits until it stands there. */
  station: (key: string) => Promise<void>;
}

/**
 * SLOW=6: the page's processor six times slower, and keys as a keyboard sends them, 40 ms apart. For trying all of it
 * now and then as on a builder's old machine; in the whole run the fields alone are tried so.
 */
const SLOW = Number(process.env.SLOW ?? 1);
const BETWEEN_KEYS = SLOW > 1 ? 40 : 0;

export const WAIT = 90_000 * SLOW;

/** What a page is waiting for: scripts and data, not the stream that it listens to. */
const ASKED = ["document", "script", "fetch", "xhr", "stylesheet"];
/** ms after which a request is no longer waited for: of one that was cut off on its way no end is told. */
const LOST = 3000;
/** Requests on their way, each with the time at which it began. */
interface Asking {
  open: Map<HTTPRequest, number>;
  begun: number;
}
const asking = new WeakMap<Page, Asking>();
function watched(page: Page): Asking {
  const known = asking.get(page);
  if (known) return known;
  const now: Asking = { open: new Map(), begun: 0 };
  page.on("request", (r) => {
    if (!ASKED.includes(r.resourceType())) return;
    // What the page before asked for is cut off: no end of it is ever told.
    if (r.isNavigationRequest() && r.frame() === page.mainFrame()) now.open.clear();
    now.begun++;
    now.open.set(r, Date.now());
  });
  page.on("requestfinished", (r) => now.open.delete(r));
  page.on("requestfailed", (r) => now.open.delete(r));
  asking.set(page, now);
  return now;
}

/**
 * Turns of the page without a change of its document: counted, since while it works on something nothing changes
 * either.
 */
const standsStill = (page: Page) =>
  page.evaluate(
    () =>
      new Promise<void>((done) => {
        let still = 0;
        const seen = new MutationObserver(() => (still = 0));
        seen.observe(document.body, { childList: true, subtree: true });
        const end = setTimeout(finish, 2000);
        const turn = setInterval(() => ++still >= 6 && finish(), 20);
        function finish() {
          clearTimeout(end);
          clearInterval(turn);
          seen.disconnect();
          done();
        }
      }),
  );

/** A page has drawn what it was opened for, waits for no script and no data, and its document stands still. */
export async function settled(page: Page): Promise<void> {
  const there = () =>
    (document.querySelector("main")?.innerText.trim() ?? "") !== "" &&
    document.querySelector("main [role=status][aria-busy=true]") === null;
  const asked = watched(page);
  for (let k = 0; k < 40; k++) {
    // Asked again at each turn: where nothing moves for a moment the page may still be reading what this browser keeps.
    await page.waitForFunction(there, { polling: 60 });
    const begun = asked.begun;
    await standsStill(page);
    for (const [r, since] of asked.open) if (Date.now() - since > LOST) asked.open.delete(r);
    if (asked.open.size === 0 && asked.begun === begun && (await page.evaluate(there))) return;
  }
}

/** A page has asked for nothing for a moment, or goes on asking for long. */
export async function quiet(page: Page, still = 150, longest = 2000): Promise<void> {
  const asked = watched(page);
  let since = Date.now();
  for (const end = since + longest; Date.now() < end && Date.now() - since < still; ) {
    const begun = asked.begun;
    await new Promise((r) => setTimeout(r, 25));
    if (asked.open.size > 0 || asked.begun !== begun) since = Date.now();
  }
}

export function userOf(page: Page, address: string): User {
  page.setDefaultTimeout(WAIT);
  watched(page);
  // A page in the background draws nothing: the one that is used stands in front.
  const front = () => page.bringToFront();
  const field = async (label: string): Promise<ElementHandle<HTMLInputElement>> => {
    const byLabel = `input[aria-label="${label}"], select[aria-label="${label}"], textarea[aria-label="${label}"]`;
    const direct = await page.$(byLabel);
    const handle = direct ?? (await page.waitForSelector(`::-p-aria(${label})`, { visible: true }));
    if (!handle) throw new Error(`no field ${label}`);
    return handle as ElementHandle<HTMLInputElement>;
  };
  const body = () => page.evaluate(() => document.body.innerText);
  /** What has this accessible name; where nothing has for a while, what shows this text. */
  const named = async (name: string) => {
    for (const end = Date.now() + WAIT; Date.now() < end; ) {
      const byName = await page
        .waitForSelector(`::-p-aria([name="${name}"])`, { visible: true, timeout: 5000 })
        .catch(() => null);
      if (byName) return byName;
      const byText = await page
        .waitForSelector(`::-p-text(${name})`, { visible: true, timeout: 100 })
        .catch(() => null);
      if (byText) return byText;
    }
    return null;
  };
  const hit = async (name: string) => {
    const target = await named(name);
    if (!target) throw new Error(`nothing to click called ${name}`);
    await target.evaluate((e) => e.scrollIntoView({ block: "center" }));
    // What moves with the scroll, or by what a worker brings, stands still before it is hit.
    await target.evaluate(
      (e) =>
        new Promise<void>((done) => {
          let [last, same, left] = [Number.NaN, 0, 60];
          const frame = () => {
            const y = e.getBoundingClientRect().y;
            same = y === last ? same + 1 : 0;
            last = y;
            if (same >= 3 || --left === 0) done();
            else requestAnimationFrame(frame);
          };
          frame();
        }),
    );
    await target.click();
  };
  const user: User = {
    page,
    open: async (path) => {
      await front();
      if (SLOW > 1) await page.emulateCPUThrottling(SLOW);
      await page.goto(address + path, { waitUntil: "domcontentloaded" });
      await settled(page);
    },
    go: async (path) => {
      // The page at the site is one of its own: no link within the application leads there.
      const apart = (url: string) => url.startsWith("/field/");
      if (!page.url().startsWith(address) || apart(path) || apart(page.url().slice(address.length)))
        return user.open(path);
      await front();
      await page.evaluate((to) => {
        history.pushState({ idx: (history.state?.idx ?? 0) + 1 }, "", to);
        dispatchEvent(new PopStateEvent("popstate", { state: history.state }));
      }, path);
      // The view before stands until the next one is there: its title tells which it is.
      const station = /^\/craft\/[^/]+\/[^/]+\/(\w+)/.exec(path)?.[1];
      if (station) await page.waitForFunction((s) => document.title.toLowerCase().includes(s), {}, station);
      await settled(page);
    },
    click: async (name) => {
      await front();
      // What is drawn anew just before it is hit is looked for again, as a hand would.
      for (let tries = 3; ; tries--) {
        const gone = await hit(name).then(
          () => null,
          (e: Error) => e,
        );
        if (!gone) return;
        if (tries === 0 || !/detached|not clickable/.test(gone.message)) throw gone;
      }
    },
    fill: async (label, text, leaveWith = "Tab") => {
      await front();
      const input = await field(label);
      await input.evaluate((e) => {
        e.scrollIntoView({ block: "center" });
        e.focus();
      });
      await page.evaluate(() => new Promise((r) => requestAnimationFrame(() => requestAnimationFrame(r))));
      await page.keyboard.down("Control");
      await page.keyboard.press("KeyA");
      await page.keyboard.up("Control");
      if (text === "") await page.keyboard.press("Delete");
      else await page.keyboard.type(text, { delay: BETWEEN_KEYS });
      await page.keyboard.press(leaveWith);
    },
    choose: async (label, option) => {
      const select = await field(label);
      const value = await select.evaluate(
        (e, wanted) =>
          [...(e as unknown as HTMLSelectElement).options].find((o) => o.value === wanted || o.text.includes(wanted))
            ?.value,
        option,
      );
      if (value === undefined) throw new Error(`${label} does not offer ${option}`);
      await (select as unknown as ElementHandle<HTMLSelectElement>).select(value);
    },
    see: async (text) => {
      const source = typeof text === "string" ? text.replace(/[.*+?^${}()|[\]\\]/g, "\\$&") : text.source;
      await page
        .waitForFunction(
          (pattern: string) => new RegExp(pattern).test(document.body.innerText.replace(/[\u00a0\u202f]/g, " ")),
          { timeout: WAIT, polling: 60 },
          source,
        )
        .catch(async () => {
          throw new Error(`“${text}” is not on the page:\n${(await body()).slice(0, 4000)}`);
        });
    },
    gone: async (text) => {
      await page.waitForFunction(
        (t: string) => !document.body.innerText.includes(t),
        { timeout: WAIT, polling: 60 },
        text,
      );
    },
    read: async (selector) => {
      const element = await page.waitForSelector(selector);
      return (await element?.evaluate((e) => (e as HTMLElement).innerText.replace(/\s+/g, " ").trim())) ?? "";
    },
    told: async (code, is = true) => {
      await page
        .waitForFunction(
          (c: string, wanted: boolean) => Boolean(document.querySelector(`[data-code="${c}"]`)) === wanted,
          { timeout: WAIT, polling: 60 },
          code,
          is,
        )
        .catch(async () => {
          const told = await page.$$eval("[data-code]", (l) => l.map((e) => (e as HTMLElement).dataset.code));
          throw new Error(`${code} is ${is ? "not" : "still"} told, but ${told.join(", ")}`);
        });
    },
    saved: async () => {
      await front();
      await page.waitForSelector('[data-save="saved"]', { timeout: WAIT });
      // The state turns to "unsaved" only after the change was drawn: give it that moment, then wait again.
      await new Promise((r) => setTimeout(r, 150));
      await page.waitForSelector('[data-save="saved"]', { timeout: WAIT });
    },
    unaware: async (meanwhile) => {
      const meet = (r: HTTPRequest) =>
        void (r.method() === "GET" && r.url().includes("/api/") ? r.abort("timedout") : r.continue());
      await page.setRequestInterception(true);
      page.on("request", meet);
      try {
        await meanwhile();
      } finally {
        page.off("request", meet);
        await page.setRequestInterception(false);
      }
    },
    key: async (key) => {
      await front();
      await page.evaluate(() => (document.activeElement as HTMLElement | null)?.blur());
      // Keys are bound after the first drawing: a person is never faster than that, a test is.
      await page.evaluate(() => new Promise((r) => setTimeout(r, 120)));
      await page.keyboard.press(key as "a");
    },
    station: async (key) => {
      await user.key(key);
      await page.waitForSelector(`nav[aria-label="Stations"] li:nth-child(${key}) [aria-current="page"]`);
    },
  };
  return user;
}
