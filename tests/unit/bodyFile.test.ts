import { describe, expect, it } from "vitest";
import { type MeshStands, shapeFromMesh, shapeFromOffsets, stoodUp } from "../../core/exchange/bodyFile";
import { measureMesh } from "../../core/exchange/mesh";
import { guessOffsets, readOffsets } from "../../core/exchange/offsetTable";
import { type Triangles, readStl } from "../../core/exchange/stl";
import { bodySchema } from "../../core/design/schema";
import { bodyGives } from "../../core/subjects/surfaces/bodyShape";
import type { Frame } from "../../core/subjects/surfaces/declares";

type P = [number, number, number];
type T = [P, P, P];

/** The bytes of a binary STL; its head says what a text file would begin with. */
function binary(triangles: readonly T[], head = "solid of a plug"): Uint8Array {
  const view = new DataView(new ArrayBuffer(84 + 50 * triangles.length));
  for (const [k, c] of [...head].entries()) view.setUint8(k, c.charCodeAt(0));
  view.setUint32(80, triangles.length, true);
  for (const [k, t] of triangles.entries())
    for (const [i, v] of t.flat().entries()) view.setFloat32(84 + 50 * k + 12 + 4 * i, v, true);
  return new Uint8Array(view.buffer);
}
const worded = (triangles: readonly T[]): string =>
  `solid plug\n${triangles
    .map(
      (t) =>
        `facet normal 0 0 0\n outer loop\n${t.map((p) => `  vertex ${p.join(" ")}`).join("\n")}\n endloop\nendfacet`,
    )
    .join("\n")}\nendsolid plug\n`;
/** A box from a corner to the other, twelve triangles facing out. */
function box([x0, y0, z0]: P, [x1, y1, z1]: P): T[] {
  const c = (k: number): P => [k & 1 ? x1 : x0, k & 2 ? y1 : y0, k & 4 ? z1 : z0];
  const faces = [
    [0, 2, 3, 1],
    [4, 5, 7, 6],
    [0, 1, 5, 4],
    [2, 6, 7, 3],
    [0, 4, 6, 2],
    [1, 3, 7, 5],
  ];
  return faces.flatMap(([a = 0, b = 0, d = 0, e = 0]): T[] => [
    [c(a), c(b), c(d)],
    [c(a), c(d), c(e)],
  ]);
}
/** A spheroid about the origin, by rings along x. */
function spheroid(a: number, r: number, rings = 60, round = 60): T[] {
  const at = (i: number, k: number): P => {
    const [u, v] = [(Math.PI * i) / rings, (2 * Math.PI * k) / round];
    return i === 0
      ? [-a, 0, 0]
      : i === rings
        ? [a, 0, 0]
        : [-a * Math.cos(u), r * Math.sin(u) * Math.cos(v), r * Math.sin(u) * Math.sin(v)];
  };
  return Array.from({ length: rings }, (_, i) =>
    Array.from({ length: round }, (_, k): T[] => {
      const [p, q, s, t] = [at(i, k), at(i, (k + 1) % round), at(i + 1, (k + 1) % round), at(i + 1, k)];
      return [...(i > 0 ? [[p, q, s] as T] : []), ...(i < rings - 1 ? [[p, s, t] as T] : [])];
    }).flat(),
  ).flat();
}
const stlOf = (list: readonly T[]): Triangles => {
  const read = readStl(binary(list));
  if (!read.ok) throw new Error(read.problem);
  return read.triangles;
};
const MM: MeshStands = { unit: "mm", nose: "-x", up: "z" };
const shapeOf = (bytes: Uint8Array, stands = MM) => {
  const read = shapeFromMesh(bytes, stands);
  if (!read.ok) throw new Error(read.problem);
  return read.shape;
};
const given = (frames: Frame[]) => bodyGives({ across: "free", mirrored: false, frames });

describe("an STL file", () => {
  const cube = box([10, -30, 5], [110, 30, 45]);
  it("is told by its size, whatever its first word is; text says the same", () => {
    const [b, t] = [readStl(binary(cube)), readStl(new TextEncoder().encode(worded(cube)))];
    expect(b.ok && [b.triangles.kind, b.triangles.count]).toEqual(["binary", 12]);
    expect(t.ok && [t.triangles.kind, t.triangles.count]).toEqual(["text", 12]);
    expect(b.ok && t.ok && [...b.triangles.corners]).toEqual(t.ok && [...t.triangles.corners]);
  });
  it("that is cut off, is empty or is none is refused in words", () => {
    expect(readStl(binary(cube).slice(0, 400))).toMatchObject({
      ok: false,
      problem: expect.stringContaining("says 12"),
    });
    expect(readStl(new Uint8Array())).toMatchObject({ ok: false, problem: "The file is empty." });
    expect(readStl(new TextEncoder().encode("name,mass\nfloat,12"))).toMatchObject({ ok: false });
    expect(readStl(new TextEncoder().encode("solid nothing\nendsolid"))).toMatchObject({ ok: false });
  });
  it("leaves out a triangle with a corner that is no place, and says where", () => {
    const text = worded(cube).split("\n");
    text[3] = "  vertex 10 nan 5";
    const read = readStl(new TextEncoder().encode(text.join("\n")));
    expect(read.ok && read.triangles.count).toBe(11);
    expect(read.ok && read.triangles.notes).toEqual([
      "1 triangle has a corner that is no place.",
      "Left out: what ends at line 4.",
    ]);
  });
});

describe("a mesh", () => {
  it("of a box has its volume, middle and skin", () => {
    const m = measureMesh(stlOf(box([10, -30, 5], [110, 30, 45])));
    expect(m).toMatchObject({ triangles: 12, closed: true, boundaryEdges: 0, holes: 0, turnedOver: 0, pieces: 1 });
    expect(m.volume).toBeCloseTo(240_000, 6);
    expect(m.area).toBeCloseTo(2 * (100 * 60 + 100 * 40 + 60 * 40), 6);
    expect(m.centroid?.map((v) => Math.round(v * 1e6) / 1e6)).toEqual([60, 0, 25]);
  });
  it("of a spheroid has 4/3 π a r², within what its facets take away", () => {
    const m = measureMesh(stlOf(spheroid(300, 50)));
    expect(m.closed).toBe(true);
    expect((m.volume ?? 0) / ((4 / 3) * Math.PI * 300 * 50 ** 2)).toBeCloseTo(1, 2);
    expect(measureMesh(stlOf(spheroid(300, 50).map(([a, b, c]): T => [a, c, b]))).volume).toBeCloseTo(m.volume ?? 0, 6);
  });
  it("with a hole, a triangle turned over, or one too many gives no volume, and counts why", () => {
    const cube = box([0, 0, 0], [100, 60, 40]);
    // Without the two triangles of one face: four open edges round one hole.
    expect(measureMesh(stlOf(cube.slice(0, 10)))).toMatchObject({
      closed: false,
      boundaryEdges: 4,
      holes: 1,
      volume: null,
    });
    const both = measureMesh(stlOf(cube.slice(4)));
    expect(both).toMatchObject({ boundaryEdges: 8, holes: 2, centroid: null });
    const [first, ...others] = cube;
    const [a, b, c] = first as T;
    expect(measureMesh(stlOf([[a, c, b], ...others]))).toMatchObject({ turnedOver: 3, boundaryEdges: 0, volume: null });
    expect(measureMesh(stlOf([...cube, [a, b, [50, 0, -50]]]))).toMatchObject({ crowded: 1, closed: false });
  });
  it("stands as it is said, and is never mirrored", () => {
    const t = stlOf(box([0, 0, 0], [1, 2, 3]));
    for (const stands of [
      MM,
      { unit: "mm", nose: "y", up: "x" },
      { unit: "mm", nose: "z", up: "-y" },
    ] as MeshStands[]) {
      const m = measureMesh(stoodUp(t, stands));
      expect(m.volume).toBeCloseTo(6e-9, 15);
    }
    // A corner that tells the axes apart: nose to +y of the file, up +z: starboard is its +x.
    const one = stoodUp(
      stlOf([
        [
          [7, 0, 0],
          [0, 0, 0],
          [0, 5, 3],
        ],
      ]),
      { unit: "mm", nose: "y", up: "z" },
    );
    expect([...one.corners].map((v) => Math.round(v * 1e6) / 1e3)).toEqual(
      [0, 7, 0, 0, 0, 0, -5, 0, 3].map((v) => v + 0),
    );
  });
  it("becomes frames that hold the same: a float with raked ends, to port", () => {
    // 480 mm long on the bottom, 600 mm on deck.
    const [w, low, high] = [39, 18, 110];
    const c = (x: number, y: number, z: number): P => [x, y - 410, z];
    const outline: [number, number][] = [
      [335, high],
      [395, low],
      [875, low],
      [935, high],
    ];
    const side = (y: number) => outline.map(([x, z]) => c(x, y, z));
    const [p, s] = [side(-w), side(w)];
    const quad = (a: P, b: P, d: P, e: P): T[] => [
      [a, b, d],
      [a, d, e],
    ];
    const at = (l: P[], k: number) => l[k % 4] as P;
    const mesh = [
      ...quad(at(p, 0), at(p, 1), at(p, 2), at(p, 3)),
      ...quad(at(s, 3), at(s, 2), at(s, 1), at(s, 0)),
      ...[0, 1, 2, 3].flatMap((k) => quad(at(s, k), at(s, k + 1), at(p, k + 1), at(p, k))),
    ];
    const shape = shapeOf(binary(mesh));
    expect(shape.mesh).toMatchObject({ closed: true });
    expect(shape.mesh?.volume).toBeCloseTo(((480 + 600) / 2) * 92 * 78 * 1e-9, 9);
    expect(shape.y).toBeCloseTo(-0.41, 6);
    expect(shape.frames.map((f) => f.x)).toEqual([0.335, 0.395, 0.875, 0.935]);
    const made = given(shape.frames);
    expect(made.volume / (shape.mesh?.volume ?? 0)).toBeCloseTo(1, 3);
    expect(made.middle?.z).toBeCloseTo(shape.mesh?.centroid?.[2] ?? 0, 4);
    expect(bodySchema.shape.frames.safeParse(shape.frames).success).toBe(true);
    expect(shape.cares).toEqual([]);
  });
  it("of a spheroid becomes a body of its volume and skin", () => {
    const shape = shapeOf(binary(spheroid(300, 50)));
    const made = given(shape.frames);
    expect(shape.frames.length).toBeGreaterThan(8);
    expect(made.volume / (shape.mesh?.volume ?? 0)).toBeGreaterThan(0.97);
    expect(made.volume / (shape.mesh?.volume ?? 0)).toBeLessThan(1.01);
    expect(made.skin / (shape.mesh?.area ?? 0)).toBeCloseTo(1, 1);
  });
  it("says what is doubtful: a hole, sides that differ, several skins", () => {
    const cares = (list: T[]) => shapeOf(binary(list)).cares.join(" ");
    const cube = box([0, -30, 0], [200, 30, 40]);
    expect(cares(cube.slice(2))).toMatch(/No volume can be given as fact: it is open: 4 edges .* 1 hole/);
    expect(cares([...cube, ...box([50, 40, 0], [150, 90, 40])])).toMatch(/2 skins/);
    // Half a hull: nothing to port of its middle plane but the plane.
    const half = box([0, 0, 0], [200, 30, 40]).map(
      (t) => t.map(([x, y, z]): P => [x, y * (x === 0 ? 1 : 0.5), z]) as T,
    );
    expect(cares(half)).toMatch(/Its sides differ/);
  });
  it("asks for its unit, and refuses what cannot be", () => {
    const bytes = binary(box([0, 0, 0], [200, 60, 40]));
    const no = (stands: Partial<MeshStands>) => shapeFromMesh(bytes, { ...MM, ...stands });
    expect(no({ unit: "" })).toMatchObject({ ok: false, problem: expect.stringContaining("unit") });
    expect(no({ up: "-x" })).toMatchObject({ ok: false, problem: expect.stringContaining("one axis") });
    expect(no({ unit: "m" })).toMatchObject({ ok: false, problem: expect.stringContaining("200 m long") });
    expect(no({ unit: "in" })).toMatchObject({ ok: true });
  });
});

/** A Wigley hull of 1.2 m by 0.12 m by 0.075 m as a table, from keel to waterline. */
const [L, B, D] = [1.2, 0.12, 0.075];
const wigley = (rows: (x: number, y: number, z: number, k: number) => string, head: string): string =>
  [
    head,
    ...Array.from({ length: 21 }, (_, k) =>
      Array.from({ length: 16 }, (_, i) => {
        const [x, z] = [(L * k) / 20, (D * i) / 15];
        const y = (B / 2) * (1 - ((2 * x) / L - 1) ** 2) * (1 - (1 - z / D) ** 2);
        return rows(x, y, z, k);
      }),
    ).flat(),
  ].join("\n");
const tableOf = (text: string, correct?: (r: ReturnType<typeof guessOffsets>) => void) => {
  const reading = guessOffsets(text);
  correct?.(reading);
  return readOffsets(text, reading);
};
const volumeOf = (table: ReturnType<typeof tableOf>) => {
  const read = shapeFromOffsets(table);
  return read.ok ? given(read.shape.frames).volume : Number.NaN;
};

describe("a table of offsets", () => {
  const exact = (4 / 9) * L * B * D;
  it("of a Wigley hull holds 4/9 L B T (closed form)", () => {
    const table = tableOf(
      wigley((x, y, z, k) => `${k},${x * 1000},${y * 1000},${z * 1000}`, "station,x mm,half breadth mm,z mm"),
    );
    expect(table).toMatchObject({ points: 336, reports: [], missing: null });
    expect(volumeOf(table) / exact).toBeCloseTo(1, 2);
  });
  it("is understood in other dress: commas, inches, whole breadths, from the stern, without stations", () => {
    const n = (v: number) => (v / 0.0254).toFixed(4).replace(".", ",");
    const table = tableOf(
      wigley((x, y, z) => `${n(L - x)};${n(z)};${n(2 * y)}`, "from transom (in);height (in);beam (in)"),
    );
    expect(table.missing).toBeNull();
    expect(table.cuts.length).toBe(21);
    expect(volumeOf(table) / exact).toBeCloseTo(1, 2);
    expect(table.cuts[0]?.x).toBeCloseTo(-L, 5);
    const comment = tableOf(
      `# all lengths in cm\n${wigley((x, y, z) => `${x * 100}\t${y * 100}\t${z * 100}`, "x\ty\tz")}`,
    );
    expect(volumeOf(comment) / exact).toBeCloseTo(1, 2);
  });
  it("asks for what it does not say: a unit, a column", () => {
    const bare = wigley((x, y, z) => `${x * 1000},${y * 1000},${z * 1000}`, "x,y,z");
    expect(tableOf(bare).missing).toMatch(/unit of “x”/);
    expect(tableOf(bare, (r) => r.columns.forEach((c) => void (c.unit = "mm"))).missing).toBeNull();
    expect(tableOf("x mm,z mm\n0,1\n10,2").missing).toMatch(/half-breadths/);
    expect(tableOf("").missing).not.toBeNull();
    expect(tableOf("x mm,y mm,z mm\n0,1,2\n0,2,3").missing).toMatch(/two stations/);
  });
  it("refuses a point by its line, drops a repeat, and fills nothing in", () => {
    const text = `# lines lifted at 45 mm marks
station,x mm,half breadth mm,z mm
0,0,0,0
0,0,20,40
0,0,20,40
1,300,0,0
1,300,-14,20
1,300,about 60,30
1,300,62,40
1,300,62,80
2,600,0,0
2,600,55
2,600,,30
2,640,55,60
2,600,60,80
3,700,1,1`;
    const table = tableOf(text);
    expect(table.reports.map((r) => [r.line, r.severity])).toEqual([
      [5, "warning"],
      [7, "error"],
      [8, "error"],
      [12, "error"],
      [13, "error"],
      [14, "error"],
      [16, "warning"],
    ]);
    expect(table.cuts.map((c) => c.points.length)).toEqual([2, 3, 2]);
    expect(table.points).toBe(7);
  });
  it("takes points from sheer to keel as well, and says where it put them in order", () => {
    const t = tableOf("x mm,y mm,z mm\n0,10,50\n0,5,20\n0,0,0\n100,0,0\n100,20,40\n100,12,20\n100,20,60");
    expect(t.cuts[0]?.points.map((p) => p.z)).toEqual([0, 0.02, 0.05]);
    expect(t.cuts[1]?.points.map((p) => p.z)).toEqual([0, 0.02, 0.04, 0.06]);
    expect(t.reports).toMatchObject([{ line: 5, severity: "warning" }]);
  });
  it("of more stations than a body holds keeps those that tell its shape", () => {
    const many = Array.from({ length: 80 }, (_, k) => {
      const r = 30 * Math.sin((Math.PI * k) / 79);
      return [`${k},0,${-r}`, `${k},${r},0`, `${k},0,${r}`].join("\n");
    }).join("\n");
    const read = shapeFromOffsets(tableOf(`x mm,y mm,z mm\n${many}`));
    expect(read.ok && read.shape.frames.length).toBeLessThanOrEqual(24);
    const whole =
      (2 / 3) *
      1e-9 *
      Array.from({ length: 79 }, (_, k) => {
        const [a, b] = [30 * Math.sin((Math.PI * k) / 79), 30 * Math.sin((Math.PI * (k + 1)) / 79)];
        return a * a + a * b + b * b;
      }).reduce((a, b) => a + b, 0);
    expect(read.ok && given(read.shape.frames).volume / whole).toBeCloseTo(1, 1);
    expect(shapeFromOffsets(tableOf("x mm,y mm,z mm\n0,0,0\n0,0,5\n9,0,0\n9,0,5"))).toMatchObject({ ok: false });
  });
});
