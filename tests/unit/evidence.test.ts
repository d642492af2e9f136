import { describe, expect, it } from "vitest";
import { packFrom } from "../../core/bench/learnPack";
import { evidenceByShare } from "../../core/design/evidence";
import type { Design } from "../../core/design/schema";
import { evaluate } from "../../core/evaluate";
import { coldFactor } from "../../core/subjects/energy/battery";
import { changed, quietDesign } from "../support/designs";
import { takenOver } from "../support/measured";

const only = { evidence: "measured" as const, share: 0.97 };

describe("evidence of a computed number", () => {
  it("is that of what really moves it", () => {
    expect(evidenceByShare([only, { evidence: "guess", share: 0.03 }])).toBe("calculated");
    expect(
      evidenceByShare([
        { evidence: "calculated", share: 0.9 },
        { evidence: "guess", share: 0.1 },
      ]),
    ).toBe("guess");
    expect(
      evidenceByShare([
        { evidence: "calculated", share: 0.8 },
        { evidence: "datasheet", share: 0.2 },
      ]),
    ).toBe("datasheet");
  });

  it("is a guess when many small guesses make it one", () => {
    expect(
      evidenceByShare([only, ...Array.from({ length: 3 }, () => ({ evidence: "guess" as const, share: 0.02 }))]),
    ).toBe("guess");
  });

  it("is no better than its worst input where nothing has any doubt", () => {
    expect(
      evidenceByShare([
        { evidence: "measured", share: 0 },
        { evidence: "guess", share: 0 },
      ]),
    ).toBe("guess");
  });
});

/** A craft whose drive is on paper and whose pack's resistance nobody knows. */
const onPaper = (): Design =>
  changed((d) => {
    for (const b of d.batteries) b.cellResistance = { value: b.cellResistance.value, evidence: "guess" };
  });

describe("a finished take-over", () => {
  it("is no guess, though the pack's resistance was one before", () => {
    const design = onPaper();
    const after = takenOver(design);
    // 30 mΩ fed the stand: 10 a cell, brought from 15 °C to 25 °C.
    const [was, found] = [design.batteries[0], after.batteries[0]];
    expect(found?.cellResistance.value).toBeCloseTo(0.01 / coldFactor(was?.chemistry ?? "lipo", 15), 4);
    expect(found?.cellResistance.evidence).toBe("measured");
    const thrust = evaluate(after).metrics.thrust;
    expect(thrust?.evidence).toBe("calculated");
    expect(evaluate(after).outcomes.propulsion).toMatchObject({ result: { drives: [{ evidence: "calculated" }] } });
  });

  it("leaves a pack alone that is another one, that was under a load test, or that hardly sags", () => {
    const design = onPaper();
    const [unit, battery] = [design.units[0], design.batteries[0]];
    if (!unit || !battery) throw new Error("no drive");
    const sag = { value: 0.03, sd: 0.001, volts: 0.6 };
    expect(packFrom(design, unit.id, battery, sag, 15, 1)).not.toBeNull();
    expect(packFrom(design, unit.id, { ...battery, series: 4 }, sag, 15, 1)).toBeNull();
    expect(packFrom(design, unit.id, battery, { ...sag, sd: 0.01 }, 15, 1)).toBeNull();
    battery.cellResistance = { value: 0.008, evidence: "measured" };
    expect(packFrom(design, unit.id, battery, sag, 15, 1)).toBeNull();
  });

  it("asks before it takes a resistance that is not like the pack's, less the leads that are known", () => {
    const design = onPaper();
    const [unit, battery] = [design.units[0], design.batteries[0]];
    if (!unit || !battery) throw new Error("no drive");
    const far = packFrom(design, unit.id, battery, { value: 0.2, sd: 0.001, volts: 4 }, 25, 1);
    expect(far?.usual).toBe(false);
    design.conductors.push({
      id: "lead",
      name: "lead",
      kind: "wire",
      batteryId: battery.id,
      unitId: null,
      resistance: 0.006,
      maxCurrent: 60,
      note: "",
    } as never);
    expect(
      packFrom(design, unit.id, battery, { value: 0.03, sd: 0.001, volts: 0.6 }, 25, 1)?.cellResistance.value,
    ).toBeCloseTo(0.008, 6);
  });

  it("leaves a number a guess that the pack's resistance still decides", () => {
    const after = takenOver(onPaper());
    for (const b of after.batteries) b.cellResistance = { value: 0.03, evidence: "guess", sd: 0.015 };
    expect(evaluate(after).metrics.packVoltage?.evidence).toBe("guess");
  });
});

describe("a ledger", () => {
  it("that was weighed but for a drop of glue is not a guess", () => {
    const [first] = quietDesign().items;
    if (!first) throw new Error("no part");
    const design = changed((d) => {
      d.items = [
        { ...first, id: "a", mass: { value: 1.2, evidence: "measured", sd: 0.002 } },
        { ...first, id: "b", mass: { value: 0.001, evidence: "guess" } },
      ];
    });
    expect(evaluate(design).metrics.auw?.evidence).toBe("calculated");
    const heavy = structuredClone(design);
    if (heavy.items[1]) heavy.items[1].mass = { value: 0.1, evidence: "guess" };
    expect(evaluate(heavy).metrics.auw?.evidence).toBe("guess");
  });
});
