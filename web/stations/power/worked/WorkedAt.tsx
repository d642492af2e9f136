import { DISPLAY } from "../../../../core/design/units";
import { plain } from "../../../../core/wording/format";
import { usePreferences } from "../../../app/preferences";
import type { PropulsionResult } from "../../../../core/subjects/propulsion/node";
import { throttleFor } from "../../../../core/subjects/propulsion/band";
import { wetDrive } from "../../../../core/subjects/propulsion/covered";
import { waterOf } from "../../../../core/subjects/propulsion/setup";
import { useDesk } from "../../../app/desk";
import { QuantityField } from "../../../fields/QuantityField";
import type { WorkingPoint } from "./useWorkingPoint";

/** What the drives are worked at: speed, throttle, which of them. */
export function WorkedAt({ result, at }: { result: PropulsionResult | null; at: WorkingPoint }) {
  const { seen: design, evaluation } = useDesk();
  const { habit } = usePreferences();
  const { throttle, speed, idle, put, setLive, commit } = at;
  const hover = evaluation.metrics.thrustThrottle;
  const { environment } = design.brief;
  return (
    <div className="flex flex-wrap items-center gap-x-4 gap-y-1 border-b border-hair px-4 py-2">
      <span className="flex gap-1" role="group" aria-label="Worked at">
        <button
          type="button"
          className={`chip ${speed === 0 ? "chip-on" : ""}`}
          aria-pressed={speed === 0}
          onClick={() => put({ speed: null })}
        >
          standing
        </button>
        {hover && (
          <button
            type="button"
            className="chip"
            onClick={() => put({ speed: null, throttle: String(Math.round(hover.value * 1000) / 10) })}
          >
            hover
          </button>
        )}
      </span>
      <label className="flex items-center gap-1 text-[12px]">
        moving at
        <span className="w-20">
          <QuantityField
            boxed
            label="Worked at speed"
            value={speed > 0 ? speed : null}
            dimension="speed"
            empty={DISPLAY[habit].speed}
            onCommit={(v) => put({ speed: v === null || v <= 0 ? null : String(Math.round(v * 1000) / 1000) })}
          />
        </span>
      </label>
      <label className="flex items-center gap-1 text-[12px]">
        for thrust
        <span className="w-20">
          <QuantityField
            boxed
            label="Throttle for thrust"
            value={null}
            dimension="force"
            empty={DISPLAY[habit].force}
            onCommit={(v) => {
              if (v === null || v <= 0 || !result) return null;
              const u = throttleFor(design, v, speed);
              if (u === null)
                return (
                  `full throttle gives ${plain(result.values.thrust.value, "force", habit, 1)} standing, ` +
                  "less when moving"
                );
              put({ throttle: String(Math.round(u * 1000) / 10) });
              return null;
            }}
          />
        </span>
      </label>
      <label className="flex flex-1 items-center gap-2">
        throttle
        <input
          type="range"
          min={0}
          max={100}
          aria-label="Throttle, %"
          className="w-40 accent-[var(--accent)]"
          value={Math.round(throttle * 100)}
          onChange={(e) => setLive(Number(e.target.value) / 100)}
          onPointerUp={commit}
          onBlur={commit}
        />
        <b className="num w-12 text-ink">{Math.round(throttle * 100)} %</b>
      </label>
      {design.units.length > 1 && (
        <span className="flex flex-wrap gap-1" role="group" aria-label="Drives at work">
          {design.units.map((u) => (
            <button
              key={u.id}
              type="button"
              className={`chip ${idle.has(u.id) ? "" : "chip-on"}`}
              aria-pressed={!idle.has(u.id)}
              onClick={() =>
                put({
                  idle: (idle.has(u.id) ? [...idle].filter((x) => x !== u.id) : [...idle, u.id]).join(".") || null,
                })
              }
            >
              {u.name}
            </button>
          ))}
        </span>
      )}
      <span className="num text-[11px] text-pencil">
        air {plain(environment.airTemperature, "temperature", habit, 0)}, pack{" "}
        {plain(environment.packTemperature, "temperature", habit, 0)},{" "}
        {evaluation.metrics.airDensity && plain(evaluation.metrics.airDensity.value, "density", habit)}
        {wetDrive(design) &&
          `; drives in ${environment.water ?? "fresh"} water, ${waterOf(environment).density.toFixed(0)} kg/m³`}
      </span>
    </div>
  );
}
