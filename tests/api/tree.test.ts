import { describe, expect, it } from "vitest";
import { craftFileSchema } from "../../core/design/craftFile";
import { seededRandom } from "../../core/numeric/random";
import { apiForTests, newPlan, newRun } from "../support/api";

const { call, record: recordOf, makeCraft } = apiForTests();

const trashOf = (body: unknown) => (body as { trash: number }).trash;

describe("random lives of a version tree", () => {
  // One of them once more on a server: the work is the same.
  it.each(process.env.ULTRAFORM_TEST_DATABASE ? [1] : [1, 2, 3])(
    "seed %i: branch, edit, run, plan, delete, bring back and import in any order never corrupt it",
    async (seed) => {
      const random = seededRandom(seed);
      const pick = <T>(list: T[]): T => {
        const x = list[Math.floor(random.uniform() * list.length)];
        if (x === undefined) throw new Error("empty");
        return x;
      };
      const slug = await makeCraft(`Tree ${seed}`);
      const path = `/api/crafts/${slug}`;
      const seen = new Set<number>();
      const gone: number[] = [];
      for (let step = 0; step < 60; step++) {
        const record = await recordOf(slug);
        const version = pick(record.file.versions);
        const frozen = version.frozenAt !== null;
        const revision = record.revisions.versions[version.label] ?? 0;
        const what = random.uniform();
        if (what < 0.35) {
          const r = await call("POST", `${path}/versions`, {
            parent: version.label,
            question: "",
            reason: "r",
            claims: [],
          });
          expect(r.status).toBe(200);
        } else if (what < 0.65) {
          const design = structuredClone(version.design);
          design.brief.purpose = `step ${step}`;
          const r = await call("PUT", `${path}/versions/${version.label}/design`, { revision, design });
          expect(r.status).toBe(frozen ? 409 : 200);
        } else if (what < 0.72) {
          const r = await call(
            "POST",
            `${path}/versions/${version.label}/runs`,
            newRun({ stage: 1 + Math.floor(random.uniform() * 6), live: true }),
          );
          expect(r.status).toBe(200);
        } else if (what < 0.76) {
          const r = await call("POST", `${path}/versions/${version.label}/plans`, newPlan());
          expect(r.status).toBe(200);
        } else if (what < 0.81 && record.file.runs.length > 0) {
          const r = await call("DELETE", `${path}/runs/${pick(record.file.runs).number}`);
          expect(r.status).toBe(200);
          gone.push(trashOf(r.body));
        } else if (what < 0.88 && gone.length > 0) {
          // What it belonged to may be gone itself by now: then it is refused, and stays where it is.
          const id = gone.splice(Math.floor(random.uniform() * gone.length), 1)[0] ?? 0;
          const r = await call("POST", `/api/trash/${id}/restore`);
          expect([200, 422]).toContain(r.status);
        } else {
          const child = record.file.versions.some((v) => v.parent === version.label);
          const r = await call("DELETE", `${path}/versions/${version.label}`);
          expect(r.status).toBe(frozen ? 409 : child || record.file.versions.length === 1 ? 422 : 200);
          if (r.status === 200) gone.push(trashOf(r.body));
        }
        const file = (await call("GET", `${path}/export`)).body;
        const checked = craftFileSchema.safeParse(file);
        expect(checked.success, JSON.stringify(checked.error?.issues[0])).toBe(true);
        for (const v of record.file.versions)
          if (v.frozenAt !== null)
            expect(checked.data?.versions.find((x) => x.label === v.label)?.design).toEqual(v.design);
        seen.add(Math.floor(what * 20));
      }
      expect(seen.size).toBeGreaterThan(8);
      const before = (await call("GET", `${path}/export`)).body;
      const again = (await call("POST", "/api/crafts/import", before)).body as { slug: string };
      expect((await call("GET", `/api/crafts/${again.slug}/export`)).body).toEqual(before);
    },
  );
});
