import type { ChartDataset, ChartOptions } from "chart.js";
import { useMemo } from "react";
import { Line } from "react-chartjs-2";
import { usePreferences } from "../app/preferences";
import { token } from "./setup";
import { useInTurn } from "./useInTurn";

export interface CurvePoint {
  x: number;
  y: number;
  sd: number;
}
export interface Limit {
  value: number;
  label: string;
  colour: "stop" | "care" | "clear";
}

interface CurveProps {
  title: string;
  xTitle: string;
  yTitle: string;
  points: CurvePoint[];
  limits: Limit[];
  /** The point of work, marked across; left out when there is none. */
  at?: number;
  xMax?: number;
  /** Whether the y axis begins at zero. */
  fromZero?: boolean;
  /** A second curve, such as drag against thrust. */
  line?: { x: number; y: number }[] | null;
  /** What was measured, in ink. */
  read?: { x: number; y: number }[];
}

const NONE: { x: number; y: number }[] = [];

/** Axes, the limits drawn across and the point of work. */
function optionsOf({
  points,
  limits,
  at,
  xTitle,
  yTitle,
  xMax,
  fromZero,
}: Pick<CurveProps, "points" | "limits" | "xTitle" | "yTitle"> & {
  at: number | undefined;
  xMax: number;
  fromZero: boolean;
}): ChartOptions<"line"> {
  const top = Math.max(...points.map((p) => p.y + p.sd), ...limits.map((l) => l.value)) * 1.08;
  return {
    responsive: true,
    maintainAspectRatio: false,
    parsing: false,
    interaction: { mode: "nearest", axis: "x", intersect: false },
    scales: {
      x: {
        type: "linear",
        min: 0,
        max: xMax,
        title: { display: true, text: xTitle, color: token("ink2") },
        grid: { color: token("hair") },
        ticks: { color: token("ink2"), ...(xMax === 100 ? { stepSize: 25 } : { maxTicksLimit: 6 }) },
      },
      y: {
        type: "linear",
        ...(fromZero ? { min: 0 } : {}),
        suggestedMax: top,
        title: { display: true, text: yTitle, color: token("ink2") },
        grid: { color: token("hair") },
        ticks: { color: token("ink2") },
      },
    },
    plugins: {
      legend: { display: false },
      tooltip: { filter: (item) => item.datasetIndex === 2, displayColors: false },
      annotation: { annotations: [...(at === undefined ? [] : [workedAt(at)]), ...limits.map(limitLine)] },
    },
  };
}

const workedAt = (at: number) => ({
  type: "line" as const,
  xMin: at,
  xMax: at,
  borderColor: token("accent"),
  borderWidth: 1,
  borderDash: [3, 3],
});

const limitLine = (l: Limit, i: number) => ({
  type: "line" as const,
  yMin: l.value,
  yMax: l.value,
  borderColor: token(l.colour),
  borderWidth: 1.5,
  label: {
    display: true,
    content: l.label,
    position: i % 2 === 0 ? ("start" as const) : ("center" as const),
    backgroundColor: token("sheet"),
    color: token(l.colour),
    font: { size: 11 },
    padding: 2,
  },
});

/** The curve in pencil over its band, a second one, and what was read in ink. */
function curvesOf({
  points,
  yTitle,
  fromZero,
  other,
  read,
}: Pick<CurveProps, "points" | "yTitle"> & {
  fromZero: boolean;
  other: { x: number; y: number }[] | null;
  read: { x: number; y: number }[];
}): ChartDataset<"line", { x: number; y: number }[]>[] {
  const line = (sign: number) =>
    points.map((p) => ({ x: p.x, y: fromZero ? Math.max(0, p.y + sign * p.sd) : p.y + sign * p.sd }));
  return [
    { data: line(-1), borderWidth: 0, pointRadius: 0, fill: false, order: 2 },
    { data: line(1), borderWidth: 0, pointRadius: 0, fill: "-1", backgroundColor: token("band"), order: 2 },
    {
      label: yTitle,
      data: line(0),
      borderColor: token("pencil"),
      borderWidth: 1.8,
      borderDash: [5, 4],
      pointRadius: 0,
      fill: false,
      order: 1,
    },
    ...(other
      ? [{ data: other, borderColor: token("ink"), borderWidth: 1.4, pointRadius: 0, fill: false, order: 1 }]
      : []),
    ...(read.length > 0
      ? [
          {
            data: read,
            showLine: false,
            pointRadius: 3,
            pointStyle: "rect" as const,
            backgroundColor: token("ink"),
            order: 0,
          },
        ]
      : []),
  ];
}

/** The same numbers for a screen reader. */
function AsTable({
  title,
  xTitle,
  yTitle,
  points,
  read,
}: Pick<CurveProps, "title" | "xTitle" | "yTitle" | "points"> & { read: { x: number; y: number }[] }) {
  return (
    <table className="sr-only">
      <caption>{title}</caption>
      <thead>
        <tr>
          <th>{xTitle}</th>
          <th>{yTitle}</th>
          <th>±</th>
        </tr>
      </thead>
      <tbody>
        {points.map((p) => (
          <tr key={p.x}>
            <td>{p.x.toFixed(0)}</td>
            <td>{p.y.toFixed(2)}</td>
            <td>{p.sd.toFixed(2)}</td>
          </tr>
        ))}
        {read.map((p) => (
          <tr key={`${p.x} ${p.y}`}>
            <td>{p.x.toFixed(0)}</td>
            <td>{p.y.toFixed(2)} measured</td>
            <td />
          </tr>
        ))}
      </tbody>
    </table>
  );
}

/**
 * A predicted curve in pencil with its ± band, limits drawn across, and the point of work; the numbers stand in a
 * table beneath for screen readers.
 */
export function CurveChart({
  title,
  xTitle,
  yTitle,
  points,
  limits,
  at,
  xMax = 100,
  fromZero = true,
  line: other = null,
  read = NONE,
}: CurveProps) {
  const { theme } = usePreferences();
  // biome-ignore lint/correctness/useExhaustiveDependencies: the theme changes what the tokens read
  const chart = useMemo(
    () => ({
      options: optionsOf({ points, limits, at, xTitle, yTitle, xMax, fromZero }),
      data: { datasets: curvesOf({ points, yTitle, fromZero, other, read }) },
    }),
    [points, limits, at, xTitle, yTitle, xMax, fromZero, other, read, theme],
  );
  const shown = useInTurn(chart);
  return (
    <figure className="min-w-0">
      <figcaption>
        <h2>{title}</h2>
      </figcaption>
      <div className="relative mt-1 h-[190px] bg-sheet">
        <Line aria-label={title} role="img" options={shown.options} data={shown.data} />
      </div>
      <AsTable {...{ title, xTitle, yTitle, points, read }} />
    </figure>
  );
}
