import { moneySign } from "../../../core/design/money";
import type { ChartOptions } from "chart.js";
import { useMemo } from "react";
import { Bar } from "react-chartjs-2";
import { type CauseCost, costsByCause } from "../../../core/faults/costs";
import { plain } from "../../../core/wording/format";
import "../../charts/setup";
import { token } from "../../charts/setup";
import { useDesk } from "../../app/desk";
import { usePreferences } from "../../app/preferences";
import { faultName } from "../runs/words";

const short = (text: string) => (text.length > 34 ? `${text.slice(0, 32)}…` : text);

function CostBars({
  title,
  unit,
  list,
  value,
  wrong,
  labels,
}: {
  title: string;
  unit: string;
  list: CauseCost[];
  value: (c: CauseCost) => number;
  wrong?: (c: CauseCost) => number;
  labels: boolean;
}) {
  const { theme } = usePreferences();
  // biome-ignore lint/correctness/useExhaustiveDependencies: the theme changes what the tokens read
  const chart = useMemo(() => {
    const options: ChartOptions<"bar"> = {
      indexAxis: "y",
      responsive: true,
      maintainAspectRatio: false,
      scales: {
        x: {
          stacked: true,
          min: 0,
          title: { display: true, text: unit, color: token("ink2") },
          grid: { color: token("hair") },
          ticks: { color: token("ink2"), maxTicksLimit: 5, precision: 0 },
        },
        y: {
          stacked: true,
          grid: { display: false },
          ticks: { color: token("ink"), autoSkip: false, ...(labels ? {} : { callback: () => "" }) },
        },
      },
      plugins: { legend: { display: false }, tooltip: { displayColors: false } },
    };
    const part = (label: string, of: (c: CauseCost) => number, colour: string) => ({
      label,
      data: list.map(of),
      backgroundColor: token(colour),
      barThickness: 12,
    });
    return {
      options,
      data: {
        labels: list.map((c) => short(c.cause)),
        datasets: wrong
          ? [part("found and mended", (c) => value(c) - wrong(c), "ink"), part("wrong turns", wrong, "care")]
          : [part(title, value, "ink")],
      },
    };
  }, [list, theme]);
  return (
    <figure className="min-w-0">
      <figcaption className="text-[12px] text-ink">{title}</figcaption>
      <div style={{ height: 46 + list.length * 22 }}>
        <Bar
          {...chart}
          aria-label={`${title}: ${list.map((c) => `${c.cause} ${value(c).toFixed(1)} ${unit}`).join(", ")}`}
          role="img"
        />
      </div>
    </figure>
  );
}

/** What faults have cost, by cause: hours with the wrong turns in ochre, money, and how many suspects were wrong. */
export function CostChart() {
  const { habit } = usePreferences();
  const { file, go } = useDesk();
  const list = useMemo(() => costsByCause(file.faults), [file.faults]);
  if (list.length === 0) return <p>No fault has been recorded: nothing has been spent on one.</p>;
  return (
    <section aria-label="What faults have cost">
      <h2 className="border-b border-ink pb-1 text-[18px]">What faults have cost</h2>
      <p className="mt-1">
        By cause. <span className="font-semibold text-ink">Black</span>: finding and mending.{" "}
        <span className="font-semibold text-care">Ochre</span>: tests of suspects that were wrong.
      </p>
      <div
        className={
          "mt-2 grid grid-cols-[minmax(0,1.9fr)_minmax(0,1fr)_minmax(0,1fr)] gap-3 " +
          "max-[640px]:grid-cols-[minmax(0,1fr)]"
        }
      >
        <CostBars
          labels
          title="Hours"
          unit="h"
          list={list}
          value={(c) => c.minutes / 60}
          wrong={(c) => c.wrongMinutes / 60}
        />
        <CostBars labels={false} title="Money" unit={moneySign()} list={list} value={(c) => c.money} />
        <CostBars
          labels={false}
          title="Wrong turns"
          unit="suspects ruled out"
          list={list}
          value={(c) => c.wrongTurns}
        />
      </div>
      <table className="rows mt-3 w-full" aria-label="Costs by cause">
        <thead>
          <tr>
            <th>cause</th>
            <th>faults</th>
            <th className="text-right!">hours</th>
            <th className="text-right!">of these wrong</th>
            <th className="text-right!">{moneySign()}</th>
            <th className="text-right!">wrong turns</th>
            <th className="text-right!">mass added</th>
          </tr>
        </thead>
        <tbody>
          {list.map((c) => (
            <tr key={c.cause} data-cost={c.cause}>
              <td className="text-ink">{c.cause}</td>
              <td>
                {c.faults.map((n) => (
                  <button
                    key={n}
                    type="button"
                    className="link mr-2"
                    onClick={() => go({ station: "faults", search: { fault: String(n) } })}
                  >
                    {faultName(n)}
                  </button>
                ))}
              </td>
              <td className="num text-right">{(c.minutes / 60).toFixed(1)}</td>
              <td className="num text-right">{(c.wrongMinutes / 60).toFixed(1)}</td>
              <td className="num text-right">{c.money.toFixed(0)}</td>
              <td className="num text-right">{c.wrongTurns}</td>
              <td className="num text-right">{plain(c.mass, "mass", habit)}</td>
            </tr>
          ))}
        </tbody>
      </table>
    </section>
  );
}
