import { type ClipboardEvent, type FormEvent, useState } from "react";
import { toast } from "sonner";
import { curveFromSweep } from "../../../../core/bench/measuredFrom";
import type { Unit } from "../../../../core/design/schema";
import type { UnitHabit } from "../../../../core/design/units";
import { openCircuit } from "../../../../core/subjects/energy/battery";
import {
  type MeasuredPropulsor,
  PUSHED_ON,
  type PushedOn,
  measuredSchema,
} from "../../../../core/subjects/propulsion/measured/declares";
import {
  type AboutCurve,
  CURVE_COLUMNS,
  type RowProblem,
  SCALE_UNITS,
  type ScaleUnit,
  blockOf,
  readCurveRows,
} from "../../../../core/subjects/propulsion/measured/rows";
import { waterTemperature } from "../../../../core/subjects/propulsion/setup";
import { water } from "../../../../core/subjects/water/water";
import { plain, show } from "../../../../core/wording/format";
import { useDesk } from "../../../app/desk";
import { usePreferences } from "../../../app/preferences";
import { Group, Line } from "../../../fields/FormParts";
import { QuantityField } from "../../../fields/QuantityField";
import { editable } from "../../../fields/readField";
import { TextField } from "../../../fields/TextField";

const BLANK_ROWS = 3;
const blank = () => CURVE_COLUMNS.map(() => "");

/** The rows of a curve as they are typed: in the scale's unit where it is newtons already, else as plain numbers. */
const rowsOf = (m: MeasuredPropulsor | null, habit: UnitHabit): string[][] =>
  m
    ? [
        ...m.readings.map((r) =>
          CURVE_COLUMNS.map(({ key, dimension }) => {
            const value = r[key];
            return value === null ? "" : editable(value, dimension, key === "force" ? "metric" : habit);
          }),
        ),
        blank(),
      ]
    : Array.from({ length: BLANK_ROWS }, blank);

/** What a drive pushes on, where that follows from where it works; null: it must be said. */
const follows = (unit: Unit, sea: boolean): PushedOn | null =>
  unit.surroundings === "in water"
    ? sea
      ? "sea water"
      : "fresh water"
    : unit.surroundings === "in air"
      ? "air"
      : null;

/** A drive of any principle: what it pushed at which command, and what else was read. A draft until it is taken. */
export function MeasuredForm({
  unit,
  drive,
  onDone,
}: {
  unit: Unit;
  drive: (mutate: (u: Unit) => void) => void;
  onDone: () => void;
}) {
  const { design, evaluation, frozen } = useDesk();
  const { habit } = usePreferences();
  const { environment } = design.brief;
  const [about, setAbout] = useState<AboutCurve>(
    () =>
      unit.measured ?? {
        principle: "",
        on: follows(unit, environment.water === "sea"),
        asBuilt: false,
        // Of several like units it must be said how many were on the scale.
        together: unit.count === 1 ? 1 : null,
        restVoltage: null,
        scale: 0.02,
        density: null,
        session: null,
      },
  );
  const [scale, setScale] = useState<ScaleUnit>(unit.measured ? "N" : "g");
  const [rows, setRows] = useState(() => rowsOf(unit.measured, habit));
  const [problems, setProblems] = useState<RowProblem[]>([]);
  const put = (change: Partial<AboutCurve>) => setAbout({ ...about, ...change });
  const densityNow = (on: PushedOn | null): number | null =>
    on === "air"
      ? (evaluation.metrics.airDensity?.value ?? null)
      : on === null || on === "the ground"
        ? null
        : water(waterTemperature(environment), on === "sea water" ? "sea" : "fresh").density;
  const take = (event: FormEvent) => {
    event.preventDefault();
    const same = unit.measured?.on === about.on;
    const density =
      about.density !== null && (same || (about.session !== null && about.on === "air"))
        ? about.density
        : densityNow(about.on);
    const read = readCurveRows(rows, { ...about, density }, scale, habit);
    if (!read.ok) {
      setProblems(read.problems);
      const first = read.problems[0];
      document.getElementById(`curve-${first?.row}-${first?.column}`)?.focus();
      return;
    }
    setProblems([]);
    drive((u) => void (u.measured = read.measured));
    setRows(rowsOf(read.measured, habit));
    setScale("N");
    if (!frozen) toast.success(`${unit.name} counts as it was measured.`);
    onDone();
  };
  const whole = problems.filter((p) => p.row < 0);
  return (
    <form
      onSubmit={take}
      aria-label="Measured curve"
      className="col-span-full grid grid-cols-2 content-start gap-x-6 gap-y-4 max-[1000px]:grid-cols-1"
    >
      <WhatWasMeasured put={put} setRows={setRows} setScale={setScale} setProblems={setProblems} about={about} />
      <HowMeasured unit={unit} about={about} put={put} />
      <p className="col-span-full -mb-3 text-pencil">
        <b className="text-ink">Readings, standing still, lowest command first</b>: three or more; what was not read
        stays empty; a block can be pasted
      </p>
      <div className="wide col-span-full">
        <CurveReadings
          rows={rows}
          setRows={setRows}
          setProblems={setProblems}
          problems={problems}
          scale={scale}
          setScale={setScale}
        />
      </div>
      {whole.map((p) => (
        <p key={p.message} role="alert" className="col-span-full text-stop">
          {p.message}
        </p>
      ))}
      <p className="col-span-full flex items-center gap-3">
        <button type="submit" className="act act-first">
          {unit.measured ? "Use these readings" : "Use this curve"}
        </button>
        {!unit.measured && (
          <button type="button" className="link" onClick={onDone}>
            not now
          </button>
        )}
      </p>
    </form>
  );
}

/** How the readings were taken, and how well. */
function HowMeasured({
  unit,
  about,
  put,
}: {
  unit: Unit;
  about: AboutCurve;
  put: (change: Partial<AboutCurve>) => void;
}) {
  const { design } = useDesk();
  const { habit } = usePreferences();
  const battery = design.batteries.find((b) => b.id === unit.batteryId);
  const full = battery ? openCircuit(battery.chemistry, battery.startCharge) * battery.series : null;
  return (
    <Group title="How">
      <Line label="Read together" hint="units on the scale at once; force and current of all of them">
        <QuantityField
          boxed
          label="Read together"
          value={about.together}
          dimension="count"
          empty="not said"
          schema={measuredSchema.shape.together}
          onCommit={(v) => put({ together: v })}
        />
      </Line>
      <Line label="Pack at rest" hint="volts before it ran: without them nothing is said of another charge or pack">
        <QuantityField
          boxed
          label="Pack at rest"
          value={about.restVoltage}
          dimension="voltage"
          empty="not noted"
          onCommit={(v) => put({ restVoltage: v !== null && v > 0 ? v : null })}
        />
        {full !== null && (
          <button type="button" className="link" onClick={() => put({ restVoltage: full })}>
            as this pack is at a start, {plain(full, "voltage", habit)}
          </button>
        )}
      </Line>
      <Line label="Scale off by" hint="±, as a share of the force">
        <QuantityField
          boxed
          label="Scale off by"
          value={about.scale}
          dimension="percent"
          schema={measuredSchema.shape.scale}
          onCommit={(v) => v !== null && put({ scale: v })}
        />
      </Line>
    </Group>
  );
}

/** What it is, and in what air or water it was weighed. */
function WhatWasMeasured({
  put,
  setRows,
  setScale,
  setProblems,
  about,
}: {
  put: (change: Partial<AboutCurve>) => void;
  setRows: (next: string[][]) => void;
  setScale: (next: "kg" | "N" | "ozf" | "g") => void;
  setProblems: (next: RowProblem[]) => void;
  about: AboutCurve;
}) {
  const { file } = useDesk();
  const { habit } = usePreferences();
  const sweeps = file.bench.flatMap((b) => {
    const curve = b.thrust ? curveFromSweep(b, file.bench) : null;
    return curve ? [{ name: `B-${String(b.number).padStart(2, "0")}, ${b.date.slice(0, 10)}`, curve }] : [];
  });
  const fromStand = (curve: MeasuredPropulsor) => {
    // What it is and how it stood is said by whoever stood there.
    const { readings: _, principle: _p, on: _on, ...stand } = curve;
    put(stand);
    setRows(rowsOf(curve, habit));
    setScale("N");
    setProblems([]);
  };
  return (
    <Group title="What was measured">
      <Line label="What it is">
        <TextField
          boxed
          label="What it is"
          value={about.principle}
          placeholder="screw drum, boxed fan, paddle wheel …"
          onCommit={(v) => put({ principle: v })}
        />
      </Line>
      <Line label="It pushed on">
        <select
          className="box"
          aria-label="It pushed on"
          value={about.on ?? ""}
          onChange={(e) => put({ on: e.target.value === "" ? null : (e.target.value as PushedOn) })}
        >
          <option value="">not said</option>
          {PUSHED_ON.map((p) => (
            <option key={p}>{p}</option>
          ))}
        </select>
      </Line>
      <label className="flex min-h-6 items-center gap-2">
        <input type="checkbox" checked={about.asBuilt} onChange={(e) => put({ asBuilt: e.target.checked })} />
        as it is built in: lid, box, duct and neighbours in place
      </label>
      {sweeps.map(({ name, curve }) => (
        <button key={name} type="button" className="link self-start" onClick={() => fromStand(curve)}>
          readings of the sweep {name}
        </button>
      ))}
    </Group>
  );
}

/** The readings, one command to a row. */
function CurveReadings({
  rows,
  setRows,
  setProblems,
  problems,
  scale,
  setScale,
}: {
  rows: string[][];
  setRows: (next: string[][]) => void;
  setProblems: (next: RowProblem[]) => void;
  problems: RowProblem[];
  scale: "kg" | "N" | "ozf" | "g";
  setScale: (next: "kg" | "N" | "ozf" | "g") => void;
}) {
  const { habit } = usePreferences();
  const type = (row: number, column: number, text: string) => {
    const next = rows.map((r, k) => (k === row ? r.with(column, text) : r));
    setRows(row === rows.length - 1 && text !== "" ? [...next, blank()] : next);
    setProblems(problems.filter((p) => p.row !== row && p.row >= 0));
  };
  const paste = (event: ClipboardEvent, row: number, column: number) => {
    const block = blockOf(event.clipboardData.getData("text"));
    if (block.length < 2 && (block[0]?.length ?? 0) < 2) return;
    event.preventDefault();
    const next = rows.map((r) => [...r]);
    for (const [k, cells] of block.entries()) {
      while (next.length <= row + k) next.push(blank());
      const into = next[row + k] as string[];
      for (const [j, cell] of cells.entries()) if (column + j < CURVE_COLUMNS.length) into[column + j] = cell;
    }
    setRows(next.at(-1)?.some((c) => c !== "") ? [...next, blank()] : next);
    setProblems([]);
  };
  return (
    <table className="rows w-full" aria-label="Readings">
      <thead>
        <tr>
          {CURVE_COLUMNS.map((c) => (
            <th key={c.key}>
              {c.key === "force" ? (
                <span className="flex items-center gap-1">
                  Force in
                  <select
                    className="box w-16!"
                    aria-label="Force in"
                    value={scale}
                    onChange={(e) => setScale(e.target.value as ScaleUnit)}
                  >
                    {SCALE_UNITS.map((u) => (
                      <option key={u}>{u}</option>
                    ))}
                  </select>
                </span>
              ) : (
                `${c.label}, ${show(0, null, c.dimension, habit).unit}`
              )}
            </th>
          ))}
        </tr>
      </thead>
      <tbody>
        {rows.map((cells, row) => {
          const own = problems.filter((p) => p.row === row);
          return (
            <tr key={row} data-reading={row + 1}>
              {CURVE_COLUMNS.map((c, column) => {
                const problem = own.find((p) => p.column === c.key);
                return (
                  <td key={c.key}>
                    <input
                      id={`curve-${row}-${c.key}`}
                      className="box num"
                      inputMode="decimal"
                      aria-label={`${c.label}, reading ${row + 1}`}
                      aria-invalid={problem !== undefined}
                      value={cells[column] ?? ""}
                      onChange={(e) => type(row, column, e.target.value)}
                      onPaste={(e) => paste(e, row, column)}
                    />
                    {problem && (
                      <span role="alert" className="block text-[11px] text-stop">
                        {problem.message}
                      </span>
                    )}
                  </td>
                );
              })}
            </tr>
          );
        })}
      </tbody>
    </table>
  );
}
