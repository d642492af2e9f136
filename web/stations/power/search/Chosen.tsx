import { toast } from "sonner";
import type { DriveKey, PackKey } from "../../../../core/sizing/searchParts";
import type { Candidate } from "../../../../core/sizing/search";
import { withChoice } from "../../../../core/sizing/searchLedger";
import { plain } from "../../../../core/wording/format";
import { useDesk } from "../../../app/desk";
import { usePreferences } from "../../../app/preferences";
import { PACK_VARIED, type Sets, type Varied, namesOf, variedOf } from "./varied";

const WHOLE = ["series", "count", "blades"];

/** What one set of drives or packs gets, number by number, and what of it is one's own. */
function Gets<K extends DriveKey | PackKey>({
  of,
  varied,
  choice,
  own,
}: {
  of: string | null;
  varied: readonly Varied<K>[];
  choice: Record<K, number>;
  own: readonly ({ name: string } | undefined)[];
}) {
  const { habit } = usePreferences();
  if (varied.length === 0 && own.length === 0) return null;
  return (
    <p className="flex flex-wrap gap-x-4 gap-y-1">
      {of && <span className="text-ink">{of}:</span>}
      {varied.map(([key, label, dimension]) => (
        <span key={key}>
          {label}{" "}
          <b className="num text-ink">{plain(choice[key], dimension, habit, WHOLE.includes(key) ? 0 : undefined)}</b>
        </span>
      ))}
      {own.map(
        (p) =>
          p && (
            <span key={p.name}>
              from your shelf <b className="text-ink">{p.name}</b>
            </span>
          ),
      )}
    </p>
  );
}

/** The candidate that was chosen, part by part, and its way into the draft. */
export function Chosen({ pick, sets, structure }: { pick: Candidate; sets: Sets; structure: number }) {
  const { design, edit } = useDesk();
  const apply = () => {
    const next = withChoice(
      design,
      sets.drives.map((set) => set.map((u) => u.id)),
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
  const several = sets.drives.length + sets.packs.length > 2;
  return (
    <div className="mt-2 flex flex-wrap items-center gap-x-6 gap-y-1" role="group" aria-label="Chosen">
      <div className="flex flex-wrap gap-x-4 gap-y-1">
        {pick.choice.drives.map((choice, k) => {
          const units = sets.drives[k] ?? [];
          return (
            <Gets
              key={units.map((u) => u.id).join()}
              {...{ of: several ? namesOf(units) : null, varied: variedOf(units), choice }}
              own={Object.values(choice.own ?? {})}
            />
          );
        })}
        {pick.choice.packs.map((choice, k) => {
          const packs = sets.packs[k] ?? [];
          return (
            <Gets
              key={packs.map((b) => b.id).join()}
              {...{ of: several ? namesOf(packs) : null, varied: PACK_VARIED, choice }}
              own={choice.own ? [choice.own] : []}
            />
          );
        })}
      </div>
      <button type="button" className="act act-first" onClick={apply}>
        Apply to the draft
      </button>
    </div>
  );
}
