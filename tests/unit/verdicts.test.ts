import { describe, expect, it } from "vitest";
import { type Patch, applyPatch } from "../../core/design/patch";
import type { Design } from "../../core/design/schema";
import { evaluate, findingText, remediesFor } from "../../core/evaluate";
import type { Finding } from "../../core/subject";
import { changed, quietDesign } from "../support/designs";
import { measuredAs, scaleOnly } from "../support/curves";
import { RULE_CASES } from "../support/ruleCases";

const parent = { label: "v1", mass: 0.9 };
const findings = (design: Design, context = {}) =>
  evaluate(design, context).findings.filter((f) => f.severity !== "clear");
const find = (design: Design, code: string, context = {}) => findings(design, context).find((f) => f.code === code);
const answers = (design: Design, code: string) => {
  const finding = find(design, code);
  return finding ? remediesFor(design, evaluate(design), finding) : [];
};
const item = (d: Design, id: string) => {
  const i = d.items.find((x) => x.id === id);
  if (!i) throw new Error(id);
  return i;
};
describe("verdict rules", () => {
  it("are silent on the quiet design", () => {
    expect(findings(quietDesign(), { parentMass: parent }).map((f) => f.code)).toEqual(["support-open"]);
  });
  it("clear verdicts say what holds", () => {
    const codes = evaluate(quietDesign()).findings.map((f) => f.code);
    expect(codes).toContain("cg-inside");
    expect(codes).toContain("currents-hold");
  });
  it("stand worst first", () => {
    const order = evaluate(
      changed((d) => {
        d.brief.environment.packTemperature = 2;
        item(d, "pack").place.x = 0.36;
      }),
    ).findings.map((f) => ["stop", "care", "note", "clear"].indexOf(f.severity));
    expect(order).toEqual([...order].sort());
    expect(order[0]).toBe(0);
  });
});

describe("what nobody read", () => {
  // A scale alone tells no amperes: whatever goes by them was judged as if it were too much ("pulls the cells to NaN
  // V").
  it("is judged by no rule: of drives that a scale alone told no current and no sag is said", () => {
    for (const [code, fires, , context = {}] of RULE_CASES) {
      const design = changed(fires);
      for (const u of design.units)
        u.measured = measuredAs(scaleOnly([0.25, 0.5, 0.75, 1].map((c) => [c, 6 * c] as const)));
      const e = evaluate(design, context);
      for (const f of e.findings) {
        const numbers = [f.figure?.value ?? 0, f.figure?.sd ?? 0, ...Object.values(f.params)];
        expect(
          numbers.some((n) => Number.isNaN(n)),
          `${f.code} of ${code}: ${findingText(f, "metric")}`,
        ).toBe(false);
        expect(["pack-floor", "pack-current", "conductor-current", "brown-out"], code).not.toContain(f.code);
      }
    }
  });
});

describe("remedies", () => {
  const withPatch = RULE_CASES.flatMap(([code, fires, , context = {}]) => {
    const design = changed(fires);
    const finding = find(design, code, context);
    return finding
      ? remediesFor(design, evaluate(design, context), finding, "metric", context).flatMap((r, i) =>
          // To say that a drive works where nothing is computed is an answer and no cure.
          r.patch && !(r.code === "say-where" && r.patch.set.some((s) => s.value !== "in air"))
            ? [{ name: `${code} ${i}: ${r.text}`, code, design, context, patch: r.patch, finding, remedy: r }]
            : [],
        )
      : [];
  });
  it("at least six rules carry one that can be applied", () => {
    expect(new Set(withPatch.map((r) => r.code)).size).toBeGreaterThanOrEqual(12);
  });
  it.each(withPatch)("$name clears the verdict", ({ code, design, context, patch, finding }) => {
    const after = applyPatch(design, patch);
    const left = findings(after, context).find((f: Finding) => f.code === code && f.about === finding.about);
    expect(left && findingText(left, "metric")).toBeUndefined();
  });
  it("leave the design that they are shown for as it was", () => {
    const design = changed((d) => void (item(d, "pack").place.x = 0.36));
    const before = JSON.stringify(design);
    for (const f of evaluate(design).findings)
      for (const r of remediesFor(design, evaluate(design), f)) if (r.patch) applyPatch(design, r.patch);
    expect(JSON.stringify(design)).toBe(before);
  });
  it("slide and ballast bring the CG to the same place: inside the nearest edge by its doubt", () => {
    const design = changed((d) => void (item(d, "pack").place.x = 0.36));
    const remedies = answers(design, "cg-outside");
    expect(remedies.map((r) => r.code)).toEqual(["move-part", "add-ballast", "slide-and-ballast"]);
    for (const r of remedies) {
      const cg = r.patch && evaluate(applyPatch(design, r.patch)).metrics.cgX;
      expect(cg?.value ?? 0).toBeLessThan(0.32);
      expect(cg?.value ?? 0).toBeCloseTo(0.32 - 1.35 * (evaluate(design).metrics.cgX?.sd ?? 0), 6);
      // What is added brings a doubt of its own.
      expect(
        evaluate(applyPatch(design, r.patch as Patch)).targets.find((t) => t.target.metric === "cgX")?.odds ?? 0,
      ).toBeGreaterThan(0.85);
    }
  });
  it("offer no slide beyond its range", () => {
    const design = changed((d) => {
      item(d, "pack").place.x = 0.36;
      item(d, "pack").slide = { from: 0.35, to: 0.4 };
    });
    const remedies = answers(design, "cg-outside");
    expect(remedies.map((r) => r.code)).toEqual(["slide-and-ballast", "add-ballast"]);
    const first = remedies[0];
    expect(first?.patch && applyPatch(design, first.patch).items.find((i) => i.id === "pack")?.place.x).toBeCloseTo(
      0.35,
      9,
    );
  });
});
