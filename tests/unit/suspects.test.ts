import { describe, expect, it } from "vitest";
import { slipOf, suspectsOf } from "../../core/bench/suspects";
import type { Level } from "../../core/bench/sweep";
import { quietDesign } from "../support/designs";

const level = (throttle: number, thrust: number, more: Partial<Level> = {}): Level =>
  ({
    throttle,
    thrust,
    thrustSd: 0.01,
    voltage: 12,
    current: 10 * throttle,
    power: 120 * throttle,
    rpm: 10_000 * throttle,
    temperature: null,
    noise: null,
    count: 3,
    ...more,
  }) as Level;
const quiet = {
  levels: [level(0.5, 2), level(1, 8)],
  spikes: 0,
  top: 8,
  step: 0.01,
  zeroDrift: 0,
  atRest: { thrust: 0, reading: 0.03 },
  merit: () => 0.5,
  constancy: { change: 0, sd: 0.01 },
  slip: 0,
  hysteresis: { value: 0, sd: 0.01 },
  fade: 0,
};
const kinds = (change: Partial<Parameters<typeof suspectsOf>[0]>) =>
  suspectsOf({ ...quiet, ...change }).map((s) => s.kind);

describe("what the readings of a sweep give away", () => {
  it("nothing where nothing is wrong, nor where nothing is known", () => {
    expect(kinds({})).toEqual([]);
    expect(
      kinds({
        zeroDrift: null,
        atRest: null,
        merit: () => null,
        constancy: null,
        slip: null,
        hysteresis: null,
        fade: null,
      }),
    ).toEqual([]);
  });
  it.each([
    ["spike", { spikes: 2 }],
    ["zero-moved", { zeroDrift: 0.2 }],
    ["zero-moved", { zeroDrift: -0.2 }],
    ["off-tare", { atRest: { thrust: -0.3, reading: 0.06 } }],
    ["meter-low", { merit: () => 0.85 }],
    ["blades-bend", { constancy: { change: -0.1, sd: 0.01 } }],
    ["slip", { slip: -0.08 }],
    ["friction", { hysteresis: { value: 0.3, sd: 0.02 } }],
    ["friction", { hysteresis: { value: -0.3, sd: 0.02 } }],
    ["fades", { fade: 0.05 }],
  ] as [string, Partial<Parameters<typeof suspectsOf>[0]>][])("%s of %j", (kind, change) => {
    expect(kinds(change)).toEqual([kind]);
  });
  it("a zero that moved less than the scale can tell is none, however small the thrust", () => {
    expect(kinds({ top: 0.1, step: 0.05, zeroDrift: 0.1 })).toEqual([]);
    expect(kinds({ top: 0.1, step: 0.05, zeroDrift: 0.16 })).toEqual(["zero-moved"]);
  });
  it("a change within its own doubt is none", () => {
    expect(kinds({ constancy: { change: -0.1, sd: 0.05 } })).toEqual([]);
    expect(kinds({ hysteresis: { value: 0.3, sd: 0.2 } })).toEqual([]);
  });
  it("a figure of merit counts where there is thrust, and the best of it is told", () => {
    const merit = (thrust: number) => (thrust < 2 ? 3 : 0.9);
    const [found] = suspectsOf({ ...quiet, levels: [level(0.1, 0.1), level(0.5, 3), level(1, 8)], merit });
    expect(found).toEqual({ kind: "meter-low", merit: 0.9, throttle: 0.5 });
  });
});

describe("a belt or a collet that slips", () => {
  const [drive] = quietDesign().units;
  if (!drive) throw new Error("no drive");
  const resistance = drive.motor.resistance.value + drive.controller.resistance.value;
  /** Levels of a drive whose controller gives a duty of 0.9·throttle, by the same balance: u·V = n/Kv + I·R/u. */
  const levels = (slips: (throttle: number) => number, kv = drive.motor.kv.value): Level[] =>
    Array.from({ length: 11 }, (_, k) => {
      const throttle = 0.2 + 0.08 * k;
      const duty = 0.9 * throttle;
      const current = 12 * throttle ** 2;
      const rpm = kv * drive.gear.ratio * (duty * 12 - (current * resistance) / duty);
      return level(throttle, 8 * throttle ** 2, { rpm: rpm * (1 - slips(throttle)), current, voltage: 12 });
    });
  it("is seen at the top, by as much as it slips", () => {
    const slip = slipOf(
      levels((u) => (u > 0.8 ? 0.12 : 0)),
      1,
      0.05,
      drive,
    );
    expect(slip).toBeLessThan(-0.08);
    expect(slip).toBeGreaterThan(-0.14);
  });
  it("is not seen where nothing slips, nor where Kv is entered wrongly", () => {
    expect(
      Math.abs(
        slipOf(
          levels(() => 0),
          1,
          0.05,
          drive,
        ) ?? 1,
      ),
    ).toBeLessThan(0.01);
    expect(
      Math.abs(
        slipOf(
          levels(() => 0, drive.motor.kv.value * 1.1),
          1,
          0.05,
          drive,
        ) ?? 1,
      ),
    ).toBeLessThan(0.02);
  });
  it("is not looked for in fewer than eight levels with speed, volts and amps", () => {
    expect(slipOf(levels(() => 0).slice(0, 7), 1, 0.05, drive)).toBeNull();
    expect(
      slipOf(
        levels(() => 0).map((l) => ({ ...l, rpm: null })),
        1,
        0.05,
        drive,
      ),
    ).toBeNull();
    expect(
      slipOf(
        levels(() => 0),
        0.5,
        0.05,
        drive,
      ),
    ).toBeNull();
  });
});
