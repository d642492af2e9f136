import { useState } from "react";
import type { Known } from "../../../core/design/evidence";
import { supportOf } from "../../../core/design/support";
import { DISPLAY } from "../../../core/design/units";
import { resultIn } from "../../../core/evaluate";
import { flight } from "../../../core/subjects/flight/node";
import { dragAreaFrom, liftCost, waterDragAreaFrom } from "../../../core/subjects/speed/dragArea";
import { useDesk } from "../../app/desk";
import { useHalfState } from "../../app/halfWritten";
import { usePreferences } from "../../app/preferences";
import { DragAreaField } from "../../fields/DragAreaField";
import { QuantityField } from "../../fields/QuantityField";

/** m²: of a small boat or a robot in water, where somebody who guesses begins. */
const GUESS_IN_WATER = 0.002;

/** A straight run that was timed, at a throttle; or on a line, with what it pulled. */
interface Timed {
  speed: number | null;
  doubt: number | null;
  throttle: number;
  pull: number | null;
}
const UNTIMED: Timed = { speed: null, doubt: null, throttle: 1, pull: null };

/** What holds the craft back when it moves: entered, or from one timed straight run. */
export function DragArea() {
  const { seen } = useDesk();
  return supportOf(seen).waterDrag ? <InWater /> : <InAir />;
}

function InAir() {
  const { design, seen, state, edit, evaluation } = useDesk();
  return (
    <section aria-label="Drag area" className="mt-4 text-[12px]">
      <h2 className="text-[14px]">Drag area</h2>
      <p className="mt-1 text-pencil">
        {!design.dragArea &&
          (evaluation.metrics.speed
            ? "Not entered: that of wings and bodies stands for it, without gear and struts. "
            : "Not known: no speed is predicted. ")}
        <DragAreaField label="Drag area" value={design.dragArea} onChange={(k) => edit((d) => void (d.dragArea = k))} />
      </p>
      {design.dragArea && !seen.dragArea && <NotInState name={state.name} then="Say one of its own in Brief." />}
      <TimedRun
        towed={false}
        derive={({ throttle }, speed) =>
          dragAreaFrom(
            seen,
            evaluation.metrics.airDensity?.value ?? 1.225,
            throttle,
            speed,
            liftCost(resultIn(evaluation, flight)),
          )
        }
        onKnown={(known) => edit((d) => void (d.dragArea = known))}
      />
    </section>
  );
}

/** What holds back what swims: it holds at any speed under water, on the surface near the one at which it was taken. */
function InWater() {
  const { design, seen, state, edit } = useDesk();
  const surface = !supportOf(seen).weighedOff;
  return (
    <section aria-label="Drag area in water" className="mt-4 text-[12px]">
      <h2 className="text-[14px]">Drag area in water</h2>
      <p className="mt-1 text-pencil">
        {!design.waterDragArea &&
          "Not known: no speed is predicted. Time a straight run, or tow it on a luggage scale. "}
        <DragAreaField
          label="Drag area in water"
          guess={GUESS_IN_WATER}
          value={design.waterDragArea}
          onChange={(k) => edit((d) => void (d.waterDragArea = k))}
        />
      </p>
      {design.waterDragArea && !seen.waterDragArea && (
        <NotInState name={state.name} then="It holds for the craft as it is entered." />
      )}
      {design.waterDragArea && surface && (
        <label className="mt-1 flex items-center gap-2">
          <span className={design.waterDragAt === null ? "text-care" : ""}>taken at</span>
          <span className="w-24">
            <QuantityField
              boxed
              label="Drag area in water, taken at"
              value={design.waterDragAt}
              dimension="speed"
              empty="not said"
              onCommit={(v) => edit((d) => void (d.waterDragAt = v))}
            />
          </span>
          <span className="text-pencil">a hull makes other waves at another speed</span>
        </label>
      )}
      <TimedRun
        towed
        derive={({ throttle, pull }, speed) => waterDragAreaFrom(seen, pull === null ? { throttle } : { pull }, speed)}
        onKnown={(known, speed) =>
          edit((d) => {
            d.waterDragArea = known;
            d.waterDragAt = speed;
          })
        }
      />
    </section>
  );
}

const NotInState = ({ name, then }: { name: string; then: string }) => (
  <p className="text-care">
    Not known in the state “{name}”: drives turn or surfaces fold in it. {then}
  </p>
);

/** One timed straight run, and what it tells. */
function TimedRun({
  towed,
  derive,
  onKnown,
}: {
  /** whether it may have been towed instead */
  towed: boolean;
  derive: (timed: Timed, speed: { value: number; sd: number }) => Known | null;
  onKnown: (known: Known, speed: number) => void;
}) {
  const { slug, version } = useDesk();
  const { habit } = usePreferences();
  const { value: timed, set: setTimed, half } = useHalfState<Timed>(slug, version.label, "timed run", UNTIMED);
  const [problem, setProblem] = useState<string | null>(null);
  const work = () => {
    if (timed.speed === null || timed.speed <= 0)
      return setProblem("The speed that was timed is needed, more than zero.");
    const pulled = towed ? (timed.pull ?? null) : null;
    const speed = { value: timed.speed, sd: timed.doubt ?? 0.05 * timed.speed };
    const known = derive({ ...timed, pull: pulled }, speed);
    if (!known)
      return setProblem(
        pulled !== null
          ? "The pull of the line is needed, more than zero."
          : "By this model the drives give too little thrust at that speed to hold it: check speed, pitch and Kv.",
      );
    setProblem(null);
    onKnown(known, speed.value);
    half.done();
  };
  return (
    <>
      <div className="mt-1 flex flex-wrap items-end gap-2">
        <label className="w-20">
          timed, {DISPLAY[habit].speed}
          <QuantityField
            boxed
            label="Timed speed"
            value={timed.speed}
            dimension="speed"
            empty="–"
            onCommit={(v) => setTimed({ ...timed, speed: v })}
          />
        </label>
        <label className="w-16">
          ±
          <QuantityField
            boxed
            label="Timed speed, doubt"
            value={timed.doubt}
            dimension="speed"
            empty="5 %"
            onCommit={(v) => setTimed({ ...timed, doubt: v === null ? null : Math.abs(v) })}
          />
        </label>
        <label className="w-20">
          at throttle
          <QuantityField
            boxed
            label="Timed throttle"
            value={timed.throttle}
            dimension="percent"
            onCommit={(v) => v !== null && setTimed({ ...timed, throttle: Math.min(1, Math.max(0, v)) })}
          />
        </label>
        {towed && (
          <label className="w-28">
            or towed with, {DISPLAY[habit].force}
            <QuantityField
              boxed
              label="Towed with"
              value={timed.pull ?? null}
              dimension="force"
              empty="–"
              onCommit={(v) => setTimed({ ...timed, pull: v })}
            />
          </label>
        )}
        <button type="button" className="act" onClick={work}>
          Work it out
        </button>
      </div>
      {problem && (
        <p role="alert" className="text-stop">
          {problem}
        </p>
      )}
    </>
  );
}
