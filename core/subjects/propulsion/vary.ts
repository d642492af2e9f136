import type { Doubtful } from "../../numeric/doubt";
import { type Driven, type PowerInput, inputId, powerInputs } from "./inputs";
import { type PowerSetup, setUp } from "./setup";

/** A design as the solvers take it, and once more for every uncertain input: that one a standard uncertainty higher. */
export interface Varied {
  inputs: PowerInput[];
  base: PowerSetup;
  others: { id: string; of: string; setup: PowerSetup }[];
}

/** The drives with every input as it is known best. */
export const plainSetup = (design: Driven): PowerSetup =>
  setUp(design, new Map(powerInputs(design, null).map((i) => [inputId(i), i.value])));

/** @param mass the craft's (kg), where the duty asks for multiples of the weight; else null */
export function vary(design: Driven, mass: Parameters<typeof powerInputs>[1] = null): Varied {
  const inputs = powerInputs(design, mass);
  const values = new Map(inputs.map((i) => [inputId(i), i.value]));
  const base = setUp(design, values);
  const others = inputs
    .filter((i) => i.sd > 0)
    .map((i) => ({
      id: inputId(i),
      of: i.of,
      setup: setUp(design, new Map([...values, [inputId(i), i.value + i.sd]]), base),
    }));
  return { inputs, base, others };
}

/** Collects what each input does to each of several numbers: first-order, one-sided. */
export function spreadOf<K extends string>(
  here: Readonly<Record<K, number>>,
  others: readonly { id: string; values: Readonly<Record<K, number>> | null }[],
): Record<K, Doubtful> {
  const out = {} as Record<K, Doubtful>;
  for (const key of Object.keys(here) as K[]) {
    const by: Record<string, number> = {};
    for (const { id, values } of others) {
      const d = values ? values[key] - here[key] : 0;
      if (Number.isFinite(d) && d !== 0) by[id] = d;
    }
    out[key] = { value: here[key], by };
  }
  return out;
}
