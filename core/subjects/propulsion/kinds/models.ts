import { type Evidence, type Known, magnitudeSd } from "../../../design/evidence";
import type { Support } from "../../../design/support";
import { taggedFields } from "../../../design/taggedFields";
import type { Dimension } from "../../../design/units";
import { remembering } from "../../../numeric/memo";
import type { Medium } from "../../air/air";
import { stallOutside } from "../section";
import { type MapSpan, type ShaftMap, fastestRpm, tabulated } from "../shaft";
import { cycloidLoad } from "./cycloid";
import { type Propulsor, type PropulsorKind, type PropulsorOf, propulsorSchema } from "./declares";

import { drumLoad } from "./drum";
import { type Duct, ductLoad, ductLoss, ringOf } from "./duct";
import { PEAK, flapperLoad } from "./flapper";
import { wheelLoad } from "./wheel";

/** An uncertain number of a propulsor: one that was entered, or one that its method rests on. */
export interface KindInput {
  key: string;
  label: string;
  value: number;
  sd: number;
  evidence: Evidence;
  dimension: Dimension;
}
/** Value of an uncertain number by its key, the stated one where nothing is varied. */
type Values = (key: string, stated: number) => number;

/**
 * Everything that tells one kind of propulsor from another: a kind is one entry here, one schema and one file of
 * physics.
 */
export interface KindModel<P extends Propulsor> {
  /** in words, as shown */
  word: string;
  /** what stands for the blades of a propeller in it */
  formula: string;
  source: string;
  range: string;
  /** share by which thrust and torque of one that was never measured may be off (judgement, docs/physics.md) */
  doubt: { thrust: number; torque: number };
  /** works in air or water, as the drive says; else in what the kind itself says */
  inFluid: boolean;
  /** what it pushes in motion is told too */
  moves: boolean;
  /** numbers that its method rests on beyond those entered */
  more?: (p: P) => KindInput[];
  map: (p: P, v: Values, medium: Medium) => ShaftMap;
  /** area of one that its stream passes, m²; null where that has no meaning */
  face: (p: P) => number | null;
  /** diameter of the circle that its tips run on, m; null where nothing whirls in the open */
  tips: (p: P) => number | null;
  /** pushes on the ground: standing it creeps or spins, so what it draws when it drives is not told by that */
  ground: (p: P) => boolean;
  /** m that it would go on in a turn without slip; null where that has no meaning */
  advance: (p: P) => number | null;
  /** largest over mean torque within a turn */
  peak: number;
  /** where its shape leaves the range of its method, as sentences */
  outside: (p: P) => string[];
  /** where it works beyond what its method was ever held against, at an rpm and standing, as a sentence */
  beyond?: (p: P, rpm: number, medium: Medium) => string | null;
  /** why it does not work on this craft, as a sentence */
  elsewhere: (p: P, held: Support) => string | null;
}

const turn = 2 * Math.PI;
/** A propulsor in plain numbers: what was entered with how it is known is its value alone. */
type Plain<P> = { [K in keyof P]: P[K] extends Known ? number : P[K] extends Known | null ? number | null : P[K] };
const plain = <P extends Propulsor>(p: P, v: Values): Plain<P> =>
  Object.fromEntries(
    Object.entries(p).map(([key, x]) => [key, typeof x === "object" && x !== null ? v(key, x.value) : x]),
  ) as Plain<P>;
const direct = (
  load: (speed: number, rpm: number) => { thrust: number; torque: number; solved?: boolean },
): ShaftMap => ({
  at: (rpm, speed = 0) => load(speed, rpm),
  torque: (rpm, speed = 0) => load(speed, rpm).torque,
  solved: true,
});
const maps = remembering<ShaftMap>(60);
/** The map of what whirls, from its load at a speed and an rpm; remembered by all of its numbers. */
const whirling = (
  shape: object,
  medium: Medium,
  span: Pick<MapSpan, "diameter" | "lastAdvance">,
  load: Parameters<typeof tabulated>[0],
): ShaftMap =>
  maps(JSON.stringify([shape, medium]), () => tabulated(load, { ...span, maxRpm: fastestRpm(span.diameter, medium) }));

const EXIT = { from: 0.6, to: 1.3 };
/** Pitch over diameter of fans: blades steeper than these stall standing, finer ones hardly push (judgement). */
const PITCH = { from: 0.3, to: 1.6 };
/** Nothing varied. */
const AS_STATED: Values = (_, stated) => stated;
const ductOf = (p: PropulsorOf<"ducted fan">, v: Values): Duct => {
  const { kind: _, lip, length, exit, ...fan } = plain(p, v);
  return {
    ...fan,
    exit: exit ?? v("exit", ringOf(fan)),
    loss: v("lip", ductLoss(lip, length, p.diameter.value).value),
  };
};
const ductedFan: KindModel<PropulsorOf<"ducted fan">> = {
  word: "ducted fan",
  formula: "½ρW²·B·c·c_n = (½ρ(V_e² − V²) + ½ρ·K·v²)·2πr in each ring, v = V_e·A_e/A, T = Σ ρ·v·(V_e − V)·2πr·dr",
  source:
    "Blade elements in the stream that the duct prescribes (momentum theory with the ratio of exit to ring; Leishman).",
  range:
    "Exit 0.6 to 1.3 of the ring that the blades sweep, 2 to 16 blades; never on a stand: thrust ± 15 " +
    "%, torque ± 20 %.",
  doubt: { thrust: 0.15, torque: 0.2 },
  inFluid: true,
  moves: true,
  more: (p) => [
    {
      key: "lip",
      label: "Loss of lip and walls",
      ...ductLoss(p.lip, p.length, p.diameter.value),
      evidence: p.lip === "not said" ? "guess" : "calculated",
      dimension: "ratio",
    },
    ...(p.exit
      ? []
      : [
          {
            key: "exit",
            label: "Exit of the duct",
            value: ringOf({ diameter: p.diameter.value, hub: p.hub.value }),
            sd: 0.1 * ringOf({ diameter: p.diameter.value, hub: p.hub.value }),
            evidence: "guess" as const,
            dimension: "area" as const,
          },
        ]),
  ],
  map(p, v, medium) {
    const duct = ductOf(p, v);
    const span = { diameter: duct.diameter, lastAdvance: (1.35 * duct.pitch) / duct.diameter + 0.1 };
    return whirling(duct, medium, span, (speed, rpm) => ductLoad(duct, medium, speed, rpm));
  },
  face: (p) => ringOf({ diameter: p.diameter.value, hub: p.hub.value }),
  tips: (p) => p.diameter.value,
  ground: () => false,
  advance: (p) => p.pitch.value,
  peak: 1,
  outside(p) {
    const ratio = p.pitch.value / p.diameter.value;
    const wide = p.exit ? p.exit.value / ringOf({ diameter: p.diameter.value, hub: p.hub.value }) : 1;
    return [
      ...(ratio < PITCH.from || ratio > PITCH.to
        ? [`pitch over the inside of its duct ${ratio.toFixed(2)} is outside ${PITCH.from} to ${PITCH.to}`]
        : []),
      ...(wide < EXIT.from || wide > EXIT.to
        ? [`its exit is ${wide.toFixed(2)} of the ring of its blades, outside ${EXIT.from} to ${EXIT.to}`]
        : []),
    ];
  },
  beyond: (p, rpm, medium) => stallOutside(ductLoad(ductOf(p, AS_STATED), medium, 0, rpm).stalled)[0] ?? null,
  elsewhere: () => null,
};

const wheel: KindModel<PropulsorOf<"wheel">> = {
  word: "wheel or track",
  formula: "F = µ·N·(1 − e^(−s/k)) with the slip s = (ωr − v)/ωr, Q = F·r + c·N·r",
  source: "Torque over radius, held by grip; Janosi's slip (Wong, Theory of Ground Vehicles, from memory).",
  range: "Level ground, not dug in; never weighed: push ± 10 %, torque ± 10 %, beside the doubt about its grip.",
  doubt: { thrust: 0.1, torque: 0.1 },
  inFluid: false,
  moves: true,
  map: (p, v) => {
    const w = plain(p, v);
    return direct((speed, rpm) => wheelLoad(w, speed, rpm));
  },
  face: () => null,
  tips: () => null,
  ground: () => true,
  advance: (p) => turn * p.radius.value,
  peak: 1,
  outside: (p) => (p.grip.value > 1.2 ? [`a grip of ${p.grip.value.toFixed(2)} is more than bare ground gives`] : []),
  elsewhere: (_, held) =>
    held.onGround ? null : "pushes on the ground, and nothing in Brief says that the craft stands on it",
};

const screwDrum: KindModel<PropulsorOf<"screw drum">> = {
  word: "screw drum",
  formula:
    "in water ½ρ·C_N·A·cos³β·(np − v − w)² = 2ρ·A_ring·(v + w)·w; aground F = min(c·A + N·tan φ, " +
    "0.75·N)·(1 − e^(−s/k)), Q = F·d/2·(l + πµd)/(πd − µl)",
  source:
    "In water a slipping helix in the stream of its own ring; in mud and snow Mohr–Coulomb shear with " +
    "Janosi's slip, turned as a power screw (Wong; Shigley; from memory).",
  range: "Order of magnitude: push ± 50 %, torque ± 40 %. Weigh the pull of one.",
  doubt: { thrust: 0.5, torque: 0.4 },
  inFluid: false,
  moves: true,
  map(p, v, medium) {
    const drum = plain(p, v);
    return direct((speed, rpm) => drumLoad(drum, medium, speed, rpm));
  },
  face: () => null,
  tips: () => null,
  ground: (p) => p.on !== "water",
  advance: (p) => p.lead.value,
  peak: 1,
  outside: () => [],
  elsewhere: (p, held) =>
    p.on !== "water" && !held.onGround
      ? `works in ${p.on}, and nothing in Brief says that the craft goes on the ground`
      : p.on === "water" && !held.afloat && !held.onGround
        ? "works in water, and the craft does not float"
        : null,
};

/** Fastest tip of a beat that models are known to hold, m/s (judgement). */
const BEATS_TO = 20;
const flapping: KindModel<PropulsorOf<"flapping wings">> = {
  word: "flapping wings",
  formula: "F = ½ρ·C_F·S·(b²/12)·½(πfΦ)², P = ½ρ·C_D·S·(b³/32)·(πfΦ)³·4/(3π), Q = P/(2πf)",
  source: "Quasi-steady strips (Ellington 1984, Weis-Fogh 1973), mean coefficients of hovering wings (from memory).",
  range:
    "Standing or hovering, one beat a turn, stroke 20° to 180°; push ± 25 %, torque ± 35 %; the wing's " +
    "inertia is left out.",
  doubt: { thrust: 0.25, torque: 0.35 },
  inFluid: false,
  moves: false,
  map(p, v, medium) {
    const wing = plain(p, v);
    return direct((_, rpm) => flapperLoad(wing, medium.density, rpm));
  },
  face: () => null,
  // The tips swing: they do not run on a circle at the crank's speed.
  tips: () => null,
  ground: () => false,
  advance: () => null,
  peak: PEAK,
  outside: (p) =>
    p.stroke.value < Math.PI / 9 || p.stroke.value > Math.PI
      ? [`a stroke of ${Math.round((p.stroke.value * 180) / Math.PI)}° is outside 20° to 180°`]
      : [],
  beyond(p, rpm) {
    const tip = ((Math.PI * rpm) / 60) * p.stroke.value * (p.span.value / 2);
    return tip > BEATS_TO
      ? `its tips would beat at up to ${tip.toFixed(0)} m/s: beyond ${BEATS_TO} m/s wings of models hold only on paper`
      : null;
  },
  elsewhere: () => null,
};

const cycloidal: KindModel<PropulsorOf<"cycloidal rotor">> = {
  word: "cycloidal rotor",
  formula: "mean over a turn of B·½ρW²·c·b·(c_l·cos φ − c_d·sin φ)·|sin ψ| = 2ρ·2R·b·v²",
  source: "Blade elements around a turn in an actuator's stream of area 2R·b (Wheatley, NACA TN 467, 1933).",
  range: "Standing; push ± 20 %, torque ± 30 %; the force across the thrust is left out.",
  doubt: { thrust: 0.2, torque: 0.3 },
  inFluid: true,
  moves: false,
  map(p, v, medium) {
    const { kind: _, bladeMass: __, ...rotor } = plain(p, v);
    const span = { diameter: 2 * rotor.radius, lastAdvance: 1 };
    return whirling(rotor, medium, span, (_speed, rpm) => cycloidLoad(rotor, medium, rpm));
  },
  face: (p) => 2 * p.radius.value * p.span.value,
  tips: (p) => 2 * p.radius.value,
  ground: () => false,
  advance: () => null,
  peak: 1,
  outside: () => [],
  elsewhere: () => null,
};

const KINDS: { [K in PropulsorKind]: KindModel<PropulsorOf<K>> } = {
  "ducted fan": ductedFan,
  wheel,
  "screw drum": screwDrum,
  "flapping wings": flapping,
  "cycloidal rotor": cycloidal,
};
export const PROPULSOR_KINDS = propulsorSchema.options.map((o) => o.shape.kind.value);
/** The model of a propulsor's kind. */
export const kindOf = (p: Propulsor): KindModel<Propulsor> => KINDS[p.kind] as unknown as KindModel<Propulsor>;

/** Whether a drive works in air or water, as is said of it: wheels, drums and flapping wings tell by their kind. */
export const worksInFluid = (unit: { propulsor: Propulsor | null }): boolean =>
  unit.propulsor === null || kindOf(unit.propulsor).inFluid;

/** Everything uncertain of a propulsor: each number that was entered with how it is known, and those of its method. */
export const kindInputs = (p: Propulsor): KindInput[] => [
  ...taggedFields(propulsorSchema, p).flatMap(({ key, label, dimension, value }): KindInput[] =>
    typeof value === "object" && value !== null
      ? [{ key, label, dimension, value: value.value, sd: magnitudeSd(value), evidence: value.evidence }]
      : [],
  ),
  ...(kindOf(p).more?.(p) ?? []),
];
