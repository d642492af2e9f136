import type { Known } from "../design/evidence";
import type { Unit } from "../design/schema";
import type { Propulsor, PropulsorKind, PropulsorOf } from "../subjects/propulsion/kinds/declares";

/** How another size of what is on a drive's shaft is made of the one that is there. */
export interface SizedKind<P> {
  /** what tells its size, and in words what else can be varied */
  size: { label: string; of: (p: P) => number };
  ratio: { label: string; of: (p: P) => number } | null;
  blades: ((p: P) => number) | null;
  /** share by which everything of it is longer, its pitch over its size, and how many blades */
  made: (p: P, by: number, ratio: number, blades: number) => P;
  /** the same under so many times the weight; what rests on nothing stays as it is */
  loaded?: (p: P, factor: number) => P;
}

/** Another figure than the one that somebody knows is a guess until one is chosen. */
const times = (k: Known, factor: number): Known => (factor === 1 ? k : { value: k.value * factor, evidence: "guess" });
const fixed = (was: Known, value: number): Known =>
  Math.abs(value / was.value - 1) < 1e-9 ? was : { value, evidence: "guess" };

const SIZED: { [K in PropulsorKind]: SizedKind<PropulsorOf<K>> } = {
  "ducted fan": {
    size: { label: "Duct inside", of: (p) => p.diameter.value },
    ratio: { label: "Pitch over diameter", of: (p) => p.pitch.value / p.diameter.value },
    blades: (p) => p.blades,
    made: (p, by, ratio, blades) => ({
      ...p,
      diameter: times(p.diameter, by),
      hub: times(p.hub, by),
      pitch: fixed(p.pitch, ratio * p.diameter.value * by),
      chord: times(p.chord, by),
      blades,
      length: p.length * by,
      exit: p.exit && times(p.exit, by ** 2),
    }),
  },
  wheel: {
    size: { label: "Rolling radius", of: (p) => p.radius.value },
    ratio: null,
    blades: null,
    made: (p, by) => ({ ...p, radius: times(p.radius, by) }),
    loaded: (p, factor) => ({ ...p, load: times(p.load, factor) }),
  },
  "screw drum": {
    size: { label: "Drum diameter", of: (p) => p.diameter.value },
    ratio: { label: "Lead over diameter", of: (p) => p.lead.value / p.diameter.value },
    blades: null,
    made: (p, by, ratio) => ({
      ...p,
      diameter: times(p.diameter, by),
      length: times(p.length, by),
      blade: times(p.blade, by),
      lead: fixed(p.lead, ratio * p.diameter.value * by),
    }),
    loaded: (p, factor) => ({ ...p, load: times(p.load, factor) }),
  },
  "flapping wings": {
    size: { label: "Span of the wings", of: (p) => p.span.value },
    ratio: null,
    blades: null,
    made: (p, by) => ({ ...p, span: times(p.span, by), area: times(p.area, by ** 2) }),
  },
  "cycloidal rotor": {
    size: { label: "Rotor radius", of: (p) => p.radius.value },
    ratio: null,
    blades: (p) => p.blades,
    made: (p, by, _ratio, blades) => ({
      ...p,
      radius: times(p.radius, by),
      span: times(p.span, by),
      chord: times(p.chord, by),
      bladeMass: p.bladeMass === null ? null : p.bladeMass * by ** 3,
      blades,
    }),
  },
};

export const sizedKind = (p: Propulsor): SizedKind<Propulsor> => SIZED[p.kind] as unknown as SizedKind<Propulsor>;

/** Of an open propeller: its part is made by itself, from what is stamped on it. */
const OPEN = { size: "Diameter", ratio: "Pitch over diameter" };

/** What of a drive's propulsor can be varied, in words and as it is; null: it is known by its measured curve alone. */
export interface Shaped {
  size: { label: string; value: number };
  ratio: { label: string; value: number } | null;
  blades: number | null;
}
export function shapedOf(unit: Pick<Unit, "measured" | "propulsor" | "propeller">): Shaped | null {
  const { measured, propulsor: p, propeller } = unit;
  if (measured) return null;
  if (!p) {
    const [diameter, pitch] = [propeller.diameter.value, propeller.pitch.value];
    return {
      size: { label: OPEN.size, value: diameter },
      ratio: { label: OPEN.ratio, value: pitch / diameter },
      blades: propeller.blades,
    };
  }
  const { size, ratio, blades } = sizedKind(p);
  return {
    size: { label: size.label, value: size.of(p) },
    ratio: ratio && { label: ratio.label, value: ratio.of(p) },
    blades: blades ? blades(p) : null,
  };
}

/** Whether two drives can take the same parts: what is on their shafts is of one kind. */
export const alike = (a: Pick<Unit, "measured" | "propulsor">, b: Pick<Unit, "measured" | "propulsor">): boolean =>
  !a.measured && !b.measured && a.propulsor?.kind === b.propulsor?.kind;

/** Hub over inside, and length over inside, of a duct that is put around a propeller (judgement). */
const DUCT = { hub: 0.2, length: 0.5 };
/**
 * The same blades in a duct that fits them closely: its exit as wide as their ring, its lip not said. Nobody built it:
 * all of it is a guess.
 */
export const ductAround = ({ diameter, pitch, blades, chord }: Unit["propeller"]): PropulsorOf<"ducted fan"> => ({
  kind: "ducted fan",
  diameter: { value: diameter.value, evidence: "guess" },
  hub: { value: DUCT.hub * diameter.value, evidence: "guess" },
  blades: Math.max(2, Math.min(16, blades)),
  pitch: { value: pitch.value, evidence: "guess" },
  chord: { value: chord.value, evidence: "guess" },
  length: DUCT.length * diameter.value,
  exit: null,
  lip: "not said",
});

/** Wall of a printed duct, m, and what it weighs, kg/m³; struts and lip add a third (judgement, ± half). */
const SHELL = { wall: 0.001, density: 1200, more: 1.33 };
/** Mass (kg) of the duct that is put around a propeller of this diameter (m), without its blades. */
export const ductMass = (diameter: number): number =>
  SHELL.more * SHELL.density * SHELL.wall * Math.PI * diameter * DUCT.length * diameter;
