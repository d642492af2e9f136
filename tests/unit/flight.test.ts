import { describe, expect, it } from "vitest";
import { editDesign } from "../../core/design/edit";
import type { Design } from "../../core/design/schema";
import { evaluate, findingText, resultIn } from "../../core/evaluate";
import { seededRandom } from "../../core/numeric/random";
import { lattice } from "../../core/subjects/flight/latticeNode";
import {
  type FlightModel,
  forwardLimit,
  neutralPoint,
  slowest,
  stripLine,
  trimmed,
} from "../../core/subjects/flight/model";
import { flight } from "../../core/subjects/flight/node";
import { quietDesign } from "../support/designs";
import { elevator, panel, surface, winged } from "../support/wings";

const edited = (design: Design, change: (d: Design) => void): Design => {
  const e = editDesign(design, change);
  if (!e.ok) throw new Error(e.message);
  return e.design;
};
const craft = (change: (d: Design) => void = () => {}) =>
  edited(quietDesign(), (d) => {
    winged(d);
    change(d);
  });
const at = (d: Design) => evaluate(d, {}, null);
const wings = (d: Design) => {
  const e = at(d);
  const [l, f] = [resultIn(e, lattice), resultIn(e, flight)];
  if (!l || !f) throw new Error(JSON.stringify(e.outcomes.lattice));
  return { l, f };
};

describe("level flight by hand", () => {
  // A wing of 0.2 m² at 0.3 m with a slope of 4, and a tail of 0.04 m² at 0.8 m with one of 3, no wash: by hand.
  const r = (z: number, x: number) => ({ y: 0, z, mx: 0, my: -x * z, mz: 0 });
  const sum = (a: ReturnType<typeof r>, b: ReturnType<typeof r>) => ({ ...a, z: a.z + b.z, my: a.my + b.my });
  const model: FlightModel = {
    set: r(0.02, 0.3),
    alpha: sum(r(0.8, 0.3), r(0.12, 0.8)),
    controls: [{ reaction: r(0.06, 0.8), cl: [0, 1.5], up: 0.35, down: 0.25 }],
    strips: [
      { set: 0.1, alpha: 4, most: 1.2, mostDown: 0.6, surface: 0, share: 0.5, side: 1 },
      { set: 0, alpha: 3, most: 0.9, mostDown: 0.9, surface: 1, share: 0.5, side: 1 },
    ],
    mac: 0.2,
  };
  it("has its neutral point at the mean of the slopes", () => {
    expect(neutralPoint(model)).toBeCloseTo((0.8 * 0.3 + 0.12 * 0.8) / 0.92, 12);
  });
  it("is trimmed: lift equals the load and nothing turns it, at any load and CG", () => {
    for (const cg of [0.2, 0.33, 0.4])
      for (const load of [0.01, 0.15]) {
        const t = trimmed(model, cg);
        if (!t?.command) throw new Error("no trim");
        const alpha = t.alpha.at0 + t.alpha.per * load;
        const command = t.command.at0 + t.command.per * load;
        const e = (t.signs[0] ?? 0) * command;
        expect(model.set.z + model.alpha.z * alpha + 0.06 * e).toBeCloseTo(load, 12);
        const moment = (x: { z: number; my: number }) => x.my + cg * x.z;
        expect(moment(model.set) + moment(model.alpha) * alpha + moment(r(0.06, 0.8)) * e).toBeCloseTo(0, 12);
        // Nose up is trailing edge up on a tail, and its travel up ends it.
        expect(t.signs).toEqual([-1]);
        expect(t.travel).toEqual({ up: 0.35, down: 0.25 });
      }
  });
  it("the same control ahead of the CG is put down for nose up", () => {
    const canard = { ...model, controls: [{ reaction: r(0.06, 0.05), cl: [0, 1.5], up: 0.35, down: 0.25 }] };
    expect(trimmed(canard, 0.33)?.signs).toEqual([1]);
    expect(trimmed(canard, 0.33)?.travel).toEqual({ up: 0.25, down: 0.35 });
  });
  it("the slowest has a strip at its limit and none beyond", () => {
    const t = trimmed(model, 0.33);
    if (!t) throw new Error("no trim");
    const s = slowest(model, t, false);
    expect(s?.by).toBe("stall");
    const cl = model.strips.map((_, i) => {
      const l = stripLine(model, t, i);
      return l.at0 + l.per * (s?.load ?? 0);
    });
    expect(cl[s?.strip ?? 0]).toBeCloseTo(model.strips[s?.strip ?? 0]?.most ?? 0, 12);
    for (const [i, c] of cl.entries()) expect(c).toBeLessThanOrEqual((model.strips[i]?.most ?? 0) + 1e-12);
  });
  it("the foremost CG takes four fifths of the travel at the slowest, and further forward more", () => {
    const f = forwardLimit(model);
    if (f?.by !== "control") throw new Error(JSON.stringify(f));
    const share = (x: number) => {
      const t = trimmed(model, x);
      const s = t && slowest(model, t, false);
      return t?.command && s ? (t.command.at0 + t.command.per * s.load) / t.travel.up : Number.NaN;
    };
    expect(share(f.x)).toBeCloseTo(0.8, 6);
    expect(share(f.x - 0.02)).toBeGreaterThan(0.8);
  });
  it("thrust above what holds back pitches the nose down, and the trim answers up", () => {
    const [plain, above] = [trimmed(model, 0.33), trimmed(model, 0.33, -0.02)];
    const e = (t: typeof plain) => (t?.command ? t.command.at0 + 0.1 * t.command.per : Number.NaN);
    expect(e(above)).toBeGreaterThan(e(plain));
  });
});

describe("a craft on its wings", () => {
  it("moves its window with its tail, and its margin with its CG; the lattice is not solved again for a part", () => {
    const here = wings(craft()).l;
    const larger = wings(craft((d) => void d.surfaces[1]?.panels.splice(0, 1, panel(0.3, 0.1)))).l;
    expect(larger.neutral.value).toBeGreaterThan(here.neutral.value + 0.01);
    const before = at(craft());
    const moved = evaluate(
      edited(craft(), (d) => d.items.forEach((i) => void (i.place.x += 0.01))),
      {},
      null,
    );
    expect(moved.metrics.neutralPoint).toEqual(before.metrics.neutralPoint);
    expect(moved.metrics.staticMargin?.value).toBeCloseTo(
      (before.metrics.staticMargin?.value ?? 0) - 0.01 / here.mac,
      6,
    );
  });
  it("a body ahead shifts the neutral point forward", () => {
    const free = wings(craft((d) => void (d.bodies = []))).l.neutral.value;
    expect(wings(craft()).l.neutral.value).toBeLessThan(free);
  });
  it("grown by 87 % its speeds are 1.37 times as high", () => {
    const heavy = edited(craft(), (d) => d.items.forEach((i) => void (i.mass && (i.mass.value *= 1.87))));
    const [a, b] = [at(craft()), at(heavy)];
    for (const k of ["stallSpeed", "glideSpeed"] as const)
      expect((b.metrics[k]?.value ?? 0) / (a.metrics[k]?.value ?? 1)).toBeCloseTo(1.37, 2);
    expect(b.metrics.glideRatio?.value).toBeCloseTo(a.metrics.glideRatio?.value ?? 0, 3);
  });
  it("the stall of a plain wing is that of its greatest lift: within the shape of its load", () => {
    const e = at(
      craft((d) => {
        d.surfaces = [surface({ id: "w", at: { x: 0.2, y: 0, z: 0 }, chord: 0.2, panels: [panel(0.6, 0.2)] })];
        d.bodies = [];
      }),
    );
    const weight = (e.metrics.auw?.value ?? 0) * 9.80665;
    const most = Math.sqrt((2 * weight) / (1.225 * 0.24 * 0.75));
    expect(e.metrics.stallSpeed?.value).toBeGreaterThan(most);
    expect(e.metrics.stallSpeed?.value).toBeLessThan(1.12 * most);
  });
  it("each doubt of its shape moves the neutral point as making it so does", () => {
    const d = craft();
    const { l } = wings(d);
    const wider = edited(d, (x) => {
      const w = x.surfaces[0];
      if (w) w.at.x += 0.0005;
    });
    const exact = wings(wider).l.neutral.value - l.neutral.value;
    expect(l.neutral.by["wing/x"]).toBeGreaterThan(0);
    expect((l.neutral.by["wing/x"] ?? 0) / exact).toBeCloseTo(1, 1);
  });
  it("says nothing as known before all surfaces are said to be described", () => {
    const e = at(craft((d) => void (d.flight.whole = false)));
    expect(e.metrics.staticMargin?.incomplete?.[0]).toMatch(/every wing, tail, fin and body/);
    expect(e.findings.map((f) => f.code)).not.toContain("cg-outside");
    const none = at(
      craft((d) => {
        d.flight.whole = false;
        d.brief.targets = d.brief.targets.filter((t) => t.metric !== "cgX");
      }),
    );
    expect(none.findings.map((f) => f.code)).toContain("cg-open");
    expect(none.findings.map((f) => f.code)).not.toContain("cg-inside");
  });
  it("is not computed for what does not fly on wings, for foils in water beside wings, nor beside gas", () => {
    const why = (change: (d: Design) => void) => at(craft(change)).outcomes.lattice;
    expect(why((d) => void (d.states[0] && (d.states[0].heldUpBy = ["rotors"])))).toMatchObject({
      status: "not covered",
    });
    expect(why((d) => void (d.surfaces[0] && (d.surfaces[0].medium = "water")))).toMatchObject({
      status: "not covered",
    });
    expect(why((d) => void (d.gasLift = { value: 0.2, evidence: "guess" }))).toMatchObject({ status: "not covered" });
    expect(why((d) => void (d.surfaces = []))).toMatchObject({ status: "missing" });
    expect(why((d) => d.surfaces[0] && d.surfaces.push({ ...d.surfaces[0], id: "again" }))).toMatchObject({
      status: "failed",
    });
  });
  it("a window of the brief that is a guess gives way to that of the wings", () => {
    const d = craft((x) => {
      const t = x.brief.targets.find((o) => o.metric === "cgX");
      if (t) Object.assign(t, { value: 0.1, upper: 0.15, evidence: "guess" });
    });
    const about = at(d).findings.filter((f) => f.code.startsWith("cg-"));
    expect(about).toMatchObject([{ about: "wings" }]);
    const stated = edited(d, (x) => x.brief.targets.forEach((t) => void (t.metric === "cgX" && delete t.evidence)));
    expect(at(stated).findings.map((f) => f.code)).toContain("cg-outside");
  });
  it("20 surfaces and a thousand elements are solved in a few seconds", () => {
    const d = craft((x) => {
      x.surfaces = Array.from({ length: 20 }, (_, k) =>
        surface({
          id: `s${k}`,
          at: { x: 0.1 * k, y: 0, z: 0.11 * k },
          chord: 0.08,
          panels: [panel(0.4, 0.08)],
          controls: k === 19 ? [elevator()] : [],
        }),
      );
    });
    const started = performance.now();
    const { l } = wings(d);
    expect(l.elements).toBeGreaterThan(500);
    expect(performance.now() - started).toBeLessThan(30_000);
  }, 240_000);
});

describe("near the ground", () => {
  const low = (h: number | null) =>
    craft((d) => void (d.flight.height = h === null ? null : { value: h, evidence: "measured" }));
  it("lifts more; the pitch point of the wing alone moves aft (Irodov; common practice)", () => {
    const wing = (h: number | null) =>
      wings(
        craft((d) => {
          d.surfaces = [
            surface({ id: "w", at: { x: 0, y: 0, z: 0.02 }, chord: 0.3, incidence: 0.07, panels: [panel(0.2, 0.3)] }),
          ];
          d.bodies = [];
          d.flight.height = h === null ? null : { value: h, evidence: "measured" };
        }),
      );
    const [free, near] = [wing(null), wing(0.03)];
    expect(near.l.model.alpha.z).toBeGreaterThan(1.2 * free.l.model.alpha.z);
    expect(near.l.neutral.value).toBeGreaterThan(free.l.neutral.value);
    expect(free.f.heightPoint).toBeNull();
    // Lift from height acts ahead of lift from pitch only with a tail: the wing alone does not hold its height.
    expect(near.f.heightPoint).not.toBeNull();
  });
  it("with a tail out of it the height point lies ahead of the pitch point", () => {
    const { l, f } = wings(low(0.03));
    expect(f.heightPoint).toBeLessThan(l.neutral.value);
  });
});

describe("top speed on described wings", () => {
  const fast = (change: (d: Design) => void = () => {}) =>
    at(
      craft((d) => {
        d.dragArea = null;
        change(d);
      }),
    );
  it("is where thrust meets the drag of its shape: at most that, for struts and gear are not in it", () => {
    const e = fast();
    const v = e.metrics.speed?.value ?? 0;
    expect(v).toBeGreaterThan(e.metrics.stallSpeed?.value ?? 99);
    expect(e.metrics.speed?.incomplete?.join()).toMatch(/gear, struts and propellers/);
    // The same area entered: as fast, for carrying the weight costs as much, and nothing is left out of it.
    const area = resultIn(e, flight)?.resistance.area ?? 0;
    const { speed } = at(craft((d) => void (d.dragArea = { value: area, evidence: "measured" }))).metrics;
    expect(speed?.value).toBeCloseTo(v, 6);
    expect(speed?.incomplete ?? []).toEqual([]);
  });
  it("falls with more drag and stays open where no wing is described", () => {
    const rough = fast((d) => d.surfaces.forEach((s) => void (s.section.drag = { value: 0.05, evidence: "measured" })));
    expect(rough.metrics.speed?.value).toBeLessThan(fast().metrics.speed?.value ?? 0);
    expect(at(edited(quietDesign(), (d) => void (d.dragArea = null))).outcomes.speed?.status).toBe("missing");
  });
});

describe("a window that rests on little", () => {
  const without = (change: (d: Design) => void) =>
    at(
      craft((d) => {
        d.brief.targets = d.brief.targets.filter((t) => t.metric !== "cgX");
        d.items.forEach((i) => void (i.place.x += 0.1));
        change(d);
      }),
    ).findings.filter((f) => f.code.startsWith("cg-"));
  it("stops where the shape is known, wants care where it is a guess", () => {
    expect(without(() => {})).toMatchObject([{ code: "cg-outside", severity: "stop" }]);
    expect(without((d) => d.surfaces.forEach((s) => void (s.shapeBy = "guess")))).toMatchObject([
      { code: "cg-outside", severity: "care" },
    ]);
  });
  it("still has its aft limit where no CG is trimmed", () => {
    const found = without((d) => {
      const t = d.surfaces[1];
      if (!t) return;
      t.incidence = 0.2;
      t.controls = [elevator(2, 15)];
    });
    expect(found).toMatchObject([{ code: "cg-outside", severity: "stop" }]);
  });
});

describe("anything that the schema accepts", () => {
  it("ends as solved, missing, not covered or failed, and no number is none", () => {
    const random = seededRandom(11);
    const between = (a: number, b: number) => a + (b - a) * random.uniform();
    const odd = (usual: [number, number], far: number[]) =>
      random.uniform() < 0.15 ? (far[Math.floor(random.uniform() * far.length)] as number) : between(...usual);
    for (let n = 0; n < 60; n++) {
      const d = craft((x) => {
        x.surfaces = Array.from({ length: 1 + Math.floor(3 * random.uniform()) }, (_, k) => ({
          ...surface({ id: `s${k}`, mirrored: random.uniform() < 0.7 }),
          at: { x: odd([0, 1], [-100, 100]), y: odd([-0.2, 0.2], [0, 50]), z: odd([-0.2, 0.3], [-100]) },
          chord: odd([0.02, 0.4], [1e-4, 100]),
          incidence: odd([-0.1, 0.1], [-0.78, 0.78]),
          panels: Array.from({ length: 1 + Math.floor(3 * random.uniform()) }, () => ({
            span: odd([0.02, 0.6], [1e-4, 100]),
            chord: odd([0.02, 0.4], [1e-4, 100]),
            sweep: odd([-0.5, 0.5], [-1.39, 1.39]),
            dihedral: odd([-0.4, 0.4], [-3.14, 3.14, 1.5707963]),
            twist: odd([-0.1, 0.1], [-0.5, 0.5]),
          })),
          controls: random.uniform() < 0.5 ? [{ ...elevator(), chord: odd([0.1, 0.6], [0.02, 1]) }] : [],
        }));
        x.flight.height = random.uniform() < 0.4 ? { value: odd([0.02, 0.5], [1e-5, 100]), evidence: "guess" } : null;
      });
      const e = at(d);
      for (const [key, q] of Object.entries(e.metrics)) {
        expect(Number.isFinite(q.value), `${key} of ${JSON.stringify(d.surfaces)}`).toBe(true);
        expect(Number.isFinite(q.sd), `${key} ± of ${JSON.stringify(d.surfaces)}`).toBe(true);
      }
      expect(structuredClone(e)).toEqual(e);
      for (const f of e.findings) expect(findingText(f, "metric")).not.toMatch(/NaN|undefined|Infinity/);
    }
  }, 240_000);
});

describe("what is a guess or cannot be", () => {
  it("a wing begun by picture is no size of the craft: its width stays that of its parts, and open", () => {
    const parts = at(quietDesign()).metrics.width?.value;
    const guessed = at(craft((d) => d.surfaces.forEach((s) => void (s.shapeBy = "guess"))));
    expect(guessed.metrics.width?.value).toBeCloseTo(parts ?? 0, 9);
    expect(guessed.metrics.width?.incomplete?.[0]).toMatch(/guess are not in it/);
    const measured = at(craft()).metrics.width;
    expect(measured?.value).toBeCloseTo(1.1, 2);
    expect(measured?.incomplete).toBeUndefined();
  });
  it("nothing stops on guessed wings", () => {
    const stops = at(
      craft((d) => {
        for (const s of [...d.surfaces, ...d.bodies]) s.shapeBy = "guess";
        d.flight.launchSpeed = { value: 3, evidence: "measured" };
        d.items.forEach((i) => void (i.place.x += 0.2));
      }),
    ).findings.filter((f) => f.page === "stability" && f.severity === "stop");
    expect(stops).toEqual([]);
  });
  it("two controls on one stretch are refused: of two only one would be reckoned with", () => {
    const e = editDesign(craft(), (d) => {
      const tail = d.surfaces[1];
      if (tail) tail.controls = [elevator(), { ...elevator(), id: "flap", from: 0.5, to: 0.9 }];
    });
    expect(e).toMatchObject({ ok: false, message: expect.stringMatching(/same stretch/) });
  });
  it("a surface that reaches into the ground at its height in flight fails, in words", () => {
    const low = craft((d) => {
      d.flight.height = { value: 0.02, evidence: "measured" };
      const fin = d.surfaces[2];
      if (fin) fin.panels = [panel(0.2, 0.1, 0, -90)];
    });
    expect(at(low).outcomes.lattice).toMatchObject({
      status: "failed",
      reason: expect.stringMatching(/into the ground/),
    });
  });
  it("an all-moving tail loses nothing at a hinge, and its doubt none of it", () => {
    const moving = (chord: number) =>
      wings(craft((d) => void (d.surfaces[1] && (d.surfaces[1].controls = [{ ...elevator(), chord }])))).l;
    const { model, inputs } = moving(1);
    const tail = wings(craft((d) => void d.surfaces[1]?.controls.splice(0))).l.model;
    expect(model.controls[0]?.reaction.z).toBeGreaterThan(moving(0.4).model.controls[0]?.reaction.z ?? 9);
    expect(tail.controls).toEqual([]);
    expect(inputs.some((i) => i.id === "/hinge")).toBe(true);
    expect(moving(1).moved["/hinge"]?.controls[0]?.reaction).toEqual(model.controls[0]?.reaction);
  });
  it("two propellers that turn one way roll it twice as hard, one each way not at all", () => {
    const share = (spin: "clockwise" | "half each") => {
      const e = at(
        craft((d) => {
          const u = d.units[0];
          if (u) Object.assign(u, { count: 2, spin, direction: "ahead" });
          const w = d.surfaces[0];
          if (w) w.controls = [{ ...elevator(3, 3), id: "a", name: "Aileron", does: ["roll"], from: 0.8, to: 1 }];
        }),
      );
      return (e.findings.find((f) => f.code === "torque-roll")?.params as { share?: number } | undefined)?.share ?? 0;
    };
    expect(share("clockwise")).toBeGreaterThan(0.5);
    expect(share("half each")).toBe(0);
  });
});
