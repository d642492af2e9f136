import { useMemo } from "react";
import { type Trend, guessingRecord, guessingTrend } from "../../../core/lineage/guessing";
import { useDesk } from "../../app/desk";

const TREND: Record<Trend, string> = {
  better: "The misses get smaller from version to version.",
  worse: "The misses get larger from version to version.",
  "no better": "The misses get neither smaller nor larger.",
  "too few": "Three versions with measured predictions are needed to tell whether it gets better.",
};

/** Is my guessing getting better? Predicted against measured, version by version, and whether the ± are honest. */
export function Guessing() {
  const { file } = useDesk();
  const record = useMemo(() => guessingRecord(file), [file]);
  if (record.length === 0) return null;
  const count = record.reduce((s, r) => s + r.count, 0);
  const within = record.reduce((s, r) => s + r.within * r.count, 0) / count;
  return (
    <section aria-label="Is my guessing getting better?" className="min-w-0">
      <h2>Is my guessing getting better?</h2>
      <table className="rows mt-1 w-full">
        <thead>
          <tr>
            <th>version</th>
            <th className="text-right!">predictions measured</th>
            <th className="text-right!">off by, of what came</th>
            <th className="text-right!">in steps of ±</th>
            <th className="text-right!">within one ±</th>
          </tr>
        </thead>
        <tbody>
          {record.map((r) => (
            <tr key={r.version} data-guess={r.version}>
              <td className="text-ink">{r.version}</td>
              <td className="num text-right">{r.count}</td>
              <td className="num text-right">{r.share === null ? "–" : `${(r.share * 100).toFixed(1)} %`}</td>
              <td className="num text-right">{r.size.toFixed(1)}</td>
              <td className="num text-right">{Math.round(r.within * 100)} %</td>
            </tr>
          ))}
        </tbody>
      </table>
      <p className="mt-1" data-trend>
        {TREND[guessingTrend(record)]} {Math.round(within * 100)} of 100 lay within one ±
        {count >= 8 &&
          (within > 0.85
            ? ": the ± are wider than they need be"
            : within < 0.5
              ? ": the ± are too narrow, trust them less"
              : ", as honest ± should (68)")}
        .
      </p>
    </section>
  );
}
