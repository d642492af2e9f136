import { chance } from "../../../core/subjects/say";
import { metricName } from "../../../core/wording/ladder";
import { useMemo, useState } from "react";
import type { Claim, Version, Why } from "../../../core/design/craftFile";
import { METRICS, METRIC_KEYS, type MetricKey } from "../../../core/design/metrics";
import { reversals, settle } from "../../../core/lineage/settle";
import { type Thing, thingsChanged } from "../../../core/lineage/things";
import { changeEnds } from "../../../core/wording/changes";
import { plain, show } from "../../../core/wording/format";
import { SETTLED_COLOUR } from "../../../core/wording/series";
import { useDesk } from "../../app/desk";
import { usePreferences } from "../../app/preferences";
import { useVersionWords } from "../../app/useVersionWords";
import { TextField } from "../../fields/TextField";
import { faultName } from "../runs/words";

const signed = (v: number | null, dimension: "mass" | "length", habit: "metric" | "imperial") =>
  v === null ? "open" : Math.abs(v) < 5e-6 ? "0" : `${v > 0 ? "+" : ""}${plain(v, dimension, habit)}`;

/** What is expected of one thing that was changed: metric, direction, amount. Said before the first run. */
function ClaimForm({ change, of, onAdd }: { change: string; of: string; onAdd: (c: Claim) => void }) {
  const [open, setOpen] = useState(false);
  const [claim, setClaim] = useState<Claim>({ metric: "", direction: "down", amount: "", change });
  if (!open)
    return (
      <button
        type="button"
        className="link text-[11px]"
        aria-label={`Add an expected effect: ${of}`}
        onClick={() => setOpen(true)}
      >
        add an expected effect
      </button>
    );
  const key = METRIC_KEYS.find((k) => METRICS[k].label === claim.metric);
  return (
    <span className="grid grid-cols-[1fr_76px_1fr_auto] gap-1">
      <input
        className="box"
        aria-label="What it shall change"
        list="claim-metrics"
        placeholder="such as nose angle"
        maxLength={60}
        value={claim.metric}
        onChange={(e) => setClaim({ ...claim, metric: e.target.value })}
      />
      <select
        className="box"
        aria-label="Direction of the claim"
        value={claim.direction}
        onChange={(e) => setClaim({ ...claim, direction: e.target.value as Claim["direction"] })}
      >
        <option value="down">down</option>
        <option value="up">up</option>
        <option value="same">same</option>
      </select>
      <input
        className="box"
        aria-label="Amount of the claim"
        placeholder="such as by 20 %"
        maxLength={120}
        value={claim.amount}
        onChange={(e) => setClaim({ ...claim, amount: e.target.value })}
      />
      <button
        type="button"
        className="act"
        disabled={claim.metric.trim() === ""}
        onClick={() => {
          onAdd({ ...claim, metric: key ?? claim.metric.trim() });
          setOpen(false);
        }}
      >
        Keep
      </button>
    </span>
  );
}

/** One thing that was changed: what was and is, its grams and millimetres, why, and what it was to do. */
function ThingRow({
  thing,
  version,
  onWhy,
  onClaim,
}: {
  thing: Thing;
  version: Version;
  onWhy: (w: Why) => void;
  onClaim: (list: Claim[]) => void;
}) {
  const { file } = useDesk();
  const { habit } = usePreferences();
  const why = version.whys.find((w) => w.change === thing.key) ?? {
    change: thing.key,
    why: "",
    fault: null,
    run: null,
  };
  const claims = version.claims.filter((c) => c.change === thing.key);
  return (
    <tr data-thing={thing.key} className="align-top">
      <td className="py-1! align-top!">
        <b className="text-ink">{thing.subject}</b>
        {thing.changes.slice(0, 4).map((c) => {
          const ends = changeEnds(c, habit);
          return (
            <span key={c.path.join("/")} data-change={c.path.join("/")} className="block text-[12px] leading-4">
              {c.change === "changed" ? (
                <>
                  <span className="text-pencil">{c.field}</span> <span className="num predicted">{ends.from}</span>{" "}
                  <span className="num text-ink">→ {ends.to}</span>
                </>
              ) : (
                c.change
              )}
            </span>
          );
        })}
        {thing.changes.length > 4 && (
          <span className="block text-[11px] text-pencil">and {thing.changes.length - 4} more</span>
        )}
      </td>
      <td className="num py-1! text-right align-top!" data-label="mass">
        {signed(thing.mass, "mass", habit)}
      </td>
      <td className="num py-1! text-right align-top!" data-label="CG aft">
        {signed(thing.cg, "length", habit)}
      </td>
      <td className="py-1! align-top!" data-label="reason, cause">
        <span className="block">
          <TextField
            label={`Why: ${thing.subject}`}
            value={why.why}
            placeholder="why?"
            onCommit={(text) => onWhy({ ...why, why: text.trim().slice(0, 200) })}
          />
          <select
            className="cell text-[11px]"
            aria-label={`Led to it: ${thing.subject}`}
            value={why.fault !== null ? `f${why.fault}` : why.run !== null ? `r${why.run}` : ""}
            onChange={(e) => {
              const n = Number(e.target.value.slice(1));
              onWhy({
                ...why,
                fault: e.target.value.startsWith("f") ? n : null,
                run: e.target.value.startsWith("r") ? n : null,
              });
            }}
          >
            <option value="">no linked cause</option>
            {file.faults.map((f) => (
              <option key={f.number} value={`f${f.number}`}>
                {faultName(f.number)} {f.title}
              </option>
            ))}
            {file.runs.map((r) => (
              <option key={r.number} value={`r${r.number}`}>
                run {r.number}, {r.version}
              </option>
            ))}
          </select>
        </span>
      </td>
      <td className="py-1! align-top!" data-label="expected">
        <span className="block">
          {claims.map((c) => (
            <span key={`${c.metric}${c.amount}`} className="block text-[12px]">
              {metricName(c.metric)} {c.direction}, {c.amount}
              {version.frozenAt === null && (
                <button
                  type="button"
                  className="link ml-1"
                  aria-label={`Take back: ${metricName(c.metric)}`}
                  onClick={() => onClaim(version.claims.filter((x) => x !== c))}
                >
                  ×
                </button>
              )}
            </span>
          ))}
          {version.frozenAt === null ? (
            <ClaimForm change={thing.key} of={thing.subject} onAdd={(c) => onClaim([...version.claims, c])} />
          ) : (
            claims.length === 0 && <span className="text-[11px] text-pencil">no claim</span>
          )}
        </span>
      </td>
    </tr>
  );
}

/** Every difference from the parent by itself, with why and what it was to do. */
export function Changes() {
  const { file, version, design } = useDesk();
  const { habit } = usePreferences();
  const words = useVersionWords();
  const parent = file.versions.find((v) => v.label === version.parent);
  const changed = useMemo(() => parent && thingsChanged(parent.design, design), [parent, design]);
  if (!parent || !changed) return null;
  return (
    <section aria-label="Changes and why" className="border-t border-hair px-4 py-3">
      <datalist id="claim-metrics">
        {METRIC_KEYS.map((k) => (
          <option key={k} value={METRICS[k].label} />
        ))}
      </datalist>
      <h2>
        What was changed{" "}
        <span className="text-[12px] font-normal text-pencil">
          {parent.label} to {version.label}, {changed.things.length} {changed.things.length === 1 ? "thing" : "things"}
          {"; g and mm: what it does alone"}
        </span>
      </h2>
      {changed.things.length === 0 ? (
        <p className="mt-1">Nothing yet.</p>
      ) : (
        <div className="wide">
          <table className="rows cards mt-1 w-full">
            <thead>
              <tr>
                <th className="w-[28%]">part or set-up</th>
                <th className="text-right!">mass</th>
                <th className="text-right!">CG aft</th>
                <th className="w-[26%]">reason and cause</th>
                <th className="w-[28%]">expected effect</th>
              </tr>
            </thead>
            <tbody>
              {changed.things.map((t) => (
                <ThingRow
                  key={t.key}
                  thing={t}
                  version={version}
                  onWhy={(w) =>
                    words.mutate({
                      whys: [
                        ...version.whys.filter((x) => x.change !== w.change),
                        ...(w.why || w.fault || w.run ? [w] : []),
                      ],
                    })
                  }
                  onClaim={(claims) => words.mutate({ claims })}
                />
              ))}
            </tbody>
            <tfoot>
              <tr>
                <td className="text-ink">In all</td>
                <td className="num text-right" data-label="mass">
                  {signed(changed.total.mass, "mass", habit)}
                </td>
                <td className="num text-right" data-label="CG aft">
                  {signed(changed.total.cg, "length", habit)}
                </td>
                <td />
                <td>
                  {version.frozenAt === null && (
                    <ClaimForm
                      change=""
                      of="all together"
                      onAdd={(c) => words.mutate({ claims: [...version.claims, c] })}
                    />
                  )}
                </td>
              </tr>
            </tfoot>
          </table>
        </div>
      )}
      <Claims version={{ ...version, design }} />
    </section>
  );
}

/**
 * What was claimed for a version, settled by what was measured; and whether the credit can be given to one thing at
 * all.
 */
function Claims({ version }: { version: Version }) {
  const { file } = useDesk();
  const { habit } = usePreferences();
  const parent = file.versions.find((v) => v.label === version.parent);
  const dimensionOf = (m: string) =>
    m in METRICS
      ? METRICS[m as MetricKey].dimension
      : (file.runs.flatMap((r) => r.metrics).find((x) => x.metric === m)?.dimension ?? ("ratio" as const));
  const settled = settle(file, version, dimensionOf);
  const things = useMemo(
    () => (parent ? thingsChanged(parent.design, version.design) : null),
    [parent, version.design],
  );
  const undone = useMemo(
    () =>
      things
        ? reversals(
            things.things.flatMap((t) => t.changes),
            version.design,
          )
        : [],
    [things, version.design],
  );
  if (settled.length === 0 && undone.length < 2) return null;
  return (
    <div className="mt-2">
      <h3>{settled.length > 0 ? "What it was to do" : "Credit"}</h3>
      {settled.map((s) => {
        const dimension = dimensionOf(s.claim.metric);
        const shown = (m: typeof s.before) => {
          if (!m) return "not measured";
          const v = show(m.value, m.sd, dimension, habit);
          return `${v.value}${v.sd ? ` ± ${v.sd}` : ""}${v.unit === "°" ? "" : " "}${v.unit}`;
        };
        const by =
          s.claim.change === "" ? null : (things?.things.find((t) => t.key === s.claim.change)?.subject ?? null);
        return (
          <p key={`${s.claim.metric}${s.claim.amount}`} data-claim={s.verdict}>
            <span className="text-pencil">Claimed{by && ` of ${by}`}:</span>{" "}
            <b className="text-ink">{metricName(s.claim.metric)}</b> {s.claim.direction}, {s.claim.amount}.{" "}
            <b className={SETTLED_COLOUR[s.verdict]}>{s.verdict}</b>
            {(s.before ?? s.after) && (
              <span className="num">
                {" "}
                {version.parent && `${version.parent} ${shown(s.before)}, `}
                {version.label} {shown(s.after)}
                {s.odds !== null && `, odds ${chance(s.odds)}`}
                {s.why && `: ${s.why}`}
                {s.repeats !== null &&
                  s.verdict !== "met" &&
                  s.verdict !== "not met" &&
                  `; about ${s.repeats} repeats on each side would tell a change as large as that`}
              </span>
            )}
            {s.after && (
              <span className="block text-[11px] text-pencil">
                from {[s.before?.by, s.after.by].filter(Boolean).join("; ")}
              </span>
            )}
          </p>
        );
      })}
      {undone.length > 1 && (
        <p className="mt-1" data-credit>
          <span className="text-care">
            {undone.length} things were changed at once: the effect is credited to none of them.
          </span>{" "}
          To tell them apart, undo all but one in turn, cheapest first:{" "}
          {undone
            .slice(0, 6)
            .map((r) => `${r.subject} (about ${r.minutes} min)`)
            .join(", ")}
          {undone.length > 6 && `, and ${undone.length - 6} more`}.
        </p>
      )}
    </div>
  );
}
