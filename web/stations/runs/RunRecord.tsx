import { toast } from "sonner";
import { type Moment, type Run, isMetricKey } from "../../../core/design/craftFile";
import { METRICS } from "../../../core/design/metrics";
import { resultIn } from "../../../core/evaluate";
import type { Mend } from "../../../core/runs/learnt";
import { markOf } from "../../../core/runs/marks";
import { miss } from "../../../core/runs/miss";
import type { Pattern } from "../../../core/runs/patterns";
import { PATTERN_TEXT } from "../../../core/runs/patterns";
import { flight } from "../../../core/subjects/flight/node";
import { propulsion } from "../../../core/subjects/propulsion/node";
import { supportOf } from "../../../core/design/support";
import { dragAreaFrom, liftCost, waterDragAreaFrom } from "../../../core/subjects/speed/dragArea";
import { plain, show } from "../../../core/wording/format";
import { GATE_WORD, gateText, metricName } from "../../../core/wording/ladder";
import { useDesk } from "../../app/desk";
import { usePreferences } from "../../app/preferences";
import { pictureSource } from "../../fields/keepPicture";
import { Cairn } from "../../glyphs/Cairn";
import { MissBar } from "../../glyphs/MissBar";
import { useLadder } from "./useLadder";
import { OUTCOME, clock, faultName } from "./words";

const bestPlace = (station: string) =>
  station === "layout" || station === "power" ? ("bench" as const) : ("layout" as const);

function MomentLine({ moment, run }: { moment: Moment; run: number }) {
  const { habit } = usePreferences();
  const { go } = useDesk();
  const mark = markOf(moment.mark);
  return (
    <li className="flex flex-wrap items-baseline gap-2 border-b border-hair py-[2px]" data-moment={moment.kind}>
      <span className="num w-12 text-right">{clock(moment.seconds)}</span>
      <span className="text-ink">
        {mark?.word ?? (moment.kind === "mark" ? moment.mark : moment.kind === "words" ? "" : moment.kind)}{" "}
        {moment.text}
        {moment.pack && (
          <span className="num text-pencil">
            {" "}
            {moment.pack.name}
            {moment.pack.resting !== null && `, ${plain(moment.pack.resting, "voltage", habit)} at rest`}
            {moment.pack.loaded !== null && `, ${plain(moment.pack.loaded, "voltage", habit)} loaded`}
          </span>
        )}
      </span>
      {mark && <span className="text-[11px] text-pencil">{mark.sense}</span>}
      {moment.files.map((f) => (
        <a key={f.hash} href={pictureSource(f.hash)} target="_blank" rel="noreferrer">
          <img src={pictureSource(f.hash)} alt={f.name} className="block h-10 border border-hair" />
        </a>
      ))}
      {mark?.symptom && (
        <button
          type="button"
          className="link no-print ml-auto text-[11px]"
          onClick={() =>
            go({
              station: "faults",
              search: { new: String(run), symptom: mark.symptom, seen: `${mark.word} at ${clock(moment.seconds)}` },
            })
          }
        >
          record as a fault
        </button>
      )}
    </li>
  );
}

const GATE_COLOUR = {
  passed: "text-clear",
  failed: "text-stop font-semibold",
  unclear: "text-care",
  "not judged": "text-pencil",
};

const MISS_COLOUR = { agrees: "text-ink2", doubtful: "text-care", disagrees: "text-stop font-semibold" };

/** How it went, and what its gates came to. */
export function OutcomeOf({ run }: { run: Run }) {
  const { file, go } = useDesk();
  const { habit } = usePreferences();
  const { say } = useLadder();
  const faults = file.faults.filter((f) => f.run === run.number);
  const outcome = OUTCOME[run.outcome];
  return (
    <section>
      <h3>Outcome</h3>
      <p className={`text-[15px] font-semibold ${outcome.colour}`}>
        {outcome.word}, rung {run.stage}
      </p>
      {run.gates.length > 0 && (
        <ul aria-label="Gates">
          {run.gates.map((g) => (
            <li key={g.gate.id} data-gate={g.result}>
              {gateText(g.gate, habit)}: <span className={GATE_COLOUR[g.result]}>{GATE_WORD[g.result]}</span>
              {g.value !== null && <span className="num measured"> {plain(g.value, g.gate.dimension, habit)}</span>}
            </li>
          ))}
        </ul>
      )}
      {run.locks.length > 0 && (
        <p className="mt-1 border-l-[3px] border-care pl-2 text-[12px]" data-gone-on>
          Run although {run.locks.map(say).join("; ")}.{" "}
          {run.goneOn ? <>Why: {run.goneOn}</> : <b className="text-stop">No reason given.</b>}
        </p>
      )}
      <p>{run.notes}</p>
      {run.plan !== null && (
        <button
          type="button"
          className="link block"
          onClick={() => go({ station: "runs", search: { plan: String(run.plan) } })}
        >
          Its plan
        </button>
      )}
      {run.crash && (
        <button
          type="button"
          className="link block"
          onClick={() => go({ station: "runs", search: { evidence: String(run.number) } })}
        >
          Evidence of the crash
        </button>
      )}
      {run.laps.length > 0 && (
        <button
          type="button"
          className="link block"
          onClick={() => go({ station: "runs", search: { series: "1", course: run.course } })}
        >
          {run.laps.length} laps of {run.course}
        </button>
      )}
      {faults.map((f) => (
        <button
          key={f.number}
          type="button"
          className="link block"
          onClick={() => go({ station: "faults", search: { fault: String(f.number) } })}
        >
          {faultName(f.number)} {f.title}
        </button>
      ))}
      <button
        type="button"
        className="act no-print mt-2"
        onClick={() => go({ station: "faults", search: { new: String(run.number) } })}
      >
        Record a fault
      </button>
    </section>
  );
}

/** Where and in what air it was. */
export function ConditionsOf({ run }: { run: Run }) {
  const { habit } = usePreferences();
  const condition = (label: string, value: string | null) =>
    value && (
      <tr>
        <td className="w-28">{label}</td>
        <td className="text-ink">{value}</td>
      </tr>
    );
  const volts = (v: number | null) => (v === null ? null : plain(v, "voltage", habit));
  return (
    <section>
      <h3>Conditions</h3>
      <table className="w-full">
        <tbody>
          {condition(
            "Air",
            run.conditions.airTemperature === null ? null : plain(run.conditions.airTemperature, "temperature", habit),
          )}
          {condition("Wind", run.conditions.wind === null ? null : plain(run.conditions.wind, "speed", habit))}
          {condition("Surface", run.conditions.surface)}
          {condition("Pack", run.pack.name)}
          {condition("Pack at rest", volts(run.pack.restingVoltage))}
          {condition("Pack loaded", volts(run.pack.loadedVoltage))}
          {condition("Pack voltage after the run", volts(run.pack.endVoltage))}
          {condition("Pilot", run.pilot)}
        </tbody>
      </table>
    </section>
  );
}

/** What was marked while it ran. */
export function MomentsOf({ run }: { run: Run }) {
  return (
    <section aria-label="Moments" className="mt-3">
      <h3>Moments</h3>
      <ol>
        {run.moments.map((m) => (
          <MomentLine key={m.id} moment={m} run={run.number} />
        ))}
      </ol>
      {run.files.length > 0 && (
        <p className="mt-1 flex flex-wrap gap-2">
          {run.files.map((f) => (
            <a key={f.hash} className="link" href={pictureSource(f.hash)} target="_blank" rel="noreferrer">
              {f.type.startsWith("image/") ? (
                <img src={pictureSource(f.hash)} alt={f.name} className="block h-16 border border-hair" />
              ) : (
                f.name
              )}
            </a>
          ))}
        </p>
      )}
    </section>
  );
}

/** What was measured, beside what was predicted. */
export function MeasuredOf({ run }: { run: Run }) {
  const { habit } = usePreferences();

  return (
    <div className="wide">
      <table className="rows mt-1 w-full">
        <thead>
          <tr>
            <th>measured in the run</th>
            <th className="text-right!">predicted</th>
            <th />
            <th className="text-right!">measured</th>
            <th>by</th>
            <th>miss, in steps of ±</th>
            <th />
          </tr>
        </thead>
        <tbody>
          {run.metrics.map((m) => {
            const p = m.predicted && show(m.predicted.value, m.predicted.sd, m.dimension, habit);
            const r = m.measured && show(m.measured.value, m.measured.sd, m.dimension, habit);
            const missed = m.predicted && m.measured ? miss(m.predicted, m.measured) : null;
            return (
              <tr key={m.metric} data-run-metric={m.metric}>
                <td className="text-ink">{metricName(m.metric)}</td>
                <td className="num predicted whitespace-nowrap text-right">
                  {p ? `${p.value}${p.sd ? ` ± ${p.sd}` : ""} ${p.unit}` : "not predicted"}
                </td>
                <td>{m.predicted && <Cairn level={m.predicted.evidence} />}</td>
                <td className="num measured whitespace-nowrap text-right">
                  {r ? `${r.value}${r.sd ? ` ± ${r.sd}` : ""} ${r.unit}` : "–"}
                </td>
                <td>{m.measured?.by}</td>
                <td>{missed && <MissBar miss={missed} />}</td>
                <td className={missed ? MISS_COLOUR[missed.verdict] : ""}>
                  {missed && (
                    <>
                      <span className="num">
                        {missed.steps > 0 ? "+" : "−"}
                        {Math.abs(missed.steps).toFixed(1)}
                      </span>{" "}
                      {missed.verdict}
                    </>
                  )}
                </td>
              </tr>
            );
          })}
        </tbody>
      </table>
    </div>
  );
}

/** What the run teaches, each with what to do about it. */
export function ToMend({ run, patterns, mend }: { run: Run; patterns: Pattern[]; mend: Mend[] }) {
  const { evaluation, version, edit, go } = useDesk();
  const adoptSpeed = () => {
    const speed = run.metrics.find((m) => m.metric === "speed")?.measured;
    const { metrics } = evaluation;
    const lift = liftCost(resultIn(evaluation, flight));
    const wet = supportOf(version.design).waterDrag;
    const known = !speed
      ? null
      : wet
        ? waterDragAreaFrom(version.design, { throttle: 1 }, speed)
        : dragAreaFrom(version.design, metrics.airDensity?.value ?? 1.225, 1, speed, lift);
    if (!known) {
      toast.error("The drives give too little thrust at that speed: it was not held by them alone.");
      return;
    }
    // On a frozen version this opens a child draft with it.
    edit((d) => {
      const area = { ...known, note: `from run ${run.number}` };
      if (wet) [d.waterDragArea, d.waterDragAt] = [area, speed?.value ?? null];
      else d.dragArea = area;
    });
  };
  return (
    <section aria-label="What to mend" className="mt-2">
      <h3>What the run teaches</h3>
      {patterns.map((p) => (
        <p key={p} data-pattern={p} className="font-semibold text-ink">
          {PATTERN_TEXT[p]}
        </p>
      ))}
      <ul>
        {mend.map((m) => (
          <li key={m.metric} data-mend={m.metric}>
            {metricName(m.metric)} came {m.steps > 0 ? "out above" : "out below"} what was predicted.{" "}
            {m.inputs.length > 0 ? (
              <>
                Its prediction rests most on{" "}
                {m.inputs.map((i) => `${i.name} (± ${Math.round(i.share * 100)} %)`).join(", ")}:{" "}
                <button
                  type="button"
                  className="link"
                  onClick={() => go({ station: isMetricKey(m.metric) ? bestPlace(METRICS[m.metric].page) : "bench" })}
                >
                  measure that first
                </button>
                .
              </>
            ) : m.beyond ? (
              `That is ${Math.abs(m.steps).toFixed(1)} steps of ±: no input explains it.`
            ) : (
              "What it rests on is measured already: look at the method's own error in its working."
            )}
            {m.metric === "speed" && resultIn(evaluation, propulsion) !== null && (
              <button type="button" className="link ml-2" onClick={() => adoptSpeed()}>
                adopt the drag area that this speed tells
              </button>
            )}
          </li>
        ))}
      </ul>
      {version.frozenAt !== null && (
        <p className="text-[11px] text-pencil">
          Better evidence may be added to {version.label} although its design is frozen.
        </p>
      )}
    </section>
  );
}
