import { placesUnsaid } from "../mass/placed";
import { evidenceByShare, magnitudeSd } from "../../design/evidence";
import type { Quantity } from "../../design/quantity";
import type { Design } from "../../design/schema";
import { type Doubtful, alsoBy, sdOf, sharesOf } from "../../numeric/doubt";
import { type Outcome, doubtsOf, keysOf, subject } from "../../subject";
import { GRAVITY } from "../air/air";
import { air } from "../air/node";
import { balance } from "../balance/node";
import { mass } from "../mass/node";
import { placedUnits } from "../propulsion/placed";
import type { BodyShape, Surface } from "../surfaces/declares";
import { planformOf } from "../surfaces/planform";
import { bodyMoments } from "./body";
import { quantities } from "./declares";
import { type Resistance, SKIN, bodyHeight, dragOf } from "./inputs";
import { type FlightInput, type LatticeResult, lattice, lifts, shapeWorking } from "./latticeNode";
import { type FlightModel, type Line, type Slowest, type Trim, slowest, trimmed } from "./model";

type FlightKey = keyof typeof quantities;

/** Level flight at one speed. */
export interface TrimPoint {
  /** m/s */
  speed: number;
  /** rad */
  alpha: number;
  /** of the pitch control, nose up positive, rad; null without one */
  command: number | null;
  /** N */
  drag: number;
}

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

/** Speed at which trim is told, as a multiple of the stall speed (common practice for an approach). */
export const AT_SPEED = 1.3;

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

/** Drag due to lift over ½ρV² in a trim, m²: c0 + c1·k + c2·k² with the load k = W/½ρV². */
interface Polar {
  c0: number;
  c1: number;
  c2: number;
}
/** Angles and command go straight with the load, and drag with the square of them: three numbers say all of it. */
function polarOf({ drag, model }: LatticeResult, trim: Trim): Polar {
  let used = 0;
  const size = drag.names.map((name): Line => {
    if (name === "set") return { at0: 1, per: 0 };
    if (name === "alpha") return trim.alpha;
    // Controls of the lattice that are no pitch control stay where they are.
    const index = used < model.controls.length && name.startsWith("control") ? used++ : -1;
    const sign = index < 0 || !trim.command ? 0 : (trim.signs[index] ?? 0);
    return trim.command ? { at0: sign * trim.command.at0, per: sign * trim.command.per } : { at0: 0, per: 0 };
  });
  const out = { c0: 0, c1: 0, c2: 0 };
  for (const [i, row] of drag.form.entries())
    for (const [j, v] of row.entries()) {
      const [a, b] = [size[i] as Line, size[j] as Line];
      out.c0 += v * a.at0 * b.at0;
      out.c1 += v * (a.at0 * b.per + a.per * b.at0);
      out.c2 += v * a.per * b.per;
    }
  return out;
}

export interface At {
  cg: number;
  cgZ: number;
  weight: number;
  density: number;
  resistance: Resistance;
  thrust: number | null;
}

/** Level flight at one speed, with the couple of thrust that equals the drag. */
export function trimAt(l: LatticeResult, at: At, speed: number): TrimPoint | null {
  const q = (at.density * speed ** 2) / 2;
  const load = at.weight / q;
  const plain = trimmed(l.model, at.cg);
  if (!plain) return null;
  const state = (t: NonNullable<typeof plain>) => ({
    alpha: t.alpha.at0 + t.alpha.per * load,
    command: t.command ? t.command.at0 + t.command.per * load : null,
  });
  const first = state(plain);
  const { c0, c1, c2 } = polarOf(l, plain);
  const drag = q * (at.resistance.area + c0 + c1 * load + c2 * load ** 2);
  if (at.thrust === null) return { speed, ...first, drag };
  // Thrust above what holds back pitches the nose down.
  const couple = (-(at.thrust - at.resistance.height) * drag) / at.weight;
  const second = trimmed(l.model, at.cg, couple);
  return second ? { speed, ...state(second), drag } : null;
}

const POINTS = 24;
/** Level flight from its slowest to three times that. */
export function trimCurve(l: LatticeResult, { at, values }: Pick<FlightResult, "at" | "values">): TrimPoint[] {
  const slowest = values.stallSpeed?.value;
  if (!at || slowest === undefined) return [];
  return Array.from({ length: POINTS }, (_, k) => trimAt(l, at, slowest * (1 + (2 * k) / (POINTS - 1)))).filter(
    (t) => t !== null,
  );
}

const slowestLoad = (m: FlightModel, cg: number): Slowest | null => {
  const trim = trimmed(m, cg);
  return trim && slowest(m, trim);
};

/** Flight of a craft on its wings: where the CG stands against what they need, how slow it flies, how it is trimmed. */
export const flight = subject({
  name: "flight",
  reads: ["surfaces", "bodies", "flight", "dragArea", "units", "items"],
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
    const { density, densitySd } = here.result;
    const known = view.dragArea;
    const resistance = resistanceOf(
      view.surfaces,
      view.bodies,
      known ? { value: known.value, sd: magnitudeSd(known) } : null,
    );
    const inputs: FlightInput[] = [...l.inputs];
    const values: FlightResult["values"] = {
      neutralPoint: l.neutral,
      cgAft: l.aft,
      cgForward: l.forward,
      staticMargin: null,
      stallSpeed: null,
      wingLoading: null,
      trimCommand: null,
      glideRatio: null,
      glideSpeed: null,
    };
    const weight = m ? m.mass * GRAVITY : 0;
    const state: At | null =
      cg && m ? { cg: cg.cg.x, cgZ: cg.cg.z, weight, density, resistance, thrust: thrustHeight(view) } : null;
    let slow: Slowest | null = null;
    let steepest = 0;
    if (cg && m && state) {
      inputs.push(
        { id: "/cg", name: "CG", value: cg.cg.x, sd: cg.cgSd.x, dimension: "length", evidence: cg.cgEvidence.x },
        { id: "/mass", name: "All-up weight", value: m.mass, sd: m.massSd, dimension: "mass", evidence: m.evidence },
        {
          id: "/air",
          name: "Air density",
          value: density,
          sd: densitySd,
          dimension: "density",
          evidence: "calculated",
        },
        {
          id: "/drag",
          name: known ? "Drag area" : "Drag of surfaces and bodies, method",
          value: resistance.area,
          sd: resistance.sd,
          dimension: "area",
          evidence: known?.evidence ?? "calculated",
        },
      );
      const scaled = Object.fromEntries(Object.entries(l.neutral.by).map(([k, v]) => [k, v / l.mac]));
      values.staticMargin = alsoBy(
        { value: (l.neutral.value - cg.cg.x) / l.mac, by: scaled },
        "/cg",
        -cg.cgSd.x / l.mac,
      );
      values.wingLoading = loadingOf(m, l.area, view.surfaces, l.inputs);
      slow = slowestLoad(l.model, cg.cg.x);
      if (slow) {
        const { load } = slow;
        const v = Math.sqrt((2 * weight) / (density * load));
        const by: Record<string, number> = {
          "/mass": (v * m.massSd) / (2 * m.mass),
          "/air": (-v * densitySd) / (2 * density),
        };
        const moved = (other: Slowest | null) => (other ? v * (Math.sqrt(load / other.load) - 1) : 0);
        for (const [id, model] of Object.entries(l.moved)) by[id] = moved(slowestLoad(model, cg.cg.x));
        by["/cg"] = moved(slowestLoad(l.model, cg.cg.x + cg.cgSd.x));
        values.stallSpeed = { value: v, by };
        steepest = trimAt(l, state, v)?.alpha ?? 0;
        const told = trimAt(l, state, AT_SPEED * v);
        if (told && told.command !== null) {
          const { command } = told;
          const at13: Record<string, number> = {};
          const change = (model: FlightModel, changed: Partial<At>) =>
            (trimAt({ ...l, model }, { ...state, ...changed }, AT_SPEED * v)?.command ?? command) - command;
          for (const [id, model] of Object.entries(l.moved)) at13[id] = change(model, {});
          at13["/cg"] = change(l.model, { cg: cg.cg.x + cg.cgSd.x });
          at13["/mass"] = change(l.model, { weight: weight + m.massSd * GRAVITY });
          at13["/drag"] = change(l.model, { resistance: { ...resistance, area: resistance.area + resistance.sd } });
          values.trimCommand = { value: command, by: at13 };
        }
        const level = trimmed(l.model, cg.cg.x);
        const { c0, c1, c2 } = level ? polarOf(l, level) : { c0: 0, c1: 0, c2: 0 };
        // D = q·(A + c0) + c1·W + c2·W²/q is least at q = W·√(c2/(A + c0)); no slower than it flies.
        const still = resistance.area + c0;
        const fast = c2 > 0 && still > 0 ? Math.max(v, Math.sqrt((2 * weight * Math.sqrt(c2 / still)) / density)) : v;
        const q = (density * fast ** 2) / 2;
        const glide = weight / (q * still + c1 * weight + (c2 * weight ** 2) / q);
        if (glide > 0 && resistance.area > 0) {
          const off = resistance.sd / resistance.area;
          const mostly = { "/drag": -0.5 * glide * off };
          values.glideRatio = { value: glide, by: mostly };
          values.glideSpeed = {
            value: fast,
            by: {
              "/drag": -0.25 * fast * off,
              "/mass": (fast * m.massSd) / (2 * m.mass),
              "/air": (-fast * densitySd) / (2 * density),
            },
          };
        }
      }
    }
    const trim = cg ? trimmed(l.model, cg.cg.x) : null;
    const x = cg?.cg.x ?? l.neutral.value;
    return {
      status: "solved",
      result: {
        values,
        inputs,
        slow,
        at: state,
        steepest,
        resistance,
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
      const shares = sharesOf(d);
      out[key] = {
        value: d.value,
        sd: sdOf(d),
        dimension: quantities[key].dimension,
        evidence: evidenceByShare(result.inputs.map((i) => ({ evidence: i.evidence, share: shares.get(i.id) ?? 0 }))),
        ...doubtsOf(outsideOf(key, result), [
          ...(view.flight.whole ? [] : [NOT_WHOLE]),
          ...(SHAPE_ALONE.includes(key) ? [] : lacks),
          ...(glide && !result.whole ? [ONLY_WINGS] : []),
        ]),
      };
    }
    return out;
  },
  working(key, result) {
    const d = result.values[key as FlightKey];
    return d ? shapeWorking(result.inputs, d) : [];
  },
});

/** What is said of every number of the wings until somebody says that nothing is left out of them. */
export const NOT_WHOLE = "whether every wing, tail, fin and body is described is not said";
/** What is said of a drag that was reckoned from the shape. */
export const ONLY_WINGS = "only wings and bodies are in its drag: gear, struts and propellers are not";
/** Mass over area, with the doubt of each surface's chords and span. */
function loadingOf(
  m: { mass: number; massSd: number },
  area: number,
  surfaces: readonly Surface[],
  inputs: readonly FlightInput[],
): Doubtful {
  const value = m.mass / area;
  const by: Record<string, number> = { "/mass": m.massSd / area };
  for (const s of surfaces.filter(lifts))
    for (const key of ["chord", "span"]) {
      const input = inputs.find((i) => i.id === `${s.id}/${key}`);
      if (input) by[input.id] = (-value * planformOf(s).plan * input.sd) / (area * input.value);
    }
  return { value, by };
}

/** Numbers of the shape alone: no mass bears on them. */
const SHAPE_ALONE: FlightKey[] = ["neutralPoint", "cgAft", "cgForward"];

/** Angle of attack beyond which small angles no longer hold, rad. */
const STEEP = 0.35;
/** What of a number lies beyond the lattice. */
function outsideOf(key: FlightKey, result: FlightResult): string[] {
  const out: string[] = [];
  const steep = result.steepest;
  if ((key === "stallSpeed" || key === "cgForward") && steep > STEEP)
    out.push(`${Math.round((steep * 180) / Math.PI)}° nose up at the stall: beyond the small angles of a lattice`);
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
