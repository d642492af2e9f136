import { readFileSync } from "node:fs";
import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { PLAIN, correctionOf } from "../../core/bench/calibration";
import { commonPlace, compareAt } from "../../core/bench/compare";
import { judgeFastThrottle } from "../../core/bench/fastThrottle";
import { armRatio, checkFactor, correctionsFor, sharedThrustError, thrustFrom } from "../../core/bench/rig";
import { type SweepResult, densityAt, readSweep } from "../../core/bench/sweep";
import { guessSweep, readSweepTable, sweepText } from "../../core/bench/sweepTable";
import type { Rig, ThrustReading } from "../../core/design/thrustTest";
import { fastThrottleText } from "../../core/wording/sweep";
import { quietDesign } from "../support/designs";
import { calm, reading, rig, shownFor, syntheticSweep } from "../support/sweeps";

const plain = { scale: PLAIN, voltage: PLAIN, current: PLAIN };
/** A drive of which only the propeller's diameter (m) matters. */
const driveOf = (diameter: number | null) => {
  const [unit] = quietDesign().units;
  return unit && diameter !== null
    ? { ...unit, propeller: { ...unit.propeller, diameter: { value: diameter, evidence: "measured" as const } } }
    : null;
};
const read = (readings: ThrustReading[], r: Rig = rig(), diameter: number | null = null): SweepResult =>
  readSweep({ rig: r, air: calm, readings }, plain, driveOf(diameter));

describe("the stand", () => {
  // By hand, moments about the pivot: 331.3 g shown, 31.3 g at rest, arms 140 over 210 mm: 300 g · 2/3 = 200 g =
  // 1.96133 N.
  it("turns a reading into a thrust by the lever", () => {
    expect(armRatio(rig())).toBeCloseTo(2 / 3, 12);
    expect(thrustFrom(rig(), 0.3313)).toBeCloseTo(0.2 * 9.80665, 9);
    expect(thrustFrom(rig({ kind: "direct" }), 0.3313)).toBeCloseTo(0.3 * 9.80665, 9);
  });
  it("counts a scale that is relieved as thrust too", () => {
    expect(thrustFrom(rig({ kind: "direct", reads: "less", tare: 1.5 }), 1.1)).toBeCloseTo(0.4 * 9.80665, 9);
  });
  // By hand: 200 g hung on the thrust line should change the scale by 300 g; it changed by 288: all thrusts were 4 %
  // low, × 300/288.
  it("a check mass takes arms, pivot and scale together", () => {
    const checked = rig({ check: { mass: 0.2, reading: 0.3193 } });
    expect(checkFactor(checked).value).toBeCloseTo(300 / 288, 9);
    expect(thrustFrom(checked, 0.3193)).toBeCloseTo(0.2 * 9.80665, 9);
    expect(sharedThrustError(checked)).toBeLessThan(sharedThrustError(rig()));
    expect(Number.isNaN(checkFactor(rig({ check: { mass: 0.2, reading: 0.0313 } })).value)).toBe(true);
  });
  it("what a scale shows of a thrust, worked backwards, comes back as that thrust on any stand", () => {
    fc.assert(
      fc.property(
        fc.double({ min: 0, max: 80, noNaN: true }),
        fc.double({ min: 0.05, max: 1, noNaN: true }),
        fc.double({ min: 0.05, max: 1, noNaN: true }),
        fc.double({ min: -2, max: 5, noNaN: true }),
        fc.constantFrom("more" as const, "less" as const),
        fc.constantFrom("direct" as const, "lever" as const),
        (thrust, thrustArm, scaleArm, tare, reads, kind) => {
          const r = rig({ thrustArm, scaleArm, tare, reads, kind });
          expect(thrustFrom(r, shownFor(thrust, r))).toBeCloseTo(thrust, 8);
        },
      ),
    );
  });
  // ISO 2533: 15 °C and 1013.25 hPa give 1.2250 kg/m³; ideal gas by hand for -4 °C.
  it("knows the density of its air", () => {
    expect(densityAt(calm)).toBeCloseTo(1.225, 4);
    expect(densityAt({ temperature: -4, pressure: 101_826 })).toBeCloseTo(1.318, 3);
  });
});

describe("instruments", () => {
  const pair = (shown: number, known: number, knownSd = 0) => ({ shown, known, knownSd });
  const make = (pairs: ReturnType<typeof pair>[], by: "known values" | "charge returned" = "known values") =>
    correctionOf({ instrument: "x", quantity: "current", by, pairs });
  it("two masses give gain and zero, by hand: shown 0.05 at 0 and 2.15 at 2", () => {
    const r = make([pair(0.05, 0), pair(2.15, 2)]);
    if (!r.ok) throw new Error(r.message);
    expect(r.correction.gain).toBeCloseTo(2 / 2.1, 12);
    expect(r.correction.zero).toBeCloseTo(0.05, 12);
    expect(r.doubts).toContain("few");
  });
  it("many pairs give a line with its scatter, and a zero that is none is said", () => {
    const r = make([0, 5, 10, 15, 20].map((k, i) => pair(0.8 + 1.1 * k + (i % 2 ? 0.02 : -0.02), k)));
    if (!r.ok) throw new Error(r.message);
    expect(r.correction.gain).toBeCloseTo(1 / 1.1, 2);
    expect(r.correction.gainSd).toBeGreaterThan(0);
    expect(r.doubts).toContain("zero");
  });
  // By hand: 2.00 A·h counted, 2.60 put back, of which 98.5 % had been taken out: 2.561 / 2.00.
  it("the charge put back corrects a meter that counted too little", () => {
    const r = make([pair(2, 2.6, 0.02)], "charge returned");
    if (!r.ok) throw new Error(r.message);
    expect(r.correction.gain).toBeCloseTo((2.6 * 0.985) / 2, 9);
    expect(r.correction.gainSd / r.correction.gain).toBeGreaterThan(0.01);
  });
  it("refuses what no factor can mend", () => {
    expect(make([])).toMatchObject({ ok: false });
    expect(make([pair(0, 3)])).toMatchObject({ ok: false });
    expect(make([pair(1, 3), pair(2, 2)])).toMatchObject({ ok: false });
  });
  it("a sweep reads through the calibration that its stand names, and not through one of another quantity", () => {
    const calibration = {
      instrument: "clamp",
      quantity: "current" as const,
      by: "known values" as const,
      pairs: [pair(0, 0), pair(5, 10)],
    };
    const sessions = [{ number: 4, calibration }];
    const r = rig({
      current: { step: 0.1, error: 0.02, session: 4 },
      voltage: { step: 0.01, error: 0.01, session: 4 },
    });
    const corrections = correctionsFor(r, sessions);
    expect(corrections.current.gain).toBeCloseTo(2, 12);
    expect(corrections.voltage).toBe(PLAIN);
    const result = readSweep(
      {
        rig: r,
        air: calm,
        readings: [0, 0.5, 1].map((u) => reading(u, { scale: shownFor(9 * u, r), voltage: 11, current: 4 * u })),
      },
      corrections,
      null,
    );
    expect(result.levels.at(-1)?.current).toBeCloseTo(8, 9);
  });
});

describe("a sweep whose truth is known", () => {
  it("the exponent lies within its stated 95 % in at least 9 of 10 seeds, and the top within 1 %", () => {
    const seeds = Array.from({ length: 30 }, (_, i) => i + 1);
    for (const e of [0.3, 0.7, 0.95]) {
      const results = seeds.map((s) => read(syntheticSweep(s, { e })).curve);
      expect(results.filter((c) => Math.abs(c.e - e) <= c.range).length).toBeGreaterThanOrEqual(27);
      for (const c of results) {
        expect(c.status).toBe("converged");
        expect(Math.abs(c.tMax / 12 - 1)).toBeLessThan(0.01);
        expect(c.range).toBeLessThan(0.05);
      }
    }
  });
  it("a stand that sticks and a throttle that saturates are found where they were put", () => {
    const r = rig();
    const up = Array.from({ length: 21 }, (_, i) => i / 20);
    const curve = (u: number) => (u < 0.1 ? 0 : 10 * Math.min(1, (u - 0.1) / 0.75) ** 1.6);
    const readings = [
      ...up.map((u) => [u, -0.25] as const),
      ...up
        .slice(0, -1)
        .reverse()
        .map((u) => [u, 0.25] as const),
    ].map(([u, lag]) =>
      reading(u, {
        scale: shownFor(Math.max(0, curve(u) + (u > 0.12 ? lag : 0)), r),
        rpm: u < 0.1 ? 0 : 2000 + 8000 * u,
      }),
    );
    const result = read(readings);
    expect(result.deadBand).toMatchObject({ start: 0.1, stop: 0.1, by: "rpm" });
    // It begins somewhere between 5 and 10 %, told twice: a gap of 5 % over √12, over √2.
    expect(result.deadBand?.sd).toBeCloseTo(0.05 / Math.sqrt(24), 9);
    expect(result.saturation).toBeCloseTo(0.85, 9);
    expect(result.hysteresis?.value).toBeCloseTo(-0.5, 6);
    expect(result.suspects.map((s) => s.kind)).toContain("friction");
    // Without a speed the dead band is that of the thrust.
    expect(read(readings.map((x) => ({ ...x, rpm: null }))).deadBand?.by).toBe("thrust");
  });
  it("a tare that was entered wrongly is seen at rest, and the reading there is the tare", () => {
    const right = rig();
    const readings = syntheticSweep(5, { r: right });
    expect(read(readings).suspects.map((s) => s.kind)).not.toContain("off-tare");
    // 60 g on the scale, arms 140 over 210 mm: 40 g of thrust, 0.392 N.
    const wrong = read(readings, rig({ tare: right.tare - 0.06 }));
    const said = wrong.suspects.find((s) => s.kind === "off-tare");
    expect(said).toMatchObject({ by: expect.closeTo(0.392, 1) });
    const taken = read(readings, rig({ tare: said?.kind === "off-tare" ? said.reading : 0 }));
    expect(taken.top.value).toBeCloseTo(read(readings).top.value, 1);
    expect(taken.suspects.map((s) => s.kind)).not.toContain("off-tare");
    // Without a reading at rest nothing is known of it.
    expect(
      read(
        readings.filter((r) => r.throttle > 0),
        rig({ tare: right.tare - 0.06 }),
      ).suspects.map((s) => s.kind),
    ).not.toContain("off-tare");
  });
  it("a reading far off is named and left out; one that a person left out, or put back, is theirs to say", () => {
    const readings = syntheticSweep(3);
    const index = 40;
    const bad = readings.map((x, i) => (i === index ? { ...x, scale: (x.scale ?? 0) * 2.5 + 0.5 } : x));
    const result = read(bad);
    expect(result.points.filter((p) => p.expected !== null).map((p) => p.index)).toEqual([index]);
    expect(result.curve.e).toBeCloseTo(read(readings.filter((_, i) => i !== index)).curve.e, 9);
    const byHand = read(bad.map((x, i) => (i === index ? { ...x, out: "bumped" } : x)));
    expect(byHand.points[index]).toMatchObject({ out: "bumped", expected: null });
    expect(byHand.curve.e).toBeCloseTo(result.curve.e, 9);
  });
  it("one reading at each step: a spike between its neighbours is found, a knee is none", () => {
    const readings = syntheticSweep(5, { samples: 1, noise: 0.02 });
    expect(read(readings).points.filter((p) => p.expected !== null)).toEqual([]);
    const bad = readings.map((x, i) => (i === 12 ? { ...x, scale: (x.scale ?? 0) + 1 } : x));
    expect(
      read(bad)
        .points.filter((p) => p.expected !== null)
        .map((p) => p.index),
    ).toEqual([12]);
  });
  // By hand: 12 V at rest behind 20 mΩ; the charge drawn takes 1 mV each A·s.
  it("the pack's resistance comes out of the sag, apart from its emptying", () => {
    let charge = 0;
    const readings = syntheticSweep(7, { samples: 2 }).map((x, i) => {
      const current = 30 * x.throttle ** 2;
      charge += current * 0.5;
      return { ...x, t: i * 0.5, current, voltage: 12 - 0.02 * current - 1e-4 * charge };
    });
    expect(read(readings).resistance?.value).toBeCloseTo(0.02, 3);
  });
  // Momentum theory: 10 N from a disc of 0.25 m in standard air takes T^1.5/√(2ρA) = 91.2 W at least.
  it("a current meter that reads below what momentum theory asks is a suspect", () => {
    const ideal = 10 ** 1.5 / Math.sqrt(2 * 1.225 * Math.PI * 0.125 ** 2);
    expect(ideal).toBeCloseTo(91.2, 1);
    const at = (merit: number) =>
      read(
        [0, 0.25, 0.5, 0.75, 1].map((u) =>
          reading(u, {
            scale: shownFor(10 * u, rig()),
            voltage: 12,
            current: (10 * u) ** 1.5 / Math.sqrt(2 * 1.225 * Math.PI * 0.125 ** 2) / merit / 12,
          }),
        ),
        rig(),
        0.25,
      );
    expect(at(0.55).suspects.map((s) => s.kind)).not.toContain("meter-low");
    expect(at(0.55).half?.merit).toBeCloseTo(0.55, 1);
    expect(at(1.1).suspects.map((s) => s.kind)).toContain("meter-low");
  });
  it("says nothing rather than something of an empty or a single-throttle sweep", () => {
    expect(read([]).curve.status).toBe("tooFew");
    expect(read([reading(0.5, { scale: 1 })])).toMatchObject({ half: null, deadBand: null, resistance: null });
  });
});

describe("a file as users have it", () => {
  const text = readFileSync(new URL("../samples/thrust-sweep-tern.csv", import.meta.url), "utf8");
  const table = readSweepTable(text, guessSweep(text));
  const { hints } = table;
  const stand = rig({ thrustArm: hints.thrustArm ?? 0, scaleArm: hints.scaleArm ?? 0, tare: hints.tare ?? 0 });
  const result = readSweep(
    {
      rig: stand,
      air: { temperature: -4, pressure: (hints.density ?? 0) * 287.05287 * 269.15 },
      readings: table.readings,
    },
    plain,
    driveOf(hints.diameter),
  );
  const near = (got: number | null | undefined, want: number, tolerance: number) =>
    expect(Math.abs((got ?? Number.NaN) - want)).toBeLessThanOrEqual(tolerance);

  it("is understood: columns, stand, air, and what is refused by its line", () => {
    expect(table.reading.headerLine).toBe(4);
    expect(table.reading.columns.map((c) => c.role)).toEqual([
      "t",
      "throttle",
      "scale",
      "voltage",
      "current",
      "rpm",
      "temperature",
    ]);
    expect(table.readings).toHaveLength(966);
    expect(hints).toMatchObject({
      tare: 0.0313,
      thrustArm: 0.21,
      scaleArm: 0.14,
      density: 1.318,
      diameter: 0.254,
      temperature: -4,
    });
    expect(table.reports.map((r) => [r.line, r.severity])).toEqual([
      [486, "info"],
      [627, "error"],
    ]);
    expect(result.points.filter((p) => p.expected !== null).map((p) => table.readings[p.index]?.line)).toEqual([641]);
  });
  // The truth that the file was made from, with its tolerances.
  it("gives what it was made from", () => {
    near(armRatio(stand), 2 / 3, 1e-6);
    near(result.top.value, 23.772, 0.03 * 23.772);
    near(result.top.each[0], 24.384, 0.03 * 24.384);
    near(result.top.each[1], 23.149, 0.03 * 23.149);
    near((result.top.fade ?? 0) * 100, 5.06, 1);
    near(result.deadBand?.mean, 0.0875, 0.03);
    near(result.deadBand?.start, 0.1, 0.026);
    near(result.deadBand?.stop, 0.075, 0.026);
    near(result.saturation, 0.95, 0.026);
    near(result.curve.e, 0.8219, 0.06);
    near(result.curve.tMax, 26.343, 0.03 * 26.343);
    near(result.half?.power, 210.19, 0.05 * 210.19);
    near(result.half?.throttle, 0.6269, 0.02);
    near((((result.half?.thrust ?? 0) / 9.80665) * 1000) / (result.half?.power ?? 1), 5.766, 0.05 * 5.766);
    near(result.half?.merit, 0.5334, 0.07 * 0.5334);
    near(result.hysteresis?.value, -0.474, 0.3 * 0.474);
    near(result.highest.current, 40.402, 0.02 * 40.402);
    near(result.highest.rpm, 12407.7, 0.01 * 12407.7);
    expect(result.missing.rpm).toBe(110);
    near(result.temperature?.highest, 28.56, 1.5);
  });
  it("semicolons, decimal commas, pulses in µs and another order of columns survive", () => {
    const other =
      "Drehzahl;Gas (µs);Schub " +
      "[N];Spannung\n0;1000;0,00;12,10\n4000;1500;2,45;11,90\n-;2000;9,81;11,50\n9000;2500;9,9;11,4\n";
    const back = readSweepTable(other, guessSweep(other));
    expect(back.reading).toMatchObject({ delimiter: ";", decimal: "," });
    expect(back.readings.map((r) => [r.throttle, r.rpm, r.voltage])).toEqual([
      [0, 0, 12.1],
      [0.5, 4000, 11.9],
      [1, null, 11.5],
    ]);
    expect(back.readings[2]?.scale).toBeCloseTo(9.81 / 9.80665, 9);
    expect(back.reports).toMatchObject([
      {
        line: 5,
        severity: "error",
        code: "impossible",
        text: expect.stringContaining("a throttle between 0 and 100 %"),
      },
    ]);
  });
  it("a speed or a temperature that was not read leaves the rest of its row", () => {
    const signs = ["---", "n/a", "", "err", "???"];
    const text = `throttle %,thrust g,V,A,rpm,°C\n${signs.map((s, k) => `${20 * k},${50 * k},12,${k},${s},${s}`).join("\n")}`;
    const table = readSweepTable(text, guessSweep(text));
    expect(table.readings.map((r) => r.scale)).toEqual([0, 0.05, 0.1, 0.15, 0.2]);
    expect(table.readings.every((r) => r.rpm === null && r.temperature === null)).toBe(true);
    expect(table.reports.filter((r) => r.severity === "error")).toEqual([]);
    const wrong = "throttle %,thrust g,V,A,rpm\n20,50,12,1,lost\n40,many,12,2,4000";
    const { readings, reports } = readSweepTable(wrong, guessSweep(wrong));
    expect(readings.map((r) => [r.scale, r.rpm])).toEqual([[0.05, null]]);
    expect(reports.map((r) => [r.line, r.severity])).toEqual([
      [2, "warning"],
      [3, "error"],
    ]);
  });
  it("readings saved here come back as they went out", () => {
    const value = fc.option(fc.integer({ min: 0, max: 90_000 }).map((n) => n / 1000));
    const any = fc.record({
      t: value,
      throttle: fc.integer({ min: 0, max: 1000 }).map((n) => n / 1000),
      scale: value,
      voltage: value,
      current: value,
      rpm: value,
      temperature: value,
      noise: value,
      out: fc.constantFrom("", "gust", "clip slipped, twice"),
    });
    fc.assert(
      fc.property(fc.array(any, { minLength: 1, maxLength: 20 }), (readings) => {
        const text2 = sweepText(readings);
        const back = readSweepTable(text2, guessSweep(text2));
        expect(back.reports.filter((r) => r.severity === "error")).toEqual([]);
        const round = (list: readonly object[]) =>
          JSON.parse(
            JSON.stringify(list, (k, x: unknown) =>
              k === "line" ? undefined : typeof x === "number" ? Number(x.toPrecision(8)) : x,
            ),
          ) as unknown;
        expect(round(back.readings)).toEqual(round(readings));
      }),
      { numRuns: 60 },
    );
  });
  it("whatever the text, it is read or refused, never thrown at", () => {
    fc.assert(
      fc.property(fc.string({ unit: "grapheme", maxLength: 400 }), (t) => {
        const back = readSweepTable(t, guessSweep(t));
        for (const r of back.readings) expect(r.throttle).toBeGreaterThanOrEqual(0);
      }),
    );
  });
});

describe("two propulsors", () => {
  const sweep = (gain: number, watts: number, seed: number) =>
    read(
      syntheticSweep(seed, { noise: 0.03, top: 12 * gain }).map((x) => ({
        ...x,
        voltage: 10,
        current: (watts * x.throttle ** 3 * 300) / 10,
      })),
    );
  const [a, b] = [sweep(1, 1, 1), sweep(1.1, 1.2, 2)];
  it("are told apart at equal throttle, thrust and power, with the ± of both", () => {
    const throttle = compareAt([a, b], "throttle", 0.7);
    expect(throttle.against[1]?.value).toBeCloseTo(0.1, 1);
    expect(Math.abs(throttle.against[1]?.value ?? 0)).toBeGreaterThan(2 * (throttle.against[1]?.sd ?? 1));
    expect(compareAt([a, b], "power", 150).values[0]?.value).toBeGreaterThan(0);
    const thrust = compareAt([a, b], "thrust", commonPlace([a, b], "thrust") ?? 0);
    expect(thrust.values.every((v) => v !== null && v.sd > 0)).toBe(true);
  });
  it("against itself there is no difference, and nothing is said outside what was measured", () => {
    const same = compareAt([a, sweep(1, 1, 9)], "throttle", 0.5).against[1];
    expect(Math.abs(same?.value ?? 1)).toBeLessThan(2 * (same?.sd ?? 0));
    expect(compareAt([a, b], "thrust", 99).values).toEqual([null, null]);
    expect(commonPlace([a, read([])], "throttle")).toBeNull();
  });
});

describe("fast throttle", () => {
  const trial = (diameter: number, ramp: number, cutOut: boolean | null, voltage: number | null = null) => ({
    diameter,
    pitch: 0.1,
    ramp,
    cutOut,
    voltage,
  });
  it.each([
    [
      "a slower ramp cures it",
      [trial(0.2, 0, true), trial(0.2, 0.5, false), trial(0.2, 0.3, false)],
      { kind: "ramp", safe: 0.3, fails: 0 },
    ],
    [
      "a smaller propeller cures it",
      [trial(0.2, 0, true), trial(0.18, 0, false)],
      { kind: "size", holds: 0.18, fails: 0.2 },
    ],
    ["nothing cures it", [trial(0.2, 0, true), trial(0.18, 1, true)], { kind: "all" }],
    [
      "like trials end differently",
      [trial(0.2, 0.2, true), trial(0.2, 0.2, false)],
      { kind: "unresolved", why: "contradiction" },
    ],
    [
      "a faster ramp holds where a slower cut out",
      [trial(0.2, 0.5, true), trial(0.2, 0.1, false)],
      { kind: "unresolved", why: "contradiction" },
    ],
    ["nobody could tell", [trial(0.2, 0, null)], { kind: "unresolved", why: "not told" }],
    ["one trial", [trial(0.2, 0, true)], { kind: "unresolved", why: "one trial" }],
    ["it never cut out", [trial(0.2, 0, false), trial(0.22, 0, false)], { kind: "none" }],
  ])("%s", (_, trials, wanted) => {
    const findings = judgeFastThrottle({ trials }, null);
    expect(findings[0]).toMatchObject(wanted);
    expect(findings.map((f) => fastThrottleText(f, "metric")).join(" ").length).toBeGreaterThan(20);
  });
  it("a pack that sinks to its floor comes first", () => {
    expect(judgeFastThrottle({ trials: [trial(0.2, 0, true, 8.9), trial(0.2, 0.5, false, 10.2)] }, 9)[0]).toMatchObject(
      { kind: "voltage", lowest: 8.9 },
    );
  });
});

describe("a sweep from elsewhere", () => {
  const read = (text: string) => {
    const t = readSweepTable(text, guessSweep(text));
    return { roles: t.reading.columns.map((c) => `${c.role} ${c.unit}`.trim()).join(", "), rows: t.readings };
  };
  it.each([
    ["throttle,thrust (kgf),volts,amps\n50,0.4,15,6\n100,1.2,14,20", 1.2],
    ["throttle %,thrust [N],V,A\n50,4,15,6\n100,9.80665,14,20", 1],
    ["throttle,force (lbf),V,A\n50,1,15,6\n100,2,14,20", 0.90718474],
    ["Gashebel;Schub (g);Spannung (V);Strom (A);Drehzahl (U/min)\n50;400;15,1;6;5000\n100;1200;14,2;20;9000", 1.2],
    ["Acelerador;Empuje (g);Tensión (V);Corriente (A)\n50;400;15,1;6\n100;1200;14,2;20", 1.2],
    ["przepustnica;ciąg (g);napięcie (V);prąd (A)\n50;400;15,1;6\n100;1200;14,2;20", 1.2],
  ])("says its units, and is read in them: %j", (text, kg) => {
    expect(read(text).rows.at(-1)?.scale).toBeCloseTo(kg, 6);
    expect(read(text).rows.at(-1)).toMatchObject({ throttle: 1, current: 20 });
  });
  it("a unit of something else is not read as if it were of this: the column is left for a person to say", () => {
    // Millinewtons are no grams, and metres a second no turns a minute.
    expect(read("throttle,thrust (mN),V,A\n50,400,15,6").roles).toBe("throttle %, ignore, voltage V, current A");
    expect(read("throttle,scale (g),airspeed (m/s)\n50,400,15").roles).toBe("throttle %, scale g, ignore");
    expect(read("throttle,scale (g),airspeed (m/s),rpm\n50,400,15,6000").roles).toBe(
      "throttle %, scale g, ignore, rpm rpm",
    );
    expect(read("throttle %;thrust mN;V;A\n50;400;15;6").roles).toBe("throttle %, ignore, voltage V, current A");
    expect(read("throttle %;scale g;airspeed m/s\n50;400;15").roles).toBe("throttle %, scale g, ignore");
    // What stands in brackets and is no unit says nothing of it.
    expect(read("throttle (command),scale (on the lever)\n50,400").roles).toBe("throttle %, scale g");
  });
  it("a throttle without a unit is a share, a pulse or per cent by its numbers", () => {
    const last = (text: string) => read(text).rows.map((r) => Number(r.throttle.toFixed(3)));
    expect(last("throttle,scale g\n0,0\n0.5,400\n1,1200")).toEqual([0, 0.5, 1]);
    expect(last("throttle,scale g\n1000,0\n1500,400\n2000,1200")).toEqual([0, 0.5, 1]);
    expect(last("throttle,scale g\n0,0\n50,400\n100,1200")).toEqual([0, 0.5, 1]);
    expect(last("throttle (%),scale g\n0,0\n0.5,4\n1,12")).toEqual([0, 0.005, 0.01]);
  });
});
