import type { UnitHabit } from "../design/units";
import { type MeasuredPropulsor, whereOf } from "../subjects/propulsion/measured/declares";
import { plain } from "./format";

/** A measured curve in one line: what it is, what it pushes on, how far it was measured. */
export function measuredText(m: MeasuredPropulsor, habit: UnitHabit): string {
  const top = m.readings.reduce((a, b) => (b.command > a.command ? b : a));
  const together = m.together > 1 ? `, ${m.together} together` : "";
  return (
    `${m.principle ? `${m.principle}: ` : ""}measured ${whereOf(m.on)}, ` +
    `${plain(top.force, "force", habit)} at ${Math.round(100 * top.command)} %${together}`
  );
}
