import { usePreferences } from "../../app/preferences";
import { toast } from "sonner";
import type { Battery } from "../../../core/design/schema";
import { cellResistanceFrom } from "../../../core/subjects/energy/loadTest";
import { plain, showSd } from "../../../core/wording/format";
import { useDesk } from "../../app/desk";
import { useHalfState } from "../../app/halfWritten";
import { QuantityField } from "../../fields/QuantityField";

/** What a load test was read to give; null: not yet. */
interface Read {
  resting: number | null;
  loaded: number | null;
  current: number | null;
  temperature: number;
}

/** The pack's own resistance from two voltages and a current, taken over as measured. */
export function LoadTest({ battery }: { battery: Battery }) {
  const { habit } = usePreferences();
  const { design, edit, slug, version } = useDesk();
  const {
    value: read,
    set,
    anew,
  } = useHalfState<Read>(slug, version.label, `load test ${battery.id}`, {
    resting: null,
    loaded: null,
    current: null,
    temperature: design.brief.environment.packTemperature,
  });
  const { resting, loaded, current, temperature } = read;
  const put = (key: keyof Read) => (value: number | null) => set((r) => ({ ...r, [key]: value }));
  const result =
    resting !== null && loaded !== null && current !== null
      ? cellResistanceFrom({ resting, loaded, current, temperature }, battery)
      : null;
  const take = () => {
    if (!result?.ok) return;
    const refused = edit((d) => {
      const found = d.batteries.find((b) => b.id === battery.id);
      if (found) found.cellResistance = result.cellResistance;
    });
    if (refused !== null) return;
    anew();
    toast.success("Measured: the cell resistance is in the pack.");
  };
  return (
    <section aria-label="Load test" className="col-span-full mt-2 border-t border-hair pt-2">
      <h2 className="text-[14px]">Resistance, from a load test</h2>
      <div className="mt-1 flex flex-wrap items-end gap-3">
        <label className="w-24">
          Resting
          <QuantityField
            boxed
            label="Load test, resting"
            value={resting}
            dimension="voltage"
            empty="V"
            onCommit={put("resting")}
          />
        </label>
        <label className="w-24">
          Under load
          <QuantityField
            boxed
            label="Load test, under load"
            value={loaded}
            dimension="voltage"
            empty="V"
            onCommit={put("loaded")}
          />
        </label>
        <label className="w-24">
          at
          <QuantityField
            boxed
            label="Load test, current"
            value={current}
            dimension="current"
            empty="A"
            onCommit={put("current")}
          />
        </label>
        <label className="w-24">
          pack at
          <QuantityField
            boxed
            label="Load test, temperature"
            value={temperature}
            dimension="temperature"
            onCommit={(v) => v !== null && put("temperature")(v)}
          />
        </label>
        {result?.ok && (
          <button type="button" className="act act-first" onClick={take}>
            Take over
          </button>
        )}
      </div>
      {result && (
        <p className="mt-2 text-[13px]" data-load-test={result.ok}>
          {result.ok ? (
            <>
              <b className="num text-ink">{plain(result.cellResistance.value, "resistance", habit)}</b>{" "}
              <span className="num">± {showSd(result.cellResistance.sd, "resistance", habit)}</span> a cell at{" "}
              {plain(25, "temperature", habit, 0)}; the pack now has{" "}
              <span className="num">{plain(battery.cellResistance.value, "resistance", habit)}</span>
              {result.cellResistance.value > 1.8 * battery.cellResistance.value
                ? ": an old or a tired pack, or a poor plug."
                : "."}
            </>
          ) : (
            <span className="text-care">{result.message}</span>
          )}
        </p>
      )}
    </section>
  );
}
