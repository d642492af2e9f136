import type { CraftFile } from "../design/craftFile";
import { miss } from "../runs/miss";

export interface GuessRecord {
  version: string;
  /** predictions that a run measured */
  count: number;
  /** mean size of the misses, in steps of the combined ±: about 0.8 when the ± are honest */
  size: number;
  /** mean size of the misses as a share of what was measured; null when nothing measured differs from zero */
  share: number | null;
  /** how many lay within one step: 68 in 100 when the ± are honest */
  within: number;
}

/**
 * What was predicted against what was measured, version by version: whether the guessing gets better, and whether the
 * ± are honest. Versions without a measured prediction are left out.
 */
export function guessingRecord(file: Pick<CraftFile, "runs" | "versions">): GuessRecord[] {
  return file.versions.flatMap((v): GuessRecord[] => {
    const pairs = file.runs
      .filter((r) => r.version === v.label)
      .flatMap((r) => r.metrics)
      .flatMap((m) => {
        const missed = m.predicted && m.measured ? miss(m.predicted, m.measured) : null;
        return missed && m.predicted && m.measured
          ? [
              {
                steps: Math.abs(missed.steps),
                share:
                  m.measured.value === 0
                    ? null
                    : Math.abs(m.measured.value - m.predicted.value) / Math.abs(m.measured.value),
              },
            ]
          : [];
      });
    if (pairs.length === 0) return [];
    const shares = pairs.flatMap((p) => p.share ?? []);
    return [
      {
        version: v.label,
        count: pairs.length,
        size: pairs.reduce((s, p) => s + p.steps, 0) / pairs.length,
        share: shares.length > 0 ? shares.reduce((s, x) => s + x, 0) / shares.length : null,
        within: pairs.filter((p) => p.steps <= 1).length / pairs.length,
      },
    ];
  });
}

export type Trend = "better" | "no better" | "worse" | "too few";
/**
 * Whether the share missed falls along the versions: by Kendall's count of pairs, weighted alike; "too few" below
 * three versions.
 */
export function guessingTrend(record: readonly GuessRecord[]): Trend {
  const list = record.flatMap((r) => r.share ?? []);
  if (list.length < 3) return "too few";
  let falls = 0;
  let rises = 0;
  list.forEach((a, i) => {
    for (const b of list.slice(i + 1)) {
      if (b < a) falls++;
      else if (b > a) rises++;
    }
  });
  const tau = (falls - rises) / ((list.length * (list.length - 1)) / 2);
  return tau >= 0.5 ? "better" : tau <= -0.5 ? "worse" : "no better";
}
