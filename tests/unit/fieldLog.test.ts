import { describe, expect, it } from "vitest";
import { LAP } from "../../core/runs/marks";
import {
  added,
  begin,
  crashed,
  ended,
  lapsOf,
  moment,
  newLog,
  packSince,
  secondsOf,
  undone,
} from "../../web/field/log";

const START = new Date("2026-02-01T10:00:00Z");
const later = (s: number) => new Date(START.getTime() + s * 1000);

describe("a log at the site", () => {
  const log = () =>
    begin(
      newLog({
        stage: 2,
        pack: { name: "P-01", restingVoltage: 12.4, loadedVoltage: 11.2, endVoltage: null, temperature: null },
      }),
      START,
    );
  it("begins with the pack that is in, and counts from its start", () => {
    const l = log();
    expect(l.run.moments).toMatchObject([
      { kind: "pack in", seconds: 0, pack: { name: "P-01", resting: 12.4, loaded: 11.2 } },
    ]);
    expect(secondsOf(l, later(65).getTime())).toBe(65);
    expect(secondsOf(newLog({}), later(65).getTime())).toBe(0);
    expect(begin(newLog({}), START).run.moments).toEqual([]);
  });
  it("takes back the last moment with its picture, and never the pack that it began with", () => {
    const shot = added(log(), moment("photo", 3), { name: "a", type: "image/png", content: "x" });
    expect(shot.pictures.length).toBe(1);
    const back = undone(shot);
    expect([back.run.moments.length, back.pictures.length]).toEqual([1, 0]);
    expect(undone(back)).toBe(back);
  });
  it("ends once, with its length; a crash opens the evidence and is a failure", () => {
    const over = ended(log(), later(74.4));
    expect(over.run.seconds).toBe(74);
    expect(secondsOf(over, later(900).getTime())).toBeCloseTo(74.4, 6);
    const wreck = crashed(over, true);
    expect(wreck.run).toMatchObject({ outcome: "failed", crash: { steps: { safe: false } } });
    expect(crashed(wreck, false).run.crash).toBeNull();
  });
  it("knows how long the pack has been in, over a change of packs", () => {
    const swapped = added(log(), moment("pack in", 100, { pack: { name: "P-02", resting: 12.5, loaded: null } }));
    expect(packSince(log().run, 130)).toBe(130);
    expect(packSince(swapped.run, 130)).toBe(30);
  });
  it("makes laps from mark to mark, each with the pack that was in when it began", () => {
    const at = (l: ReturnType<typeof log>, s: number) => added(l, moment("mark", s, { mark: LAP.code }));
    let l = { ...log(), run: { ...log().run, course: "pegs", pilot: "a" } };
    l = at(at(l, 10), 30.04);
    l = added(l, moment("pack in", 31, { pack: { name: "P-02", resting: 12.5, loaded: null } }));
    l = at(at(l, 40), 61);
    expect(lapsOf(l.run).map((x) => [x.label, x.values.lapTime, x.pack, x.startVoltage])).toEqual([
      ["1", 20, "P-01", 12.4],
      ["2", 10, "P-01", 12.4],
      ["3", 21, "P-02", 12.5],
    ]);
    expect(lapsOf(at(log(), 5).run)).toEqual([]);
    expect(ended({ ...l, run: { ...l.run, course: "" } }, later(70)).run.laps).toEqual([]);
  });
  it("every entry has a key of its own", () => {
    expect(new Set(Array.from({ length: 500 }, () => newLog({}).run.key)).size).toBe(500);
  });
});
