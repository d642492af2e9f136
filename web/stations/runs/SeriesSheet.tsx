import { type UseMutationResult, useMutation } from "@tanstack/react-query";
import { useMemo, useState } from "react";
import { useSearchParams } from "react-router";
import { toast } from "sonner";
import { type NewRun, contracts } from "../../../api/contracts";
import { isMetricKey } from "../../../core/design/craftFile";
import { METRICS } from "../../../core/design/metrics";
import { type Dimension, type UnitHabit, toDisplay } from "../../../core/design/units";
import { difference } from "../../../core/lineage/difference";
import { meanReach } from "../../../core/numeric/welch";
import {
  type Per,
  type SeriesLap,
  compareSeries,
  coursesOf,
  lapDoubts,
  lapValue,
  lapsOf,
} from "../../../core/runs/series";
import { plain } from "../../../core/wording/format";
import { metricName } from "../../../core/wording/ladder";
import { PER_WORD, confounderText, seriesText } from "../../../core/wording/series";
import { call, sayError } from "../../app/client";
import { useDesk } from "../../app/desk";
import { usePreferences } from "../../app/preferences";
import { saveAgainst } from "../../app/saveAgainst";
import { QuantityField } from "../../fields/QuantityField";
import { LapImport } from "./LapImport";
import { asNewRun, heldRun } from "./heldRun";

const dimensionOf = (metric: string): Dimension => (isMetricKey(metric) ? METRICS[metric].dimension : "ratio");
const W = 560;
const ROW = 58;

/**
 * Every lap as a mark on one axis, a row for each version; means with their 95 % interval beneath. Laps that do not
 * count are crossed.
 */
function Strip({
  rows,
  dimension,
}: {
  rows: { version: string; laps: { value: number; counts: boolean; label: string }[]; mean: number; reach: number }[];
  dimension: Dimension;
}) {
  const { habit } = usePreferences();
  const all = rows
    .flatMap((r) => [...r.laps.map((l) => l.value), r.mean - r.reach, r.mean + r.reach])
    .filter(Number.isFinite);
  const [low, high] = [Math.min(...all), Math.max(...all)];
  const pad = (high - low || 1) * 0.06;
  // As many digits as tell the ends of the axis apart.
  const places = Math.max(0, Math.min(5, 1 - Math.floor(Math.log10(Math.max(toDisplay(high - low, dimension), 1e-9)))));
  const x = (v: number) => 46 + ((v - low + pad) / (high - low + 2 * pad)) * (W - 60);
  const height = rows.length * ROW + 30;
  return (
    <svg
      viewBox={`0 0 ${W} ${height}`}
      width="100%"
      className="block max-w-[760px] bg-sheet"
      role="img"
      aria-label="Laps of each version"
    >
      {rows.map((r, k) => (
        <g key={r.version} transform={`translate(0 ${k * ROW + 22})`}>
          <text x="6" y="5" fontSize="13" fontWeight="650" fill="var(--ink)">
            {r.version}
          </text>
          <path d={`M40 0H${W - 8}`} stroke="var(--hair)" />
          {r.laps.map((l, i) =>
            l.counts ? (
              <circle key={`${l.label}${i}`} cx={x(l.value)} cy="0" r="4" fill="var(--ink)" fillOpacity="0.55" />
            ) : (
              <path
                key={`${l.label}${i}`}
                d={`M${x(l.value) - 4} -4l8 8m0 -8l-8 8`}
                stroke="var(--stop)"
                strokeWidth="1.6"
              />
            ),
          )}
          {Number.isFinite(r.mean) && (
            <g stroke="var(--ink)" strokeWidth="2">
              {Number.isFinite(r.reach) && (
                <path
                  d={
                    `M${x(r.mean - r.reach)} ` +
                    `17h${x(r.mean + r.reach) - x(r.mean - r.reach)}M${x(r.mean - r.reach)} ` +
                    `12v10M${x(r.mean + r.reach)} 12v10`
                  }
                  fill="none"
                />
              )}
              <path d={`M${x(r.mean)} 10v14`} strokeWidth="3" />
            </g>
          )}
        </g>
      ))}
      {[low, (low + high) / 2, high].map((v) => (
        <text key={v} x={x(v)} y={height - 6} textAnchor="middle" fontSize="11" className="num" fill="var(--ink2)">
          {shown(v, dimension, habit, places)}
        </text>
      ))}
    </svg>
  );
}

/** A lap's value: times as a stop-watch shows them, in seconds, the rest in the user's unit. */
const shown = (value: number, dimension: Dimension, habit: UnitHabit, places: number): string =>
  dimension === "time" ? `${value.toFixed(places)}\u00a0s` : plain(value, dimension, habit, places);

/** Leaves a lap out of the comparison, with the reason, or takes it back in. */
function useLeaveOut() {
  const { file, slug, revisions, refresh } = useDesk();
  return useMutation({
    mutationFn: async ({ lap, out }: { lap: SeriesLap; out: string }) => {
      const run = file.runs.find((r) => r.number === lap.run);
      if (!run) throw new Error("This run is gone.");
      const body = { ...asNewRun(run), laps: run.laps.map((l) => (l.label === lap.label ? { ...l, out } : l)) };
      await saveAgainst<NewRun>({
        what: `Run ${run.number}`,
        revision: revisions.runs[run.number] ?? 0,
        mine: body,
        read: heldRun,
        send: (revision) =>
          call(contracts.saveRun, { params: { slug, number: run.number }, body: { revision, run: body } }),
      });
    },
    onSuccess: refresh,
    onError: (e) => toast.error(sayError(e)),
  });
}

/** The test behind the sentence, and what else than the change could be the cause. */
function HowSure({
  compared,
  from,
  to,
  dimension,
}: {
  compared: ReturnType<typeof compareSeries>;
  from: string;
  to: string;
  dimension: Dimension;
}) {
  const { habit } = usePreferences();
  return (
    <>
      {compared.result && (
        <details className="mt-2 text-pencil" data-welch>
          <summary className="min-h-6">How sure</summary>
          Means {shown(compared.result.a.mean, dimension, habit, 3)} and{" "}
          {shown(compared.result.b.mean, dimension, habit, 3)}; t {compared.result.t.toFixed(2)},{" "}
          {compared.result.freedom.toFixed(1)} degrees of freedom, p{" "}
          {compared.result.p < 0.0001 ? "below 0.0001" : compared.result.p.toFixed(4)} (Welch).
          {compared.withAll &&
            compared.left.some((l) => l.why === "low-pack") &&
            ` With the low packs in: t ${compared.withAll.t.toFixed(2)}.`}
        </details>
      )}
      {compared.confounders.length > 0 && (
        <section aria-label="What else could be the cause" className="mt-2">
          <h3 className="text-[13px]">What else could be the cause</h3>
          <ul className="list-disc pl-4">
            {compared.confounders.map((c) => (
              <li key={c.kind} data-confounder={c.kind} className="text-care">
                {confounderText(c, from, to, habit)}
              </li>
            ))}
          </ul>
        </section>
      )}
    </>
  );
}

/** Series on one course: two versions held against each other, with what else could be the cause. */
export function SeriesSheet() {
  const { file, version } = useDesk();
  const [search, setSearch] = useSearchParams();
  const [importing, setImporting] = useState(false);
  const courses = useMemo(() => coursesOf(file), [file]);
  const course =
    courses.find((c) => c.course === search.get("course")) ??
    courses.find((c) => c.versions.includes(version.label)) ??
    courses[0];
  const laps = useMemo(() => (course ? lapsOf(file, course.course) : []), [file, course]);
  const [metricAsked, setMetric] = useState<string | null>(null);
  const [per, setPer] = useState<Per>("lap");
  const [lowest, setLowest] = useState<number | null>(null);
  const metric =
    course?.metrics.find((m) => m === metricAsked) ??
    course?.metrics.find((m) => m === "energyUsed") ??
    course?.metrics[0] ??
    "";
  const versions = course?.versions ?? [];
  const to = versions.find((v) => v === search.get("to")) ?? versions.at(-1) ?? "";
  const from = versions.find((v) => v === search.get("with") && v !== to) ?? versions.find((v) => v !== to) ?? "";
  const put = (change: Record<string, string>) => {
    const next = new URLSearchParams(search);
    for (const [k, v] of Object.entries(change)) next.set(k, v);
    setSearch(next, { replace: true });
  };
  const changes = useMemo(() => {
    const [a, b] = [from, to].map((label) => file.versions.find((v) => v.label === label)?.design);
    return a && b ? difference(a, b) : [];
  }, [file, from, to]);
  const compared = useMemo(
    () => compareSeries(laps, from, to, metric, per, changes, lowest),
    [laps, from, to, metric, per, changes, lowest],
  );
  const doubts = lapDoubts(laps, lowest);
  const leave = useLeaveOut();
  const dimension = dimensionOf(metric);
  const rows = [from, to].filter(Boolean).map((v, k) => {
    const sample = k === 0 ? compared.result?.a : compared.result?.b;
    return {
      version: v,
      laps: laps.flatMap((l, i) => {
        const value = l.version === v ? lapValue(l, metric, per) : null;
        return value === null ? [] : [{ value, counts: doubts[i] === null, label: l.label }];
      }),
      mean: sample?.mean ?? Number.NaN,
      reach: sample ? meanReach(sample) : Number.NaN,
    };
  });
  const imported = importing && (
    <LapImport
      onClose={() => setImporting(false)}
      onDone={(name) => {
        setImporting(false);
        put({ course: name });
      }}
    />
  );
  if (!course)
    return (
      <>
        <h2 className="text-[18px]">No series yet</h2>
        <p className="mt-2 max-w-lg">
          A series is a course driven again and again: laps with what was measured on each. Two versions on one course
          can be told apart, and how surely.
        </p>
        <button type="button" className="act act-first mt-3" onClick={() => setImporting(true)}>
          Read laps from a file
        </button>
        {imported}
      </>
    );
  return (
    <section aria-label="Series" className="text-[12px]">
      <h2 className="border-b border-ink pb-1 text-[18px]">Compare series</h2>
      <SeriesAsked
        course={course}
        courses={courses}
        put={put}
        metric={metric}
        setMetric={setMetric}
        per={per}
        setPer={setPer}
        versions={versions}
        from={from}
        to={to}
        lowest={lowest}
        setLowest={setLowest}
        setImporting={setImporting}
      />
      {versions.length < 2 && (
        <p className="mt-2">Only {versions[0]} has been on this course: run another version on it to compare.</p>
      )}
      <p className="mt-3 text-[15px] text-ink" data-series={compared.verdict}>
        {seriesText(compared, from, to, `${metricName(metric)} ${per === "lap" ? "" : PER_WORD[per]}`.trim())}
      </p>
      <div className="mt-2">
        <Strip rows={rows} dimension={per === "lap" ? dimension : "ratio"} />
      </div>
      <HowSure {...{ compared, from, to }} dimension={per === "lap" ? dimension : "ratio"} />
      <Laps course={course} laps={laps} doubts={doubts} leave={leave} />
      {imported}
    </section>
  );
}

/** Which course, what of it, and which versions. */
function SeriesAsked({
  course,
  courses,
  put,
  metric,
  setMetric,
  per,
  setPer,
  versions,
  from,
  to,
  lowest,
  setLowest,
  setImporting,
}: {
  course: { course: string; versions: string[]; metrics: string[] };
  courses: { course: string; versions: string[]; metrics: string[] }[];
  put: (change: Record<string, string>) => void;
  metric: string;
  setMetric: (next: string | null) => void;
  per: Per;
  setPer: (next: Per) => void;
  versions: string[];
  from: string;
  to: string;
  lowest: number | null;
  setLowest: (next: number | null) => void;
  setImporting: (next: boolean) => void;
}) {
  const select = (
    label: string,
    value: string,
    options: readonly string[],
    onPick: (v: string) => void,
    word: (v: string) => string = (v) => v,
  ) => (
    <label className="w-40">
      {label}
      <select className="box" aria-label={label} value={value} onChange={(e) => onPick(e.target.value)}>
        {options.map((o) => (
          <option key={o} value={o}>
            {word(o)}
          </option>
        ))}
      </select>
    </label>
  );
  return (
    <div className="no-print mt-2 flex flex-wrap items-end gap-3">
      {select(
        "Course of the series",
        course.course,
        courses.map((c) => c.course),
        (v) => put({ course: v }),
      )}
      {select("Compared quantity", metric, course.metrics, setMetric, metricName)}
      {select(
        "Taken",
        per,
        ["lap", "distance", "minute", "charge"],
        (v) => setPer(v as Per),
        (v) => PER_WORD[v as Per],
      )}
      {versions.length > 1 && select("First", from, versions, (v) => put({ with: v }))}
      {versions.length > 1 && select("Against it", to, versions, (v) => put({ to: v }))}
      <label className="w-28">
        Low pack below
        <QuantityField
          boxed
          label="Low pack below"
          value={lowest}
          dimension="voltage"
          empty="7 % less"
          onCommit={setLowest}
        />
      </label>
      <button type="button" className="link pb-1" onClick={() => setImporting(true)}>
        read laps from a file
      </button>
    </div>
  );
}

/** The laps of the series, with those that are left out. */
function Laps({
  course,
  laps,
  doubts,
  leave,
}: {
  course: { course: string; versions: string[]; metrics: string[] };
  laps: SeriesLap[];
  doubts: ("low-pack" | "left-out" | null)[];
  leave: UseMutationResult<void, Error, { lap: SeriesLap; out: string }, unknown>;
}) {
  const { habit } = usePreferences();

  return (
    <div className="wide mt-3 max-h-80 overflow-y-auto">
      <table className="rows w-full">
        <thead>
          <tr>
            <th>lap</th>
            <th>version</th>
            {course.metrics.map((m) => (
              <th key={m} className="text-right!">
                {metricName(m).toLowerCase()}
              </th>
            ))}
            <th className="text-right!">wind</th>
            <th>pack</th>
            <th className="text-right!">at start</th>
            <th>remark</th>
            <th />
          </tr>
        </thead>
        <tbody>
          {laps.map((l, i) => (
            <tr
              key={`${l.run} ${l.label} ${i}`}
              data-lap={l.label}
              className={doubts[i] ? "text-pencil line-through" : ""}
            >
              <td>{l.label}</td>
              <td>{l.version}</td>
              {course.metrics.map((m) => (
                <td key={m} className="num text-right">
                  {l.values[m] === undefined ? "–" : shown(l.values[m] ?? 0, dimensionOf(m), habit, 2)}
                </td>
              ))}
              <td className="num text-right">{l.wind === null ? "–" : plain(l.wind, "speed", habit)}</td>
              <td>{l.pack}</td>
              <td className="num text-right">
                {l.startVoltage === null ? "–" : plain(l.startVoltage, "voltage", habit)}
              </td>
              <td>
                {doubts[i] === "low-pack" ? "low pack" : l.out} {l.remark}
              </td>
              <td className="no-print text-right">
                <button
                  type="button"
                  className="link"
                  onClick={() => leave.mutate({ lap: l, out: l.out === "" ? "left out by hand" : "" })}
                >
                  {l.out === "" ? "leave out" : "count it"}
                </button>
              </td>
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  );
}
