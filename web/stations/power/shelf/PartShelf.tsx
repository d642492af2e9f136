import { moneySign } from "../../../../core/design/money";
import { type Known, positiveOf } from "../../../../core/design/evidence";
import { amountSchema } from "../../../../core/design/bounds";
import { type PlainPart, figureSchema } from "../../../../core/design/shelf";
import { PART_FIELDS, type PartField, type PlainKind } from "../../../../core/catalogue/partShelf";
import { plain } from "../../../../core/wording/format";
import { usePreferences } from "../../../app/preferences";
import { KnownField } from "../../../fields/KnownField";
import { QuantityField } from "../../../fields/QuantityField";
import { TextField } from "../../../fields/TextField";
import type { Choosing, Shelf } from "./useShelf";

const figure = (part: PlainPart, key: string) => (part as unknown as Record<string, Known | number>)[key];
const numberOf = (v: Known | number | undefined) => (typeof v === "object" ? v.value : v);

/**
 * One's own motors, controllers, propellers or servos: a list, and the figures of the chosen one beneath. Measured
 * figures stand in ink.
 */
export function PartShelf({
  kind,
  shelf,
  chosen,
  setChosen,
  onFit,
  canFit,
}: Choosing & { kind: PlainKind; shelf: Shelf; onFit: (part: PlainPart) => void; canFit: boolean }) {
  const { habit } = usePreferences();
  const fields = PART_FIELDS[kind];
  const records = shelf.records.flatMap(({ part, ...r }) =>
    part.kind === kind ? [{ ...r, part: part as PlainPart }] : [],
  );
  const record = records.find((r) => r.id === chosen);
  const shown = (v: Known | number | undefined, f: PartField) =>
    v === undefined ? (
      "–"
    ) : (
      <span className={typeof v === "object" && v.evidence === "measured" ? "text-ink" : "text-pencil"}>
        {plain(numberOf(v) ?? 0, f.dimension, habit, f.dimension === "count" ? 0 : undefined)}
      </span>
    );
  return (
    <>
      <div className="mt-2 overflow-x-auto">
        <table className="rows w-full min-w-[560px]">
          <thead>
            <tr>
              <th className="text-left">{kind}</th>
              <th className="text-right!">mass</th>
              {fields.map((f) => (
                <th key={f.key} className="text-right!">
                  {f.title.toLowerCase().replace(/^kv$/, "Kv")}
                </th>
              ))}
              <th className="text-right!">{moneySign()}</th>
              <th />
            </tr>
          </thead>
          <tbody>
            {records.map((r) => (
              <tr key={r.id} data-part={r.part.name}>
                <td>
                  <button
                    type="button"
                    className="min-h-6 text-left font-semibold text-ink"
                    aria-pressed={r.id === chosen}
                    onClick={() => setChosen(r.id === chosen ? null : r.id)}
                  >
                    {r.part.name}
                  </button>
                </td>
                <td className={`num text-right ${r.part.mass?.evidence === "measured" ? "text-ink" : "text-pencil"}`}>
                  {r.part.mass ? plain(r.part.mass.value, "mass", habit) : "–"}
                </td>
                {fields.map((f) => (
                  <td key={f.key} className="num text-right">
                    {shown(figure(r.part, f.key), f)}
                  </td>
                ))}
                <td className="num text-right">{r.part.price ?? "–"}</td>
                <td className="text-right">
                  <button
                    type="button"
                    className="act"
                    aria-label={`Fit ${r.part.name}`}
                    disabled={!canFit}
                    onClick={() => onFit(r.part)}
                  >
                    {kind === "servo" ? "add to the ledger" : "fit"}
                  </button>
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      </div>
      {record && <PartCard key={record.id} record={record} shelf={shelf} onGone={() => setChosen(null)} />}
    </>
  );
}

/**
 * All that is known of one part. Every change is saved at once; a stale one is refused, and what the server holds is
 * shown.
 */
function PartCard({
  record,
  shelf,
  onGone,
}: {
  record: { id: number; revision: number; part: PlainPart };
  shelf: Shelf;
  onGone: () => void;
}) {
  const { part } = record;
  const put = (key: string, value: unknown) => void shelf.save(record, (p) => void Object.assign(p, { [key]: value }));
  const remove = async () => {
    if (await shelf.remove(record.id)) onGone();
  };
  return (
    <section aria-label={`Figures of ${part.name}`} className="mt-3 border-t border-hair pt-2">
      <div className="flex flex-wrap items-end gap-3">
        <div className="w-48">
          Name
          <TextField boxed required label="Shelf part name" value={part.name} onCommit={(v) => put("name", v)} />
        </div>
        <label className="w-24">
          Mass
          <QuantityField
            boxed
            label="Shelf part mass"
            value={part.mass?.value ?? null}
            dimension="mass"
            schema={positiveOf("mass")}
            empty="not weighed"
            onCommit={(v) => put("mass", v === null ? null : { value: v, evidence: "measured" })}
          />
        </label>
        {PART_FIELDS[part.kind].map((f) => {
          const v = figure(part, f.key);
          return (
            <div key={f.key} className={f.how === "known" ? "w-36" : "w-24"}>
              {f.title}
              {typeof v === "object" ? (
                <KnownField
                  label={`Shelf ${f.title}`}
                  value={v}
                  dimension={f.dimension}
                  schema={positiveOf(f.dimension)}
                  onCommit={(k) => put(f.key, k)}
                />
              ) : (
                <QuantityField
                  boxed
                  label={`Shelf ${f.title}`}
                  value={v ?? null}
                  dimension={f.dimension}
                  schema={figureSchema(part.kind, f.key)}
                  onCommit={(n) => n !== null && put(f.key, n)}
                />
              )}
            </div>
          );
        })}
        <label className="w-20">
          Price, {moneySign()}
          <QuantityField
            boxed
            label="Shelf part price"
            value={part.price}
            dimension="money"
            schema={amountSchema}
            empty="–"
            onCommit={(v) => put("price", v)}
          />
        </label>
        <div className="min-w-44 flex-1">
          Notes
          <TextField boxed label="Shelf part notes" value={part.notes} onCommit={(v) => put("notes", v)} />
        </div>
        <button type="button" className="link" onClick={() => void remove()}>
          take off the shelf
        </button>
      </div>
    </section>
  );
}
