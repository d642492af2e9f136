import { execFileSync, spawnSync } from "node:child_process";
import { mkdirSync } from "node:fs";
import { open as openFile } from "node:fs/promises";
import { join } from "node:path";
import { sql } from "drizzle-orm";
import { afterEach, describe, expect, it } from "vitest";
import { compact } from "../../server/db/history";
import { readSegment, segmentsOf } from "../../server/db/journal";
import { lockFolder } from "../../server/db/lock";
import { openDatabase } from "../../server/db/open";
import { saveDesign } from "../../server/store";
import { seedDemo } from "../../server/demo/seed";
import { quietDesign } from "../support/designs";
import { clear, folder, folders, make, rows, rowsAt, saves } from "../support/workshop";

afterEach(clear);

describe("the journal", () => {
  it(
    "holds every committed change before it is acknowledged: journal and snapshot alone give the " +
      "database, row by row",
    async () => {
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
    },
  );
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
    await expect(open.db.execute(sql`update crafts set name = 'past it'`)).rejects.toMatchObject({
      cause: { message: expect.stringContaining("journalled") },
    });
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
        const inside = spawnSync("unshare", [
          "-n",
          "flock",
          "--nonblock",
          "--conflict-exit-code",
          "9",
          join(other, "lock"),
          "true",
        ]);
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
    const names = async () =>
      (await rows(open))
        .filter((r) => r.startsWith('["crafts"'))
        .map((r) => (JSON.parse(r) as [string, string, { slug: string }])[2].slug);
    // The first two crafts, as a release that kept no list left them.
    await seedDemo(open.db);
    await open.db.transaction((tx) => tx.execute(sql`delete from crafts where slug in ('samphire', 'lantern')`));
    await open.db.transaction((tx) => tx.execute(sql`delete from workshop`));
    await seedDemo(open.db);
    expect((await names()).sort()).toEqual(["annulus", "gannet", "lantern", "samphire", "tern"]);
    await open.db.transaction((tx) => tx.execute(sql`delete from crafts where slug = 'tern'`));
    await seedDemo(open.db);
    expect((await names()).sort()).toEqual(["annulus", "gannet", "lantern", "samphire"]);
    await open.close();
  }, 360_000);
});
