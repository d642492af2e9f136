import { useEffect, useRef, useState } from "react";
import { useHotkeys } from "react-hotkeys-hook";
import { toast } from "sonner";
import type { StandReading } from "../../../../api/contracts";
import type { PullsTest } from "../../../../core/design/pulls";
import { testedDrive } from "../../../../core/design/thrustTest";
import { GRAVITY, air } from "../../../../core/subjects/air/air";
import { kindOf } from "../../../../core/subjects/propulsion/kinds/models";
import { sayError } from "../../../app/client";
import { useDesk } from "../../../app/desk";
import { NO_FAULTS, newRig, notSafe } from "../thrust/thrustDraft";
import { useStand } from "../thrust/useStand";

/** s after the throttle is set before readings count, and how many make one pull. */
const SETTLE = 1.5;
const SAMPLES = 8;

const mean = (list: readonly (number | null)[]): number | null => {
  const known = list.flatMap((v) => v ?? []);
  return known.length === 0 ? null : known.reduce((s, v) => s + v, 0) / known.length;
};

/** What may be wrong with what the stand-in plays, to practise on. */
const FAULT: Record<PullsTest["of"], string> = {
  "with and without": "a starved inlet",
  "one and a pair": "too close together",
  "each corner": "a weak corner",
};

/** One pull off the simulated stand, at the throttle of the test; Escape cuts it. */
export function FromStand({
  test,
  side,
  onRead,
}: {
  test: PullsTest;
  side: number;
  onRead: (r: { pull: number; voltage: number | null; current: number | null }) => void;
}) {
  const { design } = useDesk();
  const stand = useStand();
  const [fault, setFault] = useState(false);
  const [running, setRunning] = useState(false);
  const taking = useRef<{ since: number | null; got: StandReading[] } | null>(null);
  const { safety, throttle } = test;
  const stop = () => {
    taking.current = null;
    setRunning(false);
    void stand.command(0, safety).catch(() => {});
  };
  useHotkeys("esc", () => taking.current && stop(), { enableOnFormTags: true });
  useEffect(() => () => void (taking.current = null), []);
  const take = (r: StandReading) => {
    const now = taking.current;
    if (!now || r.t === null || Math.abs(r.throttle - (throttle ?? 0)) > 1e-6) return;
    now.since ??= r.t;
    if (r.t - now.since < SETTLE) return;
    now.got.push(r);
    if (now.got.length < SAMPLES) return;
    stop();
    stand.close();
    const kg = mean(now.got.map((g) => g.scale)) ?? 0;
    onRead({
      pull: Number((Math.max(0, kg) * GRAVITY).toFixed(4)),
      voltage: mean(now.got.map((g) => g.voltage)),
      current: mean(now.got.map((g) => g.current)),
    });
  };
  const start = async () => {
    const unit = design.units.find((u) => u.id === test.unitId);
    if (!unit) return toast.error("Choose the drive first.");
    if (throttle === null) return toast.error("Say the throttle first: the same for all of them.");
    const blocked = notSafe(safety, throttle);
    if (blocked) return toast.error(blocked);
    if (unit.propulsor)
      return toast.error(`The stand-in knows open propellers only, not a ${kindOf(unit.propulsor).word}: weigh it.`);
    const { battery, ...parts } = testedDrive(
      unit,
      design.batteries.find((b) => b.id === unit.batteryId),
    );
    const { altitude, airTemperature } = design.brief.environment;
    const count = unit.count;
    try {
      taking.current = { since: null, got: [] };
      setRunning(true);
      await stand.open(
        {
          unit: parts,
          battery,
          rig: { ...newRig(), kind: "direct" },
          air: { temperature: airTemperature, pressure: Math.round(air(altitude, airTemperature).pressure) },
          faults: {
            ...NO_FAULTS,
            starved: fault && test.of === "with and without" && side === 1,
            close: fault && test.of === "one and a pair",
            weak: fault && test.of === "each corner" && side === count - 1,
          },
          together: test.of === "one and a pair" && side === 1 ? test.together : 1,
          seed: Math.floor(Math.random() * 1e6),
        },
        take,
      );
      await stand.command(throttle, safety);
    } catch (e) {
      stop();
      toast.error(sayError(e));
    }
  };
  return (
    <div
      className="mt-2 flex flex-wrap items-center gap-3 border-t border-hair pt-2"
      data-stand={running ? "running" : "idle"}
    >
      {running ? (
        <button type="button" className="act min-h-12 px-6 text-[16px] text-stop!" onClick={stop}>
          Cut the throttle (Esc)
        </button>
      ) : (
        <button type="button" className="act" onClick={() => void start()}>
          Read the simulated stand
        </button>
      )}
      <span className="text-pencil">with a fault to practise on:</span>
      <button
        type="button"
        className={`chip ${fault ? "chip-on" : ""}`}
        aria-pressed={fault}
        disabled={running}
        onClick={() => setFault(!fault)}
      >
        {FAULT[test.of]}
      </button>
      {stand.silent && (
        <span role="alert" className="text-stop">
          The stand does not answer: cut the supply by hand before going near.
        </span>
      )}
    </div>
  );
}
