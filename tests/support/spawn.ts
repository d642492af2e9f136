import { type ChildProcess, spawn } from "node:child_process";
import { mkdtempSync } from "node:fs";
import { request } from "node:http";
import { tmpdir } from "node:os";
import { join } from "node:path";

// Nothing of the application is loaded here: what only talks to a server starts in a moment.

export const root = new URL("../..", import.meta.url).pathname;

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
  command = ["dist/server/main.js"],
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
