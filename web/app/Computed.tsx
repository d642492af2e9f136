import { useState } from "react";
import { METRICS, type MetricKey } from "../../core/design/metrics";
import type { Quantity } from "../../core/design/quantity";
import { show } from "../../core/wording/format";
import { INPUT_NAME, METHODS } from "../../core/wording/methods";
import { Cairn } from "../glyphs/Cairn";
import { Dialog } from "./Dialog";
import { usePreferences } from "./preferences";

/** Value, ± and unit of a computed quantity with its cairn. */
export function Value({ quantity, colour = "predicted", digitsOnly }: { quantity: Quantity; colour?: string; digitsOnly?: boolean }) {
  const { habit } = usePreferences();
  const s = show(quantity.value, quantity.sd, quantity.dimension, habit);
  return (
    <span className={`num whitespace-nowrap ${colour}`}>
      {s.value}
      {s.sd !== null && <span className="predicted font-normal"> ± {s.sd}</span>}
      {!digitsOnly && ` ${s.unit}`}
    </span>
  );
}

/** Name of an input as shown; with several drives it begins with the drive. */
export function inputName(name: string): string {
  const at = name.lastIndexOf(": ");
  const key = at < 0 ? name : name.slice(at + 2);
  const known = INPUT_NAME[key as keyof typeof INPUT_NAME];
  return known ? `${at < 0 ? "" : name.slice(0, at + 2)}${known}` : name;
}

/** Formula, inputs, source and range of a computed number. */
function WorkingSheet({ name, quantity }: { name: string; quantity: Quantity }) {
  const { habit } = usePreferences();
  const { working } = quantity;
  const method = working && METHODS[working.method];
  if (!working || !method) return null;
  return (
    <div className="flex flex-col gap-2">
      <p className="text-[15px]">
        {name}: <Value quantity={quantity} colour="text-ink font-semibold" /> <Cairn level={quantity.evidence} />
      </p>
      <p className="num bg-sheet p-2 text-ink">{method.formula}</p>
      {working.outside.map((o) => (
        <p key={o} className="text-care">
          Outside its range: {o}.
        </p>
      ))}
      <div className="max-h-64 overflow-auto">
        <table className="rows w-full">
          <thead>
            <tr>
              <th>input</th>
              <th className="text-right!">value</th>
              <th className="text-right!">±</th>
              <th>known</th>
            </tr>
          </thead>
          <tbody>
            {working.inputs.map((i) => {
              const s = show(i.value, i.sd, i.dimension, habit);
              return (
                <tr key={i.name}>
                  <td className="text-ink">{inputName(i.name)}</td>
                  <td className="num text-right">
                    {s.value} {s.unit}
                  </td>
                  <td className="num predicted text-right">{s.sd ?? ""}</td>
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
        <b className="text-ink">Source.</b> {method.source}
      </p>
      <p>
        <b className="text-ink">Valid for.</b> {method.range}
      </p>
    </div>
  );
}

/** A computed number that opens its working. */
export function Computed({ metric, quantity, colour, digitsOnly }: { metric: MetricKey; quantity: Quantity | undefined; colour?: string; digitsOnly?: boolean }) {
  const [open, setOpen] = useState(false);
  if (!quantity) return <span className="text-pencil">unknown</span>;
  const name = METRICS[metric].label;
  return (
    <>
      <button type="button" data-metric={metric} title="Show working" className="inline-flex items-baseline gap-1 hover:underline" onClick={() => setOpen(true)}>
        <Value quantity={quantity} colour={colour} digitsOnly={digitsOnly} />
        <Cairn level={quantity.evidence} />
      </button>
      <Dialog open={open} title="Working" onClose={() => setOpen(false)} wide>
        <WorkingSheet name={name} quantity={quantity} />
        <p className="mt-3 text-right">
          <button type="button" className="act act-first" onClick={() => setOpen(false)}>
            Close
          </button>
        </p>
      </Dialog>
    </>
  );
}
