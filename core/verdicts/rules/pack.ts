import { CHEMISTRY, coldFactor } from "../../subjects/energy/battery";
import { packPatch } from "../../subjects/energy/packPatch";
import { type Finding, type Remedy, type Rule, type RuleInput, figureOf } from "../types";
import { figure, forEachPack, lessCurrent, ofPack, set, solveFor, withDrive } from "./solve";

function packOf(input: RuleInput, batteryId: string, capacity: number): Remedy[] {
  const made = packPatch(input.design, batteryId, capacity);
  return made ? [{ code: "fit-pack", params: { capacity, mass: made.mass }, patch: made.patch }] : [];
}

/** Pack current against capacity times C rating, everything on it at full throttle at once. */
export const packCurrent = forEachPack((input, { battery, values, sd, evidence }, i) => {
  const limit = battery.capacity.value * battery.cRating;
  const value = values.current;
  if (value <= limit) return [];
  const unit = input.design.units.find((u) => u.batteryId === battery.id) ?? input.unit;
  return [
    {
      code: "pack-current",
      severity: value > 1.25 * limit ? "stop" : "care",
      station: "power",
      subject: battery.id,
      params: { factor: value / limit },
      figure: figure("pack current", value, sd.current, "current", evidence, limit),
      remedies: [...lessCurrent(input, unit, `pack ${battery.id}`, ofPack(i, "current"), limit).slice(-1), ...packOf(input, battery.id, (value / battery.cRating) * 1.02)],
    },
  ];
});

/** Cell voltage under full load at the start, against the floor of its chemistry. */
export const packFloor = forEachPack((input, { battery, values, sd, evidence }) => {
  const cell = values.voltage / battery.series;
  const { floor } = CHEMISTRY[battery.chemistry];
  if (cell >= floor) return [];
  return [
    {
      code: "pack-floor",
      severity: "stop",
      station: "power",
      subject: battery.id,
      params: { cell },
      figure: figure("cell voltage at full throttle", cell, sd.voltage / battery.series, "voltage", evidence, floor),
      remedies: packOf(input, battery.id, battery.capacity.value * 2),
    },
  ];
});

/** The pack that is spent first at the duty: its index, or −1. */
const firstSpent = (input: { result: { packs: { values: { endurance: number } }[] } }): number =>
  input.result.packs.reduce(
    (least, p, i) => (Number.isNaN(p.values.endurance) ? least : least < 0 || p.values.endurance < (input.result.packs[least]?.values.endurance ?? Infinity) ? i : least),
    -1,
  );

/** Endurance under its target. The remedy is the pack that reaches it, its own mass carried along. */
export const enduranceShort = withDrive((input) => {
  const { design, targets } = input;
  const spent = firstSpent(input);
  const battery = input.result.packs[spent]?.battery;
  return targets
    .filter((t) => t.target.metric === "endurance" && t.status === "missed" && t.target.comparison === "atLeast")
    .flatMap((t): Finding[] => {
      if (!t.predicted || !battery) return [];
      const patchFor = (capacity: number) => packPatch(design, battery.id, capacity)?.patch ?? { set: [], addItems: [] };
      const now = battery.capacity.value;
      const capacity = solveFor(input, patchFor, `endurance ${battery.id}`, ofPack(spent, "endurance"), t.target.value * 1.01, now, now * 5);
      return [
        {
          code: "endurance-short",
          severity: t.target.weight === "must" ? "stop" : "care",
          station: "power",
          subject: t.target.id,
          params: { share: t.predicted.value / t.target.value },
          figure: figureOf("endurance", t.predicted, t.target.value),
          remedies:
            capacity === null
              ? [
                  {
                    code: "ask-for",
                    params: { metric: "endurance", value: t.predicted.value },
                    patch: set(["brief", "targets", `#${t.target.id}`, "value"], t.predicted.value * 0.99),
                  },
                ]
              : packOf(input, battery.id, capacity),
        },
      ];
    });
});

/** A pack that lasts this many times longer than asked is out of proportion (common practice). */
const TOO_BIG = 2.5;
export const packTooBig = withDrive((input) => {
  const { design, targets } = input;
  const spent = firstSpent(input);
  const battery = input.result.packs[spent]?.battery;
  return targets
    .filter((t) => t.target.metric === "endurance" && t.target.comparison === "atLeast" && t.target.value > 0)
    .flatMap((t): Finding[] => {
      if (!t.predicted || !battery || t.predicted.value < TOO_BIG * t.target.value) return [];
      const patchFor = (capacity: number) => packPatch(design, battery.id, capacity)?.patch ?? { set: [], addItems: [] };
      const now = battery.capacity.value;
      const capacity = solveFor(input, patchFor, `endurance ${battery.id}`, ofPack(spent, "endurance"), t.target.value * 1.3, now * 0.1, now);
      return [
        {
          code: "pack-too-big",
          severity: "care",
          station: "power",
          subject: t.target.id,
          params: { times: t.predicted.value / t.target.value },
          figure: figureOf("endurance", t.predicted, t.target.value),
          remedies: capacity === null ? [] : packOf(input, battery.id, capacity),
        },
      ];
    });
});

/** Share of the all-up weight above which packs are out of proportion for this way of being held up (common practice). */
const PACK_SHARE = 0.45;
export const packShare: Rule = ({ metrics }) => {
  const share = metrics.packShare;
  if (!share || share.value <= PACK_SHARE) return [];
  return [
    {
      code: "pack-share",
      severity: "care",
      station: "power",
      subject: "packs",
      params: { share: share.value },
      figure: figureOf("packs' share of AUW", share, PACK_SHARE),
      remedies: [{ code: "advice", params: { text: "lighten" }, patch: null }],
    },
  ];
};

/** Below this a lithium pack's sag is worth a word (common practice), and the temperature to start it at. */
const COLD = 10;
const WARM = 15;
export const coldPack: Rule = ({ design }) => {
  const battery = design.batteries.find((b) => b.chemistry !== "nimh") ?? design.batteries[0];
  const { packTemperature } = design.brief.environment;
  if (!battery || packTemperature >= COLD) return [];
  return [
    {
      code: "cold-pack",
      severity: "care",
      station: "power",
      subject: battery.id,
      params: { temperature: packTemperature, factor: coldFactor(battery.chemistry, packTemperature) },
      figure: { label: "pack temperature", value: packTemperature, sd: 0, dimension: "temperature", evidence: "guess", limit: COLD },
      remedies: [{ code: "warm-pack", params: { temperature: WARM }, patch: set(["brief", "environment", "packTemperature"], WARM) }],
    },
  ];
};

export const packRules: Rule[] = [packCurrent, packFloor, enduranceShort, packTooBig, packShare, coldPack];
