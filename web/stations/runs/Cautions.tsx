import { fastestTip, propulsion } from "../../../core/subjects/propulsion/node";
import { resultIn } from "../../../core/evaluate";
import { type CautionPlace, cautionsFor } from "../../../core/safety/cautions";
import { CAUTION, CAUTION_PLACE } from "../../../core/wording/cautions";
import { useDesk } from "../../app/desk";

/** The usual cautions for this craft that belong to these places, each once. */
export function Cautions({
  places,
  run,
}: {
  places: readonly CautionPlace[];
  run?: Parameters<typeof cautionsFor>[2];
}) {
  const { seen: design, evaluation } = useDesk();
  const tip = fastestTip(design, resultIn(evaluation, propulsion));
  const all = cautionsFor(design, tip, run);
  return (
    <section aria-label="Cautions" className="mt-4 border-l-[3px] border-care pl-3 text-[12px]">
      {places.map((place) => {
        const here = all.filter((c) => c.place === place);
        return (
          here.length > 0 && (
            <div key={place} data-cautions={place}>
              <h2 className="text-[13px] text-care">{CAUTION_PLACE[place]}</h2>
              <ul className="mt-1 mb-2 flex list-[square] flex-col gap-[2px] pl-4">
                {here.map((c) => (
                  <li key={c.code}>{CAUTION[c.code]}</li>
                ))}
              </ul>
            </div>
          )
        );
      })}
    </section>
  );
}
