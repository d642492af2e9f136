import { type Column, type Derived, SHEETS, type SheetName, useColumns, useDerived } from "./ledgerColumns";
import { freeId } from "../../../core/design/ids";
import { type ClipboardEvent, Fragment, memo, useState } from "react";
import { useHotkeys } from "react-hotkeys-hook";
import { toast } from "sonner";
import { type Design, type Item, newItem } from "../../../core/design/schema";
import { partsText } from "../../../core/exchange/partsExchange";
import { useDesk, useDeskActions } from "../../app/desk";
import { usePreferences } from "../../app/preferences";
import { saveFile } from "../../drawing/saveSvg";
import { TextField } from "../../fields/TextField";
import { ImportDialog } from "./ImportDialog";

export function newPart(design: Design): Item {
  const xs = design.items.map((i) => i.place.x);
  return newItem({
    id: freeId(design.items, "part-"),
    name: `Part ${design.items.length + 1}`,
    place: {
      x: xs.length > 0 ? Math.round(((Math.min(...xs) + Math.max(...xs)) / 2) * 1000) / 1000 : 0.1,
      y: 0,
      z: 0.05,
    },
    size: { x: 0.05, y: 0.03, z: 0.02 },
  });
}

interface RowProps {
  item: Item;
  number: number;
  host: string | null;
  selected: boolean;
  derived: Derived;
  columns: Column[];
  onSelect: (id: string) => void;
}

const Row = memo(
  function Row({ item, number, host, selected, derived, columns, onSelect }: RowProps) {
    const { edit } = useDeskActions();
    return (
      <tr data-row={item.id} className={selected ? "bg-tint-accent" : ""} onFocus={() => onSelect(item.id)}>
        <td className="num text-right">
          <button
            type="button"
            className="min-h-6 w-full text-right"
            aria-label={`Select ${item.name}`}
            onClick={() => onSelect(item.id)}
          >
            {number}
          </button>
        </td>
        <td>
          <span className="flex items-baseline">
            {host !== null && (
              <span className="text-pencil" title={`on ${host}`}>
                └
              </span>
            )}
            <TextField
              required
              label={`${item.name}, name`}
              value={item.name}
              className="text-ink"
              onCommit={(v) =>
                edit((d) => {
                  const p = d.items.find((x) => x.id === item.id);
                  if (p) p.name = v;
                })
              }
            />
          </span>
        </td>
        {columns.map((c, k) => (
          <td key={`${c.head}${k}`} className={c.right ? "text-right" : ""}>
            {c.cell(item, derived)}
          </td>
        ))}
      </tr>
    );
  },
  (a, b) =>
    a.item === b.item &&
    a.number === b.number &&
    a.host === b.host &&
    a.selected === b.selected &&
    a.columns === b.columns &&
    a.onSelect === b.onSelect &&
    (Object.keys(a.derived) as (keyof Derived)[]).every((k) => a.derived[k] === b.derived[k]),
);

/** The mass ledger, edited in place like a spreadsheet; rows paste in from one and copy to one. */
export function Ledger({ selected, onSelect }: { selected: string | null; onSelect: (id: string) => void }) {
  const { design, edit, file, version } = useDesk();
  const { keys } = usePreferences();
  const [sheet, setSheet] = useState<SheetName>(SHEETS[0]);
  const [importing, setImporting] = useState<string | null>(null);
  const columns = useColumns(sheet);
  const derived = useDerived();
  const add = () => {
    const part = newPart(design);
    edit((d) => d.items.push(part));
    onSelect(part.id);
  };
  useHotkeys("n", add, { enabled: keys, preventDefault: true });
  const paste = (event: ClipboardEvent) => {
    const text = event.clipboardData.getData("text/plain");
    if (!/[\t;].*\n|\n.*[\t;]/.test(text.trim())) return;
    event.preventDefault();
    setImporting(text);
  };
  const copy = () =>
    navigator.clipboard
      .writeText(partsText(design.items, "\t"))
      .then(() => toast.success(`${design.items.length} rows copied: paste them into a spreadsheet.`))
      .catch(() => toast.error("The browser does not allow copying here: save the CSV instead."));
  const groups = [...new Set(design.items.map((i) => i.group))];
  const grouped = groups.length > 1;
  const rows = groups.map((group) => ({ group, items: design.items.filter((i) => i.group === group) }));
  return (
    <section aria-label="Parts" className="px-4 pb-6" onPaste={paste}>
      <div className="no-print flex flex-wrap items-center gap-x-4 gap-y-1 pb-1 pt-2">
        {SHEETS.map((s) => (
          <button
            key={s}
            type="button"
            aria-pressed={sheet === s}
            className={`min-h-6 border-b-2 text-[12px] ${sheet === s ? "border-accent text-accent" : "border-transparent text-ink2"}`}
            onClick={() => setSheet(s)}
          >
            {s}
          </button>
        ))}
        <span className="ml-auto flex flex-wrap gap-3 text-[12px]">
          <button type="button" className="link" onClick={() => setImporting("")}>
            import a list
          </button>
          <button type="button" className="link" onClick={() => void copy()}>
            copy rows
          </button>
          <button
            type="button"
            className="link"
            onClick={() =>
              saveFile(
                `${file.craft.name.toLowerCase()}-${version.label}-parts.csv`,
                partsText(design.items, ","),
                "text/csv",
              )
            }
          >
            save CSV
          </button>
        </span>
      </div>
      <div className="overflow-x-auto">
        <table className="rows w-full min-w-[840px] table-fixed">
          <colgroup>
            <col className="w-[26px]" />
            <col />
            {columns.map((c) => (
              <col key={c.head + (c.width ?? "")} className={c.width} />
            ))}
          </colgroup>
          <thead>
            <tr>
              <th />
              <th>Part</th>
              {columns.map((c, k) => (
                <th key={`${c.head}${k}`} className={c.right ? "text-right!" : ""}>
                  {c.head}
                </th>
              ))}
            </tr>
          </thead>
          <tbody>
            {rows.map(({ group, items }) => (
              <Fragment key={group}>
                {grouped && (
                  <tr className="bg-well text-[12px]" data-group={group}>
                    <td />
                    <td className="font-semibold text-ink">
                      {group || "no group"} <span className="num font-normal text-pencil">{items.length}</span>
                    </td>
                    {columns.map((c, k) => (
                      <td key={`${c.head}${k}`} className={`num ${c.right ? "text-right" : ""}`}>
                        {c.sum?.(items)}
                      </td>
                    ))}
                  </tr>
                )}
                {items.map((item) => (
                  <Row
                    key={item.id}
                    item={item}
                    number={design.items.indexOf(item) + 1}
                    host={
                      item.parentId === null ? null : (design.items.find((p) => p.id === item.parentId)?.name ?? null)
                    }
                    selected={item.id === selected}
                    derived={derived.get(item.id) as Derived}
                    columns={columns}
                    onSelect={onSelect}
                  />
                ))}
              </Fragment>
            ))}
            <tr data-total className="text-[12px]">
              <td />
              <td className="font-semibold text-ink">All parts</td>
              {columns.map((c, k) => (
                <td key={`${c.head}${k}`} className={`num ${c.right ? "text-right" : ""}`}>
                  {c.sum?.(design.items)}
                </td>
              ))}
            </tr>
          </tbody>
        </table>
      </div>
      <p className="no-print mt-2 flex flex-wrap gap-3">
        <button type="button" className="act" onClick={add}>
          Add a part
        </button>
        <span className="self-center text-[11px] text-pencil">
          Any unit and simple sums may be typed: 7 oz, 11.5 in, 120+35 g. Enter goes down, Tab goes on, n adds a row.
          Rows of a spreadsheet can be pasted here.
        </span>
      </p>
      {importing !== null && <ImportDialog start={importing} onClose={() => setImporting(null)} />}
    </section>
  );
}
