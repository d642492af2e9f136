import { type Evidence, magnitudeSd, placeSd } from "../../design/evidence";
import type { Dimension } from "../../design/units";
import type { BodyShape, Surface } from "../surfaces/declares";
import { stationsOf } from "../surfaces/planform";
import { FAMILY_OFF, sectionOf } from "../surfaces/sections";

/** What is in doubt about wings and bodies, and what the craft is with it one standard uncertainty higher. */
export interface ShapeInput {
  id: string;
  name: string;
  value: number;
  sd: number;
  dimension: Dimension;
  evidence: Evidence;
  /** which surface, and that surface as it then is */
  surface: number;
  changed: Surface;
}

const DEGREE = Math.PI / 180;
/** Angles as they are commonly known: estimated by eye, drawn, read on an incidence gauge. */
const ANGLE = { guess: 3 * DEGREE, datasheet: 1 * DEGREE, measured: 0.5 * DEGREE, proven: 0.5 * DEGREE };
/** Lengths of a shape, as a share (judgement): a sketch, a drawing that was built, a ruler. */
const SHARE = { guess: 0.05, datasheet: 0.01, measured: 0.005, proven: 0.005 };

/** Greatest lift coefficient of a surface's section with its doubt. */
export function mostOf(s: Surface): { value: number; sd: number; evidence: Evidence } {
  const section = sectionOf(s.section);
  const own = s.section.most;
  return own
    ? { value: own.value, sd: magnitudeSd(own), evidence: own.evidence }
    : { value: section.most, sd: FAMILY_OFF.most * section.most, evidence: "datasheet" };
}
/** Profile drag coefficient of a surface's section with its doubt. */
export function dragOf(s: Surface): { value: number; sd: number; evidence: Evidence } {
  const section = sectionOf(s.section);
  const own = s.section.drag;
  return own
    ? { value: own.value, sd: magnitudeSd(own), evidence: own.evidence }
    : { value: section.drag, sd: FAMILY_OFF.drag * section.drag, evidence: "datasheet" };
}

/** Every doubtful figure of the shapes: place, chords, span, sweep, setting and section of each surface. */
export function shapeInputs(surfaces: readonly Surface[], craftLength: number): ShapeInput[] {
  return surfaces.flatMap((s, k) => {
    if (s.panels.length === 0) return [];
    const evidence = s.shapeBy;
    const length = stationsOf(s).at(-1)?.along ?? 0;
    const grown = (share: number, which: "chord" | "span"): Surface =>
      which === "chord"
        ? { ...s, chord: s.chord * share, panels: s.panels.map((p) => ({ ...p, chord: p.chord * share })) }
        : { ...s, panels: s.panels.map((p) => ({ ...p, span: p.span * share })) };
    const place = placeSd(evidence, craftLength, undefined);
    const section = sectionOf(s.section);
    const zeroLift = s.section.zeroLift === null ? FAMILY_OFF.zeroLift : 0.5 * DEGREE;
    const [share, angle] = [SHARE[evidence], ANGLE[evidence]];
    const one = (
      key: string,
      word: string,
      value: number,
      sd: number,
      dimension: Dimension,
      changed: Surface,
      by: Evidence = evidence,
    ): ShapeInput => ({
      id: `${s.id}/${key}`,
      name: `${s.name}: ${word}`,
      value,
      sd,
      dimension,
      evidence: by,
      surface: k,
      changed,
    });
    return [
      one("x", "place along x", s.at.x, place, "length", { ...s, at: { ...s.at, x: s.at.x + place } }),
      one("chord", "chords", s.chord, share * s.chord, "length", grown(1 + share, "chord")),
      one("span", "span of a side", length, share * length, "length", grown(1 + share, "span")),
      one("sweep", "sweep", s.panels[0]?.sweep ?? 0, angle, "angle", {
        ...s,
        panels: s.panels.map((p) => ({ ...p, sweep: p.sweep + angle })),
      }),
      one("incidence", "incidence", s.incidence, angle, "angle", { ...s, incidence: s.incidence + angle }),
      one(
        "zeroLift",
        "angle without lift",
        section.zeroLift,
        zeroLift,
        "angle",
        { ...s, section: { ...s.section, zeroLift: section.zeroLift + zeroLift } },
        s.section.zeroLift === null ? "datasheet" : evidence,
      ),
    ];
  });
}

/** Area, m², and mean height, m, of what bodies and surfaces hold against the air. */
export interface Resistance {
  /** drag coefficient times area, m² */
  area: number;
  sd: number;
  /** m above the baseline */
  height: number;
}
/** Drag of a body's skin: turbulent friction at Reynolds numbers of 1e5 to 1e6, with its form (common practice). */
export const SKIN = { value: 0.009, off: 0.4 };
export const bodyHeight = (b: BodyShape): number => b.frames.reduce((s, f) => s + f.z, 0) / b.frames.length;
