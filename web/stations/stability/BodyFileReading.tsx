import { AXES, type AxisOfFile, type MeshStands } from "../../../core/exchange/bodyFile";
import {
  OFFSET_ROLES,
  type OffsetReading,
  type OffsetRole,
  type OffsetTable,
  offsetUnits,
} from "../../../core/exchange/offsetTable";
import { LineReports, TableSigns } from "../../fields/TableFile";

const ROLE_WORD: Record<OffsetRole, string> = {
  station: "station",
  x: "how far along",
  half: "half-breadth",
  breadth: "whole breadth",
  z: "height",
  ignore: "not used",
};

/** How a table of offsets was understood, and what was noticed in it. */
export function OffsetColumns({
  reading,
  correct,
  separate,
  table,
}: {
  reading: OffsetReading;
  correct: (change: (r: OffsetReading) => void) => void;
  separate: (delimiter: string) => void;
  table: OffsetTable;
}) {
  const of = (severity: string) => table.reports.filter((r) => r.severity === severity);
  return (
    <>
      <div className="flex flex-wrap gap-3">
        <TableSigns
          reading={reading}
          onDelimiter={separate}
          onDecimal={(decimal) => correct((r) => void (r.decimal = decimal))}
        />
        <label>
          how far along counts{" "}
          <select
            className="box w-auto!"
            aria-label="How far along counts"
            value={reading.x}
            onChange={(e) => correct((r) => void (r.x = e.target.value as OffsetReading["x"]))}
          >
            <option value="aft">aft from the bow</option>
            <option value="forward">forward from the stern</option>
          </select>
        </label>
      </div>
      <div className="wide">
        <table className="rows whitespace-nowrap">
          <thead>
            <tr>
              {reading.columns.map((c, k) => (
                <th key={`${c.header}${k}`} className="text-left! align-top">
                  <span className="block">{c.header}</span>
                  <select
                    className="box block w-auto!"
                    aria-label={`Column ${c.header} is`}
                    value={c.role}
                    onChange={(e) =>
                      correct((r) => void (r.columns[k] && (r.columns[k].role = e.target.value as OffsetRole)))
                    }
                  >
                    {OFFSET_ROLES.map((r) => (
                      <option key={r} value={r}>
                        {ROLE_WORD[r]}
                      </option>
                    ))}
                  </select>
                  {c.role !== "station" && c.role !== "ignore" && (
                    <UnitSelect
                      label={`Unit of ${c.header}`}
                      value={c.unit}
                      onChange={(unit) =>
                        // A table is in one unit: the columns for which none is named take the same.
                        correct((r) => {
                          for (const [i, o] of r.columns.entries()) if (i === k || o.unit === "") o.unit = unit;
                        })
                      }
                    />
                  )}
                </th>
              ))}
            </tr>
          </thead>
        </table>
      </div>
      <p>
        <b className="num">{table.cuts.length}</b> stations, <b className="num">{table.points}</b> points;{" "}
        {of("error").length} refused, {of("warning").length} doubtful.
      </p>
      <LineReports list={of("error")} tone="stop" />
      <LineReports list={of("warning")} tone="care" />
    </>
  );
}

function UnitSelect({ label, value, onChange }: { label: string; value: string; onChange: (unit: string) => void }) {
  return (
    <select className="box w-auto!" aria-label={label} value={value} onChange={(e) => onChange(e.target.value)}>
      {value === "" && <option value="">unit?</option>}
      {offsetUnits().map((u) => (
        <option key={u}>{u}</option>
      ))}
    </select>
  );
}

const axisWord = (a: AxisOfFile) => (a.startsWith("-") ? `−${a.slice(1)}` : `+${a}`);
/** What a mesh does not say of itself: its unit, and how it stands. */
export function MeshStanding({ stands, onChange }: { stands: MeshStands; onChange: (next: MeshStands) => void }) {
  const axis = (label: string, key: "nose" | "up") => (
    <label>
      {label}{" "}
      <select
        className="box w-auto!"
        aria-label={label}
        value={stands[key]}
        onChange={(e) => onChange({ ...stands, [key]: e.target.value as AxisOfFile })}
      >
        {AXES.map((a) => (
          <option key={a} value={a}>
            {axisWord(a)} of the file
          </option>
        ))}
      </select>
    </label>
  );
  return (
    <div className="flex flex-wrap gap-3">
      <span>
        its numbers are in{" "}
        <UnitSelect label="Unit of the mesh" value={stands.unit} onChange={(unit) => onChange({ ...stands, unit })} />
      </span>
      {axis("its nose points to", "nose")}
      {axis("up is", "up")}
    </div>
  );
}
