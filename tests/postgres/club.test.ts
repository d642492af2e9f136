import { createWriteStream, createReadStream, rmSync } from "node:fs";
import { join } from "node:path";
import { afterAll, beforeAll, describe, expect, it } from "vitest";
import type { CraftRecord } from "../../api/contracts";
import { newFault } from "../../core/design/craftFile";
import { backupOf, restoreFolder, restoreServer } from "../../server/backup";
import { CannotOpen } from "../../server/db/cannotOpen";
import { openDatabase } from "../../server/db/open";
import { readCraft } from "../../server/rows";
import { newPlan, newRun } from "../support/entries";
import { quietDesign } from "../support/designs";
import { type TestServer, startPostgres } from "../support/postgres";
import { freshFolder, send } from "../support/spawn";
import { demoFile } from "../support/demo";
import { type Running, startApp } from "../support/server";

/** Two application servers on one database, as a club that outgrew one machine has them. */
let database: TestServer;
let one: Running;
let two: Running;
beforeAll(async () => {
  database = await startPostgres();
  // Files of this project share their process: the server of the others is put back.
  const others = process.env.ULTRAFORM_TEST_DATABASE;
  process.env.ULTRAFORM_TEST_DATABASE = database.url;
  [one, two] = await Promise.all([startApp(), startApp()]);
  process.env.ULTRAFORM_TEST_DATABASE = others;
});
afterAll(async () => {
  await one.close();
  await two.close();
  database.stop();
});
const craft = (name: string) => ({
  craft: { name, summary: "" },
  design: quietDesign(),
  question: "",
});
const record = async (on: Running, slug: string) =>
  (await send(on.address, "GET", `/api/crafts/${slug}`)).body as CraftRecord;

describe("two servers on one database", () => {
  it("bring the tables up to date once, though they start at the same time", async () => {
    expect((await send(one.address, "GET", "/api/crafts")).body).toEqual([]);
  });
  it("make twenty crafts of one name at once: all succeed, each with an address of its own", async () => {
    const made = await Promise.all(
      Array.from({ length: 20 }, (_, k) => send((k % 2 ? one : two).address, "POST", "/api/crafts", craft("Same"))),
    );
    expect(made.map((m) => m.status)).toEqual(Array.from({ length: 20 }, () => 200));
    expect(new Set(made.map((m) => (m.body as { slug: string }).slug)).size).toBe(20);
  });
  it("give each number once", async () => {
    const { slug } = (await send(one.address, "POST", "/api/crafts", craft("Numbers"))).body as { slug: string };
    const path = `/api/crafts/${slug}`;
    await send(one.address, "POST", `${path}/versions/v1/runs`, newRun({ stage: 1 }));
    const all = await Promise.all(
      Array.from({ length: 24 }, (_, k) => {
        const at = (k % 2 ? one : two).address;
        if (k % 3 === 0) return send(at, "POST", `${path}/versions/v1/runs`, newRun({ stage: 1 }));
        return k % 3 === 1
          ? send(at, "POST", `${path}/versions/v1/plans`, newPlan())
          : send(at, "POST", `${path}/faults`, { ...newFault(1), title: "f" });
      }),
    );
    expect(all.map((a) => a.status)).toEqual(Array.from({ length: 24 }, () => 200));
    const { file } = await record(two, slug);
    const upTo = (n: number) => Array.from({ length: n }, (_, k) => k + 1);
    expect(file.runs.map((r) => r.number)).toEqual(upTo(9));
    expect(file.plans.map((p) => p.number)).toEqual(upTo(8));
    expect(file.faults.map((f) => f.number)).toEqual(upTo(8));
  });
  it("see at once what the other saved, and refuse what is stale", async () => {
    const { slug } = (await send(one.address, "POST", "/api/crafts", craft("Seen"))).body as { slug: string };
    const path = `/api/crafts/${slug}/versions/v1/design`;
    await record(one, slug);
    await record(two, slug);
    const design = quietDesign();
    design.brief.purpose = "from one";
    expect((await send(one.address, "PUT", path, { revision: 0, design })).status).toBe(200);
    expect((await record(two, slug)).file.versions[0]?.design.brief.purpose).toBe("from one");
    expect((await send(two.address, "PUT", path, { revision: 0, design })).status).toBe(409);
  });
});

describe("a connection that is lost", () => {
  it("is made anew: the next request is answered, and none ends the server", async () => {
    for (let k = 0; k < 3; k++) {
      const under = Promise.all(
        Array.from({ length: 8 }, (_, n) =>
          send(one.address, n % 2 ? "GET" : "POST", "/api/crafts", n % 2 ? undefined : craft("Dropped")),
        ),
      );
      database.drop();
      for (const a of await under) expect([200, 503]).toContain(a.status);
      expect((await send(one.address, "GET", "/api/crafts")).status).toBe(200);
      expect((await send(one.address, "POST", "/api/crafts", craft("After"))).status).toBe(200);
    }
  });
});

describe("moving between a folder and a database server", () => {
  it("a folder's backup goes into an empty server, and a server's into a folder, with nothing lost", async () => {
    const [here, there] = [freshFolder(), freshFolder()];
    const folder = await openDatabase(here);
    const { importCraft } = await import("../../server/store");
    const { addFile } = await import("../../server/files");
    await importCraft(folder, demoFile("samphire"));
    const { hash } = await addFile(folder, "text/plain", Buffer.from("a log").toString("base64"));
    await backupOf(folder, "2026-11-27T10:00:00.000Z", createWriteStream(join(here, "b.tar")));
    const held = (await readCraft(folder.db, "samphire")).file;
    await folder.close();
    const empty = await startPostgres();
    const club = await openDatabase(null, { url: empty.url });
    await restoreServer(club, createReadStream(join(here, "b.tar")));
    expect((await readCraft(club.db, "samphire")).file).toEqual(held);
    await expect(restoreServer(club, createReadStream(join(here, "b.tar")))).rejects.toThrow(/not empty/);
    await backupOf(club, "2026-11-27T10:00:00.000Z", createWriteStream(join(there, "c.tar")));
    // An emptied database is refused, and nothing is made in it.
    await club.db.execute("drop schema public cascade; create schema public" as never);
    await club.close();
    await expect(openDatabase(null, { url: empty.url })).rejects.toThrow(CannotOpen);
    empty.stop();
    const data = join(there, "data");
    const { mkdirSync } = await import("node:fs");
    mkdirSync(data);
    await restoreFolder(data, createReadStream(join(there, "c.tar")), "2026-11-27T10:00:00.000Z");
    const back = await openDatabase(data);
    const { movePictures, readFile } = await import("../../server/files");
    await movePictures(back);
    expect((await readCraft(back.db, "samphire")).file).toEqual(held);
    expect((await readFile(back, hash)).bytes.toString()).toBe("a log");
    await back.close();
    for (const f of [here, there]) rmSync(f, { recursive: true, force: true });
  }, 360_000);
});
