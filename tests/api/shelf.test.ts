import { readFileSync } from "node:fs";
import { describe, expect, it } from "vitest";
import type { Problem, ShelfRecord } from "../../api/contracts";
import type { ShelfPack } from "../../core/design/shelf";
import { readPacks } from "../../core/catalogue/packShelf";
import { apiForTests } from "../support/api";

const { call } = apiForTests();
const list = async () => (await call("GET", "/api/shelf")).body as ShelfRecord[];
const pack = (name: string): ShelfPack => ({
  kind: "pack",
  name,
  price: null,
  chemistry: "lipo",
  series: 3,
  capacity: { value: 2.2, evidence: "datasheet" },
  cellResistance: { value: 0.008, evidence: "measured" },
  cRating: 25,
  mass: null,
  bought: null,
  cycles: null,
  notes: "",
  readings: [],
});

describe("the shelf of packs", () => {
  it("brings a part back that was taken off, unless its name was given away since", async () => {
    await call("POST", "/api/shelf", { parts: [pack("A")] });
    const off = async () =>
      ((await call("DELETE", `/api/shelf/${(await list())[0]?.id}`)).body as { trash: number }).trash;
    const first = await off();
    expect(await list()).toEqual([]);
    expect((await call("POST", `/api/trash/${first}/restore`)).status).toBe(200);
    expect((await list()).map((r) => r.part)).toEqual([pack("A")]);
    const second = await off();
    await call("POST", "/api/shelf", { parts: [pack("A")] });
    const late = await call("POST", `/api/trash/${second}/restore`);
    expect(late.status).toBe(422);
    expect((late.body as Problem).detail).toMatch(/its name or number was given to something else/);
  });
  it("keeps them by name, with a revision each", async () => {
    expect((await call("POST", "/api/shelf", { parts: [pack("B"), pack("A")] })).body).toEqual({ ids: [1, 2] });
    expect((await list()).map((r) => [r.id, r.revision, r.part.name])).toEqual([
      [2, 0, "A"],
      [1, 0, "B"],
    ]);
    const reading = { date: "2026-03-21", resting: 12.4, loaded: 11.9, current: 15, temperature: 12, returned: null };
    expect(
      (await call("PUT", "/api/shelf/1", { revision: 0, part: { ...pack("B2"), readings: [reading] } })).body,
    ).toEqual({ revision: 1 });
    expect((await list())[1]).toEqual({ id: 1, revision: 1, part: { ...pack("B2"), readings: [reading] } });
    expect((await call("DELETE", "/api/shelf/1")).status).toBe(200);
    expect((await call("DELETE", "/api/shelf/1")).status).toBe(404);
  });
  it("refuses a name twice, and then adds none of the list", async () => {
    await call("POST", "/api/shelf", { parts: [pack("A")] });
    const again = await call("POST", "/api/shelf", { parts: [pack("New"), pack("A")] });
    expect([again.status, (again.body as Problem).detail]).toEqual([
      422,
      "There is a pack called “A” already: every part of a kind has a name of its own.",
    ]);
    expect((await call("POST", "/api/shelf", { parts: [pack("X"), pack("X")] })).status).toBe(422);
    expect(await list()).toHaveLength(1);
    await call("POST", "/api/shelf", { parts: [pack("B")] });
    const renamed = await call("PUT", "/api/shelf/1", { revision: 0, part: pack("B") });
    expect([renamed.status, (await list())[0]?.part.name]).toEqual([422, "A"]);
  });
  it("refuses a stale save, shows what is held, and merges nothing", async () => {
    await call("POST", "/api/shelf", { parts: [pack("A")] });
    await call("PUT", "/api/shelf/1", { revision: 0, part: { ...pack("A"), cycles: 4 } });
    const late = await call("PUT", "/api/shelf/1", { revision: 0, part: { ...pack("A"), notes: "late" } });
    expect([late.status, ((late.body as Problem).current as { part: ShelfPack }).part.cycles]).toEqual([409, 4]);
    expect((await list())[0]?.part).toMatchObject({ cycles: 4, notes: "" });
    expect((await call("PUT", "/api/shelf/9", { revision: 0, part: pack("A") })).status).toBe(404);
  });
  it.each([
    [{ ...pack("A"), series: 0 }, "parts.0.series"],
    [{ ...pack("A"), capacity: { value: -1, evidence: "guess" } }, "parts.0.capacity.value"],
    [{ ...pack(" ") }, "parts.0.name"],
    [{ ...pack("A"), bought: "yesterday" }, "parts.0.bought"],
    [{ ...pack("A"), readings: [{ date: "2026-03-21", resting: "NaN" }] }, "parts.0.readings.0.resting"],
  ])("refuses %o at its field", async (bad, path) => {
    const r = await call("POST", "/api/shelf", { parts: [bad] });
    expect([r.status, (r.body as Problem).errors?.[0]?.path]).toEqual([400, path]);
    expect(await list()).toEqual([]);
  });
});

it("the demo's list of packs is read without a complaint", () => {
  const { parts: packs, refused } = readPacks(readFileSync(new URL("../../demo/packs.csv", import.meta.url), "utf8"));
  expect(refused).toEqual([]);
  expect(packs.map((p) => p.readings.length)).toEqual([2, 1, 1, 0]);
});
