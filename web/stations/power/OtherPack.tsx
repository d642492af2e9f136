import { genericPack } from "../../../core/catalogue/catalogue";
import { CHEMISTRIES, type Battery } from "../../../core/design/schema";
import { resultIn } from "../../../core/evaluate";
import { CHEMISTRY, type Chemistry } from "../../../core/subjects/energy/battery";
import { dutyOfLoad } from "../../../core/subjects/energy/load";
import type { EnergyPack } from "../../../core/subjects/energy/otherPack";
import { capacityFor, energyPackOf, otherPack, type Drawn } from "../../../core/subjects/energy/otherPack";
import { mass } from "../../../core/subjects/mass/node";
import { plain, show } from "../../../core/wording/format";
import { useDesk } from "../../app/desk";
import { useHalfState } from "../../app/halfWritten";
import { usePreferences } from "../../app/preferences";
import { QuantityField } from "../../fields/QuantityField";

const WHY = {
  "nothing drawn": "Enter how long it ran and what it took.",
  "more than it holds": "More was drawn than this pack holds: check the charge returned, or the capacity.",
  "voltage off its curve": "Such a resting voltage is off this chemistry's curve: check cells in series.",
};

/** A timed run, and which pack is asked about. */
interface Asked {
  seconds: number | null;
  by: Drawn["by"];
  charge: number | null;
  energy: number | null;
  rested: [number | null, number | null];
  other: EnergyPack;
}

/** One timed run on this pack predicts another pack, by energy. */
export function OtherPack({ battery }: { battery: Battery }) {
  const { habit } = usePreferences();
  const { seen: design, edit, evaluation, slug, version } = useDesk();
  const {
    value: asked,
    set,
    half,
  } = useHalfState<Asked>(slug, version.label, `timed run ${battery.id}`, {
    seconds: null,
    by: "charge",
    charge: null,
    energy: null,
    rested: [null, null],
    other: energyPackOf(battery),
  });
  const { seconds, by, charge, energy, rested, other } = asked;
  const drawn: Drawn =
    by === "charge"
      ? { by, ampereHours: charge ?? 0 }
      : by === "energy"
        ? { by, joules: energy ?? 0 }
        : { by, restingBefore: rested[0] ?? 0, restingAfter: rested[1] ?? 0 };
  const given =
    seconds !== null &&
    (by === "charge" ? charge !== null : by === "energy" ? energy !== null : rested.every((v) => v !== null));
  const result = otherPack(energyPackOf(battery), drawn, seconds ?? 0, other, battery.usable);
  const hold = (power: number, off: number, lasted: number, fit: boolean) => {
    half.done();
    return edit((d) => {
      const kg = resultIn(evaluation, mass)?.mass ?? null;
      d.duty = [
        dutyOfLoad(
          { by: "power", value: power, sd: off * power, seconds: lasted, note: `timed run on ${battery.name}` },
          design,
          kg,
        ),
      ];
      const own = d.batteries.find((b) => b.id === battery.id);
      if (!fit || !own) return;
      Object.assign(own, {
        chemistry: other.chemistry,
        series: other.series,
        capacity: { value: other.capacity, evidence: "datasheet" },
        cellResistance: genericPack(other.chemistry, other.series, other.capacity).battery.cellResistance,
        name: `${CHEMISTRY[other.chemistry].label} ${other.series} cells, ${plain(other.capacity, "capacity", habit)}`,
      });
      const item = d.items.find((i) => i.id === own.itemId);
      if (item)
        item.mass = {
          value: genericPack(other.chemistry, other.series, other.capacity).mass / item.quantity,
          evidence: "guess",
        };
    });
  };
  const wanted = design.brief.targets.find((t) => t.metric === "endurance" && t.comparison === "atLeast")?.value;
  return (
    <section aria-label="Another pack" className="col-span-full mt-2 border-t border-hair pt-2">
      <h2 className="text-[14px]">Another pack, from one timed run on this one</h2>
      <PackAsked asked={asked} put={(change) => set((a) => ({ ...a, ...change }))} />
      {given && (
        <p className="mt-2 text-[13px]" data-other-pack={result.status}>
          {result.status === "predicted" ? (
            <>
              It drew <b className="num text-ink">{plain(result.power, "power", habit)}</b> on the mean: the other lasts{" "}
              <b className="num text-ink">{show(result.seconds, result.sd, "time", habit).value}</b>{" "}
              <span className="num">± {show(result.seconds, result.sd, "time", habit).sd} min</span> drawn to the same
              depth, {Math.round(100 * result.depth)} %
              {Math.abs(result.depth - battery.usable) > 0.02 && (
                <>
                  , and <b className="num text-ink">{plain(result.usable, "time", habit)}</b> on the{" "}
                  {Math.round(100 * battery.usable)} % that may be used
                </>
              )}
              .
              {wanted !== undefined && (
                <>
                  {" "}
                  For the {plain(wanted, "time", habit, 0)} asked it would need{" "}
                  <b className="num text-ink">
                    {plain(
                      capacityFor(result.power, wanted, other.chemistry, other.series, battery.usable),
                      "capacity",
                      habit,
                    )}
                  </b>
                  {result.seconds > 2.5 * wanted ? ": far bigger than you need." : "."}
                </>
              )}
            </>
          ) : result.status === "flat" ? (
            <span className="text-care">
              On {CHEMISTRY[battery.chemistry].label} the voltage says little about the charge: enter the mAh that the
              charger put back, or Wh.
            </span>
          ) : (
            <span className="text-care">{WHY[result.why]}</span>
          )}
        </p>
      )}
      {given && result.status === "predicted" && seconds !== null && (
        <p className="mt-1 flex flex-wrap gap-3">
          <button
            type="button"
            className="link"
            onClick={() => hold(result.power, result.sd / result.seconds, seconds, false)}
          >
            Hold the duty by these {plain(result.power, "power", habit)}
          </button>
          <button
            type="button"
            className="link"
            onClick={() => hold(result.power, result.sd / result.seconds, seconds, true)}
          >
            Fit the other pack too: its time is predicted, and held against its run
          </button>
        </p>
      )}
      <p className="mt-1 text-pencil">Energy, not volts: the same craft at the same work draws the same watts.</p>
    </section>
  );
}

/** Which pack is asked about. */
function PackAsked({ asked, put }: { asked: Asked; put: (change: Partial<Asked>) => void }) {
  const { seconds, by, charge, energy, rested, other } = asked;
  return (
    <div className="mt-1 flex flex-wrap items-end gap-3">
      <label className="w-24">
        It ran
        <QuantityField
          boxed
          label="Timed run lasted"
          value={seconds}
          dimension="time"
          empty="min"
          onCommit={(v) => put({ seconds: v })}
        />
      </label>
      <label>
        and took, by
        <select
          className="box"
          aria-label="Drawn, by"
          value={by}
          onChange={(e) => put({ by: e.target.value as Drawn["by"] })}
        >
          <option value="charge">charge returned</option>
          <option value="energy">energy</option>
          <option value="voltage">resting voltage</option>
        </select>
      </label>
      {by === "charge" && (
        <label className="w-24">
          mAh or Ah
          <QuantityField
            boxed
            label="Charge returned"
            value={charge}
            dimension="capacity"
            empty="Ah"
            onCommit={(v) => put({ charge: v })}
          />
        </label>
      )}
      {by === "energy" && (
        <label className="w-24">
          Wh
          <QuantityField
            boxed
            label="Energy drawn"
            value={energy}
            dimension="energy"
            empty="Wh"
            onCommit={(v) => put({ energy: v })}
          />
        </label>
      )}
      {by === "voltage" &&
        (["before", "after"] as const).map((when, i) => (
          <label key={when} className="w-24">
            {when}, V
            <QuantityField
              boxed
              label={`Resting voltage ${when}`}
              value={rested[i] ?? null}
              dimension="voltage"
              empty="V"
              onCommit={(v) => put({ rested: i === 0 ? [v, rested[1]] : [rested[0], v] })}
            />
          </label>
        ))}
      <label>
        The other is
        <select
          className="box"
          aria-label="Other pack, chemistry"
          value={other.chemistry}
          onChange={(e) => put({ other: { ...other, chemistry: e.target.value as Chemistry } })}
        >
          {CHEMISTRIES.map((c) => (
            <option key={c} value={c}>
              {CHEMISTRY[c].label}
            </option>
          ))}
        </select>
      </label>
      <label className="w-14">
        cells
        <QuantityField
          boxed
          label="Other pack, cells"
          value={other.series}
          dimension="count"
          onCommit={(v) => v !== null && v >= 1 && put({ other: { ...other, series: Math.round(v) } })}
        />
      </label>
      <label className="w-24">
        of
        <QuantityField
          boxed
          label="Other pack, capacity"
          value={other.capacity}
          dimension="capacity"
          onCommit={(v) => v !== null && v > 0 && put({ other: { ...other, capacity: v } })}
        />
      </label>
    </div>
  );
}
