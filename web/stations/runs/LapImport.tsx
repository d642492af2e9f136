import { useMutation } from "@tanstack/react-query";
import { useMemo, useState } from "react";
import { toast } from "sonner";
import { contracts } from "../../../api/contracts";
import { STAGES } from "../../../core/design/craftFile";
import { METRICS } from "../../../core/design/metrics";
import type { LapReading, LapTable } from "../../../core/runs/lapTable";
import { type LapRole, LAP_ROLES, guessLaps, lapUnits, readLaps } from "../../../core/runs/lapTable";
import { metricName } from "../../../core/wording/ladder";
import { Dialog } from "../../app/Dialog";
import { call, sayError } from "../../app/client";
import { useDesk } from "../../app/desk";
import { LineReports, TableFile, TableSigns, useTable } from "../../fields/TableFile";
import { blankRun } from "./blankRun";

const ROLE_WORD: Record<LapRole, string> = {
  label: "lap",
  version: "version",
  metric: "measured",
  wind: "wind",
  pack: "pack",
  startVoltage: "pack at start",
  pilot: "pilot",
  remark: "remark",
  ignore: "not used",
};
const QUANTITIES = Object.keys(METRICS).filter((k) =>
  ["energyUsed", "charge", "lapTime", "distance", "speed", "noseAngle", "liftOffSpeed", "motorTemperature"].includes(k),
);

/** Laps of one course from a file: what was understood, what is refused and why; then one run for each version. */
export function LapImport({ onClose, onDone }: { onClose: () => void; onDone: (course: string) => void }) {
  const { file, slug, version, state, flush, refresh } = useDesk();
  const { text, reading, take: takeText, separate, correct } = useTable(guessLaps);
  const [course, setCourse] = useState("");
  const [stage, setStage] = useState(5);
  const [read, setRead] = useState(false);
  const [which, setWhich] = useState<Record<string, string>>({});
  const table = useMemo(() => readLaps(text, reading), [text, reading]);
  const labels = file.versions.map((v) => v.label);
  const labelFor = (name: string, k: number) =>
    which[name] ?? (labels.includes(name) ? name : labels.at(-table.versions.length + k)) ?? version.label;
  const problems = table.reports.filter((r) => r.severity === "error");
  const warned = table.reports.filter((r) => r.severity === "warning");
  const chosen = table.versions.map(labelFor);
  const missing =
    table.laps.length === 0
      ? "no lap could be read"
      : course.trim() === ""
        ? "name the course"
        : new Set(chosen).size !== chosen.length
          ? "each version of the list is another version of the craft"
          : stage > 1 && !read
            ? "read the cautions of this craft first"
            : null;
  const take = useMutation({
    mutationFn: async () => {
      await flush();
      const runs = table.versions.map((name, k) => {
        const label = labelFor(name, k);
        const about = file.versions.find((v) => v.label === label)?.design.states.find((s) => s.id === state.id);
        const blank = blankRun({
          ...(about ? { state: about.id } : {}),
          stage,
          purpose: `Laps of ${course.trim()}`,
          cautionsRead: read,
          course: course.trim(),
          goneOn: "laps driven already, read from a file",
          laps: table.laps.filter((l) => l.version === name).map(({ version: _v, line: _l, ...lap }) => lap),
        });
        // The laps say nothing of what the rung asks: it is not passed by them.
        return { version: label, run: { ...blank, outcome: "partly" as const } };
      });
      // All versions of the list at once, or none.
      await call(contracts.createRuns, { params: { slug }, body: { runs } });
    },
    onSuccess: async () => {
      await refresh();
      toast.success(`${table.laps.length} laps of ${course.trim()} are in the log.`);
      onDone(course.trim());
    },
    onError: (e) => toast.error(sayError(e)),
  });
  return (
    <Dialog open title="Laps from a file" onClose={onClose} wide>
      <div className="flex max-h-[74vh] flex-col gap-3 overflow-y-auto text-[12px]">
        <TableFile label="Lap file" what="a list of laps" mostBytes={4_000_000} onText={takeText} />
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
              <LapFile reading={reading} correct={correct} />
            </div>
            <p>
              <b className="num">{table.laps.length}</b> laps, {problems.length} refused, {warned.length} doubtful.
            </p>
            <LineReports list={problems} tone="stop" />
            <LineReports list={warned} tone="care" />
            <LapAbout
              course={course}
              setCourse={setCourse}
              table={table}
              labelFor={labelFor}
              setWhich={setWhich}
              which={which}
              stage={stage}
              setStage={setStage}
            />
            <label className="flex items-center gap-2">
              <input type="checkbox" checked={read} onChange={(e) => setRead(e.target.checked)} /> The cautions of this
              craft were read before these runs
            </label>
          </>
        )}
        <p className="flex items-center gap-4">
          <button
            type="button"
            className="act act-first"
            disabled={missing !== null || take.isPending}
            onClick={() => take.mutate()}
          >
            Take {table.laps.length} laps
          </button>
          <button type="button" className="link" onClick={onClose}>
            leave it
          </button>
          {text !== "" && missing && <span className="text-pencil">Not yet: {missing}.</span>}
        </p>
      </div>
    </Dialog>
  );
}

/** What the laps were: course, rung, place. */
function LapAbout({
  course,
  setCourse,
  table,
  labelFor,
  setWhich,
  which,
  stage,
  setStage,
}: {
  course: string;
  setCourse: (next: string) => void;
  table: LapTable;
  labelFor: (name: string, k: number) => string;
  setWhich: (next: Record<string, string>) => void;
  which: Record<string, string>;
  stage: number;
  setStage: (next: number) => void;
}) {
  const { file } = useDesk();

  return (
    <div className="flex flex-wrap items-end gap-3">
      <label className="w-48">
        Course
        <input
          className="box"
          aria-label="Course"
          value={course}
          maxLength={200}
          placeholder="three buoys off the pier"
          onChange={(e) => setCourse(e.target.value)}
        />
      </label>
      {table.versions.map((name, k) => (
        <label key={name} className="w-40">
          {name === "" ? "All laps" : `“${name}”`} is
          <select
            className="box"
            aria-label={`Version ${name} is`}
            value={labelFor(name, k)}
            onChange={(e) => setWhich({ ...which, [name]: e.target.value })}
          >
            {file.versions.map((v) => (
              <option key={v.label} value={v.label}>
                {v.label}
                {v.frozenAt === null ? ", draft: this freezes it" : ""}
              </option>
            ))}
          </select>
        </label>
      ))}
      <label className="w-40">
        Rung
        <select
          className="box"
          aria-label="Rung of the laps"
          value={stage}
          onChange={(e) => setStage(Number(e.target.value))}
        >
          {STAGES.map((s, i) => (
            <option key={s} value={i + 1}>
              {i + 1} {s}
            </option>
          ))}
        </select>
      </label>
    </div>
  );
}

/** The file as it was read. */
function LapFile({ reading, correct }: { reading: LapReading; correct: (change: (r: LapReading) => void) => void }) {
  return (
    <table className="rows whitespace-nowrap">
      <thead>
        <tr>
          {reading.columns.map((c, k) => (
            <th key={`${c.header}${k}`} className="text-left! align-top">
              <span className="block">{c.header}</span>
              <select
                className="box block w-auto! min-w-full [field-sizing:content]"
                aria-label={`Lap column ${c.header} is`}
                value={c.role === "metric" ? `metric:${c.metric}` : c.role}
                onChange={(e) => {
                  const metric = e.target.value.startsWith("metric:") ? e.target.value.slice(7) : "";
                  const role = metric === "" ? (e.target.value as LapRole) : "metric";
                  const units = lapUnits({ role, metric });
                  correct(
                    (r) =>
                      void (
                        r.columns[k] &&
                        Object.assign(r.columns[k], {
                          role,
                          metric,
                          unit: units.includes(c.unit) ? c.unit : (units[0] ?? ""),
                        })
                      ),
                  );
                }}
              >
                {LAP_ROLES.filter((r) => r !== "metric").map((r) => (
                  <option key={r} value={r}>
                    {ROLE_WORD[r]}
                  </option>
                ))}
                {[...new Set([...QUANTITIES, ...(c.role === "metric" ? [c.metric] : []), c.header])].map((m) => (
                  <option key={m} value={`metric:${m}`}>
                    {metricName(m)}
                  </option>
                ))}
              </select>
              {lapUnits(c).length > 0 && (
                <select
                  className="box block"
                  aria-label={`Unit of ${c.header}`}
                  value={c.unit}
                  onChange={(e) => correct((r) => void (r.columns[k] && (r.columns[k].unit = e.target.value)))}
                >
                  {lapUnits(c).map((u) => (
                    <option key={u}>{u}</option>
                  ))}
                </select>
              )}
            </th>
          ))}
        </tr>
      </thead>
    </table>
  );
}
