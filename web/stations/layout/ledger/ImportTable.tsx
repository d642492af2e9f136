import { moneyHere } from "../../../../core/design/money";
import type { SetStateAction } from "react";
import type { TableReading } from "../../../../core/exchange/partsColumns";
import { PART_ROLES, type PartRole } from "../../../../core/exchange/partsHeads";
import { ROLE_WORD } from "../../../../core/wording/partsTable";
import { TableSigns } from "../../../fields/TableFile";

const UNITS: Partial<Record<PartRole, string[]>> = {
  mass: ["g", "kg", "oz", "lb"],
  x: ["mm", "cm", "m", "in", "ft"],
  y: ["mm", "cm", "m", "in", "ft"],
  z: ["mm", "cm", "m", "in", "ft"],
};

/** What a bare number in a column may be; prices are in the workshop's currency or in none that is taken over. */
const unitsOf = (role: PartRole, now = ""): string[] | undefined =>
  role === "price" ? [...new Set([moneyHere().currency, now, "EUR", "GBP", "USD"])].filter(Boolean) : UNITS[role];

/** How the file is to be read. */
export function Signs({
  reading,
  separate,
  correct,
  evidence,
  setEvidence,
}: {
  reading: TableReading;
  separate: (delimiter: string) => void;
  correct: (change: (r: TableReading) => void) => void;
  evidence: "guess" | "datasheet" | "measured";
  setEvidence: (value: SetStateAction<"guess" | "datasheet" | "measured">) => void;
}) {
  return (
    <div className="my-1 flex flex-wrap gap-3 text-[12px]">
      <TableSigns
        reading={reading}
        onDelimiter={separate}
        onDecimal={(decimal) => correct((r) => void (r.decimal = decimal))}
      />
      <label>
        mass is{" "}
        <select
          className="box w-auto!"
          aria-label="Mass is of"
          value={reading.massIs}
          onChange={(e) => correct((r) => void (r.massIs = e.target.value as "each" | "row"))}
        >
          <option value="each">of one piece</option>
          <option value="row">of the whole row</option>
        </select>
      </label>
      <label>
        masses are{" "}
        <select
          className="box w-auto!"
          aria-label="Masses are known by"
          value={evidence}
          onChange={(e) => setEvidence(e.target.value as typeof evidence)}
        >
          <option value="measured">weighed</option>
          <option value="datasheet">from datasheets</option>
          <option value="guess">guessed</option>
        </select>
      </label>
    </div>
  );
}

/** The rows as they are read, column by column. */
export function ImportTable({
  correct,
  reading,
}: {
  correct: (change: (r: TableReading) => void) => void;
  reading: TableReading;
}) {
  const setRole = (k: number, role: PartRole) =>
    correct((r) => {
      for (const column of r.columns) if (column.role === role && role !== "ignore") column.role = "ignore";
      const column = r.columns[k];
      if (!column) return;
      column.role = role;
      const units = unitsOf(role) ?? [];
      if (!units.includes(column.unit)) column.unit = units[0] ?? "";
    });
  return (
    <div className="overflow-x-auto">
      <table className="rows w-full text-[12px]">
        <thead>
          <tr>
            {reading.columns.map((c, k) => (
              <th key={`${c.header}${k}`} className="align-top!">
                <span className="block max-w-28 truncate">{c.header || `column ${k + 1}`}</span>
                <select
                  className="cell"
                  aria-label={`Column ${k + 1} is`}
                  value={c.role}
                  onChange={(e) => setRole(k, e.target.value as PartRole)}
                >
                  {PART_ROLES.map((r) => (
                    <option key={r} value={r}>
                      {ROLE_WORD[r]}
                    </option>
                  ))}
                </select>
                {c.role === "y" && (
                  <select
                    className="cell"
                    aria-label={`Column ${k + 1} counts to`}
                    value={c.toPort ? "port" : "starboard"}
                    onChange={(e) =>
                      correct((r) => {
                        const column = r.columns[k];
                        if (!column) return;
                        if (e.target.value === "port") column.toPort = true;
                        else delete column.toPort;
                      })
                    }
                  >
                    <option value="starboard">to starboard</option>
                    <option value="port">to port, turned round</option>
                  </select>
                )}
                {unitsOf(c.role, c.unit) && (
                  <select
                    className="cell"
                    aria-label={`Column ${k + 1} unit`}
                    value={c.unit}
                    onChange={(e) => correct((r) => void (r.columns[k] && (r.columns[k].unit = e.target.value)))}
                  >
                    {unitsOf(c.role, c.unit)?.map((u) => (
                      <option key={u} value={u}>
                        {u}
                      </option>
                    ))}
                  </select>
                )}
              </th>
            ))}
          </tr>
        </thead>
      </table>
    </div>
  );
}
