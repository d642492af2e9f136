import type { Gate } from "../design/craftFile";
import type { UnitHabit } from "../design/units";
import { plain } from "./format";

const COMPARED: Record<Gate["comparison"], string> = { atMost: "at most", atLeast: "at least", between: "between" };

/**
 * A gate as a sentence, with the name of its number as given: for pages that do not know every number there is.
 */
export function gateLine(gate: Gate, name: string, habit: UnitHabit): string {
  if (gate.metric === "") return gate.text;
  const limit =
    gate.comparison === "between"
      ? `${plain(gate.value, gate.dimension, habit)} and ${plain(gate.upper ?? gate.value, gate.dimension, habit)}`
      : plain(gate.value, gate.dimension, habit);
  return `${name} ${COMPARED[gate.comparison]} ${limit}${gate.text ? `, ${gate.text}` : ""}`;
}
