import { resultIn } from "../../../core/evaluate";
import { whyNone } from "../../../core/subject";
import { lateral } from "../../../core/subjects/lateral/node";
import { plain } from "../../../core/wording/format";
import { Computed } from "../../app/Computed";
import { useDesk } from "../../app/desk";
import { usePreferences } from "../../app/preferences";

/** 1/s below which a lean neither grows nor dies down in a time that anybody would wait for. */
const STILL = 0.005;

/** Left to itself: what a lean does, and how the swing from side to side dies down, at three speeds. */
export function Sideways() {
  const { evaluation } = useDesk();
  const { habit } = usePreferences();
  const result = resultIn(evaluation, lateral);
  const outcome = evaluation.outcomes[lateral.name];
  const why = whyNone(outcome as Parameters<typeof whyNone>[0]);
  const { leanGrowth, swingDamping } = evaluation.metrics;
  const seconds = (s: number) => plain(s, "stopwatch", habit, s < 10 ? (s < 1 ? 2 : 1) : 0);
  const time = (rate: number) => seconds(Math.LN2 / Math.abs(rate));
  const lean = (rate: number | null) =>
    rate === null
      ? "swings with it"
      : Math.abs(rate) < STILL
        ? "stays"
        : `${rate > 0 ? "doubles" : "halves"} in ${time(rate)}`;
  return (
    <section aria-label="Left to itself" className="min-w-0">
      <h2>Left to itself</h2>
      {!result ? (
        <p className="text-pencil" data-uncovered={outcome?.status === "not covered" || undefined}>
          {outcome?.status === "not covered" ? `Not covered: ${why}.` : `Open: ${why ?? "not computed yet"}.`}
        </p>
      ) : (
        <>
          <table className="rows mt-1 w-full">
            <thead>
              <tr>
                <th>speed</th>
                <th className="text-right!">a lean</th>
                <th className="text-right!">swing, once in</th>
                <th className="text-right!">damping</th>
              </tr>
            </thead>
            <tbody>
              {result.at.map(({ speed, over, modes }) => (
                <tr key={over} data-sideways={over}>
                  <td className="num">
                    {plain(speed, "speed", habit)} <span className="text-pencil">{over} × stall</span>
                  </td>
                  <td className="num text-right">{lean(modes.spiral)}</td>
                  <td className="num text-right">{modes.swing ? seconds((2 * Math.PI) / modes.swing.rate) : "–"}</td>
                  <td className="num text-right">{modes.swing ? modes.swing.damping.toFixed(2) : "–"}</td>
                </tr>
              ))}
            </tbody>
          </table>
          <p className="mt-1 flex flex-wrap gap-x-4">
            {leanGrowth && (
              <span>
                growth a second <Computed metric="leanGrowth" quantity={leanGrowth} />
              </span>
            )}
            {swingDamping && (
              <span>
                damping <Computed metric="swingDamping" quantity={swingDamping} />
              </span>
            )}
          </p>
          <p className="text-pencil">
            Controls held, calm air. Dihedral rolls it out of a lean, a fin turns it further in; a fin damps the swing.
          </p>
        </>
      )}
    </section>
  );
}
