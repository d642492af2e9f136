import { sql } from "drizzle-orm";
import { afterAll, beforeAll, beforeEach, expect } from "vitest";
import type { CraftRecord, NewPlan, NewRun, Problem } from "../../api/contracts";
import type { Stand } from "../../server/stand/stand";
import { quietDesign } from "./designs";
import { type Running, send, startApp } from "./server";

export const problem = (body: unknown) => body as Problem;

/** The API on a real database for one test file: started once, emptied before each test. */
export function apiForTests(stand?: Stand) {
  let app: Running;
  beforeAll(async () => {
    app = await startApp(stand);
  });
  afterAll(() => app.close());
  beforeEach(async () => {
    await app.open.db.execute(sql`truncate crafts, shelf, files, symptoms, trash restart identity cascade`);
  });
  const call = (method: string, path: string, body?: unknown) => send(app.address, method, path, body);
  return {
    app: () => app,
    call,
    record: async (slug: string) => (await call("GET", `/api/crafts/${slug}`)).body as CraftRecord,
    /** A craft with one open version; its slug. */
    makeCraft: async (name = "Test craft"): Promise<string> => {
      const r = await call("POST", "/api/crafts", { craft: { name, summary: "", heldUpBy: "wings" }, design: quietDesign(), question: "" });
      expect(r.status).toBe(200);
      return (r.body as { slug: string }).slug;
    },
  };
}

/** A run as a client logs it. */
export const newRun = (change: Partial<NewRun> = {}): NewRun => ({
  date: "2026-02-01T10:00:00+01:00",
  stage: 2,
  purpose: "pull",
  place: "",
  pilot: "",
  conditions: { airTemperature: null, wind: null, surface: "" },
  pack: { name: "", restingVoltage: null, loadedVoltage: null, endVoltage: null, temperature: null },
  outcome: "passed",
  cautionsRead: true,
  notes: "",
  course: "",
  laps: [],
  plan: null,
  seconds: null,
  moments: [],
  files: [],
  goneOn: "tried at home",
  crash: null,
  key: null,
  measured: [],
  eye: {},
  live: false,
  ...change,
});

/** A plan as a client makes it. */
export const newPlan = (change: Partial<NewPlan> = {}): NewPlan => ({
  stage: 2,
  question: "what does it pull?",
  course: "",
  repeats: 1,
  abort: [],
  success: "",
  people: [],
  place: "",
  limits: { wind: null, waves: null, current: null, coldest: null, warmest: null, surface: "" },
  day: { wind: null, waves: null, current: null, temperature: null, surface: null },
  safety: [],
  ticks: [],
  goneOn: "",
  state: "planned",
  ...change,
});
