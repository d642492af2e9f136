import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { craftFileSchema } from "../../core/design/craftFile";
import { anyCraft } from "../support/anyCraft";
import { apiForTests } from "../support/api";

const { app, call } = apiForTests();

describe("any craft", () => {
  it("goes in and comes out as it was, whatever people wrote into it; deleted, it comes back so", async () => {
    await fc.assert(
      fc.asyncProperty(anyCraft, async (input) => {
        const file = craftFileSchema.parse(input);
        const made = await call("POST", "/api/crafts/import", input);
        expect(made.status, JSON.stringify(made.body)).toBe(200);
        const { slug } = made.body as { slug: string };
        const out = (await call("GET", `/api/crafts/${slug}/export`)).body;
        expect(out).toEqual(JSON.parse(JSON.stringify(file)));
        const { trash } = (await call("DELETE", `/api/crafts/${slug}`)).body as { trash: number };
        expect((await call("POST", `/api/trash/${trash}/restore`)).status).toBe(200);
        expect((await call("GET", `/api/crafts/${slug}/export`)).body).toEqual(out);
        await call("DELETE", `/api/crafts/${slug}`);
        await app().open.db.execute("truncate symptoms");
      }),
      { numRuns: 40, seed: 7 },
    );
  });
});
