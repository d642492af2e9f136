import { useMemo, useState } from "react";
import { PLAIN } from "../../../../core/bench/calibration";
import { readSweep } from "../../../../core/bench/sweep";
import type { SweepReading } from "../../../../core/bench/sweepTable";
import {
  type SweepRole,
  type SweepTable,
  SWEEP_ROLES,
  SWEEP_UNITS,
  guessSweep,
  readSweepTable,
} from "../../../../core/bench/sweepTable";
import type { Rig } from "../../../../core/design/thrustTest";
import { plain } from "../../../../core/wording/format";
import { Dialog } from "../../../app/Dialog";
import { usePreferences } from "../../../app/preferences";
import { LineReports, TableFile, TableSigns, useTable } from "../../../fields/TableFile";

const ROLE_WORD: Record<SweepRole, string> = {
  t: "time",
  throttle: "throttle",
  scale: "scale",
  voltage: "voltage",
  current: "current",
  rpm: "rpm",
  temperature: "temperature",
  noise: "noise",
  out: "left out",
  ignore: "not used",
};
const PREVIEW = 8;

interface Props {
  /** Propeller of the drive on the stand, m. */
  diameter: number | null;
  rig: Rig;
  onClose: () => void;
  /** `withStand`: take over what the comment lines say of arms, tare and air too */
  onTake: (table: SweepTable, withStand: boolean) => void;
}

/**
 * A sweep from a file: what was understood, what is refused and why, what a person may correct; then into the
 * session.
 */
export function SweepImport({ diameter, rig, onClose, onTake }: Props) {
  const { habit } = usePreferences();
  const { text, reading, take, separate, correct } = useTable(guessSweep);
  const [withStand, setWithStand] = useState(true);
  const table = useMemo(() => readSweepTable(text, reading), [text, reading]);
  const { hints } = table;
  // Readings far off are named by their line here, and left out of every fit until a person says otherwise.
  const spikes = useMemo(() => {
    if (!withStand && table.readings.length === 0) return [];
    const stand: Rig =
      hints.thrustArm !== null && hints.scaleArm !== null
        ? {
            ...rig,
            kind: "lever",
            thrustArm: hints.thrustArm,
            scaleArm: hints.scaleArm,
            tare: hints.tare ?? rig.tare,
            check: null,
          }
        : rig;
    const read = readSweep(
      { rig: stand, air: { temperature: 15, pressure: 101_325 }, readings: table.readings },
      { scale: PLAIN, voltage: PLAIN, current: PLAIN },
      null,
    );
    return read.points.flatMap((p) =>
      p.expected === null
        ? []
        : [{ line: table.readings[p.index]?.line ?? 0, thrust: p.thrust ?? 0, expected: p.expected }],
    );
  }, [table, hints, rig, withStand]);
  const otherPropeller = diameter !== null && hints.diameter !== null && Math.abs(hints.diameter / diameter - 1) > 0.02;
  const said = [
    hints.thrustArm !== null && `thrust arm ${plain(hints.thrustArm, "length", habit)}`,
    hints.scaleArm !== null && `scale arm ${plain(hints.scaleArm, "length", habit)}`,
    hints.tare !== null && `tare ${plain(hints.tare, "mass", habit, 1)}`,
    hints.temperature !== null && `air ${plain(hints.temperature, "temperature", habit, 0)}`,
    hints.density !== null && `${hints.density.toFixed(3)} kg/m³`,
  ].filter((s) => s !== false);
  const problems = table.reports.filter((r) => r.severity !== "info");
  const skipped = table.reports.filter((r) => r.severity === "info");
  const roles = new Set(reading.columns.map((c) => c.role));
  return (
    <Dialog open title="A sweep from a file" onClose={onClose} wide>
      <div className="flex max-h-[74vh] flex-col gap-3 overflow-y-auto text-[12px]">
        <TableFile label="Sweep file" what="a sweep" mostBytes={8_000_000} onText={take} />
        {text !== "" && (
          <>
            <div className="flex flex-wrap gap-3">
              <TableSigns
                reading={reading}
                onDelimiter={separate}
                onDecimal={(decimal) => correct((r) => void (r.decimal = decimal))}
              />
            </div>
            <div className="wide">
              <FileAsRead correct={correct} reading={reading} table={table} />
            </div>
            <p>
              <b className="num">{table.readings.length}</b> readings, {problems.length} refused
              {skipped.length > 0 &&
                `, ${skipped.length} ${skipped.length === 1 ? "line" : "lines"} of notes or nothing passed over`}
              .{" "}
              {!roles.has("throttle") || !roles.has("scale") ? (
                <span className="text-stop">Say which columns are throttle and scale.</span>
              ) : null}
            </p>
            <LineReports list={problems} tone="stop" />
            <LineReports
              list={spikes.map((p) => ({
                line: p.line,
                text:
                  `${plain(p.thrust, "force", habit)} read, ${plain(p.expected, "force", habit)} beside ` +
                  "it: taken, but left out of the fit",
              }))}
              tone="care"
            />
            {otherPropeller && (
              <p className="text-care">
                The file speaks of a propeller of {plain(hints.diameter ?? 0, "length", habit)}; the drive on the stand
                has {plain(diameter ?? 0, "length", habit)}.
              </p>
            )}
            <LineReports list={skipped} tone="pencil" most={5} />
            {said.length > 0 && (
              <label className="flex items-center gap-2">
                <input type="checkbox" checked={withStand} onChange={(e) => setWithStand(e.target.checked)} />
                Take over what the file says of the stand: {said.join(", ")}
              </label>
            )}
          </>
        )}
        <p className="flex gap-4">
          <button
            type="button"
            className="act act-first"
            disabled={table.readings.length === 0 || !roles.has("throttle") || !roles.has("scale")}
            onClick={() => onTake(table, withStand)}
          >
            Take {table.readings.length} readings
          </button>
          <button type="button" className="link" onClick={onClose}>
            leave it
          </button>
        </p>
      </div>
    </Dialog>
  );
}

/** The file as it was read, column by column. */
function FileAsRead({
  correct,
  reading,
  table,
}: {
  correct: (change: (r: SweepReading) => void) => void;
  reading: SweepReading;
  table: SweepTable;
}) {
  const { habit } = usePreferences();
  const setRole = (k: number, role: SweepRole) =>
    correct((r) => {
      for (const c of r.columns) if (c.role === role && role !== "ignore") c.role = "ignore";
      const column = r.columns[k];
      if (!column) return;
      column.role = role;
      if (role === "ignore" || role === "out") column.unit = "";
      else if (!(column.unit in SWEEP_UNITS[role])) column.unit = Object.keys(SWEEP_UNITS[role])[0] ?? "";
    });
  return (
    <table className="rows whitespace-nowrap">
      <thead>
        <tr>
          {reading.columns.map((c, k) => (
            <th key={`${c.header}${k}`} className="text-left! align-top">
              <span className="block">{c.header}</span>
              <select
                className="box block"
                aria-label={`Column ${c.header} is`}
                value={c.role}
                onChange={(e) => setRole(k, e.target.value as SweepRole)}
              >
                {SWEEP_ROLES.map((r) => (
                  <option key={r} value={r}>
                    {ROLE_WORD[r]}
                  </option>
                ))}
              </select>
              {c.role !== "ignore" && c.role !== "out" && (
                <select
                  className="box"
                  aria-label={`Unit of ${c.header}`}
                  value={c.unit}
                  onChange={(e) => correct((r) => void (r.columns[k] && (r.columns[k].unit = e.target.value)))}
                >
                  {Object.keys(SWEEP_UNITS[c.role]).map((u) => (
                    <option key={u}>{u}</option>
                  ))}
                </select>
              )}
            </th>
          ))}
        </tr>
      </thead>
      <tbody>
        {table.readings.slice(0, PREVIEW).map((r) => (
          <tr key={r.line}>
            {reading.columns.map((c, k) => {
              const v = c.role === "ignore" || c.role === "out" ? null : r[c.role];
              return (
                <td key={`${c.header}${k}`} className="num text-right">
                  {v === null
                    ? "–"
                    : c.role === "throttle"
                      ? `${(v * 100).toFixed(1)} %`
                      : c.role === "scale"
                        ? plain(v, "mass", habit, 1)
                        : v.toFixed(2)}
                </td>
              );
            })}
          </tr>
        ))}
      </tbody>
    </table>
  );
}
