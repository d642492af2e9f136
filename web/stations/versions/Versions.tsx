import { useMutation } from "@tanstack/react-query";
import { useMemo, useState } from "react";
import { useSearchParams } from "react-router";
import { toast } from "sonner";
import { contracts } from "../../../api/contracts";
import type { Version } from "../../../core/design/craftFile";
import { METRICS, type MetricKey } from "../../../core/design/metrics";
import { evaluate } from "../../../core/evaluate";
import { difference } from "../../../core/lineage/difference";
import { reversals, settle } from "../../../core/lineage/settle";
import { changeEnds } from "../../../core/wording/changes";
import { plain, show } from "../../../core/wording/format";
import { SETTLED_COLOUR } from "../../../core/wording/series";
import { ChildForm } from "../../app/ChildDialog";
import { Value } from "../../app/Computed";
import { Dialog } from "../../app/Dialog";
import { Post, reach } from "../../app/VersionTrack";
import { call, sayError } from "../../app/client";
import { useDesk } from "../../app/desk";
import { usePreferences } from "../../app/preferences";
import { metricLabel } from "../runs/words";
import { Drift } from "./Drift";

const COMPARED: MetricKey[] = ["auw", "cgX", "cgZ", "thrust", "thrustToWeight", "packCurrent", "packVoltage", "rpm", "endurance", "cost"];

/** What was claimed for a version, settled by what was measured; and whether the credit can be given to one thing at all. */
function Claims({ version }: { version: Version }) {
  const { file } = useDesk();
  const { habit } = usePreferences();
  const parent = file.versions.find((v) => v.label === version.parent);
  const settled = useMemo(
    () =>
      settle(file, version, (m) => (m in METRICS ? METRICS[m as MetricKey].dimension : (file.runs.flatMap((r) => r.metrics).find((x) => x.metric === m)?.dimension ?? "ratio"))),
    [file, version],
  );
  const undone = useMemo(() => (parent ? reversals(difference(parent.design, version.design)) : []), [parent, version]);
  if (settled.length === 0) return null;
  return (
    <div>
      {settled.map((s) => {
        const dimension =
          s.claim.metric in METRICS
            ? METRICS[s.claim.metric as MetricKey].dimension
            : (file.runs.flatMap((r) => r.metrics).find((x) => x.metric === s.claim.metric)?.dimension ?? "ratio");
        const shown = (m: typeof s.before) => {
          if (!m) return "not measured";
          const v = show(m.value, m.sd, dimension, habit);
          return `${v.value}${v.sd ? ` ± ${v.sd}` : ""}${v.unit === "°" ? "" : " "}${v.unit}`;
        };
        return (
          <p key={s.claim.metric} data-claim={s.verdict}>
            <span className="text-pencil">Claimed:</span> <b className="text-ink">{metricLabel(s.claim.metric)}</b> {s.claim.direction}, {s.claim.amount}.{" "}
            <b className={SETTLED_COLOUR[s.verdict]}>{s.verdict}</b>
            {(s.before ?? s.after) && (
              <span className="num">
                {" "}
                {version.parent && `${version.parent} ${shown(s.before)}, `}
                {version.label} {shown(s.after)}
                {s.odds !== null && `, odds ${Math.round(s.odds * 100)} in 100`}
              </span>
            )}
            {s.after && <span className="block text-[11px] text-pencil">from {[s.before?.by, s.after.by].filter(Boolean).join("; ")}</span>}
          </p>
        );
      })}
      {undone.length > 1 && (
        <p className="mt-1" data-credit>
          <span className="text-care">{undone.length} things were changed at once: the effect is credited to none of them.</span> To tell them apart, undo all but one in turn,
          cheapest first:{" "}
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

/** Words about a version: its question, and what it showed. */
function Story({ version }: { version: Version }) {
  const { slug, revisions, refresh } = useDesk();
  const [question, setQuestion] = useState(version.question);
  const [finding, setFinding] = useState(version.finding);
  const save = useMutation({
    mutationFn: () =>
      call(contracts.saveVersion, {
        params: { slug, label: version.label },
        body: { revision: revisions.versions[version.label] ?? 0, question, finding, reason: version.reason, claims: version.claims },
      }),
    onSuccess: refresh,
    onError: (e) => toast.error(sayError(e)),
  });
  const changed = question !== version.question || finding !== version.finding;
  return (
    <section aria-label={`About ${version.label}`} className="flex flex-col gap-2">
      <h2>{version.label}</h2>
      <label>
        What it is to find out
        <input className="box" maxLength={200} value={question} onChange={(e) => setQuestion(e.target.value)} />
      </label>
      <label>
        What it showed
        <input className="box" maxLength={200} value={finding} onChange={(e) => setFinding(e.target.value)} />
      </label>
      {version.reason && (
        <p>
          <span className="text-pencil">Why it was changed:</span> {version.reason}
        </p>
      )}
      <Claims version={version} />
      {changed && (
        <p>
          <button type="button" className="act act-first" disabled={save.isPending} onClick={() => save.mutate()}>
            Save these words
          </button>
        </p>
      )}
    </section>
  );
}

/** The newest measurement of a metric on a version. */
function useMeasured() {
  const { file } = useDesk();
  return (label: string, metric: string) =>
    file.runs
      .filter((r) => r.version === label)
      .flatMap((r) => r.metrics.flatMap((m) => (m.metric === metric && m.measured ? [m] : [])))
      .at(-1);
}

function Comparison({ from, to }: { from: Version; to: Version }) {
  const { habit } = usePreferences();
  const { file } = useDesk();
  const measured = useMeasured();
  const a = useMemo(() => evaluate(from.design), [from]);
  const b = useMemo(() => evaluate(to.design), [to]);
  const changes = useMemo(() => difference(from.design, to.design), [from, to]);
  const others = [...new Set(file.runs.filter((r) => r.version === from.label || r.version === to.label).flatMap((r) => r.metrics.map((m) => m.metric)))].filter(
    (m) => !COMPARED.includes(m as MetricKey),
  );
  const inkOf = (label: string, metric: string) => {
    const m = measured(label, metric);
    if (!m?.measured) return <span className="text-pencil">–</span>;
    const s = show(m.measured.value, m.measured.sd, m.dimension, habit);
    return (
      <span className="num measured">
        {s.value}
        {s.sd && ` ± ${s.sd}`} {s.unit}
      </span>
    );
  };
  return (
    <div className="grid grid-cols-2 gap-6 max-[900px]:grid-cols-[minmax(0,1fr)]">
      <section aria-label="What changed">
        <h2>
          What changed{" "}
          <span className="text-[12px] font-normal text-pencil">
            {from.label} to {to.label}, {changes.length} {changes.length === 1 ? "difference" : "differences"}
          </span>
        </h2>
        {changes.length === 0 ? (
          <p className="mt-1">Nothing: the two designs are the same.</p>
        ) : (
          <div className="overflow-x-auto">
            <table className="rows mt-1 w-full">
              <thead>
                <tr>
                  <th>part or set-up</th>
                  <th>{from.label}</th>
                  <th>{to.label}</th>
                </tr>
              </thead>
              <tbody>
                {changes.map((c) => {
                  const ends = changeEnds(c, habit);
                  return (
                    <tr key={c.path.join("/")} data-change={c.path.join("/")}>
                      <td className="text-ink">
                        {c.subject} <span className="text-pencil">{c.field}</span>
                      </td>
                      <td className="num predicted">{ends.from}</td>
                      <td className="num text-ink">{c.change === "changed" ? `→ ${ends.to}` : c.change}</td>
                    </tr>
                  );
                })}
              </tbody>
            </table>
          </div>
        )}
      </section>
      <section aria-label="What it did">
        <h2>
          What it did <span className="text-[12px] font-normal text-pencil">pencil predicted, ink measured</span>
        </h2>
        <div className="overflow-x-auto">
          <table className="rows mt-1 w-full">
            <thead>
              <tr>
                <th />
                <th className="text-right!">{from.label}</th>
                <th className="text-right!">{to.label}</th>
                <th className="text-right!">change</th>
              </tr>
            </thead>
            <tbody>
              {COMPARED.map((key) => {
                const p = a.metrics[key];
                const q = b.metrics[key];
                if (!p && !q) return null;
                const step = p && q ? q.value - p.value : null;
                return (
                  <tr key={key} data-compare={key}>
                    <td className="text-ink">{METRICS[key].label.replace(", full throttle", "")}</td>
                    {[p, q].map((x, i) => (
                      <td key={i === 0 ? "from" : "to"} className="text-right">
                        {x ? <Value quantity={x} /> : <span className="text-pencil">unknown</span>}
                        <span className="block">{measured(i === 0 ? from.label : to.label, key) && inkOf(i === 0 ? from.label : to.label, key)}</span>
                      </td>
                    ))}
                    <td className="num text-right">{step === null ? "" : `${step > 0 ? "+" : ""}${plain(step, METRICS[key].dimension, habit)}`}</td>
                  </tr>
                );
              })}
              {others.map((name) => (
                <tr key={name}>
                  <td className="text-ink">
                    {metricLabel(name)} <span className="text-[11px] text-pencil">not predicted</span>
                  </td>
                  <td className="text-right">{inkOf(from.label, name)}</td>
                  <td className="text-right">{inkOf(to.label, name)}</td>
                  <td />
                </tr>
              ))}
            </tbody>
          </table>
        </div>
      </section>
    </div>
  );
}

export function VersionsStation() {
  const { file, version, design, slug, go, refresh } = useDesk();
  const [search, setSearch] = useSearchParams();
  const [branching, setBranching] = useState(false);
  const labels = file.versions.map((v) => v.label);
  const fromLabel = search.get("from") ?? version.parent ?? labels.find((l) => l !== version.label) ?? version.label;
  const from = file.versions.find((v) => v.label === fromLabel) ?? version;
  // The version in view counts with what stands on the desk, saved or not.
  const to = { ...version, design };
  const remove = useMutation({
    mutationFn: () => call(contracts.deleteVersion, { params: { slug, label: version.label } }),
    onSuccess: async () => {
      go({ label: version.parent ?? labels.find((l) => l !== version.label), station: "versions" });
      await refresh();
    },
    onError: (e) => toast.error(sayError(e)),
  });
  return (
    <>
      <section aria-label="Lineage" className="flex gap-1 overflow-x-auto border-b border-hair bg-sheet px-4 py-3">
        {file.versions.map((v) => {
          const r = reach(file, v.label);
          const runs = file.runs.filter((x) => x.version === v.label).length;
          return (
            <button
              type="button"
              key={v.label}
              onClick={() => (v.label === version.label ? undefined : setSearch({ from: v.label }))}
              aria-pressed={v.label === from.label}
              className={`flex w-[138px] shrink-0 gap-2 px-2 py-2 text-left ${v.label === version.label ? "border-t-[3px] border-accent bg-tint-accent" : v.label === from.label ? "border-t-[3px] border-pencil bg-paper" : "border-t-[3px] border-transparent"}`}
            >
              <Post {...r} draft={v.frozenAt === null} />
              <span className="min-w-0">
                <b className="text-[15px] text-ink">{v.label}</b> <span className="text-[11px] text-pencil">{v.frozenAt?.slice(0, 10) ?? "draft"}</span>
                <span className="block text-[11px] italic leading-[13px]">{v.question}</span>
                <span className="block text-[11px] font-semibold leading-[13px] text-ink">{v.finding}</span>
                <span className="block text-[11px] text-pencil">
                  {runs} {runs === 1 ? "run" : "runs"}
                  {v.parent && `, from ${v.parent}`}
                </span>
              </span>
            </button>
          );
        })}
      </section>
      <div className="grid grid-cols-[1fr_1fr] gap-6 px-4 py-3 max-[900px]:grid-cols-[minmax(0,1fr)]">
        <Story key={version.label} version={version} />
        <section aria-label="Open a version" className="flex flex-col items-start gap-2">
          <h2>From here</h2>
          <button type="button" className="act act-first" onClick={() => setBranching(true)}>
            Branch from {version.label}
          </button>
          {version.frozenAt === null && labels.length > 1 && (
            <button
              type="button"
              className="act"
              onClick={() => {
                if (window.confirm(`Delete the draft ${version.label}? Its design goes with it.`)) remove.mutate();
              }}
            >
              Delete this draft
            </button>
          )}
          <a className="link" href={`/api/crafts/${slug}/export`} download={`${slug}.json`}>
            Export {file.craft.name} as a file
          </a>
          <label className="flex items-center gap-2">
            Compare with
            <select className="box w-24!" aria-label="Compare with" value={from.label} onChange={(e) => setSearch({ from: e.target.value })}>
              {labels.map((l) => (
                <option key={l}>{l}</option>
              ))}
            </select>
          </label>
        </section>
      </div>
      <div className="border-t border-hair px-4 py-3">
        <Comparison from={from} to={to} />
      </div>
      <Drift />
      <Dialog open={branching} title={`A new version from ${version.label}`} onClose={() => setBranching(false)}>
        <ChildForm parent={version.label} design={design} onCancel={() => setBranching(false)} />
      </Dialog>
    </>
  );
}
