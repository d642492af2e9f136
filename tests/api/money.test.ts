import { afterEach, describe, expect, it } from "vitest";
import { EUROS, takeMoney } from "../../core/design/money";
import { newItem } from "../../core/design/schema";
import type { CraftFile } from "../../core/design/craftFile";
import type { CraftSummary } from "../../api/contracts";
import { craftTar } from "../../server/files";
import { importCraft } from "../../server/store";
import { sql } from "drizzle-orm";
import { seedDemo } from "../../server/demo/seed";
import { demoFile } from "../support/demo";
import { apiForTests, problem } from "../support/api";
import { quietDesign } from "../support/designs";

const { app, call, record, makeCraft } = apiForTests();
afterEach(() => takeMoney(EUROS));

const POUNDS = { currency: "GBP", perEuro: 0.85 };
const priced = () => {
  const design = quietDesign();
  design.items = [
    newItem({ id: "a", name: "Hull", cost: 20, costMost: 30, mass: { value: 0.1, evidence: "measured" } }),
  ];
  design.brief.targets = [{ id: "t", metric: "cost", comparison: "atMost", value: 10, weight: "must" }];
  return design;
};
const moneyNow = async () => ((await call("GET", "/api/workshop")).body as { money: unknown }).money;
const exported = async (slug: string) => (await call("GET", `/api/crafts/${slug}/export`)).body as CraftFile;

describe("what the amounts of a workshop are in", () => {
  it("is euros until somebody says otherwise, and is kept", async () => {
    expect(await moneyNow()).toEqual(EUROS);
    expect((await call("PUT", "/api/workshop/money", POUNDS)).status).toBe(200);
    expect(await moneyNow()).toEqual(POUNDS);
    expect((await call("PUT", "/api/workshop/money", { currency: "SEK", perEuro: null })).status).toBe(200);
    expect(await moneyNow()).toEqual({ currency: "SEK", perEuro: null });
  });
  it.each([
    [{ currency: "pounds", perEuro: 1 }, /currency.*three capital letters/],
    [{ currency: "GBP", perEuro: 0 }, /perEuro.*more than zero/],
    [{ currency: "GBP", perEuro: -1 }, /perEuro/],
    [{ currency: "GBP" }, /perEuro/],
    [{}, /currency/],
  ])("%j is refused in words, and nothing changes", async (body, message) => {
    const r = await call("PUT", "/api/workshop/money", body);
    expect(r.status).toBe(400);
    expect(problem(r.body).detail).toMatch(message);
    expect(await moneyNow()).toEqual(EUROS);
  });
  it("changes no number: only what they are called, in records that were read before too", async () => {
    const slug = await makeCraft("Priced", priced());
    expect((await record(slug)).file.currency).toBe("EUR");
    await call("PUT", "/api/workshop/money", POUNDS);
    const { file } = await record(slug);
    expect(file.currency).toBe("GBP");
    expect(file.versions[0]?.design.items[0]).toMatchObject({ cost: 20, costMost: 30 });
    expect((await exported(slug)).currency).toBe("GBP");
  });
  it("the list says a budget that is passed in that money, worked out anew", async () => {
    await makeCraft("Priced", priced());
    const says = async (sign: string) => {
      for (let n = 0; n < 300; n++) {
        const [craft] = (await call("GET", "/api/crafts")).body as CraftSummary[];
        const text = craft?.current ? craft.glance?.worst?.says.metric : undefined;
        if (text?.includes(sign)) return text;
        await new Promise((r) => setTimeout(r, 100));
      }
      throw new Error(`never said in ${sign}`);
    };
    expect(await says("€")).toMatch(/15\u00a0€ over the budget/);
    await call("PUT", "/api/workshop/money", POUNDS);
    expect(await says("£")).toMatch(/15\u00a0£ over the budget/);
  });
});

describe("a craft file with amounts in another currency", () => {
  const foreign = async (): Promise<CraftFile> => ({
    ...(await exported(await makeCraft("Priced", priced()))),
    currency: "GBP",
  });
  it("is asked about, and nothing is stored meanwhile", async () => {
    const file = await foreign();
    const before = ((await call("GET", "/api/crafts")).body as unknown[]).length;
    const r = await call("POST", "/api/crafts/import", file);
    expect(r.status).toBe(409);
    expect(problem(r.body)).toMatchObject({ type: "/problems/currency", current: { from: "GBP", to: "EUR" } });
    expect(problem(r.body).detail).toMatch(/in GBP, those of this workshop in EUR/);
    expect(((await call("GET", "/api/crafts")).body as unknown[]).length).toBe(before);
  });
  it("comes in at the rate that was said", async () => {
    const r = await call("POST", "/api/crafts/import?rate=1.2", await foreign());
    expect(r.status).toBe(200);
    const { file } = await record((r.body as { slug: string }).slug);
    expect(file.currency).toBe("EUR");
    expect(file.versions[0]?.design.items[0]).toMatchObject({ cost: 24, costMost: 36 });
    expect(file.versions[0]?.design.brief.targets[0]?.value).toBe(12);
  });
  it("or without its amounts", async () => {
    const r = await call("POST", "/api/crafts/import?rate=none", await foreign());
    const { file } = await record((r.body as { slug: string }).slug);
    expect(file.versions[0]?.design.items[0]).toMatchObject({ cost: null, costMost: null });
  });
  it.each(["0", "-1", "much", "1e99", ""])("the rate “%s” is refused", async (rate) => {
    expect((await call("POST", `/api/crafts/import?rate=${rate}`, await foreign())).status).toBe(400);
  });
  it("is not asked about when it holds none", async () => {
    const free = quietDesign();
    for (const item of free.items) item.cost = null;
    free.brief.targets = free.brief.targets.filter((t) => t.metric !== "cost");
    const file = await exported(await makeCraft("Plain", free));
    const r = await call("POST", "/api/crafts/import", { ...file, currency: "JPY" });
    expect(r.status).toBe(200);
    expect((await record((r.body as { slug: string }).slug)).file.currency).toBe("EUR");
  });
  it("is asked about in a tar too, and converted at the same rate", async () => {
    const parts: Buffer[] = [];
    for await (const part of craftTar(app().open, await foreign())) parts.push(part as Buffer);
    const send = (query: string) =>
      fetch(`${app().address}/api/crafts/import${query}`, {
        method: "POST",
        headers: { "content-type": "application/x-tar" },
        body: Buffer.concat(parts),
      });
    expect((await send("")).status).toBe(409);
    const answer = await send("?rate=2");
    expect(answer.status).toBe(200);
    const { slug } = (await answer.json()) as { slug: string };
    expect((await record(slug)).file.versions[0]?.design.items[0]?.cost).toBe(40);
  });
  it(
    "the demo craft of a newer release come into a demo workshop in pounds at what a euro is worth there, " +
      "or without prices",
    async () => {
      const costs = async (slug: string) => (await record(slug)).file.versions.at(-1)?.design.items.map((i) => i.cost);
      await call("PUT", "/api/workshop/money", POUNDS);
      await seedDemo(app().open.db);
      const shipped =
        demoFile("annulus")
          .versions.at(-1)
          ?.design.items.map((i) => i.cost) ?? [];
      expect(await costs("annulus")).toEqual(shipped.map((c) => c && Number((c * 0.85).toPrecision(4))));
      expect((await record("annulus")).file.currency).toBe("GBP");
      await call("DELETE", "/api/crafts/gannet");
      await app().open.db.transaction((tx) =>
        tx.execute(
          sql.raw(`update workshop set value = '["tern","annulus","samphire","lantern","shelf"]' where key = 'demo'`),
        ),
      );
      await call("PUT", "/api/workshop/money", { currency: "SEK", perEuro: null });
      await seedDemo(app().open.db);
      expect(new Set(await costs("gannet"))).toEqual(new Set([null]));
    },
  );
  it("what ships, in euros, is refused by a workshop in pounds as any other file is", async () => {
    await call("PUT", "/api/workshop/money", POUNDS);
    const file = { ...(await exported(await makeCraft("Priced", priced()))), currency: "EUR" };
    await expect(importCraft(app().open, file)).rejects.toThrow(/in EUR, those of this workshop in GBP/);
  });
});
