import { linesOf } from "./textTable";

/** Corners of triangles as a file has them, nine numbers each, in the file's own unit: STL names none. */
export interface Triangles {
  corners: Float64Array;
  count: number;
  /** how it was written */
  kind: "binary" | "text";
  /** what was left out or put right, in words */
  notes: string[];
}
export type StlRead = { ok: true; triangles: Triangles } | { ok: false; problem: string };

/** Triangles that are taken at most: more say nothing more of a shape of this size. */
export const MOST_TRIANGLES = 400_000;
const HEAD = 84;
const EACH = 50;

/**
 * Triangles of an STL file, binary or text. Which of both is told by its size (84 bytes and 50 for each triangle), not
 * by its first word: binary files may begin with “solid” too. Triangles with a corner that is no number are left out
 * and counted.
 */
export function readStl(bytes: Uint8Array): StlRead {
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  const said = bytes.length >= HEAD ? view.getUint32(80, true) : -1;
  if (said >= 0 && bytes.length === HEAD + EACH * said) return binary(view, said);
  const head = new TextDecoder("latin1").decode(bytes.subarray(0, 2000));
  if (/^\s*solid\b/i.test(head) && /\b(facet|vertex|endsolid)\b/i.test(head))
    return text(new TextDecoder().decode(bytes));
  if (bytes.length === 0) return { ok: false, problem: "The file is empty." };
  if (said > 0 && said < 1e8 && bytes.length > HEAD) {
    const holds = Math.floor((bytes.length - HEAD) / EACH);
    return {
      ok: false,
      problem: `The file says ${said} triangles and has the bytes of ${holds}: it was cut off, or it is not STL.`,
    };
  }
  return { ok: false, problem: "This is not STL: neither its size nor its words are those of a list of triangles." };
}

function binary(view: DataView, count: number): StlRead {
  if (count > MOST_TRIANGLES) return tooMany(count);
  const all = new Float64Array(count * 9);
  let kept = 0;
  for (let t = 0; t < count; t++) {
    let good = true;
    for (let k = 0; k < 9; k++) {
      const v = view.getFloat32(HEAD + t * EACH + 12 + 4 * k, true);
      all[kept * 9 + k] = v;
      good &&= Number.isFinite(v);
    }
    if (good) kept++;
  }
  return done(all.subarray(0, kept * 9), "binary", count - kept, []);
}

function text(said: string): StlRead {
  const all: number[] = [];
  const bad: number[] = [];
  let corner: number[] = [];
  let broken = false;
  for (const { line, text: t } of linesOf(said)) {
    const words = t.trim().toLowerCase().split(/\s+/);
    if (words[0] === "facet" || words[0] === "outer") {
      if (corner.length > 0) bad.push(line);
      corner = [];
      broken = false;
    } else if (words[0] === "vertex") {
      const at = words.slice(1, 4).map(Number);
      if (at.length !== 3 || !at.every(Number.isFinite)) {
        bad.push(line);
        broken = true;
      } else corner.push(...at);
    } else if (words[0] === "endloop") {
      if (corner.length === 9 && !broken) all.push(...corner);
      else if (!broken) bad.push(line);
      corner = [];
      broken = false;
      if (all.length > MOST_TRIANGLES * 9) return tooMany(all.length / 9);
    }
  }
  const where = bad.length > 0 ? [`Left out: what ends at line ${[...new Set(bad)].slice(0, 8).join(", ")}.`] : [];
  return done(Float64Array.from(all), "text", bad.length, where);
}

const tooMany = (count: number): StlRead => ({
  ok: false,
  problem:
    `More than ${MOST_TRIANGLES.toLocaleString("en")} triangles ` +
    `(${Math.round(count).toLocaleString("en")}): save it coarser.`,
});

function done(corners: Float64Array, kind: Triangles["kind"], lost: number, where: string[]): StlRead {
  const count = corners.length / 9;
  if (count === 0) return { ok: false, problem: "No triangle could be read in it." };
  const notes =
    lost > 0 ? [`${lost} ${lost === 1 ? "triangle has" : "triangles have"} a corner that is no place.`, ...where] : [];
  return { ok: true, triangles: { corners, count, kind, notes } };
}
