import { readFileSync } from "node:fs";
import { describe, expect, it } from "vitest";
import { craftFileSchema } from "../../core/design/craftFile";
import { applyPatch, knownAt } from "../../core/design/patch";
import { DISPLAY, acceptedUnits, type Dimension } from "../../core/design/units";
import { parseQuantity } from "../../core/design/readQuantity";
import { evaluate, findingText, remediesFor, workingOf } from "../../core/evaluate";
import { SYMPTOMS } from "../../core/faults/catalogue";
import { rankCauses } from "../../core/faults/rank";
import { difference, kindsOf } from "../../core/lineage/difference";
import { CAUTION } from "../../core/wording/cautions";
import { reasonText } from "../../core/wording/faults";
import { plain, show, showSd } from "../../core/wording/format";
import { INPUT_NAME } from "../../core/subjects/propulsion/words";
import { stationState } from "../../web/app/stationState";
import { METRICS, type MetricKey, PAGES } from "../../core/design/metrics";
import { quietDesign } from "../support/designs";

const files = ["tern", "annulus"].map((n) =>
  craftFileSchema.parse(JSON.parse(readFileSync(new URL(`../../demo/${n}.json`, import.meta.url), "utf8"))),
);
const evaluations = files.flatMap((file) =>
  file.versions.map((version) => ({ file, version, evaluation: evaluate(version.design) })),
);

describe("a long way", () => {
  it("is shown no finer than it is known", () => {
    expect(show(22369, 4229, "distance", "metric")).toEqual({ value: "22\u202f400", sd: "4200", unit: "m" });
    expect(show(523.4, 12.3, "distance", "metric").value).toBe("523");
  });
});

describe("every computed number can show its working", () => {
  it("over all demo versions", () => {
    let seen = 0;
    for (const { version, evaluation } of evaluations)
      for (const key of Object.keys(evaluation.metrics) as MetricKey[]) {
        const { formula, source, range } = METRICS[key];
        expect(formula?.length, key).toBeGreaterThan(3);
        expect(source?.length, key).toBeGreaterThan(10);
        expect(range?.length, key).toBeGreaterThan(3);
        // Nothing to buy has no parts that cost.
        if (evaluation.metrics[key]?.value !== 0)
          expect(workingOf(version.design, evaluation, key).length, key).toBeGreaterThan(0);
        seen++;
      }
    expect(seen).toBeGreaterThan(100);
  });
  it("the shares of a result's doubt add up to one", () => {
    for (const { version, evaluation } of evaluations)
      for (const key of ["cgX", "cgZ", "auw", "thrust", "thrustToWeight", "endurance"] as const) {
        if (!evaluation.metrics[key]) continue;
        const sum = workingOf(version.design, evaluation, key).reduce((s, i) => s + i.share, 0);
        expect(sum, key).toBeCloseTo(1, 6);
      }
  });
  it("every input of the drive has a name", () => {
    for (const name of Object.values(INPUT_NAME)) expect(name).toMatch(/^[A-Z]/);
  });
});

describe("sentences", () => {
  it("of verdicts and remedies hold no hole and no exclamation mark, in either habit", () => {
    let seen = 0;
    for (const { version, evaluation } of evaluations)
      for (const f of evaluation.findings)
        for (const habit of ["metric", "imperial"] as const)
          for (const text of [
            findingText(f, habit),
            ...remediesFor(version.design, evaluation, f, habit).map((r) => r.text),
          ]) {
            expect(text).not.toMatch(/undefined|NaN|Infinity|!/);
            expect(text.length).toBeGreaterThan(6);
            seen++;
          }
    expect(seen).toBeGreaterThan(60);
  });
  it("reasons of ranked suspects are worded", () => {
    const found = evaluations.find((e) => e.version.label === "v4" && e.file.craft.name === "Tern");
    if (!found) throw new Error("no v4");
    const parent = found.file.versions.find((v) => v.label === "v3");
    const changed = kindsOf(parent ? difference(parent.design, found.version.design) : []);
    const reasons = SYMPTOMS.flatMap((s) => rankCauses(s, { findings: found.evaluation.findings, changed })).flatMap(
      (c) => c.reasons,
    );
    expect(reasons.length).toBeGreaterThan(15);
    for (const r of reasons) expect(reasonText(r, found.evaluation.findings, "metric")).toMatch(/^(up|down): ./);
  });
  it("cautions are whole sentences", () => {
    for (const text of Object.values(CAUTION)) expect(text).toMatch(/^[A-Z].*[.?]$/);
  });
  it("station lines stay short enough for the rail", () => {
    for (const { file, version, evaluation } of evaluations)
      for (const habit of ["metric", "imperial"] as const)
        for (const s of PAGES)
          expect(stationState(s, evaluation, file, version, habit).text.length).toBeLessThanOrEqual(18);
  });
});

describe("shown numbers", () => {
  it("group digits, carry a true minus, and never show a negative zero", () => {
    expect(show(15368, 874, "rotation", "metric")).toEqual({ value: "15\u202f368", sd: "874", unit: "rpm" });
    expect(plain(-0.0241, "length", "metric")).toBe("−24.1\u00a0mm");
    expect(plain(-0.00000001, "length", "metric")).toBe("0.0\u00a0mm");
    expect(plain(0.35, "angle", "metric")).toBe("20.1°");
    expect(plain(0.1, "mass", "imperial")).toBe("3.53\u00a0oz");
    expect(showSd(0.00022, "mass", "metric")).toBe("0.22");
    expect(show(Number.POSITIVE_INFINITY, null, "time", "metric").value).toBe("∞");
  });
  it("every shown unit can be typed", () => {
    for (const habit of ["metric", "imperial"] as const)
      for (const [dimension, unit] of Object.entries(DISPLAY[habit])) {
        const r = parseQuantity(`12 ${unit}`, dimension as Dimension, habit);
        expect(
          r.ok,
          `${dimension} in ${unit}: ${r.ok ? "" : r.message} (${acceptedUnits(dimension as Dimension)})`,
        ).toBe(true);
      }
  });
});

describe("patches", () => {
  it("set values by id, take an entered ± away with null, and add parts", () => {
    const design = quietDesign();
    const pack = design.items[1];
    if (pack?.mass) pack.mass.sd = 0.05;
    const after = applyPatch(design, { set: knownAt(["items", "#pack", "mass"], 0.25, "datasheet"), addItems: [] });
    expect(after.items[1]?.mass).toEqual({ value: 0.25, evidence: "datasheet" });
    expect(design.items[1]?.mass).toEqual({ value: 0.2, evidence: "measured", sd: 0.05 });
  });
  it("refuse a path that leads nowhere and a result that is no design", () => {
    expect(() =>
      applyPatch(quietDesign(), { set: [{ path: ["items", "#nobody", "place", "x"], value: 1 }], addItems: [] }),
    ).toThrow(/#nobody/);
    expect(() =>
      applyPatch(quietDesign(), { set: [{ path: ["items", "#pack", "place", "x"], value: "far" }], addItems: [] }),
    ).toThrow();
  });
});
