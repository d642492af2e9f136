import { fastestTip, propulsion } from "../../../core/subjects/propulsion/node";
import { resultIn } from "../../../core/evaluate";
import { cautionsFor } from "../../../core/safety/cautions";
import { CAUTION } from "../../../core/wording/cautions";
import { useDesk } from "../../app/desk";

/** The usual cautions for this craft, each once. */
export function Cautions() {
  const { design, evaluation } = useDesk();
  const tip = fastestTip(design, resultIn(evaluation, propulsion));
  return (
    <section aria-label="Cautions" className="mt-4 border-l-[3px] border-care pl-3 text-[12px]">
      <h2 className="text-[13px] text-care">Before power</h2>
      <ul className="mt-1 flex list-[square] flex-col gap-[2px] pl-4">
        {cautionsFor(design, tip).map((c) => (
          <li key={c}>{CAUTION[c]}</li>
        ))}
      </ul>
    </section>
  );
}
