import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { toast } from "sonner";
import { type ShelfRecord, contracts } from "../../../api/contracts";
import { magnitudeSchema } from "../../../core/design/evidence";
import { CHEMISTRIES } from "../../../core/design/schema";
import { type PackReading, type ShelfPack, shelfPackSchema } from "../../../core/design/shelf";
import { CHEMISTRY } from "../../../core/power/battery";
import { ageOf, fitPack, newestResistance, packsText, readPacks } from "../../../core/power/packShelf";
import { plain, showSd } from "../../../core/wording/format";
import { call } from "../../app/client";
import { useDesk } from "../../app/desk";
import { usePreferences } from "../../app/preferences";
import { saveFile } from "../../drawing/saveSvg";
import { KnownField } from "../../fields/KnownField";
import { QuantityField } from "../../fields/QuantityField";
import { TextField } from "../../fields/TextField";

const KEY = ["packs"];
const MOST_BYTES = 2_000_000;
const positive = magnitudeSchema.shape.value;
const today = () => new Date().toISOString().slice(0, 10);
const said = (error: unknown) => (error instanceof Error ? error.message : String(error));
const age = (days: number | null) => (days === null ? "" : days < 60 ? `${days} d` : days < 730 ? `${Math.round(days / 30.4)} months` : `${(days / 365.25).toFixed(1)} years`);

/** One's own packs, each with its name and log: they wander between craft, so they stand beside all of them. */
export function ShelfSheet() {
  const { design, edit } = useDesk();
  const { habit } = usePreferences();
  const client = useQueryClient();
  const { data, error } = useQuery({ queryKey: KEY, queryFn: () => call(contracts.listPacks, {}) });
  const [chosen, setChosen] = useState<number | null>(null);
  const [refused, setRefused] = useState<{ line: number; reason: string }[]>([]);
  const [battery, setBattery] = useState(design.batteries[0]?.id ?? "");
  const here = design.batteries.find((b) => b.id === battery) ?? design.batteries[0];
  const again = () => client.invalidateQueries({ queryKey: KEY });
  const put = async (packs: ShelfPack[]) => {
    try {
      const { ids } = await call(contracts.addPacks, { body: { packs } });
      await again();
      setChosen(ids[0] ?? null);
      return true;
    } catch (e) {
      toast.error(said(e));
      return false;
    }
  };
  const shelve = () => {
    if (!here) return;
    const names = new Set(data?.map((r) => r.pack.name));
    const free = [here.name, ...Array.from({ length: 99 }, (_, k) => `${here.name}, no. ${k + 2}`)].find((n) => !names.has(n)) ?? here.name;
    const item = design.items.find((i) => i.id === here.itemId);
    const { chemistry, series, capacity, cellResistance, cRating } = here;
    void put([{ name: free, chemistry, series, capacity, cellResistance, cRating, mass: item?.mass ?? null, bought: null, cycles: null, notes: "", readings: [] }]);
  };
  const read = async (file: File) => {
    if (file.size > MOST_BYTES) return toast.error(`${file.name} has ${Math.round(file.size / 1e6)} MB: a list of packs is smaller than 2 MB.`);
    const list = readPacks(await file.text());
    setRefused(list.refused);
    if (list.packs.length > 0 && (await put(list.packs))) toast.success(`${list.packs.length} packs are on the shelf.`);
  };
  const place = ({ pack }: ShelfRecord) => {
    if (!here) return;
    const next = fitPack(design, here.id, pack);
    const failed = edit((d) => {
      d.items = next.items;
      d.batteries = next.batteries;
    });
    if (failed === null) toast.success(`${pack.name} is in the draft.`);
  };
  const record = data?.find((r) => r.id === chosen);
  return (
    <section aria-label="Your packs" className="px-4 py-3 text-[12px]">
      <h2>Your packs</h2>
      <p className="text-pencil">Each with a name on it, shared by all craft. A load test in its log gives its resistance; age and cycles tell when to doubt it.</p>
      <div className="mt-1 flex flex-wrap items-end gap-x-4 gap-y-1">
        {here && (
          <button type="button" className="act" onClick={shelve}>
            Shelve {here.name}
          </button>
        )}
        <label className="link cursor-pointer">
          read a CSV list
          <input
            type="file"
            accept=".csv,.txt,text/csv"
            className="sr-only"
            aria-label="Read packs from a CSV list"
            onChange={(e) => {
              const [file] = e.target.files ?? [];
              if (file) void read(file);
              e.target.value = "";
            }}
          />
        </label>
        <button type="button" className="link" onClick={() => saveFile("packs.csv", packsText(data?.map((r) => r.pack) ?? []), "text/csv")}>
          save as CSV
        </button>
        {design.batteries.length > 1 && (
          <label>
            Fit in place of{" "}
            <select className="box" aria-label="Fit in place of" value={here?.id} onChange={(e) => setBattery(e.target.value)}>
              {design.batteries.map((b) => (
                <option key={b.id} value={b.id}>
                  {b.name}
                </option>
              ))}
            </select>
          </label>
        )}
      </div>
      {refused.length > 0 && (
        <ul role="alert" className="mt-2 text-stop">
          {refused.slice(0, 12).map((r) => (
            <li key={r.line}>
              Line {r.line}: {r.reason}
            </li>
          ))}
          {refused.length > 12 && <li>and {refused.length - 12} more</li>}
        </ul>
      )}
      {error && <p className="text-stop">{said(error)}</p>}
      {data?.length === 0 && <p className="mt-2">No pack yet: shelve the one that this craft has, or read a list.</p>}
      {data && data.length > 0 && (
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
              {data.map((r) => {
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
                      {tested && <span className="text-pencil"> ± {showSd(tested.sd, "resistance")}</span>}
                    </td>
                    <td className="num text-right">{r.pack.cycles ?? "–"}</td>
                    <td className="num text-right">{age(ageOf(r.pack, today())) || "–"}</td>
                    <td className="text-right">
                      <button type="button" className="act" aria-label={`Fit ${r.pack.name}`} disabled={!here} onClick={() => place(r)}>
                        fit
                      </button>
                    </td>
                  </tr>
                );
              })}
            </tbody>
          </table>
        </div>
      )}
      {record && <PackLog key={record.id} record={record} onSaved={again} onGone={() => setChosen(null)} />}
    </section>
  );
}

const EMPTY: Omit<PackReading, "date"> = { resting: null, loaded: null, current: null, temperature: null, returned: null };

/** What is known of one pack, and its log. Every change is saved at once; a stale one is refused, and what the server holds is shown. */
function PackLog({ record, onSaved, onGone }: { record: ShelfRecord; onSaved: () => Promise<unknown>; onGone: () => void }) {
  const { pack } = record;
  const [fresh, setFresh] = useState<PackReading>({ date: today(), ...EMPTY });
  const save = async (mutate: (p: ShelfPack) => void): Promise<boolean> => {
    const next = structuredClone(pack);
    mutate(next);
    const parsed = shelfPackSchema.safeParse(next);
    if (!parsed.success) {
      toast.error(parsed.error.issues[0]?.message ?? "This cannot be saved.");
      return false;
    }
    try {
      await call(contracts.savePack, { params: { id: record.id }, body: { revision: record.revision, pack: parsed.data } });
      return true;
    } catch (e) {
      toast.error(said(e));
      return false;
    } finally {
      await onSaved();
    }
  };
  const log = async () => {
    if (await save((p) => void p.readings.push(fresh))) setFresh({ date: today(), ...EMPTY });
  };
  const remove = async () => {
    try {
      await call(contracts.deletePack, { params: { id: record.id } });
      onGone();
    } catch (e) {
      toast.error(said(e));
    }
    await onSaved();
  };
  const empty = Object.entries(fresh).every(([k, v]) => k === "date" || v === null);
  const number = (key: keyof typeof EMPTY, label: string, dimension: "voltage" | "current" | "temperature" | "capacity", hint: string) => (
    <QuantityField boxed label={label} value={fresh[key]} dimension={dimension} empty={hint} onCommit={(v) => setFresh({ ...fresh, [key]: v })} />
  );
  return (
    <section aria-label={`Log of ${pack.name}`} className="mt-3 border-t border-hair pt-2">
      <div className="flex flex-wrap items-end gap-3">
        <div className="w-44">
          Name
          <TextField boxed required label="Shelf pack name" value={pack.name} onCommit={(v) => void save((p) => void (p.name = v))} />
        </div>
        <div className="w-28">
          Capacity
          <KnownField label="Shelf pack capacity" value={pack.capacity} dimension="capacity" schema={positive} onCommit={(k) => void save((p) => void (p.capacity = k))} />
        </div>
        <label className="w-24">
          Mass
          <QuantityField
            boxed
            label="Shelf pack mass"
            value={pack.mass?.value ?? null}
            dimension="mass"
            schema={positive}
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
            onBlur={(e) => (e.target.value || null) !== pack.bought && void save((p) => void (p.bought = e.target.value || null))}
          />
        </label>
        <label className="w-20">
          Cycles
          <QuantityField boxed label="Shelf pack cycles" value={pack.cycles} dimension="count" empty="–" onCommit={(v) => void save((p) => void (p.cycles = v))} />
        </label>
        <div className="min-w-44 flex-1">
          Notes
          <TextField boxed label="Shelf pack notes" value={pack.notes} onCommit={(v) => void save((p) => void (p.notes = v))} />
        </div>
        <button type="button" className="link" onClick={() => void remove()}>
          take off the shelf
        </button>
      </div>
      <div className="overflow-x-auto">
        <table className="rows mt-2 w-full min-w-[640px]">
          <thead>
            <tr>
              <th className="text-left">read on</th>
              <th className="text-right">resting</th>
              <th className="text-right">under load</th>
              <th className="text-right">at</th>
              <th className="text-right">pack at</th>
              <th className="text-right">charge returned</th>
              <th className="text-right">a cell, 25 °C</th>
              <th />
            </tr>
          </thead>
          <tbody>
            {pack.readings.map((r, i) => {
              const tested = newestResistance({ ...pack, readings: [r] });
              const cell = (v: number | null, d: "voltage" | "current" | "temperature" | "capacity") => (
                <td className="num text-right text-ink">{v === null ? "–" : plain(v, d)}</td>
              );
              return (
                <tr key={`${r.date} ${i}`}>
                  <td>{r.date}</td>
                  {cell(r.resting, "voltage")}
                  {cell(r.loaded, "voltage")}
                  {cell(r.current, "current")}
                  {cell(r.temperature, "temperature")}
                  {cell(r.returned, "capacity")}
                  <td className="num text-right whitespace-nowrap">{tested ? `${plain(tested.value, "resistance")} ± ${showSd(tested.sd, "resistance")}` : "–"}</td>
                  <td className="text-right">
                    <button type="button" className="link" aria-label={`Remove the reading of ${r.date}`} onClick={() => void save((p) => void p.readings.splice(i, 1))}>
                      ×
                    </button>
                  </td>
                </tr>
              );
            })}
            <tr>
              <td>
                <input type="date" className="box" aria-label="Reading, date" value={fresh.date} onChange={(e) => setFresh({ ...fresh, date: e.target.value })} />
              </td>
              <td>{number("resting", "Reading, resting", "voltage", "V")}</td>
              <td>{number("loaded", "Reading, under load", "voltage", "V")}</td>
              <td>{number("current", "Reading, current", "current", "A")}</td>
              <td>{number("temperature", "Reading, temperature", "temperature", "°C")}</td>
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
      </div>
    </section>
  );
}
