import { toast } from "sonner";
import type { Unit } from "../../../../core/design/schema";
import type { Candidate } from "../../../../core/sizing/search";
import { withChoice } from "../../../../core/sizing/searchSpace";
import { plain } from "../../../../core/wording/format";
import { useDesk } from "../../../app/desk";
import { usePreferences } from "../../../app/preferences";
import { variedOf } from "./varied";

const WHOLE = ["series", "count", "blades"];

/** The candidate that was chosen, part by part, and its way into the draft. */
export function Chosen({ pick, units, structure }: { pick: Candidate; units: readonly Unit[]; structure: number }) {
  const { design, edit } = useDesk();
  const { habit } = usePreferences();
  const apply = () => {
    const next = withChoice(
      design,
      units.map((u) => u.id),
      pick.choice,
      structure,
    );
    const ok = edit((d) => {
      d.items = next.items;
      d.units = next.units;
      d.batteries = next.batteries;
    });
    if (ok === null)
      toast.success(
        "The drive is in the draft. What is not from your shelf is a guess: weigh and measure what you buy.",
      );
  };
  return (
    <div className="mt-2 flex flex-wrap items-center gap-x-4 gap-y-1" role="group" aria-label="Chosen">
      {variedOf(units).map(([key, label, dimension]) => (
        <span key={key}>
          {label}{" "}
          <b className="num text-ink">
            {plain(pick.choice[key], dimension, habit, WHOLE.includes(key) ? 0 : undefined)}
          </b>
        </span>
      ))}
      {Object.values(pick.choice.own ?? {}).map((p) => (
        <span key={p.kind}>
          from your shelf <b className="text-ink">{p.name}</b>
        </span>
      ))}
      <button type="button" className="act act-first" onClick={apply}>
        Apply to the draft
      </button>
    </div>
  );
}
