import { kindOf } from "../../../../core/subjects/propulsion/kinds/models";
import { useEffect, useRef, useState } from "react";
import { useHotkeys } from "react-hotkeys-hook";
import { toast } from "sonner";
import type { StandReading } from "../../../../api/contracts";
import {
  type Readable,
  type ThrustReading,
  type ThrustTest,
  emptyReading,
  testedDrive,
} from "../../../../core/design/thrustTest";
import { DISPLAY } from "../../../../core/design/units";
import { parseQuantity } from "../../../../core/design/readQuantity";
import { sayError } from "../../../app/client";
import { useDesk } from "../../../app/desk";
import { usePreferences } from "../../../app/preferences";
import { QuantityField } from "../../../fields/QuantityField";
import { NO_FAULTS, STEPS, notSafe, throttlesOf } from "./thrustDraft";
import { useStand } from "./useStand";

interface Props {
  test: ThrustTest;
  onChange: (change: (t: ThrustTest) => void) => void;
}

const KEY = {
  thrust: "scale",
  voltage: "voltage",
  current: "current",
  rpm: "rpm",
  temperature: "temperature",
  noise: "noise",
} as const satisfies Record<Readable, keyof ThrustReading>;
const DIMENSION = {
  thrust: "mass",
  voltage: "voltage",
  current: "current",
  rpm: "rotation",
  temperature: "temperature",
  noise: "count",
} as const;
const SAID: Record<Readable, string> = {
  thrust: "scale",
  voltage: "V",
  current: "A",
  rpm: "rpm",
  temperature: "°C",
  noise: "dB",
};
const FAULTS = [
  ["bending", "blades bend"],
  ["slipping", "belt slips"],
  ["looseTare", "loose tare"],
  ["wrongCurrent", "wrong current meter"],
  ["silent", "stops answering"],
  ["starved", "starved inlet"],
] as const;
type FaultKey = (typeof FAULTS)[number][0];

/** s after a change of throttle before readings count. */
const SETTLE = 1.2;

/**
 * The plan of steps, then the sweep itself: typed by hand, one field and Enter for each step, or streamed from the
 * stand.
 */
export function SweepRun({ test, onChange }: Props) {
  const { plan } = test;
  const throttles = throttlesOf(plan);
  const [mode, setMode] = useState<"hand" | "stand">("hand");
  const setPlan = (change: (p: ThrustTest["plan"]) => void) => onChange((t) => change(t.plan));
  const count = plan.steps.filter((s) => s > 0).length;
  const top = Math.max(...plan.steps);
  const whole = (label: string, value: number, low: number, high: number, put: (v: number) => void) => (
    <label className="w-20">
      {label}
      <QuantityField
        boxed
        label={label}
        value={value}
        dimension="count"
        onCommit={(v) => {
          if (v === null || !Number.isInteger(v) || v < low || v > high)
            return `Accepted: a whole number, ${low} to ${high}.`;
          put(v);
          return null;
        }}
      />
    </label>
  );
  return (
    <section aria-label="Run a sweep" className="text-[12px]">
      <div className="flex flex-wrap items-end gap-3">
        {whole("Steps", count, 2, 40, (v) => setPlan((p) => void (p.steps = [0, ...STEPS(v, top)])))}
        <label className="w-24">
          Up to
          <QuantityField
            boxed
            label="Up to"
            value={top}
            dimension="percent"
            onCommit={(v) => {
              if (v === null || v <= 0 || v > 1) return "Accepted: above 0, to 100 %.";
              setPlan((p) => void (p.steps = [0, ...STEPS(count, v)]));
              return null;
            }}
          />
        </label>
        {whole("Sweeps", plan.repeats, 1, 10, (v) => setPlan((p) => void (p.repeats = v)))}
        {whole("At each step", plan.samples, 1, 20, (v) => setPlan((p) => void (p.samples = v)))}
        {whole("Rest, s", plan.rest, 0, 3600, (v) => setPlan((p) => void (p.rest = v)))}
        <label className="flex min-h-7 items-center gap-2">
          <input
            type="checkbox"
            checked={plan.down}
            onChange={(e) => setPlan((p) => void (p.down = e.target.checked))}
          />
          and back down
        </label>
        <span className="pb-1 text-pencil">{throttles.length} steps in all</span>
      </div>
      <div className="mt-2 flex gap-1" role="group" aria-label="Readings come from">
        <button
          type="button"
          className={`chip ${mode === "hand" ? "chip-on" : ""}`}
          aria-pressed={mode === "hand"}
          onClick={() => setMode("hand")}
        >
          typed by hand
        </button>
        <button
          type="button"
          className={`chip ${mode === "stand" ? "chip-on" : ""}`}
          aria-pressed={mode === "stand"}
          onClick={() => setMode("stand")}
        >
          from the simulated stand
        </button>
      </div>
      {mode === "hand" ? (
        <ByHand test={test} throttles={throttles} onChange={onChange} />
      ) : (
        <ByStand test={test} throttles={throttles} onChange={onChange} />
      )}
    </section>
  );
}

/**
 * One field: what is read at this step, in the order named, with spaces between; Enter keeps it and announces the
 * next throttle.
 */
function ByHand({ test, throttles, onChange }: Props & { throttles: number[] }) {
  const { habit } = usePreferences();
  const [at, setAt] = useState(0);
  const [text, setText] = useState("");
  const [error, setError] = useState<string | null>(null);
  const { measures } = test.plan;
  const throttle = throttles[at];
  const blocked = throttle === undefined ? null : notSafe(test.safety, throttle);
  const commit = () => {
    if (throttle === undefined) return;
    const cells = text.trim().split(/\s*;\s*|\s+/);
    if (cells.length !== measures.length)
      return setError(
        `Accepted: ${measures.length} values with spaces between them: ` +
          `${measures.map((m) => SAID[m]).join(", ")}; a dash for one not read.`,
      );
    const reading = emptyReading(throttle);
    for (const [k, m] of measures.entries()) {
      const cell = cells[k] ?? "";
      if (/^[-–—]$/.test(cell)) continue;
      const read = parseQuantity(cell, DIMENSION[m], habit);
      if (!read.ok) return setError(`${SAID[m]}: ${read.message}`);
      if (read.value < 0 && m !== "temperature" && m !== "thrust")
        return setError(`${SAID[m]}: ${cell} cannot be. Accepted: zero or more.`);
      reading[KEY[m]] = read.value;
    }
    onChange((t) => void t.readings.push(reading));
    setText("");
    setError(null);
    setAt(at + 1);
  };
  return (
    <div className="mt-2 border border-rule bg-sheet px-3 py-2">
      {throttle === undefined ? (
        <p>
          The plan is done, throttle to idle.{" "}
          <button type="button" className="link" onClick={() => setAt(0)}>
            once more
          </button>
        </p>
      ) : (
        <div className="flex flex-wrap items-end gap-4">
          <p aria-live="assertive" className="text-ink">
            Set <b className="num text-[26px]">{Math.round(throttle * 100)} %</b>
            <span className="block text-[11px] text-pencil">
              step {at + 1} of {throttles.length}
              {throttles[at + 1] !== undefined && `, then ${Math.round((throttles[at + 1] ?? 0) * 100)} %`}
            </span>
          </p>
          <label className="min-w-56 flex-1">
            {measures.map((m) => `${SAID[m]}${m === "thrust" ? ` (${DISPLAY[habit].mass})` : ""}`).join("  ")}
            <input
              className="box num text-[16px]!"
              aria-label="Reading at this step"
              aria-invalid={error !== null}
              disabled={blocked !== null}
              value={text}
              onChange={(e) => setText(e.target.value)}
              onKeyDown={(e) => e.key === "Enter" && commit()}
            />
          </label>
          <button type="button" className="act" disabled={blocked !== null} onClick={commit}>
            Keep, next
          </button>
          <button type="button" className="link" disabled={at === 0} onClick={() => setAt(Math.max(0, at - 1))}>
            a step back
          </button>
          <button type="button" className="link" onClick={() => setAt(at + 1)}>
            skip
          </button>
        </div>
      )}
      {(blocked ?? error) && (
        <p role="alert" className="mt-1 text-stop">
          {blocked ?? error}
        </p>
      )}
    </div>
  );
}

/** Commands the stand step by step and takes its readings, until the plan is done or the throttle is cut. */
function useStandSweep({
  test,
  throttles,
  faults,
  onChange,
}: Props & { throttles: number[]; faults: Record<FaultKey, boolean> }) {
  const { design } = useDesk();
  const stand = useStand();
  const [progress, setProgress] = useState<{ step: number; rest: number } | null>(null);
  const running = useRef<{ step: number; since: number; taken: number; restUntil: number } | null>(null);
  const { safety, plan } = test;
  const stop = (said?: string) => {
    running.current = null;
    setProgress(null);
    void stand.command(0, safety).catch(() => {});
    if (said) toast(said);
  };
  useHotkeys("esc", () => running.current && stop("Throttle cut."), { enableOnFormTags: true });
  useEffect(() => () => void (running.current = null), []);
  const order = (throttle: number) =>
    stand.command(throttle, safety).catch((e: unknown) => {
      running.current = null;
      setProgress(null);
      toast.error(sayError(e));
    });
  const take = (r: StandReading) => {
    const run = running.current;
    if (!run) return;
    if (r.t !== null && run.restUntil > 0) {
      setProgress({ step: run.step, rest: Math.max(0, Math.ceil(run.restUntil - r.t)) });
      if (r.t < run.restUntil) return;
      run.restUntil = 0;
      run.since = r.t;
      void order(throttles[run.step] ?? 0);
      return;
    }
    if (run.since < 0) run.since = r.t ?? 0;
    if ((r.t ?? 0) - run.since < SETTLE || Math.abs(r.throttle - (throttles[run.step] ?? 0)) > 1e-6) return;
    run.taken++;
    const keep: ThrustReading = { ...r, out: "" };
    for (const [m, key] of Object.entries(KEY)) if (!plan.measures.includes(m as Readable)) keep[key] = null;
    onChange((t) => void t.readings.push(keep));
    if (run.taken < plan.samples) return;
    run.step++;
    run.taken = 0;
    run.since = r.t ?? 0;
    const next = throttles[run.step];
    if (next === undefined) {
      stop();
      toast.success("The sweep is done: throttle at idle.");
      return;
    }
    const each = throttles.length / plan.repeats;
    if (run.step % each === 0 && plan.rest > 0) {
      run.restUntil = (r.t ?? 0) + plan.rest;
      void order(0);
    } else void order(next);
    setProgress({ step: run.step, rest: 0 });
  };
  const start = async () => {
    const blocked = notSafe(safety, Math.max(...throttles));
    if (blocked) return toast.error(blocked);
    const unit = design.units.find((u) => u.id === test.unitId);
    if (!unit) return toast.error("Choose the drive on the stand first.");
    if (unit.propulsor)
      return toast.error(`The stand-in knows open propellers only, not a ${kindOf(unit.propulsor).word}: weigh it.`);
    const { battery, ...parts } = testedDrive(
      unit,
      design.batteries.find((b) => b.id === unit.batteryId),
    );
    try {
      await stand.open(
        {
          unit: parts,
          battery,
          rig: test.rig,
          air: test.air,
          faults: { ...NO_FAULTS, ...faults },
          together: 1,
          seed: Math.floor(Math.random() * 1e6),
        },
        take,
      );
      onChange((t) => void (t.readings = []));
      running.current = { step: 0, since: -1, taken: 0, restUntil: 0 };
      setProgress({ step: 0, rest: 0 });
      await order(throttles[0] ?? 0);
    } catch (e) {
      toast.error(sayError(e));
    }
  };
  return { stand, progress, stop, start };
}

/** The plan run on a stand that streams its readings. Escape, or the large button, cuts the throttle. */
function ByStand({ test, throttles, onChange }: Props & { throttles: number[] }) {
  const [faults, setFaults] = useState<Record<FaultKey, boolean>>(NO_FAULTS);
  const { stand, progress, stop, start } = useStandSweep({ test, throttles, faults, onChange });
  const { latest, silent } = stand;
  return (
    <div
      className="mt-2 border border-rule bg-sheet px-3 py-2"
      data-stand={silent ? "silent" : progress ? "running" : "idle"}
    >
      <p className="flex flex-wrap items-center gap-1" role="group" aria-label="Faults of the simulated stand">
        <span className="text-pencil">Faults to practise on:</span>
        {FAULTS.map(([key, word]) => (
          <button
            key={key}
            type="button"
            className={`chip ${faults[key] ? "chip-on" : ""}`}
            aria-pressed={faults[key]}
            disabled={progress !== null}
            onClick={() => setFaults((f) => ({ ...f, [key]: !f[key] }))}
          >
            {word}
          </button>
        ))}
      </p>
      <div className="mt-2 flex flex-wrap items-center gap-4">
        {progress ? (
          <button
            type="button"
            className="act min-h-12 px-6 text-[16px] text-stop!"
            onClick={() => stop("Throttle cut.")}
          >
            Cut the throttle (Esc)
          </button>
        ) : (
          <button type="button" className="act act-first" onClick={() => void start()}>
            Start the sweep
          </button>
        )}
        {progress && (
          <p aria-live="polite" className="text-ink">
            {progress.rest > 0 ? (
              <>rest, {progress.rest} s</>
            ) : (
              <>
                <b className="num text-[22px]">{Math.round((throttles[progress.step] ?? 0) * 100)} %</b> step{" "}
                {progress.step + 1} of {throttles.length}
              </>
            )}
          </p>
        )}
        {latest && progress && (
          <p className="num text-ink2">
            {Math.round((latest.scale ?? 0) * 1000)} g, {latest.voltage?.toFixed(2)} V, {latest.current?.toFixed(1)} A,{" "}
            {latest.rpm?.toFixed(0)} rpm, {latest.temperature?.toFixed(1)} °C
          </p>
        )}
      </div>
      {silent && (
        <p role="alert" className="mt-1 text-stop">
          The stand does not answer. It cuts its own throttle when nobody listens; cut the supply by hand before going
          near.
        </p>
      )}
      <p className="mt-1 text-pencil">
        A stand-in that ships with the application and works by another model than the predictions here; a real one
        takes its place behind the same interface.
      </p>
    </div>
  );
}
