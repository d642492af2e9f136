/// <reference lib="webworker" />
// Answers for the page at the site when the server does not. It keeps the page as it was read last with the files
// that it names; what the page asks of the server goes there and nowhere else.
const scope = globalThis as unknown as ServiceWorkerGlobalScope;
const STORE = "field-page";
const PAGE = "/field.html";
/** Files named in a page or a style sheet. Fonts beyond those that an English page draws are fetched when wanted. */
const NAMED = /\/assets\/[\w.-]+/g;
const WANTED = /\.(?:js|css)$|-latin-(?!ext)[\w-]*\.woff2$/;

/** Reads the page anew and every file that it names; nothing is kept of an answer that is not the page. */
async function keepPage(): Promise<void> {
  const answer = await fetch(PAGE, { cache: "no-store" });
  const page = await answer.clone().text();
  if (!answer.ok || answer.redirected || !page.includes('id="root"')) return;
  const store = await caches.open(STORE);
  const have = new Set((await store.keys()).map((r) => new URL(r.url).pathname));
  const files = new Set<string>();
  const take = async (text: string) => {
    for (const [path] of text.matchAll(NAMED)) {
      if (!WANTED.test(path) || files.has(path)) continue;
      files.add(path);
      if (!have.has(path)) {
        const file = await fetch(path);
        if (!file.ok) throw new Error(`${path} was not answered`);
        await store.put(path, file);
      }
      const kept = path.endsWith(".css") ? await store.match(path) : undefined;
      if (kept) await take(await kept.text());
    }
  };
  await take(page);
  // The page last: what it names is there by then.
  await store.put(PAGE, answer);
  for (const path of have) if (path !== PAGE && !files.has(path)) await store.delete(path);
}

scope.addEventListener("install", (event) => {
  event.waitUntil(keepPage().then(() => scope.skipWaiting()));
});
scope.addEventListener("activate", (event) => event.waitUntil(scope.clients.claim()));

/**
 * ms after which a page that the server does not bring is taken from what was kept: a weak network may take minutes.
 */
const PATIENCE = 4000;

async function page(event: FetchEvent): Promise<Response> {
  const kept = await caches.match(PAGE);
  if (!kept) return fetch(event.request);
  const late = new Promise<Response>((done) => setTimeout(() => done(kept.clone()), PATIENCE));
  const asked = fetch(event.request).then((answer) => {
    if (answer.status >= 500) return kept.clone();
    event.waitUntil(keepPage().catch(() => {}));
    return answer;
  });
  return Promise.race([asked.catch(() => kept.clone()), late]);
}

scope.addEventListener("fetch", (event) => {
  const url = new URL(event.request.url);
  if (event.request.method !== "GET" || url.origin !== scope.location.origin) return;
  if (event.request.mode === "navigate") event.respondWith(page(event));
  else if (url.pathname.startsWith("/assets/"))
    event.respondWith(caches.match(url.pathname).then((kept) => kept ?? fetch(event.request)));
});
