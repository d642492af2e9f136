import { type ChildProcess, spawn } from "node:child_process";
import { mkdtempSync, readFileSync } from "node:fs";
import { type Server, createServer, request } from "node:http";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { pino } from "pino";
import { craftFileSchema } from "../../core/design/craftFile";
import { makeApp } from "../../server/app";
import { Evaluator } from "../../server/evaluator";
import type { Stand } from "../../server/stand/stand";
import { type OpenDatabase, openDatabase } from "../../server/db/open";

export const root = new URL("../..", import.meta.url).pathname;
export const demoFile = (name: string) =>
  craftFileSchema.parse(JSON.parse(readFileSync(join(root, `demo/${name}.json`), "utf8")));

export interface Running {
  address: string;
  open: OpenDatabase;
  close: () => Promise<void>;
}

/** The real application on a real embedded database in memory, listening on a free port. */
export async function startApp(stand?: Stand, code?: string): Promise<Running> {
  const open = await openDatabase(null, { url: process.env.ULTRAFORM_TEST_DATABASE });
  const evaluator = new Evaluator(60_000);
  const app = makeApp({
    open,
    evaluator,
    log: pino({ level: "silent" }),
    now: () => new Date().toISOString(),
    stand,
    code,
  });
  const server: Server = createServer(app);
  await new Promise<void>((resolve) => server.listen(0, "127.0.0.1", resolve));
  const address = server.address();
  if (typeof address !== "object" || !address) throw new Error("no address");
  return {
    address: `http://127.0.0.1:${address.port}`,
    open,
    close: async () => {
      server.closeAllConnections();
      await new Promise((resolve) => server.close(resolve));
      evaluator.close();
      await open.close();
    },
  };
}

export interface Answer {
  status: number;
  type: string | null;
  body: unknown;
}

export async function send(address: string, method: string, path: string, body?: unknown): Promise<Answer> {
  const response = await fetch(address + path, {
    method,
    headers: body === undefined ? {} : { "content-type": "application/json" },
    body: body === undefined ? undefined : typeof body === "string" ? body : JSON.stringify(body),
  });
  const text = await response.text();
  return {
    status: response.status,
    type: response.headers.get("content-type"),
    body: text === "" ? null : (JSON.parse(text) as unknown),
  };
}

/** A request with a Host header of one's own, which fetch does not allow. */
export function sendAs(address: string, headers: Record<string, string>): Promise<number> {
  const url = new URL(address);
  return new Promise((resolve, reject) => {
    const r = request({ host: url.hostname, port: url.port, path: "/api/crafts", headers }, (response) => {
      response.resume();
      resolve(response.statusCode ?? 0);
    });
    r.on("error", reject);
    r.end();
  });
}

export const freshFolder = () => mkdtempSync(join(tmpdir(), "ultraform-data-"));

export interface Spawned {
  process: ChildProcess;
  address: string;
  output: () => string;
  exited: Promise<number | null>;
}

/**
 * A server process of its own on a data folder; resolves when it answers, or when it has ended. On a free port, or on
 * one that it had before.
 */
export async function spawnServer(
  folder: string,
  args: string[] = [],
  command = ["--import", "tsx", "server/main.ts"],
  port = 0,
): Promise<Spawned> {
  const child = spawn(process.execPath, [...command, "--port", String(port), "--data", folder, ...args], {
    cwd: root,
    stdio: ["ignore", "pipe", "pipe"],
  });
  let text = "";
  const exited = new Promise<number | null>((resolve) => child.once("exit", (code) => resolve(code)));
  const address = await new Promise<string>((resolve) => {
    const look = (chunk: Buffer) => {
      text += chunk.toString();
      const found = /https?:\/\/localhost:\d+/.exec(text);
      if (found) resolve(found[0]);
    };
    child.stdout?.on("data", look);
    child.stderr?.on("data", look);
    void exited.then(() => resolve(""));
  });
  return { process: child, address, output: () => text, exited };
}
