import { createHash, createHmac, randomBytes, randomInt, timingSafeEqual } from "node:crypto";
import { existsSync, mkdirSync, readFileSync, writeFileSync } from "node:fs";
import { networkInterfaces } from "node:os";
import { join } from "node:path";
import { parseCookie } from "cookie";
import { desc, eq } from "drizzle-orm";
import express, { type Express, type Request, type Response } from "express";
import { rateLimit } from "express-rate-limit";
import type { DeviceRecord } from "../api/contracts";
import type { Database } from "./db/open";
import { devices } from "./db/schema";
import { notFound } from "./problems";
import { reading } from "./db/transaction";

/** Letters and digits that are not mistaken for one another. */
const SIGNS = "abcdefghjkmnpqrstuvwxyz23456789";
const LENGTH = 8;
const COOKIE = "ultraform";
/**
 * Wrong codes that one address may send in a minute, and all together in an hour: 8 signs of 30 stay out of reach
 * whoever tries.
 */
const TRIES = 6;
const TRIES_OF_ALL = 60;
const MINUTE = 60_000;
const HOUR = 3_600_000;
/** A device is noted as seen at most once in this time, ms. */
const SEEN = 600_000;
const DAYS = 90;

/** The access code of a data folder: made once, kept beside the data, so that a phone stays let in over a restart. */
export function accessCode(folder: string): string {
  mkdirSync(folder, { recursive: true });
  const file = join(folder, "access-code");
  const held = existsSync(file) ? readFileSync(file, "utf8").trim() : "";
  if (held.length >= LENGTH) return held;
  const code = Array.from({ length: LENGTH }, () => SIGNS[randomInt(SIGNS.length)]).join("");
  writeFileSync(file, `${code}\n`, { mode: 0o600 });
  return code;
}

/** Addresses of this machine in its local networks, as a phone would type them. */
export const localAddresses = (port: number, scheme: "http" | "https"): string[] =>
  Object.values(networkInterfaces())
    .flatMap((list) => list ?? [])
    .filter((n) => n.family === "IPv4" && !n.internal)
    .map((n) => `${scheme}://${n.address}:${port}`);

const same = (a: string, b: string) => {
  const [x, y] = [
    createHmac("sha256", "compare").update(a).digest(),
    createHmac("sha256", "compare").update(b).digest(),
  ];
  return timingSafeEqual(x, y);
};

const page = (said: string) => `<!doctype html>
<html lang="en"><head><meta charset="utf-8"><meta name="viewport" content="width=device-width, initial-scale=1"><title>Ultraform</title>
<style>body{background:#f3eee2;color:#24221e;font:17px sans-serif;max-width:22rem;margin:18vh auto;padding:0 1rem}input,button{font:inherit;width:100%;box-sizing:border-box;min-height:48px;margin-top:8px;padding:4px 10px;border:2px solid #24221e;border-radius:2px;background:#fbf8f1}button{background:#2b30b0;color:#fbf8f1;border-color:#2b30b0}p[role]{color:#a2251b}</style></head>
<body><h1>Ultraform</h1><p>This workshop is another machine's. It shows its access code where it was started.</p>${said ? `<p role="alert">${said}</p>` : ""}
<form method="post" action="/enter"><label>Access code<input name="code" autocomplete="off" autocapitalize="none" autofocus></label><button>Enter</button></form></body></html>`;

/** What a device calls itself, in a few words: its system and browser. */
function deviceName(agent: string): string {
  const system =
    ["iPhone", "iPad", "Android", "Windows", "Mac OS", "CrOS", "Linux"].find((s) => agent.includes(s)) ?? "a device";
  const browser = ["Firefox", "Edg", "OPR", "Chrome", "Safari"].find((b) => agent.includes(b)) ?? "";
  return [system === "Mac OS" ? "Mac" : system, { Edg: "Edge", OPR: "Opera" }[browser] ?? browser]
    .filter(Boolean)
    .join(", ");
}

const hashed = (pass: string) => createHash("sha256").update(pass).digest("hex");

/** Devices that were let in, the one seen last first; `own` is the one that asks. */
export async function listDevices(db: Database, request: Request): Promise<DeviceRecord[]> {
  const own = parseCookie(request.headers.cookie ?? "")[COOKIE];
  const rows = await db.transaction((tx) => tx.select().from(devices).orderBy(desc(devices.seen)), reading);
  return rows.map(({ id, name, since, seen, pass }) => ({
    id,
    name,
    since,
    seen,
    own: own !== undefined && hashed(own) === pass,
  }));
}

/** Withdraws a device's pass: its next request is turned away. */
export async function withdrawDevice(db: Database, id: number): Promise<void> {
  await db.transaction(async (tx) => {
    const [gone] = await tx.delete(devices).where(eq(devices.id, id)).returning({ id: devices.id });
    if (!gone) throw notFound("This device is not let in any more.");
  });
}

export interface Gate {
  db: Database;
  code: string;
  now: () => string;
}

/**
 * Lets nobody in without the access code: for a server that listens beyond its own machine. Each device gets a pass
 * of its own, which can be withdrawn.
 */
export function demandCode(app: Express, { db, code, now }: Gate): void {
  // Who is let in has used up no try.
  const wrongCodes = (windowMs: number, limit: number, from: (r: Request) => string, said: string) =>
    rateLimit({
      windowMs,
      limit,
      keyGenerator: from,
      skipSuccessfulRequests: true,
      validate: { keyGeneratorIpFallback: false },
      handler: (_request, response) => void response.status(429).send(page(said)),
    });
  const ofOne = wrongCodes(MINUTE, TRIES, (r) => r.socket.remoteAddress ?? "", "Too many wrong codes. Wait a minute.");
  const ofAll = wrongCodes(
    HOUR,
    TRIES_OF_ALL,
    () => "everywhere",
    "Too many wrong codes from everywhere. Wait an hour, or start the server anew.",
  );
  const enter = async (request: Request, response: Response): Promise<void> => {
    const given: unknown = (request.body as { code?: unknown } | undefined)?.code;
    if (typeof given !== "string" || !same(given.trim().toLowerCase(), code)) {
      response.status(401).send(page("That is not the code."));
      return;
    }
    const pass = randomBytes(32).toString("hex");
    const at = now();
    await db.transaction(async (tx) => {
      await tx
        .insert(devices)
        .values({ name: deviceName(request.headers["user-agent"] ?? ""), pass: hashed(pass), since: at, seen: at });
    });
    response.cookie(COOKIE, pass, {
      httpOnly: true,
      secure: request.secure,
      sameSite: "strict",
      maxAge: DAYS * 24 * HOUR,
    });
    response.redirect(303, "/");
  };
  app.post("/enter", ofOne, ofAll, express.urlencoded({ extended: false, limit: "1kb" }), enter);
  app.use(async (request, response, next) => {
    const held = parseCookie(request.headers.cookie ?? "")[COOKIE];
    if (held !== undefined && /^[0-9a-f]{64}$/.test(held)) {
      const [device] = await db.transaction(
        (tx) =>
          tx
            .select()
            .from(devices)
            .where(eq(devices.pass, hashed(held))),
        reading,
      );
      const age = device ? Date.parse(now()) - Date.parse(device.since) : Number.POSITIVE_INFINITY;
      if (device && age < DAYS * 24 * HOUR) {
        if (Date.parse(now()) - Date.parse(device.seen) > SEEN)
          await db.transaction(async (tx) => {
            await tx.update(devices).set({ seen: now() }).where(eq(devices.id, device.id));
          });
        next();
        return;
      }
    }
    if (request.path.startsWith("/api/")) {
      response.status(401).type("application/problem+json").send({
        type: "/problems/access",
        title: "Access code needed",
        status: 401,
        detail:
          "This workshop asks for its access code: open its first page and enter it. What you entered is still here.",
      });
      return;
    }
    response.status(401).send(page(""));
  });
}
