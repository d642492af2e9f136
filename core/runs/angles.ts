import type { CraftFile, Version } from "../design/craftFile";
import type { Angle, Run } from "../design/run";
import type { Design } from "../design/schema";
import { lineOf } from "./ladder";

const DEGREE = Math.PI / 180;
/** How well an angle is read with a protractor or a throw gauge at a hinge, rad (common practice). */
export const ANGLE_SD = 0.5 * DEGREE;

/** An angle that nobody has read yet. */
export type Asked = Pick<Angle, "what" | "side" | "of">;

/**
 * What of a craft is worth measuring after a run that went well: where each control rests, each side by itself, and
 * what was measured of the craft before.
 */
export function askedOf(design: Pick<Design, "surfaces">, before: readonly Angle[] = []): Asked[] {
  const asked: Asked[] = design.surfaces.flatMap((s) =>
    s.controls.flatMap((c) =>
      (s.mirrored ? (["port", "starboard"] as const) : (["middle"] as const)).map((side) => ({
        what: `${s.name}, ${c.name}`.slice(0, 80),
        side,
        of: "neutral" as const,
      })),
    ),
  );
  const same = (a: Asked, b: Asked) => a.what === b.what && a.side === b.side && a.of === b.of;
  return [
    ...asked,
    ...before.flatMap(({ what, side, of }) =>
      asked.some((a) => same(a, { what, side, of })) ? [] : [{ what, side, of }],
    ),
  ];
}

export interface Uneven {
  what: string;
  of: Angle["of"];
  /** port less starboard, rad */
  by: number;
  sd: number;
}

/** Doubts beyond which two sides are told apart: 19 times in 20. */
const APART = 1.96;

/** Things of which both sides were measured, and stand otherwise: beyond what the gauge leaves open. */
export function unevenOf(angles: readonly Angle[]): Uneven[] {
  return angles.flatMap((a) => {
    if (a.side !== "port") return [];
    const b = angles.find((o) => o.side === "starboard" && o.what === a.what && o.of === a.of);
    if (!b) return [];
    const [by, sd] = [a.value - b.value, Math.hypot(a.sd, b.sd)];
    return Math.abs(by) > APART * sd ? [{ what: a.what, of: a.of, by, sd }] : [];
  });
}

/** The newest run of a version or of one that it grew from that passed and of which the angles are known. */
export function asItFlew(file: Pick<CraftFile, "versions" | "runs">, version: Pick<Version, "label">): Run | null {
  const line = lineOf(file.versions, version.label);
  const held = file.runs.filter((r) => r.outcome === "passed" && r.angles.length > 0 && line.includes(r.version));
  return held.toSorted((a, b) => Date.parse(a.date) - Date.parse(b.date)).at(-1) ?? null;
}
