import type { WorkingInput } from "../../design/quantity";
import { type Evidence, evidenceByShare, magnitudeSd } from "../../design/evidence";
import { type Doubtful, sharesOf } from "../../numeric/doubt";
import { supportOf } from "../../design/support";
import { type Outcome, type View, subject } from "../../subject";
import type { Hinged, Surface } from "../surfaces/declares";
import { lifts, planformOf, stationsOf } from "../surfaces/planform";
import { sectionOf } from "../surfaces/sections";
import { bodyMoments } from "./body";
import { COARSE, type Cutting, FINE, type Strip, elementsOf } from "./elements";
import { mostOf, shapeInputs } from "./inputs";
import { type CauseName, type Reaction, type Solution, movedBy, solveLattice } from "./lattice";
import { type Near, surroundings } from "./surroundings";
import { type FlightModel, type Forward, forwardLimit, neutralPoint } from "./model";

/** What a number of the wings rests on. */
export interface FlightInput {
  id: string;
  name: string;
  value: number;
  sd: number;
  dimension: WorkingInput["dimension"];
  evidence: Evidence;
}

export interface LatticeResult {
  model: FlightModel;
  /** The same with each input one standard uncertainty higher. */
  moved: Record<string, FlightModel>;
  strips: Strip[];
  /** over ½ρV² about the origin, m² and m³, per unit of sideslip and of the rates (about the origin) */
  beta: Reaction;
  roll: Reaction;
  pitch: Reaction;
  yaw: Reaction;
  /** all roll controls together, per rad: starboard trailing edges down, port ones up */
  rollControl: Reaction | null;
  rollTravel: number;
  /** all yaw controls together, per rad, each the way that turns the nose to port */
  yawControl: Reaction | null;
  yawTravel: number;
  /** m³ per rad of sideslip, as the bodies turn it away from the wind */
  bodyYaw: number;
  /** drag due to lift of a load, over ½ρV²: m² per (m²)², at the mean of set and alpha */
  drag: Solution["drag"];
  /** index of the main wing in the design's surfaces */
  main: number;
  /** area of the lifting surfaces as seen from above, m² */
  area: number;
  mac: number;
  neutral: Doubtful;
  aft: Doubtful;
  forward: Doubtful;
  forwardBy: Forward["by"];
  inputs: FlightInput[];
  elements: number;
  /** near a ground: models a little lower and higher, and the step, m */
  ground: { lower: FlightModel; higher: FlightModel; step: number; height: number } | null;
  /** they are foils in water; and how deep the main one runs in its middle, or how high, m; null: far from anything */
  inWater: boolean;
  depth: number | null;
}

/** Least static margin that is asked for where nobody said one: common practice for small craft, 5 to 15 %. */
export const LEAST_MARGIN = 0.05;
/** Part of what a thin hinge gives that a real gap and a thick layer leave, with its doubt (common practice). */
const HINGE = { value: 0.85, sd: 0.12 };
/** Doubt of what a hinged control does, share. */
export const HINGE_DOUBT = HINGE.sd / HINGE.value;
/** The lattice's own doubt about the neutral point, share of the mean chord (thin, attached, no wash: judgement). */
const METHOD = 0.02;
/** The same of a coarse cut that nothing finer is held against: what the finer one says otherwise is within it. */
const COARSE_METHOD = 0.04;
/** Doubt of the couple of a body beside wings, share. */
export const BODY = 0.35;
/** Flow that may be left through a surface, share of the free flow. */
const LEFT = 1e-6;
/** Elements of all surfaces together; a finer cut of many surfaces would take a page's worth of seconds. */
const MOST_ELEMENTS = 1000;

const NONE: Reaction = { y: 0, z: 0, mx: 0, my: 0, mz: 0 };
const KEYS = ["y", "z", "mx", "my", "mz"] as const;
const mixed = (a: Reaction, b: Reaction, by: number): Reaction => {
  const out = { ...NONE };
  for (const k of KEYS) out[k] = a[k] + by * b[k];
  return out;
};

interface Craft {
  surfaces: readonly Surface[];
  bodies: Parameters<typeof bodyMoments>[0][];
  /** height of the baseline over the ground, or over the water that its foils run in (negative), m */
  ground: number | null;
}

/** Share of a control's effect that is left: a surface that turns as a whole has no hinge to lose any at. */
const givesOf = (control: Hinged): number => (control.chord > 0.99 ? 1 : HINGE.value);

const zeroLiftOf = (s: Surface): number => sectionOf(s.section).zeroLift;

/** One solve as the plain numbers of level flight; null where the lattice has no solution. */
function modelOf(craft: Craft, cutting: Cutting, mac: number) {
  const elements = elementsOf(craft.surfaces, craft.surfaces.map(zeroLiftOf), cutting);
  const solution = solveLattice(elements, craft.ground);
  if (!solution) return null;
  const { causes } = solution;
  const [set, alpha] = [causes.set, causes.alpha];
  if (!set || !alpha) return null;
  const couple = craft.bodies.reduce((s, b) => s + bodyMoments(b).pitch, 0);
  // Moment of the sections themselves, where they look up.
  const sections = elements.strips.reduce((sum, s) => {
    const surface = craft.surfaces[s.surface];
    return sum + (surface ? sectionOf(surface.section).moment * s.chord ** 2 * s.width * s.ty ** 2 : 0);
  }, 0);
  const controls = elements.controls.flatMap(({ control }, k) => {
    const cause = causes[`control ${k}`];
    return control.does.includes("pitch") && cause
      ? [
          {
            cause: `control ${k}` as CauseName,
            gives: givesOf(control),
            reaction: mixed(NONE, cause, givesOf(control)),
            cl: cause.cl.map((c) => c * givesOf(control)),
            up: control.up,
            down: control.down,
          },
        ]
      : [];
  });
  const most = craft.surfaces.map((s) => ({ most: mostOf(s).value, mostDown: sectionOf(s.section).mostDown }));
  const model: FlightModel = {
    set: { ...mixed(NONE, set, 1), my: set.my + sections },
    alpha: { ...mixed(NONE, alpha, 1), my: alpha.my + couple },
    controls,
    strips: elements.strips.map((s, i) => ({
      set: set.cl[i] ?? 0,
      alpha: alpha.cl[i] ?? 0,
      // A strip on edge carries no weight: what it does at a stall is not asked.
      most: Math.abs(s.ty) > 0.5 ? (most[s.surface]?.most ?? 1) : Number.MAX_VALUE,
      mostDown: Math.abs(s.ty) > 0.5 ? (most[s.surface]?.mostDown ?? 1) : Number.MAX_VALUE,
      surface: s.surface,
      share: s.share,
      side: s.side,
    })),
    mac,
  };
  return { model, elements, solution, couple, pitch: controls.map(({ cause, gives }) => ({ cause, gives })) };
}
type Modelled = NonNullable<ReturnType<typeof modelOf>>;

/** A model with other reactions: what is added to each. */
function shifted(
  m: FlightModel,
  by: { set?: Lift; alpha?: Lift; controls?: readonly (Lift | undefined)[] },
): FlightModel {
  const add = (r: Reaction, d: Lift | undefined): Reaction => (d ? { ...r, z: r.z + d.z, my: r.my + d.my } : r);
  return {
    ...m,
    set: add(m.set, by.set),
    alpha: add(m.alpha, by.alpha),
    controls: m.controls.map((c, k) => ({ ...c, reaction: add(c.reaction, by.controls?.[k]) })),
  };
}
interface Lift {
  z: number;
  my: number;
}

/** The model with each doubtful input one standard uncertainty higher. */
interface Doubts {
  inputs: FlightInput[];
  moved: Record<string, FlightModel>;
}

/** What a control leaves of a change of its effect. */
const leaves = (d: Lift | undefined, share: number): Lift | undefined => d && { z: share * d.z, my: share * d.my };

/** What the shapes leave in doubt: each figure of each surface, by how the solved lattice moves with it. */
function shapeDoubts(craft: Craft, fine: Modelled, long: number, { inputs, moved }: Doubts): void {
  const { model, elements, solution, pitch } = fine;
  const wanted: CauseName[] = ["set", "alpha", ...pitch.map((c) => c.cause)];
  const cutting = { ...FINE, each: elements.each, image: elements.image };
  for (const { changed, surface, ...input } of shapeInputs(craft.surfaces, long)) {
    const surfaces = craft.surfaces.map((o, k) => (k === surface ? changed : o));
    const other = elementsOf(surfaces, surfaces.map(zeroLiftOf), cutting);
    if (other.count !== elements.count) continue;
    const by = movedBy(solution, other, surface, wanted);
    inputs.push(input);
    moved[input.id] = shifted(model, {
      set: by.get("set"),
      alpha: by.get("alpha"),
      controls: pitch.map((c) => leaves(by.get(c.cause), c.gives)),
    });
  }
}

/** What the methods leave in doubt: bodies beside wings, hinges, sections at their limit. */
function methodDoubts(craft: Craft, fine: Modelled, { inputs, moved }: Doubts): void {
  const { model, couple, pitch } = fine;
  const method = (id: string, name: string, value: number, sd: number, as: FlightModel) => {
    inputs.push({ id, name, value, sd, dimension: "ratio", evidence: "calculated" });
    moved[id] = as;
  };
  if (craft.bodies.length > 0)
    method("/body", "Couple of the bodies, method", 1, BODY, shifted(model, { alpha: { z: 0, my: BODY * couple } }));
  if (model.controls.length > 0) {
    const more = HINGE.sd / HINGE.value;
    const controls = model.controls.map((c, k) =>
      pitch[k]?.gives === 1 ? undefined : { z: more * c.reaction.z, my: more * c.reaction.my },
    );
    method("/hinge", "Share of a hinge's effect, method", HINGE.value, HINGE.sd, shifted(model, { controls }));
  }
  for (const [k, s] of craft.surfaces.entries()) {
    if (!lifts(s)) continue;
    const { value, sd, evidence } = mostOf(s);
    const id = `${s.id}/most`;
    inputs.push({ id, name: `${s.name}: greatest lift coefficient`, value, sd, dimension: "ratio", evidence });
    moved[id] = {
      ...model,
      strips: model.strips.map((t) => (t.surface === k && t.most < 1e9 ? { ...t, most: t.most + sd } : t)),
    };
  }
}

/**
 * Yaw controls, each turned the way that yaws most: both sides of a mirrored one alike or against each other, a rudder
 * alone to one side.
 */
function yawControls({ elements, solution: { causes } }: Modelled) {
  return elements.controls.flatMap(({ control }, k) => {
    if (!control.does.includes("yaw")) return [];
    const ways = [causes[`control ${k}`], causes[`opposed ${k}`]].filter((c) => c !== undefined);
    const best = ways.toSorted((a, b) => Math.abs(b.mz) - Math.abs(a.mz))[0];
    if (!best || Math.abs(best.mz) < 1e-12) return [];
    const gives = givesOf(control) * Math.sign(best.mz);
    return [{ cause: best, gives, travel: Math.min(control.up, control.down) }];
  });
}

/** Near a ground, or under water: the models a little lower and higher, and what a doubt of the height does. */
function groundOf(fine: Modelled, { over, known, depth }: Near, { inputs, moved }: Doubts): LatticeResult["ground"] {
  const { model, elements, solution, pitch } = fine;
  const step = 0.04 * depth;
  const at = (by: number): FlightModel => {
    const wanted: CauseName[] = ["set", "alpha", ...pitch.map((c) => c.cause)];
    const d = movedBy(solution, elements, null, wanted, 2 * (over + by));
    return shifted(model, {
      set: d.get("set"),
      alpha: d.get("alpha"),
      controls: pitch.map((c) => leaves(d.get(c.cause), c.gives)),
    });
  };
  const [lower, higher] = [at(-step), at(step)];
  const sd = magnitudeSd(known);
  const by = (key: "set" | "alpha"): Lift => ({
    z: ((higher[key].z - lower[key].z) * sd) / (2 * step),
    my: ((higher[key].my - lower[key].my) * sd) / (2 * step),
  });
  const { value, evidence } = known;
  const name = over < 0 ? "Water on the foils" : "Height in flight";
  inputs.push({ id: "/height", name, value, sd, dimension: "length", evidence });
  moved["/height"] = shifted(model, { set: by("set"), alpha: by("alpha") });
  return { lower, higher, step, height: over };
}

/** How many elements a cut makes of these surfaces, nearly. */
const cutFor = (surfaces: readonly Surface[], cutting: Cutting): Cutting => {
  const sides = surfaces.reduce((n, s) => n + (s.mirrored ? 2 : 1), 0);
  const strips = Math.max(4, Math.min(cutting.strips, Math.floor(MOST_ELEMENTS / (sides * cutting.chordwise))));
  return { ...cutting, strips };
};

/** How fine the surfaces are cut, what other cut shows how much hangs on that, and the doubt besides (share of MAC). */
interface Cuts {
  cut: Cutting;
  against: Cutting | null;
  method: number;
}
const READS = ["states", "gasLift", "surfaces", "bodies", "flight"] as const;

function solved(view: View<(typeof READS)[number]>, { cut, against, method }: Cuts): Outcome<LatticeResult> {
  const { ways } = supportOf(view);
  if (!ways.includes("wings")) return { status: "not covered", because: "it is not held up by wings" };
  if (ways.includes("gas"))
    return {
      status: "not covered",
      because: "gas and wings share the weight: where each of them lifts is not computed so far",
    };
  const near = surroundings(view);
  if ("status" in near) return near;
  const { surfaces, bodies, over, image } = near;
  const lifting = surfaces.filter(lifts);
  if (lifting.length === 0) return { status: "missing", needs: ["a wing with its place and shape"] };
  const plans = surfaces.map(planformOf);
  const main = surfaces.reduce(
    (best, s, k) => (lifts(s) && (plans[k]?.plan ?? 0) > (plans[best]?.plan ?? 0) ? k : best),
    surfaces.indexOf(lifting[0] as Surface),
  );
  const wing = plans[main];
  if (!wing || !(wing.plan > 0)) return { status: "missing", needs: ["a wing with an area"] };
  const craft: Craft = { surfaces, bodies, ground: over?.over ?? null };
  const cutting = cutFor(surfaces, { ...cut, image });
  const fine = modelOf(craft, cutting, wing.mac);
  if (!fine)
    return {
      status: "failed",
      reason: "two surfaces lie in one place, or one runs back on itself: no flow along them was found",
    };
  const np = neutralPoint(fine.model);
  const forward = forwardLimit(fine.model);
  if (fine.solution.residual > LEFT) return { status: "failed", reason: "the flow along its surfaces was not found" };
  if (np === null || !forward) return { status: "failed", reason: "an angle of attack makes no lift" };
  const other = against && modelOf(craft, cutFor(surfaces, { ...against, image }), wing.mac);
  const xs = surfaces.flatMap((s) => stationsOf(s).flatMap((c) => [c.at.x, c.at.x + c.chord]));
  const bodyXs = bodies.flatMap((b) => b.frames.map((f) => f.x));
  // What a coarser cut says otherwise is doubt too.
  const doubt = Math.hypot(method * wing.mac, np - ((other && neutralPoint(other.model)) ?? np));
  const doubts: Doubts = { inputs: [], moved: {} };
  const { inputs, moved } = doubts;
  shapeDoubts(craft, fine, Math.max(...xs, ...bodyXs) - Math.min(...xs, ...bodyXs), doubts);
  methodDoubts(craft, fine, doubts);
  const ground = over && groundOf(fine, over, doubts);
  const margin = view.flight.margin ?? LEAST_MARGIN;
  const by = (f: (m: FlightModel) => number | null): Record<string, number> => {
    const here = f(fine.model);
    const out: Record<string, number> = {};
    if (here !== null)
      for (const [id, m] of Object.entries(moved)) {
        const there = f(m);
        if (there !== null && Math.abs(there - here) > 1e-9) out[id] = there - here;
      }
    return out;
  };
  inputs.push({
    id: "/lattice",
    name: "Lattice, method",
    value: 0,
    sd: doubt,
    dimension: "length",
    evidence: "calculated",
  });
  const neutralBy = { ...by(neutralPoint), "/lattice": doubt };
  const { causes, drag } = fine.solution;
  const rolls = fine.elements.controls.flatMap(({ control }, k) => {
    const cause = causes[`opposed ${k}`];
    return control.does.includes("roll") && cause
      ? [{ cause, gives: givesOf(control), travel: Math.min(control.up, control.down) }]
      : [];
  });
  const yaws = yawControls(fine);
  return {
    status: "solved",
    result: {
      model: fine.model,
      moved,
      strips: fine.elements.strips,
      beta: mixed(NONE, causes.beta ?? NONE, 1),
      roll: mixed(NONE, causes.p ?? NONE, 1),
      pitch: mixed(NONE, causes.q ?? NONE, 1),
      yaw: mixed(NONE, causes.r ?? NONE, 1),
      rollControl: rolls.length > 0 ? rolls.reduce((s, r) => mixed(s, r.cause, r.gives), NONE) : null,
      rollTravel: Math.min(...rolls.map((r) => r.travel), Number.MAX_VALUE),
      yawControl: yaws.length > 0 ? yaws.reduce((s, y) => mixed(s, y.cause, y.gives), NONE) : null,
      yawTravel: Math.min(...yaws.map((y) => y.travel), Number.MAX_VALUE),
      bodyYaw: bodies.reduce((s, b) => s + bodyMoments(b).yaw, 0),
      drag,
      main,
      area: plans.reduce((s, p, k) => s + (surfaces[k] && lifts(surfaces[k]) ? p.plan : 0), 0),
      mac: wing.mac,
      neutral: { value: np, by: neutralBy },
      aft: { value: np - margin * wing.mac, by: neutralBy },
      forward: { value: forward.x, by: { ...by((m) => forwardLimit(m)?.x ?? null), "/lattice": doubt } },
      forwardBy: forward.by,
      inputs,
      elements: fine.elements.count,
      ground,
      inWater: image > 0,
      depth: over?.depth ?? null,
    },
  };
}

/**
 * What the surfaces do, whatever the mass and wherever the CG: solved once for a shape, so that moving a part never
 * solves it again.
 */
export const lattice = subject({
  name: "lattice",
  reads: READS,
  cost: "slow",
  compute: (view) => solved(view, { cut: FINE, against: COARSE, method: METHOD }),
  roughly: (view) => solved(view, { cut: COARSE, against: null, method: COARSE_METHOD }),
});

/** Drag due to lift of lift by angle of attack alone, over W²/½ρV², 1/m². */
export function inducedOf({ drag, model }: Pick<LatticeResult, "drag" | "model">): number {
  const k = drag.names.indexOf("alpha");
  return (drag.form[k]?.[k] ?? 0) / model.alpha.z ** 2;
}

/** How well a number of the wings is known, by what really moves it. */
export function evidenceIn(inputs: readonly Pick<FlightInput, "id" | "evidence">[], of: Doubtful): Evidence {
  const shares = sharesOf(of);
  return evidenceByShare(inputs.map((i) => ({ evidence: i.evidence, share: shares.get(i.id) ?? 0 })));
}

/** What a number of the wings came from, the largest share of its doubt first. */
export function shapeWorking(inputs: readonly FlightInput[], of: Doubtful): WorkingInput[] {
  const shares = sharesOf(of);
  return inputs
    .filter((i) => (shares.get(i.id) ?? 0) > 1e-4)
    .map(({ id, ...i }) => ({ ...i, share: shares.get(id) ?? 0, source: null }))
    .sort((a, b) => b.share - a.share);
}
