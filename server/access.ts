import { createHmac, randomInt, timingSafeEqual } from "node:crypto";
import { existsSync, readFileSync, writeFileSync } from "node:fs";
import { networkInterfaces } from "node:os";
import { join } from "node:path";
import express, { type Express, type Request, type Response } from "express";

/** Letters and digits that are not mistaken for one another. */
const SIGNS = "abcdefghjkmnpqrstuvwxyz23456789";
const LENGTH = 8;
const COOKIE = "ultraform";
/** Wrong codes that one address may send in a minute. */
const TRIES = 6;

/** The access code of a data folder: made once, kept beside the data, so that a phone stays let in over a restart. */
export function accessCode(folder: string): string {
  const file = join(folder, "access-code");
  const held = existsSync(file) ? readFileSync(file, "utf8").trim() : "";
  if (held.length >= LENGTH) return held;
  const code = Array.from({ length: LENGTH }, () => SIGNS[randomInt(SIGNS.length)]).join("");
  writeFileSync(file, `${code}\n`, { mode: 0o600 });
  return code;
}

/** Addresses of this machine in its local networks, as a phone would type them. */
export const localAddresses = (port: number): string[] =>
  Object.values(networkInterfaces())
    .flatMap((list) => list ?? [])
    .filter((n) => n.family === "IPv4" && !n.internal)
    .map((n) => `http://${n.address}:${port}`);

const same = (a: string, b: string) => {
  const [x, y] = [createHmac("sha256", "compare").update(a).digest(), createHmac("sha256", "compare").update(b).digest()];
  return timingSafeEqual(x, y);
};

const page = (said: string) => `<!doctype html>
<html lang="en"><head><meta charset="utf-8"><meta name="viewport" content="width=device-width, initial-scale=1"><title>Ultraform</title>
<style>body{background:#f3eee2;color:#24221e;font:17px sans-serif;max-width:22rem;margin:18vh auto;padding:0 1rem}input,button{font:inherit;width:100%;box-sizing:border-box;min-height:48px;margin-top:8px;padding:4px 10px;border:2px solid #24221e;border-radius:2px;background:#fbf8f1}button{background:#2b30b0;color:#fbf8f1;border-color:#2b30b0}p[role]{color:#a2251b}</style></head>
<body><h1>Ultraform</h1><p>This workshop is another machine's. It shows its access code where it was started.</p>${said ? `<p role="alert">${said}</p>` : ""}
<form method="post" action="/enter"><label>Access code<input name="code" autocomplete="off" autocapitalize="none" autofocus></label><button>Enter</button></form></body></html>`;

/** Lets nobody in without the access code: for a server that listens beyond its own machine. */
export function demandCode(app: Express, code: string, now: () => number = Date.now): void {
  // Derived from the code, so that it outlives a restart; the code itself never stands in a cookie.
  const pass = createHmac("sha256", code).update("session").digest("hex");
  const wrong = new Map<string, number[]>();
  const recent = (from: string) => (wrong.get(from) ?? []).filter((t) => now() - t < 60_000);
  const enter = (request: Request, response: Response): void => {
    const from = request.socket.remoteAddress ?? "";
    const given: unknown = (request.body as { code?: unknown } | undefined)?.code;
    if (recent(from).length >= TRIES) {
      response.status(429).send(page("Too many wrong codes. Wait a minute."));
      return;
    }
    if (typeof given !== "string" || !same(given.trim().toLowerCase(), code)) {
      wrong.set(from, [...recent(from), now()]);
      response.status(401).send(page("That is not the code."));
      return;
    }
    wrong.delete(from);
    response.cookie(COOKIE, pass, { httpOnly: true, sameSite: "strict", maxAge: 90 * 24 * 3600 * 1000 });
    response.redirect(303, "/");
  };
  app.post("/enter", express.urlencoded({ extended: false, limit: "1kb" }), enter);
  app.use((request, response, next) => {
    const held = (request.headers.cookie ?? "")
      .split(";")
      .map((c) => c.trim().split("="))
      .find(([name]) => name === COOKIE)?.[1];
    if (held !== undefined && same(held, pass)) {
      next();
      return;
    }
    if (request.path.startsWith("/api/")) {
      response.status(401).type("application/problem+json").send({
        type: "/problems/access",
        title: "Access code needed",
        status: 401,
        detail: "This workshop asks for its access code: open its first page and enter it. What you entered is still here.",
      });
      return;
    }
    response.status(401).send(page(""));
  });
}
