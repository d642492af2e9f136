import type { Reconciliation, Suspect } from "../../../../core/bench/reconcile";
import type { Bench } from "../../../../core/design/bench";
import type { Item } from "../../../../core/design/schema";
import { AXES, newItem } from "../../../../core/design/schema";
import { resultIn } from "../../../../core/evaluate";
import { balance } from "../../../../core/subjects/balance/node";
import type { MassEvidence } from "../../../../core/subjects/mass/evidence";
import { suspectText } from "../../../../core/wording/bench";
import { plain } from "../../../../core/wording/format";
import { useDesk } from "../../../app/desk";
import { usePreferences } from "../../../app/preferences";

/** A part that may weigh, or stand, other than the list says. */
export function SuspectRow({
  s,
  possible,
  canAdopt,
  onAdopt,
  corrected,
  item,
  note,
  said,
}: {
  s: Suspect;
  possible: boolean;
  canAdopt: boolean;
  onAdopt: (evidence: MassEvidence, said: string) => void;
  corrected: number;
  item: Item;
  note: string;
  said: string;
}) {
  const { design } = useDesk();
  const { habit } = usePreferences();

  return (
    <tr data-suspect={s.itemId}>
      <td className="text-ink">{suspectText(s, design, habit)}</td>
      <td className="whitespace-nowrap">
        <span
          className="inline-block h-[7px] bg-ink align-middle"
          style={{ width: `${Math.max(1, 90 * s.probability)}px` }}
          aria-hidden="true"
        />{" "}
        <span className="num">{Math.round(s.probability * 100)}</span>
      </td>
      <td className="text-right">
        {possible && (
          <button
            type="button"
            className="act"
            disabled={!canAdopt}
            onClick={() =>
              onAdopt(
                {
                  entries: [
                    s.what === "mass"
                      ? {
                          itemId: s.itemId,
                          mass: {
                            value: corrected,
                            sd: s.sd / item.quantity,
                            evidence: "calculated",
                            note: `reconciled with ${note}`,
                          },
                        }
                      : { itemId: s.itemId, place: { axis: s.what, value: corrected, sd: s.sd } },
                  ],
                  found: [],
                },
                said,
              )
            }
          >
            Accept {said}
          </button>
        )}
      </td>
    </tr>
  );
}

/** Something aboard that is on no list. */
export function UnlistedRow({
  found,
  canAdopt,
  session,
  note,
  onAdopt,
}: {
  found: Reconciliation;
  canAdopt: boolean;
  session: Bench | null;
  note: string;
  onAdopt: (evidence: MassEvidence, said: string) => void;
}) {
  const { evaluation } = useDesk();
  const { habit } = usePreferences();

  return (
    <tr data-suspect="unlisted">
      <td className="text-ink">Something aboard that is in no entry</td>
      <td className="whitespace-nowrap">
        <span
          className="inline-block h-[7px] bg-ink align-middle"
          style={{ width: `${Math.max(1, 90 * found.unlisted)}px` }}
          aria-hidden="true"
        />{" "}
        <span className="num">{Math.round(found.unlisted * 100)}</span>
      </td>
      <td className="text-right">
        <button
          type="button"
          className="act"
          disabled={!canAdopt}
          onClick={() => {
            const at = {
              x: found.at.x?.value ?? 0,
              y: found.at.y?.value ?? 0,
              z: found.at.z?.value ?? resultIn(evaluation, balance)?.cg.z ?? 0,
            };
            const mass = found.missing.value;
            const entry = newItem({
              id: `found-${session?.number ?? 0}`,
              name: "Not in the ledger before",
              group: "Found",
              mass: {
                value: mass,
                sd: found.missing.sd,
                evidence: "calculated",
                note: `reconciled with ${note}`,
              },
              place: at,
              // Where it was not found along an axis nobody knows where it is.
              unplaced: AXES.filter((a) => !found.at[a]),
              unsized: true,
              placeEvidence: "calculated",
              placeSd: found.at.x?.sd ?? 0.01,
            });
            onAdopt(
              { entries: [], found: [entry] },
              `${plain(mass, "mass", habit)} added at x ${plain(at.x, "length", habit, 0)}`,
            );
          }}
        >
          Add it to the ledger
        </button>
      </td>
    </tr>
  );
}
