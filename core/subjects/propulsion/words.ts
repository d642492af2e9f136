import { type Evidence, evidenceByShare } from "../../design/evidence";
import type { WorkingInput } from "../../design/quantity";
import type { Unit } from "../../design/schema";
import { kindOf } from "./kinds/models";
import { type Doubtful, sharesOf } from "../../numeric/doubt";
import { type INPUT_KEYS, type PowerInput, inputId } from "./inputs";

/** Names of the drive's inputs as shown. */
export const INPUT_NAME: Record<(typeof INPUT_KEYS)[number], string> = {
  kv: "Kv",
  motorResistance: "Winding resistance",
  noLoadCurrent: "No-load current",
  controllerResistance: "Controller resistance",
  gearEfficiency: "Gear efficiency",
  diameter: "Propeller diameter",
  pitch: "Propeller pitch",
  chord: "Widest chord",
  kvFactor: "Kv, from the stand",
  thrustFactor: "Thrust, method or stand",
  torqueFactor: "Torque, method or stand",
  movingFactor: "Thrust moving, method",
  capacity: "Capacity",
  cellResistance: "Cell resistance",
  cellVoltage: "Cell curve, method",
  mass: "All-up weight",
  dragArea: "Drag area",
  waterDragArea: "Drag area in water",
  induced: "Drag due to lift, method",
  load: "Mean load",
  aroundFactor: "Thrust left by what is around",
  forceFactor: "Force, as measured",
  currentFactor: "Current, as measured",
  curveGap: "Curve between its points",
  voltageExponent: "How force goes with voltage",
};

/** Name of an input as shown. */
export const inputName = (i: Pick<PowerInput, "key" | "label">): string =>
  i.label ?? INPUT_NAME[i.key as (typeof INPUT_KEYS)[number]];

/** What a number of the drives came from: every input that moves it, with its share of the doubt; the largest first. */
export function inputsOf(inputs: readonly PowerInput[], of: Doubtful, several: boolean): WorkingInput[] {
  const shares = sharesOf(of);
  return inputs
    .filter((i) => shares.has(inputId(i)))
    .map(
      (i): WorkingInput => ({
        name: several && i.name !== "" ? `${i.name}: ${inputName(i)}` : inputName(i),
        value: i.value,
        sd: i.sd,
        dimension: i.dimension,
        evidence: i.evidence,
        share: shares.get(inputId(i)) ?? 0,
        source: i.of === "" ? null : { kind: "input", input: inputName(i), drive: several ? i.name : "" },
      }),
    )
    .sort((a, b) => b.share - a.share);
}

/** How well a number of the drives is known, by the inputs that really move it. */
export function knownBy(inputs: readonly PowerInput[], of: Doubtful): Evidence {
  const shares = sharesOf(of);
  return evidenceByShare(
    inputs.flatMap((i) =>
      shares.has(inputId(i)) ? [{ evidence: i.evidence, share: shares.get(inputId(i)) ?? 0 }] : [],
    ),
  );
}

export const ratioOutside = (ratio: number): string[] =>
  ratio < 0.3 || ratio > 1.2 ? [`pitch/diameter ${ratio.toFixed(2)} is outside 0.3 to 1.2`] : [];
/**
 * Propellers whose shape leaves the range of the method, standing or moving, each with its drive where there are
 * several.
 */
export const shapesOutside = (
  units: readonly Pick<Unit, "name" | "propeller" | "propulsor" | "measured">[],
): string[] =>
  units.flatMap((u) => {
    if (u.measured) return [];
    const said = u.propulsor
      ? kindOf(u.propulsor).outside(u.propulsor)
      : ratioOutside(u.propeller.pitch.value / u.propeller.diameter.value);
    return said.map((s) => (units.length > 1 ? `${u.name}: ${s}` : s));
  });
export const tipOutside = (mach: number): string[] =>
  mach > 0.75 ? [`tip Mach ${mach.toFixed(2)} is above 0.75`] : [];
