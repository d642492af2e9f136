import { roleByWords } from "../../core/design/byWords";
import { designNow } from "../../core/design/openFile";
import { designSchema, newItem } from "../../core/design/schema";
import { readFileSync, rmSync } from "node:fs";
import { join } from "node:path";
import { PGlite } from "@electric-sql/pglite";
import { sql } from "drizzle-orm";
import { drizzle } from "drizzle-orm/pglite";
import { migrate } from "drizzle-orm/pglite/migrator";
import { expect, it } from "vitest";
import * as schema from "../../server/db/schema";
import { craftFileSchema } from "../../core/design/craftFile";
import type { Database } from "../../server/db/open";
import { Evaluator } from "../../server/evaluator";
import { Records } from "../../server/records";
import { readCraft } from "../../server/rows";
import { createRun } from "../../server/runs";
import { saveVersion } from "../../server/store";
import { listShelf } from "../../server/shelf";
import { newRun } from "../support/api";
import { usualState } from "../../core/design/schema";
import { restore } from "../../server/trash";
import { quietDesign } from "../support/designs";
import { allMigrations, upTo } from "../support/migrations";

const NOW = "2026-01-01T10:00:00Z";

it("packs of an older release stand on the shelf after the update, with their revision", async () => {
  const client = new PGlite();
  const db = drizzle(client, { schema }) as unknown as Database & Parameters<typeof migrate>[0];
  const older = upTo("0002_packs");
  await migrate(db, { migrationsFolder: older });
  const pack = {
    name: "Old one",
    chemistry: "lipo",
    series: 3,
    capacity: { value: 2.2, evidence: "datasheet" },
    cellResistance: { value: 0.008, evidence: "guess" },
    cRating: 25,
    mass: null,
    bought: null,
    cycles: 7,
    notes: "",
    readings: [],
  };
  await db.execute(sql`insert into packs (name, pack, revision) values ('Old one', ${JSON.stringify(pack)}::jsonb, 3)`);
  await migrate(db, { migrationsFolder: allMigrations });
  expect(await listShelf(db)).toEqual([{ id: 1, revision: 3, part: { ...pack, kind: "pack", price: null } }]);
  await client.close();
  rmSync(older, { recursive: true });
}, 360_000);

it("a drive in water of an older release is asked anew: it could have been a drum, and is an open screw " +
  "from now on", async () => {
  const client = new PGlite();
  const db = drizzle(client, { schema }) as unknown as Database & Parameters<typeof migrate>[0];
  const older = upTo("0010_craft_stamp");
  await migrate(db, { migrationsFolder: older });
  const json = (x: unknown) => sql`${JSON.stringify(x)}::jsonb`;
  const design = quietDesign();
  for (const u of design.units) u.surroundings = "in water";
  await db.execute(
    sql`insert into crafts (slug, name, summary, held_up_by) values ('old', 'Old', 'works "in water"', 'hull')`,
  );
  for (const [label, d] of [
    ["v1", design],
    ["v2", quietDesign()],
  ] as const)
    await db.execute(
      sql`insert into versions (craft_id, label, question, finding, reason, claims, created_at, design) values (1, ${label}, '', '', '', '[]', '2026-01-01T10:00:00Z', ${json(d)})`,
    );
  await migrate(db, { migrationsFolder: allMigrations });
  const { rows } = (await db.execute(
    sql`select label, design->'units'->0->>'surroundings' as works from versions order by label`,
  )) as unknown as { rows: unknown[] };
  expect(rows).toEqual([
    { label: "v1", works: null },
    { label: "v2", works: "in air" },
  ]);
  await client.close();
  rmSync(older, { recursive: true });
}, 360_000);

it("what was around a drive stands in a list after the update, as a file of that release is read", async () => {
  const client = new PGlite();
  const db = drizzle(client, { schema }) as unknown as Database & Parameters<typeof migrate>[0];
  const older = upTo("0017_run_state");
  await migrate(db, { migrationsFolder: older });
  const json = (x: unknown) => sql`${JSON.stringify(x)}::jsonb`;
  const openings = { kind: "openings", inlet: { value: 0.01, evidence: "measured" }, outlet: null, edges: "sharp" };
  const ways: [string | null, object | null, string?][] = [
    ["free air", null],
    ["in water", null],
    [null, openings],
    ["boxed or ducted", openings],
    ["boxed or ducted", null],
    ["overlapped or coaxial", { kind: "coaxial" }],
    ["overlapped or coaxial", { kind: "overlap", spacing: null, neighbours: 2 }],
    ["overlapped or coaxial", openings],
    ["free air", null, "boxed or ducted"],
  ];
  const older10 = ways.map(([surroundings, around, works]) => {
    const design = quietDesign() as unknown as {
      units: Record<string, unknown>[];
      states: { units: object[] }[];
    };
    const [u] = design.units;
    design.units = [
      { ...u, surroundings, around },
      { ...u, id: "other", surroundings: "free air", around: null },
    ];
    if (works && design.states[0]) design.states[0].units = [{ id: u?.id, resting: false, turned: 0, works, on: null }];
    return design;
  });
  await db.execute(sql`insert into crafts (slug, name, summary) values ('old', 'Old', '')`);
  for (const [k, design] of older10.entries())
    await db.execute(
      sql`insert into versions (craft_id, label, question, finding, reason, claims, created_at, design) values (1, ${`v${k + 1}`}, '', '', '', '[]', ${NOW}, ${json(design)})`,
    );
  await migrate(db, { migrationsFolder: allMigrations });
  const { file, broken } = await readCraft(db, "old");
  expect(broken).toEqual([]);
  for (const [k, design] of older10.entries()) {
    const now = file.versions.find((v) => v.label === `v${k + 1}`)?.design;
    const read = designSchema.parse(designNow(structuredClone(design)));
    expect(now?.units).toEqual(read.units);
    expect(now?.states).toEqual(read.states);
  }
  const [first, , unsaid] = file.versions.map((v) => v.design.units[0]);
  expect(first).toMatchObject({ surroundings: "in air", around: [] });
  expect(unsaid).toMatchObject({ surroundings: null, around: [] });
  await client.close();
  rmSync(older, { recursive: true });
}, 360_000);

it("what held a craft up belongs to the state of each version after the update, also of what was deleted", async () => {
  const client = new PGlite();
  const db = drizzle(client, { schema }) as unknown as Database & Parameters<typeof migrate>[0];
  const older = upTo("0011_in_water_asked_anew");
  await migrate(db, { migrationsFolder: older });
  const json = (x: unknown) => sql`${JSON.stringify(x)}::jsonb`;
  const { states: _, ...rest } = quietDesign();
  const row = { craftId: 1, question: "", finding: "", reason: "", claims: [], createdAt: NOW };
  await db.execute(sql`insert into crafts (slug, name, summary, held_up_by) values ('old', 'Old', '', 'hull')`);
  for (const [label, design] of [
    ["v1", { ...rest, heldUpBy: "rotors" }],
    // A release before designs said it themselves.
    ["v2", rest],
  ] as const)
    await db.execute(
      sql`insert into versions (craft_id, label, question, finding, reason, claims, created_at, design) values (1, ${label}, '', '', '', '[]', ${NOW}, ${json(design)})`,
    );
  const deleted = { ...row, id: 40, label: "v9", parentId: null, design: { ...rest, heldUpBy: "gas" } };
  await db.execute(
    sql`insert into trash (kind, name, deleted_at, rows) values ('version', 'v9 of Old', ${NOW}, ${json([{ table: "versions", rows: [deleted] }])})`,
  );
  await migrate(db, { migrationsFolder: allMigrations });
  await restore(db, 1);
  const { file, broken } = await readCraft(db, "old");
  expect(broken).toEqual([]);
  expect(file.versions.map((v) => [v.label, v.design.states])).toEqual([
    ["v1", [usualState("rotors")]],
    ["v2", [usualState("hull")]],
    ["v9", [usualState("gas")]],
  ]);
  await client.close();
  rmSync(older, { recursive: true });
}, 360_000);

it("a logbook of an older release is read whole after the update, and goes on", async () => {
  const client = new PGlite();
  const db = drizzle(client, { schema }) as unknown as Database & Parameters<typeof migrate>[0];
  const tags = (
    JSON.parse(readFileSync(join(allMigrations, "meta/_journal.json"), "utf8")) as { entries: { tag: string }[] }
  ).entries.map((e) => e.tag);
  const ladders = tags.findIndex((t) => t.endsWith("ladders_plans_trash"));
  const older = upTo(tags[ladders - 1] ?? "");
  await migrate(db, { migrationsFolder: older });
  // As it was stored then: settings without a kind, a claim of no one change, a pack that was never read under load.
  const { setup: _, ...rest } = quietDesign();
  // Parts of before a part said what it is: their names said so.
  const old = (name: string, id: string) => {
    const { role: _r, twinId: _t, ...part } = newItem({ id, name });
    return part;
  };
  const items = [
    old("Float left", "fl"),
    old("Float right", "fr"),
    old("Nose lead", "n"),
    old("Rudder servo", "s"),
    old("Motor controller", "mc"),
    old("Skid L", "sl"),
    old("Skid R", "sr"),
    old("Port fan motor", "p"),
    old("Flapping motor", "fm"),
    old("Flap motor controller", "fc"),
    old("Vane", "v"),
  ];
  const design = { ...rest, items, setup: [{ id: "s1", group: "Radio", name: "Fail-safe", value: "off" }] };
  const claims = [{ metric: "thrust", direction: "up", amount: "by 20 %" }];
  const json = (x: unknown) => sql`${JSON.stringify(x)}::jsonb`;
  await db.execute(sql`insert into crafts (slug, name, summary, held_up_by) values ('old', 'Old', '', 'wings')`);
  await db.execute(
    sql`insert into versions (craft_id, label, question, finding, reason, claims, created_at, frozen_at, design) values (1, 'v1', 'q', '', '', ${json(claims)}, '2025-01-01T10:00:00Z', '2025-01-02T10:00:00Z', ${json(design)})`,
  );
  const pack = { name: "P-01", restingVoltage: 12.4, endVoltage: null, temperature: null };
  await db.execute(
    sql`insert into runs (craft_id, version_id, number, date, stage, purpose, place, pilot, conditions, pack, outcome, cautions_read, notes) values (1, 1, 1, '2025-01-02T10:00:00Z', 2, 'pull', '', '', ${json({ airTemperature: 5, wind: null, surface: "" })}, ${json(pack)}, 'passed', true, '')`,
  );
  await db.execute(
    sql`insert into faults (craft_id, number, run, title, seen, severity, damage, cause, fix, state, minutes, cost) values (1, 1, 1, 'Shook', '', 'harmless', '', 'Pilot error', '', 'open', 5, 1)`,
  );
  await db.execute(
    sql`insert into suspects (fault_id, position, key, cause, for_it, against_it, test, minutes, result, state) values (1, 0, 'a', 'the pilot was late', '', '', 'wiggle', 3, '', 'open')`,
  );
  await migrate(db, { migrationsFolder: allMigrations });

  const file = craftFileSchema.parse((await readCraft(db, "old")).file);
  expect(file.versions[0]).toMatchObject({
    ladder: null,
    whys: [],
    fate: { state: "going" },
    claims: [{ ...claims[0], change: "" }],
    design: { setup: [{ kind: "fail-safe", hides: "" }] },
  });
  expect(file.versions[0]?.design.items.map((i) => [i.id, i.role, i.twinId])).toEqual([
    ["fl", "not said", "fr"],
    ["fr", "not said", "fl"],
    ["n", "ballast", null],
    ["s", "servo", null],
    ["mc", "not said", null],
    ["sl", "not said", "sr"],
    ["sr", "not said", "sl"],
    ["p", "motor", null],
    ["fm", "motor", null],
    ["fc", "not said", null],
    ["v", "moving surface", null],
  ]);
  // What the database says is what a file of that release would have become.
  for (const i of file.versions[0]?.design.items ?? []) expect(i.role).toBe(roleByWords(i.name, i.group));
  expect(file.faults[0]?.pilotBlamed).toBe(true);
  expect(file.faults[0]?.suspects.map((s) => s.id)).toEqual(["pilot"]);
  expect(file.runs[0]).toMatchObject({
    pack: { ...pack, loadedVoltage: null },
    gates: [],
    locks: [],
    moments: [],
    key: null,
    crash: null,
  });
  expect(file.faults[0]).toMatchObject({
    part: "",
    touched: [],
    pilotSwap: null,
    suspects: [{ cause: "the pilot was late", cost: 0, risk: "none", spentMinutes: 0 }],
  });
  // Said again as it stands, a claim is not said anew.
  expect(await saveVersion(db, "old", "v1", 0, { claims: file.versions[0]?.claims ?? [], finding: "it did" })).toBe(1);
  expect(
    await createRun(
      db,
      new Records(db),
      new Evaluator(60_000),
      "old",
      "v1",
      newRun({ stage: 1, key: "field-0001" }),
      "2026-01-01T10:00:00Z",
    ),
  ).toBe(2);
  await client.close();
  rmSync(older, { recursive: true });
}, 360_000);
