import type { z } from "zod";
import { positiveOf } from "../../../core/design/evidence";
import { type FlightSaid, LAUNCHES, flightSchema } from "../../../core/subjects/surfaces/declares";
import { LEAST_MARGIN } from "../../../core/subjects/flight/latticeNode";
import { Cord } from "./Cord";
import { useDesk } from "../../app/desk";
import { EvidenceSelect } from "../../fields/EvidenceSelect";
import { Line } from "../../fields/FormParts";
import { QuantityField } from "../../fields/QuantityField";

const DIMENSION = {
  height: "length",
  waterline: "length",
  launchSpeed: "speed",
  rolling: "ratio",
  torque: "torque",
  steering: "torque",
} as const;

/** What is said of its flight: how it is launched, how high it flies, what margin is wanted. */
export function FlightSheet() {
  const { design, edit } = useDesk();
  const { flight } = design;
  const put = (change: (f: FlightSaid) => void) => edit((d) => change(d.flight));
  const known = (key: keyof typeof DIMENSION, label: string, empty: string) => {
    const value = flight[key];
    const dimension = DIMENSION[key];
    return (
      <span className="flex items-center gap-1">
        <QuantityField
          boxed
          label={label}
          value={value?.value ?? null}
          dimension={dimension}
          schema={positiveOf(dimension)}
          empty={empty}
          onCommit={(v) =>
            put((f) => void (f[key] = v === null ? null : { value: v, evidence: value?.evidence ?? "guess" }))
          }
        />
        {value && (
          <EvidenceSelect
            label={`${label}, known by`}
            value={value.evidence}
            onChange={(evidence) => put((f) => void (f[key] = { value: value.value, evidence }))}
          />
        )}
      </span>
    );
  };
  return (
    <section aria-label="How it flies" className="flex max-w-md flex-col gap-2 px-4 py-3 text-[12px]">
      <Line label="Described">
        <label className="flex min-h-6 items-center gap-2">
          <input
            type="checkbox"
            checked={flight.whole}
            onChange={(e) => put((f) => void (f.whole = e.target.checked))}
          />
          every wing, tail, fin and body is described
        </label>
      </Line>
      <Line label="Least margin" hint="of the mean chord; common practice 5 to 15 %">
        <QuantityField
          boxed
          label="Least static margin"
          value={flight.margin}
          dimension="percent"
          schema={flightSchema.shape.margin.unwrap() as z.ZodType<number>}
          empty={`${100 * LEAST_MARGIN} %`}
          onCommit={(v) => put((f) => void (f.margin = v))}
        />
      </Line>
      <Line
        label="Height in flight"
        hint="of the baseline over ground or water; within a chord or two the ground carries"
      >
        {known("height", "Height in flight", "far above")}
      </Line>
      {design.surfaces.some((s) => s.medium === "water") && (
        <Line
          label="Water stands at"
          hint="height above the baseline when its foils carry it: what is above does nothing, near it they lift less"
        >
          {known("waterline", "Water on the foils", "not said")}
        </Line>
      )}
      <Line label="Launch">
        <select
          className="box"
          aria-label="Launch"
          value={flight.launch}
          onChange={(e) => put((f) => void (f.launch = e.target.value as FlightSaid["launch"]))}
        >
          {LAUNCHES.map((l) => (
            <option key={l}>{l}</option>
          ))}
        </select>
      </Line>
      {(flight.launch === "wheels" || flight.launch === "skids") && (
        <Line
          label="Pull on the ground"
          hint={
            "over its weight, from a scale that pulls it along; common practice: hard floor 0.03 to 0.05, " +
            "short grass 0.1 to 0.2, skids on ice 0.03 to 0.1"
          }
        >
          {known("rolling", "Pull on the ground", "not said")}
        </Line>
      )}
      {flight.launch === "rail or bungee" && <Cord />}
      {flight.torque && (
        <Line label="Torque at full throttle" hint="about its length, as it was weighed on the bench, standing">
          {known("torque", "Torque weighed", "as computed")}
        </Line>
      )}
      {flight.steering && (
        <Line label="Steering at full command" hint="yaw, as it was weighed on the bench, standing">
          {known("steering", "Steering weighed", "as computed")}
        </Line>
      )}
      <Line label="Let go at" hint="speed when it leaves hand, rail or ground">
        {known("launchSpeed", "Speed at release", "not said")}
      </Line>
    </section>
  );
}
