import { describe, expect, it } from "vitest";
import { type Pair, fastestRpm, mix, tabulated } from "../../core/subjects/propulsion/shaft";
import { air } from "../../core/subjects/air/air";

/** A propulsor in closed form: thrust falls straight with the advance ratio, torque a little; both with n². */
const closed = (speed: number, rpm: number): Pair & { solved: boolean } => {
  const n = rpm / 60;
  const j = speed / (n * D);
  return {
    thrust: 1.2 * n ** 2 * D ** 4 * (0.1 - 0.12 * j),
    torque: 1.2 * n ** 2 * D ** 5 * (0.006 - 0.002 * j ** 2),
    solved: true,
  };
};
const D = 0.25;
const SPAN = { diameter: D, maxRpm: 20_000, lastAdvance: 0.9 };

describe("a table of a propulsor", () => {
  it("is exact where thrust is straight and torque a parabola in the advance ratio", () => {
    const map = tabulated(closed, SPAN);
    for (const rpm of [250, 900, 3000, 7777, 19_999])
      for (const j of [0, 0.05, 0.2, 0.41, 0.6, 0.83]) {
        const speed = (j * rpm * D) / 60;
        const [a, b] = [map.at(rpm, speed), closed(speed, rpm)];
        expect(a.thrust / b.thrust, `${rpm} ${j}`).toBeCloseTo(1, 8);
        expect(a.torque / b.torque, `${rpm} ${j}`).toBeCloseTo(1, 8);
        expect(map.torque(rpm, speed)).toBeCloseTo(a.torque, 12);
      }
  });
  it("has nothing at rest, and takes the last advance ratio beyond it", () => {
    const map = tabulated(closed, SPAN);
    expect(map.at(0)).toEqual({ thrust: 0, torque: 0 });
    expect(map.at(-100, 5)).toEqual({ thrust: 0, torque: 0 });
    const last = map.at(3000, (0.9 * 3000 * D) / 60);
    const beyond = map.at(3000, 100);
    expect(beyond.thrust).toBeCloseTo(last.thrust, 6);
  });
  it("keeps to n² beyond its rpm", () => {
    const map = tabulated(closed, SPAN);
    expect(map.at(40_000).thrust / map.at(20_000).thrust).toBeCloseTo(4, 8);
    expect(map.at(100).thrust / map.at(200).thrust).toBeCloseTo(0.25, 8);
  });
  it("says when a point standing was not solved; a moving one that is not counts as nothing there", () => {
    expect(tabulated((v, n) => ({ ...closed(v, n), solved: n < 10_000 }), SPAN).solved).toBe(false);
    expect(tabulated((v, n) => ({ ...closed(v, n), solved: v === 0 }), SPAN).solved).toBe(true);
  });
  it("asks for moving points only when somebody moves", () => {
    let asked = 0;
    const map = tabulated((v, n) => {
      if (v > 0) asked++;
      return closed(v, n);
    }, SPAN);
    map.at(5000);
    expect(asked).toBe(0);
    map.at(5000, 3);
    expect(asked).toBeGreaterThan(0);
  });
  it("a Reynolds number's slow change is met within a thousandth between the points", () => {
    const slow = (speed: number, rpm: number) => {
      const p = closed(speed, rpm);
      const grows = 1 - 0.25 * (rpm / 5000) ** -0.4;
      return { ...p, thrust: p.thrust * grows };
    };
    const map = tabulated(slow, SPAN);
    for (let rpm = 700; rpm < 20_000; rpm *= 1.17)
      expect(map.at(rpm).thrust / slow(0, rpm).thrust - 1, `${rpm}`).toBeLessThan(2e-3);
  });
  it("mixes two pairs on a straight line", () => {
    expect(mix({ thrust: 1, torque: 2 }, { thrust: 3, torque: 6 }, 0.25)).toEqual({ thrust: 1.5, torque: 3 });
  });
  it("is made up to tips at little more than the speed of sound", () => {
    const tip = (fastestRpm(D, air(0, 15)) / 60) * Math.PI * D;
    // 340.3 m/s: ICAO standard atmosphere (Doc 7488), sea level.
    expect(tip / 340.3).toBeCloseTo(1.05, 2);
  });
});
