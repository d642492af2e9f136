import { describe, expect, it } from "vitest";
import { HELD_UP_BY, usualState } from "../../core/design/schema";
import { evaluate, findingText } from "../../core/evaluate";
import { measuredAs, scaleOnly } from "../support/curves";
import { quietDesign } from "../support/designs";
import { EVERY_KIND } from "../support/kinds";

const WAYS = ["as it is", "by a scale", ...EVERY_KIND.map((k) => k.kind)];

describe("a craft of any kind, whatever holds it up and wherever its drives work", () => {
  it.each(WAYS)("is told no number that is none, and judged by none: drives %s", (way) => {
    for (const held of HELD_UP_BY)
      for (const works of ["in air", "in water", null] as const) {
        const d = quietDesign();
        d.states = [usualState(held)];
        for (const u of d.units) {
          u.surroundings = works;
          const kind = EVERY_KIND.find((k) => k.kind === way);
          if (kind) u.propulsor = structuredClone(kind);
          if (way === "by a scale")
            u.measured = measuredAs(scaleOnly([0.25, 0.5, 0.75, 1].map((c) => [c, 6 * c] as const)));
        }
        const e = evaluate(d);
        for (const f of e.findings) {
          const said = findingText(f, "metric");
          expect(said).not.toMatch(/NaN|undefined|Infinity|null/);
          for (const n of [f.figure?.value ?? 0, f.figure?.sd ?? 0, ...Object.values(f.params)])
            expect(Number.isNaN(n), `${held}, ${works}: ${said}`).toBe(false);
        }
        for (const [key, m] of Object.entries(e.metrics))
          expect(Number.isFinite(m.value) && Number.isFinite(m.sd), `${held}, ${works}: ${key}`).toBe(true);
      }
  });
});
