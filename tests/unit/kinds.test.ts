import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { type Design, usualState } from "../../core/design/schema";
import { evaluate } from "../../core/evaluate";
import { air } from "../../core/subjects/air/air";
import { water } from "../../core/subjects/water/water";
import { bladePull, cycloidLoad } from "../../core/subjects/propulsion/kinds/cycloid";
import { PROPULSOR_KINDS, kindInputs, kindOf } from "../../core/subjects/propulsion/kinds/models";
import { type Propulsor, propulsorSchema } from "../../core/subjects/propulsion/kinds/declares";
import { drumLoad, raisingTorque } from "../../core/subjects/propulsion/kinds/drum";
import { type Duct, ductLoad, leastPower, ringOf } from "../../core/subjects/propulsion/kinds/duct";
import { BEAT, PEAK, flapperLoad, sweptBy } from "../../core/subjects/propulsion/kinds/flapper";
import { wheelLoad } from "../../core/subjects/propulsion/kinds/wheel";
import { computable, nominalSetup, solveAll } from "../../core/subjects/propulsion/nominal";
import { curveOf } from "../../core/subjects/propulsion/band";
import { propulsorText } from "../../core/wording/propulsor";
import { learnFrom } from "../../core/bench/learn";
import { predictLevels } from "../../core/bench/predict";
import { fitPart } from "../../core/catalogue/partShelf";
import { sizingLoop } from "../../core/sizing/loop";
import { changed } from "../support/designs";
import { EVERY_KIND, kindAs, measuredTo } from "../support/kinds";

const AIR = air(0, 15);
const WET = water(15, "fresh");
const power = (torque: number, rpm: number) => (torque * rpm * 2 * Math.PI) / 60;
const fan = (change: Partial<Duct> = {}): Duct => {
  const d = { diameter: 0.07, hub: 0.03, blades: 10, pitch: 0.075, chord: 0.016, exit: 0, loss: 0, ...change };
  return { ...d, exit: change.exit ?? ringOf(d) };
};

describe("a ducted fan", () => {
  it("pushes twice the exit over the ring what its blades do, standing and without loss", () => {
    for (const wide of [0.7, 1, 1.2]) {
      const d = fan({ exit: wide * ringOf(fan()) });
      const l = ductLoad(d, AIR, 0, 20000);
      expect(l.thrust / l.fan).toBeCloseTo(2 * wide, 6);
    }
  });
  it("without contraction least power is 2^(−1/2) of the open disc's, thrust at equal power 2^(1/3) (Leishman)", () => {
    const [ducted, open] = [leastPower(1, 0.01, 1.2), leastPower(1, 0.005, 1.2)];
    expect(open).toBeCloseTo(1 / Math.sqrt(2 * 1.2 * 0.01), 12);
    expect(ducted / open).toBeCloseTo(Math.SQRT1_2, 12);
    expect((open / ducted) ** (2 / 3)).toBeCloseTo(2 ** (1 / 3), 12);
  });
  it("never beats the momentum of its own exit, whatever its shape", () => {
    fc.assert(
      fc.property(
        fc.double({ min: 0.03, max: 0.3, noNaN: true }),
        fc.double({ min: 0.2, max: 0.6, noNaN: true }),
        fc.integer({ min: 2, max: 16 }),
        fc.double({ min: 0.4, max: 1.5, noNaN: true }),
        fc.double({ min: 0.6, max: 1.3, noNaN: true }),
        fc.double({ min: 0, max: 1, noNaN: true }),
        (diameter, hub, blades, ratio, wide, loss) => {
          const d = fan({
            diameter,
            hub: hub * diameter,
            blades,
            pitch: ratio * diameter,
            chord: 0.2 * diameter,
            loss,
          });
          const duct = { ...d, exit: wide * ringOf(d) };
          const rpm = (120 * 60) / (Math.PI * diameter);
          const l = ductLoad(duct, AIR, 0, rpm);
          expect(l.solved).toBe(true);
          expect(power(l.torque, rpm)).toBeGreaterThan(leastPower(l.thrust, duct.exit, AIR.density));
        },
      ),
      { numRuns: 60 },
    );
  });
  it("loses thrust as it goes faster, without a jump at standing still, and by a sharp lip", () => {
    const at = (v: number, loss = 0.08) => ductLoad(fan({ loss }), AIR, v, 30000).thrust;
    expect(Math.abs(at(0.01) / at(0) - 1)).toBeLessThan(0.001);
    const list = [0, 5, 10, 20, 30, 40].map((v) => at(v));
    expect(list).toEqual([...list].sort((a, b) => b - a));
    expect(at(0, 0.75)).toBeLessThan(0.9 * at(0));
  });
  it("of 70 mm pushes what such fans of models do at that power: 2.75 g/W at 280 W within a quarter", () => {
    // Common practice: a 70 mm fan of 12 blades about 18 N at 1 kW, thrust per power falling as its cube root (from
    // memory).
    const d = { ...fan({ blades: 12, loss: 0.1 }) };
    const l = ductLoad(d, AIR, 0, 35000);
    const electrical = power(l.torque, 35000) / 0.76;
    const usual = 18 * (electrical / 1000) ** (2 / 3);
    expect(Math.abs(l.thrust / usual - 1)).toBeLessThan(0.25);
  });
});

describe("a wheel", () => {
  const w = { radius: 0.05, load: 1, grip: 0.8, rolling: 0.03, ground: "firm" as const };
  it("pays for all that it does: torque × speed is push × way, slip and rolling", () => {
    for (const v of [0, 0.5, 2, 2.5])
      for (const rpm of [100, 500, 900]) {
        const l = wheelLoad(w, v, rpm);
        const rim = ((rpm * 2 * Math.PI) / 60) * w.radius;
        const paid = l.thrust * v + l.thrust * (rim - v) + w.rolling * w.load * 9.80665 * rim;
        expect(power(l.torque, rpm) / paid).toBeCloseTo(1, 6);
      }
  });
  it("never pushes more than its grip, brakes when it is overrun, and 63 % of the grip is there at 4 % of slip", () => {
    const most = w.grip * w.load * 9.80665;
    expect(wheelLoad(w, 0, 2000).thrust).toBeLessThanOrEqual(most);
    expect(wheelLoad(w, 3, 200).thrust).toBeLessThan(0);
    const rpm = (10 / w.radius) * (60 / (2 * Math.PI));
    expect(wheelLoad(w, 10 * 0.96, rpm).thrust / most).toBeCloseTo(1 - Math.exp(-1), 3);
    expect(wheelLoad({ ...w, ground: "soft" }, 10 * 0.96, rpm).thrust / most).toBeLessThan(0.2);
  });
});

describe("a screw drum", () => {
  const drum = { length: 0.4, diameter: 0.09, lead: 0.12, blade: 0.015, starts: 1, under: 0.5, load: 2 };
  it("turns against a force as a power screw does (Shigley, example of a double 32 mm thread: 15.94 N·m)", () => {
    expect(raisingTorque(6400, 0.03, 0.008, 0.08)).toBeCloseTo(15.94, 2);
  });
  it(
    "in water never beats the momentum of the ring that its helix sweeps, and pushes nothing at its own " + "advance",
    () => {
      const ring = Math.PI * ((0.045 + 0.015) ** 2 - 0.045 ** 2) * 0.5;
      for (const rpm of [60, 300, 900]) {
        const l = drumLoad({ ...drum, on: "water" }, WET, 0, rpm);
        expect(l.thrust).toBeGreaterThan(0);
        expect(power(l.torque, rpm)).toBeGreaterThan(l.thrust ** 1.5 / Math.sqrt(2 * WET.density * ring));
        const l2 = drumLoad({ ...drum, on: "water" }, WET, (rpm / 60) * 0.12, rpm);
        expect(Math.abs(l2.thrust)).toBeLessThan(1e-9);
      }
    },
  );
  it("in mud and snow pulls no more than such craft were measured to, and pays for it", () => {
    for (const on of ["mud", "snow"] as const)
      for (const v of [0, 0.1, 0.3]) {
        const l = drumLoad({ ...drum, on }, WET, v, 300);
        expect(l.thrust).toBeLessThanOrEqual(0.75 * 2 * 9.80665);
        expect(power(l.torque, 300)).toBeGreaterThan(l.thrust * v);
      }
    expect(drumLoad({ ...drum, on: "mud" }, WET, 1, 300).thrust).toBeLessThan(0);
  });
});

describe("flapping wings", () => {
  const wing = { span: 0.3, area: 0.02, stroke: 1.6 };
  it("push what their strips add up to over a beat, summed strip by strip and moment by moment", () => {
    const f = 12;
    let [force, work] = [0, 0];
    const [strips, moments] = [400, 400];
    const chord = wing.area / wing.span;
    for (let k = 0; k < moments; k++) {
      const rate = Math.PI * f * wing.stroke * Math.cos((2 * Math.PI * (k + 0.5)) / moments);
      for (let i = 0; i < strips; i++) {
        const y = ((i + 0.5) * wing.span) / 2 / strips;
        const q = 0.5 * 1.2 * (rate * y) ** 2 * chord * (wing.span / 2 / strips) * 2;
        force += (q * BEAT.force) / moments;
        work += (q * BEAT.drag * Math.abs(rate * y)) / moments;
      }
    }
    const l = flapperLoad(wing, 1.2, 60 * f);
    expect(l.thrust / force).toBeCloseTo(1, 4);
    expect((l.torque * 2 * Math.PI * f) / work).toBeCloseTo(1, 4);
    expect(PEAK).toBeCloseTo(1 / (4 / (3 * Math.PI)), 12);
  });
  it("carry a hovering hummingbird of 3.2 g within its band (41 beats a second, 116°, from memory)", () => {
    const l = flapperLoad({ span: 0.1, area: 1.2e-3, stroke: 2.02 }, 1.225, 41 * 60);
    expect(Math.abs(l.thrust / (0.0032 * 9.81) - 1)).toBeLessThan(0.25);
    // 25 to 35 W/kg of aerodynamic power.
    expect(power(l.torque, 41 * 60) / 0.0032).toBeGreaterThan(20);
    expect(power(l.torque, 41 * 60) / 0.0032).toBeLessThan(60);
  });
  it("never beat the momentum of what they sweep", () => {
    fc.assert(
      fc.property(
        fc.double({ min: 0.1, max: 2, noNaN: true }),
        fc.double({ min: 2, max: 12, noNaN: true }),
        fc.double({ min: 0.4, max: 3, noNaN: true }),
        (span, aspect, stroke) => {
          const w = { span, area: span ** 2 / aspect, stroke };
          const l = flapperLoad(w, 1.2, 600);
          expect(power(l.torque, 600)).toBeGreaterThan(l.thrust ** 1.5 / Math.sqrt(2 * 1.2 * sweptBy(w)));
        },
      ),
    );
  });
});

describe("a cycloidal rotor", () => {
  const rotor = { blades: 4, radius: 0.1, span: 0.2, chord: 0.04, amplitude: 0.6 };
  it("without drag gives all of its power to its stream", () => {
    const l = cycloidLoad(rotor, AIR, 1500, { drag: 0 });
    expect(power(l.torque, 1500) / (l.thrust * l.through)).toBeCloseTo(1, 6);
    expect(l.thrust).toBeCloseTo(2 * AIR.density * 0.04 * l.through ** 2, 6);
  });
  it("works at a merit between 0.2 and 0.65, never above 1 (published small rotors 0.3 to 0.6, from memory)", () => {
    for (const amplitude of [0.3, 0.5, 0.7])
      for (const rpm of [600, 1500, 2500]) {
        const l = cycloidLoad({ ...rotor, amplitude }, AIR, rpm);
        const merit = l.thrust ** 1.5 / Math.sqrt(2 * AIR.density * 0.04) / power(l.torque, rpm);
        expect(merit).toBeGreaterThan(0.2);
        expect(merit).toBeLessThan(0.65);
      }
  });
  it("pulls at its blades: 10 g at 0.1 m and 1500 rpm with 24.7 N, bent by an eighth of that times its span", () => {
    const { pull, bending } = bladePull(0.01, 0.1, 0.2, 1500);
    expect(pull).toBeCloseTo(24.674, 3);
    expect(bending).toBeCloseTo((pull * 0.2) / 8, 9);
  });
});

const first = (d: Design) => {
  const [unit] = d.units;
  if (!unit) throw new Error("no drive");
  return unit;
};
const turning = (p: Propulsor, change: (d: Design) => void = () => {}) =>
  changed((d) => {
    d.states = [usualState("ground", "hull")];
    Object.assign(first(d), { propulsor: structuredClone(p), surroundings: "in air" });
    first(d).gear.ratio = 6;
    change(d);
  });

describe("every kind on a craft", () => {
  it.each(EVERY_KIND)("$kind takes part in thrust, draw, endurance, curves; its energy closes at every link", (p) => {
    const design = turning(p, (d) => void (d.duty[0] && Object.assign(d.duty[0], { by: "throttle", value: 0.6 })));
    const e = evaluate(design);
    expect(e.outcomes.propulsion?.status).toBe("solved");
    const lasts = kindOf(p).ground(p) ? [] : (["endurance"] as const);
    for (const key of ["thrust", "current", "packCurrent", "rpm", "torque", ...lasts, "thrustToWeight"] as const) {
      expect(e.metrics[key]?.value ?? 0, key).toBeGreaterThan(0);
      expect(e.metrics[key]?.sd ?? 0, key).toBeGreaterThan(0);
    }
    expect((e.metrics.thrust?.sd ?? 0) / (e.metrics.thrust?.value ?? 1)).toBeGreaterThan(0.9 * kindOf(p).doubt.thrust);
    expect(curveOf(design, "throttle").length).toBeGreaterThan(5);
    const setup = nominalSetup(design, 0.9);
    if (!setup) throw new Error("no setup");
    const solved = solveAll(setup, 1, 0, [0]);
    const at = solved.status === "converged" ? solved.points[0] : undefined;
    if (!at) throw new Error("no point");
    expect(at.motorIn - at.motorLoss).toBeCloseTo(at.shaftPower, 6);
    expect(at.shaftPower - at.gearLoss).toBeCloseTo(power(at.torque, at.rpm), 6);
    const inputs = kindInputs(p);
    expect(inputs.every((i) => /^[A-Z]/.test(i.label) && i.sd > 0)).toBe(true);
    expect(propulsorText(p, "metric")).toContain(kindOf(p).word);
  });
  it("the list of kinds, their models and their examples are the same", () => {
    expect(EVERY_KIND.map((p) => p.kind).sort()).toEqual([...PROPULSOR_KINDS].sort());
  });
  it.each(EVERY_KIND.filter((p) => !kindOf(p).moves))("$kind in motion is not covered, and says so", (p) => {
    const e = evaluate(
      turning(p, (d) => {
        d.states = [usualState("wings")];
        d.dragArea = { value: 0.02, evidence: "guess" };
      }),
    );
    expect(e.outcomes.speed).toMatchObject({ status: "not covered", because: expect.stringMatching(/in motion/) });
    expect(e.metrics.speed).toBeUndefined();
  });
  it("what a stand taught of a propeller no longer counts once something else turns on the shaft", () => {
    const factor = { value: 1.4, sd: 0.01 };
    const design = turning(kindAs("ducted fan"), (d) => {
      const { motor, controller, gear, propeller } = first(d);
      first(d).learned = {
        session: 1,
        craft: "x",
        kv: factor,
        thrust: factor,
        torque: factor,
        throttle: [
          { command: 0, duty: 0 },
          { command: 1, duty: 1 },
        ],
        points: [],
        density: 1.2,
        of: structuredClone({ motor, controller, gear, propeller, propulsor: null }),
        pack: null,
      };
    });
    expect(evaluate(design).metrics.thrust?.value).toBeCloseTo(
      evaluate(turning(kindAs("ducted fan"))).metrics.thrust?.value ?? 0,
      9,
    );
  });
  it.each([
    ["a wheel on what does not stand on the ground", kindAs("wheel"), "hull", /pushes on the ground/],
    ["a drum in snow on what floats", kindAs("screw drum", { on: "snow" }), "hull", /works in snow/],
    ["a drum in water on what flies", kindAs("screw drum", { on: "water" }), "wings", /does not float/],
  ] as const)("%s is not covered", (_, p, way, because) => {
    const design = turning(p, (d) => void (d.states = [usualState(way)]));
    expect(computable(design)).toBe(false);
    expect(evaluate(design).outcomes.propulsion).toMatchObject({ because: expect.stringMatching(because) });
  });
  it("four that nobody weighed are not yet; a sentence that is kept makes it a note", () => {
    const said = (because: string) =>
      evaluate(
        turning(kindAs("cycloidal rotor"), (d) => Object.assign(first(d), { count: 4, copiesBecause: because })),
      ).findings.find((f) => f.code === "copies-unmeasured");
    expect(said("")?.severity).toBe("care");
    expect(said("the mould makes four")?.severity).toBe("note");
    expect(said("the mould makes four")?.params).toMatchObject({ because: "the mould makes four" });
  });
  it("a propeller that is fitted from a list or the shelf is what the drive turns from then on", () => {
    const design = turning(kindAs("ducted fan"));
    const [generic] = [
      fitPart(design, "d", {
        kind: "propeller",
        name: "two blades",
        mass: null,
        price: null,
        ...first(design).propeller,
      } as never),
    ];
    expect(first(generic.design).propulsor).toBeNull();
  });
  it("a sweep of another kind teaches no propeller: its readings are its measured curve", () => {
    const unit = first(turning(kindAs("ducted fan")));
    expect(predictLevels(unit, [{ throttle: 1, voltage: 11 }], 1.2, 11)).toEqual([]);
    const learned = learnFrom(unit, null, { levels: [] } as never, 1, "x", 0.01, 0.01);
    expect(learned).toMatchObject({ ok: false, message: expect.stringMatching(/is a ducted fan.*measured curve/) });
  });
  it("wheels climb at least what their push holds; what rests on others is left out and leaves the number open", () => {
    const auw = evaluate(turning(kindAs("wheel"))).metrics.auw?.value ?? 0;
    const four = (load: number) =>
      evaluate(
        turning(kindAs("wheel", { load: measuredTo(load) }), (d) => {
          first(d).count = 4;
          d.brief.targets.push({ id: "g", metric: "grade", comparison: "atLeast", value: 0.2, weight: "must" });
        }),
      );
    // All of the weight on driven wheels: tan θ is the grip.
    const all = four(auw / 4);
    expect(Math.tan(all.metrics.grade?.value ?? 0)).toBeCloseTo(0.7, 2);
    expect(all.targets.find((t) => t.target.id === "g")?.status).toBe("met");
    const half = four(auw / 8);
    expect(half.metrics.grade?.incomplete?.join()).toMatch(/50 % of the weight rests on what is not driven/);
    expect(half.targets.find((t) => t.target.id === "g")?.status).toBe("open");
    expect(evaluate(turning(kindAs("ducted fan"))).metrics.grade).toBeUndefined();
  });
  it("a fan in water is computed there; where it works is asked of it and not of a wheel", () => {
    const at = (surroundings: Design["units"][number]["surroundings"], p: Propulsor) =>
      evaluate(turning(p, (d) => void (first(d).surroundings = surroundings)));
    const [dry, wet] = [at("in air", kindAs("ducted fan")), at("in water", kindAs("ducted fan"))];
    expect(wet.metrics.thrust?.value ?? 0).toBeGreaterThan(20 * (dry.metrics.thrust?.value ?? 1));
    expect(wet.metrics.current?.value ?? 0).toBeGreaterThan(dry.metrics.current?.value ?? 1e9);
    expect(at(null, kindAs("ducted fan")).outcomes.propulsion?.status).toBe("not covered");
    expect(at(null, kindAs("wheel")).outcomes.propulsion?.status).toBe("solved");
    expect(at(null, kindAs("wheel")).findings.map((f) => f.code)).not.toContain("surroundings-unsaid");
  });
  it("wings that beat faster than any were seen to leave their number outside", () => {
    const e = evaluate(turning(kindAs("flapping wings"), (d) => void (first(d).gear.ratio = 4)));
    expect(e.metrics.thrust?.outside?.join()).toMatch(/beat at up to \d+ m\/s/);
    expect(
      evaluate(turning(kindAs("flapping wings"), (d) => void (first(d).gear.ratio = 20))).metrics.thrust?.outside,
    ).toBe(undefined);
  });
  it.each([kindAs("wheel"), kindAs("screw drum")])(
    "how long a $kind drives is not told by its push standing, where it creeps or spins: a mean current tells it",
    (p) => {
      const asked = (by: "thrust" | "throttle" | "current", value: number) =>
        evaluate(turning(p, (d) => void (d.duty[0] && Object.assign(d.duty[0], { by, value }))));
      for (const e of [asked("thrust", 1), asked("throttle", 0.5)]) {
        expect(e.metrics.endurance).toBeUndefined();
        expect(e.outcomes.energy).toMatchObject({
          status: "missing",
          needs: [expect.stringMatching(/when it drives/)],
        });
        expect(e.targets.find((t) => t.target.metric === "endurance")?.status).toBe("open");
      }
      expect(sizingLoop(turning(p), 600, 0)).toBeNull();
      expect(asked("current", 3).metrics.endurance?.value ?? 0).toBeGreaterThan(600);
    },
  );
  it("a fan whose blades stall, or whose pitch no fan has, leaves its numbers outside and nothing clear", () => {
    const steep = evaluate(turning(kindAs("ducted fan", { pitch: measuredTo(0.16) })));
    expect(steep.metrics.thrust?.outside?.join()).toMatch(/pitch over the inside of its duct 2.29 is outside/);
    const stalled = evaluate(turning(kindAs("ducted fan", { pitch: measuredTo(0.11), exit: measuredTo(0.0012) })));
    expect(stalled.metrics.thrust?.outside?.join()).toMatch(/of the blade is stalled/);
    for (const e of [steep, stalled]) expect(e.findings.map((f) => f.code)).not.toContain("currents-hold");
  });
  it("a beat's hardest moment counts before a current is said to hold", () => {
    const codes = (rated: number) =>
      evaluate(
        turning(kindAs("flapping wings"), (d) => {
          first(d).gear.ratio = 20;
          first(d).motor.maxCurrent = rated;
        }),
      ).findings.map((f) => f.code);
    const mean = evaluate(turning(kindAs("flapping wings"), (d) => void (first(d).gear.ratio = 20))).metrics.current;
    expect(codes(1.5 * (mean?.value ?? 0))).not.toContain("currents-hold");
    expect(codes(3 * (mean?.value ?? 0))).toContain("currents-hold");
  });
  it("its numbers are called by what turns, and their working shows its own method", () => {
    const { rpm, thrust } = evaluate(turning(kindAs("wheel"))).metrics;
    expect(rpm?.by?.label).toBe("Wheel or track speed, full throttle");
    expect(thrust?.by?.formula).toMatch(/µ·N/);
    expect(evaluate(changed(() => {})).metrics.rpm?.by).toBeUndefined();
  });
  it("a pack that a stalled motor spends at once has an endurance of nothing and no mean", () => {
    const e = evaluate(
      turning(kindAs("flapping wings", { span: measuredTo(3), area: measuredTo(3) }), (d) => {
        first(d).gear.ratio = 0.05;
        if (d.batteries[0]) d.batteries[0].cellResistance.value = 0.5;
        if (d.duty[0]) Object.assign(d.duty[0], { by: "throttle", value: 0.6 });
      }),
    );
    for (const [key, q] of Object.entries(e.metrics)) expect(Number.isFinite(q?.value), key).toBe(true);
    expect(e.metrics.endurance?.value).toBe(0);
  });
  it("a bird that pushes ahead is not said to be too heavy for the push of its wings standing", () => {
    const codes = (direction: "ahead" | "up") =>
      evaluate(
        turning(kindAs("flapping wings"), (d) => {
          d.states = [usualState("flapping")];
          first(d).direction = direction;
          first(d).gear.ratio = 30;
        }),
      ).findings.map((f) => f.code);
    expect(codes("up")).toContain("cannot-lift");
    expect(codes("ahead")).not.toContain("cannot-lift");
  });
});

describe("what is refused, at its field", () => {
  it.each([
    [kindAs("ducted fan", { hub: measuredTo(0.08) }), "hub", /narrower than its fan/],
    [kindAs("ducted fan", { blades: 0 }), "blades", /2 to 16/],
    [kindAs("ducted fan", { exit: measuredTo(-1) }), "exit.value", />0|positive|between/],
    [kindAs("wheel", { radius: measuredTo(0) }), "radius.value", />0|positive|between/],
    [kindAs("wheel", { grip: measuredTo(70) }), "grip.value", /share of its load/],
    [kindAs("flapping wings", { stroke: measuredTo(80) }), "stroke.value", /up to 360°/],
    [kindAs("screw drum", { lead: measuredTo(2) }), "lead", /steep/],
    [kindAs("screw drum", { under: measuredTo(1.5) }), "under.value", /2 to 100/],
    [kindAs("cycloidal rotor", { chord: measuredTo(0.3) }), "chord", /touch/],
    [kindAs("cycloidal rotor", { amplitude: measuredTo(1.4) }), "amplitude", /60°/],
    [kindAs("cycloidal rotor", { blades: 1 }), "blades", /2 to 12/],
  ] as const)("%#", (p, path, message) => {
    const issues = propulsorSchema.safeParse(p).error?.issues.map((i) => [i.path.join("."), i.message]) ?? [];
    expect(issues).toContainEqual([path, expect.stringMatching(message)]);
  });
});
