import fc from "fast-check";
import type { Table } from "mdast";
import { describe, expect, it } from "vitest";
import { type CraftFile, craftFileSchema } from "../../core/design/craftFile";
import { evaluate } from "../../core/evaluate";
import { costsByCause } from "../../core/faults/costs";
import { story } from "../../core/faults/story";
import { guessingRecord } from "../../core/lineage/guessing";
import { placeTree } from "../../core/lineage/tree";
import { tuneStates } from "../../core/lineage/tune";
import { ladderState, locksFor, nextStage } from "../../core/runs/ladder";
import { readyToTravel } from "../../core/safety/ready";
import { buildReport } from "../../core/wording/report";
import { anyCraft } from "../support/anyCraft";
import { nodesOf, parsed } from "../support/markdown";

describe("any craft", () => {
  it("is understood by everything that reads its records, and never breaks it", () => {
    const { findings } = evaluate(
      craftFileSchema.parse(fc.sample(anyCraft, { numRuns: 1, seed: 1 })[0]).versions[0]?.design ?? ({} as never),
    );
    fc.assert(
      fc.property(anyCraft, (input) => {
        const file: CraftFile = craftFileSchema.parse(input);
        expect(placeTree(file.versions).length).toBe(file.versions.length);
        for (const f of file.faults) for (const c of story(file, f)) expect(c.fault.number).not.toBe(f.number);
        expect(costsByCause(file.faults).reduce((s, c) => s + c.faults.length, 0)).toBe(file.faults.length);
        for (const g of guessingRecord(file)) expect(g.within >= 0 && g.within <= 1).toBe(true);
        for (const version of file.versions) {
          const state = ladderState(file, version);
          expect(state.length).toBe(7);
          const next = nextStage(state);
          expect(next >= 1 && next <= 7).toBe(true);
          expect(locksFor(file, version, findings, 1)).toEqual([]);
          // What stands against a rung stands against every rung above it, or has been overcome by one that was passed.
          const locks = [2, 3, 4, 5, 6, 7].map(
            (s) =>
              locksFor(file, version, findings, s).filter((l) => l.kind === "crash" || l.kind === "verdict").length,
          );
          expect(new Set(locks).size).toBe(1);
          expect(tuneStates(file, version).length).toBe(version.design.setup.length);
          const lines = readyToTravel(file, version, [], null);
          expect(new Set(lines.map((l) => l.id)).size).toBe(lines.length);
          for (const l of lines) expect(l.state === "green" ? l.minutes : 0).toBe(0);
        }
      }),
      { numRuns: 150, seed: 3 },
    );
  });
  it("has a build report of whole tables, whatever stands in its cells", () => {
    fc.assert(
      fc.property(anyCraft, (input) => {
        const file = craftFileSchema.parse(input);
        const version = file.versions.at(-1);
        if (!version) return;
        const report = buildReport(file, version, evaluate(version.design));
        expect(report.match(/.*\b(NaN|undefined|Infinity)\b.*/)?.[0]).toBeUndefined();
        for (const t of nodesOf(parsed(report), "table") as Table[])
          expect(new Set(t.children.map((r) => r.children.length)).size, report).toBe(1);
      }),
      { numRuns: 60, seed: 5 },
    );
  });
});
