import { DriveSelect } from "../../fields/DriveSelect";
import { useState } from "react";
import { toast } from "sonner";
import {
  GENERIC_KINDS,
  type GenericKind,
  type GenericPart,
  type GenericWish,
  fitGeneric,
  genericParts,
  genericText,
  shelfPartOf,
} from "../../../core/catalogue/genericParts";
import type { Unit } from "../../../core/design/schema";
import { SI } from "../../../core/design/units";
import { CHEMISTRY, type Chemistry } from "../../../core/subjects/energy/battery";
import { plain } from "../../../core/wording/format";
import { useDesk } from "../../app/desk";
import { usePreferences } from "../../app/preferences";
import { saveFile } from "../../drawing/saveSvg";
import { QuantityField } from "../../fields/QuantityField";
import type { Shelf } from "./shelf/useShelf";
import { useShelf } from "./shelf/useShelf";

const TITLES: Record<GenericKind, string> = {
  motor: "Motors",
  controller: "Controllers",
  pack: "Packs",
  propeller: "Propellers",
  servo: "Servos",
};

/** Generic parts of no make, by scaling laws: look, compare, fit one into the draft. */
export function GenericSheet() {
  const { design } = useDesk();
  const shelf = useShelf();
  const [kind, setKind] = useState<GenericKind>("motor");
  const [unitId, setUnitId] = useState(design.units[0]?.id ?? "");
  const unit = design.units.find((u) => u.id === unitId) ?? design.units[0];
  const battery = design.batteries.find((b) => b.id === unit?.batteryId);
  const [wish, setWish] = useState<GenericWish>({
    kv: unit?.motor.kv.value ?? 1000,
    chemistry: battery?.chemistry ?? "lipo",
    series: battery?.series ?? 3,
    blades: unit?.propeller.blades ?? 2,
    pitchRatio: unit ? Number((unit.propeller.pitch.value / unit.propeller.diameter.value).toFixed(2)) : 0.6,
  });
  const parts = genericParts(kind, wish);
  const number = (
    label: string,
    key: "kv" | "series" | "blades" | "pitchRatio",
    dimension: "kv" | "count" | "ratio",
    low: number,
    high: number,
  ) => (
    <label className="w-28">
      {label}
      <QuantityField
        boxed
        label={`Generic ${label}`}
        value={wish[key]}
        dimension={dimension}
        onCommit={(v) => {
          if (v === null || v < low || v > high || (dimension === "count" && !Number.isInteger(v)))
            return `Accepted: ${dimension === "count" ? "a whole number, " : ""}${low} to ${high}.`;
          setWish({ ...wish, [key]: v });
        }}
      />
    </label>
  );
  return (
    <section aria-label="Generic parts" className="px-4 py-3 text-[12px]">
      <h2>Generic parts</h2>
      <p className="text-pencil">
        Of no make, by scaling laws of common practice, for a first idea; ± is one standard deviation of such parts.
        What is stamped on a real one beats every figure here.
      </p>
      <div className="mt-2 flex flex-wrap items-end gap-x-4 gap-y-2">
        <div role="group" aria-label="Kind of part" className="flex flex-wrap gap-1">
          {GENERIC_KINDS.map((k) => (
            <button
              key={k}
              type="button"
              className={`act ${k === kind ? "act-first" : ""}`}
              aria-pressed={k === kind}
              onClick={() => setKind(k)}
            >
              {TITLES[k]}
            </button>
          ))}
        </div>
        {kind === "motor" && number("Kv", "kv", "kv", 20, 20000)}
        {kind === "pack" && (
          <label className="w-44">
            Chemistry
            <select
              className="box"
              aria-label="Generic chemistry"
              value={wish.chemistry}
              onChange={(e) => setWish({ ...wish, chemistry: e.target.value as Chemistry })}
            >
              {(Object.keys(CHEMISTRY) as Chemistry[]).map((c) => (
                <option key={c} value={c}>
                  {CHEMISTRY[c].label}
                </option>
              ))}
            </select>
          </label>
        )}
        {kind === "pack" && number("Cells", "series", "count", 1, 24)}
        {kind === "propeller" && number("Blades", "blades", "count", 2, 6)}
        {kind === "propeller" && number("Pitch over diameter", "pitchRatio", "ratio", 0.3, 1.2)}
        {design.units.length > 1 && kind !== "servo" && (
          <label className="w-44">
            For
            <DriveSelect label="Generic part for" value={unit?.id} onChange={setUnitId} />
          </label>
        )}
        <button
          type="button"
          className="link"
          onClick={() =>
            saveFile(
              `generic-${kind}s.csv`,
              genericText(parts, (d) => SI[d]),
              "text/csv",
            )
          }
        >
          save as CSV
        </button>
      </div>
      <GenericTable unit={unit} shelf={shelf} kind={kind} parts={parts} />
    </section>
  );
}

/** The parts that the rule gives, beside what they are worth. */
function GenericTable({
  unit,
  shelf,
  kind,
  parts,
}: {
  unit: Unit | undefined;
  shelf: Shelf;
  kind: GenericKind;
  parts: GenericPart[];
}) {
  const { design, edit } = useDesk();
  const { habit } = usePreferences();
  const place = (part: GenericPart) => {
    const made = fitGeneric(design, unit?.id ?? "", part);
    const refused = edit((d) => {
      d.items = made.design.items;
      d.units = made.design.units;
      d.batteries = made.design.batteries;
    });
    if (refused === null)
      toast.success(
        `${part.name} is in the draft; the ledger carries it as "${made.entry}". All guesses: weigh and ` +
          "measure what you buy.",
      );
  };
  const keep = async (part: GenericPart) => {
    const made = shelfPartOf(part);
    const name = shelf.freeName(made.kind, made.name);
    if ((await shelf.add([{ ...made, name }])) !== null)
      toast.success(`${name} is on your shelf, all guesses: fill in what you read and measure.`);
  };
  return (
    <div className="mt-2 overflow-x-auto">
      <table className="rows w-full min-w-[640px]" data-generic={kind}>
        <thead>
          <tr>
            <th className="text-left">part</th>
            <th className="text-right">mass</th>
            {parts[0]?.figures.map((f) => (
              <th key={f.label} className="text-right">
                {f.label}
              </th>
            ))}
            <th />
          </tr>
        </thead>
        <tbody>
          {parts.map((p) => (
            <tr key={p.name}>
              <td>{p.name}</td>
              <td className="num text-right">
                {plain(p.mass, "mass", habit)}
                <Band share={p.massBand} />
              </td>
              {p.figures.map((f) => (
                <td key={f.label} className="num text-right">
                  {plain(f.value, f.dimension, habit)}
                  <Band share={f.band} />
                </td>
              ))}
              <td className="text-right whitespace-nowrap">
                <button
                  type="button"
                  className="link mr-2"
                  aria-label={`Keep ${p.name} on the shelf`}
                  onClick={() => void keep(p)}
                >
                  keep
                </button>
                <button type="button" className="act" aria-label={`Fit ${p.name}`} onClick={() => place(p)}>
                  {p.kind === "servo" ? "add to the ledger" : "fit"}
                </button>
              </td>
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  );
}

function Band({ share }: { share: number }) {
  return share > 0 ? <span className="text-pencil"> ± {Math.round(share * 100)} %</span> : null;
}
