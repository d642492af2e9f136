import { describe, expect, it } from "vitest";
import { dragAreaOfGlide, glideOf } from "../../core/bench/glide";
import type { Glide } from "../../core/design/bench";

type Pass = Glide["passes"][number];
const pass = (height: number, distance: number, seconds: number | null, saw: Pass["saw"] = "straight"): Pass => ({
  height,
  distance,
  seconds,
  saw,
});
const G = 9.80665;

describe("a glide", () => {
  it("is distance over height and path over time; only straight passes count", () => {
    const r = glideOf({ passes: [pass(1, 8, 1), pass(2, 16, 2), pass(1, 3, 0.4, "dived")] });
    expect(r.ratio?.value).toBeCloseTo(8, 12);
    expect(r.ratio?.n).toBe(2);
    expect(r.speed?.value).toBeCloseTo(Math.hypot(8, 1), 12);
    expect(r.trim).toBeNull();
  });
  it("gives back the drag area that made it, with and without what lift costs (a glide made by hand)", () => {
    // 0.9 kg at 9 m/s with 0.012 m² and k 0.4: D = q·A + k·L²/q, and the angle that this leaves.
    const [mass, v, rho, a, k] = [0.9, 9, 1.2, 0.012, 0.4];
    const q = (rho * v * v) / 2;
    let angle = 0.1;
    for (let n = 0; n < 50; n++) angle = Math.asin((q * a + (k * (mass * G * Math.cos(angle)) ** 2) / q) / (mass * G));
    const path = 20;
    const made = glideOf({ passes: [pass(path * Math.sin(angle), path * Math.cos(angle), path / v)] });
    expect(dragAreaOfGlide(made, mass * G, rho, k)?.value).toBeCloseTo(a, 9);
    // With nothing known of wings what lift costs is in it.
    expect(dragAreaOfGlide(made, mass * G, rho, 0)?.value).toBeGreaterThan(a);
    expect(dragAreaOfGlide(made, mass * G, rho, k)?.evidence).toBe("measured");
  });
  it("is the better known the more often it was flown, and never without doubt", () => {
    const sd = (n: number) => glideOf({ passes: Array.from({ length: n }, () => pass(1, 8, 1)) }).ratio?.sd ?? 0;
    expect(sd(1)).toBeCloseTo(8 * Math.hypot(0.12, 0.03), 9);
    expect(sd(2)).toBeLessThan(sd(1));
    expect(sd(3)).toBeLessThan(sd(2));
    expect(sd(20)).toBeGreaterThanOrEqual(8 * 0.03);
    const wild = glideOf({ passes: [6, 10, 7, 9, 8].map((d) => pass(1, d, 1)) }).ratio;
    expect(wild?.sd).toBeCloseTo(Math.hypot(Math.sqrt(2.5 / 5), 8 * 0.03), 9);
  });
  it("too flat for its speed has no drag area, nor has one without time or mass", () => {
    const flat = glideOf({ passes: [pass(0.1, 30, 10)] });
    expect(dragAreaOfGlide(flat, 9, 1.2, 2)).toBeNull();
    expect(dragAreaOfGlide(glideOf({ passes: [pass(1, 8, null)] }), 9, 1.2, 0)).toBeNull();
    expect(dragAreaOfGlide(glideOf({ passes: [pass(1, 8, 1)] }), 0, 1.2, 0)).toBeNull();
  });
  it("that mostly dives or stalls says so", () => {
    expect(glideOf({ passes: [pass(1, 3, 1, "dived"), pass(1, 3, 1, "dived"), pass(1, 8, 1)] }).trim).toBe("dived");
    expect(glideOf({ passes: [pass(1, 3, 1, "rose and stalled")] })).toMatchObject({
      trim: "rose and stalled",
      ratio: null,
    });
    expect(glideOf({ passes: [pass(1, 3, 1, "dived"), pass(1, 3, 1, "rose and stalled")] }).trim).toBeNull();
  });
});
