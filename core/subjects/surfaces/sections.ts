import type { Known } from "../../design/evidence";

/**
 * Generic families of wing sections at the Reynolds numbers of small craft (5e4 to 3e5). Zero-lift angle and moment of
 * the cambered ones by thin-aerofoil theory for a circular arc of that camber;
 * greatest lift and profile drag: bands of published low-speed tunnel surveys, from memory, so each stands with ± 10 %
 * (lift) and ± 25 % (drag).
 */
export interface Section {
  word: string;
  /** angle of attack without lift, rad */
  zeroLift: number;
  /** greatest lift coefficient of the section, upright */
  most: number;
  /** greatest lift coefficient downward, as a positive number */
  mostDown: number;
  /** profile drag coefficient at small lift */
  drag: number;
  /** moment coefficient about the quarter chord, positive nose up */
  moment: number;
}

const DEGREE = Math.PI / 180;
/** A circular arc of camber f (share of the chord), thin-aerofoil theory: α₀ = −2f rad, c_m,c/4 = −π·f. */
const arc = (f: number) => ({ zeroLift: -2 * f, moment: -Math.PI * f });

export const SECTIONS = {
  "flat plate": { word: "flat plate", zeroLift: 0, most: 0.75, mostDown: 0.75, drag: 0.018, moment: 0 },
  "stepped plate": {
    word: "folded sheet with a step",
    zeroLift: -1 * DEGREE,
    most: 0.95,
    mostDown: 0.7,
    drag: 0.022,
    moment: -0.01,
  },
  symmetric: { word: "symmetric, 8 to 12 % thick", zeroLift: 0, most: 0.95, mostDown: 0.95, drag: 0.013, moment: 0 },
  "cambered 2 %": { word: "2 % camber", ...arc(0.02), most: 1.15, mostDown: 0.75, drag: 0.014 },
  "cambered 4 %": { word: "4 % camber", ...arc(0.04), most: 1.3, mostDown: 0.6, drag: 0.016 },
  "thin and curved": { word: "thin curved sheet, 6 %", ...arc(0.06), most: 1.3, mostDown: 0.5, drag: 0.02 },
  reflexed: {
    word: "reflexed, for a craft without a tail",
    zeroLift: -0.5 * DEGREE,
    most: 1.05,
    mostDown: 0.75,
    drag: 0.015,
    moment: 0.01,
  },
} as const satisfies Record<string, Section>;
export const SECTION_NAMES = Object.keys(SECTIONS) as [keyof typeof SECTIONS, ...(keyof typeof SECTIONS)[]];
export type SectionName = keyof typeof SECTIONS;

/** How well a family's greatest lift and drag are known, as a share; its zero-lift angle, rad. */
export const FAMILY_OFF = { most: 0.1, drag: 0.25, zeroLift: 0.7 * DEGREE };

/** What a builder knows of a section by hand stands before its family. */
export interface SectionSaid {
  family: SectionName;
  zeroLift: number | null;
  most: Known | null;
  drag: Known | null;
}
/** The section in force: its family's figures with what was entered by hand in their place. */
export function sectionOf(said: SectionSaid): Section {
  const family: Section = SECTIONS[said.family];
  return {
    ...family,
    ...(said.zeroLift === null ? {} : { zeroLift: said.zeroLift }),
    ...(said.most === null ? {} : { most: said.most.value }),
    ...(said.drag === null ? {} : { drag: said.drag.value }),
  };
}
