import { describe, expect, it } from "vitest";
import type { Design, HeldUpBy } from "../../core/design/schema";
import { newPhase, plainState } from "../../core/design/schema";
import { inState } from "../../core/design/inState";
import { evaluate } from "../../core/evaluate";
import { operatingAt } from "../../core/subjects/propulsion/band";
import { waterOf } from "../../core/subjects/propulsion/setup";
import { waterDragAreaFrom } from "../../core/subjects/speed/dragArea";
import { changed } from "../support/designs";
import { measuredTo as known } from "../support/kinds";

/** A small boat, or what swims under water, with one screw and a drag area of 25 cm² (a hull of 1 dm², C_D 0.25). */
const swims = (way: HeldUpBy, change: (d: Design) => void = () => {}) =>
  changed((d) => {
    const [unit] = d.units;
    if (!unit) throw new Error("no drive");
    unit.surroundings = "in water";
    unit.propeller = { ...unit.propeller, diameter: known(0.04), pitch: known(0.045), chord: known(0.012), blades: 3 };
    d.states = [plainState("usual", "as it is used", [way])];
    d.brief.environment.water = "fresh";
    d.surfaces = [];
    d.dragArea = null;
    d.waterDragArea = { value: 0.0025, evidence: "measured", sd: 0.0001 };
    d.waterDragAt = 1.8;
    change(d);
  });
const speedOf = (d: Design) => evaluate(d).metrics.speed;
const doubts = (d: Design) => [...(speedOf(d)?.outside ?? []), ...(speedOf(d)?.incomplete ?? [])].join();

describe("how fast what swims goes", () => {
  it.each(["hull", "submerged"] as const)("is where its thrust meets the drag of the water: %s", (way) => {
    const design = swims(way);
    const v = speedOf(design)?.value ?? 0;
    expect(v).toBeGreaterThan(0.5);
    const thrust = operatingAt(design, 1, v, "main")?.thrust.value ?? Number.NaN;
    const { density } = waterOf(design.brief.environment);
    expect(thrust / ((density / 2) * v * v * 0.0025)).toBeCloseTo(1, 2);
  });
  it("is not known by its drag area in the air, and of what flies the one in water counts for nothing", () => {
    const dry = swims("hull", (d) => {
      d.waterDragArea = null;
      d.dragArea = known(0.02);
    });
    expect(evaluate(dry).outcomes.areaSpeed).toMatchObject({ status: "missing", needs: ["drag area in water"] });
    const flying = changed((d) => void (d.dragArea = known(0.01)));
    const both = changed((d) => {
      d.dragArea = known(0.01);
      d.waterDragArea = known(0.5);
    });
    expect(evaluate(both).metrics.speed?.value).toBe(evaluate(flying).metrics.speed?.value);
  });
  it("four times the area halves it about, as thrust falls with speed a little more than half of it is left", () => {
    const at = (area: number) => speedOf(swims("submerged", (d) => void (d.waterDragArea = known(area))))?.value ?? 0;
    expect(at(0.01) / at(0.0025)).toBeGreaterThan(0.5);
    expect(at(0.01) / at(0.0025)).toBeLessThan(0.75);
  });
  it("on the surface it is open away from the speed at which the drag was taken, or while that is not said", () => {
    const v = speedOf(swims("hull"))?.value ?? 1;
    expect(doubts(swims("hull", (d) => void (d.waterDragAt = v)))).toBe("");
    expect(doubts(swims("hull", (d) => void (d.waterDragAt = v * 1.2)))).toBe("");
    expect(doubts(swims("hull", (d) => void (d.waterDragAt = v / 2)))).toMatch(/other waves here/);
    expect(doubts(swims("hull", (d) => void (d.waterDragAt = null)))).toMatch(/is not said/);
    for (const at of [null, 0.1, 50]) expect(doubts(swims("submerged", (d) => void (d.waterDragAt = at)))).toBe("");
  });
  it("a target that it would meet is open, not met, away from there", () => {
    const asked = (at: number | null) =>
      evaluate(
        swims("hull", (d) => {
          d.waterDragAt = at;
          d.brief.targets = [{ id: "v", metric: "speed", comparison: "atLeast", value: 0.2, weight: "must" }];
        }),
      ).targets[0]?.status;
    expect(asked(speedOf(swims("hull"))?.value ?? null)).toBe("met");
    expect(asked(null)).toBe("open");
    expect(asked(0.3)).toBe("open");
  });
  it("stays not covered on what it drives on, on a cushion, and half on wings", () => {
    for (const ways of [["ground"], ["cushion"], ["hull", "wings"]] as HeldUpBy[][]) {
      const d = swims("hull", (x) => void (x.states = [plainState("usual", "usual", ways)]));
      if (ways[0] === "ground") for (const u of d.units) u.surroundings = "in air";
      expect(evaluate(d).outcomes.areaSpeed?.status, ways.join()).toBe("not covered");
    }
  });
  it("is not known once its drives turn", () => {
    const design = swims("submerged");
    const id = design.units[0]?.id ?? "";
    const [state] = design.states;
    if (state) state.units = [{ id, turned: 0.5, resting: false, works: null, on: null }];
    expect(evaluate(inState(design, state?.id)).metrics.speed).toBeUndefined();
  });
  it("against a current under water it is carried off at the difference, and a wind carries no hull off", () => {
    const under = swims("submerged", (d) => {
      d.brief.environment.current = 0.5;
      d.brief.environment.wind = 9;
    });
    const { metrics, findings } = evaluate(under);
    expect(metrics.madeGood?.value).toBeCloseTo((metrics.speed?.value ?? 0) - 0.5, 9);
    expect(findings.some((f) => f.code === "wind-beyond")).toBe(false);
    const carried = evaluate(swims("submerged", (d) => void (d.brief.environment.current = 6)));
    const told = carried.findings.find((f) => f.code === "wind-beyond");
    expect(told).toMatchObject({ severity: "stop", params: { flow: "current", wind: 6 } });
    expect(evaluate(swims("hull", (d) => void (d.brief.environment.wind = 9))).metrics.madeGood).toBeUndefined();
  });
});

describe("the drag area in water", () => {
  it("taken from the speed that it makes gives that speed again", () => {
    const design = swims("hull");
    const v = speedOf(design)?.value ?? 0;
    const back = waterDragAreaFrom(design, { throttle: 1 }, { value: v, sd: 0.05 });
    expect(back?.value).toBeCloseTo(0.0025, 5);
    expect(back?.evidence).toBe("calculated");
  });
  it("taken from a tow is 2F/(ρv²), by hand, and is measured", () => {
    // 5 N at 2 m/s in fresh water of 999 kg/m³: 10/(999·4) = 0.002503 m².
    const towed = waterDragAreaFrom(swims("hull"), { pull: 5 }, { value: 2, sd: 0.1 });
    expect(towed?.value).toBeCloseTo(0.002503, 5);
    expect(towed?.evidence).toBe("measured");
    // Twice the 5 % of the speed, and the 5 % of the scale.
    expect((towed?.sd ?? 0) / (towed?.value ?? 1)).toBeCloseTo(Math.hypot(0.1, 0.05), 6);
    expect(waterDragAreaFrom(swims("hull"), { pull: 0 }, { value: 2, sd: 0.1 })).toBeNull();
    expect(waterDragAreaFrom(swims("hull"), { pull: 5 }, { value: 0, sd: 0 })).toBeNull();
  });
});

describe("how long what swims lasts at a speed", () => {
  const going = (speed: number, change: (d: Design) => void = () => {}, way: HeldUpBy = "submerged") =>
    evaluate(
      swims(way, (d) => {
        d.duty = [newPhase({ id: "p", name: "go", seconds: 60, repeats: 1, by: "speed", value: speed, unitIds: [] })];
        change(d);
      }),
    );
  it("follows from its drag there: twice as fast takes more than six times the power", () => {
    // Drag × speed goes with the cube, and a motor that idles less loses less for it: between the square and the cube.
    const bare = (d: Design) => {
      for (const b of d.batteries) b.otherLoad = 0;
      for (const u of d.units) u.motor.noLoadCurrent = known(0.05);
    };
    const at = (v: number) => going(v, bare).metrics.meanPower?.value ?? Number.NaN;
    expect(at(3) / at(1.5)).toBeGreaterThan(6);
    expect(at(3) / at(1.5)).toBeLessThan(10);
    const drag = (999 / 2) * 3 ** 2 * 0.0025;
    expect(at(3)).toBeGreaterThan(drag * 3);
  });
  it("waits for the drag area, and is open on the surface far from where that was taken", () => {
    expect(going(1, (d) => void (d.waterDragArea = null)).outcomes.energy).toMatchObject({
      status: "missing",
      needs: ["drag area in water"],
    });
    const near = going(1.8, () => {}, "hull").metrics.endurance;
    expect(near?.incomplete ?? []).toEqual([]);
    expect((going(0.9, () => {}, "hull").metrics.endurance?.incomplete ?? []).join()).toMatch(/“go”: .*other waves/);
  });
});

describe("a screw at the hull that it pushes", () => {
  const at = (stands: "clear of it" | "close behind it" | "in a tunnel" | null) =>
    swims("hull", (d) => {
      const [unit] = d.units;
      if (unit && stands) unit.around = [{ kind: "hull", stands }];
    });
  it("does not lose its speed for that it is said how it stands", () => {
    for (const stands of ["clear of it", "close behind it", "in a tunnel"] as const) {
      const e = evaluate(at(stands));
      expect(e.metrics.speed?.value ?? 0, stands).toBeGreaterThan(0.5);
      const share = (q: typeof e.metrics.speed) => (q?.sd ?? 0) / (q?.value ?? 1);
      expect(share(e.metrics.speed)).toBeGreaterThan(share(speedOf(at(null))));
    }
  });
  it("as it goes its net push is near that of the free screw: what slow water gives the hull takes back", () => {
    // Hull efficiency (1 − t)/(1 − w) of small craft lies between 0.9 and 1.15 (from memory).
    const thrust = (d: Design, v: number) => operatingAt(d, 1, v, "main")?.thrust.value ?? Number.NaN;
    for (const stands of ["clear of it", "close behind it", "in a tunnel"] as const)
      for (const v of [1, 1.8]) {
        const ratio = thrust(at(stands), v) / thrust(at(null), v);
        expect(ratio, `${stands} ${v}`).toBeGreaterThan(0.8);
        expect(ratio, `${stands} ${v}`).toBeLessThan(1.15);
      }
  });
});
