import type { Design } from "../design/schema";
import type { UnitHabit } from "../design/units";
import type { BalancePlan } from "../subjects/balance/solver";
import { plain } from "./format";

const WAY = { x: ["forward", "aft"], y: ["to port", "to starboard"], z: ["down", "up"] } as const;

/** A balance plan as "verb, amount, unit", joined by "and". */
export function planText(design: Design, plan: BalancePlan, habit: UnitHabit): string {
  const name = (id: string) => design.items.find((i) => i.id === id)?.name ?? id;
  const moves = plan.moves.map(
    (m) =>
      `move ${name(m.itemId)} ` +
      `${plain(Math.abs(m.to - m.from), "length", habit, habit === "metric" ? 0 : 2)} ` +
      `${WAY[m.axis][m.to < m.from ? 0 : 1]}`,
  );
  const ballast = plan.ballast.map(
    (b) => `add ${plain(b.mass, "mass", habit, habit === "metric" ? 1 : 2)} at the ${b.spot.name}`,
  );
  const all = [...moves, ...ballast];
  if (all.length === 0) return "Nothing to do: the CG is there already";
  const text = all.join(" and ");
  return (text[0] ?? "").toUpperCase() + text.slice(1);
}
