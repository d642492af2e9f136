import { usePreferences } from "../../app/preferences";
import { useMemo } from "react";
import { type Suspect, newSuspect } from "../../../core/design/craftFile";
import { rankContext } from "../../../core/faults/context";
import { partMeant } from "../../../core/faults/partMeant";
import { type RankReason, cheapestTest, rankCauses } from "../../../core/faults/rank";
import { reasonText } from "../../../core/wording/faults";
import { useDesk } from "../../app/desk";
import { evaluateKept } from "../../app/keptAnswers";
import { testCost } from "./SuspectCards";
import { useCatalogue } from "./useCatalogue";

/**
 * The catalogue's suspects for a symptom, ordered for the version on which it was seen and what its run, repairs and
 * earlier faults tell.
 */
function useRanked(symptomId: string | null, runNumber: number, self: number | null) {
  const { slug, file } = useDesk();
  const catalogue = useCatalogue();
  return useMemo(() => {
    const symptom = catalogue.find((s) => s.id === symptomId);
    const run = file.runs.find((r) => r.number === runNumber);
    const version = file.versions.find((v) => v.label === run?.version);
    if (!symptom || !run || !version) return null;
    const { findings } = evaluateKept(`${slug} ${version.label}`, version.design);
    return { findings, version, causes: rankCauses(symptom, rankContext(file, run, findings, symptom.id, self)) };
  }, [catalogue, symptomId, runNumber, self, slug, file]);
}

const keyOf = (r: RankReason) => JSON.stringify(r);

/**
 * Suspects that are proposed and not on the list yet, likeliest first; the cheapest test among the likely ones is
 * named.
 */
export function Proposals({
  symptom,
  run,
  self,
  taken,
  onSuspect,
}: {
  symptom: string | null;
  run: number;
  self: number | null;
  taken: readonly { id: string; cause: string }[];
  onSuspect: (s: Suspect) => void;
}) {
  const { habit } = usePreferences();
  const ranked = useRanked(symptom, run, self);
  const list = ranked?.causes.filter((c) => !taken.some((s) => s.id === c.cause.id || s.cause === c.cause.text)) ?? [];
  if (!ranked || list.length === 0) return null;
  const cheapest = cheapestTest(list.slice(0, 3).map((c) => c.cause));
  const said = (reasons: readonly RankReason[], effect: 1 | -1) =>
    reasons
      .filter((r) => r.effect === effect)
      .map((r) => reasonText(r, ranked.findings, habit).replace(/^(up|down): /, ""))
      .join("\n");
  return (
    <section aria-label="Proposed suspects" className="mt-2">
      <p className="text-pencil">
        Proposed for this symptom on {ranked.version.label}, likeliest first.
        {cheapest && list.length > 1 && (
          <>
            {" "}
            Of the first three the cheapest to tell is <b className="text-ink">{cheapest.text}</b>, {testCost(cheapest)}
            .
          </>
        )}
      </p>
      <ol>
        {list.map(({ cause, reasons }) => (
          <li
            key={cause.id}
            data-proposal={cause.id}
            className={
              "grid grid-cols-[1fr_1fr_auto] items-center gap-3 border-b border-hair py-1 " +
              "max-[640px]:grid-cols-[minmax(0,1fr)]"
            }
          >
            <span>
              <b className="text-ink">{cause.text}</b>
              {reasons.map((r) => (
                <span key={keyOf(r)} className={`block text-[11px] ${r.effect > 0 ? "text-care" : "text-clear"}`}>
                  {reasonText(r, ranked.findings, habit)}
                </span>
              ))}
            </span>
            <span className="text-[12px]">
              {cause.test} <span className="num text-pencil">{testCost(cause)}</span>
            </span>
            <button
              type="button"
              className="act"
              aria-label={`Suspect it: ${cause.text}`}
              onClick={() =>
                onSuspect(
                  newSuspect(cause.id, cause.text, {
                    for: said(reasons, 1),
                    against: said(reasons, -1),
                    test: cause.test,
                    minutes: cause.minutes,
                    cost: cause.cost ?? 0,
                    risk: cause.risk ?? "none",
                    part: partMeant(cause, ranked.version.design, ranked.findings),
                  }),
                )
              }
            >
              Suspect it
            </button>
          </li>
        ))}
      </ol>
    </section>
  );
}
