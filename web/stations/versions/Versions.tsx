import { Suspense, lazy, useMemo, useState } from "react";
import { useSearchParams } from "react-router";
import { contracts } from "../../../api/contracts";
import type { CraftFile, Version } from "../../../core/design/craftFile";
import { METRICS, type MetricKey } from "../../../core/design/metrics";
import type { RunMetric } from "../../../core/design/run";
import type { Evaluation } from "../../../core/evaluate";
import { baselineOf } from "../../../core/lineage/baseline";
import { difference } from "../../../core/lineage/difference";
import { changeEnds } from "../../../core/wording/changes";
import { plain, show } from "../../../core/wording/format";
import { metricName } from "../../../core/wording/ladder";
import { ChildForm } from "../../app/ChildDialog";
import { Value } from "../../app/Computed";
import { Dialog } from "../../app/Dialog";
import { Opening } from "../../app/Opening";
import { call } from "../../app/client";
import { inState } from "../../../core/design/inState";
import { useDesk } from "../../app/desk";
import { evaluateKept } from "../../app/keptAnswers";
import { useHalfText } from "../../app/halfWritten";
import { usePreferences } from "../../app/preferences";
import { useDelete } from "../../app/useDelete";
import { useVersionWords } from "../../app/useVersionWords";
import { BeforeAfter } from "./BeforeAfter";
import { AdviceList } from "./AdviceList";
import { Changes } from "./Changes";
import { Drift } from "./Drift";
import { FateSheet } from "./FateSheet";
import { Lineage } from "./Lineage";
import { SetupSheet } from "./SetupSheet";

const ReportSheet = lazy(() => import("./ReportSheet").then((m) => ({ default: m.ReportSheet })));

const COMPARED: MetricKey[] = [
  "auw",
  "cgX",
  "cgZ",
  "thrust",
  "thrustToWeight",
  "packCurrent",
  "packVoltage",
  "rpm",
  "endurance",
  "cost",
];

/** Words about a version: its question, and what it showed. */
function Story({ version }: { version: Version }) {
  const words = useVersionWords();
  const { slug } = useDesk();
  const [question, setQuestion, asked] = useHalfText(slug, version.label, "question", version.question);
  const [finding, setFinding, found] = useHalfText(slug, version.label, "result", version.finding);
  const changed = question !== version.question || finding !== version.finding;
  return (
    <section aria-label={`About ${version.label}`} className="flex flex-col gap-2">
      <h2>{version.label}</h2>
      <label>
        Question
        <input className="box" maxLength={200} value={question} onChange={(e) => setQuestion(e.target.value)} />
      </label>
      <label>
        Result
        <input className="box" maxLength={200} value={finding} onChange={(e) => setFinding(e.target.value)} />
      </label>
      {version.reason && (
        <p>
          <span className="text-pencil">Why it was changed:</span> {version.reason}
        </p>
      )}
      {changed && (
        <p>
          <button
            type="button"
            className="act act-first"
            disabled={words.isPending}
            onClick={() =>
              words.mutate(
                { question, finding },
                {
                  onSuccess: () => {
                    asked();
                    found();
                  },
                },
              )
            }
          >
            Save these words
          </button>
        </p>
      )}
    </section>
  );
}

/** The newest measurement of a metric on a version. */
function useMeasured() {
  const { file, state } = useDesk();
  return (label: string, metric: string) =>
    file.runs
      .filter((r) => r.version === label && r.state === state.id)
      .flatMap((r) => r.metrics.flatMap((m) => (m.metric === metric && m.measured ? [m] : [])))
      .at(-1);
}

const keptIn = (slug: string, v: Version, stateId: string): Evaluation =>
  evaluateKept(`${slug} ${v.label} ${stateId}`, inState(v.design, stateId));

function Comparison({ from, to }: { from: Version; to: Version }) {
  const { habit } = usePreferences();
  const { slug, state } = useDesk();
  const measured = useMeasured();
  const a = useMemo(() => keptIn(slug, from, state.id), [slug, from, state.id]);
  const b = useMemo(() => keptIn(slug, to, state.id), [slug, to, state.id]);
  const changes = useMemo(() => difference(from.design, to.design), [from, to]);
  return (
    <div
      className={
        "grid gap-6 max-[900px]:grid-cols-[minmax(0,1fr)] " +
        `${from.label === to.parent ? "grid-cols-1" : "grid-cols-2"}`
      }
    >
      <section aria-label="What changed" hidden={from.label === to.parent}>
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
      <WhatItDid from={from} to={to} measured={measured} a={a} b={b} />
    </div>
  );
}

/** What the change did: predicted, and measured. */
function WhatItDid({
  from,
  to,
  measured,
  a,
  b,
}: {
  from: Version;
  to: Version;
  measured: (label: string, metric: string) => RunMetric | undefined;
  a: Evaluation;
  b: Evaluation;
}) {
  const { file } = useDesk();
  const { habit } = usePreferences();
  const others = [
    ...new Set(
      file.runs
        .filter((r) => r.version === from.label || r.version === to.label)
        .flatMap((r) => r.metrics.map((m) => m.metric)),
    ),
  ].filter((m) => !COMPARED.includes(m as MetricKey));
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
                      <span className="block">
                        {measured(i === 0 ? from.label : to.label, key) && inkOf(i === 0 ? from.label : to.label, key)}
                      </span>
                    </td>
                  ))}
                  <td className="num text-right">
                    {step === null ? "" : `${step > 0 ? "+" : ""}${plain(step, METRICS[key].dimension, habit)}`}
                  </td>
                </tr>
              );
            })}
            {others.map((name) => (
              <tr key={name}>
                <td className="text-ink">
                  {metricName(name)} <span className="text-[11px] text-pencil">not predicted</span>
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
  );
}

/** Whether pictures or logs go along with a craft: then it is exported with them beside it. */
const hasPictures = (file: CraftFile): boolean =>
  file.bench.some((b) => b.files.length > 0) ||
  file.runs.some((r) => r.files.length > 0 || r.moments.some((m) => m.files.length > 0));

export function VersionsStation() {
  const { file, version, design, slug, go } = useDesk();
  const [search, setSearch] = useSearchParams();
  const [branching, setBranching] = useState<string | null>(null);
  const remove = useDelete();
  const labels = file.versions.map((v) => v.label);
  const fromLabel = search.get("from") ?? version.parent ?? labels.find((l) => l !== version.label) ?? version.label;
  const from = file.versions.find((v) => v.label === fromLabel) ?? version;
  // The version in view counts with what stands on the desk, saved or not.
  const to = { ...version, design };
  const removeDraft = async () => {
    const parent = version.parent ?? labels.find((l) => l !== version.label);
    // Gone first, so that nothing looks for it once it is deleted.
    const gone = await remove(
      `Delete the draft ${version.label}? Its design goes with it.`,
      `${version.label} is deleted.`,
      async () => {
        const answer = await call(contracts.deleteVersion, { params: { slug, label: version.label } });
        go({ label: parent, station: "versions" });
        return answer;
      },
    );
    return gone;
  };
  const baseline = baselineOf(file, version.label);
  if (search.has("setup"))
    return (
      <SheetFrame>
        <SetupSheet />
      </SheetFrame>
    );
  if (search.has("report"))
    return (
      <SheetFrame>
        <Suspense fallback={<Opening />}>
          <ReportSheet />
        </Suspense>
      </SheetFrame>
    );
  if (search.has("fate"))
    return (
      <SheetFrame>
        <FateSheet key={version.label} />
      </SheetFrame>
    );
  return (
    <>
      <Lineage from={from.label} />
      <div className="grid grid-cols-[1fr_1fr] gap-6 px-4 py-3 max-[900px]:grid-cols-[minmax(0,1fr)]">
        <Story key={version.label} version={version} />
        <section aria-label="Open a version" className="flex flex-col items-start gap-2">
          <h2>From here</h2>
          <button type="button" className="act act-first" onClick={() => setBranching(version.label)}>
            Branch from {version.label}
          </button>
          {baseline && baseline.label !== version.label && (
            <button type="button" className="act" onClick={() => setBranching(baseline.label)}>
              Back to what worked: branch from {baseline.label}
            </button>
          )}
          <p className="flex flex-wrap gap-x-4 gap-y-1">
            <button type="button" className="link" onClick={() => setSearch({ setup: "1" })}>
              Set-up
            </button>
            <button type="button" className="link" onClick={() => setSearch({ fate: "1" })}>
              Project status
            </button>
            <button type="button" className="link" onClick={() => setSearch({ report: "1" })}>
              Build report
            </button>
          </p>
          {version.frozenAt === null && labels.length > 1 && (
            <button type="button" className="act" onClick={() => void removeDraft()}>
              Delete this draft
            </button>
          )}
          <a
            className="link"
            href={`/api/crafts/${slug}/${hasPictures(file) ? "export.tar" : "export"}`}
            download={`${slug}.${hasPictures(file) ? "tar" : "json"}`}
          >
            Export {file.craft.name} {hasPictures(file) ? "with its pictures" : "as a file"}
          </a>
          <label className="flex items-center gap-2">
            Compare with
            <select
              className="box w-24!"
              aria-label="Compare with"
              value={from.label}
              onChange={(e) => setSearch({ from: e.target.value })}
            >
              {labels.map((l) => (
                <option key={l}>{l}</option>
              ))}
            </select>
          </label>
        </section>
      </div>
      <Changes />
      <div className="border-t border-hair px-4 py-3">
        <BeforeAfter from={from} to={to} />
        <Comparison from={from} to={to} />
      </div>
      <AdviceList />
      <Drift />
      <Dialog open={branching !== null} title={`A new version from ${branching}`} onClose={() => setBranching(null)}>
        {branching !== null && (
          <ChildForm
            parent={branching}
            design={
              branching === version.label
                ? design
                : (file.versions.find((v) => v.label === branching)?.design ?? design)
            }
            onCancel={() => setBranching(null)}
          />
        )}
      </Dialog>
    </>
  );
}

/** A sheet of its own in this station, with the way back. */
function SheetFrame({ children }: { children: React.ReactNode }) {
  const { go, version } = useDesk();
  return (
    <>
      <p className="no-print px-4 pt-3">
        <button type="button" className="link" onClick={() => go({ station: "versions" })}>
          ← {version.label} among the versions
        </button>
      </p>
      {children}
    </>
  );
}
