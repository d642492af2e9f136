import type { ReactNode } from "react";
import { positiveOf } from "../../../core/design/evidence";
import { environmentSchema } from "../../../core/design/schema";
import { supportOf } from "../../../core/design/support";
import { wetDrive } from "../../../core/subjects/propulsion/covered";
import { WATERS, type Water } from "../../../core/subjects/water/water";
import { Computed } from "../../app/Computed";
import { useDesk } from "../../app/desk";
import { QuantityField } from "../../fields/QuantityField";

/** A field with what it is, at the end of its line. */
const Labelled = ({ label, children }: { label: string; children: ReactNode }) => (
  // biome-ignore lint/a11y/noLabelWithoutControl: the control is what it is given
  <label className="flex items-center justify-between gap-2">
    {label}
    <span className="w-28">{children}</span>
  </label>
);

/** What it works in: air, water, wind, and how cold the packs are. */
export function Environment() {
  const { design, seen, edit, evaluation } = useDesk();
  const e = design.brief.environment;
  const held = supportOf(seen);
  const field = (
    key: "altitude" | "airTemperature" | "packTemperature" | "wind",
    label: string,
    dimension: "distance" | "temperature" | "speed",
  ) => (
    <Labelled label={label}>
      <QuantityField
        boxed
        label={label}
        value={e[key]}
        dimension={dimension}
        schema={environmentSchema.shape[key]}
        onCommit={(v) => v !== null && edit((d) => void (d.brief.environment[key] = v))}
      />
    </Labelled>
  );
  /** What may be left unsaid: an empty field takes it away. */
  const optional = (
    key: "humidity" | "waterTemperature" | "current" | "waveHeight" | "waveLength",
    label: string,
    dimension: "percent" | "temperature" | "speed" | "length" | "distance",
    empty: string,
  ) => (
    <Labelled label={label}>
      <QuantityField
        boxed
        label={label}
        value={e[key] ?? null}
        dimension={dimension}
        empty={empty}
        schema={environmentSchema.shape[key].unwrap()}
        onCommit={(v) =>
          edit((d) => {
            if (v === null) delete d.brief.environment[key];
            else d.brief.environment[key] = v;
          })
        }
      />
    </Labelled>
  );
  return (
    <section aria-label="Conditions">
      <h2>Conditions</h2>
      <div className="mt-2 grid grid-cols-1 gap-1">
        {field("airTemperature", "Air temperature", "temperature")}
        {field("packTemperature", "Pack temperature at the start", "temperature")}
        {field("altitude", "Altitude", "distance")}
        {field("wind", "Worst wind", "speed")}
        {(wetDrive(seen) || held.afloat || design.surfaces.some((s) => s.medium === "water")) && (
          <>
            <Labelled label="Water">
              <select
                className="box"
                aria-label="Water"
                value={e.water ?? "fresh"}
                onChange={(x) => edit((d) => void (d.brief.environment.water = x.target.value as Water))}
              >
                {WATERS.map((w) => (
                  <option key={w} value={w}>
                    {w}
                  </option>
                ))}
              </select>
            </Labelled>
            {optional("waterTemperature", "Water temperature", "temperature", "as the air")}
            {optional("current", "Worst current", "speed", "not said")}
            {optional("waveHeight", "Waves, crest over trough", "length", "not said")}
            {optional("waveLength", "Waves, crest to crest", "distance", "not said")}
          </>
        )}
        {optional("humidity", "Humidity", "percent", "not said")}
        {held.gas && (
          <Labelled label="Mass that the gas carries">
            <QuantityField
              boxed
              label="Mass that the gas carries"
              value={design.gasLift?.value ?? null}
              dimension="mass"
              schema={positiveOf("mass")}
              empty="weigh it"
              onCommit={(v) => edit((d) => void (d.gasLift = v === null ? null : { value: v, evidence: "measured" }))}
            />
          </Labelled>
        )}
      </div>
      <p className="mt-2">
        Air density <Computed metric="airDensity" quantity={evaluation.metrics.airDensity} />
      </p>
    </section>
  );
}
