import type { ChartOptions } from "chart.js";
import { useMemo } from "react";
import { Scatter } from "react-chartjs-2";
import { usePreferences } from "../app/preferences";
import { token } from "./setup";
import { useInTurn } from "./useInTurn";

export interface XY {
  x: number;
  y: number;
}
interface Props {
  title: string;
  xTitle: string;
  yTitle: string;
  /** in pencil, dashed */
  predicted?: XY[];
  /** in ink: rising filled, falling hollow */
  up: XY[];
  down?: XY[];
  /** crossed out: left out, or far off */
  out?: XY[];
  /** a line through the points */
  fit?: XY[];
  /** Further measured series, each in a tint of ink, with a name. */
  others?: { name: string; points: XY[] }[];
  name?: string;
  /** Miss bars from the predicted line to the points. */
  misses?: [XY, XY][];
}

/**
 * Measured points in ink over the predicted line in pencil, with the misses between; the numbers stand in a table
 * beneath for screen readers.
 */
export function SweepChart({
  title,
  xTitle,
  yTitle,
  predicted = [],
  up,
  down = [],
  out = [],
  fit = [],
  others = [],
  misses = [],
  name,
}: Props) {
  const { theme } = usePreferences();
  // biome-ignore lint/correctness/useExhaustiveDependencies: the theme changes what the tokens read
  const chart = useMemo(() => {
    const line = { showLine: true, pointRadius: 0, fill: false } as const;
    const options: ChartOptions<"scatter"> = {
      responsive: true,
      maintainAspectRatio: false,
      scales: {
        x: {
          type: "linear",
          min: 0,
          title: { display: true, text: xTitle, color: token("ink2") },
          grid: { color: token("hair") },
          ticks: { color: token("ink2"), maxTicksLimit: 7 },
        },
        y: {
          type: "linear",
          min: 0,
          title: { display: true, text: yTitle, color: token("ink2") },
          grid: { color: token("hair") },
          ticks: { color: token("ink2") },
        },
      },
      plugins: {
        legend: {
          display: others.length > 0,
          labels: { color: token("ink2"), boxWidth: 12, filter: (item) => item.text !== "" },
        },
        tooltip: {
          displayColors: false,
          callbacks: { label: (item) => `${xTitle} ${item.parsed.x?.toFixed(1)}: ${item.parsed.y?.toFixed(2)}` },
        },
      },
    };
    const shades = [token("accent"), token("clear"), token("care"), token("pencil")];
    return {
      options,
      data: {
        datasets: [
          ...misses.map((m) => ({ label: "", data: m, ...line, borderColor: token("stop"), borderWidth: 1, order: 4 })),
          {
            label: "",
            data: predicted,
            ...line,
            borderColor: token("pencil"),
            borderWidth: 1.8,
            borderDash: [5, 4],
            order: 3,
          },
          { label: "", data: fit, ...line, borderColor: token("ink"), borderWidth: 1.2, order: 2 },
          {
            label: name ?? "",
            data: up,
            pointRadius: 2.6,
            pointBackgroundColor: token("ink"),
            pointBorderColor: token("ink"),
            order: 1,
          },
          {
            label: "",
            data: down,
            pointRadius: 2.6,
            pointBackgroundColor: token("sheet"),
            pointBorderColor: token("ink"),
            order: 1,
          },
          {
            label: "",
            data: out,
            pointRadius: 5,
            pointStyle: "crossRot" as const,
            pointBorderColor: token("stop"),
            pointBorderWidth: 2,
            order: 0,
          },
          ...others.map((o, k) => ({
            label: o.name,
            data: o.points,
            pointRadius: 3,
            pointStyle: (["triangle", "rect", "rectRot", "star"] as const)[k % 4],
            pointBackgroundColor: shades[k % shades.length],
            pointBorderColor: shades[k % shades.length],
            order: 1,
          })),
        ],
      },
    };
  }, [predicted, up, down, out, fit, others, misses, name, xTitle, yTitle, theme]);
  const shown = useInTurn(chart);
  return (
    <figure className="min-w-0">
      <figcaption>
        <h3 className="text-[13px]">{title}</h3>
      </figcaption>
      <div className="relative mt-1 h-[210px] bg-sheet">
        <Scatter aria-label={title} role="img" options={shown.options} data={shown.data} />
      </div>
      <table className="sr-only">
        <caption>{title}</caption>
        <thead>
          <tr>
            <th>{xTitle}</th>
            <th>{yTitle}</th>
          </tr>
        </thead>
        <tbody>
          {up.map((p, k) => (
            <tr key={`${p.x}-${k}`}>
              <td>{p.x.toFixed(1)}</td>
              <td>{p.y.toFixed(3)}</td>
            </tr>
          ))}
        </tbody>
      </table>
    </figure>
  );
}
