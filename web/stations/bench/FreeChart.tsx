import type { ChartOptions } from "chart.js";
import { useMemo } from "react";
import { Scatter } from "react-chartjs-2";
import { type Line, foretell, isLogX, isLogY } from "../../../core/bench/free";
import type { Free } from "../../../core/design/bench";
import { usePreferences } from "../../app/preferences";
import { token } from "../../charts/setup";

const STEPS = 40;

/** Places along x from the first to the last reading, evenly on the axis. */
function along({ from, to }: Line, log: boolean): number[] {
  return Array.from({ length: STEPS + 1 }, (_, k) =>
    log ? from * (to / from) ** (k / STEPS) : from + ((to - from) * k) / STEPS,
  );
}

/** The readings in ink, the line through each condition, and the band in which one more would stand. */
export function FreeChart({ test, lines }: { test: Free; lines: Line[] }) {
  const { theme } = usePreferences();
  const title = (a: Free["x"], other: string) => `${a.name || other}${a.unit ? `, ${a.unit}` : ""}`;
  const [xTitle, yTitle] = [title(test.x, "x"), title(test.y, "y")];
  // biome-ignore lint/correctness/useExhaustiveDependencies: the theme changes what the tokens read
  const chart = useMemo(() => {
    const axis = (log: boolean, text: string) => ({
      type: log ? ("logarithmic" as const) : ("linear" as const),
      title: { display: true, text, color: token("ink2") },
      grid: { color: token("hair") },
      ticks: { color: token("ink2"), maxTicksLimit: 8 },
    });
    const options: ChartOptions<"scatter"> = {
      responsive: true,
      maintainAspectRatio: false,
      scales: { x: axis(isLogX(test.axes), xTitle), y: axis(isLogY(test.axes), yTitle) },
      plugins: {
        legend: {
          display: test.conditions.length > 1,
          labels: { color: token("ink2"), boxWidth: 12, filter: (item) => item.text !== "" },
        },
        tooltip: { displayColors: false },
      },
    };
    const shades = [token("ink"), token("accent")];
    const plain = { showLine: true, pointRadius: 0, fill: false, label: "" } as const;
    const datasets = test.conditions.flatMap((c, k) => {
      const line = lines[k];
      const colour = shades[k] ?? token("ink");
      const shown = c.points
        .map((p, i) => ({ x: p.x ?? i + 1, y: p.y }))
        .filter((p) => (!isLogX(test.axes) || p.x > 0) && (!isLogY(test.axes) || p.y > 0));
      const at = line?.status === "fitted" ? along(line, isLogX(test.axes)) : [];
      const curve = (of: "value" | "low" | "high") =>
        at.flatMap((x) => {
          const f = line && foretell(line, test.axes, x);
          return f ? [{ x, y: f[of] }] : [];
        });
      return [
        {
          label: c.name || (k === 0 ? "A" : "B"),
          data: shown,
          pointRadius: 3,
          pointStyle: k === 0 ? ("circle" as const) : ("triangle" as const),
          pointBackgroundColor: colour,
          pointBorderColor: colour,
        },
        { ...plain, data: curve("value"), borderColor: colour, borderWidth: 1.4 },
        { ...plain, data: curve("low"), borderColor: token("pencil"), borderWidth: 1, borderDash: [3, 3] },
        { ...plain, data: curve("high"), borderColor: token("pencil"), borderWidth: 1, borderDash: [3, 3] },
      ];
    });
    return { options, data: { datasets } };
  }, [test, lines, xTitle, yTitle, theme]);
  const name = `${yTitle} over ${xTitle}`;
  return (
    <figure className="min-w-0">
      <figcaption>
        <h3 className="text-[13px]">{name}</h3>
      </figcaption>
      <div className="relative mt-1 h-[260px] bg-sheet">
        <Scatter aria-label={name} role="img" options={chart.options} data={chart.data} />
      </div>
    </figure>
  );
}
