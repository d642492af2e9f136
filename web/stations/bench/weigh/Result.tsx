import type { Reconciliation } from "../../../../core/bench/reconcile";
import { type Measured, reconcile } from "../../../../core/bench/reconcile";
import { type WeighInResult, weighIn } from "../../../../core/bench/weighIn";
import type { Bench, WeighIn } from "../../../../core/design/bench";
import { METRICS } from "../../../../core/design/metrics";
import type { Uncertain } from "../../../../core/numeric/propagate";
import { miss } from "../../../../core/runs/miss";
import { type MassEvidence, changedSince } from "../../../../core/subjects/mass/evidence";
import { DOUBT_WORD, reconciliationText } from "../../../../core/wording/bench";
import { plain, show } from "../../../../core/wording/format";
import { Value } from "../../../app/Computed";
import { useDesk } from "../../../app/desk";
import { usePreferences } from "../../../app/preferences";
import { Cairn } from "../../../glyphs/Cairn";
import { MissBar } from "../../../glyphs/MissBar";
import { SuspectRow, UnlistedRow } from "./Suspects";

const METRIC = { x: "cgX", y: "cgY", z: "cgZ" } as const;

/** Fills what one session cannot tell from the newest other sessions of the version that still hold. */
export function combined(own: WeighInResult, others: WeighInResult[]): Measured | null {
  const all = [own, ...others.toReversed()];
  const mass = all.find((r) => r.mass)?.mass;
  if (!mass) return null;
  const cg: Measured["cg"] = {};
  for (const axis of ["x", "y", "z"] as const) {
    const found = all.find((r) => r.cg[axis])?.cg[axis];
    if (found) cg[axis] = found;
  }
  return { mass, cg };
}

interface Props {
  weighed: WeighIn;
  session: Bench | null;
  onAdopt: (evidence: MassEvidence, said: string) => void;
  busy: boolean;
}

/** What a weigh-in says: beside the prediction, then reconciled with the ledger, with what may be taken over. */
export function Result({ weighed, session, onAdopt, busy }: Props) {
  const { design, file, version } = useDesk();
  const { habit } = usePreferences();
  const result = weighIn(weighed);
  const others = file.bench
    .filter(
      (b) => b.version === version.label && b.number !== session?.number && changedSince(b.tested, design).length === 0,
    )
    .flatMap((b) => (b.weighIn ? [weighIn(b.weighIn)] : []));
  const measured = combined(result, others);
  const stale = session ? changedSince(session.tested, design) : [];
  const found = measured && stale.length === 0 && weighed.kind !== "parts" ? reconcile(design, measured) : null;
  const note = session ? `weigh-in B-${String(session.number).padStart(2, "0")}` : "weigh-in";
  const rows: { key: "auw" | "cgX" | "cgY" | "cgZ"; value: Uncertain }[] = [
    ...(result.mass ? [{ key: "auw" as const, value: result.mass }] : []),
    ...(["x", "y", "z"] as const).flatMap((axis) => {
      const value = result.cg[axis];
      return value ? [{ key: METRIC[axis], value }] : [];
    }),
  ];
  const canAdopt = session !== null && stale.length === 0 && !busy;
  const parts = result.parts.flatMap((p) => {
    const item = design.items.find((i) => i.id === p.itemId);
    return item ? [{ item, ...p }] : [];
  });
  return (
    <section aria-label="Result">
      {rows.length > 0 && <Found rows={rows} />}
      {parts.length > 0 && (
        <>
          <div className="wide">
            <table className="rows w-full max-w-[760px]">
              <thead>
                <tr>
                  <th>part, all pieces</th>
                  <th className="text-right!">in the ledger</th>
                  <th className="text-right!">weighed</th>
                  <th className="text-right!">difference</th>
                </tr>
              </thead>
              <tbody>
                {parts.map(({ item, value, sd }) => {
                  const s = show(value, sd, "mass", habit);
                  const before = item.mass ? item.mass.value * item.quantity : null;
                  return (
                    <tr key={item.id}>
                      <td className="text-ink">{item.name}</td>
                      <td className="num predicted text-right">
                        {before === null ? "unknown" : plain(before, "mass", habit, 1)}
                      </td>
                      <td className="num measured text-right">
                        {s.value} ± {s.sd} {s.unit}
                      </td>
                      <td className="num text-right">
                        {before === null ? "" : plain(value - before, "mass", habit, 1)}
                      </td>
                    </tr>
                  );
                })}
              </tbody>
            </table>
          </div>
          <button
            type="button"
            className="act act-first mt-2"
            disabled={!canAdopt}
            onClick={() =>
              onAdopt(
                {
                  entries: parts.map(({ item, value, sd }) => ({
                    itemId: item.id,
                    mass: { value: value / item.quantity, sd: sd / item.quantity, evidence: "measured", note },
                  })),
                  found: [],
                },
                `${parts.length} weighed ${parts.length === 1 ? "mass" : "masses"}`,
              )
            }
          >
            Take {parts.length === 1 ? "this mass" : `these ${parts.length} masses`} into the ledger
          </button>
        </>
      )}
      {result.scatter !== null && (
        <p className="mt-1 text-[12px] text-pencil">
          Scatter of repeats:{" "}
          <span className="num">
            {plain(result.scatter, weighed.kind === "knife-edge" ? "length" : "mass", habit, 1)}
          </span>{" "}
          at most.
        </p>
      )}
      {result.doubts.map((d) => (
        <p key={d} className="mt-1 text-[12px] text-care">
          {DOUBT_WORD[d]}
        </p>
      ))}
      {stale.length > 0 && (
        <p className="mt-2 text-care" data-stale>
          Stale: the ledger has changed since ({stale.slice(0, 3).join(", ")}
          {stale.length > 3 ? ` and ${stale.length - 3} more` : ""}). Weigh again to reconcile.
        </p>
      )}
      {session?.adopted && <p className="mt-2 text-[12px] text-clear">Taken over: {session.adopted}.</p>}
      {found && (
        <section aria-label="Reconcile" className="mt-4">
          <h2>Reconciled with the ledger</h2>
          <p className="mt-1 text-[14px] font-medium text-ink" data-verdict={found.verdict}>
            {reconciliationText(found, habit)}
          </p>
          {found.verdict !== "agrees" && (
            <div className="wide">
              <SuspectTable found={found} canAdopt={canAdopt} onAdopt={onAdopt} note={note} session={session} />
            </div>
          )}
          {!session && found.verdict !== "agrees" && (
            <p className="mt-1 text-[12px] text-pencil">Keep the session first; then a correction can be accepted.</p>
          )}
        </section>
      )}
    </section>
  );
}

/** Parts that may explain what does not agree. */
function SuspectTable({
  found,
  canAdopt,
  onAdopt,
  note,
  session,
}: {
  found: Reconciliation;
  canAdopt: boolean;
  onAdopt: (evidence: MassEvidence, said: string) => void;
  note: string;
  session: Bench | null;
}) {
  const { design } = useDesk();
  const { habit } = usePreferences();

  return (
    <table className="rows mt-2 w-full max-w-[860px]">
      <thead>
        <tr>
          <th>which entry may be wrong, likeliest first</th>
          <th>how likely, of 100</th>
          <th />
        </tr>
      </thead>
      <tbody>
        {found.suspects.slice(0, 5).map((s) => {
          const item = design.items.find((i) => i.id === s.itemId);
          if (!item?.mass) return null;
          const corrected = s.what === "mass" ? item.mass.value + s.by / item.quantity : item.place[s.what] + s.by;
          const said =
            s.what === "mass"
              ? `${item.name} ${plain(corrected, "mass", habit, 1)}`
              : `${item.name} at ${s.what} ${plain(corrected, "length", habit)}`;
          const possible = s.what !== "mass" || corrected > 0;
          return (
            <SuspectRow
              key={`${s.itemId}${s.what}`}
              s={s}
              possible={possible}
              canAdopt={canAdopt}
              onAdopt={onAdopt}
              corrected={corrected}
              item={item}
              note={note}
              said={said}
            />
          );
        })}
        {(found.verdict === "unlisted" || found.unlisted > 0.1) && found.missing.value > 0 && found.at.x && (
          <UnlistedRow found={found} canAdopt={canAdopt} session={session} note={note} onAdopt={onAdopt} />
        )}
      </tbody>
    </table>
  );
}

/** What was found, beside the list. */
function Found({ rows }: { rows: { key: "auw" | "cgX" | "cgY" | "cgZ"; value: Uncertain }[] }) {
  const { evaluation } = useDesk();
  const { habit } = usePreferences();

  return (
    <div className="wide">
      <table className="rows w-full max-w-[760px]">
        <thead>
          <tr>
            <th>this weigh-in</th>
            <th className="text-right!">predicted</th>
            <th />
            <th className="text-right!">measured</th>
            <th>miss, in steps of ±</th>
          </tr>
        </thead>
        <tbody>
          {rows.map(({ key, value }) => {
            const q = evaluation.metrics[key];
            const m = q && miss(q, value);
            const s = show(value.value, value.sd, METRICS[key].dimension, habit);
            return (
              <tr key={key} data-weighed={key}>
                <td className="text-ink">{METRICS[key].label}</td>
                <td className="text-right">
                  {q ? <Value quantity={q} /> : <span className="text-pencil">unknown</span>}
                </td>
                <td>{q && <Cairn level={q.evidence} />}</td>
                <td className="num measured whitespace-nowrap text-right">
                  {s.value}
                  {s.sd && ` ± ${s.sd}`} {s.unit}
                </td>
                <td className="whitespace-nowrap">
                  {m && (
                    <>
                      <span className="inline-block align-middle">
                        <MissBar miss={m} />
                      </span>{" "}
                      <span
                        className={m.verdict === "agrees" ? "" : m.verdict === "doubtful" ? "text-care" : "text-stop"}
                      >
                        {m.verdict}
                      </span>
                    </>
                  )}
                </td>
              </tr>
            );
          })}
        </tbody>
      </table>
    </div>
  );
}
