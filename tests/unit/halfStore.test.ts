import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";

/** The store of what is half-written, on a browser's storage of its own: read anew for each test, as a page is. */
type Store = typeof import("../../web/app/halfWritten");

class Storage {
  held = new Map<string, string>();
  full = false;
  getItem = (k: string) => this.held.get(k) ?? null;
  setItem = (k: string, v: string) => {
    if (this.full) throw new DOMException("full", "QuotaExceededError");
    this.held.set(k, v);
  };
  removeItem = (k: string) => void this.held.delete(k);
}
let storage: Storage;
let heard: Map<string, ((e: { key: string | null }) => void)[]>;
const happens = (event: string, e: { key: string | null } = { key: null }) => {
  for (const l of heard.get(event) ?? []) l(e);
};
/** A page that is opened: what it knows is what lies in the storage. */
async function page(): Promise<Store> {
  vi.resetModules();
  heard = new Map();
  const listen = (event: string, l: (e: { key: string | null }) => void) =>
    void heard.set(event, [...(heard.get(event) ?? []), l]);
  // Object.keys of a browser's storage are its entries.
  const localStorage = new Proxy(storage, {
    ownKeys: (s) => [...s.held.keys()],
    getOwnPropertyDescriptor: () => ({ enumerable: true, configurable: true }),
    get: (s, k) => s[k as keyof Storage],
  });
  vi.stubGlobal("localStorage", localStorage);
  vi.stubGlobal("window", { addEventListener: listen });
  vi.stubGlobal("document", { addEventListener: listen });
  return import("../../web/app/halfWritten");
}

beforeEach(() => {
  storage = new Storage();
  vi.useFakeTimers();
  vi.setSystemTime("2026-03-04T10:00:00Z");
});
afterEach(() => {
  vi.useRealTimers();
  vi.unstubAllGlobals();
  vi.resetModules();
});

describe("what is half-written", () => {
  it("is there at once, written down a moment later, and there again in the next page", async () => {
    const a = await page();
    const key = a.keyOf("tern", "v4", "run new");
    expect(a.leftOf(key)).toBeNull();
    a.keepHalf(key, { notes: "spray" }, 3);
    expect(a.leftOf(key)).toEqual({ at: "2026-03-04T10:00:00.000Z", revision: 3, value: { notes: "spray" } });
    expect(storage.held.size).toBe(0);
    vi.advanceTimersByTime(200);
    expect(storage.held.size).toBe(1);
    const b = await page();
    expect(b.leftOf(key)?.value).toEqual({ notes: "spray" });
  });
  it("is written down as the page goes away, however short the moment", async () => {
    const a = await page();
    const key = a.keyOf("tern", "v4", "run new");
    a.keepHalf(key, "x", 0);
    happens("pagehide");
    expect(storage.held.has(key)).toBe(true);
    a.keepHalf(key, "xy", 0);
    happens("visibilitychange");
    expect(JSON.parse(storage.held.get(key) ?? "{}").value).toBe("xy");
  });
  it("a burst of changes is written once, with the last of them", async () => {
    const a = await page();
    const key = a.keyOf("tern", "v4", "bench sweep");
    const put = vi.spyOn(storage, "setItem");
    for (let k = 0; k < 50; k++) a.keepHalf(key, k, 0);
    vi.advanceTimersByTime(500);
    expect(put).toHaveBeenCalledTimes(1);
    expect(JSON.parse(storage.held.get(key) ?? "{}").value).toBe(49);
  });
  it("that is saved or thrown away is gone at once, here and in the storage", async () => {
    const a = await page();
    const key = a.keyOf("tern", "v4", "fault 3");
    a.keepHalf(key, "x", 0);
    vi.advanceTimersByTime(200);
    a.forgetHalf(key);
    expect(a.leftOf(key)).toBeNull();
    expect(storage.held.size).toBe(0);
    // Forgotten before it was written down: nothing is written afterwards.
    a.keepHalf(key, "y", 0);
    a.forgetHalf(key);
    vi.advanceTimersByTime(500);
    expect(storage.held.size).toBe(0);
    expect(() => a.forgetHalf(key)).not.toThrow();
  });
  it("where the browser has no room stays as long as the page does, and nothing breaks", async () => {
    storage.full = true;
    const a = await page();
    const key = a.keyOf("tern", "v4", "run new");
    a.keepHalf(key, "x", 0);
    expect(() => vi.advanceTimersByTime(500)).not.toThrow();
    expect(a.leftOf(key)?.value).toBe("x");
  });
  it("after four months is let go; what cannot be read too; what belongs to others stays", async () => {
    const write = (key: string, at: string) =>
      storage.held.set(`half-written/${key}`, JSON.stringify({ at, revision: 0, value: 1 }));
    write("tern/v4/old", "2025-09-01T00:00:00Z");
    write("tern/v4/new", "2026-02-01T00:00:00Z");
    storage.held.set("half-written/tern/v4/broken", "{");
    storage.held.set("half-written/tern/v4/strange", '{"at":"2026-03-01T00:00:00Z"}');
    storage.held.set("ultraform-preferences", "{}");
    const a = await page();
    expect(a.leftOf("half-written/tern/v4/new")?.value).toBe(1);
    for (const k of ["old", "broken", "strange"]) expect(a.leftOf(`half-written/tern/v4/${k}`), k).toBeNull();
    expect([...storage.held.keys()].toSorted()).toEqual(["half-written/tern/v4/new", "ultraform-preferences"]);
  });
  it("another page's change is heard, and what is no business of it is not", async () => {
    const a = await page();
    const key = a.keyOf("tern", "v4", "run new");
    expect(a.leftOf(key)).toBeNull();
    storage.held.set(key, JSON.stringify({ at: "2026-03-04T10:00:01Z", revision: 0, value: "theirs" }));
    happens("storage", { key: "ultraform-preferences" });
    expect(a.leftOf(key)).toBeNull();
    happens("storage", { key });
    expect(a.leftOf(key)?.value).toBe("theirs");
    storage.held.delete(key);
    happens("storage", { key });
    expect(a.leftOf(key)).toBeNull();
  });
});
