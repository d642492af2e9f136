import { type PullsResult, leftAsComputed, pullsOf, sidesOf, takePulls } from "../../../../core/bench/pulls";
import { sameData } from "../../../../core/numeric/sameData";
import type { PullsTest } from "../../../../core/design/pulls";
import { worksInFluid } from "../../../../core/subjects/propulsion/kinds/models";
import { show } from "../../../../core/wording/format";
import { EVENED, pullsText, sideWord } from "../../../../core/wording/pulls";
import { useDesk } from "../../../app/desk";
import { usePreferences } from "../../../app/preferences";
import { BesideMeasured } from "../BesideMeasured";

const share = (s: { value: number; sd: number }) =>
  `${(100 * s.value).toFixed(0)} ± ${Math.max(1, 100 * s.sd).toFixed(0)} %`;

/** What the pulls say, beside what is computed of the same, and what to take over. */
export function PullsReport({ test, number }: { test: PullsTest; number: number | null }) {
  const { design, edit, frozen } = useDesk();
  const { habit } = usePreferences();
  const unit = design.units.find((u) => u.id === test.unitId);
  const sides = sidesOf(test, design);
  if (test.readings.length === 0 || !unit || sides < 2) return null;
  const result = pullsOf(test, sides, worksInFluid(unit));
  const computed = test.of === "each corner" ? null : leftAsComputed(unit);
  const take = number === null ? null : takePulls(design, test, result, number);
  // Readings that were corrected afterwards are not the ones that stand in the design.
  const same = () => {
    const after = structuredClone(design);
    if (take?.ok) take.apply(after);
    return sameData(after.units, design.units);
  };
  const taken = take?.ok === true && same();
  const row = (key: string, label: string, before: string | null, text: string | null) =>
    text !== null && (
      <tr key={key}>
        <td className="text-ink">{label}</td>
        <td className="num predicted">{before ?? "–"}</td>
        <td className="num measured" data-pulls={key}>
          {text}
        </td>
      </tr>
    );
  const newton = (m: PullsResult["sides"][number]) => {
    if (!m) return "not read";
    const s = show(m.value, m.sd, "force", habit);
    return `${s.value}${s.sd ? ` ± ${s.sd}` : ""} ${s.unit}`;
  };
  const said = pullsText(test, result);
  return (
    <section aria-label="What the pulls say" className="mt-3 border-t border-hair pt-2">
      <BesideMeasured>
        {result.sides.map((m, s) => row(`side ${s}`, `Pushes, ${sideWord(test, s)}`, null, newton(m)))}
        {row(
          "left",
          "Left of the thrust",
          computed && !result.atEqualPower ? share(computed) : null,
          result.left && share(result.left),
        )}
        {row(
          "at equal power",
          "Left at equal power",
          computed && share(computed),
          result.atEqualPower && share(result.atEqualPower),
        )}
        {result.corners.map((c, s) => row(`corner ${s}`, `Over the mean, ${sideWord(test, s)}`, "100 %", share(c)))}
      </BesideMeasured>
      {said.map((text) => (
        <p key={text} className="mt-1 text-ink" data-sentence>
          {text}
        </p>
      ))}
      <p className={`mt-1 ${result.evened === "not" ? "text-care" : "text-pencil"}`} data-evened={result.evened}>
        {EVENED[result.evened]}
      </p>
      {taken ? (
        <p className="mt-1 text-clear">taken over: the design reckons with these pulls</p>
      ) : take === null ? (
        <p className="mt-1 text-pencil">Keep the session first: then its number goes along as the source.</p>
      ) : frozen ? (
        <p className="mt-1 text-pencil">This version is frozen: its design stays as it was flown.</p>
      ) : take.ok ? (
        <p className="mt-1">
          <button type="button" className="act" onClick={() => edit((d) => take.apply(d))}>
            Take it over
          </button>{" "}
          <span className="text-pencil">
            {test.of === "each corner"
              ? "as what each unit pushes at its corner, under Power"
              : "as weighed built in: it outranks what is computed of what is around it"}
          </span>
        </p>
      ) : (
        <p className="mt-1 text-pencil">Not taken over: {take.why}.</p>
      )}
    </section>
  );
}
