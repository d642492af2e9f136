import { toStored } from "../design/units";
import type { Frame } from "../subjects/surfaces/declares";
import { framesFrom } from "./framesFrom";
import { type MeshMeasures, cutMesh, measureMesh } from "./mesh";
import type { OffsetTable } from "./offsetTable";
import { type Triangles, readStl } from "./stl";

export const AXES = ["-x", "x", "-y", "y", "-z", "z"] as const;
/** A direction of a file's axes. */
export type AxisOfFile = (typeof AXES)[number];
/** How a mesh stands in its file; `unit` empty: nobody said, and STL names none. */
export interface MeshStands {
  unit: string;
  nose: AxisOfFile;
  up: AxisOfFile;
}
/** The shape of a body as a file tells it: frames as in the file, m. */
export interface ShapeRead {
  frames: Frame[];
  /** m to starboard */
  y: number;
  /** of the file itself; null: a table of offsets */
  mesh: MeshMeasures | null;
  /** what a person should know before it is taken */
  cares: string[];
  notes: string[];
}
export type BodyFileRead = { ok: true; shape: ShapeRead } | { ok: false; problem: string };

/** Share of the largest breadth or height of a mesh by which its frames may stand off (judgement). */
const OFF = 0.004;
/** Sizes that a body can have, m. */
const SIZES = [1e-3, 100] as const;
const axisOf = (a: AxisOfFile) => ({ index: "xyz".indexOf(a.slice(-1)), sign: a.startsWith("-") ? -1 : 1 });

/** Whether the nose and what is up stand across one another. */
export const standsUp = ({ nose, up }: Pick<MeshStands, "nose" | "up">): boolean => nose.slice(-1) !== up.slice(-1);

/** The same triangles in metres with x aft, y to starboard, z up; none is mirrored. */
export function stoodUp(t: Triangles, { unit, nose, up }: MeshStands): Triangles {
  const scale = toStored(1, "length", unit);
  const aft = [0, 0, 0];
  const high = [0, 0, 0];
  const [n, u] = [axisOf(nose), axisOf(up)];
  aft[n.index] = -n.sign;
  high[u.index] = u.sign;
  const [ax = 0, ay = 0, az = 0] = aft;
  const [hx = 0, hy = 0, hz = 0] = high;
  const side = [hy * az - hz * ay, hz * ax - hx * az, hx * ay - hy * ax];
  const corners = new Float64Array(t.corners.length);
  for (let k = 0; k < corners.length; k += 3)
    [aft, side, high].forEach((axis, to) => {
      corners[k + to] =
        scale *
        ((axis[0] ?? 0) * (t.corners[k] ?? 0) +
          (axis[1] ?? 0) * (t.corners[k + 1] ?? 0) +
          (axis[2] ?? 0) * (t.corners[k + 2] ?? 0));
    });
  return { ...t, corners };
}

const edges = (n: number, one: string, many: string) => `${n} ${n === 1 ? one : many}`;

/** Why a mesh gives no volume, in words; null: it is a closed skin. */
export function whyOpen(m: MeshMeasures): string | null {
  if (m.closed) return null;
  const said = [
    ...(m.boundaryEdges > 0
      ? [
          `it is open: ${edges(m.boundaryEdges, "edge belongs", "edges belong")} to one triangle only, ` +
            `round ${edges(m.holes, "hole", "holes")}`,
        ]
      : []),
    ...(m.turnedOver > 0
      ? [`${edges(m.turnedOver, "edge is", "edges are")} run the same way twice: a triangle is turned over`]
      : []),
    ...(m.crowded > 0 ? [`${edges(m.crowded, "edge has", "edges have")} more than two triangles`] : []),
  ];
  return said.length > 0 ? said.join("; ") : "no triangle of it has an area";
}

/** The shape of a body from an STL file that stands as said. Hundreds of thousands of triangles: some seconds. */
export function shapeFromMesh(bytes: Uint8Array, stands: MeshStands): BodyFileRead {
  const read = readStl(bytes);
  if (!read.ok) return read;
  if (stands.unit === "") return { ok: false, problem: "In which unit is it? STL names none." };
  if (!standsUp(stands)) return { ok: false, problem: "Its nose and its top cannot point along one axis." };
  const stood = stoodUp(read.triangles, stands);
  const mesh = measureMesh(stood);
  const size = Math.max(...[0, 1, 2].map((a) => (mesh.max[a] ?? 0) - (mesh.min[a] ?? 0)));
  if (!(size >= SIZES[0] && size <= SIZES[1]))
    return {
      ok: false,
      problem:
        `It would be ${size > 1 ? `${Math.round(size)} m` : `${(size * 1000).toPrecision(2)} mm`} long: 1 ` +
        "mm to 100 m is accepted. Is the unit right?",
    };
  const { cuts, middle, uneven } = cutMesh(stood, mesh);
  if (cuts.length < 2) return { ok: false, problem: "It is flat: no body can be cut out of it." };
  const { frames, off } = framesFrom(cuts, OFF);
  const open = whyOpen(mesh);
  return {
    ok: true,
    shape: {
      frames,
      y: middle,
      mesh,
      cares: [
        ...(open ? [`No volume can be given as fact: ${open}. Its outline is taken as a guess.`] : []),
        ...(mesh.pieces > 1
          ? [`It is ${mesh.pieces} skins that share no corner: one outline is laid round all of them.`]
          : []),
        ...(uneven > UNEVEN
          ? [`Its sides differ by up to ${Math.round(uneven * 100)} % of its width: the wider one is taken for both.`]
          : []),
        ...standingOff(off),
      ],
      notes: read.triangles.notes,
    },
  };
}
/** Share of the width by which two sides may differ and still be alike (judgement). */
const UNEVEN = 0.02;
/** From this share of its size on it is said how far the frames stand off (judgement). */
const COARSE = 0.01;
const standingOff = (off: number): string[] =>
  off > COARSE ? [`Its frames stand off by up to ${(off * 100).toFixed(1)} % of its breadth: it has more detail.`] : [];

/** The shape of a body from a table of offsets. */
export function shapeFromOffsets(table: OffsetTable): BodyFileRead {
  if (table.missing !== null) return { ok: false, problem: `Not yet: ${table.missing}.` };
  const { frames, off } = framesFrom(table.cuts, 0);
  if (!frames.some((f) => f.width > 0) || !frames.some((f) => f.height > 0))
    return { ok: false, problem: "Every point of it stands on one line: no body can be made of it." };
  return { ok: true, shape: { frames, y: 0, mesh: null, cares: standingOff(off), notes: [] } };
}
