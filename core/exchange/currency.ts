import { produce } from "immer";
import type { CraftFile } from "../design/craftFile";
import { METRICS, type MetricKey } from "../design/metrics";

/** Whether a metric is an amount of money. */
const isMoney = (metric: string): boolean => METRICS[metric as MetricKey]?.dimension === "money";

/**
 * Passes every amount of money in a craft file through a function: prices, what tests and repairs cost, limits and
 * predictions of cost. What somebody wrote in words stays as written.
 */
function eachAmount(file: CraftFile, of: (amount: number) => number): CraftFile {
  return produce(file, (f) => {
    const limits = (list: { metric: string; value: number; upper?: number | null | undefined }[]) => {
      for (const limit of list)
        if (isMoney(limit.metric)) {
          limit.value = of(limit.value);
          if (typeof limit.upper === "number") limit.upper = of(limit.upper);
        }
    };
    for (const { design, ladder } of f.versions) {
      for (const item of design.items) {
        if (item.cost !== null) item.cost = of(item.cost);
        if (item.costMost !== null) item.costMost = of(item.costMost);
      }
      limits(design.brief.targets);
      for (const rung of ladder ?? []) limits(rung.gates);
    }
    for (const run of f.runs) {
      for (const m of run.metrics) {
        if (!isMoney(m.metric)) continue;
        for (const known of [m.predicted, m.measured]) {
          if (!known) continue;
          known.value = of(known.value);
          if (known.sd !== undefined) known.sd = of(known.sd);
        }
      }
    }
    for (const fault of f.faults) {
      fault.cost = of(fault.cost);
      for (const s of fault.suspects) {
        s.cost = of(s.cost);
        s.spentCost = of(s.spentCost);
      }
    }
    for (const symptom of f.symptoms) for (const cause of symptom.causes) cause.cost = of(cause.cost);
  });
}

/** Whether a craft file holds any amount of money but zeros. */
export function holdsAmounts(file: CraftFile): boolean {
  let any = false;
  eachAmount(file, (amount) => {
    any ||= amount !== 0;
    return amount;
  });
  return any;
}

/** Digits of a converted amount that mean something: a rate that somebody typed has three or four. */
const DIGITS = 4;

/**
 * A craft file in another currency.
 *
 * @param rate what one of its units is in that currency, as its user says; above 0. Null: amounts are left out: parts
 *   then have no price, limits of cost go, and what was spent is zero
 */
export function inCurrency(file: CraftFile, currency: string, rate: number | null): CraftFile {
  if (file.currency === currency) return file;
  if (rate !== null) return { ...eachAmount(file, (a) => Number((a * rate).toPrecision(DIGITS))), currency };
  return produce(
    eachAmount(file, () => 0),
    (f) => {
      f.currency = currency;
      for (const v of f.versions) {
        for (const item of v.design.items) item.cost = item.costMost = null;
        v.design.brief.targets = v.design.brief.targets.filter((t) => !isMoney(t.metric));
        for (const rung of v.ladder ?? []) rung.gates = rung.gates.filter((g) => !isMoney(g.metric));
      }
      for (const run of f.runs) run.metrics = run.metrics.filter((m) => !isMoney(m.metric));
    },
  );
}
