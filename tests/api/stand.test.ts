import { describe, expect, it } from "vitest";
import type { StandReading } from "../../api/contracts";
import { SAFETY, type Safety } from "../../core/design/thrustTest";
import { SimulatedStand } from "../../server/stand/simulatedStand";
import { apiForTests, problem } from "../support/api";
import { quietDesign } from "../support/designs";
import { kindAs } from "../support/kinds";
import { setupFor } from "../support/stand";

// Ten times as fast as life.
const { call, app } = apiForTests(new SimulatedStand(10));
const all = Object.fromEntries(SAFETY.map((s) => [s, true])) as Record<(typeof SAFETY)[number], boolean>;
const safety: Safety = { ...all, place: "outdoors" };
const command = (throttle: number, s: Safety = safety) => call("POST", "/api/stand/throttle", { throttle, safety: s });
const setUp = () => call("POST", "/api/stand/setup", setupFor(quietDesign()));

/** Events of the stream until `enough` says so, or for a second. */
async function listen(
  enough: (events: { id: number; reading: StandReading }[]) => boolean,
  query = "",
  headers: Record<string, string> = {},
): Promise<{ id: number; reading: StandReading }[]> {
  const stop = new AbortController();
  const timer = setTimeout(() => stop.abort(), 1500);
  const events: { id: number; reading: StandReading }[] = [];
  try {
    const response = await fetch(`${app().address}/api/stand/stream${query}`, { headers, signal: stop.signal });
    expect(response.headers.get("content-type")).toBe("text/event-stream");
    const reader = response.body?.pipeThrough(new TextDecoderStream()).getReader();
    let text = "";
    while (reader && !enough(events)) {
      const { value, done } = await reader.read();
      if (done) break;
      text += value;
      for (let end = text.indexOf("\n\n"); end >= 0; end = text.indexOf("\n\n")) {
        const block = text.slice(0, end);
        text = text.slice(end + 2);
        const id = /^id: (\d+)$/m.exec(block)?.[1];
        const data = /^data: (.*)$/m.exec(block)?.[1];
        if (id && data) events.push({ id: Number(id), reading: JSON.parse(data) as StandReading });
      }
    }
  } catch (e) {
    if (!stop.signal.aborted) throw e;
  } finally {
    clearTimeout(timer);
    stop.abort();
  }
  return events;
}

describe("the stand over the wire", () => {
  it("says what it is, and streams readings once it is set up", async () => {
    expect((await call("GET", "/api/stand")).body).toMatchObject({ id: "simulated", rate: 10 });
    await setUp();
    const events = await listen((e) => e.length >= 5);
    expect(events.length).toBeGreaterThanOrEqual(5);
    expect(events[0]?.reading).toMatchObject({ throttle: 0, rpm: 0 });
    expect(events[0]?.reading.voltage ?? 0).toBeGreaterThan(10);
  });
  it("refuses what it knows no model of: it would answer for a propeller", async () => {
    const setup = setupFor(quietDesign());
    const refused = await call("POST", "/api/stand/setup", {
      ...setup,
      unit: { ...setup.unit, propulsor: kindAs("ducted fan") },
    });
    expect(refused.status).toBe(400);
    expect(JSON.stringify(refused.body)).toMatch(/open propellers only/);
  });
  it("takes no throttle above idle without the safety list, and none above 20 % indoors", async () => {
    await setUp();
    const open = await command(0.15, { ...safety, shield: false });
    expect([open.status, problem(open.body).detail]).toEqual([422, "Above idle the whole safety list must be ticked."]);
    const indoors = await command(0.3, { ...safety, place: "indoors" });
    expect([indoors.status, problem(indoors.body).detail]).toEqual([
      422,
      "Above 20 % throttle the stand must be outdoors or behind a barrier.",
    ]);
    expect((await command(0.2, { ...safety, place: "indoors" })).status).toBe(200);
    expect((await command(0.05, { ...safety, shield: false, place: "indoors" })).status).toBe(200);
    expect((await command(1.2)).status).toBe(400);
  });
  it("a page that lost the connection takes it up where it broke: every reading once, in order", async () => {
    const { last } = (await setUp()).body as { last: number };
    const first = await listen((e) => e.length >= 8, `?after=${last}`);
    const lastHad = first.at(-1)?.id ?? 0;
    await new Promise((r) => setTimeout(r, 120));
    const second = await listen((e) => e.length >= 20, `?after=${last}`, { "last-event-id": String(lastHad) });
    expect(second[0]?.id).toBe(lastHad + 1);
    const ids = [...first, ...second].map((e) => e.id);
    expect(ids).toEqual(Array.from({ length: ids.length }, (_, k) => last + 1 + k));
    // What was sent while nobody listened is in it: the readings follow one another without a gap in time.
    const times = second.map((e) => e.reading.t ?? 0);
    for (let k = 1; k < times.length; k++) expect((times[k] ?? 0) - (times[k - 1] ?? 0)).toBeCloseTo(0.1, 6);
  });
  it("cuts its throttle when nobody listens any more", async () => {
    await setUp();
    const running = listen((e) => (e.at(-1)?.reading.rpm ?? 0) > 1000);
    await command(0.5);
    expect((await running).at(-1)?.reading.throttle).toBe(0.5);
    await new Promise((r) => setTimeout(r, 2300));
    const later = await listen((e) => e.length >= 3);
    expect(later.at(-1)?.reading.throttle).toBe(0);
  });
  it.each([
    [{ ...setupFor(quietDesign()), seed: -1 }, "seed"],
    [{ ...setupFor(quietDesign()), rig: { ...setupFor(quietDesign()).rig, thrustArm: 0 } }, "rig.thrustArm"],
  ])("refuses a set-up that cannot be, at its field", async (bad, path) => {
    const r = await call("POST", "/api/stand/setup", bad);
    expect([r.status, problem(r.body).errors?.[0]?.path]).toEqual([400, path]);
  });
});
