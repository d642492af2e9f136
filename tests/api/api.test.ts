import { sql } from "drizzle-orm";
import { describe, expect, it } from "vitest";
import { type CraftFile, type Fault, newFault, newSuspect } from "../../core/design/craftFile";
import { quietDesign } from "../support/designs";
import { apiForTests, newRun, problem } from "../support/api";
import { sendAs } from "../support/spawn";
import { demoFile } from "../support/demo";

const { app, call, record, makeCraft } = apiForTests();
const fault = (change: Partial<Omit<Fault, "number">> = {}): Omit<Fault, "number"> => ({
  ...newFault(1),
  title: "Shook",
  ...change,
});

describe("craft files", () => {
  it.each(["tern", "annulus", "samphire", "lantern", "gannet"])(
    "%s survives import and export without loss",
    async (name) => {
      const file = demoFile(name);
      const made = await call("POST", "/api/crafts/import", file);
      expect(made.body).toEqual({ slug: name });
      const back = await call("GET", `/api/crafts/${name}/export`);
      expect(back.body).toEqual(JSON.parse(JSON.stringify(file)));
    },
  );
  it("a second import stands beside the first", async () => {
    await call("POST", "/api/crafts/import", demoFile("annulus"));
    expect((await call("POST", "/api/crafts/import", demoFile("annulus"))).body).toEqual({ slug: "annulus-2" });
    const list = (await call("GET", "/api/crafts")).body as { slug: string; runs: number }[];
    expect(list.map((c) => c.slug)).toEqual(["annulus", "annulus-2"]);
    expect(list[0]?.runs).toBe(1);
  });
  it("a file with a fault anywhere is refused whole, with the path", async () => {
    const file = structuredClone(demoFile("tern")) as CraftFile;
    const motor = file.versions[2]?.design.units[0]?.motor;
    if (motor) motor.kv.value = -5;
    const r = await call("POST", "/api/crafts/import", file);
    expect(r.status).toBe(400);
    expect(problem(r.body).errors?.[0]?.path).toBe("versions.2.design.units.0.motor.kv.value");
    expect((await call("GET", "/api/crafts")).body).toEqual([]);
  });
  it("deletes a craft with everything in it", async () => {
    await call("POST", "/api/crafts/import", demoFile("tern"));
    expect((await call("DELETE", "/api/crafts/tern")).status).toBe(200);
    expect((await call("GET", "/api/crafts/tern")).status).toBe(404);
    const left = await app().open.db.execute(
      sql`select (select count(*) from runs) + (select count(*) from suspects) + (select count(*) from run_metrics) as n`,
    );
    expect(Number((left as unknown as { rows: { n: unknown }[] }).rows[0]?.n)).toBe(0);
  });
});

describe("designs", () => {
  it("saves with the revision it was read at, and refuses a stale save with the state that is held", async () => {
    const slug = await makeCraft();
    const design = quietDesign();
    design.brief.purpose = "first";
    const path = `/api/crafts/${slug}/versions/v1/design`;
    expect((await call("PUT", path, { revision: 0, design })).body).toEqual({ revision: 1 });
    const late = await call("PUT", path, {
      revision: 0,
      design: { ...design, brief: { ...design.brief, purpose: "second" } },
    });
    expect(late.status).toBe(409);
    expect(late.type).toContain("application/problem+json");
    expect(problem(late.body)).toMatchObject({
      type: "/problems/stale",
      current: { revision: 1, design: { brief: { purpose: "first" } } },
    });
    expect((await record(slug)).file.versions[0]?.design.brief.purpose).toBe("first");
  });
  it("of twenty saves at once with one revision exactly one is taken", async () => {
    const slug = await makeCraft();
    const answers = await Promise.all(
      Array.from({ length: 20 }, () =>
        call("PUT", `/api/crafts/${slug}/versions/v1/design`, { revision: 0, design: quietDesign() }),
      ),
    );
    expect(answers.filter((a) => a.status === 200).length).toBe(1);
    expect(answers.filter((a) => a.status === 409).length).toBe(19);
  });
  it.each([
    ["zero Kv", "units.0.motor.kv.value", 0, /kv\.value/],
    ["negative resistance", "batteries.0.cellResistance.value", -1, /cellResistance/],
    ["a gear ratio of 0", "units.0.gear.ratio", 0, /positive number/],
    ["100 cells", "batteries.0.series", 100, /at most 24/],
    ["a mass in words", "items.0.mass.value", "heavy", /expected number/],
    ["a part without a name", "items.0.name", " ", /name is needed/],
  ])("names the field of %s", async (_what, path, value, message) => {
    const slug = await makeCraft();
    const design = JSON.parse(JSON.stringify(quietDesign())) as Record<string, unknown>;
    const keys = path.split(".");
    let node = design;
    for (const k of keys.slice(0, -1)) node = node[k] as Record<string, unknown>;
    node[keys.at(-1) ?? ""] = value;
    const r = await call("PUT", `/api/crafts/${slug}/versions/v1/design`, { revision: 0, design });
    expect(r.status).toBe(400);
    expect(problem(r.body).errors?.[0]?.path).toBe(`design.${path}`);
    expect(problem(r.body).detail).toMatch(message);
  });
});

describe("runs freeze versions", () => {
  it("copies the predictions in, numbers the run, freezes the version, and never fills what has no model", async () => {
    const slug = await makeCraft();
    const measured = [
      { metric: "auw", dimension: "mass" as const, measured: { value: 0.95, sd: 0.001, by: "scale" } },
      { metric: "liftOffSpeed", dimension: "speed" as const, measured: { value: 8, sd: 0.2, by: "logger" } },
      { metric: "Hum", dimension: "ratio" as const, measured: null },
    ];
    expect((await call("POST", `/api/crafts/${slug}/versions/v1/runs`, newRun({ measured }))).body).toEqual({
      number: 1,
    });
    const { file } = await record(slug);
    expect(file.versions[0]?.frozenAt).not.toBeNull();
    expect(file.runs[0]?.metrics[0]?.predicted?.value).toBeCloseTo(0.92, 9);
    expect(file.runs[0]?.metrics.slice(1).map((m) => m.predicted)).toEqual([null, null]);
    const edit = await call("PUT", `/api/crafts/${slug}/versions/v1/design`, { revision: 1, design: quietDesign() });
    expect(problem(edit.body).type).toBe("/problems/frozen");
  });
  it("a powered run wants the cautions read", async () => {
    const slug = await makeCraft();
    const r = await call("POST", `/api/crafts/${slug}/versions/v1/runs`, newRun({ cautionsRead: false }));
    expect(r.status).toBe(400);
    expect(problem(r.body).detail).toMatch(/cautions/);
    expect(
      (await call("POST", `/api/crafts/${slug}/versions/v1/runs`, newRun({ cautionsRead: false, stage: 1 }))).status,
    ).toBe(200);
  });
  it("predictions stay as copied when a run is edited later", async () => {
    const slug = await makeCraft();
    const auw = (value: number) => [
      { metric: "auw", dimension: "mass" as const, measured: { value, sd: 0.001, by: "scale" } },
    ];
    await call("POST", `/api/crafts/${slug}/versions/v1/runs`, newRun({ measured: auw(0.95) }));
    await app().open.db.transaction((tx) => tx.execute(sql`update run_metrics set predicted_value = 0.5`));
    expect(
      (
        await call("PUT", `/api/crafts/${slug}/runs/1`, {
          revision: 0,
          run: newRun({ measured: auw(0.96), notes: "again" }),
        })
      ).body,
    ).toEqual({ revision: 1 });
    const kept = (await record(slug)).file.runs[0];
    expect(kept?.metrics[0]).toMatchObject({ predicted: { value: 0.5 }, measured: { value: 0.96 } });
    expect((await call("PUT", `/api/crafts/${slug}/runs/1`, { revision: 0, run: newRun() })).status).toBe(409);
  });
});

describe("runs of a lap file", () => {
  const post = (slug: string, list: { version: string; run: ReturnType<typeof newRun> }[]) =>
    call("POST", `/api/crafts/${slug}/runs`, { runs: list });
  it("come in together, numbered in order, and freeze each its version", async () => {
    const slug = await makeCraft();
    await call("POST", `/api/crafts/${slug}/versions`, { parent: "v1", question: "", reason: "why", claims: [] });
    expect(
      (
        await post(slug, [
          { version: "v1", run: newRun() },
          { version: "v2", run: newRun() },
        ])
      ).body,
    ).toEqual({ numbers: [1, 2] });
    const { file } = await record(slug);
    expect(file.runs.map((r) => [r.number, r.version])).toEqual([
      [1, "v1"],
      [2, "v2"],
    ]);
    expect(file.versions.map((v) => v.frozenAt !== null)).toEqual([true, true]);
  });
  it("leave nothing behind when one of them is refused", async () => {
    const slug = await makeCraft();
    expect(
      (
        await post(slug, [
          { version: "v1", run: newRun() },
          { version: "v9", run: newRun() },
        ])
      ).status,
    ).toBe(404);
    expect(
      (
        await post(slug, [
          { version: "v1", run: newRun() },
          { version: "v1", run: newRun({ cautionsRead: false }) },
        ])
      ).status,
    ).toBe(400);
    const { file } = await record(slug);
    expect(file.runs).toEqual([]);
    expect(file.versions[0]?.frozenAt).toBeNull();
  });
});

describe("versions", () => {
  it("open as children and branches, and only a bare draft can be deleted", async () => {
    const slug = await makeCraft();
    const child = (parent: string, label?: string) =>
      call("POST", `/api/crafts/${slug}/versions`, { parent, question: "", reason: "why", claims: [], label });
    expect((await child("v1")).body).toEqual({ label: "v2", revision: 0 });
    expect((await child("v1")).body).toEqual({ label: "v1b", revision: 0 });
    expect((await child("v2", "v2")).status).toBe(422);
    expect((await child("v9")).status).toBe(404);
    expect(problem((await call("DELETE", `/api/crafts/${slug}/versions/v1`)).body).detail).toMatch(/grew from v1/);
    expect((await call("DELETE", `/api/crafts/${slug}/versions/v1b`)).status).toBe(200);
    await call("POST", `/api/crafts/${slug}/versions/v2/runs`, newRun());
    expect((await call("DELETE", `/api/crafts/${slug}/versions/v2`)).status).toBe(409);
  });
});

describe("faults", () => {
  const tested = newSuspect("a", "a", { test: "t", minutes: 5, result: "line parted", state: "ruled in" });
  it("refuse closed without a test result and proven without a later run", async () => {
    const slug = await makeCraft();
    expect((await call("POST", `/api/crafts/${slug}/faults`, fault())).status).toBe(422);
    await call("POST", `/api/crafts/${slug}/versions/v1/runs`, newRun());
    expect((await call("POST", `/api/crafts/${slug}/faults`, fault())).body).toEqual({ number: 1 });
    const save = (revision: number, change: Partial<Fault>) =>
      call("PUT", `/api/crafts/${slug}/faults/1`, { revision, fault: fault(change) });
    expect((await save(0, { state: "closed" })).status).toBe(422);
    expect((await save(0, { state: "closed", suspects: [tested] })).body).toEqual({ revision: 1 });
    expect((await save(1, { state: "proven", suspects: [tested], proofRun: 1 })).status).toBe(422);
    await call("POST", `/api/crafts/${slug}/versions/v1/runs`, newRun({ date: "2026-02-02T10:00:00+01:00" }));
    expect((await save(1, { state: "proven", suspects: [tested], proofRun: 2 })).body).toEqual({ revision: 2 });
    expect((await save(1, { state: "unresolved" })).status).toBe(409);
    expect((await record(slug)).file.faults[0]).toMatchObject({
      state: "proven",
      suspects: [{ result: "line parted" }],
    });
  });
});

describe("hostile and broken requests", () => {
  it.each([
    ["not JSON", "{", 400],
    ["an empty body", "", 400],
    ["a list", "[]", 400],
    ["deep nonsense", `${"[".repeat(5000)}${"]".repeat(5000)}`, 400],
  ])("%s is answered in problem details", async (_what, body, status) => {
    const r = await call("POST", "/api/crafts", body);
    expect(r.status).toBe(status);
    expect(r.type).toContain("application/problem+json");
    expect(problem(r.body).title.length).toBeGreaterThan(3);
  });
  it("refuses a body over the limit", async () => {
    expect((await call("POST", "/api/crafts", JSON.stringify({ x: "y".repeat(3_000_000) }))).status).toBe(413);
  });
  it("knows no other route, and no route with a broken escape", async () => {
    expect((await call("GET", "/api/nothing")).status).toBe(404);
    expect((await call("GET", "/api/crafts/%E0%A4%A")).status).toBe(400);
    expect((await call("GET", "/api/crafts/'; drop table crafts; --")).status).toBe(404);
  });
  it("answers only to names of this machine, and only to its own pages", async () => {
    expect(await sendAs(app().address, { host: "evil.example" })).toBe(403);
    expect(await sendAs(app().address, { host: "localhost:80" })).toBe(200);
    expect(await sendAs(app().address, { host: "localhost", origin: "http://evil.example" })).toBe(403);
    expect(await sendAs(app().address, { host: "localhost", origin: "null" })).toBe(403);
    expect(await sendAs(app().address, { host: "localhost:4870", origin: "http://localhost:4870" })).toBe(200);
    // A page of another program on this machine.
    expect(await sendAs(app().address, { host: "localhost:4870", origin: "http://localhost:3000" })).toBe(403);
  });
  it("sends security headers", async () => {
    const r = await fetch(`${app().address}/api/crafts`);
    expect(r.headers.get("content-security-policy")).toContain("default-src 'self'");
    expect(r.headers.get("x-content-type-options")).toBe("nosniff");
    expect(r.headers.get("x-powered-by")).toBeNull();
  });
});
