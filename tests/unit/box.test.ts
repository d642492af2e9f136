import { describe, expect, it } from "vitest";
import type { Design } from "../../core/design/schema";
import { evaluate, findingText, remediesFor, resultIn } from "../../core/evaluate";
import { box } from "../../core/subjects/box/node";
import { leaving, riseOf, ventFor } from "../../core/subjects/box/warm";
import { measuredAs, scaleOnly } from "../support/curves";
import { changed } from "../support/designs";
import { boxed } from "../support/rules/box";
import { known } from "../support/rules/change";

const CLOSED = { walls: 0.4, vent: 0, rise: 0, discharge: 0.6 };
const VENTED = { walls: 0, vent: 0.002, rise: 0.1, discharge: 0.6 };

describe("heat that leaves a closed space", () => {
  it("through walls alone: ΔT = P/(U·S)", () => {
    expect(riseOf(10, CLOSED, 15, 1.225)).toBeCloseTo(25, 6);
    expect(riseOf(0, CLOSED, 15, 1.225)).toBe(0);
    expect(riseOf(10, { ...CLOSED, walls: 0 }, 15, 1.225)).toBeNull();
  });
  it("through vents alone: ΔT³ᐟ² = P/(ρ·c_p·C_d·A/√2·√(2gH/T)), its own equation solved by hand", () => {
    const dt = riseOf(20, VENTED, 15, 1.225) ?? 0;
    const per = 1.225 * 1006 * 0.6 * (0.002 / Math.SQRT2) * Math.sqrt((2 * 9.80665 * 0.1) / (288.15 + dt));
    expect(dt).toBeCloseTo((20 / per) ** (2 / 3), 4);
  });
  it("stack flow as a handbook has it: 1 m² over 3 m at 10 K, C_d 0.65, is 0.91 m³/s (ASHRAE, from memory)", () => {
    // Q = C_d·A·√(2gH·ΔT/T_i), T_i = 300 K; two openings of √2 m² in line count as one of 1 m².
    const heat = leaving(10, { walls: 0, vent: Math.SQRT2, rise: 3, discharge: 0.65 }, 300 - 273.15 - 10, 1.2);
    expect(heat / (1.2 * 1006 * 10)).toBeCloseTo(0.91, 2);
  });
  it("all of it leaves, by both ways together, and more vent is cooler", () => {
    const ways = { ...VENTED, walls: 0.3 };
    const dt = riseOf(30, ways, -6, 1.3) ?? 0;
    expect(leaving(dt, ways, -6, 1.3)).toBeCloseTo(30, 5);
    expect(riseOf(30, { ...ways, vent: 0.004 }, -6, 1.3) ?? 99).toBeLessThan(dt);
  });
  it("the vents that keep it at a rise keep it there; none are needed where the walls do", () => {
    const area = ventFor(30, 20, { ...VENTED, walls: 0.3 }, 15, 1.225);
    expect(riseOf(30, { ...VENTED, walls: 0.3, vent: area }, 15, 1.225)).toBeCloseTo(20, 6);
    expect(ventFor(3, 20, { ...VENTED, walls: 0.3 }, 15, 1.225)).toBe(0);
  });
});

describe("a closed space with what warms it", () => {
  const result = (d: Design) => resultIn(evaluate(d), box)?.boxes[0];
  it("holds the losses of what is in it: motors, controllers, packs, the rest", () => {
    const heat = (more: Parameters<typeof boxed>[1]) => result(changed((d) => boxed(d, more)))?.heat.value ?? 0;
    const motor = heat({ controllers: [], packs: [] });
    const e = evaluate(changed(() => {}));
    expect(motor).toBeCloseTo(e.metrics.motorLoss?.value ?? 0, 6);
    const pack = heat({ motors: [], controllers: [] });
    expect(pack).toBeCloseTo((e.metrics.packCurrent?.value ?? 0) ** 2 * 3 * 0.008, 6);
    expect(heat({ motors: [], controllers: [], packs: [], other: 7 })).toBe(7);
    expect(heat({})).toBeCloseTo(motor + pack + heat({ motors: [], packs: [] }), 6);
  });
  it("closed it is hot, and is told with the vents that it needs; wide open it is not", () => {
    const d = changed((x) => boxed(x));
    const e = evaluate(d);
    expect(e.metrics.boxAir?.value ?? 0).toBeGreaterThan(60);
    expect((e.metrics.boxAir?.sd ?? 0) / (e.metrics.boxAir?.value ?? 1)).toBeGreaterThan(0.1);
    const f = e.findings.find((x) => x.code === "hot-box");
    expect(f && findingText(f, "metric")).toMatch(
      /^Tub: the air in it goes to about \d+\s°C at lasting full throttle, with a pack inside$/,
    );
    expect(f && remediesFor(d, e, f).map((r) => r.text)[1]).toMatch(/^Vents of .* low and as much high, /);
  });
  it("is open until its walls are said, its vents are apart, and what is in it is known", () => {
    const because = (more: Parameters<typeof boxed>[1], change: (d: Design) => void = () => {}) =>
      result(
        changed((d) => {
          boxed(d, more);
          change(d);
        }),
      )?.because;
    expect(because({ motors: [], controllers: [], packs: [] })).toMatch(/tick what is in it/);
    expect(because({ surface: null })).toBe("enter the area of its outer walls");
    expect(because({ vent: known(0.001) })).toMatch(/vents are apart/);
    expect(
      because({}, (d) => {
        const [u] = d.units;
        if (u)
          u.measured = measuredAs(
            scaleOnly([
              [0.3, 1],
              [0.6, 3],
              [1, 6],
            ]),
          );
      }),
    ).toMatch(/by its curve alone/);
    const e = evaluate(changed((d) => boxed(d, { surface: null })));
    expect(e.metrics.boxAir).toBeUndefined();
    expect(e.findings.map((f) => f.code)).not.toContain("hot-box");
  });
});
