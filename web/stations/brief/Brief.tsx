import { chance } from "../../../core/subjects/say";
import { freeId } from "../../../core/design/ids";
import type { Metric } from "../../../core/design/metrics";
import { METRICS, METRIC_KEYS, type MetricKey, isModelled } from "../../../core/design/metrics";
import type { Target } from "../../../core/design/schema";
import { type TargetResult, undecided } from "../../../core/design/targets";
import { plain } from "../../../core/wording/format";
import { Computed } from "../../app/Computed";
import { wholeTargets } from "../../../core/design/inState";
import { wholeDuty } from "../../../core/mission";
import { useDesk } from "../../app/desk";
import { useEveryState } from "../../app/useEveryState";
import { usePreferences } from "../../app/preferences";
import { EvidenceSelect } from "../../fields/EvidenceSelect";
import { QuantityField } from "../../fields/QuantityField";
import { Aboard } from "./Aboard";
import { Environment } from "./Environment";
import { States } from "./States";
import { MassBar } from "./MassBar";

/** What a brief can ask for: everything computed that a builder would set a limit to. */
const ASKABLE = METRIC_KEYS.filter(
  (k) =>
    isModelled(k) &&
    !["cgY", "cgZ", "inertiaRoll", "inertiaPitch", "inertiaYaw", "airDensity", "torque", "packVoltage"].includes(k),
);

const STATUS: Record<TargetResult["status"], { word: string; colour: string }> = {
  met: { word: "met", colour: "text-clear" },
  missed: { word: "missed", colour: "text-stop" },
  open: { word: "open", colour: "text-pencil" },
};

/** Odds of 100 as a ruled bar. */
function OddsBar({ odds }: { odds: number | null }) {
  if (odds === null) return <span className="text-pencil">open</span>;
  const n = Math.round(odds * 100);
  const colour = n < 20 ? "var(--stop)" : n < 70 ? "var(--care)" : "var(--ink)";
  return (
    <span className="flex items-center gap-2">
      <svg width="72" height="14" viewBox="0 0 72 14" className="shrink-0" aria-hidden="true">
        <path d="M2 7h68" stroke="var(--hair)" />
        {[0, 25, 50, 75, 100].map((t) => (
          <path key={t} d={`M${2 + t * 0.68} 4v6`} stroke="var(--rule)" />
        ))}
        <path d={`M2 7h${n * 0.68}`} stroke={colour} strokeWidth="3" />
        <path d={`M${2 + n * 0.68} 1v12`} stroke={colour} strokeWidth="2" />
      </svg>
      <b className="num whitespace-nowrap" style={{ color: colour }}>
        {/* The head of its column says per cent. */}
        {chance(odds).replace(" %", "")}
      </b>
    </span>
  );
}

/** Of which state a target is asked. */
function AskedOf({
  target,
  whole,
  change,
}: {
  target: Target;
  whole: boolean;
  change: (mutate: (t: Target) => void) => void;
}) {
  const { design } = useDesk();
  return (
    <select
      aria-label={`${METRICS[target.metric].label}: asked of`}
      className="cell text-[11px] text-pencil"
      value={target.stateId ?? ""}
      onChange={(e) =>
        change((t) => {
          if (e.target.value === "") delete t.stateId;
          else t.stateId = e.target.value;
        })
      }
    >
      <option value="">
        {whole ? "the whole duty" : target.metric === "endurance" ? "the whole duty" : "every state"}
      </option>
      {design.states.map((s) => (
        <option key={s.id} value={s.id}>
          {s.name}
        </option>
      ))}
    </select>
  );
}

function TargetRow({ result, whole = false }: { result: TargetResult; whole?: boolean }) {
  const { design, edit, evaluation } = useDesk();
  const { habit } = usePreferences();
  const { target } = result;
  const metric = METRICS[target.metric];
  const change = (mutate: (t: Target) => void) =>
    edit((d) => {
      const found = d.brief.targets.find((t) => t.id === target.id);
      if (found) mutate(found);
    });
  const status = STATUS[result.status];
  return (
    <tr data-target={target.metric}>
      <td className="text-ink">
        {/* A menu shows one line and cuts it: its choice stands over it in words that wrap. */}
        <span
          className={
            "relative block py-[3px] pr-4 has-[select:focus-visible]:outline-2 " +
            "has-[select:focus-visible]:outline-accent"
          }
        >
          <b aria-hidden="true" className="font-semibold">
            {metric.label}
          </b>
          <span aria-hidden="true" className="absolute right-0 text-pencil">
            ▾
          </span>
          <select
            aria-label="What is asked"
            className="absolute inset-0 h-full w-full cursor-pointer opacity-0"
            value={target.metric}
            onChange={(e) =>
              change((t) => {
                t.metric = e.target.value as MetricKey;
              })
            }
          >
            {(ASKABLE.includes(target.metric) ? ASKABLE : [...ASKABLE, target.metric]).map((k) => (
              <option key={k} value={k}>
                {METRICS[k].label}
              </option>
            ))}
          </select>
        </span>
        {design.states.length > 1 && <AskedOf target={target} whole={whole} change={change} />}
      </td>
      <td>
        <select
          aria-label={`${metric.label}: must or wish`}
          className="cell"
          value={target.weight}
          onChange={(e) => change((t) => void (t.weight = e.target.value as Target["weight"]))}
        >
          <option>must</option>
          <option>wish</option>
        </select>
      </td>
      <td>
        <select
          aria-label={`${metric.label}: comparison`}
          className="cell"
          value={target.comparison}
          onChange={(e) =>
            change((t) => {
              t.comparison = e.target.value as Target["comparison"];
              if (t.comparison === "between") t.upper ??= t.value * 1.05 + 0.01;
              else delete t.upper;
            })
          }
        >
          <option value="atMost">at most</option>
          <option value="atLeast">at least</option>
          <option value="between">between</option>
        </select>
      </td>
      <BoundField metric={metric} target={target} change={change} />
      <td className="text-right" data-label="predicted">
        <Computed
          metric={target.metric}
          quantity={whole ? (result.predicted ?? undefined) : evaluation.metrics[target.metric]}
        />
      </td>
      <td
        className={`text-right font-semibold ${undecided(result.odds) ? "text-care" : status.colour}`}
        data-status={result.status}
        data-label="so far"
      >
        <span>
          {undecided(result.odds) ? `likely ${status.word}` : status.word}
          {result.margin !== null && (
            <span className="num block text-[11px] font-normal text-pencil">
              {result.status === "open"
                ? `${plain(result.margin, metric.dimension, habit)} left so far`
                : result.margin >= 0
                  ? `${plain(result.margin, metric.dimension, habit)} spare`
                  : `${plain(-result.margin, metric.dimension, habit)} off`}
            </span>
          )}
          {result.because !== null && (
            <span className="block max-w-44 text-[11px] font-normal text-pencil">{result.because}</span>
          )}
        </span>
      </td>
      <td className="pl-3!" data-label="chance, %">
        <OddsBar odds={result.odds} />
      </td>
      <td>
        <button
          type="button"
          className="link"
          aria-label={`Remove ${metric.label}`}
          onClick={() => edit((d) => void (d.brief.targets = d.brief.targets.filter((t) => t.id !== target.id)))}
        >
          ×
        </button>
      </td>
    </tr>
  );
}

/** The number that is asked for. */
function BoundField({
  metric,
  target,
  change,
}: {
  metric: Metric;
  target: Target;
  change: (mutate: (t: Target) => void) => string | null;
}) {
  return (
    <td>
      <span className="flex items-center gap-1">
        <QuantityField
          boxed
          label={`${metric.label}, wanted`}
          value={target.value}
          dimension={metric.dimension}
          onCommit={(v) => v !== null && change((t) => void (t.value = v))}
        />
        {target.comparison === "between" && (
          <>
            <span>to</span>
            <QuantityField
              boxed
              label={`${metric.label}, wanted up to`}
              value={target.upper ?? null}
              dimension={metric.dimension}
              onCommit={(v) => v !== null && change((t) => void (t.upper = v))}
            />
            <EvidenceSelect
              label={`${metric.label}, limits known by`}
              value={target.evidence ?? "datasheet"}
              onChange={(level) => change((t) => void (t.evidence = level))}
            />
          </>
        )}
      </span>
    </td>
  );
}

const FIRST: [MetricKey, Target["comparison"], number, number?][] = [
  ["auw", "atMost", 1],
  ["thrustToWeight", "atLeast", 1],
  ["endurance", "atLeast", 600],
  ["cgX", "between", 0.2, 0.25],
  ["costToBuy", "atMost", 150],
  ["length", "atMost", 1],
];

export function BriefStation() {
  const { design, state, evaluation, edit } = useDesk();
  const { targets } = design.brief;
  const missing = FIRST.find(([key]) => !targets.some((t) => t.metric === key)) ?? FIRST[0];
  const add = () => {
    if (!missing) return;
    const [metric, comparison, value, upper] = missing;
    edit((d) =>
      d.brief.targets.push({
        id: freeId(targets, "t"),
        metric,
        comparison,
        value,
        ...(upper === undefined ? {} : { upper }),
        weight: "must",
        ...(design.states.length > 1 && metric !== "auw" && metric !== "endurance" ? { stateId: state.id } : {}),
      }),
    );
  };
  const every = useEveryState();
  const ofDuty = wholeDuty(design, every?.found.mission ?? null);
  const elsewhere = targets.length - evaluation.targets.length - wholeTargets(design).length;
  const all = [...evaluation.targets, ...ofDuty].filter((t) => t.target.weight === "must");
  return (
    <div className="flex flex-col">
      <section aria-label="Targets" className="px-4 py-3">
        <h2>What it must do</h2>
        <textarea
          key={design.brief.purpose}
          aria-label="Purpose"
          className="cell mt-1 text-ink"
          rows={2}
          placeholder="One sentence: what it must do, where, and for how long."
          defaultValue={design.brief.purpose}
          onBlur={(e) =>
            e.target.value !== design.brief.purpose && edit((d) => void (d.brief.purpose = e.target.value))
          }
        />
        <States />
        {targets.length === 0 ? (
          <p className="mt-2">
            No targets yet. Begin with the mass that it may have: every other number follows from it.
          </p>
        ) : (
          <div className="wide">
            <table className="rows cards mt-1 w-full">
              <thead>
                <tr>
                  <th className="min-w-[150px]">Target</th>
                  <th className="min-w-[70px] print:min-w-0" />
                  <th className="min-w-[92px] print:min-w-0" />
                  <th className="w-[168px] min-w-[168px] print:min-w-0">wanted</th>
                  <th className="text-right!">predicted</th>
                  <th className="w-[190px] min-w-[126px] print:min-w-0" />
                  <th className="w-[112px] pl-3!">chance, %</th>
                  <th />
                </tr>
              </thead>
              <tbody>
                {evaluation.targets.map((t) => (
                  <TargetRow key={t.target.id} result={t} />
                ))}
                {ofDuty.map((t) => (
                  <TargetRow key={t.target.id} result={t} whole />
                ))}
              </tbody>
            </table>
          </div>
        )}
        <p className="mt-2 flex items-center justify-between">
          <button type="button" className="act" onClick={add}>
            Add a target
          </button>
          {all.length > 0 && (
            <span>
              {all.filter((t) => t.status === "met").length} of {all.length} musts met,{" "}
              {all.filter((t) => t.status === "open").length} open
              {elsewhere > 0 && `; ${elsewhere} asked of another state`}
            </span>
          )}
        </p>
      </section>
      <MassBar />
      <div className="grid grid-cols-2 border-t border-hair max-[640px]:grid-cols-1">
        <div className="border-r border-hair px-4 py-3">
          <Environment />
        </div>
        <div className="px-4 py-3">
          <Schools />
          <Aboard />
        </div>
      </div>
    </div>
  );
}

function Schools() {
  const { design, edit } = useDesk();
  const { schools } = design;
  const choice = <K extends keyof typeof schools>(key: K, label: string, options: (typeof schools)[K][]) => (
    <label className="flex items-center justify-between gap-2">
      {label}
      <select
        className="box max-w-48"
        value={schools[key]}
        onChange={(e) => edit((d) => void (d.schools[key] = e.target.value as (typeof schools)[K]))}
      >
        {options.map((o) => (
          <option key={o}>{o}</option>
        ))}
      </select>
    </label>
  );
  return (
    <section aria-label="How you work">
      <h2>How you work</h2>
      <div className="mt-2 flex flex-col gap-1">
        {choice("balance", "Balance", ["stable", "unstable on purpose"])}
        {choice("changes", "Changes", ["one at a time", "several at once"])}
        {choice("testing", "Testing", ["build, break, learn", "test rig first"])}
      </div>
    </section>
  );
}
