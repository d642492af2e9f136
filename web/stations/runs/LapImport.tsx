import { useMutation } from "@tanstack/react-query";
import { useMemo, useState } from "react";
import { toast } from "sonner";
import { type NewRun, contracts } from "../../../api/contracts";
import { STAGES } from "../../../core/design/craftFile";
import { METRICS } from "../../../core/design/metrics";
import { type LapReading, type LapRole, LAP_ROLES, guessLaps, readLaps } from "../../../core/runs/lapTable";
import { Dialog } from "../../app/Dialog";
import { call, sayError } from "../../app/client";
import { useDesk } from "../../app/desk";
import { metricLabel } from "./Runs";

const MOST_BYTES = 4_000_000;
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
const QUANTITIES = Object.keys(METRICS).filter((k) => ["energyUsed", "charge", "lapTime", "distance", "speed", "noseAngle", "liftOffSpeed", "motorTemperature"].includes(k));

/** Laps of one course from a file: what was understood, what is refused and why; then one run for each version. */
export function LapImport({ onClose, onDone }: { onClose: () => void; onDone: (course: string) => void }) {
  const { file, slug, version, flush, refresh } = useDesk();
  const [text, setText] = useState("");
  const [corrected, setCorrected] = useState<LapReading | null>(null);
  const [course, setCourse] = useState("");
  const [stage, setStage] = useState(5);
  const [read, setRead] = useState(false);
  const [which, setWhich] = useState<Record<string, string>>({});
  const reading = useMemo(() => corrected ?? guessLaps(text), [corrected, text]);
  const table = useMemo(() => readLaps(text, reading), [text, reading]);
  const labels = file.versions.map((v) => v.label);
  const labelFor = (name: string, k: number) => which[name] ?? (labels.includes(name) ? name : labels.at(-table.versions.length + k)) ?? version.label;
  const correct = (change: (r: LapReading) => void) => {
    const next = structuredClone(reading);
    change(next);
    setCorrected(next);
  };
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
      for (const [k, name] of table.versions.entries()) {
        const laps = table.laps.filter((l) => l.version === name).map(({ version: _v, line: _l, ...lap }) => lap);
        const body: NewRun = {
          date: new Date().toISOString(),
          stage,
          purpose: `Laps of ${course.trim()}`,
          place: "",
          pilot: "",
          conditions: { airTemperature: null, wind: null, surface: "" },
          pack: { name: "", restingVoltage: null, endVoltage: null, temperature: null },
          outcome: "passed",
          cautionsRead: true,
          notes: "",
          course: course.trim(),
          laps,
          measured: [],
        };
        await call(contracts.createRun, { params: { slug, label: labelFor(name, k) }, body });
      }
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
        <label>
          A CSV or text file
          <input
            type="file"
            accept=".csv,.tsv,.txt,text/*"
            className="block"
            aria-label="Lap file"
            onChange={async (e) => {
              const chosenFile = e.target.files?.[0];
              if (!chosenFile) return;
              if (chosenFile.size > MOST_BYTES) return void toast.error(`${chosenFile.name} is larger than 4 MB: a list of laps is not.`);
              setText(await chosenFile.text());
              setCorrected(null);
            }}
          />
        </label>
        {text !== "" && (
          <>
            <div className="wide">
              <table className="rows whitespace-nowrap">
                <thead>
                  <tr>
                    {reading.columns.map((c, k) => (
                      <th key={`${c.header}${k}`} className="text-left! align-top">
                        <span className="block">{c.header}</span>
                        <select
                          className="box block"
                          aria-label={`Lap column ${c.header} is`}
                          value={c.role === "metric" ? `metric:${c.metric}` : c.role}
                          onChange={(e) => {
                            const [role = "ignore", metric = c.header] = e.target.value.split(":");
                            correct((r) => void (r.columns[k] && Object.assign(r.columns[k], { role: role as LapRole, metric: role === "metric" ? metric : "" })));
                          }}
                        >
                          {LAP_ROLES.filter((r) => r !== "metric").map((r) => (
                            <option key={r} value={r}>
                              {ROLE_WORD[r]}
                            </option>
                          ))}
                          {[...new Set([...QUANTITIES, ...(c.role === "metric" ? [c.metric] : []), c.header])].map((m) => (
                            <option key={m} value={`metric:${m}`}>
                              {metricLabel(m)}
                            </option>
                          ))}
                        </select>
                      </th>
                    ))}
                  </tr>
                </thead>
              </table>
            </div>
            <p>
              <b className="num">{table.laps.length}</b> laps, {problems.length} refused, {warned.length} doubtful.
            </p>
            {problems.length > 0 && (
              <ul role="alert" className="text-stop">
                {problems.slice(0, 15).map((r) => (
                  <li key={r.line}>
                    Line {r.line}: {r.text}
                  </li>
                ))}
              </ul>
            )}
            {warned.length > 0 && (
              <ul className="text-care">
                {warned.slice(0, 15).map((r) => (
                  <li key={r.line}>
                    Line {r.line}: {r.text}
                  </li>
                ))}
              </ul>
            )}
            <div className="flex flex-wrap items-end gap-3">
              <label className="w-48">
                Course
                <input className="box" aria-label="Course" value={course} maxLength={200} placeholder="three buoys off the pier" onChange={(e) => setCourse(e.target.value)} />
              </label>
              {table.versions.map((name, k) => (
                <label key={name} className="w-40">
                  {name === "" ? "All laps" : `“${name}”`} is
                  <select className="box" aria-label={`Version ${name} is`} value={labelFor(name, k)} onChange={(e) => setWhich({ ...which, [name]: e.target.value })}>
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
                <select className="box" aria-label="Rung of the laps" value={stage} onChange={(e) => setStage(Number(e.target.value))}>
                  {STAGES.map((s, i) => (
                    <option key={s} value={i + 1}>
                      {i + 1} {s}
                    </option>
                  ))}
                </select>
              </label>
            </div>
            <label className="flex items-center gap-2">
              <input type="checkbox" checked={read} onChange={(e) => setRead(e.target.checked)} /> The cautions of this craft were read before these runs
            </label>
          </>
        )}
        <p className="flex items-center gap-4">
          <button type="button" className="act act-first" disabled={missing !== null || take.isPending} onClick={() => take.mutate()}>
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
