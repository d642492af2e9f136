import { useState } from "react";
import {
  DIMENSIONS,
  type Gate,
  type Ladder,
  type Rung,
  STAGES,
  isMetricKey,
  ladderSchema,
} from "../../../core/design/craftFile";
import { METRICS, METRIC_KEYS } from "../../../core/design/metrics";
import { waysOf } from "../../../core/design/support";
import { DISPLAY } from "../../../core/design/units";
import { usualLadder } from "../../../core/runs/ladders";
import { metricName } from "../../../core/wording/ladder";
import { HalfLine } from "../../app/HalfLine";
import { useDesk } from "../../app/desk";
import { useHalfState } from "../../app/halfWritten";
import { usePreferences } from "../../app/preferences";
import { useVersionWords } from "../../app/useVersionWords";
import { Lines } from "../../fields/Lines";
import { QuantityField } from "../../fields/QuantityField";
import { newKey } from "./blankRun";
import { useLadder } from "./useLadder";

function GateRow({
  gate,
  at,
  onChange,
  onRemove,
}: {
  gate: Gate;
  at: string;
  onChange: (g: Gate) => void;
  onRemove: () => void;
}) {
  const { habit } = usePreferences();
  const byEye = gate.metric === "" && gate.comparison === "atLeast";
  const name = (value: string) => {
    const key = METRIC_KEYS.find((k) => METRICS[k].label === value);
    onChange({
      ...gate,
      metric: key ?? value.trim().slice(0, 60),
      dimension: key ? METRICS[key].dimension : gate.dimension,
    });
  };
  return (
    <li className="flex flex-wrap items-center gap-2 border-b border-hair py-1" data-gate-row={gate.id}>
      <select
        className="box w-auto!"
        aria-label={`${at}, decided by`}
        value={byEye ? "eye" : "number"}
        onChange={(e) =>
          onChange(
            e.target.value === "eye"
              ? { ...gate, metric: "", comparison: "atLeast", value: 0, upper: null }
              : { ...gate, metric: "speed", dimension: "speed", comparison: "atLeast" },
          )
        }
      >
        <option value="number">a number</option>
        <option value="eye">eyes</option>
      </select>
      {!byEye && (
        <>
          <input
            className="box w-48!"
            aria-label={`${at}, what`}
            list="gate-metrics"
            defaultValue={metricName(gate.metric)}
            onBlur={(e) => name(e.target.value)}
          />
          {!isMetricKey(gate.metric) && (
            <select
              className="box w-20!"
              aria-label={`${at}, unit`}
              value={gate.dimension}
              onChange={(e) => onChange({ ...gate, dimension: e.target.value as Gate["dimension"] })}
            >
              {DIMENSIONS.map((d) => (
                <option key={d} value={d}>
                  {DISPLAY[habit][d] || d}
                </option>
              ))}
            </select>
          )}
          <select
            className="box w-auto!"
            aria-label={`${at}, comparison`}
            value={gate.comparison}
            onChange={(e) => {
              const comparison = e.target.value as Gate["comparison"];
              onChange({
                ...gate,
                comparison,
                upper: comparison === "between" ? (gate.upper ?? gate.value + (Math.abs(gate.value) || 1)) : null,
              });
            }}
          >
            <option value="atMost">at most</option>
            <option value="atLeast">at least</option>
            <option value="between">between</option>
          </select>
          <span className="w-24">
            <QuantityField
              boxed
              label={`${at}, limit`}
              dimension={gate.dimension}
              value={gate.value}
              onCommit={(v) => v !== null && onChange({ ...gate, value: v })}
            />
          </span>
          {gate.comparison === "between" && (
            <span className="w-24">
              <QuantityField
                boxed
                label={`${at}, upper limit`}
                dimension={gate.dimension}
                value={gate.upper}
                onCommit={(v) => v !== null && onChange({ ...gate, upper: v })}
              />
            </span>
          )}
        </>
      )}
      <input
        className="box w-56! flex-1"
        aria-label={`${at}, ${byEye ? "what the eye decides" : "remark"}`}
        placeholder={byEye ? "such as: tracks straight hands off" : "remark"}
        maxLength={160}
        defaultValue={gate.text}
        onBlur={(e) => e.target.value.trim() !== gate.text && onChange({ ...gate, text: e.target.value.trim() })}
      />
      <button type="button" className="link" aria-label={`Remove ${at}`} onClick={onRemove}>
        ×
      </button>
    </li>
  );
}

/** What the form is called among what is half-written. */
export const LADDER_FORM = "ladder";

/**
 * The ladder of this version, to be made one's own: names, gates, abort rules and safety plan of each rung. The next
 * version begins with it.
 */
export function LadderForm({ onDone }: { onDone: () => void }) {
  const { version, design, slug } = useDesk();
  const { rungs } = useLadder();
  const words = useVersionWords();
  const { value: ladder, set: setLadder, half, anew } = useHalfState<Ladder>(slug, version.label, LADDER_FORM, rungs);
  const [wrong, setWrong] = useState<{ rung: number; text: string } | null>(null);
  const save = () => {
    const checked = ladderSchema.safeParse(ladder);
    if (!checked.success) {
      const issue = checked.error.issues[0];
      setWrong({ rung: Number(issue?.path[0] ?? 0) + 1, text: issue?.message ?? "not valid" });
      return;
    }
    setWrong(null);
    words.mutate(
      { ladder: checked.data },
      {
        onSuccess: () => {
          half.done();
          onDone();
        },
      },
    );
  };
  const set = (stage: number, change: Partial<Rung>) =>
    setLadder((l) => l.map((r) => (r.stage === stage ? { ...r, ...change } : r)));
  return (
    <section aria-label="Edit the ladder">
      <h2 className="border-b border-ink pb-1 text-[18px]">The test ladder of {version.label}</h2>
      <HalfLine left={half.left} onThrow={anew} />
      <p className="mt-1 max-w-2xl">
        From the bottom up. A run is held against the gates that its rung had when it was logged; what is changed here
        holds from the next run on, and goes along into the next version.
      </p>
      <datalist id="gate-metrics">
        {METRIC_KEYS.map((k) => (
          <option key={k} value={METRICS[k].label} />
        ))}
      </datalist>
      <ol className="flex flex-col-reverse">
        {ladder.map((r) => (
          <RungRow key={r.stage} r={r} wrong={wrong} set={set} />
        ))}
      </ol>
      <p className="mt-3 flex flex-wrap gap-2">
        <button type="button" className="act act-first" disabled={words.isPending} onClick={save}>
          Keep this ladder
        </button>
        <button type="button" className="act" onClick={onDone}>
          Cancel
        </button>
        <button type="button" className="link" onClick={() => setLadder(usualLadder(waysOf(design)))}>
          begin again with the usual one
        </button>
      </p>
    </section>
  );
}

/** One rung: its name, what opens it, its gates. */
function RungRow({
  r,
  wrong,
  set,
}: {
  r: Rung;
  wrong: { rung: number; text: string } | null;
  set: (stage: number, change: Partial<Rung>) => void;
}) {
  return (
    <li data-rung-form={r.stage} className="border-b border-ink py-2">
      <div className="flex flex-wrap items-center gap-2">
        <b className="num text-ink">{r.stage}</b>
        <input
          className="box w-56!"
          aria-label={`Rung ${r.stage}, name`}
          maxLength={60}
          value={r.name}
          onChange={(e) => set(r.stage, { name: e.target.value })}
        />
        <span className="text-[11px] text-pencil">stage: {STAGES[r.stage - 1]}</span>
        <input
          className="box w-64! flex-1"
          aria-label={`Rung ${r.stage}, left out because`}
          placeholder="left out? say why"
          maxLength={200}
          value={r.skipped}
          onChange={(e) => set(r.stage, { skipped: e.target.value })}
        />
      </div>
      {wrong?.rung === r.stage && (
        <p role="alert" className="text-[12px] text-stop">
          Rung {r.stage}: {wrong.text}
        </p>
      )}
      <input
        className="cell"
        aria-label={`Rung ${r.stage}, what is done`}
        maxLength={300}
        value={r.doing}
        onChange={(e) => set(r.stage, { doing: e.target.value })}
      />
      <ul>
        {r.gates.map((g, i) => (
          <GateRow
            key={g.id}
            gate={g}
            at={`Rung ${r.stage}, gate ${i + 1}`}
            onChange={(gate) => set(r.stage, { gates: r.gates.map((x) => (x.id === g.id ? gate : x)) })}
            onRemove={() => set(r.stage, { gates: r.gates.filter((x) => x.id !== g.id) })}
          />
        ))}
      </ul>
      <button
        type="button"
        className="link text-[12px]"
        aria-label={`Rung ${r.stage}, add a gate`}
        onClick={() =>
          set(r.stage, {
            gates: [
              ...r.gates,
              {
                id: newKey(),
                metric: "",
                dimension: "ratio",
                comparison: "atLeast",
                value: 0,
                upper: null,
                text: "",
              },
            ],
          })
        }
      >
        add a gate
      </button>
      <div className="mt-1 grid grid-cols-2 gap-2 text-[12px] max-[640px]:grid-cols-[minmax(0,1fr)]">
        <label>
          Broken off when
          <Lines
            label={`Rung ${r.stage}, broken off when`}
            most={12}
            rows={2}
            value={r.abort}
            onCommit={(abort) => set(r.stage, { abort })}
          />
        </label>
        <label>
          Safety plan
          <Lines
            label={`Rung ${r.stage}, safety plan`}
            most={12}
            rows={2}
            length={200}
            value={r.safety}
            onCommit={(safety) => set(r.stage, { safety })}
          />
        </label>
      </div>
    </li>
  );
}
