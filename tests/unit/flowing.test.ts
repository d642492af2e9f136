import { describe, expect, it } from "vitest";
import { type Design, type Surface, usualState } from "../../core/design/schema";
import { evaluate, resultIn } from "../../core/evaluate";
import type { PlacedThruster } from "../../core/subjects/authority/thrusters";
import { stubbySlope } from "../../core/subjects/authority/vanes";
import { flowedBy } from "../../core/subjects/axes/flowing";
import { axes } from "../../core/subjects/axes/node";
import { wind } from "../../core/subjects/wind/node";
import { flowedText, heldText } from "../../core/wording/axes";
import { inState } from "../../core/design/inState";
import { demoFile } from "../support/demo";
import { quietDesign } from "../support/designs";
import { onHull } from "../support/rules/floats";
import { panel, surface } from "../support/wings";

const DENSITY = { air: 1.2, water: 1000 };
const CG = { x: 0.5, y: 0, z: 0 };
const TRAVEL = 0.3;
/** A rudder 60 mm deep and 40 mm long that turns as a whole, its middle at the height of the baseline. */
const rudder = (change: Partial<Surface> = {}, does: Surface["controls"][number]["does"] = ["yaw"]): Surface =>
  surface({
    id: "rudder",
    medium: "water",
    at: { x: 1, y: 0, z: -0.03 },
    chord: 0.04,
    mirrored: false,
    panels: [panel(0.06, 0.04, 0, 90)],
    controls: [{ id: "r", name: "Rudder", does, from: 0, to: 1, chord: 1, up: TRAVEL, down: TRAVEL }],
    ...change,
  });
const AREA = 0.06 * 0.04;
const SLOPE = stubbySlope(1.5);
const ARM = 1.01 - CG.x;

const unitOf = (change: (u: Design["units"][number]) => void = () => {}) => {
  const u = structuredClone(quietDesign().units[0]);
  if (!u) throw new Error("no drive");
  u.surroundings = "in water";
  u.propulsor = null;
  u.propeller.diameter.value = 0.2;
  change(u);
  return u;
};
const driver = (at: Partial<PlacedThruster["at"]> = {}, drive = 0): PlacedThruster => ({
  at: { x: 0.9, y: 0, z: 0, ...at },
  toward: { x: -1, y: 0, z: 0 },
  most: 10,
  mean: 10,
  torque: 0,
  spin: 1,
  reversible: false,
  drive,
  k: 0,
  name: "Screw",
  corner: null,
});
const yawOf = (surfaces: Surface[], units = [unitOf()], drivers = [driver()]) =>
  flowedBy({ surfaces, units }, drivers, CG, DENSITY).yaw;

describe("a rudder", () => {
  it("coasting turns by ½ρv²·S·a·δ on its arm, by hand", () => {
    const done = yawOf([rudder()]);
    expect(done.names).toEqual(["Rudder"]);
    expect(done.coasting.value).toBeCloseTo(500 * AREA * SLOPE * TRAVEL * ARM, 9);
    expect(done.coasting.sd / done.coasting.value).toBeCloseTo(0.3, 9);
  });
  it("in air does a thousandth of it, as air is lighter", () => {
    const air = yawOf([rudder({ medium: "air" })]);
    expect(air.coasting.value / yawOf([rudder()]).coasting.value).toBeCloseTo(1.2 / 1000, 12);
  });
  it("standing turns by the wash that it stands in, which has no density in it", () => {
    const wet = yawOf([rudder()]);
    const dry = yawOf([rudder({ medium: "air" })], [unitOf((u) => (u.surroundings = "in air"))]);
    expect(wet.standing?.value).toBeGreaterThan(0);
    expect(dry.standing?.value).toBeCloseTo(wet.standing?.value ?? 0, 12);
  });
  it("beside the wash, ahead of it or in the other medium does nothing standing, and as much coasting", () => {
    const usual = yawOf([rudder()]);
    for (const away of [
      yawOf([rudder({ at: { x: 1, y: 0.2, z: -0.03 } })]),
      yawOf([rudder()], [unitOf()], [driver({ x: 1.2 })]),
      yawOf([rudder()], [unitOf((u) => (u.surroundings = "in air"))]),
    ]) {
      expect(away.standing?.value).toBe(0);
      expect(away.coasting.value).toBeCloseTo(usual.coasting.value, 9);
    }
  });
  it("behind a drive of which only its pull is known is open standing; behind wheels it is not", () => {
    const curve = { on: "fresh water" } as Design["units"][number]["measured"];
    expect(yawOf([rudder()], [unitOf((u) => (u.measured = curve))]).standing).toBeNull();
    const ground = { on: "the ground" } as Design["units"][number]["measured"];
    expect(yawOf([rudder({ medium: "air" })], [unitOf((u) => (u.measured = ground))]).standing?.value).toBe(0);
  });
  it("is what is said to be one: a plane for pitch beside it turns no nose", () => {
    const plane = rudder({ mirrored: true, panels: [panel(0.06, 0.04)] }, ["pitch"]);
    const both = flowedBy({ surfaces: [rudder(), plane], units: [unitOf()] }, [driver()], CG, DENSITY);
    expect(both.yaw).toEqual(yawOf([rudder()]));
    expect(both.pitch.names).toEqual(["Rudder"]);
    expect(both.pitch.coasting.value).toBeGreaterThan(0);
    expect(both.roll.names).toEqual([]);
  });
  it("does as much as is under water, and nothing above it", () => {
    const at = (level: number | null) =>
      flowedBy({ surfaces: [rudder()], units: [unitOf()] }, [driver()], CG, DENSITY, level).yaw;
    expect(at(0.1)).toEqual(at(null));
    // Half of its depth: half of the area, of half of the aspect ratio.
    expect(at(0).coasting.value / at(null).coasting.value).toBeCloseTo((0.5 * stubbySlope(0.75)) / stubbySlope(1.5), 6);
    expect(at(-0.1)).toMatchObject({ names: ["Rudder"], standing: { value: 0 }, coasting: { value: 0 } });
    expect(flowedText(at(-0.1), "metric").join(" ")).toMatch(/out of the water/);
  });
  it("more of them add up, with their doubts", () => {
    const [one, two] = [yawOf([rudder()]), yawOf([rudder(), rudder({ id: "second" })])];
    expect(two.coasting.value).toBeCloseTo(2 * one.coasting.value, 12);
    expect(two.coasting.sd).toBeCloseTo(2 * one.coasting.sd, 12);
  });
  it("is told with what it does, and with what is not known", () => {
    const told = flowedText(yawOf([rudder()]), "metric").join(" ");
    expect(told).toMatch(
      /^Rudder: .* ± .* N·m standing at full throttle, in the wash .* at 1.* with the throttle closed/,
    );
    expect(flowedText(yawOf([rudder()]), "metric", true).join(" ")).not.toMatch(/wash/);
    expect(flowedText({ ...yawOf([rudder()]), standing: null }, "imperial").join(" ")).toMatch(/wash is not known/);
    const flowed = yawOf([rudder()], [unitOf()], [driver({ x: 1.2 })]);
    expect(flowedText(flowed, "metric").join(" ")).toMatch(/no wash meets it/);
    expect(heldText({ axis: "yaw", held: null, flowed, hangs: null, rights: null }, "metric")).toBe("");
  });
});

describe("on the board", () => {
  const onWater = (change: (d: Design) => void = () => {}) => {
    const d = quietDesign();
    d.states = [usualState("cushion")];
    d.brief.environment.wind = 6;
    const [u] = d.units;
    if (!u) throw new Error("no drive");
    u.count = 1;
    u.direction = "ahead";
    u.tilt = 0;
    u.surroundings = "in air";
    u.places = [{ at: { x: 0.6, y: 0, z: 0.2 }, toward: { x: -1, y: 0, z: 0 } }];
    const r = (u.propeller.diameter.value / 2) * 0.5;
    d.surfaces = [
      rudder({ medium: "air", at: { x: 0.66, y: 0, z: 0.2 - r / 2 }, chord: 0.08, panels: [panel(r, 0.08, 0, 90)] }),
    ];
    change(d);
    const e = evaluate(d, {}, null);
    return { board: resultIn(e, axes), blown: resultIn(e, wind), codes: e.findings.map((f) => f.code) };
  };
  const yawLine = (held: ReturnType<typeof onWater>["blown"]) =>
    held?.held?.kind === "drives" ? held.held.lines.find((l) => l.axis === "yaw") : undefined;
  it("a side wind on a cushion is answered by the rudder in the wash: never “nothing answers”", () => {
    const { blown, codes } = onWater();
    const line = yawLine(blown);
    expect(line?.word).not.toBe("never had");
    expect(line?.answer?.value).toBeGreaterThan(0);
    expect(codes).toContain("steers-by-wash");
    expect(codes).not.toContain("still-rudder");
    expect(codes).not.toContain("nothing-steers");
  });
  it("in water it turns on much the same circle at any speed: that it lives from the wash is not said", () => {
    const { codes } = onWater((d) => {
      d.states = [usualState("hull")];
      const [u, s] = [d.units[0], d.surfaces[0]];
      if (!u || !s) throw new Error("no drive");
      u.surroundings = "in water";
      u.propeller.diameter.value = 0.05;
      u.propeller.pitch.value = 0.03;
      s.medium = "water";
    });
    expect(codes).not.toContain("steers-by-wash");
  });
  it("one that is out of the water altogether steers nothing, and is not said to once it moves", () => {
    const { codes, board } = onWater((d) => {
      onHull(0.6, 0.1, 0.05)(d);
      const [s] = d.surfaces;
      if (s) Object.assign(s, { medium: "water", at: { x: 0.66, y: 0, z: 0.3 } });
    });
    expect(board?.kind === "drives" && board.lines.find((l) => l.axis === "yaw")?.flowed?.coasting.value).toBe(0);
    expect(codes).not.toContain("still-rudder");
    expect(codes).toContain("nothing-steers");
  });
  it("a rudder that no wash meets says so, and steers once it moves", () => {
    const { codes, blown } = onWater((d) => {
      const [s] = d.surfaces;
      if (s) s.at.y = 0.5;
    });
    expect(codes).toContain("still-rudder");
    expect(codes).not.toContain("steers-by-wash");
    expect(yawLine(blown)?.answer).toBeNull();
  });
  it("the trimaran's rudder stands ahead of its screw: afloat no wash meets it, on its foils it turns the nose", () => {
    const file = demoFile("gannet").versions.at(-1)?.design;
    const [afloat, foils] = file?.states ?? [];
    if (!file || !afloat || !foils) throw new Error("no states");
    const board = resultIn(evaluate(inState(file, afloat.id)), axes);
    const yaw = board?.kind === "drives" ? board.lines.find((l) => l.axis === "yaw") : null;
    expect(yaw?.flowed?.standing?.value).toBe(0);
    expect(yaw?.flowed?.coasting.value).toBeGreaterThan(0.001);
    const flown = resultIn(evaluate(inState(file, foils.id)), axes);
    if (flown?.kind !== "wings") throw new Error("no board on the foils");
    expect(flown.moments.map((m) => m.moment)).toEqual(["on foils", "foils closed", "foils emptied"]);
    const [at, closed] = flown.moments;
    expect(closed?.speed).toBe(at?.speed);
    // With the throttle closed what holds it back pulls where the thrust did not: the other way, and not less.
    const line = (m: typeof at) =>
      m?.lines.find((l) => l.axis === "pitch")?.disturbs.find((p) => p.what === "thrust line");
    expect(Math.sign(line(closed)?.value ?? 0)).toBe(-Math.sign(line(at)?.value ?? 0));
    expect(at?.gust).toBeNull();
    const word = (axis: string) => at?.lines.find((l) => l.axis === axis)?.word;
    expect(word("yaw")).toBe("holds");
    // What the water gives back as it heels is not computed: without a roll control that is no "never had".
    expect(word("roll")).toBe("open");
  });
  it("coasting is told while what the drives push is not known, and nothing of what they command", () => {
    const unread = onWater((d) => {
      d.states = [usualState("hull")];
      const [u] = d.units;
      if (u) u.places = [];
      if (u) u.propellerItemId = null;
    });
    if (unread.board?.kind !== "unpushed") throw new Error(unread.board?.kind);
    expect(unread.board.open).toMatch(/a place for each unit/);
    const yaw = unread.board.lines.find((l) => l.axis === "yaw");
    expect(yaw?.flowed?.standing).toBeNull();
    expect(yaw?.flowed?.coasting.value).toBeGreaterThan(0);
    for (const code of ["steers-by-wash", "still-rudder", "nothing-steers", "steers-by-thrust", "no-sway"])
      expect(unread.codes).not.toContain(code);
    expect(unread.blown?.held).toBeNull();
    expect(unread.blown?.because).toMatch(/waits for: a place/);
    const engineless = onWater((d) => void (d.units = []));
    if (engineless.board?.kind !== "unpushed") throw new Error(engineless.board?.kind);
    expect(engineless.board.open).toBe("it has none");
    const unsaid = onWater((d) => {
      d.states = [usualState("hull")];
      const [u] = d.units;
      if (u) u.surroundings = null;
    });
    if (unsaid.board?.kind !== "unpushed") throw new Error(unsaid.board?.kind);
    expect(unsaid.board.open).toMatch(/is not said: in the air or in water/);
    // Without a control there is nothing to tell.
    const bare = onWater((d) => {
      d.surfaces = [];
      const [u] = d.units;
      if (u) u.places = [];
      if (u) u.propellerItemId = null;
    });
    expect(bare.board).toBeNull();
  });
});
