import {
  appendFileSync,
  cpSync,
  mkdirSync,
  mkdtempSync,
  readFileSync,
  readdirSync,
  rmSync,
  truncateSync,
  writeFileSync,
} from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { PGlite } from "@electric-sql/pglite";
import { drizzle } from "drizzle-orm/pglite";
import { migrate } from "drizzle-orm/pglite/migrator";
import { afterAll, afterEach, describe, expect, it } from "vitest";
import { compact, snapshotsOf } from "../../server/db/history";
import { readSegment, segmentsOf } from "../../server/db/journal";
import { openDatabase } from "../../server/db/open";
import { readCraft } from "../../server/rows";
import { quietDesign } from "../support/designs";
import { freshFolder } from "../support/spawn";
import { upTo } from "../support/migrations";
import { NOW, clear, folder, folders, make, purpose, rows, rowsAt, saves } from "../support/workshop";

afterEach(clear);

describe("a folder that is opened after trouble", () => {
  /** A workshop with six saves, left as a killed server leaves it. */
  let made: Promise<{ data: string; held: string[] }> | null = null;
  async function left(): Promise<{ data: string; held: string[] }> {
    made ??= filled();
    const { data: original, held } = await made;
    const data = folder();
    cpSync(original, data, { recursive: true });
    return { data, held };
  }
  afterAll(async () => made && rmSync((await made).data, { recursive: true, force: true }));
  async function filled(): Promise<{ data: string; held: string[] }> {
    const data = freshFolder();
    const open = await openDatabase(data);
    const slug = await make(open);
    await saves(open, slug, 6);
    const held = await rows(open);
    await open.close();
    return { data, held };
  }
  const killed = (data: string) =>
    writeFileSync(
      join(data, "state.json"),
      readFileSync(join(data, "state.json"), "utf8").replace('"clean":true', '"clean":false'),
    );

  it("after a clean stop is opened as it is, without a word", async () => {
    const { data, held } = await left();
    const open = await openDatabase(data);
    expect(open.notes).toEqual([]);
    expect(await rows(open)).toEqual(held);
    await open.close();
  });
  it.each([
    ["was killed", killed, /not stopped properly/],
    [
      "lost its whole cluster",
      (data: string) => rmSync(join(data, "database"), { recursive: true }),
      /its files were missing/,
    ],
    [
      "has a cluster of zeros",
      (data: string) => {
        for (const name of readdirSync(join(data, "database/global")))
          writeFileSync(join(data, "database/global", name), Buffer.alloc(8192));
      },
      /did not open/,
    ],
    [
      "has an empty cluster folder",
      (data: string) => {
        rmSync(join(data, "database"), { recursive: true });
        mkdirSync(join(data, "database"));
      },
      /its files were missing/,
    ],
  ])("one that %s is built anew from the journal, and says so in one sentence", async (_what, harm, why) => {
    const { data, held } = await left();
    harm(data);
    const open = await openDatabase(data);
    expect(open.notes).toHaveLength(1);
    expect(open.notes[0]).toMatch(why);
    expect(await rows(open)).toEqual(held);
    // It goes on from there, under new ids and numbers.
    await make(open, "After");
    await open.close();
    const again = await openDatabase(data);
    expect(again.notes).toEqual([]);
    expect((await rows(again)).filter((r) => r.startsWith('["crafts"'))).toHaveLength(2);
    await again.close();
  });
  it("one whose cluster lags behind its journal is built anew", async () => {
    const data = folder();
    const open = await openDatabase(data);
    const slug = await make(open);
    await open.close();
    const old = mkdtempSync(join(tmpdir(), "ultraform-old-"));
    folders.push(old);
    cpSync(join(data, "database"), join(old, "database"), { recursive: true });
    const on = await openDatabase(data);
    await saves(on, slug, 3);
    await on.close();
    rmSync(join(data, "database"), { recursive: true });
    cpSync(join(old, "database"), join(data, "database"), { recursive: true });
    const back = await openDatabase(data);
    expect(back.notes[0]).toMatch(/lagged behind/);
    expect(await purpose(back, slug)).toBe("save 3");
    await back.close();
  });
  it("a journal that was cut in the middle of its last line loses only what was never acknowledged", async () => {
    const { data } = await left();
    killed(data);
    const last = segmentsOf(data).at(-1)?.file ?? "";
    truncateSync(last, readFileSync(last).length - 40);
    const open = await openDatabase(data);
    expect(await purpose(open, "keeper")).toBe("save 5");
    await open.close();
    const next = folder();
    cpSync(data, next, { recursive: true });
    appendFileSync(segmentsOf(next).at(-1)?.file ?? "", "half a li");
    killed(next);
    const again = await openDatabase(next);
    expect(await purpose(again, "keeper")).toBe("save 5");
    await saves(again, "keeper", 1, 5);
    await again.close();
    expect(readSegment(segmentsOf(next).at(-1) ?? { first: 0, file: "" }).torn).toBe(false);
  });
  it("a damaged newest snapshot is passed over for the one before", async () => {
    const { data, held } = await left();
    await compact(data, 5);
    const [newest] = snapshotsOf(data);
    writeFileSync(newest?.file ?? "", readFileSync(newest?.file ?? "").subarray(0, 60));
    killed(data);
    const open = await openDatabase(data);
    expect(await rows(open)).toEqual(held);
    await open.close();
  });
  it("a folder of a release before the journal is opened, brought up to date, and has a snapshot then", async () => {
    const data = folder();
    const client = new PGlite(join(data, "database"));
    await migrate(drizzle(client), { migrationsFolder: upTo("0007_ladders_plans_trash") });
    const json = (x: unknown) => JSON.stringify(x).replaceAll("'", "''");
    await client.exec(`insert into crafts (slug, name, summary, held_up_by) values ('old', 'Old', '', 'wings');
      insert into versions (craft_id, label, parent, question, finding, reason, claims, created_at, design) values
        (1, 'v1', null, '', '', '', '[]', '${NOW}', '${json(quietDesign())}'), (1, 'v2', 'v1', '', '', '', '[]', '${NOW}', '${json(quietDesign())}');
      insert into runs (craft_id, version_id, number, date, stage, purpose, place, pilot, conditions, pack, outcome, cautions_read, notes) values
        (1, 1, 3, '${NOW}', 1, 'p', '', '', '{"airTemperature":5,"wind":null,"surface":""}', '{"name":"","restingVoltage":null,"loadedVoltage":null,"endVoltage":null,"temperature":null}', 'passed', true, '');
      insert into faults (craft_id, number, run, title, seen, severity, damage, cause, fix, fix_version, state, minutes, cost) values
        (1, 1, 3, 'Shook', '', 'harmless', '', '', '', 'v2', 'open', 5, 1), (1, 2, 9, 'Of a run that is gone', '', 'harmless', '', '', '', null, 'open', 5, 1);
      insert into trash (kind, name, deleted_at, rows) values ('run', 'run 7 of Old', '${NOW}', '${json([{ table: "runs", rows: [{ id: 40, craftId: 1, versionId: 1, number: 7, date: NOW, stage: 1, purpose: "gone", place: "", pilot: "", conditions: { airTemperature: null, wind: null, surface: "" }, pack: { name: "", restingVoltage: null, loadedVoltage: null, endVoltage: null, temperature: null }, outcome: "passed", cautionsRead: true, notes: "", course: "", laps: [], plan: null, seconds: null, moments: [], files: [], gates: [], locks: [], goneOn: "", crash: null, key: null, revision: 0 }] }])}');
      insert into files (hash, type, content) values ('${"a".repeat(64)}', 'text/plain', 'aGVsbG8=');`);
    await client.close();
    const open = await openDatabase(data);
    const { file, broken } = await readCraft(open.db, "old");
    expect(file.versions.map((v) => [v.label, v.parent])).toEqual([
      ["v1", null],
      ["v2", "v1"],
    ]);
    expect(file.faults.map((f) => [f.run, f.fixVersion])).toEqual([
      [3, "v2"],
      [null, null],
    ]);
    expect(broken).toEqual([]);
    // Numbers go on after all that was ever given, deleted ones too; what an older release deleted comes back.
    const { restore } = await import("../../server/trash");
    expect(await restore(open.db, 1)).toMatchObject({ name: "run 7 of Old" });
    expect((await readCraft(open.db, "old")).file.runs.map((r) => r.number)).toEqual([3, 7]);
    expect(await rowsAt(data)).toEqual(await rows(open));
    const [craft] = (await rows(open))
      .map((r) => JSON.parse(r) as [string, string, { next_run: number; next_fault: number }])
      .filter(([t]) => t === "crafts");
    expect(craft?.[2]).toMatchObject({ next_run: 8, next_fault: 3 });
    await open.close();
  });
});
