import { useState } from "react";
import { resultIn } from "../../../core/evaluate";
import { flight } from "../../../core/subjects/flight/node";
import { dragAreaFrom, liftCost } from "../../../core/subjects/speed/dragArea";
import { DISPLAY } from "../../../core/design/units";
import { useDesk } from "../../app/desk";
import { useHalfState } from "../../app/halfWritten";
import { usePreferences } from "../../app/preferences";
import { DragAreaField } from "../../fields/DragAreaField";
import { QuantityField } from "../../fields/QuantityField";

/** What holds the craft back when it moves: entered, or from one timed straight run. */
export function DragArea() {
  const { design, seen, state, edit, evaluation, slug, version } = useDesk();
  const { habit } = usePreferences();
  const {
    value: timed,
    set: setTimed,
    half,
  } = useHalfState<{
    speed: number | null;
    doubt: number | null;
    throttle: number;
  }>(slug, version.label, "timed run", { speed: null, doubt: null, throttle: 1 });
  const [problem, setProblem] = useState<string | null>(null);
  const derive = () => {
    if (timed.speed === null || timed.speed <= 0)
      return setProblem("The speed that was timed is needed, more than zero.");
    const known = dragAreaFrom(
      seen,
      evaluation.metrics.airDensity?.value ?? 1.225,
      timed.throttle,
      { value: timed.speed, sd: timed.doubt ?? 0.05 * timed.speed },
      liftCost(resultIn(evaluation, flight)),
    );
    if (!known)
      return setProblem(
        "By this model the drives give too little thrust at that speed to hold it: check speed, pitch and Kv.",
      );
    setProblem(null);
    edit((d) => void (d.dragArea = known));
    half.done();
  };
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
      {design.dragArea && !seen.dragArea && (
        <p className="text-care">
          Not known in the state “{state.name}”: drives turn or surfaces fold in it. Say one of its own in Brief.
        </p>
      )}
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
        <button type="button" className="act" onClick={derive}>
          Work it out
        </button>
      </div>
      {problem && (
        <p role="alert" className="text-stop">
          {problem}
        </p>
      )}
    </section>
  );
}
