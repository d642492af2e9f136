import { describe, expect, it } from "vitest";
import type { BenchEntry, WeighIn } from "../../core/design/bench";
import type { ThrustReading } from "../../core/design/thrustTest";
import type { CraftFile } from "../../core/design/craftFile";
import type { Design } from "../../core/design/schema";
import { evaluate } from "../../core/evaluate";
import { changed, quietDesign } from "../support/designs";
import { apiForTests, newRun, problem } from "../support/api";
import { demoFile } from "../support/demo";
import { calm, rig, syntheticSweep } from "../support/sweeps";
import { measureDemo } from "../../server/demo/seed";
import { hiddenSchema } from "../../server/demo/hiddenCraft";
import { readFileSync } from "node:fs";
import { weighIn } from "../../core/bench/weighIn";

const { call, record, makeCraft, app } = apiForTests();

const total = (loads: number[]): WeighIn => ({ kind: "total", scale: { resolution: 0.001, error: 0 }, loads });
const session = (weighed: WeighIn = total([0.95, 0.951])) => ({
  date: "2026-02-01T10:00:00+01:00",
  weighIn: weighed,
  notes: "",
});
const tailAt = (value: number) => ({
  entries: [{ itemId: "tail", mass: { value, evidence: "measured", sd: 0.0005 } }],
  found: [],
});

describe("bench sessions", () => {
  it("are kept with the ledger of that moment, and freeze nothing", async () => {
    const slug = await makeCraft();
    expect((await call("POST", `/api/crafts/${slug}/versions/v1/bench`, session())).body).toEqual({ number: 1 });
    const { file, revisions } = await record(slug);
    expect(file.bench[0]).toMatchObject({
      number: 1,
      version: "v1",
      adopted: "",
      weighIn: { kind: "total", loads: [0.95, 0.951] },
    });
    expect(file.bench[0]?.tested.map((t) => t.id)).toEqual(["hull", "pack", "motor", "prop", "tail"]);
    expect(file.versions[0]?.frozenAt).toBeNull();
    expect(revisions.bench).toEqual({ "1": 0 });
  });
  it("refuse impossible readings by their place: negative loads, none at all, no tilt, an unknown kind", async () => {
    const slug = await makeCraft();
    const post = (weighed: unknown) =>
      call("POST", `/api/crafts/${slug}/versions/v1/bench`, { ...session(), weighIn: weighed });
    const negative = await post(total([-1]));
    expect(negative.status).toBe(400);
    expect(problem(negative.body).errors?.[0]).toMatchObject({
      path: "weighIn.loads.0",
      message: "a scale reads zero or more",
    });
    expect(problem((await post(total([]))).body).detail).toMatch(/at least one reading/);
    const tilt = {
      kind: "level-and-tilted",
      scale: { resolution: 0.001, error: 0 },
      ruler: 0.001,
      at: [0, 0.5],
      height: 0,
      level: [[1], [1]],
      tilted: [[1], [1]],
      angle: 0.01,
      angleSd: 0.01,
    };
    expect(problem((await post(tilt)).body).detail).toMatch(/tilt it by 3° or more/);
    expect((await post({ kind: "guessing" })).status).toBe(400);
    expect((await record(slug)).file.bench).toEqual([]);
  });
  it("a stale save is refused; deleting takes the session and nothing else", async () => {
    const slug = await makeCraft();
    await call("POST", `/api/crafts/${slug}/versions/v1/bench`, session());
    const path = `/api/crafts/${slug}/bench/1`;
    expect((await call("PUT", path, { revision: 0, session: session(total([0.96])) })).body).toEqual({ revision: 1 });
    const late = await call("PUT", path, { revision: 0, session: session() });
    expect([late.status, problem(late.body).type]).toEqual([409, "/problems/stale"]);
    expect((await call("DELETE", path)).status).toBe(200);
    expect((await call("DELETE", path)).status).toBe(404);
    expect((await record(slug)).file.versions).toHaveLength(1);
  });
});

describe("taking evidence over", () => {
  it("puts a weighing into a frozen version too, keeps the prediction, and does not make itself stale", async () => {
    const slug = await makeCraft();
    const run = newRun({
      stage: 1,
      measured: [{ metric: "auw", dimension: "mass", measured: { value: 0.95, sd: 0.001, by: "scale" } }],
    });
    await call("POST", `/api/crafts/${slug}/versions/v1/runs`, run);
    await call("POST", `/api/crafts/${slug}/versions/v1/bench`, session());
    const before = await record(slug);
    expect(before.file.versions[0]?.frozenAt).not.toBeNull();
    const adopt = (revision: number) =>
      call("POST", `/api/crafts/${slug}/bench/1/adopt`, { revision, evidence: tailAt(0.11), said: "tail 110 g" });
    expect((await adopt(before.revisions.versions.v1 ?? 0)).status).toBe(200);
    const after = await record(slug);
    const tail = after.file.versions[0]?.design.items.find((i) => i.id === "tail");
    expect(tail?.mass?.value).toBe(0.11);
    expect(after.file.bench[0]?.adopted).toBe("tail 110 g");
    expect(after.file.bench[0]?.tested.find((t) => t.id === "tail")?.mass).toBe(0.11);
    // What was predicted for the run stays as it was when it was logged.
    expect(after.file.runs).toEqual(before.file.runs);
    // The revision moved: the same call again is stale.
    expect((await adopt(before.revisions.versions.v1 ?? 0)).status).toBe(409);
  });
  it("is refused once the ledger has changed, and for parts that are not there; nothing is saved then", async () => {
    const slug = await makeCraft();
    await call("POST", `/api/crafts/${slug}/versions/v1/bench`, session());
    const unknown = await call("POST", `/api/crafts/${slug}/bench/1/adopt`, {
      revision: 0,
      evidence: { entries: [{ itemId: "wing" }], found: [] },
      said: "x",
    });
    expect([unknown.status, problem(unknown.body).detail]).toEqual([422, "There is no part “wing” in v1."]);
    const design = quietDesign();
    if (design.items[0]) design.items[0].place.x = 0.34;
    await call("PUT", `/api/crafts/${slug}/versions/v1/design`, { revision: 0, design });
    const late = await call("POST", `/api/crafts/${slug}/bench/1/adopt`, {
      revision: 1,
      evidence: tailAt(0.11),
      said: "x",
    });
    expect([late.status, problem(late.body).detail]).toEqual([
      422,
      expect.stringContaining("The ledger of v1 has changed since this weigh-in (hull)"),
    ]);
    expect((await record(slug)).file.versions[0]?.design.items.at(-1)?.mass?.value).toBe(0.08);
  });
});

describe("what older files lack", () => {
  it("a craft file without bench sessions and the newer fields of parts is read with their defaults", async () => {
    const file = JSON.parse(JSON.stringify(demoFile("annulus"))) as Record<string, unknown> & {
      versions: { design: { items: Record<string, unknown>[] } & Record<string, unknown> }[];
    };
    delete file.bench;
    for (const v of file.versions) {
      for (const key of ["envelope", "outlines", "walkBack", "ballastSpots"]) delete v.design[key];
      for (const i of v.design.items)
        for (const key of ["planned", "predicted", "parentId", "hollow", "slideY", "slideZ", "makeMinutes"])
          delete i[key];
      // What they never said is what a part is that says nothing.
      for (const i of v.design.items) for (const key of ["unplaced", "unsized", "costMost"]) delete i[key];
    }
    expect((await call("POST", "/api/crafts/import", file)).status).toBe(200);
    const whole = demoFile("annulus");
    for (const v of whole.versions) for (const i of v.design.items) i.hollow = false;
    expect((await record("annulus")).file).toEqual(JSON.parse(JSON.stringify(whole)));
  });
});

describe("the demo's weigh-ins", () => {
  it.each(["tern", "samphire"])("%s: read off its hidden craft, they agree with its true mass", (name) => {
    const hidden = hiddenSchema.parse(
      (JSON.parse(readFileSync(new URL("../../demo/hidden.json", import.meta.url), "utf8")) as Record<string, unknown>)[
        name
      ],
    );
    const file = measureDemo(demoFile(name), hidden);
    const results = file.bench.flatMap((b) => (b.weighIn ? [weighIn(b.weighIn)] : []));
    expect(results.length).toBeGreaterThanOrEqual(3);
    const masses = results.flatMap((r) => (r.mass ? [r.mass] : []));
    for (const m of masses)
      expect(Math.abs(m.value - (masses[0]?.value ?? 0))).toBeLessThan(4 * Math.hypot(m.sd, masses[0]?.sd ?? 0));
    for (const b of file.bench) expect(b.tested.length).toBeGreaterThan(10);
  });
});

describe("readings of one's own", () => {
  const free = {
    question: "does the damper help?",
    x: { name: "", unit: "" },
    y: { name: "vibration", unit: "m/s²" },
    of: "its own",
    axes: "both plain",
    conditions: [
      {
        name: "as it was",
        points: [
          { x: null, y: 8.1 },
          { x: null, y: 7.9 },
        ],
      },
      { name: "with the damper", points: [{ x: null, y: 5.2 }] },
    ],
  };
  const kept = (of: object = free) => ({ date: "2026-02-01T10:00:00+01:00", free: of, notes: "" });
  it("are kept of a craft that has no drive and no parts, saved again, and refused when stale", async () => {
    const slug = await makeCraft(
      "Bare",
      changed((d) => void Object.assign(d, { items: [], units: [], batteries: [], duty: [] })),
    );
    expect((await call("POST", `/api/crafts/${slug}/versions/v1/bench`, kept())).body).toEqual({ number: 1 });
    const { file } = await record(slug);
    expect(file.bench[0]).toMatchObject({ number: 1, free, weighIn: null, thrust: null });
    const asked = { ...free, question: "does the second damper help?" };
    const put = (revision: number, of: object) =>
      call("PUT", `/api/crafts/${slug}/bench/1`, { revision, session: kept(of) });
    expect((await put(0, asked)).status).toBe(200);
    const stale = await put(0, free);
    expect(stale.status).toBe(409);
    expect(JSON.stringify(stale.body)).toContain("does the second damper help?");
    expect((await record(slug)).file.bench[0]?.free?.question).toBe("does the second damper help?");
  });
  it("are refused without a reading, with a number that is none, or with a third condition", async () => {
    const slug = await makeCraft();
    const post = (of: object) => call("POST", `/api/crafts/${slug}/versions/v1/bench`, kept({ ...free, ...of }));
    const none = await post({ conditions: [{ name: "", points: [] }] });
    expect(none.status).toBe(400);
    expect(problem(none.body).errors?.[0]?.message).toMatch(/at least one reading/);
    expect((await post({ conditions: [{ name: "", points: [{ x: "far", y: 1 }] }] })).status).toBe(400);
    expect((await post({ conditions: [...free.conditions, ...free.conditions] })).status).toBe(400);
    expect((await post({ axes: "polar" })).status).toBe(400);
    const two = await call("POST", `/api/crafts/${slug}/versions/v1/bench`, { ...session(), free });
    expect(two.status).toBe(400);
    expect(JSON.stringify(two.body)).toMatch(/a session holds one test/);
  });
});

describe("weighed moments", () => {
  const moment = {
    axis: "yaw",
    role: "answers",
    what: "screws against one another",
    throttle: 0.5,
    way: { by: "scale at an arm", arm: 0.4, pulls: [5.1, 4.9] },
  };
  const kept = (of: object) => ({ date: "2026-02-01T10:00:00+01:00", moment: of, notes: "" });
  it("of each way are kept as they were read, and travel with the craft", async () => {
    const slug = await makeCraft();
    const ways = [
      moment.way,
      {
        by: "two lines",
        mass: null,
        spacing: 0.3,
        length: 1.2,
        twists: [0.2, -0.21],
        swings: [{ count: 10, seconds: 14 }],
      },
      { by: "timed turn", speed: null, turns: [{ angle: 6.28, seconds: 4 }] },
    ];
    for (const way of ways)
      expect((await call("POST", `/api/crafts/${slug}/versions/v1/bench`, kept({ ...moment, way }))).status).toBe(200);
    expect((await record(slug)).file.bench.map((b) => b.moment?.way)).toEqual(ways);
  });
  it("are refused without a reading, on no arm, and with what belongs to another way", async () => {
    const slug = await makeCraft();
    const post = (way: object) => call("POST", `/api/crafts/${slug}/versions/v1/bench`, kept({ ...moment, way }));
    const none = await post({ ...moment.way, pulls: [] });
    expect(none.status).toBe(400);
    expect(problem(none.body).errors?.[0]?.message).toMatch(/at least one reading/);
    expect((await post({ ...moment.way, arm: 0 })).status).toBe(400);
    expect((await post({ by: "two lines", arm: 0.4, pulls: [5] })).status).toBe(400);
    expect((await post({ by: "a guess" })).status).toBe(400);
    expect((await post({ ...moment.way, pulls: [-1] })).status).toBe(400);
  });
});

describe("pulls in turns", () => {
  const safety = { restraint: true, plane: true, shield: true, distance: true, people: true, cutOff: true };
  const pulls = {
    unitId: quietDesign().units[0]?.id ?? "",
    of: "with and without",
    what: "the lid",
    throttle: 0.6,
    safety: { ...safety, place: "outdoors" },
    readings: [
      { side: 0, pull: 10, voltage: 12, current: null },
      { side: 1, pull: 8, voltage: 11.9, current: null },
    ],
  };
  const kept = (of: object) => ({ date: "2026-02-01T10:00:00+01:00", pulls: of, notes: "" });
  it("are kept in the order in which they were read, with the drive as it was, and travel with the craft", async () => {
    const slug = await makeCraft();
    const made = await call("POST", `/api/crafts/${slug}/versions/v1/bench`, kept(pulls));
    expect(made.status).toBe(200);
    const [session] = (await record(slug)).file.bench;
    expect(session?.pulls?.readings).toEqual(pulls.readings);
    expect(session?.pulls?.together).toBe(2);
    expect(session?.pulls?.drive?.propeller).toEqual(quietDesign().units[0]?.propeller);
    // Read again with one more: what it was read of stays what it was.
    const more = { ...session?.pulls, readings: [...pulls.readings, pulls.readings[0]], drive: null };
    const { revisions } = await record(slug);
    const saved = await call("PUT", `/api/crafts/${slug}/bench/1`, {
      revision: revisions.bench[1],
      session: kept(more),
    });
    expect(saved.status).toBe(200);
    const again = (await record(slug)).file.bench[0]?.pulls;
    expect(again?.readings).toHaveLength(3);
    expect(again?.drive).toEqual(session?.pulls?.drive);
  });
  it("are refused without a reading, with a pull below nothing, and of a drive that is not there", async () => {
    const slug = await makeCraft();
    const post = (of: object) => call("POST", `/api/crafts/${slug}/versions/v1/bench`, kept(of));
    const none = await post({ ...pulls, readings: [] });
    expect(none.status).toBe(400);
    expect(problem(none.body).errors?.[0]?.message).toMatch(/at least one reading/);
    expect((await post({ ...pulls, readings: [{ ...pulls.readings[0], pull: -1 }] })).status).toBe(400);
    expect((await post({ ...pulls, of: "a guess" })).status).toBe(400);
    expect((await post({ ...pulls, unitId: "gone" })).status).toBe(422);
  });
});

describe("sweeps", () => {
  const sweepOf = (readings: ThrustReading[]): BenchEntry => ({
    date: "2026-02-01T10:00:00+01:00",
    weighIn: null,
    fastThrottle: null,
    calibration: null,
    glide: null,
    free: null,
    moment: null,
    pulls: null,
    notes: "",
    files: [],
    thrust: {
      unitId: quietDesign().units[0]?.id ?? "",
      rig: rig(),
      air: calm,
      safety: {
        restraint: true,
        plane: true,
        shield: true,
        distance: true,
        people: true,
        cutOff: true,
        place: "outdoors",
      },
      plan: {
        steps: [0, 0.5, 1],
        down: true,
        repeats: 1,
        samples: 3,
        rest: 0,
        measures: ["thrust", "voltage", "current"],
      },
      readings,
      drive: null,
    },
  });
  const readings = syntheticSweep(1, { top: 6 }).map((r) => ({
    ...r,
    voltage: 11 - 0.02 * 14 * r.throttle ** 2,
    current: 14 * r.throttle ** 2.4,
  }));
  const keep = async (slug: string, entry = sweepOf(readings)) =>
    call("POST", `/api/crafts/${slug}/versions/v1/bench`, entry);

  it("are kept with the drive as it was; editing readings does not change which drive was tested", async () => {
    const slug = await makeCraft();
    expect((await keep(slug)).body).toEqual({ number: 1 });
    const { file } = await record(slug);
    const kept = file.bench[0]?.thrust;
    expect(kept?.drive).toMatchObject({
      motor: quietDesign().units[0]?.motor,
      battery: { series: quietDesign().batteries[0]?.series },
    });
    const edited = sweepOf(readings.slice(0, 30));
    const saved = await call("PUT", `/api/crafts/${slug}/bench/1`, {
      revision: 0,
      session: { ...edited, thrust: { ...edited.thrust, drive: null } },
    });
    expect(saved.body).toEqual({ revision: 1 });
    const after = (await record(slug)).file.bench[0]?.thrust;
    expect([after?.readings.length, after?.drive]).toEqual([30, kept?.drive]);
  });
  it("taken over, the curve is the drive's own: the prediction changes, and a frozen version stays frozen", async () => {
    const slug = await makeCraft();
    await keep(slug);
    await call("POST", `/api/crafts/${slug}/versions/v1/runs`, newRun());
    const before = await record(slug);
    const unit = before.file.versions[0]?.design.units[0];
    const learned = await call("POST", `/api/crafts/${slug}/bench/1/learn`, {
      revision: before.revisions.versions.v1,
      unitIds: [unit?.id],
    });
    expect(learned.status, JSON.stringify(learned.body)).toBe(200);
    const { file } = await record(slug);
    const [version] = file.versions;
    expect(version?.design.units[0]?.learned).toMatchObject({
      session: 1,
      craft: "Test craft",
      of: { motor: unit?.motor },
    });
    expect(file.bench[0]?.adopted).toBe(`curve of ${unit?.name}`);
    expect(version?.frozenAt).not.toBeNull();
    const thrust = (d: Design | undefined) => (d ? evaluate(d).metrics.thrust?.value : undefined);
    expect(thrust(version?.design)).not.toBeCloseTo(thrust(before.file.versions[0]?.design) ?? 0, 1);
    // What a run was predicted with stays what it was.
    expect(file.runs[0]?.metrics).toEqual(before.file.runs[0]?.metrics);
  });
  it("taken over with the pack that fed it, the pack's resistance is measured too", async () => {
    const guessed = changed((d) => {
      for (const b of d.batteries) b.cellResistance = { value: 0.008, evidence: "guess" };
    });
    const slug = await makeCraft("Test craft", guessed);
    await keep(slug);
    const before = await record(slug);
    const [version] = before.file.versions;
    const id = version?.design.units[0]?.id;
    const asked = { revision: before.revisions.versions.v1, unitIds: [id], pack: true };
    const learned = await call("POST", `/api/crafts/${slug}/bench/1/learn`, asked);
    expect(learned.status, JSON.stringify(learned.body)).toBe(200);
    const { file, revisions } = await record(slug);
    const battery = file.versions[0]?.design.batteries[0];
    expect(battery?.cellResistance).toMatchObject({ evidence: "measured", note: "sag of sweep B-1" });
    expect(file.bench[0]?.adopted).toContain(`resistance of ${battery?.name}`);
    // A second time there is nothing left to learn of it, and that is said.
    const again = await call("POST", `/api/crafts/${slug}/bench/1/learn`, {
      ...asked,
      revision: revisions.versions.v1,
    });
    expect(again.status).toBe(422);
    expect(JSON.stringify(again.body)).toContain("without it");
  });
  it(
    "taken over for a like drive on another pack, the resistance is that of the pack that was on the " + "stand",
    async () => {
      const slug = await makeCraft(
        "Test craft",
        changed((d) => {
          const [unit, battery] = [d.units[0], d.batteries[0]];
          if (!unit || !battery) throw new Error("no drive");
          battery.cellResistance = { value: 0.008, evidence: "guess" };
          d.batteries.push({ ...structuredClone(battery), id: "b2", name: "second pack", itemId: null });
          d.units.push({ ...structuredClone(unit), id: "u2", name: "second drive", batteryId: "b2" });
        }),
      );
      await keep(slug);
      const { revisions } = await record(slug);
      const asked = { revision: revisions.versions.v1, unitIds: ["u2"], pack: true };
      const learned = await call("POST", `/api/crafts/${slug}/bench/1/learn`, asked);
      expect(learned.status, JSON.stringify(learned.body)).toBe(200);
      const design = (await record(slug)).file.versions[0]?.design;
      expect(design?.batteries.map((b) => b.cellResistance.evidence)).toEqual(["measured", "guess"]);
      expect(design?.units.map((u) => u.learned?.session ?? null)).toEqual([null, 1]);
    },
  );
  it("are refused for a drive with other parts, on a stale save, or when they say nothing", async () => {
    const slug = await makeCraft();
    await keep(slug);
    await keep(slug, sweepOf(readings.map((r) => ({ ...r, voltage: null }))));
    const { file, revisions } = await record(slug);
    const id = file.versions[0]?.design.units[0]?.id;
    const learn = (n: number, body: unknown) => call("POST", `/api/crafts/${slug}/bench/${n}/learn`, body);
    expect([
      (await learn(1, { revision: 99, unitIds: [id] })).status,
      (await learn(2, { revision: 0, unitIds: [id] })).status,
      (await learn(9, { revision: 0, unitIds: [id] })).status,
    ]).toEqual([409, 422, 404]);
    const changed = structuredClone(file.versions[0]?.design);
    if (changed?.units[0]) changed.units[0].propeller.pitch = { value: 0.2, evidence: "measured" };
    const saved = await call("PUT", `/api/crafts/${slug}/versions/v1/design`, {
      revision: revisions.versions.v1,
      design: changed,
    });
    const late = await learn(1, { revision: (saved.body as { revision: number }).revision, unitIds: [id] });
    expect([late.status, problem(late.body).detail]).toEqual([
      422,
      expect.stringContaining("another propeller than the drive on the stand"),
    ]);
  });
  it.each<[string, (e: BenchEntry) => unknown, RegExp]>([
    [
      "two tests in one session",
      (e) => ({ ...e, calibration: { instrument: "x", quantity: "current", by: "known values", pairs: [] } }),
      /a session holds one test/,
    ],
    ["no test at all", (e) => ({ ...e, thrust: null }), /a session holds one test/],
    [
      "a throttle beyond full",
      (e) => ({ ...e, thrust: e.thrust && { ...e.thrust, readings: [{ ...readings[0], throttle: 1.4 }] } }),
      /thrust\.readings\.0\.throttle/,
    ],
    [
      "an arm of no length",
      (e) => ({ ...e, thrust: e.thrust && { ...e.thrust, rig: { ...e.thrust.rig, scaleArm: 0 } } }),
      /an arm is longer than nothing/,
    ],
  ])("refuse %s", async (_, spoil, message) => {
    const slug = await makeCraft();
    const r = await call("POST", `/api/crafts/${slug}/versions/v1/bench`, spoil(sweepOf(readings)));
    expect(r.status).toBe(400);
    expect(JSON.stringify(r.body)).toMatch(message);
    expect((await record(slug)).file.bench).toEqual([]);
  });
});

describe("pictures", () => {
  // The smallest PNG: one transparent pixel.
  const content = "iVBORw0KGgoAAAANSUhEUgAAAAEAAAABCAYAAAAfFcSJAAAADUlEQVR42mNk+M9QDwADhgGAWjR9awAAAABJRU5ErkJggg==";
  const add = (body: unknown) => call("POST", "/api/files", body);
  it("are kept once by their content, served back, and travel with the craft file", async () => {
    const first = (await add({ type: "image/png", content })).body as { hash: string; size: number };
    expect((await add({ type: "image/png", content })).body).toEqual(first);
    const slug = await makeCraft();
    const file = { hash: first.hash, name: "stand", type: "image/png", size: first.size };
    await call("POST", `/api/crafts/${slug}/versions/v1/bench`, { ...session(), files: [file] });
    const exported = (await call("GET", `/api/crafts/${slug}/export`)).body as CraftFile;
    expect(exported.files).toEqual([{ hash: first.hash, type: "image/png", content }]);
    // A page does not carry the pictures in its record.
    expect((await record(slug)).file.files).toEqual([]);
    await call("DELETE", `/api/crafts/${slug}`);
    const back = await call("POST", "/api/crafts/import", exported);
    expect(back.status).toBe(200);
    expect((await record((back.body as { slug: string }).slug)).file.bench[0]?.files).toEqual([file]);
    const served = await fetch(`${app().address}/api/files/${first.hash}`);
    expect([served.status, served.headers.get("content-type"), served.headers.get("x-content-type-options")]).toEqual([
      200,
      "image/png",
      "nosniff",
    ]);
    expect(Buffer.from(await served.arrayBuffer()).toString("base64")).toBe(content);
  });
  it("are refused when they are none, or damaged in a craft file", async () => {
    expect((await add({ type: "image/jpeg", content })).status).toBe(422);
    expect(
      (await add({ type: "image/png", content: Buffer.from("<svg onload=alert(1)>").toString("base64") })).status,
    ).toBe(422);
    expect((await add({ type: "text/html", content })).status).toBe(400);
    expect((await fetch(`${app().address}/api/files/${"0".repeat(64)}`)).status).toBe(404);
    expect((await fetch(`${app().address}/api/files/..%2f..%2fetc`)).status).toBe(400);
    const file = { ...demoFile("annulus"), files: [{ hash: "a".repeat(64), type: "image/png", content }] };
    const r = await call("POST", "/api/crafts/import", file);
    expect([r.status, problem(r.body).detail]).toEqual([422, expect.stringContaining("its content does not match")]);
    expect(((await call("GET", "/api/crafts")).body as unknown[]).length).toBe(0);
  });
});
