import type { Known } from "../design/evidence";
import { freeId } from "../design/ids";
import { AXES, type Design, type Item, type Unit, newItem } from "../design/schema";
import { isWeighed, weigh } from "../subjects/mass/evidence";
import { rollUp } from "../subjects/mass/rollup";

/** Parts of a drive that the ledger lists. */
export type LedgerKind = "motor" | "controller" | "pack" | "propeller" | "servo";

/** What of a drive the ledger is asked for; of a pack that no drive uses, only the pack. */
export type DriveRef = Pick<Unit, "batteryId"> &
  Partial<Pick<Unit, "id" | "count" | "propellerItemId" | "motorItemId" | "controllerItemId">>;

const OWN = { motor: "motorItemId", controller: "controllerItemId" } as const;

/**
 * The ledger entry that a part of a drive has: by reference, else the only one that is such a part, where every other
 * drive has its own by reference. An entry that is motor and controller at once is
 * neither. Null when none stands for it alone; a servo has none.
 */
export function entryOf(design: Design, unit: DriveRef | undefined, kind: LedgerKind): string | null {
  if (kind === "pack") return design.batteries.find((b) => b.id === unit?.batteryId)?.itemId ?? null;
  if (kind === "propeller") return unit?.propellerItemId ?? null;
  if (kind === "servo") return null;
  const said = unit?.[OWN[kind]];
  if (said && design.items.some((i) => i.id === said)) return said;
  const others = design.units.filter((u) => u.id !== unit?.id).map((u) => u[OWN[kind]]);
  if (others.some((o) => !o)) return null;
  const fits = design.items.filter((i) => i.role === kind && !others.includes(i.id));
  return fits.length === 1 ? (fits[0]?.id ?? null) : null;
}

/**
 * Puts the mass of a newly fitted part into the ledger of `design` (which is changed): into the entry that it
 * replaces, which keeps its place, its quantity and its plan; a part that no
 * single entry stands for is added at the CG. A part without a known mass leaves an entry's mass alone.
 *
 * @returns the name of the entry that carries it
 */
export function putInLedger(
  design: Design,
  unit: DriveRef | undefined,
  kind: LedgerKind,
  part: { name: string; mass: Known | null; price?: number | null },
): string {
  const id = entryOf(design, unit, kind);
  const item = design.items.find((i) => i.id === id);
  const filled = item ?? added(design, unit, kind, part.name);
  if (part.mass && isWeighed(part.mass)) weigh(filled, part.mass);
  else if (part.mass) {
    filled.mass = part.mass;
    filled.predicted = null;
  }
  if (part.price !== undefined && part.price !== null) {
    filled.cost = part.price;
    filled.costMost = null;
  }
  if (kind === "pack") filled.quantity = 1;
  return filled.name;
}

function added(design: Design, unit: DriveRef | undefined, kind: LedgerKind, name: string): Item {
  const place = { ...(rollUp(design)?.cg ?? { x: 0, y: 0, z: 0 }) };
  const item = newItem({
    id: freeId(design.items, kind),
    name,
    place,
    unplaced: [...AXES],
    unsized: true,
    size: kind === "pack" ? { x: 0.1, y: 0.035, z: 0.03 } : { x: 0.03, y: 0.03, z: 0.03 },
  });
  item.quantity = kind === "pack" || kind === "servo" ? 1 : (unit?.count ?? 1);
  design.items.push(item);
  const battery = design.batteries.find((b) => b.id === unit?.batteryId);
  if (kind === "pack" && battery) battery.itemId = item.id;
  if (kind === "propeller" && unit) unit.propellerItemId = item.id;
  if ((kind === "motor" || kind === "controller") && unit) unit[OWN[kind]] = item.id;
  return item;
}
