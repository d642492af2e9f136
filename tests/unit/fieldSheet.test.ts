import { readFileSync } from "node:fs";
import { describe, expect, it } from "vitest";
import { type CraftFile, craftFileSchema } from "../../core/design/craftFile";
import { evaluate, findingText } from "../../core/evaluate";
import type { Finding } from "../../core/subject";
import { ladderOf, locksFor } from "../../core/runs/ladder";
import { fieldSheet } from "../../core/runs/fieldSheet";
import { gateLine } from "../../core/wording/gate";
import { gateText } from "../../core/wording/ladder";

const tern: CraftFile = craftFileSchema.parse(JSON.parse(readFileSync("demo/tern.json", "utf8")));
const version = (label: string) => {
  const found = tern.versions.find((v) => v.label === label);
  if (!found) throw new Error(`no ${label}`);
  return found;
};
const judgedOf = (label: string) => {
  const { metrics, findings } = evaluate(version(label).design);
  return { endurance: metrics.endurance ?? null, findings, tip: 0, say: (f: Finding) => findingText(f, "metric") };
};

describe("the sheet for the site", () => {
  const v4 = version("v4");
  const sheet = fieldSheet(tern, v4, v4.design.states, judgedOf("v4"));
  it("says of every rung the same locks and gates as the desk", () => {
    expect(sheet.rungs.map((r) => r.stage)).toEqual(ladderOf(v4).map((r) => r.stage));
    const { findings } = judgedOf("v4");
    for (const rung of sheet.rungs) {
      const own = ladderOf(v4)[rung.stage - 1];
      expect(rung.locked.length).toBe(locksFor(tern, v4, findings, rung.stage).length);
      expect(rung.gates.map(({ gate, name }) => gateLine(gate, name, "imperial"))).toEqual(
        own?.gates.map((g) => gateText(g, "imperial")),
      );
    }
    expect(sheet.rungs.some((r) => r.locked.length > 0)).toBe(true);
    expect(sheet.rungs[0]?.locked).toEqual([]);
  });
  it("begins where the last run was, with nothing that nobody said", () => {
    expect(sheet.begin.place).toBe(tern.runs.findLast((r) => r.version === "v4")?.place);
    expect(sheet.begin.conditions).toMatchObject({ wind: null, airTemperature: null });
    expect(JSON.parse(JSON.stringify(sheet))).toEqual(sheet);
    expect(JSON.stringify(sheet).length).toBeLessThan(30_000);
  });
  it("brings only plans of this version that are still to come", () => {
    const plans = tern.plans.filter((p) => p.version === "v5" && p.state === "planned").map((p) => p.number);
    expect(plans.length).toBeGreaterThan(0);
    expect(
      fieldSheet(tern, version("v5"), version("v5").design.states, judgedOf("v5")).plans.map((p) => p.number),
    ).toEqual(plans);
    expect(sheet.plans.every((p) => !plans.includes(p.number))).toBe(true);
  });
  it("locks every powered rung of a design that could not be judged, and knows no endurance", () => {
    const unjudged = fieldSheet(tern, v4, v4.design.states, null);
    expect(unjudged.endurance).toBeNull();
    for (const rung of unjudged.rungs)
      expect(rung.locked.includes("the verdicts of this design could not be worked out in time")).toBe(rung.stage > 1);
  });
});
