import { useState } from "react";
import { positiveOf } from "../../../core/design/evidence";
import { dragAreaFrom } from "../../../core/subjects/speed/dragArea";
import { DISPLAY } from "../../../core/design/units";
import { useDesk } from "../../app/desk";
import { usePreferences } from "../../app/preferences";
import { KnownField } from "../../fields/KnownField";
import { QuantityField } from "../../fields/QuantityField";

/** What holds the craft back when it moves: entered, or from one timed straight run. */
export function DragArea() {
  const { design, edit, evaluation } = useDesk();
  const { habit } = usePreferences();
  const [timed, setTimed] = useState<{ speed: number | null; doubt: number | null; throttle: number }>({
    speed: null,
    doubt: null,
    throttle: 1,
  });
  const [problem, setProblem] = useState<string | null>(null);
  const derive = () => {
    if (timed.speed === null || timed.speed <= 0)
      return setProblem("The speed that was timed is needed, more than zero.");
    const known = dragAreaFrom(design, evaluation.metrics.airDensity?.value ?? 1.225, timed.throttle, {
      value: timed.speed,
      sd: timed.doubt ?? 0.05 * timed.speed,
    });
    if (!known) return setProblem("By this model the drives give no thrust at that speed: check speed, pitch and Kv.");
    setProblem(null);
    edit((d) => void (d.dragArea = known));
  };
  return (
    <section aria-label="Drag area" className="mt-4 text-[12px]">
      <h2 className="text-[14px]">Drag area</h2>
      {design.dragArea ? (
        <div className="mt-1 flex items-center gap-2">
          <span className="w-40">
            <KnownField
              label="Drag area"
              value={design.dragArea}
              dimension="area"
              schema={positiveOf("area")}
              onCommit={(k) => edit((d) => void (d.dragArea = k))}
            />
          </span>
          <span className="flex-1 text-pencil">{design.dragArea.note}</span>
          <button type="button" className="link" onClick={() => edit((d) => void (d.dragArea = null))}>
            forget it
          </button>
        </div>
      ) : (
        <p className="text-pencil">
          Not known: no speed is predicted.{" "}
          <button
            type="button"
            className="link"
            onClick={() => edit((d) => void (d.dragArea = { value: 0.02, evidence: "guess" }))}
          >
            guess 2 dm²
          </button>
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
