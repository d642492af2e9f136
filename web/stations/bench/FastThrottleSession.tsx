import { DriveSelect } from "../../fields/DriveSelect";
import { judgeFastThrottle } from "../../../core/bench/fastThrottle";
import type { Bench } from "../../../core/design/bench";
import { type FastThrottle, SAFETY } from "../../../core/design/thrustTest";
import { CHEMISTRY } from "../../../core/subjects/energy/battery";
import { SAFETY_LINE, fastThrottleText } from "../../../core/wording/sweep";
import { HalfLine } from "../../app/HalfLine";
import { useDesk } from "../../app/desk";
import { usePreferences } from "../../app/preferences";
import { QuantityField } from "../../fields/QuantityField";
import { ClipboardSheet } from "./ClipboardSheet";
import { SessionFoot } from "./SessionFoot";
import { SafetyList } from "./thrust/SafetyList";
import { notYetSafe } from "./thrust/thrustDraft";
import { useEntry } from "./useSession";

type Trial = FastThrottle["trials"][number];
const RAMPS = [0, 0.2, 0.5, 1];

/** Propeller sizes against ramp times: which cut out, at what voltage, and what that says. */
export function FastThrottleSession({
  session,
  onOpen,
}: {
  session: Bench | null;
  onOpen: (number: number | null) => void;
}) {
  const { habit } = usePreferences();
  const { design } = useDesk();
  const [first] = design.units;
  const { keep, entry, test, change, head, foot } = useEntry<FastThrottle>(
    session,
    onOpen,
    "fast-throttle",
    () =>
      session?.fastThrottle ?? {
        unitId: first?.id ?? "none",
        safety: notYetSafe("outdoors"),
        trials: RAMPS.slice(0, 2).map(
          (ramp): Trial => ({
            diameter: first?.propeller.diameter.value ?? 0.2,
            pitch: first?.propeller.pitch.value ?? 0.1,
            ramp,
            voltage: null,
            cutOut: null,
          }),
        ),
      },
    (t) => ({ ...t, safety: notYetSafe("outdoors") }),
  );
  const unit = design.units.find((u) => u.id === test.unitId);
  const battery = design.batteries.find((b) => b.id === unit?.batteryId);
  const floor = battery ? CHEMISTRY[battery.chemistry].floor * battery.series : null;
  const findings = judgeFastThrottle(test, floor);
  const open = SAFETY.some((k) => !test.safety[k]);
  if (!first) return <p>Describe a drive in Power first.</p>;
  return (
    <div className="text-[12px]">
      <HalfLine {...head} />
      <p>
        From idle to full in the time of the ramp. Change one thing at a time: the ramp on one propeller first, then the
        propeller at one ramp.
      </p>
      <label className="mt-2 block w-56">
        Drive
        <DriveSelect label="Drive tested" value={test.unitId} onChange={(id) => change((t) => void (t.unitId = id))} />
      </label>
      <div className="mt-2">
        <SafetyList safety={test.safety} onChange={(s) => change((t) => void (t.safety = s))} />
      </div>
      <Trials test={test} change={change} open={open} />
      <button
        type="button"
        className="link mt-1"
        onClick={() =>
          change((t) => {
            const last = t.trials.at(-1);
            if (last)
              t.trials.push({ ...last, ramp: RAMPS[t.trials.length % RAMPS.length] ?? 0, voltage: null, cutOut: null });
          })
        }
      >
        one more trial
      </button>
      <section aria-label="What it says" className="mt-3 border-t border-hair pt-2">
        <h3 className="text-[13px]">What it says</h3>
        {open && (
          <p className="text-care">Tick the safety list first: a full-throttle test is the most dangerous one here.</p>
        )}
        {findings.map((f) => (
          <p key={f.kind} data-finding={f.kind} className={f.kind === "unresolved" ? "text-pencil" : ""}>
            {fastThrottleText(f, habit)}
          </p>
        ))}
      </section>
      <SessionFoot {...foot} missing={null} onKeep={() => keep.mutate({ ...entry, fastThrottle: test })} />
      <ClipboardSheet
        title="Fast throttle"
        checks={SAFETY.map((k) => SAFETY_LINE[k])}
        columns={["diameter", "pitch", "ramp, s", "lowest volts", "cut out?"]}
        rows={Array.from({ length: 12 }, (_, k) => String(k + 1))}
      />
    </div>
  );
}

/** The trials of fast throttle. */
function Trials({
  test,
  change,
  open,
}: {
  test: FastThrottle;
  change: (mutate: (t: FastThrottle) => void) => void;
  open: boolean;
}) {
  return (
    <div className="wide mt-3">
      <table className="rows w-full max-w-[720px]">
        <thead>
          <tr>
            <th className="text-right!">diameter</th>
            <th className="text-right!">pitch</th>
            <th className="text-right!">ramp, s</th>
            <th className="text-right!">lowest volts</th>
            <th>cut out</th>
            <th />
          </tr>
        </thead>
        <tbody>
          {test.trials.map((trial, k) => (
            <TrialRow key={`t${k + 1}`} k={k} trial={trial} change={change} open={open} test={test} />
          ))}
        </tbody>
      </table>
    </div>
  );
}

/** One trial: to which throttle, how fast, and what was seen. */
function TrialRow({
  k,
  trial,
  change,
  open,
  test,
}: {
  k: number;
  trial: { diameter: number; pitch: number; ramp: number; voltage: number | null; cutOut: boolean | null };
  change: (mutate: (t: FastThrottle) => void) => void;
  open: boolean;
  test: FastThrottle;
}) {
  const number = (
    label: string,
    value: number | null,
    dimension: "length" | "time" | "voltage",
    onCommit: (v: number | null) => string | null,
    empty?: string,
  ) => <QuantityField label={label} value={value} dimension={dimension} empty={empty} onCommit={onCommit} />;
  return (
    <tr data-trial={k + 1}>
      <td className="w-24">
        {number(`Trial ${k + 1}, diameter`, trial.diameter, "length", (v) => {
          if (v === null || !(v > 0)) return "Accepted: more than zero.";
          change((t) => void (t.trials[k] && (t.trials[k].diameter = v)));
          return null;
        })}
      </td>
      <td className="w-24">
        {number(`Trial ${k + 1}, pitch`, trial.pitch, "length", (v) => {
          if (v === null || !(v > 0)) return "Accepted: more than zero.";
          change((t) => void (t.trials[k] && (t.trials[k].pitch = v)));
          return null;
        })}
      </td>
      <td className="w-20">
        <QuantityField
          label={`Trial ${k + 1}, ramp`}
          value={trial.ramp}
          dimension="ratio"
          onCommit={(v) => {
            if (v === null || v < 0 || v > 60) return "Accepted: 0 to 60 s.";
            change((t) => void (t.trials[k] && (t.trials[k].ramp = v)));
            return null;
          }}
        />
      </td>
      <td className="w-24">
        {number(
          `Trial ${k + 1}, volts`,
          trial.voltage,
          "voltage",
          (v) => {
            if (v !== null && v < 0) return "Accepted: zero or more.";
            change((t) => void (t.trials[k] && (t.trials[k].voltage = v)));
            return null;
          },
          "–",
        )}
      </td>
      <td className="w-36">
        <select
          className="cell"
          aria-label={`Trial ${k + 1}, cut out`}
          disabled={open}
          value={trial.cutOut === null ? "" : trial.cutOut ? "yes" : "no"}
          onChange={(e) =>
            change(
              (t) =>
                void (t.trials[k] && (t.trials[k].cutOut = e.target.value === "" ? null : e.target.value === "yes")),
            )
          }
        >
          <option value="">could not tell</option>
          <option value="yes">it cut out</option>
          <option value="no">it held</option>
        </select>
      </td>
      <td className="text-right">
        <button
          type="button"
          className="link"
          aria-label={`Remove trial ${k + 1}`}
          disabled={test.trials.length < 2}
          onClick={() => change((t) => void t.trials.splice(k, 1))}
        >
          ×
        </button>
      </td>
    </tr>
  );
}
