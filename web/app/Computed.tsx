import { useMemo, useState } from "react";
import { METRICS, type MetricKey } from "../../core/design/metrics";
import type { Quantity } from "../../core/design/quantity";
import { isWaiting, workingOf } from "../../core/evaluate";
import { likely } from "../../core/design/price";
import { rangeText, show } from "../../core/wording/format";
import { Cairn } from "../glyphs/Cairn";
import { Dialog } from "./Dialog";
import { useDesk } from "./desk";
import { usePreferences } from "./preferences";

/** What a number does not cover, or rests on and nobody knows, as sentences. */
const whyDoubted = ({ outside = [], unknown = [], incomplete = [] }: Quantity): string[] => [
  ...outside.map((o) => `Outside its range: ${o}.`),
  ...unknown.map((o) => `Not known: ${o}.`),
  ...incomplete.map((o) => `Left out: ${o}.`),
];

/** The mark of a number that is not wholly covered: the number alone would pass for an answer. */
export function Doubted({ quantity }: { quantity: Quantity }) {
  const why = whyDoubted(quantity);
  return why.length === 0 ? null : (
    <span className="ml-0.5 align-baseline text-[13px] font-semibold text-care" title={why.join("\n")} data-doubted>
      ?
    </span>
  );
}

/** Value, ± and unit of a computed quantity, and a mark where it is not wholly covered. */
export function Value({
  quantity,
  colour = "predicted",
  digitsOnly,
}: {
  quantity: Quantity;
  colour?: string;
  digitsOnly?: boolean;
}) {
  const { habit } = usePreferences();
  if (quantity.dimension === "money" && quantity.sd > 0) {
    const text = rangeText(likely(quantity), "money", habit);
    return (
      <span className={`num whitespace-nowrap ${colour}`} title="19 times in 20">
        {digitsOnly ? text.split("\u00a0")[0] : text}
        <Doubted quantity={quantity} />
      </span>
    );
  }
  const s = show(quantity.value, quantity.sd, quantity.dimension, habit);
  return (
    <span className={`num whitespace-nowrap ${colour}`}>
      {s.value}
      {s.sd !== null && <span className="predicted font-normal"> ± {s.sd}</span>}
      {!digitsOnly && ` ${s.unit}`}
      <Doubted quantity={quantity} />
    </span>
  );
}

/** Formula, inputs, source and range of a computed number. */
function WorkingSheet({ metric, quantity }: { metric: MetricKey; quantity: Quantity }) {
  const { habit } = usePreferences();
  const { seen: design, evaluation } = useDesk();
  const inputs = useMemo(() => workingOf(design, evaluation, metric), [design, evaluation, metric]);
  const usual = METRICS[metric];
  const { label = usual.label, formula, source, range } = quantity.by ?? usual;
  return (
    <div className="flex flex-col gap-2">
      <p className="text-[15px]">
        {label}: <Value quantity={quantity} colour="text-ink font-semibold" /> <Cairn level={quantity.evidence} />
      </p>
      <p className="num bg-sheet p-2 text-ink">{formula}</p>
      {whyDoubted(quantity).map((why) => (
        <p key={why} className="text-care">
          {why}
        </p>
      ))}
      <div className="max-h-64 overflow-auto">
        <table className="rows w-full">
          <thead>
            <tr>
              <th>input</th>
              <th className="text-right!">value</th>
              <th className="text-right!">±</th>
              <th className="text-right!" title="share of the result's doubt">
                of its doubt
              </th>
              <th>known</th>
            </tr>
          </thead>
          <tbody>
            {inputs.map((i) => {
              const s = show(i.value, i.sd, i.dimension, habit);
              return (
                <tr key={`${i.name} ${i.source?.kind ?? ""}`}>
                  <td className="text-ink">{i.name}</td>
                  <td className="num text-right">
                    {s.value} {s.unit}
                  </td>
                  <td className="num predicted text-right">{s.sd ?? ""}</td>
                  <td className="num predicted text-right">
                    {i.share >= 0.005 ? `${Math.round(100 * i.share)} %` : ""}
                  </td>
                  <td>
                    <Cairn level={i.evidence} />
                  </td>
                </tr>
              );
            })}
          </tbody>
        </table>
      </div>
      <p>
        <b className="text-ink">Source.</b> {source}
      </p>
      <p>
        <b className="text-ink">Valid for.</b> {range}
      </p>
    </div>
  );
}

/** A computed number that opens its working. */
export function Computed({
  metric,
  quantity,
  colour,
  digitsOnly,
}: {
  metric: MetricKey;
  quantity: Quantity | undefined;
  colour?: string;
  digitsOnly?: boolean;
}) {
  const [open, setOpen] = useState(false);
  const { evaluation } = useDesk();
  if (!quantity) return <span className="text-pencil">open</span>;
  return (
    <>
      <button
        type="button"
        data-metric={metric}
        title="Show working"
        data-late={isWaiting(evaluation, metric) || undefined}
        className="inline-flex items-baseline gap-1 hover:underline"
        onClick={() => setOpen(true)}
      >
        <Value quantity={quantity} colour={colour} digitsOnly={digitsOnly} />
        <Cairn level={quantity.evidence} />
      </button>
      <Dialog open={open} title="Working" onClose={() => setOpen(false)} wide>
        <WorkingSheet metric={metric} quantity={quantity} />
        <p className="mt-3 text-right">
          <button type="button" className="act act-first" onClick={() => setOpen(false)}>
            Close
          </button>
        </p>
      </Dialog>
    </>
  );
}
