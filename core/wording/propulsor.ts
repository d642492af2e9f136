import type { UnitHabit } from "../design/units";
import type { Propulsor } from "../subjects/propulsion/kinds/declares";
import { kindOf } from "../subjects/propulsion/kinds/models";
import { plain } from "./format";

/** What is on a drive's shaft in one line: its kind and its size. */
export function propulsorText(p: Propulsor, habit: UnitHabit): string {
  const long = (k: { value: number }) => plain(k.value, "length", habit);
  const size = (): string => {
    switch (p.kind) {
      case "ducted fan":
        return `${long(p.diameter)} inside, ${p.blades} blades`;
      case "wheel":
        return `${long(p.radius)} in radius, ${plain(p.load.value, "mass", habit)} on one`;
      case "screw drum":
        return `${long(p.diameter)} × ${long(p.length)}, lead ${long(p.lead)}, in ${p.on}`;
      case "flapping wings":
        return `${long(p.span)} from tip to tip, stroke ${Math.round((p.stroke.value * 180) / Math.PI)}°`;
      case "cycloidal rotor":
        return `${long(p.radius)} in radius, ${p.blades} blades of ${long(p.span)}`;
    }
  };
  return `${kindOf(p).word}, ${size()}`;
}
