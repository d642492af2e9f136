import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { type Design, type Point, usualState } from "../../core/design/schema";
import { tryPatch } from "../../core/design/patch";
import { evaluate, remediesFor, resultIn } from "../../core/evaluate";
import { seededRandom } from "../../core/numeric/random";
import { aroundPoint, turnAt, mostBank, radiusOf } from "../../core/subjects/flight/turning";
import { type Bending, MOST_SLIP, rudderFor, tightest } from "../../core/subjects/wind/flat";
import { type Held, wind } from "../../core/subjects/wind/node";
import { BLUNT } from "../../core/subjects/wind/outline";
import { waterOf } from "../../core/subjects/propulsion/setup";
import { type Shape, shapeOf, shapesAlong, unionOf } from "../../core/subjects/wind/silhouette";
import type { BodyShape } from "../../core/subjects/surfaces/declares";
import { inState } from "../../core/design/inState";
import { demoFile } from "../support/demo";
import { quietDesign } from "../support/designs";
import { middle } from "../support/rules/hover";
import { winged } from "../support/wings";

const rect = (x: number, y: number, w: number, h: number): Shape =>
  shapeOf([
    [x, y],
    [x + w, y],
    [x + w, y + h],
    [x, y + h],
  ]);
const bare = { items: [], surfaces: [], bodies: [] } as Pick<Design, "items" | "surfaces" | "bodies">;

describe("the outline that the wind meets", () => {
  it("is that of closed forms: rectangle, triangle, two that cover one another", () => {
    expect(unionOf([rect(1, 2, 3, 4)])).toEqual({
      area: expect.closeTo(12, 9),
      across: expect.closeTo(2.5, 9),
      up: expect.closeTo(4, 9),
    });
    // The middle of a triangle lies at a third of its height.
    const triangle = unionOf([
      shapeOf([
        [0, 0],
        [3, 0],
        [0, 6],
      ]),
    ]);
    expect(triangle?.area).toBeCloseTo(9, 6);
    expect(triangle?.across).toBeCloseTo(1, 3);
    expect(triangle?.up).toBeCloseTo(2, 3);
    // By inclusion and exclusion: 4 + 4 − 1.
    expect(unionOf([rect(0, 0, 2, 2), rect(1, 1, 2, 2)])?.area).toBeCloseTo(7, 9);
    expect(unionOf([])).toBeNull();
  });
  it("of round bodies: a circle from ahead, a rectangle from the side; mirrored pods cover one another there", () => {
    const pod = (y: number, mirrored: boolean): BodyShape => ({
      id: "pod",
      name: "Pod",
      across: "round",
      y,
      mirrored,
      shapeBy: "measured",
      frames: [
        { x: 0, z: 0, width: 0.2, height: 0.2 },
        { x: 1, z: 0, width: 0.2, height: 0.2 },
      ],
    });
    const seen = (b: BodyShape, along: "x" | "y" | "z") => unionOf(shapesAlong({ ...bare, bodies: [b] }, along).shapes);
    expect(seen(pod(0, false), "x")?.area).toBeCloseTo(Math.PI * 0.01, 4);
    expect(seen(pod(0, false), "y")).toEqual({
      area: expect.closeTo(0.2, 9),
      across: expect.closeTo(0.5, 9),
      up: expect.closeTo(0, 9),
    });
    expect(seen(pod(0.5, true), "y")?.area).toBeCloseTo(0.2, 9);
    expect(seen(pod(0.5, true), "x")?.area).toBeCloseTo(2 * Math.PI * 0.01, 4);
    expect(seen(pod(0.5, true), "z")?.area).toBeCloseTo(0.4, 9);
  });
  it("of a fin: root and tip chord; of a ring, its diameter times its chord, whatever its panels", () => {
    const design = quietDesign();
    winged(design);
    const fin = design.surfaces.at(-1);
    if (!fin) throw new Error("no fin");
    const up = {
      ...fin,
      at: { x: 0, y: 0, z: 0 },
      chord: 0.2,
      incidence: 0,
      mirrored: false,
      shapeBy: "measured" as const,
      panels: [{ span: 0.3, chord: 0.1, sweep: 0, dihedral: Math.PI / 2, twist: 0 }],
    };
    const seen = unionOf(shapesAlong({ ...bare, surfaces: [up] }, "y").shapes);
    expect(seen?.area).toBeCloseTo(0.045, 9);
    const ring = demoFile("annulus").versions.at(-1)?.design.surfaces[0];
    if (!ring) throw new Error("no ring");
    const size = unionOf(shapesAlong({ ...bare, surfaces: [ring] }, "y").shapes);
    const heights = shapesAlong({ ...bare, surfaces: [ring] }, "y").shapes.flatMap((s) => s.corners.map(([, z]) => z));
    expect(size?.area).toBeCloseTo(ring.chord * (Math.max(...heights) - Math.min(...heights)), 4);
  });
  it("is what darts thrown at random find (a second method), of few boxes and of hundreds", () => {
    for (const many of [7, 400]) {
      const random = seededRandom(many);
      const boxes = Array.from({ length: many }, () =>
        rect(random.uniform(), random.uniform(), 0.02 + 0.3 * random.uniform(), 0.02 + (3 / many) * random.uniform()),
      );
      const found = unionOf(boxes);
      const DARTS = 60_000;
      let hits = 0;
      for (let k = 0; k < DARTS; k++) {
        const [x, y] = [1.4 * random.uniform(), 1.6 * random.uniform()];
        const hit = (b: Shape) => {
          const [low, , high] = b.corners;
          return low && high && x >= b.left && x <= b.right && y >= low[1] && y <= high[1];
        };
        if (boxes.some(hit)) hits++;
      }
      const area = (1.4 * 1.6 * hits) / DARTS;
      expect(Math.abs((found?.area ?? 0) / area - 1)).toBeLessThan(0.04);
    }
  });
  it("moved, its middle moves with it and its area stays; never more than the sum, never less than the largest", () => {
    const one = fc.tuple(
      fc.double({ min: -1, max: 1, noNaN: true }),
      fc.double({ min: -1, max: 1, noNaN: true }),
      fc.double({ min: 0.01, max: 1, noNaN: true }),
      fc.double({ min: 0.01, max: 1, noNaN: true }),
    );
    fc.assert(
      fc.property(
        fc.array(one, { minLength: 1, maxLength: 8 }),
        fc.double({ min: -5, max: 5, noNaN: true }),
        (l, by) => {
          const at = (d: number) => unionOf(l.map(([x, y, w, h]) => rect(x + d, y - d, w, h)));
          const [a, b] = [at(0), at(by)];
          if (!a || !b) throw new Error("nothing seen");
          expect(b.area).toBeCloseTo(a.area, 6);
          expect(b.across - a.across).toBeCloseTo(by, 3);
          expect(b.up - a.up).toBeCloseTo(-by, 6);
          const areas = l.map(([, , w, h]) => w * h);
          expect(a.area).toBeLessThanOrEqual(areas.reduce((s, v) => s + v, 0) + 1e-9);
          expect(a.area).toBeGreaterThanOrEqual(Math.max(...areas) - 1e-9);
        },
      ),
      { numRuns: 60 },
    );
  });
  it("a part that a body or a surface describes is not drawn as its box again", () => {
    const design = quietDesign();
    const hull = design.items.find((i) => i.id === "hull");
    if (!hull) throw new Error("no hull");
    design.items = [hull];
    const box = unionOf(shapesAlong(design, "y").shapes)?.area ?? 0;
    const { place, size } = hull;
    const frame = (x: number) => ({ x, z: place.z, width: size.y, height: size.z / 2 });
    const body: BodyShape = {
      id: "b",
      name: "Hull",
      across: "round",
      y: 0,
      mirrored: false,
      shapeBy: "measured",
      frames: [frame(place.x - size.x / 2), { ...frame(place.x), height: size.z }, frame(place.x + size.x / 2)],
    };
    const seen = (b: BodyShape) => unionOf(shapesAlong({ ...design, bodies: [b] }, "y").shapes)?.area ?? 0;
    expect(seen(body)).toBeCloseTo(0.75 * box, 9);
    // One whose shape is a guess hides nothing.
    expect(seen({ ...body, shapeBy: "guess" })).toBeCloseTo(box, 9);
    // One that it stands out of does not hide it.
    const half = { ...body, frames: [frame(place.x - size.x / 2), frame(place.x)] };
    expect(seen(half)).toBeCloseTo(box, 9);
  });
  it("names what is not in it: a part without a place or a size, a shape that is a guess", () => {
    const design = quietDesign();
    const [first, second] = design.items;
    if (!first || !second) throw new Error("no parts");
    first.unsized = true;
    second.unplaced = ["z"];
    const { lacks } = shapesAlong(design, "y");
    expect(lacks.join()).toContain(`${first.name} and 1 more without a place and a size`);
    expect(evaluate(design).metrics.sideArea?.incomplete).toEqual(lacks);
  });
});

const held = (d: Design) => resultIn(evaluate(d), wind)?.held as Held;
const hover = (change: (d: Design) => void): Design => {
  const d = quietDesign();
  middle(change)(d);
  return d;
};

describe("a craft that hangs on its drives, in the wind", () => {
  it("leans until thrust carries weight and wind: tan θ = D / W, hardest unit × √(1 + tan² θ)", () => {
    const d = hover((x) => void (x.brief.environment.wind = 12));
    const e = evaluate(d);
    const h = held(d);
    if (h.kind !== "hover") throw new Error(h.kind);
    // By hand: ρ of the standard atmosphere at sea level, the larger of the two outlines.
    const outlines = (["x", "y"] as const).map((a) => unionOf(shapesAlong(d, a).shapes)?.area ?? 0);
    const push = 0.5 * 1.225 * 144 * 1.1 * Math.max(...outlines);
    // Half a per cent: the air that is reckoned with is humid.
    expect(h.push.value / push).toBeCloseTo(1, 2);
    const weight = (e.metrics.auw?.value ?? 0) * 9.80665;
    expect(Math.tan(h.lean)).toBeCloseTo(h.push.value / weight, 9);
    expect(h.share.value).toBeCloseTo((e.metrics.hoverShare?.value ?? 0) / Math.cos(h.lean), 6);
    expect(e.metrics.windShare?.sd).toBeGreaterThan(e.metrics.hoverShare?.sd ?? 1);
  });
  it("the push goes with the square of the wind, and its moment with where it meets the craft", () => {
    const at = (wind: number, tail: Partial<Point> = {}) =>
      hover((d) => {
        d.brief.environment.wind = wind;
        const part = d.items.find((i) => i.id === "tail");
        if (part) Object.assign(part.place, tail);
      });
    const [slow, fast] = [held(at(4)), held(at(8))];
    if (slow.kind !== "hover" || fast.kind !== "hover") throw new Error("no hover");
    expect(fast.push.value / slow.push.value).toBeCloseTo(4, 6);
    const yaw = (h: Held) =>
      h.kind === "hover" ? h.lines.find((l) => l.axis === "yaw")?.disturbs[0]?.value : undefined;
    // A side wind pushes to starboard on the middle of what it sees: behind the CG that turns the nose to port.
    const d = at(4);
    const side = unionOf(shapesAlong(d, "y").shapes);
    const cg = evaluate(d).metrics.cgX?.value ?? 0;
    const moment = -0.5 * 1.225 * 16 * 1.1 * (side?.area ?? 0) * ((side?.across ?? 0) - cg);
    expect((yaw(slow) ?? 0) / moment).toBeCloseTo(1, 2);
  });
  it("without a wind named nothing is said to hold, and the side area still is", () => {
    const d = hover((x) => void (x.brief.environment.wind = 0));
    const e = evaluate(d);
    expect(e.metrics.windShare).toBeUndefined();
    expect(e.metrics.madeGood).toBeUndefined();
    expect(e.metrics.sideArea?.value).toBeGreaterThan(0);
    expect(resultIn(e, wind)?.because).toContain("no worst wind");
    expect(e.findings.filter((f) => f.code.startsWith("wind-"))).toEqual([]);
  });
  it("what has no size may be blown too: nothing is said to hold", () => {
    const whole = hover((x) => void (x.brief.environment.wind = 3));
    const words = (d: Design) => (held(d).kind === "hover" ? (held(d) as { lines: { word: string }[] }).lines : []);
    expect(words(whole).some((l) => l.word === "holds")).toBe(true);
    const part = structuredClone(whole);
    for (const i of part.items.slice(1, 2)) i.unsized = true;
    expect(words(part).some((l) => l.word === "holds" || l.word === "thin")).toBe(false);
    // A mass that nobody said: neither.
    const light = structuredClone(whole);
    for (const i of light.items.slice(1, 2)) i.mass = null;
    expect(words(light).some((l) => l.word === "holds" || l.word === "thin")).toBe(false);
  });
  it("less wind, as the remedy says, holds", () => {
    const d = hover((x) => void (x.brief.environment.wind = 38));
    const e = evaluate(d);
    const found = e.findings.find((f) => f.code === "wind-holds");
    const remedy = found && remediesFor(d, e, found).find((r) => r.patch);
    const then = remedy?.patch && tryPatch(d, remedy.patch);
    if (!then) throw new Error("no remedy");
    expect(then.brief.environment.wind).toBeGreaterThan(5);
    const share = evaluate(then).metrics.windShare?.value ?? 0;
    // A tenth of a metre a second below what just holds.
    expect(share).toBeLessThanOrEqual(0.85);
    expect(share).toBeGreaterThan(0.8);
  });
});

describe("afloat and on the ground", () => {
  it("what the wind turns stays open where the water holds, and is not told where the ground does", () => {
    const file = demoFile("samphire").versions.at(-1)?.design;
    if (!file) throw new Error("no design");
    const of = (state: string) => {
      const h = held(inState(file, state));
      if (h.kind !== "drives") throw new Error(h.kind);
      return h;
    };
    const [aground, afloat] = file.states.map((s) => of(s.id));
    expect(aground?.lines).toEqual([]);
    expect(afloat?.lines[0]?.word).toBe("open");
    expect(afloat?.beside).toBe("water");
  });
});

describe("on a cushion and under water", () => {
  const on = (way: "cushion" | "submerged", change: (d: Design) => void = () => {}) => {
    const d = quietDesign();
    on.design = d;
    d.states = [usualState(way)];
    const [u] = d.units;
    if (!u) throw new Error("no unit");
    Object.assign(u, { direction: "ahead", count: 2, tilt: 0, reversible: true, surroundings: "in air" });
    u.places = [-0.15, 0.15].map((y) => ({ at: { x: 0.6, y, z: 0.2 }, toward: { x: -1, y: 0, z: 0 } }));
    change(d);
    return resultIn(evaluate(d), wind);
  };
  on.design = quietDesign();
  it("a cushion holds nothing against a side wind: what turns it is told", () => {
    const { held: h, because } = on("cushion") ?? {};
    if (h?.kind !== "drives") throw new Error(because ?? "nothing");
    expect(h.beside).toBeNull();
    expect(h.lines[0]?.word).not.toBe("open");
  });
  it("under water no wind reaches it: without a current named it is open", () => {
    const result = on("submerged");
    expect(result?.held).toBeNull();
    expect(result?.because).toContain("under water");
  });
  it("under water a current pushes on all that it meets from ahead, by its density: ½ρU²·C·A", () => {
    const swims = (current: number, change: (d: Design) => void = () => {}) =>
      on("submerged", (d) => {
        d.brief.environment.current = current;
        change(d);
      });
    const held = (r: ReturnType<typeof on>) => {
      if (r?.held?.kind !== "drives") throw new Error(r?.because ?? "nothing");
      return r.held;
    };
    const result = swims(0.5);
    expect([result?.flow, result?.wind]).toEqual(["current", 0.5]);
    const front = unionOf(shapesAlong(on.design, "x").shapes)?.area ?? 0;
    const { density } = waterOf(on.design.brief.environment);
    expect(held(result).push.value).toBeCloseTo(0.5 * density * 0.25 * BLUNT.value * front, 6);
    // Twice the current, four times the push; a drag area that was entered for the air says nothing of it.
    expect(held(swims(1)).push.value / held(result).push.value).toBeCloseTo(4, 9);
    const entered = swims(0.5, (d) => void (d.dragArea = { value: 0.001, evidence: "measured" }));
    expect(held(entered).push.value).toBe(held(result).push.value);
    // Nothing else carries it sideways: what turns it is told.
    expect(held(result).lines[0]?.word).not.toBe("open");
  });
});

describe("an envelope at a slant to the wind", () => {
  /** A prolate spheroid three times as long as wide, in frames, about the CG. */
  const blimp = (described: boolean, wind = 2): Design => {
    const d = quietDesign();
    d.states = [usualState("gas")];
    d.gasLift = { value: 1, evidence: "measured" };
    d.brief.environment.wind = wind;
    const [u] = d.units;
    if (!u) throw new Error("no unit");
    Object.assign(u, { direction: "ahead", count: 2, tilt: 0, reversible: true, surroundings: "in air" });
    u.places = [-0.3, 0.3].map((y) => ({ at: { x: 0.6, y, z: 0.2 }, toward: { x: -1, y: 0, z: 0 } }));
    const cg = evaluate(d).metrics.cgX?.value ?? 0;
    const [half, radius] = [0.9, 0.3];
    if (described)
      d.bodies = [
        {
          id: "e",
          name: "Envelope",
          across: "round",
          y: 0,
          mirrored: false,
          shapeBy: "measured",
          frames: Array.from({ length: 24 }, (_, k) => {
            const s = -1 + (2 * k) / 23;
            const wide = 2 * radius * Math.sqrt(Math.max(0, 1 - s * s));
            return { x: cg + half * s, z: 0.3, width: wide, height: wide };
          }),
        },
      ];
    return structuredClone(d);
  };
  const line = (d: Design) => {
    const h = held(d);
    return h?.kind === "drives" ? h.lines[0] : undefined;
  };
  it("is turned across by ½ρV²·Vol·(k₂ − k₁)·sin 2β, the most at 45° (Munk, from Lamb)", () => {
    const l = line(blimp(true));
    expect(l?.disturbs[0]?.what).toBe("body");
    const volume = (4 / 3) * Math.PI * 0.9 * 0.3 ** 2;
    // k₁ = 0.122 and k₂ = 0.803 for three to one: Munk, NACA TR 184, from Lamb.
    const moment = 0.5 * 1.225 * 4 * volume * (0.803 - 0.122);
    expect((l?.disturbs[0]?.value ?? 0) / moment).toBeCloseTo(1, 1);
  });
  it("that nobody described leaves open what holds", () => {
    expect(line(blimp(false))?.word).toBe("open");
    expect(line(blimp(true, 0.2))?.word).toBe("holds");
  });
  it("with fins is lost by nothing: what they hold is not computed", () => {
    const strong = blimp(true, 20);
    expect(line(strong)?.word).toBe("lost");
    const other = quietDesign();
    winged(other);
    const finned = structuredClone(strong);
    // Of a known shape, but small and at the middle: the outline stays what it was.
    finned.surfaces = other.surfaces
      .slice(-1)
      .map((f) => ({ ...f, shapeBy: "measured" as const, at: { x: 0.3, y: 0, z: 0.3 } }));
    expect(line(finned)?.word).toBe("open");
    expect(line(finned)?.open.join()).toContain("fins");
  });
});

describe("turning on wings", () => {
  it("a rate-one turn at 100 kt: 15.4° of bank, 0.53 nautical miles (handbooks of flight training)", () => {
    const v = (100 * 1852) / 3600;
    const omega = (3 * Math.PI) / 180;
    const bank = Math.atan((v * omega) / 9.80665);
    expect((bank * 180) / Math.PI).toBeCloseTo(15.36, 1);
    const stall = v / 1.3 / Math.sqrt(1 / Math.cos(bank));
    const turn = turnAt(stall, 1.3, 2, bank);
    expect(turn.speed).toBeCloseTo(v, 9);
    expect(turn.radius / 1852).toBeCloseTo(0.5305, 3);
    expect(turn.circle).toBeCloseTo(120, 6);
  });
  it("60° doubles the load, the stall grows by √2, the drag with the load", () => {
    const turn = turnAt(10, 1.3, 3, Math.PI / 3);
    expect(turn.load).toBeCloseTo(2, 12);
    expect(turn.stall).toBeCloseTo(10 * Math.SQRT2, 12);
    expect(turn.drag).toBeCloseTo(6, 12);
  });
  it(
    "around a point it banks most with the wind behind: the path over the ground stays on its circle " + "(integrated)",
    () => {
      const [speed, wind, bank] = [14, 5, Math.PI / 4];
      const radius = aroundPoint({ speed, bank }, wind) ?? Number.NaN;
      expect(radius).toBeCloseTo((19 * 19) / 9.80665, 6);
      // Another way: heading, ground speed and turn rate at each place of the circle; the bank is that of the air path.
      let steepest = 0;
      for (let k = 0; k < 3600; k++) {
        const over = (at: number) => {
          // Along the circle at this angle; the air must go so that with the wind (toward +x) it stays on it.
          const [tx, ty] = [-Math.sin(at), Math.cos(at)];
          const ground = wind * tx + Math.sqrt(speed ** 2 - (wind * ty) ** 2);
          return { ground, heading: Math.atan2(ground * ty, ground * tx - wind) };
        };
        const at = (k * Math.PI) / 1800;
        const step = 1e-5;
        const turned = over(at + step).heading - over(at - step).heading;
        const round = Math.atan2(Math.sin(turned), Math.cos(turned)) / (2 * step);
        const rate = (round * over(at).ground) / radius;
        steepest = Math.max(steepest, Math.atan((speed * rate) / 9.80665));
      }
      expect(steepest).toBeCloseTo(bank, 4);
      expect(aroundPoint({ speed: 10, bank }, 10)).toBeNull();
      expect(aroundPoint({ speed, bank }, 0)).toBeCloseTo(speed ** 2 / 9.80665, 9);
    },
  );
  it("the radius goes with the square of the stall speed, and so does its doubt", () => {
    const at = (v: number) => radiusOf({ value: v, by: { "/mass": 0.1 } }, 1.3);
    expect(at(20).value / at(10).value).toBeCloseTo(4, 9);
    const small = 1e-4;
    expect(at(10).by["/mass"]).toBeCloseTo(((at(10 + small).value - at(10 - small).value) / (2 * small)) * 0.1, 6);
  });
  it("near the ground it banks until a tip touches: sin φ = h / half span", () => {
    const d = quietDesign();
    winged(d);
    const [wing] = d.surfaces;
    if (!wing) throw new Error("no wing");
    const flat = {
      ...wing,
      at: { x: 0, y: 0, z: 0 },
      incidence: 0,
      panels: [{ span: 1, chord: 0.2, sweep: 0, dihedral: 0, twist: 0 }],
    };
    expect(mostBank([flat], { value: 0.51 })).toBeCloseTo((30 * Math.PI) / 180, 9);
    expect(mostBank([flat], { value: 0.005 })).toBe(0);
    expect(mostBank([flat], null)).toBeCloseTo(Math.PI / 2, 9);
    // Then no radius at 45° is said.
    const at = (height: number | null) => {
      const near = structuredClone(d);
      near.flight.height = height === null ? null : { value: height, evidence: "measured" };
      return evaluate(near).metrics.turnRadius;
    };
    expect(at(0.01)).toBeUndefined();
    expect(at(null)?.value).toBeGreaterThan(0);
  });
  it("where how thrust falls with speed is not known, holding the height is open, not held", () => {
    const annulus = demoFile("annulus").versions.at(-1)?.design;
    const wing = annulus?.states[1];
    if (!annulus || !wing) throw new Error("no state");
    const h = held(inState(annulus, wing.id));
    if (h.kind !== "wings") throw new Error(h.kind);
    expect(h.turns.map((t) => t.level)).toEqual([null, null, null]);
  });
  it("a glider holds no height in a turn", () => {
    const d = quietDesign();
    winged(d);
    d.flight.whole = true;
    d.units = [];
    d.duty = [];
    const h = held(d);
    if (h?.kind !== "wings") throw new Error("no wings");
    expect(h.turns.every((t) => t.level === false)).toBe(true);
  });
  it("a craft on its hull has no turn", () => {
    const d = quietDesign();
    d.states = [usualState("hull")];
    expect(evaluate(d).metrics.turnRadius).toBeUndefined();
  });
});

describe("turning near the ground", () => {
  const craft = (over: Partial<Bending> = {}): Bending => ({
    ...{
      mass: 1.4,
      speed: 16,
      density: 1.25,
      side: 0.05,
      outline: 0.07,
      thrust: 8,
      bank: 0.2,
      slips: 0.6,
      travel: 0.35,
    },
    ...over,
  });
  // Statics of a level turn: v²/(g·tan φ) where nothing but the bank bends its way.
  it("by its bank alone is the turn of every handbook", () => {
    const bare = { side: 0, outline: 0, thrust: 0 };
    expect(tightest(craft(bare)).radius).toBeCloseTo(16 ** 2 / (9.80665 * Math.tan(0.2)), 6);
    expect(tightest(craft({ ...bare, bank: 0 })).radius).toBe(Number.POSITIVE_INFINITY);
  });
  /** Flies it round in small steps with full rudder until the turn is steady; m. */
  function flown(b: Bending, more: { drag: number; damping: number; into: number }): number {
    const q = (b.density * b.speed ** 2) / 2;
    const gives = (b.slips ?? 1) * more.into;
    const inertia = 0.02;
    let [slip, r, way] = [0, 0, 0];
    for (let k = 0; k < 60_000; k++) {
      const dt = 5e-4;
      const side = q * (b.side * slip + more.drag * b.outline * Math.sin(slip) * Math.abs(Math.sin(slip)));
      const across = side + b.thrust * Math.sin(slip) + b.mass * 9.80665 * Math.tan(b.bank);
      way = across / (b.mass * b.speed);
      // Its nose goes into the turn by the rudder, and back by the side wind that this makes.
      r += ((q * (gives * b.travel - more.into * slip - (more.damping * r) / b.speed)) / inertia) * dt;
      slip += (r - way) * dt;
    }
    return b.speed / way;
  }
  it("is never tighter than the bound, whatever damps it and however its side drags", () => {
    fc.assert(
      fc.property(
        fc.record({
          side: fc.double({ min: 0, max: 0.1, noNaN: true }),
          outline: fc.double({ min: 0.01, max: 0.15, noNaN: true }),
          thrust: fc.double({ min: 0, max: 12, noNaN: true }),
          bank: fc.double({ min: 0.02, max: 0.35, noNaN: true }),
          slips: fc.double({ min: 0.1, max: 0.7, noNaN: true }),
          drag: fc.double({ min: 0.4, max: 1.4, noNaN: true }),
          damping: fc.double({ min: 0.02, max: 0.1, noNaN: true }),
          into: fc.double({ min: 0.01, max: 0.05, noNaN: true }),
        }),
        ({ drag, damping, into, ...over }) => {
          const b = craft(over);
          const bound = tightest(b).radius;
          const real = flown(b, { drag, damping, into });
          expect(real).toBeGreaterThan(bound * 0.999);
        },
      ),
      { numRuns: 25, seed: 3 },
    );
    // And it is no empty word: without damping and with the most drag the turn comes close to it.
    const b = craft({ slips: 0.7, travel: 0.37 });
    expect(flown(b, { drag: 1.4, damping: 1e-3, into: 0.03 }) / tightest(b).radius).toBeLessThan(1.2);
  });
  it("takes at the least the rudder that holds its slip; no rudder beats fins that stall, and none is made up", () => {
    const b = craft();
    expect(rudderFor(b, tightest(b).radius)).toEqual({ need: "rudder", least: expect.closeTo(MOST_SLIP / 0.6, 6) });
    expect(rudderFor(b, 1000)).toEqual({ need: "none" });
    expect(rudderFor(b, 5)).toEqual({ need: "more" });
    expect(rudderFor(craft({ slips: 0.3 }), tightest(b).radius)).toMatchObject({
      least: expect.closeTo(MOST_SLIP / 0.3, 6),
    });
    expect(rudderFor(craft({ slips: null }), tightest(b).radius)).toEqual({ need: "open" });
  });
  it("of a craft is told where nothing is missing, and open where something is", () => {
    const tern = demoFile("tern").versions.at(-1)?.design;
    if (!tern) throw new Error("no version");
    const of = (d: Design) => {
      const h = held(d);
      return h?.kind === "wings" ? h.flat : null;
    };
    const known = of(tern);
    expect(known).toMatchObject({ status: "known" });
    const lacking = structuredClone(tern);
    const [first] = lacking.items;
    if (!first) throw new Error("no part");
    first.unsized = true;
    expect(of(lacking)).toMatchObject({ status: "open" });
    const unsaid = structuredClone(tern);
    unsaid.flight.whole = false;
    expect(of(unsaid)).toMatchObject({ status: "open" });
    const free = structuredClone(tern);
    free.flight.height = null;
    expect(of(free)).toBeNull();
  });
});
