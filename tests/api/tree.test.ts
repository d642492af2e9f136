import { afterAll, beforeAll, describe, expect, it } from "vitest";
import type { CraftRecord } from "../../api/contracts";
import { craftFileSchema } from "../../core/design/craftFile";
import { seededRandom } from "../../core/numeric/random";
import { quietDesign } from "../support/designs";
import { type Running, send, startApp } from "../support/server";

let app: Running;
beforeAll(async () => {
  app = await startApp();
});
afterAll(() => app.close());

describe("random lives of a version tree", () => {
  it.each([1, 2, 3])("seed %i: branch, edit, run and delete in any order never corrupt it", async (seed) => {
    const random = seededRandom(seed);
    const pick = <T>(list: T[]): T => {
      const x = list[Math.floor(random.uniform() * list.length)];
      if (x === undefined) throw new Error("empty");
      return x;
    };
    const made = await send(app.address, "POST", "/api/crafts", { craft: { name: `Tree ${seed}`, summary: "", heldUpBy: "wings" }, design: quietDesign(), question: "" });
    const { slug } = made.body as { slug: string };
    const path = `/api/crafts/${slug}`;
    const seen = new Set<number>();
    for (let step = 0; step < 40; step++) {
      const record = (await send(app.address, "GET", path)).body as CraftRecord;
      const version = pick(record.file.versions);
      const frozen = version.frozenAt !== null;
      const revision = record.revisions.versions[version.label] ?? 0;
      const what = random.uniform();
      if (what < 0.35) {
        const r = await send(app.address, "POST", `${path}/versions`, { parent: version.label, question: "", reason: "r", claims: [] });
        expect(r.status).toBe(200);
      } else if (what < 0.65) {
        const design = structuredClone(version.design);
        design.brief.purpose = `step ${step}`;
        const r = await send(app.address, "PUT", `${path}/versions/${version.label}/design`, { revision, design });
        expect(r.status).toBe(frozen ? 409 : 200);
      } else if (what < 0.85) {
        const run = {
          date: "2026-02-01T10:00:00Z",
          stage: 1,
          purpose: "",
          place: "",
          pilot: "",
          conditions: { airTemperature: null, wind: null, surface: "" },
          pack: { name: "", restingVoltage: null, endVoltage: null, temperature: null },
          outcome: "passed",
          cautionsRead: true,
          notes: "",
          measured: [],
        };
        const r = await send(app.address, "POST", `${path}/versions/${version.label}/runs`, run);
        expect(r.status).toBe(200);
      } else {
        const child = record.file.versions.some((v) => v.parent === version.label);
        const r = await send(app.address, "DELETE", `${path}/versions/${version.label}`);
        expect(r.status).toBe(frozen ? 409 : child || record.file.versions.length === 1 ? 422 : 200);
      }
      const file = (await send(app.address, "GET", `${path}/export`)).body;
      const checked = craftFileSchema.safeParse(file);
      expect(checked.success, JSON.stringify(checked.error?.issues[0])).toBe(true);
      for (const v of record.file.versions) if (v.frozenAt !== null) expect(checked.data?.versions.find((x) => x.label === v.label)?.design).toEqual(v.design);
      seen.add(Math.floor(what * 20));
    }
    expect(seen.size).toBeGreaterThan(8);
    const before = (await send(app.address, "GET", `${path}/export`)).body;
    const again = (await send(app.address, "POST", "/api/crafts/import", before)).body as { slug: string };
    expect((await send(app.address, "GET", `/api/crafts/${again.slug}/export`)).body).toEqual(before);
  });
});
