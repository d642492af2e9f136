import { describe, expect, it } from "vitest";
import type { CraftFile } from "../../core/design/craftFile";
import { inState } from "../../core/design/inState";
import { type Design, newPhase, plainState } from "../../core/design/schema";
import { evaluate } from "../../core/evaluate";
import type { Glance } from "../../core/glance";
import { ladderOf } from "../../core/runs/ladder";
import type { FieldSheet } from "../../core/runs/sheetShape";
import { apiForTests, newRun, problem } from "../support/api";
import { quietDesign } from "../support/designs";

const api = apiForTests();
const { call, makeCraft, record } = api;

/** The quiet craft with a second state in which its pack is out and a hull carries it. */
const design = (): Design => ({
  ...quietDesign(),
  states: [...quietDesign().states, { ...plainState("afloat", "afloat", ["hull"]), without: ["tail"] }],
});
const auw = { metric: "auw", dimension: "mass" as const, measured: null };
const exported = async (slug: string) => (await call("GET", `/api/crafts/${slug}/export`)).body as CraftFile;
const log = (slug: string, change: Parameters<typeof newRun>[0]) =>
  call("POST", `/api/crafts/${slug}/versions/v1/runs`, newRun({ stage: 1, ...change }));

describe("a run of a craft with several states", () => {
  it("copies in what its own state predicts", async () => {
    const slug = await makeCraft("Two", design());
    await log(slug, { measured: [auw] });
    await log(slug, { measured: [auw], state: "afloat" });
    const { runs } = await exported(slug);
    const of = (id: string) => evaluate(inState(design(), id)).metrics.auw?.value;
    expect(runs.map((r) => [r.state, r.metrics[0]?.predicted?.value])).toEqual([
      ["usual", of("usual")],
      ["afloat", of("afloat")],
    ]);
    expect(of("afloat")).not.toBe(of("usual"));
  });
  it("about a state that its version does not have is refused, with those that it has", async () => {
    const slug = await makeCraft("Two", design());
    const answer = await log(slug, { state: "flying" });
    expect(answer.status).toBe(422);
    expect(problem(answer.body).detail).toMatch(/v1 has no state flying.*usual \(as it is used\), afloat \(afloat\)/);
    expect((await log(slug, { state: "no such id!" })).status).toBe(400);
    expect((await exported(slug)).runs).toEqual([]);
    // Nothing was logged: the version is open still.
    expect((await exported(slug)).versions[0]?.frozenAt).toBeNull();
  });
  it("is locked by what its own ladder lacks, and by no rung of the other state", async () => {
    const slug = await makeCraft("Two", design());
    await log(slug, { stage: 1 });
    const other = await log(slug, { stage: 2, state: "afloat", goneOn: "" });
    expect(other.status).toBe(422);
    expect(problem(other.body).detail).toMatch(/rung 1 not tried/);
    await log(slug, { stage: 1, state: "afloat" });
    // What is left against it is the CG of this state alone: its tail is off.
    const again = problem((await log(slug, { stage: 2, state: "afloat", goneOn: "" })).body).detail;
    expect(again).not.toMatch(/rung 1/);
    expect(again).toMatch(/CG/i);
    expect((await log(slug, { stage: 2, goneOn: "" })).status).toBe(200);
  });
  it("saved as one of the other state is predicted anew, and keeps its number", async () => {
    const slug = await makeCraft("Two", design());
    await log(slug, { measured: [auw] });
    const path = `/api/crafts/${slug}/runs/1`;
    const moved = { revision: 0, run: newRun({ stage: 1, state: "afloat", measured: [auw] }) };
    const saved = await call("PUT", path, moved);
    expect(saved.status).toBe(200);
    const [run] = (await exported(slug)).runs;
    expect(run?.state).toBe("afloat");
    expect(run?.metrics[0]?.predicted?.value).toBe(evaluate(inState(design(), "afloat")).metrics.auw?.value);
    expect((await call("PUT", path, { ...moved, revision: 1, run: newRun({ stage: 1, state: "gone" }) })).status).toBe(
      422,
    );
  });
  it("of a program that says no state is about the first", async () => {
    const slug = await makeCraft("Two", design());
    const { state: _, ...unsaid } = newRun({ stage: 1 });
    expect((await call("POST", `/api/crafts/${slug}/versions/v1/runs`, unsaid)).status).toBe(200);
    expect((await exported(slug)).runs[0]?.state).toBe("usual");
  });
});

describe("what is kept of states", () => {
  it("comes back as it was sent: what differs, targets and phases of one, transitions", async () => {
    const sent = design();
    sent.transitions = [{ id: "t", from: "usual", to: "afloat", wholeTurns: true }];
    sent.duty.push(newPhase({ id: "swim", name: "Swim", by: "throttle", value: 0.3, stateId: "afloat" }));
    sent.brief.targets.push({
      id: "own",
      metric: "auw",
      comparison: "atMost",
      value: 0.9,
      weight: "wish",
      stateId: "afloat",
    });
    const slug = await makeCraft("Kept", sent);
    const [version] = (await exported(slug)).versions;
    expect(version?.design.states).toEqual(sent.states);
    expect(version?.design.transitions).toEqual(sent.transitions);
    expect(version?.design.duty.at(-1)?.stateId).toBe("afloat");
    expect(version?.design.brief.targets.at(-1)?.stateId).toBe("afloat");
  });
  it("is refused with the place where it is wrong", async () => {
    const bad = (change: (d: Design) => void) => {
      const d = design();
      change(d);
      return call("POST", "/api/crafts", { craft: { name: "Bad", summary: "" }, design: d, question: "" });
    };
    for (const change of [
      (d: Design) => void (d.states = []),
      (d: Design) => void d.states.push({ ...plainState("x", "X", []) }),
      (d: Design) => void d.transitions.push({ id: "t", from: "usual", to: "usual", wholeTurns: false }),
      (d: Design) => void d.states.push(...Array.from({ length: 7 }, (_, k) => plainState(`s${k}`, "S", ["ground"]))),
    ]) {
      const answer = await bad(change);
      expect(answer.status).toBe(400);
      expect(JSON.stringify(problem(answer.body))).toMatch(/state|transition|thing holds/);
    }
  });
  it("the list of crafts shows the worst of all states, and the page at the site one of them", async () => {
    const wrong = design();
    // The pack far aft, in the second state alone.
    const [, second] = wrong.states;
    second?.moved.push({ id: "pack", by: { x: 0.5, y: 0, z: 0 } });
    const slug = await makeCraft("Listed", wrong);
    const sheet = async (state: string) =>
      (await call("GET", `/api/crafts/${slug}/versions/v1/field/metric/${state}`)).body as FieldSheet;
    const [first, afloat, unknown] = [await sheet("usual"), await sheet("afloat"), await sheet("nothing")];
    expect(first?.states.map((s) => s.name)).toEqual(["as it is used", "afloat"]);
    expect([first?.state.id, afloat?.state.id, unknown?.state.id]).toEqual(["usual", "afloat", "usual"]);
    expect(afloat?.begin.state).toBe("afloat");
    const { file } = await record(slug);
    const [v1] = file.versions;
    if (!v1) throw new Error("no version");
    const names = (id: string) => ladderOf({ ...v1, design: inState(v1.design, id) }).map((r) => r.name);
    expect(first?.rungs.map((r) => r.name)).toEqual(names("usual"));
    expect(afloat?.rungs.map((r) => r.name)).toEqual(names("afloat"));
    // The card is worked out beside the requests: it is there a little later.
    await expect
      .poll(
        async () =>
          ((await call("GET", "/api/crafts")).body as { slug: string; glance: Glance | null }[]).find(
            (c) => c.slug === slug,
          )?.glance?.worst?.says.metric,
        { timeout: 30_000 },
      )
      .toMatch(/^afloat: /);
  });
});
