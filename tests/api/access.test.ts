import { rmSync, statSync } from "node:fs";
import { request } from "node:http";
import { join } from "node:path";
import { afterAll, beforeAll, describe, expect, it, vi } from "vitest";
import express from "express";
import { accessCode, demandCode } from "../../server/access";
import { freshFolder, spawnServer } from "../support/spawn";
import { type Running, startApp } from "../support/server";

const CODE = "kvmr4t7x";
let app: Running;
beforeAll(async () => {
  app = await startApp(undefined, CODE);
});
afterAll(() => app.close());

interface Reply {
  status: number;
  body: string;
  cookie: string | undefined;
}
/** A request with headers of one's own, as another machine in the network would send it. */
function ask(method: string, path: string, headers: Record<string, string> = {}, body = ""): Promise<Reply> {
  const url = new URL(app.address);
  return new Promise((resolve, reject) => {
    const r = request(
      { host: url.hostname, port: url.port, method, path, headers: { host: "192.168.1.7:4870", ...headers } },
      (response) => {
        let text = "";
        response.on("data", (chunk: Buffer) => (text += chunk.toString()));
        response.on("end", () =>
          resolve({
            status: response.statusCode ?? 0,
            body: text,
            cookie: response.headers["set-cookie"]?.[0]?.split(";")[0],
          }),
        );
      },
    );
    r.on("error", reject);
    r.end(body);
  });
}
const enter = (code: string) =>
  ask("POST", "/enter", { "content-type": "application/x-www-form-urlencoded" }, `code=${encodeURIComponent(code)}`);

describe("a server that listens beyond its own machine", () => {
  it("tells nothing without the code: neither data nor pages", async () => {
    const api = await ask("GET", "/api/crafts");
    expect(api.status).toBe(401);
    expect(JSON.parse(api.body)).toMatchObject({ type: "/problems/access", status: 401 });
    const page = await ask("GET", "/craft/tern");
    expect(page.status).toBe(401);
    expect(page.body).toContain("Access code");
    expect(page.body).not.toContain("main");
    expect((await ask("POST", "/api/crafts/import", { "content-type": "application/json" }, "{}")).status).toBe(401);
  });
  it("lets in with the code, whatever its case, and not with a cookie that is made up", async () => {
    const inside = await enter(` ${CODE.toUpperCase()} `);
    expect(inside.status).toBe(303);
    expect(inside.cookie).toMatch(/^ultraform=[0-9a-f]{64}$/);
    expect(inside.cookie).not.toContain(CODE);
    expect((await ask("GET", "/api/crafts", { cookie: `a=b; ${inside.cookie}` })).status).toBe(200);
    expect((await ask("GET", "/api/crafts", { cookie: `ultraform=${"0".repeat(64)}` })).status).toBe(401);
    expect((await ask("GET", "/api/crafts", { cookie: "ultraform=" })).status).toBe(401);
  });
  it("a page of another name may not send with that cookie", async () => {
    const { cookie = "" } = await enter(CODE);
    expect((await ask("GET", "/api/crafts", { cookie, origin: "http://elsewhere.example" })).status).toBe(403);
    expect((await ask("GET", "/api/crafts", { cookie, origin: "http://192.168.1.7:4870" })).status).toBe(200);
  });
  it("each device has a pass of its own, which is listed and can be withdrawn", async () => {
    const phone =
      (
        await ask(
          "POST",
          "/enter",
          {
            "content-type": "application/x-www-form-urlencoded",
            "user-agent": "Mozilla/5.0 (Linux; Android 15) Chrome/140",
          },
          `code=${CODE}`,
        )
      ).cookie ?? "";
    const tablet = (await enter(CODE)).cookie ?? "";
    expect(phone).not.toBe(tablet);
    const list = JSON.parse((await ask("GET", "/api/devices", { cookie: phone })).body) as {
      id: number;
      name: string;
      own: boolean;
    }[];
    const own = list.filter((d) => d.own);
    expect(own).toHaveLength(1);
    expect(own[0]?.name).toBe("Android, Chrome");
    expect(JSON.stringify(list)).not.toContain(phone.split("=")[1]);
    expect((await ask("DELETE", `/api/devices/${own[0]?.id}`, { cookie: tablet })).status).toBe(200);
    expect((await ask("GET", "/api/crafts", { cookie: phone })).status).toBe(401);
    expect((await ask("GET", "/api/crafts", { cookie: tablet })).status).toBe(200);
  });
  it("says that a code is wrong, and after six in a minute to wait", async () => {
    const wrong: number[] = [];
    for (let k = 0; k < 6; k++) wrong.push((await enter(k === 0 ? "" : `guess${k}`)).status);
    expect(new Set(wrong)).toEqual(new Set([401]));
    const late = await enter(CODE);
    expect(late.status).toBe(429);
    expect(late.body).toContain("Wait a minute");
  });
  it("survives what is no form", async () => {
    expect([400, 401, 413, 429]).toContain(
      (await ask("POST", "/enter", { "content-type": "application/x-www-form-urlencoded" }, `code=${"x".repeat(5000)}`))
        .status,
    );
    expect([401, 429]).toContain((await ask("POST", "/enter", { "content-type": "application/json" }, "{")).status);
    expect((await ask("GET", "/api/crafts")).status).toBe(401);
  });
});

describe("wrong codes from everywhere", () => {
  it("are counted together: after sixty in an hour nobody is let in, whatever their address", async () => {
    vi.useFakeTimers({ toFake: ["Date"], now: Date.parse("2026-01-01T10:00:00Z") });
    const server = express();
    demandCode(server, { db: app.open.db, code: CODE, now: () => new Date().toISOString() });
    const listening = server.listen(0, "127.0.0.1");
    await new Promise((r) => listening.once("listening", r));
    const place = listening.address();
    const address = `http://127.0.0.1:${typeof place === "object" ? place?.port : 0}`;
    const tryCode = async (code: string) =>
      (await fetch(`${address}/enter`, { method: "POST", body: new URLSearchParams({ code }), redirect: "manual" }))
        .status;
    for (let k = 0; k < 60; k++) {
      expect(await tryCode(`guess${k}`)).toBe(401);
      // Slow enough for the limit of one address.
      vi.setSystemTime(Date.now() + 15_000);
    }
    expect(await tryCode(CODE)).toBe(429);
    vi.setSystemTime(Date.now() + 3_600_000);
    expect(await tryCode(CODE)).toBe(303);
    listening.close();
    vi.useRealTimers();
  });
});

describe("the access code", () => {
  it("is made once for a data folder, readable by its owner only, of signs that are not mistaken", () => {
    // Its folder may not be there yet.
    const folder = join(freshFolder(), "data", "deeper");
    const code = accessCode(folder);
    expect(code).toMatch(/^[a-z2-9]{8}$/);
    expect(code).not.toMatch(/[ilo01]/);
    expect(accessCode(folder)).toBe(code);
    expect(statSync(join(folder, "access-code")).mode & 0o777).toBe(0o600);
    rmSync(folder, { recursive: true });
  });
  it("is shown by a server that was told to listen to others, and by no other", async () => {
    const folder = freshFolder();
    const server = await spawnServer(folder, ["--host", "0.0.0.0"]);
    for (let k = 0; k < 50 && !server.output().includes("Access code"); k++)
      await new Promise((r) => setTimeout(r, 100));
    expect(server.output()).toMatch(/For other machines: .*Access code: [a-z2-9]{8}/);
    expect((await fetch(`${server.address}/api/crafts`)).status).toBe(401);
    server.process.kill("SIGTERM");
    await server.exited;
    const own = await spawnServer(folder);
    expect(own.output()).not.toContain("Access code");
    expect((await fetch(`${own.address}/api/crafts`)).status).toBe(200);
    own.process.kill("SIGTERM");
    await own.exited;
    rmSync(folder, { recursive: true, force: true });
  });
});
