import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { RETURNED, launchSpeedOf, releasedBy } from "../../core/subjects/flight/cord";

describe("let go by a stretched cord", () => {
  it("60 N over 3 m on 1.2 kg, by hand: 90 J, 63 of them reach it, 10.2 m/s", () => {
    const known = releasedBy(60, 3, 0, 1.2);
    expect(known?.value).toBeCloseTo(Math.sqrt((2 * 0.7 * 90) / 1.2), 9);
    expect(known?.value).toBeCloseTo(10.25, 2);
    expect(known?.evidence).toBe("calculated");
    // Half of the doubt of the energy.
    expect((known?.sd ?? 0) / (known?.value ?? 1)).toBeCloseTo(Math.hypot(1 / 7, 0.05, 0.03) / 2, 3);
  });
  it("is what a spring gives a mass that is followed step by step up a slope", () => {
    fc.assert(
      fc.property(
        fc.double({ min: 5, max: 200, noNaN: true }),
        fc.double({ min: 0.5, max: 20, noNaN: true }),
        fc.double({ min: 0.2, max: 10, noNaN: true }),
        fc.double({ min: 0, max: 0.3, noNaN: true }),
        (pull, stretch, mass, slope) => {
          // Weaker from the start by what is lost on the way; straight with the stretch.
          const [n, rise] = [4000, slope * stretch];
          let energy = 0;
          for (let k = 0; k < n; k++) {
            const x = (k + 0.5) / n;
            energy += ((RETURNED.value * pull * x - mass * 9.80665 * slope) * stretch) / n;
          }
          const known = releasedBy(pull, stretch, rise, mass);
          if (energy <= 0) expect(known).toBeNull();
          else expect(((known?.value ?? 0) ** 2 * mass) / 2 / energy).toBeCloseTo(1, 6);
        },
      ),
      { numRuns: 60 },
    );
  });
  it("says nothing where it does not lift it so high", () => {
    expect(releasedBy(5, 1, 2, 1)).toBeNull();
  });
});

describe("the speed at which it is let go", () => {
  const cord = { pull: 60, stretch: 3, rise: 0 };
  const said = { launch: "rail or bungee" as const, launchSpeed: null, cord };
  it("goes with the mass that it has now, and a speed that was read stands before it", () => {
    const light = launchSpeedOf(said, 1.2)?.value ?? 0;
    expect(light).toBeCloseTo(10.25, 2);
    // Twice the mass: slower by the root of two.
    expect(light / (launchSpeedOf(said, 2.4)?.value ?? 1)).toBeCloseTo(Math.SQRT2, 9);
    const read = { value: 12, sd: 0.5, evidence: "measured" as const };
    expect(launchSpeedOf({ ...said, launchSpeed: read }, 1.2)).toBe(read);
  });
  it("is open without the mass, the pull or the stretch, and for whatever is not let go by a cord", () => {
    expect(launchSpeedOf(said, null)).toBeNull();
    expect(launchSpeedOf({ ...said, cord: { ...cord, pull: null } }, 1.2)).toBeNull();
    expect(launchSpeedOf({ ...said, cord: { ...cord, stretch: null } }, 1.2)).toBeNull();
    expect(launchSpeedOf({ ...said, launch: "wheels" }, 1.2)).toBeNull();
  });
});
