import type { BallastSpot, Design, Item, Point } from "../../design/schema";
import { newItem } from "../../design/schema";
import { extent } from "./rollup";

/** Most that is put at the nose or tail when the design names no spots of its own, kg. */
const UNNAMED_MOST = 5;

/** Where ballast can sit: as the design says, or at nose and tail of the drawing, half way up. */
export function ballastSpots(design: Design): BallastSpot[] {
  if (design.ballastSpots.length > 0) return design.ballastSpots;
  const box = extent(design);
  if (!box) return [];
  const z = (box.min.z + box.max.z) / 2;
  return [
    { id: "nose", name: "nose", place: { x: box.min.x, y: 0, z }, most: UNNAMED_MOST },
    { id: "tail", name: "tail", place: { x: box.max.x, y: 0, z }, most: UNNAMED_MOST },
  ];
}

/** Density of lead, kg/m³ (handbook value), for the size of the block. */
const LEAD = 11340;

/**
 * A ledger entry for ballast: a cube of lead, so that the ledger shows what balance costs. `offset` keeps ids apart
 * when several are added at once.
 */
export function ballastItem(design: Design, mass: number, place: Point, where: string, offset = 0): Item {
  const taken = new Set(design.items.map((i) => i.id));
  let n = 1 + offset;
  while (taken.has(`ballast-${n}`)) n++;
  const edge = Math.max(0.004, Math.cbrt(mass / LEAD));
  return newItem({
    id: `ballast-${n}`,
    name: where === "" ? "Ballast" : `Ballast, ${where}`,
    group: "Ballast",
    role: "ballast",
    mass: { value: mass, evidence: "datasheet" },
    place: { ...place },
    placeEvidence: "datasheet",
    size: { x: edge, y: edge, z: edge },
  });
}

/** Whether an entry is there for balance alone. */
export const isBallast = (item: Item): boolean => item.role === "ballast";
