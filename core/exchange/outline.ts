import { type Flat, keptOf } from "../numeric/thinned";
import type { BodyShape, Surface } from "../subjects/surfaces/declares";
import { framesFrom } from "./framesFrom";

/** Lines of a drawing, each point after the other; a to the right and b up on the sheet, in the drawing's unit. */
export type Lines = readonly (readonly Flat[])[];
export const OUTLINE_IS = ["wing", "half wing", "fin", "body from the side", "body from above"] as const;
export type OutlineIs = (typeof OUTLINE_IS)[number];
export const NOSES = ["left", "right", "up", "down"] as const;
export type Nose = (typeof NOSES)[number];

/** The box around lines; null where there is no point. */
export function boxOf(lines: Lines): { from: Flat; to: Flat } | null {
  const all = lines.flat();
  if (all.length === 0) return null;
  const [from, to] = [{ ...(all[0] as Flat) }, { ...(all[0] as Flat) }];
  for (const p of all) {
    from.a = Math.min(from.a, p.a);
    from.b = Math.min(from.b, p.b);
    to.a = Math.max(to.a, p.a);
    to.b = Math.max(to.b, p.b);
  }
  return { from, to };
}

/** The same lines with the nose at the left and up still up, in metres. */
export function laidLeft(lines: Lines, nose: Nose, scale: number): Flat[][] {
  const turn = {
    left: (p: Flat) => p,
    // Seen from the other side, and not upside down.
    right: (p: Flat) => ({ a: -p.a, b: p.b }),
    up: (p: Flat) => ({ a: -p.b, b: p.a }),
    down: (p: Flat) => ({ a: p.b, b: p.a }),
  }[nose];
  return lines.map((l) =>
    l.map((p) => {
      const q = turn(p);
      return { a: q.a * scale, b: q.b * scale };
    }),
  );
}

/** Where lines cross a level of b, or of a: the least and the greatest of the other; null where none does. */
function crossed(lines: Lines, axis: "a" | "b", at: number): [number, number] | null {
  const other = axis === "a" ? "b" : "a";
  let [least, most] = [Infinity, -Infinity];
  for (const line of lines)
    for (let k = 1; k < line.length; k++) {
      const [p, q] = [line[k - 1], line[k]];
      if (!p || !q || p[axis] < at === q[axis] < at) continue;
      const v = p[other] + ((at - p[axis]) / (q[axis] - p[axis])) * (q[other] - p[other]);
      least = Math.min(least, v);
      most = Math.max(most, v);
    }
  return most >= least ? [least, most] : null;
}

/** Cuts over a length, the outermost just inside of its ends. */
const STEPS = 160;
const INSIDE = 2e-3;
const cutsOver = (from: number, to: number): number[] =>
  Array.from({ length: STEPS + 1 }, (_, k) => from + (to - from) * Math.min(1 - INSIDE, Math.max(INSIDE, k / STEPS)));

/** Share of the larger size by which what is left out may stand off (judgement). */
const OFF = 0.004;
/** Panels of a surface from an outline at most: more say nothing more to the lattice. */
const MOST_PANELS = 8;
/** Share of the root chord below which the tip ends (a surface has no point), and the steepest leading edge. */
const TIP = 0.02;
const STEEPEST = (78 * Math.PI) / 180;
/** Share of its width by which two sides may differ and still be alike (judgement). */
const UNEVEN = 0.02;

export type OutlineRead =
  | { ok: true; is: "surface"; surface: Pick<Surface, "at" | "chord" | "mirrored" | "panels">; cares: string[] }
  | { ok: true; is: "body"; body: Pick<BodyShape, "across" | "frames">; cares: string[] }
  | { ok: false; problem: string };

/**
 * The planform of a wing or fin, or the frames of a body, from its outline. What is cut out inside is not seen.
 *
 * @param lines nose left, m
 * @param is what the outline is of: a whole wing or half of one from above, a fin from the side, a body
 */
export function shapeFromOutline(lines: Lines, is: OutlineIs): OutlineRead {
  const box = boxOf(lines);
  if (!box) return { ok: false, problem: "No outline is in it: lines, paths and plain figures are read." };
  const [long, tall] = [box.to.a - box.from.a, box.to.b - box.from.b];
  if (!(Math.max(long, tall) <= 100) || !(Math.min(long, tall) >= 1e-3))
    return { ok: false, problem: "It would be smaller than 1 mm or larger than 100 m: is its length right?" };
  return is === "wing" || is === "half wing" || is === "fin" ? planform(lines, box, is) : bodyFrom(lines, box, is);
}

interface Rib {
  along: number;
  lead: number;
  trail: number;
}

/** Chord of a half wing at one of its ends, m. */
const chordAt = (lines: Lines, b: number): number => {
  const here = crossed(lines, "b", b);
  return here ? here[1] - here[0] : 0;
};

function planform(given: Lines, box: { from: Flat; to: Flat }, is: "wing" | "half wing" | "fin"): OutlineRead {
  const edge = INSIDE * (box.to.b - box.from.b);
  // The root of a half wing is its longer end, wherever it lies on the sheet.
  const over = is === "half wing" && chordAt(given, box.to.b - edge) > 1.02 * chordAt(given, box.from.b + edge);
  const lines = over ? given.map((l) => l.map((p) => ({ a: p.a, b: box.from.b + box.to.b - p.b }))) : given;
  const root = is === "wing" ? (box.from.b + box.to.b) / 2 : box.from.b;
  const ribs = cutsOver(root, box.to.b).flatMap((b, k): Rib[] => {
    const here = crossed(lines, "b", b);
    // The first and the last are cut just inside of the ends and stand for them.
    const along = k === 0 ? 0 : k === STEPS ? box.to.b - root : b - root;
    return here ? [{ along, lead: here[0], trail: here[1] }] : [];
  });
  const [first] = ribs;
  const chord = first ? first.trail - first.lead : 0;
  const most = Math.max(0, ...ribs.map((r) => r.trail - r.lead));
  if (!first || ribs.length < 2 || chord < 1e-3 || most < 1e-3)
    return { ok: false, problem: "It has no chord at its root: is its nose where it is said to be?" };
  const cares: string[] = [];
  if (is === "wing") {
    const gap = ribs.reduce((worst, r) => {
      const other = crossed(lines, "b", root - Math.max(r.along, (INSIDE * (box.to.b - root)) / 2));
      return other ? Math.max(worst, Math.abs(other[0] - r.lead), Math.abs(other[1] - r.trail)) : worst;
    }, 0);
    if (gap > UNEVEN * most) cares.push("Its sides differ: the one that is drawn above is taken for both.");
  }
  const kept = panelsOf(ribs, Math.max(most, box.to.b - root), TIP * most);
  return {
    ok: true,
    is: "surface",
    surface: {
      at: { x: neat(first.lead), y: 0, z: is === "fin" ? neat(root) : 0 },
      chord: neat(chord),
      mirrored: is !== "fin",
      panels: kept.slice(1).flatMap((r, k) => {
        const before = kept[k];
        if (!before) return [];
        const span = r.along - before.along;
        const sweep = Math.atan2(r.lead - before.lead, span);
        return [
          {
            span: neat(span),
            chord: neat(Math.max(r.trail - r.lead, TIP * most)),
            sweep: Math.max(-STEEPEST, Math.min(STEEPEST, sweep)),
            dihedral: is === "fin" ? Math.PI / 2 : 0,
            twist: 0,
          },
        ];
      }),
    },
    cares,
  };
}

/** The ribs between which edges are straight; the tip ends where its chord is next to nothing or its edge too steep. */
function panelsOf(all: readonly Rib[], size: number, least: number): Rib[] {
  let end = all.length;
  while (end > 2) {
    const [a, b] = [all[end - 2], all[end - 1]];
    if (!a || !b) break;
    const steep = Math.abs(b.lead - a.lead) > Math.tan(STEEPEST) * (b.along - a.along);
    if (b.trail - b.lead >= least && !steep) break;
    end--;
  }
  const ribs = all.slice(0, end);
  for (let by = OFF * size; ; by *= 1.3) {
    const at = (of: "lead" | "trail") =>
      keptOf(
        ribs.map((r) => ({ a: r.along, b: r[of] })),
        by,
      );
    const both = [...new Set([...at("lead"), ...at("trail")])].toSorted((a, b) => a - b);
    if (both.length <= MOST_PANELS + 1) return both.flatMap((k) => ribs[k] ?? []);
  }
}

function bodyFrom(
  lines: Lines,
  box: { from: Flat; to: Flat },
  is: "body from the side" | "body from above",
): OutlineRead {
  const from = cutsOver(box.from.a, box.to.a).flatMap((a, k) => {
    const here = crossed(lines, "a", a);
    return here ? [{ x: k === 0 ? box.from.a : k === STEPS ? box.to.a : a, low: here[0], high: here[1] }] : [];
  });
  if (from.length < 2) return { ok: false, problem: "Nothing of it runs along: is its nose where it is said to be?" };
  const middle = (box.from.b + box.to.b) / 2;
  const side = is === "body from the side";
  const { frames } = framesFrom(
    from.map(({ x, low, high }) => ({
      x,
      points: [
        { out: 0, z: side ? low : (low - high) / 2 },
        { out: (high - low) / 2, z: side ? (low + high) / 2 : 0 },
        { out: 0, z: side ? high : (high - low) / 2 },
      ],
    })),
    OFF,
  );
  const uneven = side
    ? 0
    : Math.max(...from.map((f) => Math.abs((f.low + f.high) / 2 - middle))) / (box.to.b - box.from.b);
  return {
    ok: true,
    is: "body",
    body: { across: "round", frames: frames.map(({ outline: _, ...f }) => f) },
    cares: [
      `It is taken as round: ${side ? "as wide as it is high" : "as high as it is wide"}. Put right ` +
        "what is not, frame by frame.",
      ...(uneven > UNEVEN ? ["Its sides differ: the middle of each frame is laid on the centreline."] : []),
    ],
  };
}
const neat = (v: number) => Math.round(v * 1e5) / 1e5;
