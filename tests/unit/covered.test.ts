import { blankAround } from "../../core/subjects/propulsion/around/declares";
import type { HeldUpBy } from "../../core/design/schema";
import { usualState } from "../../core/design/schema";
import { describe, expect, it } from "vitest";
import { evaluateFile } from "../../cli/evaluateFile";
import { type Design, HELD_UP_BY, newPhase } from "../../core/design/schema";
import { predictLevels } from "../../core/bench/predict";
import { sizingLoop } from "../../core/sizing/loop";
import { UNSCALED, whatIf } from "../../core/sizing/whatIf";
import { discharge as dischargeBand } from "../../core/subjects/energy/dischargeBand";
import { curveOf, operatingAt } from "../../core/subjects/propulsion/band";
import { nominalSetup } from "../../core/subjects/propulsion/nominal";
import { dragAreaFrom } from "../../core/subjects/speed/dragArea";
import { evaluate, remediesFor } from "../../core/evaluate";
import { stationState } from "../../web/app/stationState";
import { changed, part, quietDesign } from "../support/designs";
import { craft, version } from "../support/records";

const POWER = [
  "thrust",
  "current",
  "packCurrent",
  "packVoltage",
  "packPower",
  "rpm",
  "torque",
  "motorLoss",
  "tipMach",
  "thrustToWeight",
  "thrustThrottle",
  "endurance",
  "speed",
] as const;
const first = (d: Design) => {
  const u = d.units[0];
  if (!u) throw new Error("no drive");
  return u;
};

describe("a drive that the method does not hold for", () => {
  const cases: [string, (d: Design) => void][] = [
    ["that is a drum", (d) => void (first(d).surroundings = "not a propeller")],
    [
      "in water, of a craft that goes on the ground",
      (d) =>
        void Object.assign(d, {
          states: [usualState("ground")],
          units: d.units.map((u) => ({ ...u, surroundings: "in water" })),
        }),
    ],
    ["in a box", (d) => void (first(d).around = [blankAround("openings")])],
    ["that overlap, six of them", (d) => void Object.assign(first(d), { around: [blankAround("overlap")], count: 6 })],
    [
      "of a submerged craft, where nothing was said",
      (d) =>
        void Object.assign(d, {
          states: [usualState("submerged")],
          units: d.units.map((u) => ({ ...u, surroundings: null })),
        }),
    ],
    [
      "of a cushion craft, where nothing was said",
      (d) =>
        void Object.assign(d, {
          states: [usualState("cushion")],
          units: d.units.map((u) => ({ ...u, surroundings: null })),
        }),
    ],
    [
      "that flaps",
      (d) =>
        void Object.assign(d, {
          states: [usualState("flapping")],
          units: d.units.map((u) => ({ ...u, direction: "up" })),
        }),
    ],
  ];
  it.each(cases)("%s: no figure, no clear line, no larger propeller, its targets open", (_, change) => {
    const design = changed((d) => {
      d.dragArea = { value: 0.02, evidence: "guess" };
      d.brief.targets.push({ id: "v", metric: "speed", comparison: "atLeast", value: 5, weight: "wish" });
      change(d);
    });
    const e = evaluate(design);
    for (const key of POWER) expect(e.metrics[key], key).toBeUndefined();
    expect(e.findings.filter((f) => f.page === "power" && f.severity === "clear")).toEqual([]);
    const finding = e.findings.find((f) => f.code === "drive-not-covered");
    expect(finding).toBeDefined();
    for (const f of e.findings)
      for (const r of remediesFor(design, e, f))
        expect(
          r.patch?.set.some(
            (s) => s.path.some((p) => ["diameter", "pitch", "throttleLimit"].includes(p)) && s.path[0] === "units",
          ) ?? false,
          r.text,
        ).toBe(false);
    for (const t of e.targets.filter((x) => ["thrustToWeight", "endurance", "speed"].includes(x.target.metric))) {
      expect(t.status).toBe("open");
      expect(t.because).toMatch(/is not said|or weigh what (it pushes|they lift)/);
    }
  });
  it.each(cases)("%s: nothing is sized, drawn or held against by the model either", (_, change) => {
    const design = changed(change);
    expect(nominalSetup(design, 0.92)).toBeNull();
    expect(operatingAt(design, 1)).toBeNull();
    expect(curveOf(design, "throttle")).toEqual([]);
    expect(dischargeBand(design, null)).toBeNull();
    expect(whatIf(design, UNSCALED)).toBeNull();
    expect(sizingLoop(design, 600, 0)?.status ?? "none").not.toBe("closes");
    expect(dragAreaFrom(design, 1.225, 1, { value: 8, sd: 0.2 })).toBeNull();
  });
  it("on the stand: no prediction of a propeller in free air stands beside its readings", () => {
    const unit = first(changed((d) => void (first(d).surroundings = "in water")));
    expect(predictLevels(unit, [{ throttle: 1, voltage: 11 }], 1.2, 11)).toEqual([]);
    expect(predictLevels({ ...unit, surroundings: "in air" }, [{ throttle: 1, voltage: 11 }], 1.2, 11).length).toBe(1);
  });
  it("in the craft's own words on the command line", () => {
    const design = changed((d) => void (first(d).around = [blankAround("openings")]));
    const file = craft([version("v1", null, { design })]);
    const out = evaluateFile(JSON.stringify(file), undefined);
    if (!out.ok) throw new Error(out.why);
    const { without } = out.output as { without: Record<string, { status: string; because: string }> };
    expect(without.propulsion).toEqual({
      status: "not covered",
      because:
        "drive works in a box or duct: enter the openings that its flow passes, choose ducted fan if it " +
        "is one, or weigh what it pushes as it is built in",
    });
    expect(without.energy?.status).toBe("not covered");
    expect(without.speed?.status).toBe("not covered");
  });
  it("is asked once: an answer takes the question away", () => {
    const design = changed((d) => void (first(d).surroundings = null));
    const e = evaluate(design);
    expect(e.metrics.thrust).toBeDefined();
    expect(e.targets.find((t) => t.target.metric === "thrustToWeight")).toMatchObject({
      status: "open",
      because: "where drive works is not said: free air is assumed",
    });
    expect(e.findings.map((f) => f.code)).not.toContain("currents-hold");
    const finding = e.findings.find((f) => f.code === "surroundings-unsaid");
    if (!finding) throw new Error("not asked");
    expect(remediesFor(design, e, finding).map((r) => r.text)).toEqual([
      "It works in free air",
      "It works under water",
      "It sits in a box or duct",
      "It overlaps another",
      "It shares its axis with another",
      "It is no propeller",
    ]);
  });
  it("drag in water is no drag in the air: no top speed of a hull, and a duty at a speed waits", () => {
    for (const heldUpBy of ["hull", "submerged", "ground", "cushion"] as const) {
      const design = changed((d) => {
        d.states = [usualState(heldUpBy)];
        d.dragArea = { value: 0.02, evidence: "guess" };
        d.duty = [newPhase({ id: "p", name: "along", seconds: 60, repeats: 1, by: "speed", value: 3, unitIds: [] })];
      });
      const e = evaluate(design);
      expect(e.metrics.thrust, heldUpBy).toBeDefined();
      expect(e.metrics.speed).toBeUndefined();
      expect(e.metrics.endurance).toBeUndefined();
      // What swims can tell its drag there; on ground and cushion nothing can.
      const wanting = ["hull", "submerged"].includes(heldUpBy) ? "missing" : "not covered";
      expect(e.outcomes.speed?.status).toBe(wanting);
      expect(e.outcomes.energy?.status).toBe(wanting);
    }
  });
});

describe("what is not there yet", () => {
  it("a sum without its wing is open, with what is left for it; nothing else that rests on the mass is met", () => {
    const design = changed((d) => void d.items.push(part({ id: "w", name: "Wing", mass: null })));
    const e = evaluate(design);
    for (const metric of ["auw", "thrustToWeight", "cgX"] as const)
      expect(e.targets.find((t) => t.target.metric === metric)).toMatchObject({ status: "open", odds: null });
    expect(e.targets.find((t) => t.target.metric === "auw")?.because).toBe("Wing without a mass");
    expect(e.findings.find((f) => f.code === "left-over")?.params).toMatchObject({ open: 1, first: "Wing" });
    expect(e.findings.map((f) => f.code)).not.toContain("cg-inside");
  });
  it("a craft of nothing but its parts on hand meets no limit of mass", () => {
    const hand = part({ id: "on-hand", name: "Parts on hand" });
    const only = evaluate(changed((d) => void (d.items = [hand])));
    expect(only.targets.find((t) => t.target.metric === "auw")).toMatchObject({
      status: "open",
      because: expect.stringMatching(/still to come/),
    });
    expect(only.findings.map((f) => f.code)).not.toContain("cg-inside");
    expect(
      evaluate(changed((d) => void d.items.push(hand))).targets.find((t) => t.target.metric === "auw")?.status,
    ).toBe("met");
  });
  it("a sum that is over without its wing is missed all the same", () => {
    const design = changed((d) => {
      d.items.push(part({ id: "w", name: "Wing", mass: null }));
      const auw = d.brief.targets.find((t) => t.metric === "auw");
      if (auw) auw.value = 0.8;
    });
    expect(evaluate(design).targets.find((t) => t.target.metric === "auw")?.status).toBe("missed");
  });
  it("the line of the page does not say that all are met while one is open", () => {
    const design = changed(
      (d) => void d.brief.targets.push({ id: "x", metric: "speed", comparison: "atLeast", value: 5, weight: "must" }),
    );
    const file = craft([version("v1", null, { design })]);
    const v = file.versions[0];
    if (!v) throw new Error("no version");
    expect(stationState("brief", evaluate(design), file, v, "metric").text).toMatch(/^5 of 7 met, 2 open$/);
  });
  it("how it is carried stays open for all but rotors, and is said once", () => {
    for (const heldUpBy of HELD_UP_BY) {
      const said = evaluate(changed((d) => void (d.states = [usualState(heldUpBy)]))).findings.filter(
        (f) => f.code === "support-open",
      );
      expect(said.length, heldUpBy).toBe(heldUpBy === "rotors" ? 0 : 1);
    }
  });
  it("ballast of what must sink or float still is not scolded", () => {
    const heavy = (heldUpBy: HeldUpBy) =>
      changed(
        (d) =>
          void Object.assign(d, {
            states: [usualState(heldUpBy)],
            items: d.items.map((i) => (i.id === "tail" ? { ...i, role: "ballast" as const } : i)),
          }),
      );
    expect(evaluate(heavy("wings")).findings.map((f) => f.code)).toContain("ballast-share");
    for (const kind of ["submerged", "gas"] as const)
      expect(evaluate(heavy(kind)).findings.map((f) => f.code)).not.toContain("ballast-share");
  });
});

describe("outside of the method", () => {
  const steep = (d: Design) => {
    // Pitch over diameter of 1.4: the method ends at 1.2.
    first(d).propeller.pitch.value = 1.4 * first(d).propeller.diameter.value;
    for (const t of d.brief.targets) if (t.metric === "thrustToWeight" || t.metric === "endurance") t.value = 0.01;
    d.dragArea = { value: 0.02, evidence: "guess" };
    d.brief.targets.push({ id: "v", metric: "speed", comparison: "atLeast", value: 0.1, weight: "must" });
  };
  it(
    "a target that a number would meet is open, also where the number only rests on the drives; nothing " + "is clear",
    () => {
      const e = evaluate(changed(steep));
      for (const metric of ["thrustToWeight", "endurance", "speed"] as const) {
        expect(e.metrics[metric]?.outside?.[0], metric).toMatch(/pitch\/diameter 1\.40/);
        expect(
          e.targets.find((t) => t.target.metric === metric),
          metric,
        ).toMatchObject({ status: "open", because: expect.stringMatching(/outside its method/) });
      }
      expect(e.findings.map((f) => f.code)).not.toContain("currents-hold");
    },
  );
  it("any drive counts, not only the one that leads, and says its name", () => {
    const e = evaluate(
      changed((d) => {
        const copy = structuredClone(first(d));
        d.units.push({
          ...copy,
          id: "e",
          name: "Second",
          direction: "up",
          propeller: { ...copy.propeller, pitch: { value: 1.4 * copy.propeller.diameter.value, evidence: "measured" } },
        });
      }),
    );
    expect(e.metrics.thrust?.outside?.some((o) => o.startsWith("Second: pitch/diameter"))).toBe(true);
    expect(e.targets.find((t) => t.target.metric === "thrustToWeight")?.status).not.toBe("met");
  });
});

describe("limits", () => {
  it("within rounding of a limit is on it, not 0 g over", () => {
    const at = (value: number) =>
      evaluate(changed((d) => void Object.assign(d.brief.targets[0] ?? {}, { value }))).targets.find(
        (t) => t.target.metric === "auw",
      );
    const auw = evaluate(quietDesign()).metrics.auw?.value ?? 0;
    expect(at(auw * 0.9997)).toMatchObject({ status: "met", margin: 0 });
    expect(at(auw * 0.999)?.status).toBe("missed");
  });
  it(
    "the CG stops only when it is outside by 90 in 100; between, it is measured first; a guessed window " +
      "stops nothing",
    () => {
      const codes = (x: number, sd: number, evidence?: "guess") =>
        evaluate(
          changed((d) => {
            const pack = d.items.find((i) => i.id === "pack");
            const tail = d.items.find((i) => i.id === "tail");
            if (pack) pack.place.x = x;
            if (tail) tail.placeSd = sd;
            const window = d.brief.targets.find((t) => t.metric === "cgX");
            if (window && evidence) window.evidence = evidence;
          }),
        ).findings.filter((f) => f.code.startsWith("cg-"));
      expect(codes(0.36, 0.001)).toMatchObject([{ code: "cg-outside", severity: "stop" }]);
      expect(codes(0.36, 0.001, "guess")).toMatchObject([{ code: "cg-outside", severity: "care" }]);
      // Outside by a little, with more doubt than that.
      expect(codes(0.33, 0.1)).toMatchObject([{ code: "cg-doubtful", severity: "care" }]);
    },
  );
  it("a must that is missed within its doubt wants care; only one that is missed for sure stops", () => {
    const severity = (share: number) => {
      const lasts = evaluate(quietDesign()).metrics.endurance?.value ?? 0;
      const design = changed((d) => {
        const t = d.brief.targets.find((x) => x.metric === "endurance");
        if (t) t.value = lasts * share;
      });
      return evaluate(design).findings.find((f) => f.code === "endurance-short")?.severity;
    };
    expect(severity(1.02)).toBe("care");
    expect(severity(2)).toBe("stop");
    expect(severity(0.9)).toBeUndefined();
  });
  it.each([
    ["thrust-short", "thrustToWeight", 1.01, 1.6],
    ["mass-over", "auw", 0.998, 0.8],
  ] as const)("so does %s", (code, metric, little, much) => {
    const severity = (share: number) => {
      const design = changed((d) => {
        // Known to a gram and a half.
        for (const i of d.items) if (i.mass) i.mass = { ...i.mass, sd: 0.0015 };
      });
      const now = evaluate(design).metrics[metric]?.value ?? 0;
      const t = design.brief.targets.find((x) => x.metric === metric);
      if (!t) throw new Error(metric);
      t.value = now * share;
      return evaluate(design).findings.find((f) => f.code === code)?.severity;
    };
    expect(severity(little)).toBe("care");
    expect(severity(much)).toBe("stop");
  });
  it("a propeller that is stalled at rest is not made so fine that it no longer pushes at the speed asked", () => {
    const stalled = (speed: number | null) => {
      const design = changed((d) => {
        if (d.units[0]) d.units[0].propeller.pitch.value = 0.2;
        if (speed !== null)
          d.brief.targets.push({ id: "v", metric: "speed", comparison: "atLeast", value: speed, weight: "must" });
      });
      const e = evaluate(design);
      const f = e.findings.find((x) => x.code === "blade-stall");
      if (!f) throw new Error("silent");
      const [r] = remediesFor(design, e, f);
      return {
        text: r?.text ?? "",
        pitch: (r?.patch?.set.find((s) => s.path.includes("pitch"))?.value as number | undefined) ?? null,
      };
    };
    expect(stalled(null).pitch).toBeCloseTo(0.55 * 0.2, 6);
    const slow = stalled(20).pitch ?? 0;
    expect(slow).toBeGreaterThan(0.55 * 0.2);
    expect(slow).toBeLessThan(0.2);
    expect(stalled(40)).toMatchObject({ pitch: null, text: expect.stringMatching(/^Leave it/) });
  });
  it("what cannot lift says how much of the weight it pushes, and how much is missing", () => {
    const design = changed((d) => {
      d.states = [usualState("rotors")];
      for (const i of d.items) if (i.mass) i.mass.value *= 2;
    });
    const e = evaluate(design);
    const ratio = e.metrics.thrustToWeight?.value ?? 0;
    const finding = e.findings.find((f) => f.code === "cannot-lift");
    expect(finding?.params).toMatchObject({ share: ratio });
    const { missing } = (finding?.params ?? { missing: Number.NaN }) as { missing: number };
    expect(missing).toBeCloseTo((1 - ratio) * (e.metrics.auw?.value ?? 0), 9);
    expect(finding && remediesFor(design, e, finding).length).toBeGreaterThanOrEqual(0);
  });
  it("no failure is hidden in a craft that hangs on its propellers", () => {
    const quad = changed((d) => {
      d.states = [usualState("rotors")];
      first(d).count = 4;
      first(d).spin = "half each";
    });
    expect(evaluate(quad).findings.map((f) => f.code)).not.toContain("masked-failure");
  });
});
