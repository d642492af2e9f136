import type { SetStateAction } from "react";
import type { CraftFile, Version } from "../../../../core/design/craftFile";
import type { Design, Item } from "../../../../core/design/schema";
import { partsText } from "../../../../core/exchange/partsExchange";
import { saveFile } from "../../../drawing/saveSvg";
import { ColumnMenu } from "./ColumnMenu";
import { SHEETS, type SheetName } from "./numbers";
import type { Column } from "./numbers";
import type { useLedgerTable } from "./useLedgerTable";

/** Which sheet is shown, what is looked for, and what can be done with the list. */
export function LedgerTools({
  sheet,
  setSheet,
  wanted,
  setWanted,
  columns,
  wantedColumns,
  table,
  setImporting,
  copy,
  design,
  file,
  version,
}: {
  sheet: SheetName;
  setSheet: (value: SetStateAction<SheetName>) => void;
  wanted: string;
  setWanted: (next: string) => void;
  columns: Column[];
  wantedColumns: { planned: boolean };
  table: ReturnType<typeof useLedgerTable>["table"];
  setImporting: (next: string | null) => void;
  copy: (items: Item[]) => Promise<string | number>;
  design: Design;
  file: CraftFile;
  version: Version;
}) {
  return (
    <div className="no-print flex flex-wrap items-center gap-x-4 gap-y-1 pb-1 pt-2">
      {SHEETS.map((s) => (
        <button
          key={s}
          type="button"
          aria-pressed={sheet === s}
          className={
            "min-h-6 border-b-2 text-[12px] " +
            `${sheet === s ? "border-accent text-accent" : "border-transparent text-ink2"}`
          }
          onClick={() => setSheet(s)}
        >
          {s}
        </button>
      ))}
      <span className="ml-auto flex flex-wrap items-center gap-3 text-[12px]">
        <input
          className="box w-[130px]! text-[12px]"
          type="search"
          placeholder="find a part"
          aria-label="Find a part"
          value={wanted}
          onChange={(e) => setWanted(e.target.value)}
        />
        <ColumnMenu
          columns={columns}
          shown={wantedColumns}
          onShow={(id, on) => table.getColumn(id)?.toggleVisibility(on)}
        />
        <button type="button" className="link" onClick={() => setImporting("")}>
          import a list
        </button>
        <button type="button" className="link" onClick={() => void copy(design.items)}>
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
  );
}
