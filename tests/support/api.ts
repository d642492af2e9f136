import { sql } from "drizzle-orm";
import { afterAll, beforeAll, beforeEach, expect } from "vitest";
import type { CraftRecord, Problem } from "../../api/contracts";
import type { Stand } from "../../server/stand/stand";
import { quietDesign } from "./designs";
import { send } from "./spawn";
import { type Running, startApp } from "./server";

export { newPlan, newRun } from "./entries";
export const problem = (body: unknown) => body as Problem;

/** The API on a real database for one test file: started once, emptied before each test. */
export function apiForTests(stand?: Stand) {
  let app: Running;
  beforeAll(async () => {
    app = await startApp(stand);
  });
  afterAll(() => app.close());
  beforeEach(async () => {
    // Row by row, so that the application learns of it as of any other change; numbers begin anew.
    await app.open.db.transaction(async (tx) => {
      for (const name of ["crafts", "shelf", "files", "symptoms", "trash", "devices", "workshop"])
        await tx.execute(sql.raw(`delete from ${name}`));
      for (const name of ["crafts", "versions", "runs", "faults", "plans", "bench", "shelf", "trash"])
        await tx.execute(sql.raw(`alter sequence ${name}_id_seq restart`));
    });
  });
  const call = (method: string, path: string, body?: unknown) => send(app.address, method, path, body);
  return {
    app: () => app,
    call,
    record: async (slug: string) => (await call("GET", `/api/crafts/${slug}`)).body as CraftRecord,
    /** A craft with one open version; its slug. */
    makeCraft: async (name = "Test craft", design = quietDesign()): Promise<string> => {
      const r = await call("POST", "/api/crafts", {
        craft: { name, summary: "" },
        design,
        question: "",
      });
      expect(r.status).toBe(200);
      return (r.body as { slug: string }).slug;
    },
  };
}
