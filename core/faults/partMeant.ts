import type { Design } from "../design/schema";
import type { Finding } from "../subject";
import type { Cause } from "./symptoms/kinds";

/** Which entry of the mass list a kind of change is about, of one drive. */
const ENTRIES = { propeller: "propellerItemId", motor: "motorItemId", controller: "controllerItemId" } as const;
const isEntry = (kind: string): kind is keyof typeof ENTRIES => kind in ENTRIES;

/**
 * The entry of the mass list that a cause of the catalogue is about on this craft: that of the verdict that raises it,
 * else the only one of the kind that it names. Empty where it may be one of several, or none: that is chosen by hand.
 */
export function partMeant(
  cause: Pick<Cause, "raisedBy" | "touchedBy">,
  design: Pick<Design, "items" | "units" | "batteries" | "surfaces">,
  findings: readonly Pick<Finding, "code" | "about" | "severity">[],
): string {
  const kinds = (cause.touchedBy ?? []).filter((k) => isEntry(k) || k === "pack");
  const [kind] = kinds.length === 1 ? kinds : [];
  const ofUnit = (u: Design["units"][number]) => (kind && isEntry(kind) ? u[ENTRIES[kind]] : null);
  const only = (ids: readonly (string | null)[]): string => {
    const there = new Set(ids.filter((id) => id !== null && design.items.some((i) => i.id === id)));
    return there.size === 1 ? ([...there][0] ?? "") : "";
  };
  const named = findings.flatMap((f) => {
    if (f.severity === "clear" || !cause.raisedBy?.includes(f.code)) return [];
    const unit = design.units.find((u) => u.id === f.about);
    const owner = [...design.batteries, ...design.surfaces].find((x) => x.id === f.about);
    return [design.items.find((i) => i.id === f.about)?.id ?? owner?.itemId ?? (unit ? ofUnit(unit) : null)];
  });
  if (only(named) !== "") return only(named);
  if (kind === "pack") return only(design.batteries.map((b) => b.itemId));
  return kind === undefined ? "" : only(design.units.map(ofUnit));
}
