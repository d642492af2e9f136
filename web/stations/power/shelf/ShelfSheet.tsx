import { priceEach } from "../../../../core/design/price";
import { useState } from "react";
import { toast } from "sonner";
import type { ShelfRecord } from "../../../../api/contracts";
import { entryOf } from "../../../../core/catalogue/ledgerEntry";
import type { Refused } from "../../../../core/catalogue/listTable";
import { fitPack, packsText, readPacks } from "../../../../core/catalogue/packShelf";
import {
  type PlainKind,
  fitDrive,
  fitPart,
  partFrom,
  partsText,
  readParts,
} from "../../../../core/catalogue/partShelf";
import type { Battery, Design, Unit } from "../../../../core/design/schema";
import type { PlainPart, ShelfKind, ShelfPack, ShelfPart } from "../../../../core/design/shelf";
import { learnedHolds } from "../../../../core/subjects/propulsion/learned";
import { plain } from "../../../../core/wording/format";
import { useDesk } from "../../../app/desk";
import { usePreferences } from "../../../app/preferences";
import { saveFile } from "../../../drawing/saveSvg";
import { LineReports, textOf } from "../../../fields/TableFile";
import { PackShelf } from "./PackShelf";
import { PartShelf } from "./PartShelf";
import type { Shelf } from "./useShelf";
import { useShelf } from "./useShelf";

const MOST_BYTES = 2_000_000;
const TITLES: Record<ShelfKind, string> = {
  pack: "Packs",
  motor: "Motors",
  controller: "Controllers",
  propeller: "Propellers",
  servo: "Servos",
  drive: "Drives as measured",
};

/**
 * One's own parts, each with its name and what was measured on it: they wander between craft, so they stand beside
 * all of them.
 */
export function ShelfSheet() {
  const { design, edit } = useDesk();
  const shelf = useShelf();
  const [kind, setKind] = useState<ShelfKind>("pack");
  const [chosen, setChosen] = useState<number | null>(null);
  const [refused, setRefused] = useState<Refused[]>([]);
  const [batteryId, setBattery] = useState(design.batteries[0]?.id ?? "");
  const [unitId, setUnit] = useState(design.units[0]?.id ?? "");
  const battery = design.batteries.find((b) => b.id === batteryId) ?? design.batteries[0];
  const unit = design.units.find((u) => u.id === unitId) ?? design.units[0];
  const here = kind === "pack" ? battery : unit;
  const records = shelf.records.filter((r) => r.part.kind === kind);
  const put = (next: typeof design, name: string) => {
    const failed = edit((d) => {
      d.items = next.items;
      d.units = next.units;
      d.batteries = next.batteries;
      d.regulators = next.regulators;
    });
    if (failed === null) toast.success(`${name} is in the draft.`);
  };
  return (
    <section aria-label="Your parts" className="px-4 py-3 text-[12px]">
      <h2>Your parts</h2>
      <p className="text-pencil">
        {kind === "pack"
          ? "Your packs, shared by all craft. A load test in its log gives its resistance; age and cycles " +
            "tell when to doubt it."
          : kind === "drive"
            ? "Whole drives that were on the thrust stand: fitted in another craft, the measured curve comes along."
            : "What you own, as read off it, weighed and measured (in ink), shared by all craft; the " +
              "search can be limited to these."}
      </p>
      <ShelfTools
        kind={kind}
        battery={battery}
        shelf={shelf}
        unit={unit}
        setRefused={setRefused}
        records={records}
        setKind={setKind}
        setChosen={setChosen}
        here={here}
        setBattery={setBattery}
        setUnit={setUnit}
      />
      <LineReports list={refused.map((r) => ({ line: r.line, text: r.reason }))} tone="stop" />
      {shelf.error && <p className="text-stop">{shelf.error}</p>}
      {shelf.loaded && records.length === 0 && (
        <p className="mt-2">
          {kind === "drive"
            ? "None yet: take a sweep over on the bench, then shelve the drive here."
            : "None yet: shelve what this craft has, keep a generic one, or read a list."}
        </p>
      )}
      {records.length > 0 &&
        (kind === "pack" ? (
          <PackShelf
            chosen={chosen}
            setChosen={setChosen}
            shelf={shelf}
            canFit={here !== undefined}
            onFit={(pack) => here && put(fitPack(design, here.id, pack), pack.name)}
          />
        ) : kind === "drive" ? (
          <ShelfTable records={records} shelf={shelf} unit={unit} put={put} />
        ) : (
          <PartShelf
            key={kind}
            chosen={chosen}
            setChosen={setChosen}
            kind={kind satisfies PlainKind}
            shelf={shelf}
            canFit={kind === "servo" || here !== undefined}
            onFit={(part) => put(fitPart(design, unit?.id ?? "", part).design, part.name)}
          />
        ))}
    </section>
  );
}

/** The parts on the shelf. */
function ShelfTable({
  records,
  shelf,
  unit,
  put,
}: {
  records: ShelfRecord[];
  shelf: Shelf;
  unit: Unit | undefined;
  put: (next: Design, name: string) => void;
}) {
  const { habit } = usePreferences();
  const { design } = useDesk();

  return (
    <table className="rows mt-2 w-full max-w-[720px]">
      <thead>
        <tr>
          <th className="text-left">drive</th>
          <th className="text-right!">top thrust</th>
          <th className="text-right!">at</th>
          <th>measured on</th>
          <th />
        </tr>
      </thead>
      <tbody>
        {records.flatMap(({ id, part }) => {
          if (part.kind !== "drive") return [];
          const top = part.learned.points.reduce(
            (a, b) => (b.thrust > a.thrust ? b : a),
            part.learned.points[0] ?? { thrust: 0, voltage: 0 },
          );
          return [
            <tr key={id} data-drive={part.name}>
              <td className="font-semibold text-ink">{part.name}</td>
              <td className="num text-right text-ink">{plain(top.thrust, "force", habit)}</td>
              <td className="num text-right">{plain(top.voltage, "voltage", habit)}</td>
              <td>
                {part.learned.craft}, B-{String(part.learned.session).padStart(2, "0")}
              </td>
              <td className="text-right whitespace-nowrap">
                <button type="button" className="link mr-2" onClick={() => void shelf.remove(id)}>
                  take off
                </button>
                <button
                  type="button"
                  className="act"
                  aria-label={`Fit ${part.name}`}
                  disabled={!unit}
                  onClick={() => unit && put(fitDrive(design, unit.id, part), part.name)}
                >
                  fit
                </button>
              </td>
            </tr>,
          ];
        })}
      </tbody>
    </table>
  );
}

/** What of the craft may be laid on the shelf, as a part of this kind. Null: nothing of it. */
function asShelved(
  kind: ShelfKind,
  battery: Battery | undefined,
  unit: Unit | undefined,
  design: Design,
  craft: string,
  shelf: Shelf,
): ShelfPart | null {
  if (kind === "pack" && battery) {
    const { chemistry, series, capacity, cellResistance, cRating } = battery;
    const item = design.items.find((i) => i.id === battery.itemId);
    const name = shelf.freeName("pack", battery.name);
    return {
      kind,
      name,
      chemistry,
      series,
      capacity,
      cellResistance,
      cRating,
      mass: item?.mass ?? null,
      price: priceEach(item),
      bought: null,
      cycles: null,
      notes: "",
      readings: [],
    };
  }
  if (kind === "drive" && unit?.learned && learnedHolds(unit)) {
    const { motor, controller, gear, propeller, learned } = unit;
    return {
      kind,
      name: shelf.freeName("drive", `${unit.name}, ${craft}`.slice(0, 70)),
      mass: null,
      price: null,
      notes: "",
      motor,
      controller,
      gear,
      propeller,
      learned,
    };
  }
  if (!unit || kind === "pack" || kind === "servo" || kind === "drive") return null;
  const entry = entryOf(design, unit, kind);
  const called =
    design.items.find((i) => i.id === entry)?.name ?? `${kind[0]?.toUpperCase()}${kind.slice(1)} of ${unit.name}`;
  return partFrom(design, unit, kind, shelf.freeName(kind, called.slice(0, 70)), entry);
}

/** Which kind is shown, and what may be laid on the shelf. */
function ShelfTools({
  kind,
  battery,
  shelf,
  unit,
  setRefused,
  records,
  setKind,
  setChosen,
  here,
  setBattery,
  setUnit,
}: {
  kind: ShelfKind;
  battery: Battery | undefined;
  shelf: Shelf;
  unit: Unit | undefined;
  setRefused: (next: Refused[]) => void;
  records: ShelfRecord[];
  setKind: (next: ShelfKind) => void;
  setChosen: (next: number | null) => void;
  here: Battery | Unit | undefined;
  setBattery: (next: string) => void;
  setUnit: (next: string) => void;
}) {
  const { design, file } = useDesk();
  const places: { id: string; name: string }[] = kind === "pack" ? design.batteries : design.units;

  const own = asShelved(kind, battery, unit, design, file.craft.name, shelf);
  const read = async (file: File) => {
    if (kind === "drive") return;
    if (file.size > MOST_BYTES)
      return toast.error(`${file.name} has ${Math.round(file.size / 1e6)} MB: a list of parts is smaller than 2 MB.`);
    const text = await textOf(file);
    const list: { parts: ShelfPart[]; refused: Refused[] } = kind === "pack" ? readPacks(text) : readParts(kind, text);
    setRefused(list.refused);
    if (list.parts.length > 0 && (await shelf.add(list.parts)) !== null)
      toast.success(`${list.parts.length} ${TITLES[kind].toLowerCase()} are on the shelf.`);
  };
  const save = () => {
    if (kind === "drive") return;
    const parts = records.map((r) => r.part);
    const text = kind === "pack" ? packsText(parts as ShelfPack[]) : partsText(kind, parts as PlainPart[]);
    saveFile(`${kind}s.csv`, text, "text/csv");
  };
  return (
    <div className="mt-1 flex flex-wrap items-center gap-x-4 gap-y-1">
      <span role="group" aria-label="Kind on the shelf" className="flex flex-wrap gap-1">
        {(Object.keys(TITLES) as ShelfKind[]).map((k) => (
          <button
            key={k}
            type="button"
            className={`chip ${k === kind ? "chip-on" : ""}`}
            aria-pressed={k === kind}
            onClick={() => {
              setKind(k);
              setRefused([]);
            }}
          >
            {TITLES[k]}
          </button>
        ))}
      </span>
      {own && (
        <button
          type="button"
          className="act"
          onClick={() => void shelf.add([own]).then((ids) => setChosen(ids?.[0] ?? null))}
        >
          Shelve {own.name}
        </button>
      )}
      {kind !== "drive" && (
        <label className="link cursor-pointer">
          read a CSV list
          <input
            type="file"
            accept=".csv,.txt,text/csv"
            className="sr-only"
            aria-label={`Read ${TITLES[kind].toLowerCase()} from a CSV list`}
            onChange={(e) => {
              const [file] = e.target.files ?? [];
              if (file) void read(file);
              e.target.value = "";
            }}
          />
        </label>
      )}
      {kind !== "drive" && (
        <button type="button" className="link" onClick={save}>
          save as CSV
        </button>
      )}
      {places.length > 1 && (
        <label>
          Fit in{" "}
          <select
            className="box"
            aria-label="Fit in place of"
            value={here?.id}
            onChange={(e) => (kind === "pack" ? setBattery : setUnit)(e.target.value)}
          >
            {places.map((b) => (
              <option key={b.id} value={b.id}>
                {b.name}
              </option>
            ))}
          </select>
        </label>
      )}
    </div>
  );
}
