import { spawnSync } from "node:child_process";
import { readFileSync, rmSync } from "node:fs";
import { get } from "node:https";
import { join } from "node:path";
import { afterAll, describe, expect, it } from "vitest";
import type { CraftRecord } from "../../api/contracts";
import { newFault } from "../../core/design/craftFile";
import { newPlan, newRun } from "../support/api";
import { quietDesign } from "../support/designs";
import { freshFolder, root, send, spawnServer } from "../support/spawn";

const folder = freshFolder();
afterAll(() => rmSync(folder, { recursive: true, force: true }));

describe("the server as a process", () => {
  it(
    "starts with an empty workshop, keeps every acknowledged save through kill -9, and refuses a second " +
      "server on the same data",
    async () => {
      const first = await spawnServer(folder);
      expect(first.address).not.toBe("");
      expect((await send(first.address, "GET", "/api/crafts")).body).toEqual([]);
      const made = await send(first.address, "POST", "/api/crafts", {
        craft: { name: "Keeper", summary: "" },
        design: quietDesign(),
        question: "",
      });
      expect(made.status).toBe(200);

      const second = await spawnServer(folder);
      expect(second.address).toBe("");
      expect(await second.exited).toBe(1);
      expect(second.output()).toMatch(/in use by another Ultraform server/);

      let acknowledged = 0;
      const saving = (async () => {
        for (let revision = 0; ; revision++) {
          const design = quietDesign();
          design.brief.purpose = `save ${revision + 1}`;
          const r = await send(first.address, "PUT", "/api/crafts/keeper/versions/v1/design", {
            revision,
            design,
          }).catch(() => null);
          if (r?.status !== 200) return;
          acknowledged = revision + 1;
        }
      })();
      while (acknowledged < 12) await new Promise((r) => setTimeout(r, 20));
      first.process.kill("SIGKILL");
      await first.exited;
      await saving;

      const third = await spawnServer(folder);
      const held = (await send(third.address, "GET", "/api/crafts/keeper")).body as {
        revisions: { versions: Record<string, number> };
        file: { versions: { design: { brief: { purpose: string } } }[] };
      };
      // The save that was under way when the server was killed may have been committed without an answer.
      expect([acknowledged, acknowledged + 1]).toContain(held.revisions.versions.v1);
      expect(held.file.versions[0]?.design.brief.purpose).toBe(`save ${held.revisions.versions.v1}`);
      third.process.kill("SIGTERM");
      expect(await third.exited).toBe(0);
    },
  );
  it("keeps every acknowledged record of every kind through kill -9, and each entry of the field once", async () => {
    const data = freshFolder();
    const first = await spawnServer(data);
    await send(first.address, "POST", "/api/crafts", {
      craft: { name: "Keeper", summary: "" },
      design: quietDesign(),
      question: "",
    });
    const path = "/api/crafts/keeper";
    const sure = { runs: 0, plans: 0, faults: 0 };
    const post = async (to: string, body: unknown) =>
      (await send(first.address, "POST", `${path}/${to}`, body).catch(() => null))?.status === 200;
    const writing = (async () => {
      for (let n = 1; ; n++) {
        if (!(await post("versions/v1/runs", newRun({ stage: 1, key: `field-${String(n).padStart(4, "0")}` })))) return;
        sure.runs = n;
        if (!(await post("versions/v1/plans", newPlan()))) return;
        sure.plans = n;
        if (!(await post("faults", { ...newFault(n), title: `fault ${n}` }))) return;
        sure.faults = n;
      }
    })();
    while (sure.faults < 4) await new Promise((r) => setTimeout(r, 20));
    first.process.kill("SIGKILL");
    await first.exited;
    await writing;
    const second = await spawnServer(data);
    const held = (await send(second.address, "GET", path)).body as CraftRecord;
    for (const kind of ["runs", "plans", "faults"] as const) {
      expect(held.file[kind].length).toBeGreaterThanOrEqual(sure[kind]);
      expect(held.file[kind].length).toBeLessThanOrEqual(sure[kind] + 1);
    }
    // What the page had no answer to is sent again, and stands there once.
    for (let n = 1; n <= sure.runs + 1; n++)
      await send(
        second.address,
        "POST",
        `${path}/versions/v1/runs`,
        newRun({ stage: 1, key: `field-${String(n).padStart(4, "0")}` }),
      );
    const again = (await send(second.address, "GET", path)).body as CraftRecord;
    expect(again.file.runs.map((r) => r.number)).toEqual(Array.from({ length: sure.runs + 1 }, (_, i) => i + 1));
    second.process.kill("SIGTERM");
    expect(await second.exited).toBe(0);
    rmSync(data, { recursive: true, force: true });
  });
  it("says what is wrong with a bad port", async () => {
    const r = spawnSync(process.execPath, ["dist/server/main.js", "--port", "99999"], {
      cwd: root,
      encoding: "utf8",
    });
    expect(r.status).toBe(1);
    expect(r.stderr).toMatch(/not a port: a whole number/);
  });
});

describe("with a certificate", () => {
  const [certificate, key] = ["certificate.pem", "key.pem"].map((n) => join(root, "tests/fixtures", n));
  it("answers by https, and to whoever trusts that certificate only", async () => {
    const own = freshFolder();
    const server = await spawnServer(own, ["--certificate", certificate ?? "", "--key", key ?? ""]);
    expect(server.address).toMatch(/^https:/);
    const ask = (trusted: boolean) =>
      new Promise<number>((done, fail) => {
        const ca = trusted ? readFileSync(certificate ?? "") : undefined;
        get(`${server.address}/api/crafts`, { ca }, (r) => done(r.resume().statusCode ?? 0)).on("error", fail);
      });
    expect(await ask(true)).toBe(200);
    await expect(ask(false)).rejects.toThrow(/certificate/);
    server.process.kill("SIGTERM");
    await server.exited;
    rmSync(own, { recursive: true, force: true });
  });
  it.each([
    [["--certificate", certificate], /belong together: give/],
    [["--certificate", "nowhere.pem", "--key", key], /“nowhere.pem” cannot be read/],
    [["--certificate", certificate, "--key", certificate], /do not belong together, or are not in PEM/],
  ])("says what is wrong of %j, before it opens anything", (args, message) => {
    const r = spawnSync(process.execPath, ["dist/server/main.js", "--data", "/nowhere/at/all", ...args.map(String)], {
      cwd: root,
      encoding: "utf8",
    });
    expect(r.status).toBe(1);
    expect(r.stderr).toMatch(message);
    expect(r.stdout).toBe("");
  });
});

describe("command line", () => {
  const cli = (...args: string[]) =>
    spawnSync(process.execPath, ["dist/cli/main.js", ...args], { cwd: root, encoding: "utf8" });
  it("prints JSON and nothing else", () => {
    const r = cli("evaluate", "demo/annulus.json", "--version", "v1");
    expect(r.status).toBe(0);
    const out = JSON.parse(r.stdout) as { results: Record<string, { value: number; unit: string }> };
    expect(out.results.auw?.unit).toBe("kg");
    expect(out.results.auw?.value).toBeCloseTo(0.789, 3);
  });
  it("tells of the state that is named, by its name or its id", () => {
    const of = (...args: string[]) =>
      JSON.parse(cli("evaluate", "demo/samphire.json", ...args).stdout) as {
        state: string;
        states: string[];
        results: Record<string, { value: number }>;
      };
    const [first, afloat, byId] = [of(), of("--state", "afloat"), of("--state", "usual")];
    expect(first).toEqual(byId);
    expect([first.state, afloat.state]).toEqual(["aground", "afloat"]);
    expect(afloat.states).toEqual(["aground", "afloat"]);
    // The stalk is up: the CG with it.
    expect(afloat.results.cgZ?.value ?? 0).toBeGreaterThan(first.results.cgZ?.value ?? 0);
    expect(cli("report", "demo/samphire.json", "--state", "afloat").stdout).toMatch(/All below is told of afloat/);
  });
  it("prints the build report of a version", () => {
    const r = cli("report", "demo/tern.json", "--version", "v4");
    expect(r.status).toBe(0);
    expect(r.stdout).toMatch(/^# Tern v4\n/);
    expect(r.stdout).toContain("**Do not build.**");
  });
  it.each([
    [["evaluate", "nowhere.json"], /cannot be read/],
    [["evaluate", "package.json"], /format/],
    [["evaluate"], /usage/],
    [["evaluate", "demo/tern.json", "--version", "v99"], /no version v99/],
    [["evaluate", "demo/samphire.json", "--state", "airborne"], /no state airborne; it has aground, afloat/],
    [["--nonsense"], /usage/],
  ])("ends with 2 and one line for %j", (args, message) => {
    const r = cli(...args);
    expect(r.status).toBe(2);
    expect(r.stdout).toBe("");
    expect(r.stderr.trim().split("\n").length).toBe(1);
    expect(r.stderr).toMatch(message);
  });
});
