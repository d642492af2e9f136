import { freeId } from "../../design/ids";
import type { Design } from "../../design/schema";
import { extent } from "../mass/rollup";
import type { BodyShape, Hinged, Surface } from "./declares";

const DEGREE = Math.PI / 180;
type Panel = Surface["panels"][number];
const panel = (span: number, chord: number, sweep = 0, dihedral = 0): Panel => ({
  span,
  chord,
  sweep: sweep * DEGREE,
  dihedral: dihedral * DEGREE,
  twist: 0,
});
const hinge = (name: string, does: Hinged["does"], from = 0.05, to = 0.95): Hinged => ({
  id: "c1",
  name,
  does,
  from,
  to,
  chord: 0.3,
  up: 20 * DEGREE,
  down: 20 * DEGREE,
});

/** What a surface may begin as: chosen by picture, every figure of it to be put right. */
export const PATTERNS = ["wing", "tail", "fin", "V tail", "wing without tail", "canard", "ring", "end plates"] as const;
export type Pattern = (typeof PATTERNS)[number];

/** Flat panels of a side that stand for a ring; even and odd numbers differ by less than its doubt. */
export const RING_PANELS = 10;
/** A ring of a diameter as a closed polygon, from its top down on both sides. Corners lie on the circle. */
export const ringPanels = (diameter: number, chord: number, n = RING_PANELS): Panel[] =>
  Array.from({ length: n }, (_, i) => panel(diameter * Math.sin(Math.PI / (2 * n)), chord, 0, (-(i + 0.5) * 180) / n));

/** The diameter of what is drawn as a ring, m; null for every other surface. */
export function ringOf(s: Pick<Surface, "panels" | "mirrored" | "at">): number | null {
  const turned = s.panels.reduce((t, p) => t + p.span * Math.sin(p.dihedral), 0);
  const across = s.panels.reduce((t, p) => t + p.span * Math.cos(p.dihedral), 0);
  return s.mirrored && s.panels.length >= 6 && Math.abs(across) < 1e-6 && Math.abs(s.at.y) < 1e-6
    ? Math.abs(turned)
    : null;
}

type Shape = Pick<Surface, "name" | "at" | "chord" | "incidence" | "mirrored" | "panels" | "controls"> & {
  family: Surface["section"]["family"];
};
/** In a craft of length L whose parts are W across. */
function shapeOf(pattern: Pattern, l: number, w: number, high: number): Shape {
  const half = Math.max(w / 2, 0.5 * l);
  const flat = { incidence: 0, mirrored: true, controls: [] as Hinged[] };
  switch (pattern) {
    case "wing":
      return {
        ...flat,
        name: "Wing",
        at: { x: 0.28 * l, y: 0, z: high },
        chord: 0.22 * l,
        incidence: 2 * DEGREE,
        panels: [panel(half, 0.2 * l)],
        family: "cambered 2 %",
      };
    case "tail":
      return {
        ...flat,
        name: "Tailplane",
        at: { x: 0.86 * l, y: 0, z: high },
        chord: 0.13 * l,
        panels: [panel(0.22 * l, 0.11 * l, 8)],
        controls: [hinge("Elevator", ["pitch"])],
        family: "flat plate",
      };
    case "fin":
      return {
        ...flat,
        name: "Fin",
        mirrored: false,
        at: { x: 0.84 * l, y: 0, z: high },
        chord: 0.15 * l,
        panels: [panel(0.15 * l, 0.1 * l, 20, 90)],
        controls: [hinge("Rudder", ["yaw"])],
        family: "flat plate",
      };
    case "V tail":
      return {
        ...flat,
        name: "V tail",
        at: { x: 0.86 * l, y: 0, z: high },
        chord: 0.13 * l,
        panels: [panel(0.25 * l, 0.1 * l, 10, 38)],
        controls: [hinge("V-tail flaps", ["pitch", "yaw"])],
        family: "flat plate",
      };
    case "wing without tail":
      return {
        ...flat,
        name: "Wing",
        at: { x: 0.1 * l, y: 0, z: high },
        chord: 0.5 * l,
        panels: [panel(1.1 * l, 0.3 * l, 25)],
        controls: [hinge("Elevons", ["pitch", "roll"], 0.4, 0.95)],
        family: "reflexed",
      };
    case "canard":
      return {
        ...flat,
        name: "Foreplane",
        at: { x: 0.05 * l, y: 0, z: high },
        chord: 0.1 * l,
        incidence: 2 * DEGREE,
        panels: [panel(0.22 * l, 0.1 * l)],
        controls: [hinge("Elevator", ["pitch"])],
        family: "cambered 2 %",
      };
    case "ring":
      return {
        ...flat,
        name: "Ring",
        at: { x: 0.3 * l, y: 0, z: high + w / 2 },
        chord: 0.25 * l,
        panels: ringPanels(Math.max(w, 0.3 * l), 0.25 * l),
        family: "symmetric",
      };
    case "end plates":
      return {
        ...flat,
        name: "End plates",
        at: { x: 0.28 * l, y: half, z: high },
        chord: 0.2 * l,
        panels: [panel(0.08 * l, 0.16 * l, 10, 90)],
        family: "flat plate",
      };
  }
}

/** A first surface of a kind, sized by the craft: every figure of it a guess. */
export function surfaceFrom(pattern: Pattern, design: Pick<Design, "items" | "surfaces" | "bodies">): Surface {
  const box = extent(design);
  const [l, w] = box ? [Math.max(box.max.x - box.min.x, 0.2), box.max.y - box.min.y] : [0.6, 0.2];
  const { family, ...shape } = shapeOf(
    pattern,
    l,
    Math.min(Math.max(w, 0.1), 1.5 * l),
    box ? (box.min.z + box.max.z) / 2 : 0.05,
  );
  const mm = (v: number) => Math.round(v * 1000) / 1000;
  return {
    id: freeId(design.surfaces, "s"),
    medium: "air",
    itemId: null,
    ...shape,
    name: design.surfaces.some((s) => s.name === shape.name)
      ? `${shape.name} ${design.surfaces.length + 1}`
      : shape.name,
    at: { x: mm((box?.min.x ?? 0) + shape.at.x), y: mm(shape.at.y), z: mm(shape.at.z) },
    chord: mm(shape.chord),
    panels:
      pattern === "ring" ? shape.panels : shape.panels.map((p) => ({ ...p, span: mm(p.span), chord: mm(p.chord) })),
    shapeBy: "guess",
    section: { family, zeroLift: null, most: null, drag: null },
  };
}

/** A name that no other of them has. */
export const freeName = (others: readonly { name: string }[], wanted: string): string => {
  const taken = new Set(others.map((o) => o.name));
  for (let k = 1; ; k++) {
    const name = k === 1 ? wanted : `${wanted} ${k}`;
    if (!taken.has(name)) return name;
  }
};

/** A first body along the craft. */
export function bodyFrom(design: Pick<Design, "items" | "surfaces" | "bodies">): BodyShape {
  const box = extent(design);
  const [from, to] = box ? [box.min.x, box.max.x] : [0, 0.6];
  const z = box ? (box.min.z + box.max.z) / 2 : 0.05;
  const size = Math.round(100 * (to - from)) / 1000;
  const mm = (v: number) => Math.round(v * 1000) / 1000;
  const frame = (t: number, s: number) => ({
    x: mm(from + t * (to - from)),
    z: mm(z),
    width: mm(s * size),
    height: mm(s * size),
  });
  return {
    id: freeId(design.bodies, "b"),
    name: freeName(design.bodies, "Body"),
    y: 0,
    mirrored: false,
    across: "round",
    shapeBy: "guess",
    frames: [frame(0, 0.2), frame(0.25, 1), frame(0.6, 0.9), frame(1, 0.25)],
  };
}
