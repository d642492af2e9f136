import { placesUnsaid } from "../mass/placed";
import { type Known, magnitudeSd } from "../../design/evidence";
import type { Quantity } from "../../design/quantity";
import type { Design } from "../../design/schema";
import { type Doubtful, alsoBy, sdOf } from "../../numeric/doubt";
import { type Outcome, doubtsOf, keysOf, subject } from "../../subject";
import { GRAVITY } from "../air/air";
import { air } from "../air/node";
import { balance } from "../balance/node";
import { type LedgerMass, mass } from "../mass/node";
import type { MassResult } from "../mass/rollup";
import { waterOf } from "../propulsion/setup";
import { wetted } from "./wet";
import { type LevelDrag, levelDragAt } from "../propulsion/levelDrag";
import { AT_SPEED, type At, type TrimPoint, polarOf, trimAt } from "./trim";
import { placedUnits } from "../propulsion/placed";
import type { BodyShape, Surface } from "../surfaces/declares";
import { type Touches, touchesFirst } from "../stance/touches";
import { lifts, planformOf } from "../surfaces/planform";
import { bodyMoments } from "./body";
import { quantities } from "./declares";
import { type Resistance, SKIN, bodyHeight, dragOf } from "./inputs";
import { type FlightInput, type LatticeResult, evidenceIn, lattice, shapeWorking } from "./latticeNode";
import { type FlightModel, type Slowest, type Trim, slowest, trimmed } from "./model";
import { canBank, radiusOf } from "./turning";

type FlightKey = keyof typeof quantities;

export interface FlightResult {
  values: Record<FlightKey, Doubtful | null>;
  inputs: FlightInput[];
  /** what ends slow flight, and where */
  slow: Slowest | null;
  /** what level flight is reckoned with; null while mass or CG are missing */
  at: At | null;
  /** angle of attack at the slowest flight, rad */
  steepest: number;
  resistance: Resistance;
  /** near the ground: what touches it first as the nose comes up, and at how many rad; null: far above, or nothing */
  touches: Touches | null;
  /**
   * Slowest level flight, m/s: the stall, or near the ground the speed at which it flies so nose up that something
   * touches; null while not known.
   */
  slowest: { value: number; sd: number } | null;
  /** what holds it back in level flight; null while mass or CG are missing */
  levelDrag: LevelDrag | null;
  /** foils in water carry it */
  inWater: boolean;
  /** m/s below which foils so near the surface make waves, which no lattice knows; 0: at no speed */
  waves: number;
  /** the drag area was entered: what stands in the wind beside wings and bodies is in it */
  whole: boolean;
  /** pitch travel, rad */
  travel: { up: number; down: number } | null;
  /** moment into the wind per rad of sideslip over ½ρV², about the CG, m³; positive holds */
  yaw: number;
  /** whether any surface stands on edge */
  fins: boolean;
  /** m aft of the datum; where lift of a change in height acts; null far above the ground */
  heightPoint: number | null;
  /** N·m a rad/s at 1 m/s and 1 kg/m³: how much rolling is damped; and what the roll controls give a rad */
  rollDamping: number;
  rollControl: { reaction: number; travel: number } | null;
  /** N */
  weight: number;
  density: number;
}

/** Drag of surfaces and bodies by themselves; an entered drag area stands before it. */
export function resistanceOf(
  surfaces: readonly Surface[],
  bodies: readonly BodyShape[],
  entered: { value: number; sd: number } | null,
): Resistance {
  const parts = [
    ...surfaces.map((s) => {
      const d = dragOf(s);
      const { area } = planformOf(s);
      const heights = s.at.z + s.panels.reduce((z, p) => z + p.span * Math.sin(p.dihedral), 0) / 2;
      return { area: d.value * area, sd: d.sd * area, z: heights };
    }),
    ...bodies.map((b) => {
      const { wetted } = bodyMoments(b);
      return { area: SKIN.value * wetted, sd: SKIN.off * SKIN.value * wetted, z: bodyHeight(b) };
    }),
  ];
  const area = parts.reduce((s, p) => s + p.area, 0);
  const height = area > 0 ? parts.reduce((s, p) => s + p.area * p.z, 0) / area : 0;
  return entered
    ? { area: entered.value, sd: entered.sd, height }
    : { area, sd: Math.hypot(...parts.map((p) => p.sd)), height };
}

/** Height of the line along which the drives push ahead, m; null where none does, or nobody placed them. */
export function thrustHeight(design: Pick<Design, "units" | "items">): number | null {
  const ahead = design.units.flatMap((_, k) => placedUnits(design, k).filter((u) => u.toward.x < -0.5));
  return ahead.length > 0 ? ahead.reduce((s, u) => s + u.at.z, 0) / ahead.length : null;
}

const POINTS = 24;
/** Level flight from its slowest to three times that; of foils only as fast as they make no waves. */
export function trimCurve(
  l: LatticeResult,
  { at, values, waves }: Pick<FlightResult, "at" | "values" | "waves">,
): TrimPoint[] {
  const slowest = values.stallSpeed?.value;
  if (!at || slowest === undefined) return [];
  const [from, to] = [Math.max(slowest, waves), 3 * Math.max(slowest, waves)];
  return Array.from({ length: POINTS }, (_, k) => trimAt(l, at, from + ((to - from) * k) / (POINTS - 1))).filter(
    (t) => t !== null,
  );
}

const slowestLoad = (m: FlightModel, cg: number): Slowest | null => {
  const trim = trimmed(m, cg);
  return trim && slowest(m, trim);
};

/** Least load over ½ρv² that is asked of wings that touch the ground before they carry at all, m². */
const HARDLY = 1e-6;
/**
 * Most that the wings carry over ½ρv² in level flight, m²: as far as their stall, or as what touches the ground lets
 * them turn nose up.
 */
function mostLoad(stall: number, trim: Trim | null, touches: Touches | null): number {
  if (!trim || !touches || !(trim.alpha.per > 0)) return stall;
  return Math.max(HARDLY, Math.min(stall, (touches.clear - trim.alpha.at0) / trim.alpha.per));
}

/** The speed of that load, m/s: as well known as the stall, or as the height over the ground. */
function slowestOf(
  is: { slow: Slowest; carries: number; trim: Trim | null; touches: Touches | null; heightSd: number },
  { weight, density }: Pick<At, "weight" | "density">,
  stall: Doubtful | null,
): { value: number; sd: number } {
  const value = Math.sqrt((2 * weight) / (density * is.carries));
  if (is.carries === is.slow.load || !is.trim || !is.touches) return { value, sd: stall ? sdOf(stall) : 0 };
  const angleSd = (is.heightSd * Math.cos(is.touches.clear) ** 2) / is.touches.behind;
  return { value, sd: ((value / 2) * angleSd) / (is.trim.alpha.per * is.carries) };
}

/** What the CG, the mass and the air are not known by, beside the wings. */
interface Doubts {
  cgSd: number;
  mass: number;
  massSd: number;
  densitySd: number;
}

/** What flight rests on beside its wings. */
function inputsBeside(
  { cg, cgSd, cgEvidence }: Pick<MassResult, "cg" | "cgSd" | "cgEvidence">,
  m: LedgerMass,
  { density, densitySd }: { density: number; densitySd: number },
  drag: { resistance: Resistance; known: Known | null },
): FlightInput[] {
  const { resistance, known } = drag;
  return [
    { id: "/cg", name: "CG", value: cg.x, sd: cgSd.x, dimension: "length", evidence: cgEvidence.x },
    { id: "/mass", name: "All-up weight", value: m.mass, sd: m.massSd, dimension: "mass", evidence: m.evidence },
    { id: "/air", name: "Air density", value: density, sd: densitySd, dimension: "density", evidence: "calculated" },
    {
      id: "/drag",
      name: known ? "Drag area" : "Drag of surfaces and bodies, method",
      value: resistance.area,
      sd: resistance.sd,
      dimension: "area",
      evidence: known?.evidence ?? "calculated",
    },
  ];
}

/** Slowest level flight, m/s: W = ½·ρ·v²·load, with what each doubt moves it by. */
function stallOf(l: LatticeResult, { cg, weight, density }: At, { load }: Slowest, of: Doubts): Doubtful {
  const v = Math.sqrt((2 * weight) / (density * load));
  const by: Record<string, number> = {
    "/mass": (v * of.massSd) / (2 * of.mass),
    "/air": (-v * of.densitySd) / (2 * density),
  };
  const moved = (other: Slowest | null) => (other ? v * (Math.sqrt(load / other.load) - 1) : 0);
  for (const [id, model] of Object.entries(l.moved)) by[id] = moved(slowestLoad(model, cg));
  by["/cg"] = moved(slowestLoad(l.model, cg + of.cgSd));
  return { value: v, by };
}

/** Command that trims level flight at a speed, with what each doubt moves it by; null where nothing trims it. */
function trimCommandOf(l: LatticeResult, state: At, speed: number, of: Doubts): Doubtful | null {
  const command = trimAt(l, state, speed)?.command ?? null;
  if (command === null) return null;
  const change = (model: FlightModel, changed: Partial<At>) =>
    (trimAt({ ...l, model }, { ...state, ...changed }, speed)?.command ?? command) - command;
  const by: Record<string, number> = {};
  for (const [id, model] of Object.entries(l.moved)) by[id] = change(model, {});
  by["/cg"] = change(l.model, { cg: state.cg + of.cgSd });
  by["/mass"] = change(l.model, { weight: state.weight + of.massSd * GRAVITY });
  const { resistance } = state;
  by["/drag"] = change(l.model, { resistance: { ...resistance, area: resistance.area + resistance.sd } });
  return { value: command, by };
}

/**
 * Best glide and its speed: D = q·(A + c0) + c1·W + c2·W²/q is least at q = W·√(c2/(A + c0)), no slower than it
 * flies.
 */
function glideOf(
  l: LatticeResult,
  { cg, weight, density, resistance }: At,
  slowestSpeed: number,
  of: Doubts,
): Pick<FlightResult["values"], "glideRatio" | "glideSpeed"> {
  const level = trimmed(l.model, cg);
  const { c0, c1, c2 } = level ? polarOf(l, level) : { c0: 0, c1: 0, c2: 0 };
  const still = resistance.area + c0;
  const fast =
    c2 > 0 && still > 0
      ? Math.max(slowestSpeed, Math.sqrt((2 * weight * Math.sqrt(c2 / still)) / density))
      : slowestSpeed;
  const q = (density * fast ** 2) / 2;
  const glide = weight / levelDragAt({ c0, c1, c2 }, resistance.area, q, weight);
  if (!(glide > 0 && resistance.area > 0)) return { glideRatio: null, glideSpeed: null };
  const off = resistance.sd / resistance.area;
  return {
    glideRatio: { value: glide, by: { "/drag": -0.5 * glide * off } },
    glideSpeed: {
      value: fast,
      by: {
        "/drag": -0.25 * fast * off,
        "/mass": (fast * of.massSd) / (2 * of.mass),
        "/air": (-fast * of.densitySd) / (2 * density),
      },
    },
  };
}

/** Flight of a craft on its wings: where the CG stands against what they need, how slow it flies, how it is trimmed. */
export const flight = subject({
  name: "flight",
  reads: ["surfaces", "bodies", "flight", "dragArea", "units", "items", "brief.environment"],
  needs: [lattice, balance, mass, air],
  gives: keysOf(quantities),
  compute(view, of): Outcome<FlightResult> {
    const [wings, at, ledger, here] = [of(lattice), of(balance), of(mass), of(air)];
    if (wings.status !== "solved") return wings;
    if (here.status !== "solved") return { status: "missing", needs: ["air"] };
    const l = wings.result;
    // Trim and margin rest on where the mass is: while a part has no place they are open.
    const cg = at.status === "solved" && placesUnsaid(view.items, "x", "z").length === 0 ? at.result : null;
    const m = ledger.status === "solved" ? ledger.result : null;
    const { inWater } = l;
    const fluid = inWater ? { density: waterOf(view.brief.environment).density, densitySd: 0 } : here.result;
    const { density, densitySd } = fluid;
    // A drag area that was entered is one of the air.
    const known = inWater ? null : view.dragArea;
    const shapes = inWater
      ? { surfaces: wetted(view.surfaces, view.flight.waterline?.value ?? 0), bodies: [] }
      : { surfaces: view.surfaces, bodies: view.bodies };
    const resistance = resistanceOf(
      shapes.surfaces,
      shapes.bodies,
      known ? { value: known.value, sd: magnitudeSd(known) } : null,
    );
    const inputs: FlightInput[] = [...l.inputs];
    const values: FlightResult["values"] = {
      neutralPoint: l.neutral,
      cgAft: l.aft,
      // Set foils, and no control to trim them: a share of their chord says nothing of how far ahead the CG may be.
      cgForward: l.inWater && l.forwardBy === "judgement" ? null : l.forward,
      staticMargin: null,
      stallSpeed: null,
      wingLoading: null,
      cubeLoading: null,
      trimCommand: null,
      glideRatio: null,
      glideSpeed: null,
      turnRadius: null,
    };
    const weight = m ? m.mass * GRAVITY : 0;
    const state: At | null =
      cg && m ? { cg: cg.cg.x, cgZ: cg.cg.z, weight, density, resistance, thrust: thrustHeight(view) } : null;
    let slow: Slowest | null = null;
    let steepest = 0;
    if (cg && m && state) {
      inputs.push(...inputsBeside(cg, m, fluid, { resistance, known }));
      const scaled = Object.fromEntries(Object.entries(l.neutral.by).map(([k, v]) => [k, v / l.mac]));
      values.staticMargin = alsoBy(
        { value: (l.neutral.value - cg.cg.x) / l.mac, by: scaled },
        "/cg",
        -cg.cgSd.x / l.mac,
      );
      values.wingLoading = loadingOf(m, l.area, shapes.surfaces, l.inputs, 1);
      if (!inWater) values.cubeLoading = loadingOf(m, l.area, shapes.surfaces, l.inputs, 1.5);
      slow = slowestLoad(l.model, cg.cg.x);
      if (slow) {
        const doubts = { cgSd: cg.cgSd.x, mass: m.mass, massSd: m.massSd, densitySd };
        const stall = stallOf(l, state, slow, doubts);
        values.stallSpeed = stall;
        if (!inWater && canBank(view.surfaces, view.flight.height)) values.turnRadius = radiusOf(stall, AT_SPEED);
        steepest = trimAt(l, state, stall.value)?.alpha ?? 0;
        values.trimCommand = trimCommandOf(l, state, AT_SPEED * stall.value, doubts);
        if (!inWater) Object.assign(values, glideOf(l, state, stall.value, doubts));
      }
    }
    const trim = cg ? trimmed(l.model, cg.cg.x) : null;
    const touches =
      cg && view.flight.height && !inWater
        ? touchesFirst(view, { x: cg.cg.x, y: 0, z: -view.flight.height.value }, LEVEL)
        : null;
    const carries = slow && mostLoad(slow.load, trim, touches);
    const heightSd = view.flight.height ? magnitudeSd(view.flight.height) : 0;
    const x = cg?.cg.x ?? l.neutral.value;
    return {
      status: "solved",
      result: {
        values,
        inputs,
        slow,
        at: state,
        steepest,
        touches,
        slowest:
          slow && carries !== null && state
            ? slowestOf({ slow, carries, trim, touches, heightSd }, state, values.stallSpeed)
            : null,
        resistance,
        levelDrag:
          trim && state && !inWater
            ? {
                area: { value: resistance.area, sd: resistance.sd, evidence: known?.evidence ?? "calculated" },
                ...polarOf(l, trim),
                carries,
              }
            : null,
        inWater,
        waves: inWater && l.depth !== null ? wavesBelow(l.depth, l.mac) : 0,
        whole: known !== null,
        travel: trim?.command ? trim.travel : null,
        // Into the wind: about the CG, against the bodies that turn it away.
        yaw: -(l.beta.mz - x * l.beta.y) - l.bodyYaw,
        fins: l.strips.some((s) => Math.abs(s.tz) > 0.5),
        heightPoint: heightPointOf(l, state),
        rollDamping: l.roll.mx,
        rollControl: l.rollControl ? { reaction: Math.abs(l.rollControl.mx), travel: l.rollTravel } : null,
        weight,
        density,
      },
    };
  },
  quantities(result, view, of) {
    const ledger = of(mass);
    const lacks = ledger.status === "solved" ? ledger.result.incomplete : [];
    const out: Partial<Record<FlightKey, Quantity>> = {};
    for (const key of keysOf(quantities)) {
      const d = result.values[key];
      if (!d) continue;
      const glide = key === "glideRatio" || key === "glideSpeed";
      out[key] = {
        value: d.value,
        sd: sdOf(d),
        dimension: quantities[key].dimension,
        evidence: evidenceIn(result.inputs, d),
        ...doubtsOf(outsideOf(key, result), [
          ...(view.flight.whole ? [] : [NOT_WHOLE]),
          ...(SHAPE_ALONE.includes(key) ? [] : lacks),
          ...(glide && !result.whole ? [ONLY_WINGS] : []),
        ]),
      };
    }
    return out;
  },
  lacks: (key, { values, inWater }, view) =>
    key === "cgForward" && inWater
      ? "foils without a pitch control: how far ahead the CG may be is not computed so far"
      : key === "cubeLoading" && inWater
        ? "it is a measure of craft in air"
        : key === "turnRadius" && values.stallSpeed && !canBank(view.surfaces, view.flight.height)
          ? "so near the ground a tip touches before 45° of bank"
          : null,
  working(key, result) {
    const d = result.values[key as FlightKey];
    return d ? shapeWorking(result.inputs, d) : [];
  },
});

/** What is said of every number of the wings until somebody says that nothing is left out of them. */
export const NOT_WHOLE = "whether every wing, tail, fin and body is described is not said";
/** What is said of a drag that was reckoned from the shape. */
export const ONLY_WINGS = "only wings and bodies are in its drag: gear, struts and propellers are not";
/** Mass over a power of the area, with the doubt of each surface's chords and span. */
function loadingOf(
  m: { mass: number; massSd: number },
  area: number,
  surfaces: readonly Surface[],
  inputs: readonly FlightInput[],
  power: number,
): Doubtful {
  const value = m.mass / area ** power;
  const by: Record<string, number> = { "/mass": (value * m.massSd) / m.mass };
  for (const s of surfaces.filter(lifts))
    for (const key of ["chord", "span"]) {
      const input = inputs.find((i) => i.id === `${s.id}/${key}`);
      if (input) by[input.id] = (-power * value * planformOf(s).plan * input.sd) / (area * input.value);
    }
  return { value, by };
}

/** Slow flight on foils, m/s: above the stall as others are, and no slower than they run without waves of their own. */
export const slowestOnFoils = ({ values, waves }: Pick<FlightResult, "values" | "waves">): number | null =>
  values.stallSpeed ? Math.max(AT_SPEED * values.stallSpeed.value, waves) : null;

/** Numbers of the shape alone: no mass bears on them. */
const SHAPE_ALONE: FlightKey[] = ["neutralPoint", "cgAft", "cgForward"];

const LEVEL = { up: { x: 0, y: 0, z: 1 }, ahead: { x: -1, y: 0, z: 0 } };
/** Angle of attack beyond which small angles no longer hold, rad. */
const STEEP = 0.35;
/**
 * v/√(g·depth) below which the water's surface is not the free one of high speed (Hough and Moran 1969, from memory).
 */
const LEAST_FROUDE = 2;
/**
 * Chords of depth beyond which the surface takes less than 1/200 of the lift, whatever the speed: with h chords of
 * depth a thin foil keeps (1 + 16h²)/(2 + 16h²) of it at high speed (Hough and Moran 1969, from memory).
 */
const DEEP = 5;
/** m/s below which foils of this mean chord (m) at this depth (m) make waves. */
const wavesBelow = (depth: number, chord: number): number =>
  depth > DEEP * chord ? 0 : LEAST_FROUDE * Math.sqrt(GRAVITY * Math.max(depth, 1e-6));
/** What of a number lies beyond the lattice. */
function outsideOf(key: FlightKey, result: FlightResult): string[] {
  const out: string[] = [];
  const steep = result.steepest;
  if (["stallSpeed", "turnRadius", "cgForward"].includes(key) && steep > STEEP)
    out.push(`${Math.round((steep * 180) / Math.PI)}° nose up at the stall: beyond the small angles of a lattice`);
  const { values, touches, waves } = result;
  if (key === "stallSpeed" && touches && steep > touches.clear) {
    const degrees = (rad: number) => Math.round((rad * 180) / Math.PI);
    out.push(
      `${degrees(steep)}° nose up at the stall: at this height “${touches.name}” touches the ground at ` +
        `${degrees(touches.clear)}°, so it flies no slower than that allows`,
    );
  }
  const slowest = values.stallSpeed?.value ?? 0;
  if (slowest < waves && ["stallSpeed", "trimCommand"].includes(key)) {
    const froude = (LEAST_FROUDE * slowest) / waves;
    out.push(`so slow for its depth that it makes waves: Froude number ${froude.toFixed(1)}, below ${LEAST_FROUDE}`);
  }
  if (key === "trimCommand" && result.travel) {
    const d = result.values.trimCommand;
    const limit = d && d.value > 0 ? result.travel.up : result.travel.down;
    if (d && Math.abs(d.value) > limit) out.push("beyond the travel of the pitch control");
  }
  return out;
}

/** Where the lift of a change in height acts, in level flight at 1.3 times the stall speed. */
function heightPointOf(l: LatticeResult, at: At | null): number | null {
  if (!l.ground || !at) return null;
  const slow = slowestLoad(l.model, at.cg);
  const trim = trimmed(l.model, at.cg);
  if (!slow || !trim) return null;
  const load = slow.load / AT_SPEED ** 2;
  const alpha = trim.alpha.at0 + trim.alpha.per * load;
  const command = trim.command ? trim.command.at0 + trim.command.per * load : 0;
  const sum = (m: FlightModel, key: "z" | "my") =>
    m.set[key] +
    m.alpha[key] * alpha +
    m.controls.reduce((s, c, k) => s + (trim.signs[k] ?? 0) * command * c.reaction[key], 0);
  const dz = sum(l.ground.higher, "z") - sum(l.ground.lower, "z");
  const dm = sum(l.ground.higher, "my") - sum(l.ground.lower, "my");
  return Math.abs(dz) > 1e-12 ? -dm / dz : null;
}
