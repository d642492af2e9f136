import { moneySign } from "../../../../core/design/money";
import { ageOf, newestResistance } from "../../../../core/catalogue/packShelf";
import { positiveOf } from "../../../../core/design/evidence";
import { CHEMISTRIES } from "../../../../core/design/schema";
import { type PackReading, type ShelfPack, shelfPackSchema } from "../../../../core/design/shelf";
import { CHEMISTRY } from "../../../../core/subjects/energy/battery";
import { DISPLAY } from "../../../../core/design/units";
import { plain, showSd } from "../../../../core/wording/format";
import { today } from "../../../app/dates";
import { useHalfState } from "../../../app/halfWritten";
import { usePreferences } from "../../../app/preferences";
import { KnownField } from "../../../fields/KnownField";
import { QuantityField } from "../../../fields/QuantityField";
import { TextField } from "../../../fields/TextField";
import type { Choosing, Shelf } from "./useShelf";

const age = (days: number | null) =>
  days === null
    ? ""
    : days < 60
      ? `${days} d`
      : days < 730
        ? `${Math.round(days / 30.4)} months`
        : `${(days / 365.25).toFixed(1)} years`;

/** One's own packs: what each is and how old; the log of the chosen one beneath. */
export function PackShelf({
  shelf,
  chosen,
  setChosen,
  onFit,
  canFit,
}: Choosing & { shelf: Shelf; onFit: (pack: ShelfPack) => void; canFit: boolean }) {
  const { habit } = usePreferences();
  const packs = shelf.records.flatMap(({ part, ...r }) => (part.kind === "pack" ? [{ ...r, pack: part }] : []));
  const record = packs.find((r) => r.id === chosen);
  return (
    <>
      <div className="mt-2 overflow-x-auto">
        <table className="rows w-full min-w-[680px]">
          <thead>
            <tr>
              <th className="text-left">pack</th>
              <th className="text-left">chemistry</th>
              <th className="text-right">capacity</th>
              <th className="text-right">mass</th>
              <th className="text-right">each cell</th>
              <th className="text-right">cycles</th>
              <th className="text-right">age</th>
              <th />
            </tr>
          </thead>
          <tbody>
            {packs.map((r) => {
              const tested = newestResistance(r.pack);
              return (
                <tr key={r.id} data-pack={r.pack.name}>
                  <td>
                    <button
                      type="button"
                      className="min-h-6 text-left font-semibold text-ink"
                      aria-pressed={r.id === chosen}
                      onClick={() => setChosen(r.id === chosen ? null : r.id)}
                    >
                      {r.pack.name}
                    </button>
                  </td>
                  <td>
                    {r.pack.series} × {CHEMISTRY[r.pack.chemistry].label}
                  </td>
                  <td className="num text-right">{plain(r.pack.capacity.value, "capacity", habit)}</td>
                  <td className="num text-right">{r.pack.mass ? plain(r.pack.mass.value, "mass", habit) : "–"}</td>
                  <td className={`num text-right ${tested ? "text-ink" : "text-pencil"}`}>
                    {plain(tested?.value ?? r.pack.cellResistance.value, "resistance", habit)}
                    {tested && <span className="text-pencil"> ± {showSd(tested.sd, "resistance", habit)}</span>}
                  </td>
                  <td className="num text-right">{r.pack.cycles ?? "–"}</td>
                  <td className="num text-right">{age(ageOf(r.pack, today())) || "–"}</td>
                  <td className="text-right">
                    <button
                      type="button"
                      className="act"
                      aria-label={`Fit ${r.pack.name}`}
                      disabled={!canFit}
                      onClick={() => onFit(r.pack)}
                    >
                      fit
                    </button>
                  </td>
                </tr>
              );
            })}
          </tbody>
        </table>
      </div>
      {record && <PackLog key={record.id} record={record} shelf={shelf} onGone={() => setChosen(null)} />}
    </>
  );
}

const EMPTY: Omit<PackReading, "date"> = {
  resting: null,
  loaded: null,
  current: null,
  temperature: null,
  returned: null,
};

/**
 * What is known of one pack, and its log. Every change is saved at once; a stale one is refused, and what the server
 * holds is shown.
 */
function PackLog({
  record,
  shelf,
  onGone,
}: {
  record: { id: number; revision: number; pack: ShelfPack };
  shelf: Shelf;
  onGone: () => void;
}) {
  const { pack } = record;
  const {
    value: fresh,
    set: setFresh,
    half,
  } = useHalfState<PackReading>("", "", `pack ${record.id} reading`, { date: today(), ...EMPTY });
  const save = (mutate: (p: ShelfPack) => void) =>
    shelf.save({ id: record.id, revision: record.revision, part: pack }, (p) => p.kind === "pack" && mutate(p));
  return (
    <section aria-label={`Log of ${pack.name}`} className="mt-3 border-t border-hair pt-2">
      <NewReading shelf={shelf} record={record} onGone={onGone} pack={pack} save={save} />
      <div className="overflow-x-auto">
        <PackReadings save={save} fresh={fresh} setFresh={setFresh} onLogged={half.done} pack={pack} />
      </div>
    </section>
  );
}

/** A reading to add to the log. */
function NewReading({
  shelf,
  record,
  onGone,
  pack,
  save,
}: {
  shelf: Shelf;
  record: { id: number; revision: number; pack: ShelfPack };
  onGone: () => void;
  pack: ShelfPack;
  save: (mutate: (p: ShelfPack) => void) => Promise<boolean>;
}) {
  const remove = async () => {
    if (await shelf.remove(record.id)) onGone();
  };
  return (
    <div className="flex flex-wrap items-end gap-3">
      <div className="w-44">
        Name
        <TextField
          boxed
          required
          label="Shelf pack name"
          value={pack.name}
          onCommit={(v) => void save((p) => void (p.name = v))}
        />
      </div>
      <div className="w-28">
        Capacity
        <KnownField
          label="Shelf pack capacity"
          value={pack.capacity}
          dimension="capacity"
          schema={positiveOf("capacity")}
          onCommit={(k) => void save((p) => void (p.capacity = k))}
        />
      </div>
      <label className="w-24">
        Mass
        <QuantityField
          boxed
          label="Shelf pack mass"
          value={pack.mass?.value ?? null}
          dimension="mass"
          schema={positiveOf("mass")}
          empty="not weighed"
          onCommit={(v) => void save((p) => void (p.mass = v === null ? null : { value: v, evidence: "measured" }))}
        />
      </label>
      <label className="w-36">
        Chemistry
        <select
          className="box"
          aria-label="Shelf pack chemistry"
          value={pack.chemistry}
          onChange={(e) => void save((p) => void (p.chemistry = e.target.value as ShelfPack["chemistry"]))}
        >
          {CHEMISTRIES.map((c) => (
            <option key={c} value={c}>
              {CHEMISTRY[c].label}
            </option>
          ))}
        </select>
      </label>
      <label className="w-14">
        Cells
        <QuantityField
          boxed
          label="Shelf pack cells"
          value={pack.series}
          dimension="count"
          schema={shelfPackSchema.shape.series}
          onCommit={(v) => v !== null && void save((p) => void (p.series = v))}
        />
      </label>
      <label>
        Bought
        <input
          type="date"
          className="box"
          aria-label="Shelf pack bought"
          defaultValue={pack.bought ?? ""}
          onBlur={(e) =>
            (e.target.value || null) !== pack.bought && void save((p) => void (p.bought = e.target.value || null))
          }
        />
      </label>
      <label className="w-20">
        Cycles
        <QuantityField
          boxed
          label="Shelf pack cycles"
          value={pack.cycles}
          dimension="count"
          empty="–"
          onCommit={(v) => void save((p) => void (p.cycles = v))}
        />
      </label>
      <label className="w-20">
        Price, {moneySign()}
        <QuantityField
          boxed
          label="Shelf pack price"
          value={pack.price}
          dimension="money"
          empty="–"
          onCommit={(v) => void save((p) => void (p.price = v))}
        />
      </label>
      <div className="min-w-44 flex-1">
        Notes
        <TextField
          boxed
          label="Shelf pack notes"
          value={pack.notes}
          onCommit={(v) => void save((p) => void (p.notes = v))}
        />
      </div>
      <button type="button" className="link" onClick={() => void remove()}>
        take off the shelf
      </button>
    </div>
  );
}

/** The log of one pack: charge, resistance, what was flown. */
function PackReadings({
  save,
  fresh,
  setFresh,
  onLogged,
  pack,
}: {
  save: (mutate: (p: ShelfPack) => void) => Promise<boolean>;
  fresh: PackReading;
  setFresh: (next: PackReading) => void;
  /** What was begun is in the log. */
  onLogged: () => void;
  pack: ShelfPack;
}) {
  const { habit } = usePreferences();
  const log = async () => {
    if (!(await save((p) => void p.readings.push(fresh)))) return;
    setFresh({ date: today(), ...EMPTY });
    onLogged();
  };
  const empty = Object.entries(fresh).every(([k, v]) => k === "date" || v === null);
  const number = (
    key: keyof typeof EMPTY,
    label: string,
    dimension: "voltage" | "current" | "temperature" | "capacity",
    hint: string,
  ) => (
    <QuantityField
      boxed
      label={label}
      value={fresh[key]}
      dimension={dimension}
      empty={hint}
      onCommit={(v) => setFresh({ ...fresh, [key]: v })}
    />
  );
  return (
    <table className="rows mt-2 w-full min-w-[640px]">
      <thead>
        <tr>
          <th className="text-left">read on</th>
          <th className="text-right">resting</th>
          <th className="text-right">under load</th>
          <th className="text-right">at</th>
          <th className="text-right">pack at</th>
          <th className="text-right">charge returned</th>
          <th className="text-right">a cell, {plain(25, "temperature", habit, 0)}</th>
          <th />
        </tr>
      </thead>
      <tbody>
        {pack.readings.map((r, i) => {
          const tested = newestResistance({ ...pack, readings: [r] });
          const cell = (v: number | null, d: "voltage" | "current" | "temperature" | "capacity") => (
            <td className="num text-right text-ink">{v === null ? "–" : plain(v, d, habit)}</td>
          );
          return (
            <tr key={`${r.date} ${i}`}>
              <td>{r.date}</td>
              {cell(r.resting, "voltage")}
              {cell(r.loaded, "voltage")}
              {cell(r.current, "current")}
              {cell(r.temperature, "temperature")}
              {cell(r.returned, "capacity")}
              <td className="num text-right whitespace-nowrap">
                {tested
                  ? `${plain(tested.value, "resistance", habit)} ± ${showSd(tested.sd, "resistance", habit)}`
                  : "–"}
              </td>
              <td className="text-right">
                <button
                  type="button"
                  className="link"
                  aria-label={`Remove the reading of ${r.date}`}
                  onClick={() => void save((p) => void p.readings.splice(i, 1))}
                >
                  ×
                </button>
              </td>
            </tr>
          );
        })}
        <tr>
          <td>
            <input
              type="date"
              className="box"
              aria-label="Reading, date"
              value={fresh.date}
              onChange={(e) => setFresh({ ...fresh, date: e.target.value })}
            />
          </td>
          <td>{number("resting", "Reading, resting", "voltage", "V")}</td>
          <td>{number("loaded", "Reading, under load", "voltage", "V")}</td>
          <td>{number("current", "Reading, current", "current", "A")}</td>
          <td>{number("temperature", "Reading, temperature", "temperature", DISPLAY[habit].temperature)}</td>
          <td>{number("returned", "Reading, charge returned", "capacity", "Ah")}</td>
          <td />
          <td className="text-right">
            <button type="button" className="act" disabled={empty} onClick={() => void log()}>
              Log it
            </button>
          </td>
        </tr>
      </tbody>
    </table>
  );
}
