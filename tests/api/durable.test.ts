import { execFileSync, spawnSync } from "node:child_process";
import { appendFileSync, chmodSync, cpSync, existsSync, mkdirSync, mkdtempSync, readFileSync, readdirSync, rmSync, truncateSync, writeFileSync } from "node:fs";
import { open as openFile } from "node:fs/promises";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { PGlite } from "@electric-sql/pglite";
import { sql } from "drizzle-orm";
import { drizzle } from "drizzle-orm/pglite";
import { migrate } from "drizzle-orm/pglite/migrator";
import { afterEach, describe, expect, it } from "vitest";
import { CannotOpen } from "../../server/db/cannotOpen";
import { compact, snapshotsOf, stateAt } from "../../server/db/history";
import { readSegment, segmentsOf } from "../../server/db/journal";
import { lockFolder } from "../../server/db/lock";
import { type OpenDatabase, openDatabase } from "../../server/db/open";
import { rowsOf } from "../../server/db/rowsOut";
import { createCraft, saveDesign } from "../../server/store";
import { readCraft, reading } from "../../server/rows";
import { seedDemo } from "../../server/demo/seed";
import { quietDesign } from "../support/designs";
import { upTo } from "../support/migrations";
import { freshFolder } from "../support/server";

const NOW = "2026-11-27T10:00:00.000Z";
const folders: string[] = [];
const folder = () => {
  const made = freshFolder();
  folders.push(made);
  return made;
};
afterEach(() => {
  for (const f of folders.splice(0)) rmSync(f, { recursive: true, force: true });
});

async function saves(open: OpenDatabase, slug: string, count: number, from = 0): Promise<void> {
  for (let n = from; n < from + count; n++) {
    const design = quietDesign();
    design.brief.purpose = `save ${n + 1}`;
    await saveDesign(open.db, slug, "v1", n, design);
  }
}
const make = (open: OpenDatabase, name = "Keeper") => createCraft(open, { name, summary: "", heldUpBy: "hull" }, quietDesign(), "", NOW);
const purpose = async (open: OpenDatabase, slug: string) => (await readCraft(open.db, slug)).file.versions[0]?.design.brief.purpose;

/** Every row that a database holds, as text. */
async function rows(open: OpenDatabase): Promise<string[]> {
  return open.db.transaction(async (tx) => {
    const out: string[] = [];
    const client = (tx as unknown as { $client: Parameters<typeof rowsOf>[0] }).$client;
    for await (const row of rowsOf(client)) out.push(JSON.stringify(row));
    return out;
  }, reading);
}
async function rowsAt(data: string, until = {}): Promise<string[]> {
  const out: string[] = [];
  for await (const row of (await stateAt(data, until)).rows) out.push(JSON.stringify(row));
  return out;
}

describe("the journal", () => {
  it("holds every committed change before it is acknowledged: journal and snapshot alone give the database, row by row", async () => {
    const data = folder();
    const open = await openDatabase(data);
    const slug = await make(open);
    await saves(open, slug, 5);
    expect(await rowsAt(data)).toEqual(await rows(open));
    await compact(data, 4);
    await saves(open, slug, 3, 5);
    expect(await rowsAt(data)).toEqual(await rows(open));
    // A refused save leaves nothing in it.
    const before = segmentsOf(data).map((s) => readSegment(s).entries.length);
    await expect(saveDesign(open.db, slug, "v1", 0, quietDesign())).rejects.toThrow(/saved elsewhere/);
    expect(segmentsOf(data).map((s) => readSegment(s).entries.length)).toEqual(before);
    await open.close();
  });
  it("is on the disk: each acknowledged save waited for one sync of the journal", async () => {
    const data = folder();
    const open = await openDatabase(data);
    const slug = await make(open);
    // What the handle of the journal is asked, in order: written, synced, and only then is the save acknowledged.
    const asked: string[] = [];
    const probe = await openFile(join(data, "state.json"));
    const handle = Object.getPrototypeOf(probe) as { write: unknown; datasync: () => Promise<void> };
    await probe.close();
    const { write, datasync } = handle;
    handle.datasync = async function (this: unknown) {
      await datasync.call(this as never);
      asked.push("synced");
    };
    try {
      for (let n = 0; n < 4; n++) {
        await saves(open, slug, 1, n);
        asked.push("acknowledged");
      }
    } finally {
      Object.assign(handle, { write, datasync });
    }
    expect(asked).toEqual(Array.from({ length: 4 }, () => ["synced", "acknowledged"]).flat());
    await open.close();
  });
  it("refuses a change that goes past it", async () => {
    const data = folder();
    const open = await openDatabase(data);
    await make(open);
    await expect(open.db.execute(sql`update crafts set name = 'past it'`)).rejects.toMatchObject({ cause: { message: expect.stringContaining("journalled") } });
    await open.close();
  });
  it("takes back any moment: the state at each entry", async () => {
    const data = folder();
    const open = await openDatabase(data);
    const slug = await make(open);
    await saves(open, slug, 6);
    await open.close();
    for (const [seq, text] of [
      [2, "save 1"],
      [4, "save 3"],
      [7, "save 6"],
    ] as const) {
      const state = await rowsAt(data, { seq });
      expect(state.find((r) => r.startsWith('["versions"'))).toContain(text);
    }
  });
});

describe("a folder that is opened after trouble", () => {
  /** A workshop with six saves, left as a killed server leaves it. */
  async function left(): Promise<{ data: string; held: string[] }> {
    const data = folder();
    const open = await openDatabase(data);
    const slug = await make(open);
    await saves(open, slug, 6);
    const held = await rows(open);
    await open.close();
    return { data, held };
  }
  const killed = (data: string) => writeFileSync(join(data, "state.json"), readFileSync(join(data, "state.json"), "utf8").replace('"clean":true', '"clean":false'));

  it("after a clean stop is opened as it is, without a word", async () => {
    const { data, held } = await left();
    const open = await openDatabase(data);
    expect(open.notes).toEqual([]);
    expect(await rows(open)).toEqual(held);
    await open.close();
  });
  it.each([
    ["was killed", killed, /not stopped properly/],
    ["lost its whole cluster", (data: string) => rmSync(join(data, "database"), { recursive: true }), /its files were missing/],
    [
      "has a cluster of zeros",
      (data: string) => {
        for (const name of readdirSync(join(data, "database/global"))) writeFileSync(join(data, "database/global", name), Buffer.alloc(8192));
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
    const [craft] = (await rows(open)).map((r) => JSON.parse(r) as [string, string, { next_run: number; next_fault: number }]).filter(([t]) => t === "crafts");
    expect(craft?.[2]).toMatchObject({ next_run: 8, next_fault: 3 });
    await open.close();
  });
});

describe("a folder that cannot be opened gets one sentence, and nothing is written", () => {
  const refusal = async (data: string): Promise<string> => {
    const error = await openDatabase(data).then(
      (open) => open.close().then(() => new Error("it opened")),
      (e: Error) => e,
    );
    expect(error).toBeInstanceOf(CannotOpen);
    expect(error.message.split("\n")).toHaveLength(1);
    return error.message;
  };
  const listing = (data: string) => execFileSync("find", [data, "-not", "-name", "lock", "-type", "f", "-printf", "%P %s\n"], { encoding: "utf8" }).split("\n").sort();

  it("of a newer release", async () => {
    const data = folder();
    const open = await openDatabase(data);
    await open.close();
    writeFileSync(join(data, "state.json"), JSON.stringify({ format: 1, schema: 9e12, clean: true }));
    const before = listing(data);
    expect(await refusal(data)).toMatch(/newer release/);
    expect(listing(data)).toEqual(before);
  });
  it("with a damaged database and nothing to build it from", async () => {
    const data = folder();
    mkdirSync(join(data, "database"));
    writeFileSync(join(data, "database/PG_VERSION"), "18\n");
    const before = listing(data);
    expect(await refusal(data)).toMatch(/damaged .* restore a backup/);
    expect(listing(data)).toEqual(before);
    rmSync(join(data, "database/PG_VERSION"));
    writeFileSync(join(data, "database/base"), "x");
    expect(await refusal(data)).toMatch(/damaged/);
  });
  it("that holds other files", async () => {
    const data = folder();
    writeFileSync(join(data, "holiday.jpg"), "x");
    expect(await refusal(data)).toMatch(/holds other files/);
    expect(readdirSync(data).filter((n) => n !== "lock")).toEqual(["holiday.jpg"]);
  });
  it("that was emptied since it was last opened, unless a new one is asked for", async () => {
    const data = folder();
    const state = folder();
    const before = process.env.XDG_STATE_HOME;
    process.env.XDG_STATE_HOME = state;
    try {
      await (await openDatabase(data, { remember: true })).close();
      rmSync(data, { recursive: true });
      expect(await refusal(data)).toMatch(/held a workshop when it was last opened/);
      expect(existsSync(data)).toBe(false);
      const open = await openDatabase(data, { fresh: true });
      expect(await rows(open)).toEqual([]);
      await open.close();
    } finally {
      process.env.XDG_STATE_HOME = before;
    }
  });
  it("that is read-only", async () => {
    const data = folder();
    const open = await openDatabase(data);
    await open.close();
    if (process.getuid?.() === 0) {
      // Root writes everywhere but on what is mounted read-only.
      try {
        execFileSync("mount", ["--bind", "-o", "ro", data, data]);
      } catch {
        return;
      }
    } else chmodSync(data, 0o500);
    try {
      expect(await refusal(data)).toMatch(/Nothing can be written in .*read-only|no permission/);
    } finally {
      if (process.getuid?.() === 0) execFileSync("umount", [data]);
      else chmodSync(data, 0o700);
    }
  });
});

describe("the lock of a data folder", () => {
  it("holds by what the folder is, not by what it is called: other names, bind mounts, long paths", async () => {
    const data = folder();
    const release = await lockFolder(data);
    const link = `${data}-link`;
    execFileSync("ln", ["-s", data, link]);
    folders.push(link);
    await expect(lockFolder(link)).rejects.toThrow(/in use by another/);
    if (process.getuid?.() === 0) {
      const other = folder();
      try {
        execFileSync("mount", ["--bind", data, other]);
        await expect(lockFolder(other)).rejects.toThrow(/in use by another/);
        // Another network namespace sees the same lock: it is the file's, not a name's.
        const inside = spawnSync("unshare", ["-n", "flock", "--nonblock", "--conflict-exit-code", "9", join(other, "lock"), "true"]);
        expect(inside.status).toBe(9);
      } finally {
        spawnSync("umount", [other]);
      }
    }
    await release();
    const long = join(data, ...Array.from({ length: 12 }, () => "d".repeat(60)));
    mkdirSync(long, { recursive: true });
    await (await lockFolder(long))();
    await (await lockFolder(data))();
  }, 20_000);
});

describe("a demo that was stopped while it was made", () => {
  it("is made whole at the next start, and what was deleted since stays deleted", async () => {
    const open = await openDatabase(null);
    const names = async () => (await rows(open)).filter((r) => r.startsWith('["crafts"')).map((r) => (JSON.parse(r) as [string, string, { slug: string }])[2].slug);
    // The first two crafts, as a release that kept no list left them.
    await seedDemo(open.db);
    await open.db.transaction((tx) => tx.execute(sql`delete from crafts where slug in ('samphire', 'lantern')`));
    await open.db.transaction((tx) => tx.execute(sql`delete from workshop`));
    await seedDemo(open.db);
    expect((await names()).sort()).toEqual(["annulus", "lantern", "samphire", "tern"]);
    await open.db.transaction((tx) => tx.execute(sql`delete from crafts where slug = 'tern'`));
    await seedDemo(open.db);
    expect((await names()).sort()).toEqual(["annulus", "lantern", "samphire"]);
    await open.close();
  }, 60_000);
});
