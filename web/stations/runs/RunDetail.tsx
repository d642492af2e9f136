import { moved } from "../../../core/safety/checklist";
import { AnglesOf } from "./AnglesField";
import { contracts } from "../../../api/contracts";
import { inState, withDuty } from "../../../core/design/inState";
import type { Run } from "../../../core/design/craftFile";
import type { MetricKey } from "../../../core/design/metrics";
import { resultIn, workingOf } from "../../../core/evaluate";
import { rowsFor } from "../../../core/runs/eachDrive";
import { worthMending } from "../../../core/runs/learnt";
import { loadOfRun } from "../../../core/runs/load";
import { patternsOf } from "../../../core/runs/patterns";
import { type Load, dutyOfLoad } from "../../../core/subjects/energy/load";
import { mass } from "../../../core/subjects/mass/node";
import { plain } from "../../../core/wording/format";
import { call } from "../../app/client";
import { useDesk } from "../../app/desk";
import { usePreferences } from "../../app/preferences";
import { useDelete } from "../../app/useDelete";
import { OddDrives } from "./EachDrive";
import { ConditionsOf, MeasuredOf, MomentsOf, OutcomeOf, ToMend } from "./RunRecord";
import { clock } from "./words";

/** One run as it is on record: conditions, gates, moments, and what was predicted against what came. */
export function RunDetail({ run, onEdit, onGone }: { run: Run; onEdit: () => void; onGone: () => void }) {
  const { slug, file, version, evaluation, edit } = useDesk();
  const { habit } = usePreferences();
  const load = loadOfRun(run);
  const adoptLoad = (found: Load) => {
    const kg = run.metrics.find((m) => m.metric === "auw")?.measured?.value ?? resultIn(evaluation, mass)?.mass ?? null;
    const phase = dutyOfLoad(found, inState(version.design, run.state), kg);
    edit((d) => void (d.duty = withDuty(d, run.state, [phase])));
  };
  const several = version.design.states.length > 1;
  const remove = useDelete();
  const mend = worthMending(run, (metric) => workingOf(version.design, evaluation, metric as MetricKey));
  // Asked of the newest run that went well, and of a craft that has something to trim.
  const newest = file.runs.filter((r) => r.version === run.version && r.outcome === "passed" && r.stage >= 3).at(-1);
  const trimmed = version.design.surfaces.length > 0 || moved(version.design).length > 0;
  const asksAngles = run.number === newest?.number && run.angles.length === 0 && trimmed;
  const patterns = patternsOf(run, version.design);
  return (
    <article aria-label={`Run ${run.number}`}>
      <header className="flex flex-wrap items-baseline gap-x-3 border-b border-ink pb-1">
        <h2 className="text-[18px]">Run {run.number}</h2>
        <b className="text-ink">{run.purpose}</b>
        <span className="text-pencil">
          {run.date.slice(0, 10)}, {run.date.slice(11, 16)}
          {several && `, ${version.design.states.find((s) => s.id === run.state)?.name ?? run.state}`}
          {run.place && `, ${run.place}`}
          {run.seconds !== null && `, lasted ${clock(run.seconds)}`}
        </span>
        <span className="no-print ml-auto flex gap-3">
          <button type="button" className="link" onClick={onEdit}>
            Edit
          </button>
          <button
            type="button"
            className="link"
            onClick={async () => {
              const gone = await remove(
                `Delete run ${run.number} with all that was measured in it?`,
                `Run ${run.number} is deleted.`,
                () => call(contracts.deleteRun, { params: { slug, number: run.number } }),
              );
              if (gone) onGone();
            }}
          >
            Delete
          </button>
        </span>
      </header>
      <div className="mt-2 grid grid-cols-2 gap-6 max-[640px]:grid-cols-[minmax(0,1fr)]">
        <ConditionsOf run={run} />
        <OutcomeOf run={run} />
      </div>
      {(run.moments.length > 0 || run.files.length > 0) && <MomentsOf run={run} />}
      <h3 className="mt-4">Predicted against measured</h3>
      {run.metrics.length === 0 ? (
        <p className="text-pencil">Nothing measured. Weigh it, or read the pack: one number is enough to learn from.</p>
      ) : (
        <MeasuredOf run={run} />
      )}
      {load && (
        <p className="mt-2" data-load={load.by}>
          It drew <b className="num measured">{plain(load.value, load.by, habit)}</b> on the mean.{" "}
          <button type="button" className="link no-print" onClick={() => adoptLoad(load)}>
            Hold the duty by it: measured, it outranks what the drives are computed to draw
          </button>
        </p>
      )}
      {run.perDrive.length > 0 && (
        <section aria-label="Drive by drive" className="mt-2">
          <h3>Drive by drive</h3>
          <table className="rows">
            <tbody>
              {run.perDrive.map((d) => (
                <tr key={`${d.unit} ${d.copy}`}>
                  <td>{d.name}</td>
                  <td className="num text-right">{d.current === null ? "–" : plain(d.current, "current", habit)}</td>
                  <td className="num text-right">{d.rpm === null ? "–" : plain(d.rpm, "rotation", habit)}</td>
                  <td className="num text-right">
                    {d.temperature === null ? "–" : plain(d.temperature, "temperature", habit)}
                  </td>
                </tr>
              ))}
            </tbody>
          </table>
          <OddDrives rows={rowsFor(version.design.units)} readings={run.perDrive} />
        </section>
      )}
      {run.angles.length > 0 && <AnglesOf angles={run.angles} />}
      {asksAngles && (
        <p className="no-print mt-2" data-ask-angles>
          It went well: measure its trims, throws and set angles now, each side by itself, while they are as they flew.{" "}
          <button type="button" className="link" onClick={onEdit}>
            Write them down
          </button>
        </p>
      )}
      {(mend.length > 0 || patterns.length > 0) && <ToMend run={run} patterns={patterns} mend={mend} />}
    </article>
  );
}
