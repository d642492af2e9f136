import { type Patch, knownAt } from "../../design/patch";
import type { Design } from "../../design/schema";

/** A pack of another capacity whose ledger mass grows or shrinks with it. */
export function packPatch(design: Design, batteryId: string, capacity: number): { patch: Patch; mass: number } | null {
  const battery = design.batteries.find((b) => b.id === batteryId);
  const item = design.items.find((i) => i.id === battery?.itemId);
  if (!battery) return null;
  const path = ["batteries", `#${battery.id}`];
  const mass = item?.mass ? (item.mass.value * capacity) / battery.capacity.value : 0;
  const list = [
    ...knownAt([...path, "capacity"], capacity, "datasheet"),
    // Cell resistance falls as the plates grow (common practice).
    ...knownAt(
      [...path, "cellResistance"],
      (battery.cellResistance.value * battery.capacity.value) / capacity,
      "guess",
    ),
    ...(item?.mass
      ? [
          ...knownAt(["items", `#${item.id}`, "mass"], mass, "datasheet"),
          { path: ["items", `#${item.id}`, "predicted"], value: null },
        ]
      : []),
  ];
  return { patch: { set: list, addItems: [] }, mass: mass * (item?.quantity ?? 1) };
}
