import { scaleLinear } from "d3-scale";
import { useMemo } from "react";
import { METRICS, type MetricKey } from "../../../core/design/metrics";
import type { Target } from "../../../core/design/schema";
import { DISPLAY, toDisplay, type Dimension } from "../../../core/design/units";
import { spendOf } from "../../../core/lineage/spend";
import { growthOf } from "../../../core/subjects/mass/growth";
import { useDesk } from "../../app/desk";
import { evaluateKept } from "../../app/keptAnswers";
import { usePreferences } from "../../app/preferences";
import { Guessing } from "./Guessing";

const WIDTH = 430;
const HEIGHT = 170;
const LEFT = 52;
const BASE = HEIGHT - 22;

interface Point {
  label: string;
  predicted: { value: number; sd: number } | undefined;
  measured: { value: number; sd: number } | undefined;
  target: Target | undefined;
  planned: number | null;
  expected: number;
}

/** One quantity over all versions: pencil predicted with its ±, ink measured, and the green window that held then. */
function DriftChart({ title, dimension, points }: { title: string; dimension: Dimension; points: Point[] }) {
  const { habit } = usePreferences();
  const values = points.flatMap((p) => [
    ...(p.predicted ? [p.predicted.value - p.predicted.sd, p.predicted.value + p.predicted.sd] : []),
    ...(p.measured ? [p.measured.value] : []),
    ...(p.planned !== null ? [p.planned, 1.2 * p.planned] : []),
    ...(p.target ? [p.target.value, ...(p.target.upper === undefined ? [] : [p.target.upper])] : []),
  ]);
  if (values.length === 0) return null;
  return (
    <figure className="min-w-0">
      <figcaption>
        <h2>
          {title}{" "}
          <span className="text-[12px] font-normal text-pencil">
            {DISPLAY[habit][dimension]}, green: allowed range at the time
            {points.some((p) => p.planned !== null)
              ? "; dotted: planned, dashes: 20 % over it, blue: growth to expect"
              : ""}
          </span>
        </h2>
      </figcaption>
      <DriftDrawing dimension={dimension} values={values} points={points} title={title} />
    </figure>
  );
}

/** One quantity over the versions: predicted, measured, asked for. */
function DriftDrawing({
  dimension,
  values,
  points,
  title,
}: {
  dimension: Dimension;
  values: number[];
  points: Point[];
  title: string;
}) {
  const { habit } = usePreferences();
  const { version } = useDesk();
  const d = (v: number) => toDisplay(v, dimension, habit);
  const low = Math.min(...values.map(d));
  const high = Math.max(...values.map(d));
  const pad = Math.max((high - low) * 0.1, 1e-6);
  const ty = scaleLinear([low - pad, high + pad], [BASE, 8]);
  const y = (v: number) => ty(d(v));
  const slot = (WIDTH - LEFT - 8) / points.length;
  const x = (i: number) => LEFT + slot * (i + 0.5);
  const ticks = ty.ticks(4);
  const path = (list: ({ i: number; v: number } | null)[]) =>
    list
      .filter((p) => p !== null)
      .map((p, k) => `${k === 0 ? "M" : "L"}${x(p.i)} ${y(p.v)}`)
      .join("");
  return (
    <svg
      viewBox={`0 0 ${WIDTH} ${HEIGHT}`}
      width="100%"
      className="mt-1 block bg-sheet"
      role="img"
      data-drift={title}
      aria-label={
        `${title}: ` +
        `${points.map((p) => `${p.label} ${p.predicted ? d(p.predicted.value).toFixed(1) : "unknown"}`).join(", ")}`
      }
    >
      {ticks.map((t) => (
        <g key={t}>
          <path d={`M${LEFT} ${ty(t)}H${WIDTH - 4}`} stroke="var(--hair)" />
          <text x={LEFT - 6} y={ty(t) + 4} textAnchor="end" className="num" style={{ fontSize: 11 }} fill="var(--ink2)">
            {Number(t.toFixed(2))}
          </text>
        </g>
      ))}
      {points.map((p, i) => {
        if (!p.target) return null;
        const top = p.target.comparison === "between" ? (p.target.upper ?? p.target.value) : p.target.value;
        const bottom = p.target.comparison === "between" ? y(p.target.value) : BASE;
        return (
          <g key={p.label}>
            <rect
              x={x(i) - slot * 0.45}
              width={slot * 0.9}
              y={y(top)}
              height={Math.max(bottom - y(top), 0)}
              fill="var(--tint-clear)"
            />
            <path d={`M${x(i) - slot * 0.45} ${y(top)}h${slot * 0.9}`} stroke="var(--clear)" />
          </g>
        );
      })}
      {points.some((p) => p.planned !== null) && (
        <>
          <path
            d={path(points.map((p, i) => (p.planned === null ? null : { i, v: p.planned })))}
            fill="none"
            stroke="var(--pencil)"
            strokeDasharray="1 4"
            strokeWidth="1.6"
          />
          <path
            d={path(points.map((p, i) => (p.planned === null ? null : { i, v: 1.2 * p.planned })))}
            fill="none"
            stroke="var(--care)"
            strokeDasharray="6 3"
          />
        </>
      )}
      <path
        d={path(points.map((p, i) => (p.predicted ? { i, v: p.predicted.value } : null)))}
        fill="none"
        stroke="var(--pencil)"
        strokeDasharray="4 3"
      />
      <path
        d={path(points.map((p, i) => (p.measured ? { i, v: p.measured.value } : null)))}
        fill="none"
        stroke="var(--ink)"
        strokeWidth="1.8"
      />
      {points.map((p, i) => (
        <g key={p.label}>
          {p.predicted && (
            <path
              d={
                `M${x(i) - 6} ${y(p.predicted.value)}h12M${x(i)} ` +
                `${y(p.predicted.value - p.predicted.sd)}V${y(p.predicted.value + p.predicted.sd)}`
              }
              stroke="var(--pencil)"
            />
          )}
          {p.measured && <rect x={x(i) - 4} y={y(p.measured.value) - 4} width="8" height="8" fill="var(--ink)" />}
          {p.predicted && p.expected > 0.0005 && (
            <path
              d={`M${x(i)} ${y(p.predicted.value)}V${y(p.predicted.value + p.expected)}m-4 0h8`}
              stroke="var(--accent)"
            />
          )}
          <text
            x={x(i)}
            y={HEIGHT - 6}
            textAnchor="middle"
            fontSize="11"
            fontWeight={p.label === version.label ? 650 : 400}
            fill={p.label === version.label ? "var(--accent)" : "var(--ink2)"}
          >
            {p.label}
          </text>
        </g>
      ))}
      <path d={`M${LEFT} 4V${BASE}H${WIDTH - 4}`} fill="none" stroke="var(--ink)" />
    </svg>
  );
}

const METRIC_CHARTS: [MetricKey, string][] = [
  ["auw", "All-up weight"],
  ["cgX", "CG aft of datum"],
  ["thrustToWeight", "Thrust to weight, standing"],
  ["cost", "Cost of all parts"],
];

/** How mass, CG, margin, cost and hours moved from version to version. */
export function Drift() {
  const { slug, file, version, design } = useDesk();
  const evaluated = useMemo(
    () =>
      file.versions.map((v) => {
        const own = v.label === version.label ? { ...v, design } : v;
        const { metrics } = evaluateKept(`${slug} ${v.label}`, own.design);
        return { own, metrics, growth: growthOf(own.design), spend: spendOf(file, own) };
      }),
    [slug, file, version.label, design],
  );
  const pointsOf = (metric: MetricKey): Point[] =>
    evaluated.map(({ own, metrics, growth }) => ({
      label: own.label,
      predicted: metrics[metric],
      measured: file.runs
        .filter((r) => r.version === own.label && r.state === own.design.states[0]?.id)
        .flatMap((r) => r.metrics.flatMap((m) => (m.metric === metric && m.measured ? [m.measured] : [])))
        .at(-1),
      target: own.design.brief.targets.find((t) => t.metric === metric),
      planned: metric === "auw" ? growth.planned : null,
      expected: metric === "auw" ? growth.expected : 0,
    }));
  const hours = evaluated.map(({ own, spend }): Point => {
    const value = (spend.building + spend.mending + spend.running) * 3600;
    return {
      label: own.label,
      predicted: undefined,
      measured: value > 0 ? { value, sd: 0 } : undefined,
      target: undefined,
      planned: null,
      expected: 0,
    };
  });
  return (
    <div className="grid grid-cols-2 gap-6 border-t border-hair px-4 py-3 max-[900px]:grid-cols-1">
      {METRIC_CHARTS.map(([metric, title]) => (
        <DriftChart key={metric} title={title} dimension={METRICS[metric].dimension} points={pointsOf(metric)} />
      ))}
      <DriftChart title="Hours in each version" dimension="time" points={hours} />
      <Guessing />
    </div>
  );
}
