import { usePreferences } from "../../app/preferences";
import { withDuty } from "../../../core/design/inState";
import { resultIn } from "../../../core/evaluate";
import { type Load, dutyOfLoad } from "../../../core/subjects/energy/load";
import { mass } from "../../../core/subjects/mass/node";
import { plain } from "../../../core/wording/format";
import type { Dimension } from "../../../core/design/units";
import { useDesk } from "../../app/desk";
import { useHalfState } from "../../app/halfWritten";
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

/** What was read, as it is entered. */
interface Read {
  seconds: number | null;
  told: string;
  value: number | null;
  off: number | null;
  note: string;
}
const BEGIN: Read = { seconds: 60, told: "current", value: null, off: null, note: "" };

/**
 * Puts what a run, or a minute in the tub, was found to draw in place of the duty: from then on it outranks what the
 * drives are computed to draw.
 */
export function MeasuredLoad({ onDone }: { onDone: () => void }) {
  const { habit } = usePreferences();
  const { seen: design, state, edit, evaluation, slug, version } = useDesk();
  const { value: read, set, half } = useHalfState(slug, version.label, "measured load", BEGIN);
  const { seconds, told, value, off, note } = read;
  const put = (key: keyof Read) => (to: Read[typeof key]) => set((r) => ({ ...r, [key]: to }));
  const by = TOLD[told] ?? (TOLD.current as (typeof TOLD)[string]);
  const share = off ?? by.off;
  const load: Load | null =
    value !== null && value > 0 && seconds !== null && seconds > 0
      ? { ...by.load(value, seconds), seconds, sd: 0, note: note.trim() || "measured at work" }
      : null;
  const adopt = () => {
    if (!load) return;
    const kg = resultIn(evaluation, mass)?.mass ?? null;
    const found = dutyOfLoad({ ...load, sd: share * load.value }, design, kg);
    edit((d) => void (d.duty = withDuty(d, state.id, [found])));
    half.done();
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
          <QuantityField boxed label="Measured, ran for" value={seconds} dimension="time" onCommit={put("seconds")} />
        </label>
        <label>
          and showed
          <select
            className="box"
            aria-label="Measured, by"
            value={told}
            onChange={(e) => {
              const to = e.target.value;
              set((r) => ({ ...r, told: to, value: null }));
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
            onCommit={put("value")}
          />
        </label>
        <label className="w-20">
          ± of it
          <QuantityField boxed label="Measured, ±" value={share} dimension="percent" onCommit={put("off")} />
        </label>
        <label className="w-44">
          where from
          <input
            className="box"
            aria-label="Measured, where from"
            value={note}
            maxLength={200}
            placeholder="run 3, clamp meter"
            onChange={(e) => put("note")(e.target.value)}
          />
        </label>
        <button type="button" className="btn btn-sm" disabled={!load} onClick={adopt}>
          {load ? `Hold the duty by ${plain(load.value, load.by, habit)}` : "Hold the duty by it"}
        </button>
      </div>
    </section>
  );
}
