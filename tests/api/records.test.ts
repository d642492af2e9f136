import { describe, expect, it } from "vitest";
import type { Attachment } from "../../core/design/bench";
import {
  FORMAT_VERSION,
  type Fault,
  GOING,
  craftFileSchema,
  newCrash,
  newFault,
  newSuspect,
} from "../../core/design/craftFile";
import type { OwnSymptom } from "../../core/design/symptom";
import { usualLadder } from "../../core/runs/ladders";
import { apiForTests, newPlan, newRun, problem } from "../support/api";
import { changed, quietDesign } from "../support/designs";

const { call, record, makeCraft } = apiForTests();
const number = (body: unknown) => (body as { number: number }).number;
const trash = (body: unknown) => (body as { trash: number }).trash;
const fault = (change: Partial<Fault> = {}): Omit<Fault, "number"> => ({ ...newFault(1), title: "Shook", ...change });
const log = (slug: string, change: Parameters<typeof newRun>[0] = {}, label = "v1") =>
  call("POST", `/api/crafts/${slug}/versions/${label}/runs`, newRun(change));

describe("the ladder's locks", () => {
  it("refuse a run on a locked rung until a reason is given, and keep both with the run", async () => {
    const slug = await makeCraft();
    const no = await log(slug, { stage: 3, goneOn: "" });
    expect(no.status).toBe(422);
    expect(problem(no.body).detail).toMatch(
      /Rung 3 is locked: rung 1 not tried yet; rung 2 not tried yet. To go on, say why./,
    );
    expect((await record(slug)).file.versions[0]?.frozenAt).toBeNull();
    expect((await log(slug, { stage: 3, goneOn: "on a line, over grass" })).status).toBe(200);
    expect((await record(slug)).file.runs[0]).toMatchObject({
      goneOn: "on a line, over grass",
      locks: [
        { kind: "untried", stage: 1 },
        { kind: "untried", stage: 2 },
      ],
    });
  });
  it("never refuse what was logged live: it happened", async () => {
    const slug = await makeCraft();
    expect((await log(slug, { stage: 4, goneOn: "", live: true })).status).toBe(200);
    const kept = (await record(slug)).file.runs[0];
    expect(kept?.goneOn).toBe("");
    expect(kept?.locks.length).toBe(3);
  });
  it("climb rung by rung without a word", async () => {
    const slug = await makeCraft();
    for (const stage of [1, 2, 3, 4]) expect((await log(slug, { stage, goneOn: "" })).status).toBe(200);
    expect((await record(slug)).file.runs.every((r) => r.locks.length === 0)).toBe(true);
  });
  it("a stop verdict of the design locks too", async () => {
    const slug = await makeCraft();
    const aft = changed((d) => void ((d.items.find((i) => i.id === "pack") as { place: { x: number } }).place.x = 0.4));
    await call("PUT", `/api/crafts/${slug}/versions/v1/design`, { revision: 0, design: aft });
    await log(slug, { stage: 1 });
    const no = await log(slug, { stage: 2, goneOn: "" });
    expect(no.status).toBe(422);
    expect(problem(no.body).detail).toMatch(/cg outside/);
  });
  it("a crash locks until its evidence is secured and a suspect was tested", async () => {
    const slug = await makeCraft();
    await log(slug, { stage: 1 });
    await log(slug, { stage: 2, outcome: "failed", crash: newCrash() });
    expect(problem((await log(slug, { stage: 2, goneOn: "" })).body).detail).toMatch(
      /evidence of the crash in run 2 is not secured/,
    );
    const crash = { notes: "", steps: { safe: true, log: true, photographs: true, unmoved: true, suspects: true } };
    expect(
      (await call("PUT", `/api/crafts/${slug}/runs/2`, { revision: 0, run: newRun({ outcome: "failed", crash }) }))
        .status,
    ).toBe(200);
    expect(problem((await log(slug, { stage: 2, goneOn: "" })).body).detail).toMatch(
      /no suspect of the crash in run 2 has been tested/,
    );
  });
});

describe("a mark of danger", () => {
  it("opens a fault with the run that was logged, once, and locks what is above until it is answered", async () => {
    const slug = await makeCraft();
    await log(slug, { stage: 1 });
    const smoke = (seconds: number) => ({
      id: `m${seconds}`,
      seconds,
      kind: "mark" as const,
      mark: "smoke",
      text: "",
      pack: null,
      files: [],
    });
    const run = { stage: 2, moments: [smoke(5), smoke(9)], key: "the-same-run" };
    await log(slug, run);
    await log(slug, run);
    const { file } = await record(slug);
    expect(file.faults.map((f) => [f.number, f.run, f.title, f.severity, f.state])).toEqual([
      [1, 2, "Smell or smoke", "danger", "open"],
    ]);
    const no = await log(slug, { stage: 2, goneOn: "" });
    expect(problem(no.body).detail).toMatch(/“Smell or smoke” in run 2 is not answered/);
  });
});

describe("gates", () => {
  const angle = (degrees: number) => [
    {
      metric: "noseAngle",
      dimension: "angle" as const,
      measured: { value: (degrees * Math.PI) / 180, sd: 0.002, by: "video" },
    },
  ];
  it("of the rung are copied into the run with how it went; moving them later rewrites nothing", async () => {
    const slug = await makeCraft();
    const path = `/api/crafts/${slug}`;
    await log(slug, { stage: 3, measured: angle(9), eye: { straight: "passed" } });
    const first = (await record(slug)).file.runs[0]?.gates;
    expect(first?.map((g) => [g.gate.id, g.result])).toEqual([
      ["nose", "failed"],
      ["straight", "passed"],
    ]);
    const { revisions } = await record(slug);
    const ladder = usualLadder(["wings"]).map((r) =>
      r.stage === 3 ? { ...r, gates: r.gates.map((g) => (g.id === "nose" ? { ...g, value: 1 } : g)) } : r,
    );
    expect((await call("PUT", `${path}/versions/v1`, { revision: revisions.versions.v1, ladder })).status).toBe(200);
    expect((await record(slug)).file.runs[0]?.gates).toEqual(first);
    await log(slug, { stage: 3, measured: angle(9) });
    expect((await record(slug)).file.runs[1]?.gates.map((g) => g.result)).toEqual(["passed", "not judged"]);
    // Saved again with another reading, the run is held against the gate that it had.
    expect(
      (await call("PUT", `${path}/runs/1`, { revision: 0, run: newRun({ stage: 3, measured: angle(4) }) })).status,
    ).toBe(200);
    expect((await record(slug)).file.runs[0]?.gates.map((g) => [g.gate.value < 0.2, g.result])).toEqual([
      [true, "passed"],
      [true, "passed"],
    ]);
  });
  it("go along into the next version", async () => {
    const slug = await makeCraft();
    const ladder = usualLadder(["wings"]).map((r) => (r.stage === 2 ? { ...r, name: "Tether pull" } : r));
    await call("PUT", `/api/crafts/${slug}/versions/v1`, { revision: 0, ladder });
    await call("POST", `/api/crafts/${slug}/versions`, { parent: "v1", question: "", reason: "r", claims: [] });
    expect((await record(slug)).file.versions[1]?.ladder?.[1]?.name).toBe("Tether pull");
  });
  it("a ladder with a hole in it is refused with its place", async () => {
    const slug = await makeCraft();
    const r = await call("PUT", `/api/crafts/${slug}/versions/v1`, {
      revision: 0,
      ladder: usualLadder(["wings"]).slice(1),
    });
    expect(r.status).toBe(400);
    expect(problem(r.body).errors?.[0]?.path).toBe("ladder");
  });
});

describe("an entry that is sent twice", () => {
  it("is logged once, and its number is given back", async () => {
    const slug = await makeCraft();
    const run = { stage: 1, key: "field-0001", purpose: "first" };
    expect((await log(slug, run)).body).toEqual({ number: 1 });
    expect((await log(slug, { ...run, purpose: "changed on the way" })).body).toEqual({ number: 1 });
    const { file } = await record(slug);
    expect(file.runs.map((r) => r.purpose)).toEqual(["first"]);
  });
  it("of twenty sent at once one is kept", async () => {
    const slug = await makeCraft();
    const answers = await Promise.all(Array.from({ length: 20 }, () => log(slug, { stage: 1, key: "field-0002" })));
    expect((await record(slug)).file.runs.length).toBe(1);
    expect(answers.every((a) => a.status === 200 && number(a.body) === 1)).toBe(true);
  });
  it("the same key on another craft is another entry", async () => {
    const [a, b] = [await makeCraft("One"), await makeCraft("Two")];
    await log(a, { stage: 1, key: "field-0003" });
    await log(b, { stage: 1, key: "field-0003" });
    expect((await record(b)).file.runs.length).toBe(1);
  });
});

describe("moments and pictures of a run", () => {
  // The smallest PNG there is: one white point.
  const content = "iVBORw0KGgoAAAANSUhEUgAAAAEAAAABCAQAAAC1HAwCAAAAC0lEQVR42mP8/x8AAwMCAO+ip1sAAAAASUVORK5CYII=";
  it("survive export and import with their content", async () => {
    const slug = await makeCraft();
    const { hash, size } = (await call("POST", "/api/files", { type: "image/png", content })).body as {
      hash: string;
      size: number;
    };
    const picture: Attachment = { hash, size, name: "as it lies", type: "image/png" };
    const moments = [
      {
        id: "m1",
        seconds: 0,
        kind: "pack in" as const,
        mark: "",
        text: "",
        pack: { name: "P-01", resting: 12.4, loaded: 11.2 },
        files: [],
      },
      {
        id: "m2",
        seconds: 12.4,
        kind: "photo" as const,
        mark: "struck",
        text: "a ridge",
        pack: null,
        files: [picture],
      },
    ];
    await log(slug, { stage: 1, moments, files: [picture], seconds: 31 });
    const out = (await call("GET", `/api/crafts/${slug}/export`)).body as {
      files: { hash: string }[];
      runs: unknown[];
    };
    expect(out.files.map((f) => f.hash)).toEqual([hash]);
    const again = (await call("POST", "/api/crafts/import", out)).body as { slug: string };
    expect((await call("GET", `/api/crafts/${again.slug}/export`)).body).toEqual(out);
    expect((await record(again.slug)).file.runs[0]).toMatchObject({ moments, files: [picture], seconds: 31 });
  });
  it("a log is kept as the text that it is, and what is no text is refused in words", async () => {
    const csv = "t;V\n0,1;12,4 °\n";
    const kept = (await call("POST", "/api/files", { type: "text/csv", content: Buffer.from(csv).toString("base64") }))
      .body as { hash: string; size: number };
    expect(kept.size).toBe(Buffer.byteLength(csv));
    const slug = await makeCraft();
    await log(slug, { stage: 1, files: [{ ...kept, name: "run.csv", type: "text/csv" }] });
    const out = (await call("GET", `/api/crafts/${slug}/export`)).body as { files: { content: string }[] };
    expect(Buffer.from(out.files[0]?.content ?? "", "base64").toString()).toBe(csv);
    for (const bytes of [Buffer.from([0x74, 0, 0x56]), Buffer.from([0xff, 0xfe, 0x41])]) {
      const no = await call("POST", "/api/files", { type: "text/csv", content: bytes.toString("base64") });
      expect(no.status).toBe(422);
      expect(problem(no.body).detail).toMatch(/not a text: UTF-8 is read/);
    }
    expect(
      (await call("POST", "/api/files", { type: "image/png", content: Buffer.from(csv).toString("base64") })).status,
    ).toBe(422);
  });
  it("a moment before the start or of no kind is refused with its place", async () => {
    const slug = await makeCraft();
    const moment = { id: "m", seconds: -1, kind: "mark", mark: "", text: "", pack: null, files: [] };
    const r = await log(slug, { stage: 1, moments: [moment as never] });
    expect(problem(r.body).errors?.[0]?.path).toBe("moments.0.seconds");
  });
});

describe("plans", () => {
  it("are made, changed against their revision, carried out by a run, and deleted", async () => {
    const slug = await makeCraft();
    const path = `/api/crafts/${slug}`;
    expect(problem((await call("POST", `${path}/versions/v1/plans`, newPlan({ question: " " }))).body).detail).toMatch(
      /a run answers a question/,
    );
    expect(number((await call("POST", `${path}/versions/v1/plans`, newPlan())).body)).toBe(1);
    const save = (revision: number, question: string) =>
      call("PUT", `${path}/plans/1`, { revision, plan: newPlan({ question, stage: 1 }) });
    expect((await save(0, "first")).body).toEqual({ revision: 1 });
    const late = await save(0, "second");
    expect(late.status).toBe(409);
    expect(problem(late.body).current).toMatchObject({ revision: 1, plan: { question: "first" } });
    expect((await log(slug, { stage: 1, plan: 1 })).status).toBe(200);
    expect((await record(slug)).file.plans[0]).toMatchObject({ question: "first", state: "done", version: "v1" });
    expect((await log(slug, { stage: 1, plan: 7 })).status).toBe(404);
    expect((await record(slug)).file.runs.length).toBe(1);
    expect((await call("DELETE", `${path}/plans/1`)).status).toBe(200);
    expect((await call("DELETE", `${path}/plans/1`)).status).toBe(404);
  });
});

describe("what is said of a version", () => {
  it("what is not given stays, and what was claimed may not change after the first run", async () => {
    const slug = await makeCraft();
    const path = `/api/crafts/${slug}/versions/v1`;
    const claims = [{ metric: "thrust", direction: "up" as const, amount: "by 20 %", change: "units/#d" }];
    const whys = [{ change: "units/#d", why: "short at standing", fault: null, run: null }];
    const advice = [
      { id: "a", date: "2026-01-01T10:00:00Z", from: "a friend", text: "more pitch", state: "open" as const, made: "" },
    ];
    expect((await call("PUT", path, { revision: 0, question: "does it lift?", claims })).body).toEqual({ revision: 1 });
    expect(
      (await call("PUT", path, { revision: 1, whys, advice, fate: { ...GOING, exit: "ten hours more" } })).body,
    ).toEqual({ revision: 2 });
    expect((await record(slug)).file.versions[0]).toMatchObject({
      question: "does it lift?",
      claims,
      whys,
      advice,
      fate: { exit: "ten hours more" },
    });
    await log(slug, { stage: 1 });
    const revision = (await record(slug)).revisions.versions.v1;
    const anew = await call("PUT", path, { revision, claims: [] });
    expect(anew.status).toBe(409);
    expect(problem(anew.body)).toMatchObject({ type: "/problems/frozen" });
    expect((await call("PUT", path, { revision, claims, finding: "it does" })).status).toBe(200);
    expect((await call("PUT", path, { revision, finding: "late" })).status).toBe(409);
    expect((await record(slug)).file.versions[0]).toMatchObject({
      finding: "it does",
      question: "does it lift?",
      claims,
      whys,
      advice,
      fate: { exit: "ten hours more" },
    });
  });
});

describe("who is blamed", () => {
  const shown = [newSuspect("a", "linkage", { state: "ruled in", result: "bent" })];
  const closed = (change: Partial<Fault>) => fault({ state: "closed", suspects: shown, ...change });
  /** As another program sends it, which knows nothing of the field. */
  const without = ({ pilotBlamed: _, ...rest }: Omit<Fault, "number">) => rest;
  it("is proposed by the words of the cause where nobody said it, and then needs a swap", async () => {
    const slug = await makeCraft();
    await log(slug, { stage: 1 });
    const post = (body: object) => call("POST", `/api/crafts/${slug}/faults`, body);
    const no = await post(without(closed({ cause: "Pilot error in the turn" })));
    expect(no.status).toBe(422);
    expect(problem(no.body).detail).toMatch(/needs the same pilot on another craft/);
    expect((await post(without(closed({ cause: "pilot hole too wide" })))).status).toBe(200);
    expect((await post(without(fault({ cause: "Pilot error" })))).status).toBe(200);
    const { file, revisions } = await record(slug);
    expect(file.faults.map((f) => f.pilotBlamed)).toEqual([false, true]);
    // What somebody said goes before the words, either way, and holds when it is saved again.
    const save = (body: object) =>
      call("PUT", `/api/crafts/${slug}/faults/2`, { revision: revisions.faults["2"], fault: body });
    expect((await save(closed({ cause: "Pilot error", pilotBlamed: true }))).status).toBe(422);
    const swapped = closed({
      cause: "Pilot error",
      pilotBlamed: true,
      pilotSwap: { how: "another pilot, this craft", shown: "flew it level" },
    });
    expect((await save(swapped)).status).toBe(200);
    expect((await record(slug)).file.faults[1]).toMatchObject({ state: "closed", pilotBlamed: true });
  });
  it("the suspect at the sticks needs a swap too, whatever it is called", async () => {
    const slug = await makeCraft();
    await log(slug, { stage: 1 });
    const pilot = [newSuspect("pilot", "too late in the turn", { state: "ruled in", result: "said so" })];
    const no = await call("POST", `/api/crafts/${slug}/faults`, closed({ suspects: pilot }));
    expect(no.status).toBe(422);
  });
  it("the readings of a suspect's test and the angles of a run are kept, and refused when they are none", async () => {
    const slug = await makeCraft();
    const angles = [
      { what: "elevon", side: "port" as const, of: "neutral" as const, value: 0.03, sd: 0.009 },
      { what: "elevon", side: "starboard" as const, of: "neutral" as const, value: -0.01, sd: 0.009 },
    ];
    expect((await log(slug, { stage: 1, angles })).status).toBe(200);
    expect((await log(slug, { stage: 1, angles: [{ ...angles[0], value: 2 }] as typeof angles })).status).toBe(400);
    expect((await log(slug, { stage: 1, angles: [{ ...angles[0], what: "" }] as typeof angles })).status).toBe(400);
    const effect = { what: "play", unit: "°", without: [3.1, 2.9], with: [0.8, 1] };
    const suspects = [newSuspect("a", "gear worn", { effect })];
    expect((await call("POST", `/api/crafts/${slug}/faults`, fault({ suspects }))).status).toBe(200);
    const long = [newSuspect("a", "gear worn", { effect: { ...effect, with: Array.from({ length: 300 }, () => 1) } })];
    expect((await call("POST", `/api/crafts/${slug}/faults`, fault({ suspects: long }))).status).toBe(400);
    const { file } = await record(slug);
    expect(file.runs[0]?.angles).toEqual(angles);
    expect(file.faults[0]?.suspects[0]?.effect).toEqual(effect);
  });
});

describe("deleting, and bringing back", () => {
  const back = (id: number) => call("POST", `/api/trash/${id}/restore`);
  it("a whole craft comes back as it was, with everything in it", async () => {
    const slug = await makeCraft("Keeper");
    await log(slug, {
      stage: 1,
      measured: [{ metric: "auw", dimension: "mass", measured: { value: 1, sd: 0.01, by: "scale" } }],
    });
    await call("POST", `/api/crafts/${slug}/faults`, fault({ suspects: [] }));
    await call("POST", `/api/crafts/${slug}/versions/v1/plans`, newPlan());
    const before = (await call("GET", `/api/crafts/${slug}/export`)).body;
    const id = trash((await call("DELETE", `/api/crafts/${slug}`)).body);
    expect((await call("GET", `/api/crafts/${slug}`)).status).toBe(404);
    expect((await call("GET", "/api/trash")).body).toMatchObject([{ id, kind: "craft", name: "Keeper" }]);
    expect((await back(id)).body).toEqual({ kind: "craft", name: "Keeper" });
    expect((await call("GET", `/api/crafts/${slug}/export`)).body).toEqual(before);
    expect((await call("GET", "/api/trash")).body).toEqual([]);
    expect((await back(id)).status).toBe(404);
    // What is made afterwards does not collide with what came back.
    expect((await log(slug, { stage: 1 })).body).toEqual({ number: 2 });
    await makeCraft("Keeper");
  });
  it("a run, a fault, a plan and a draft come back with what belongs to them", async () => {
    const slug = await makeCraft();
    const path = `/api/crafts/${slug}`;
    await log(slug, { stage: 1 });
    await log(slug, {
      stage: 1,
      measured: [{ metric: "auw", dimension: "mass", measured: { value: 1, sd: 0.01, by: "scale" } }],
    });
    await call("POST", `${path}/faults`, fault());
    await call("POST", `${path}/versions/v1/plans`, newPlan());
    await call("POST", `${path}/versions`, { parent: "v1", question: "draft", reason: "r", claims: [] });
    const before = (await call("GET", `${path}/export`)).body;
    const ids: number[] = [];
    for (const what of ["runs/2", "faults/1", "plans/1", "versions/v2"])
      ids.push(trash((await call("DELETE", `${path}/${what}`)).body));
    const without = craftFileSchema.parse((await call("GET", `${path}/export`)).body);
    expect([without.runs.length, without.faults.length, without.plans.length, without.versions.length]).toEqual([
      1, 0, 0, 1,
    ]);
    for (const id of ids.toReversed()) expect((await back(id)).status).toBe(200);
    expect((await call("GET", `${path}/export`)).body).toEqual(before);
  });
  it("a number is given once: what comes back has its own, and what was logged meanwhile another", async () => {
    const slug = await makeCraft();
    await log(slug, { stage: 1, purpose: "first" });
    const id = trash((await call("DELETE", `/api/crafts/${slug}/runs/1`)).body);
    await log(slug, { stage: 1, purpose: "second" });
    await back(id);
    expect((await record(slug)).file.runs.map((r) => [r.number, r.purpose])).toEqual([
      [1, "first"],
      [2, "second"],
    ]);
  });
  it("a run that a fault rests on stays; one whose craft is gone does not come back, in words", async () => {
    const slug = await makeCraft();
    await log(slug, { stage: 1 });
    await call("POST", `/api/crafts/${slug}/faults`, fault());
    const held = await call("DELETE", `/api/crafts/${slug}/runs/1`);
    expect(held.status).toBe(422);
    expect(problem(held.body).detail).toMatch(/Fault F-01 belongs to run 1/);
    const id = trash((await call("DELETE", `/api/crafts/${slug}/faults/1`)).body);
    await call("DELETE", `/api/crafts/${slug}`);
    const late = await back(id);
    expect(late.status).toBe(422);
    expect(problem(late.body).detail).toMatch(/it belongs to/);
    // Refused, it is still kept.
    expect(((await call("GET", "/api/trash")).body as unknown[]).length).toBe(2);
  });
});

describe("a catalogue of one's own", () => {
  const entry: OwnSymptom = {
    id: "own-gurgle",
    text: "Gurgles",
    group: "water and ground",
    causes: [{ id: "c1", text: "Air in the intake", test: "look", minutes: 2, cost: 0, risk: "none", fix: "" }],
  };
  const put = (revision: number | null, change: Partial<OwnSymptom> = {}) =>
    call("PUT", `/api/symptoms/${entry.id}`, { revision, symptom: { ...entry, ...change } });
  it("is added to, changed against a revision, and travels with the craft that refers to it", async () => {
    expect((await put(null)).body).toEqual({ revision: 0 });
    expect((await put(null)).status).toBe(422);
    expect((await put(0, { text: "Gurgles like a drain" })).body).toEqual({ revision: 1 });
    expect((await put(0)).status).toBe(409);
    const slug = await makeCraft();
    await log(slug, { stage: 1 });
    await call("POST", `/api/crafts/${slug}/faults`, fault({ symptom: entry.id }));
    const file = (await call("GET", `/api/crafts/${slug}/export`)).body as { symptoms: OwnSymptom[] };
    expect(file.symptoms.map((s) => s.text)).toEqual(["Gurgles like a drain"]);
    expect((await call("DELETE", `/api/symptoms/${entry.id}`)).status).toBe(422);
    await call("DELETE", `/api/crafts/${slug}`);
    const gone = trash((await call("DELETE", `/api/symptoms/${entry.id}`)).body);
    await call("POST", "/api/crafts/import", file);
    expect((await call("GET", "/api/symptoms")).body).toMatchObject([{ symptom: { text: "Gurgles like a drain" } }]);
    expect((await call("POST", `/api/trash/${gone}/restore`)).status).toBe(422);
  });
  it.each([
    [{ text: "" }, /symptom.text/],
    [{ causes: [] }, /at least one cause/],
    [{ id: "gurgle" }, /own-/],
  ])("%j is refused in words", async (change, message) => {
    const r = await put(null, change as Partial<OwnSymptom>);
    expect(r.status).toBe(400);
    expect(problem(r.body).detail).toMatch(message);
  });
});

it("what was stored before a field existed still reads: an old file without plans, moments or ladders", async () => {
  const old = {
    format: "ultraform-craft",
    formatVersion: FORMAT_VERSION,
    currency: "EUR",
    craft: { name: "Old", summary: "" },
    versions: [
      {
        label: "v1",
        parent: null,
        question: "",
        finding: "",
        reason: "",
        claims: [{ metric: "thrust", direction: "up", amount: "" }],
        createdAt: "2025-01-01T10:00:00Z",
        frozenAt: "2025-01-01T10:00:00Z",
        design: quietDesign(),
      },
    ],
    runs: [{ ...newRun({ stage: 1 }), number: 1, version: "v1", metrics: [] }].map(
      ({
        measured: _m,
        eye: _e,
        live: _l,
        plan: _p,
        seconds: _s,
        moments: _o,
        files: _f,
        goneOn: _g,
        crash: _c,
        key: _k,
        ...r
      }) => r,
    ),
    faults: [
      {
        number: 1,
        run: 1,
        title: "Shook",
        symptom: null,
        seen: "",
        severity: "harmless",
        damage: "",
        suspects: [],
        cause: "",
        fix: "",
        fixVersion: null,
        proofRun: null,
        state: "open",
        minutes: 0,
        cost: 0,
      },
    ],
  };
  const made = await call("POST", "/api/crafts/import", old);
  expect(made.status, JSON.stringify(made.body)).toBe(200);
  expect((await record("old")).file).toMatchObject({
    plans: [],
    symptoms: [],
    versions: [{ ladder: null, fate: GOING }],
    runs: [{ moments: [], key: null }],
    faults: [{ part: "", pilotSwap: null }],
  });
});
