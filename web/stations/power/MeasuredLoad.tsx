import { usePreferences } from "../../app/preferences";
import { useState } from "react";
import { resultIn } from "../../../core/evaluate";
import { type Load, dutyOfLoad } from "../../../core/subjects/energy/load";
import { mass } from "../../../core/subjects/mass/node";
import { plain } from "../../../core/wording/format";
import type { Dimension } from "../../../core/design/units";
import { useDesk } from "../../app/desk";
import { QuantityField } from "../../fields/QuantityField";

/** What a meter or a charger tells of a run, and the share by which it is commonly off. */
const TOLD: Record<
  string,
  {
    word: string;
    dimension: Dimension;
    off: number;
    load: (value: number, seconds: number) => Pick<Load, "by" | "value">;
  }
> = {
  current: { word: "its mean current", dimension: "current", off: 0.03, load: (value) => ({ by: "current", value }) },
  power: { word: "its mean power", dimension: "power", off: 0.03, load: (value) => ({ by: "power", value }) },
  charge: {
    word: "the charge put back",
    dimension: "capacity",
    off: 0.04,
    load: (value, s) => ({ by: "current", value: (value * 3600) / s }),
  },
  energy: {
    word: "the energy used",
    dimension: "energy",
    off: 0.04,
    load: (value, s) => ({ by: "power", value: value / s }),
  },
};

/**
 * Puts what a run, or a minute in the tub, was found to draw in place of the duty: from then on it outranks what the
 * drives are computed to draw.
 */
export function MeasuredLoad({ onDone }: { onDone: () => void }) {
  const { habit } = usePreferences();
  const { design, edit, evaluation } = useDesk();
  const [seconds, setSeconds] = useState<number | null>(60);
  const [told, setTold] = useState("current");
  const [value, setValue] = useState<number | null>(null);
  const [off, setOff] = useState<number | null>(null);
  const [note, setNote] = useState("");
  const by = TOLD[told] as (typeof TOLD)[string];
  const share = off ?? by.off;
  const load: Load | null =
    value !== null && value > 0 && seconds !== null && seconds > 0
      ? { ...by.load(value, seconds), seconds, sd: 0, note: note.trim() || "measured at work" }
      : null;
  const adopt = () => {
    if (!load) return;
    const kg = resultIn(evaluation, mass)?.mass ?? null;
    edit((d) => void (d.duty = [dutyOfLoad({ ...load, sd: share * load.value }, design, kg)]));
    onDone();
  };
  return (
    <section aria-label="Measured load" className="mt-2 border-t border-hair pt-2">
      <h3>What it was found to draw</h3>
      <p className="max-w-[60ch] text-[12px]">
        A minute in the tub, tied down, or a whole run: everything that the pack gave, at the work that the duty means.
        It takes the place of the phases above.
      </p>
      <div className="mt-1 flex flex-wrap items-end gap-2">
        <label className="w-20">
          It ran
          <QuantityField boxed label="Measured, ran for" value={seconds} dimension="time" onCommit={setSeconds} />
        </label>
        <label>
          and showed
          <select
            className="box"
            aria-label="Measured, by"
            value={told}
            onChange={(e) => {
              setTold(e.target.value);
              setValue(null);
            }}
          >
            {Object.entries(TOLD).map(([key, t]) => (
              <option key={key} value={key}>
                {t.word}
              </option>
            ))}
          </select>
        </label>
        <label className="w-24">
          of
          <QuantityField
            boxed
            key={told}
            label="Measured, value"
            value={value}
            dimension={by.dimension}
            empty="–"
            onCommit={setValue}
          />
        </label>
        <label className="w-20">
          ± of it
          <QuantityField boxed label="Measured, ±" value={share} dimension="percent" onCommit={setOff} />
        </label>
        <label className="w-44">
          where from
          <input
            className="box"
            aria-label="Measured, where from"
            value={note}
            maxLength={200}
            placeholder="run 3, clamp meter"
            onChange={(e) => setNote(e.target.value)}
          />
        </label>
        <button type="button" className="btn btn-sm" disabled={!load} onClick={adopt}>
          {load ? `Hold the duty by ${plain(load.value, load.by, habit)}` : "Hold the duty by it"}
        </button>
      </div>
    </section>
  );
}
