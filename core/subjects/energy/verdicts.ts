import type { TargetResult } from "../../design/targets";
import { sdOf } from "../../numeric/doubt";
import { type Found, type See, figureOf, verdict } from "../../subject";
import { plain } from "../../wording/format";
import { demand } from "../demand/node";
import { propulsion } from "../propulsion/node";
import { ONE_MINUTE, advice, askFor, figure, missed, ofPack, percent, set, solveFor, times } from "../say";
import { tryPatch } from "../../design/patch";
import { findRoot } from "../../numeric/root";
import { enduranceOf } from "../propulsion/nominal";
import { setUp } from "../propulsion/setup";
import { coldFactor } from "./battery";
import { byLoadAlone } from "./load";
import { energy } from "./node";
import { packOf } from "./packOf";
import { packPatch } from "./packPatch";

/** The pack that is spent first at the duty. */
const firstSpent = (see: See) => {
  const run = see.result(energy);
  return see.design.batteries.find((b) => b.id === run?.packs[run.first]?.id);
};
const timeTarget = (t: TargetResult) => t.target.metric === "endurance" && t.target.comparison === "atLeast";
const capacityFor = (see: See, wanted: number, low: number, high: number): number | null => {
  const battery = firstSpent(see);
  if (!battery) return null;
  const patchFor = (capacity: number) =>
    packPatch(see.design, battery.id, capacity)?.patch ?? { set: [], addItems: [] };
  if (byLoadAlone(see.design.duty)) {
    // What the pack was found to give needs no drive that can be computed.
    const k = see.design.batteries.indexOf(battery);
    const time = (capacity: number) => {
      const made = tryPatch(see.design, patchFor(capacity));
      const setup = made && setUp(made, new Map());
      const pack = setup?.packs[k];
      return (setup && pack && enduranceOf(setup, pack)?.seconds) ?? Number.NaN;
    };
    const found = findRoot(
      (c) => time(c) - wanted,
      low * battery.capacity.value,
      high * battery.capacity.value,
      1e-4 * battery.capacity.value,
    );
    return found.status === "converged" ? found.x : null;
  }
  return solveFor(
    see.design,
    patchFor,
    ofPack(battery.id, "endurance"),
    wanted,
    low * battery.capacity.value,
    high * battery.capacity.value,
    see.result(demand)?.levelDrag,
  );
};

/** Endurance under its target. The remedy is the pack that reaches it, its own mass carried along. */
const enduranceShort = verdict<{ share: number }>({
  find: (see) =>
    missed(see, timeTarget, "power", (t, p) => ({ params: { share: p.value / t.target.value }, label: "endurance" })),
  remedies(see, { about }, h) {
    const t = see.targets.find((x) => x.target.id === about);
    const battery = firstSpent(see);
    if (!t?.predicted || !battery) return [];
    const capacity = capacityFor(see, t.target.value * 1.01, 1, 5);
    return capacity === null
      ? [askFor(about, "time", t.predicted.value, t.predicted.value * 0.99, h)]
      : packOf(see.design, battery.id, capacity, h);
  },
  says: (p) => `Lasts ${percent(p.share)} of the time asked`,
});

/** A pack that lasts this many times longer than asked is out of proportion (common practice). */
const TOO_BIG = 2.5;
const packTooBig = verdict<{ times: number; wanted: number }>({
  find: (see) =>
    see.targets
      .filter((t) => timeTarget(t) && t.target.value > 0)
      .flatMap((t): Found<{ times: number; wanted: number }>[] =>
        t.predicted && t.predicted.value >= TOO_BIG * t.target.value
          ? [
              {
                page: "power",
                severity: "care",
                about: t.target.id,
                params: { times: t.predicted.value / t.target.value, wanted: t.target.value },
                figure: figureOf("endurance", t.predicted, t.target.value),
              },
            ]
          : [],
      ),
  remedies(see, { params }, h) {
    const battery = firstSpent(see);
    const capacity = capacityFor(see, params.wanted * 1.3, 0.1, 1);
    return battery && capacity !== null ? packOf(see.design, battery.id, capacity, h) : [];
  },
  says: (p) => `The pack lasts ${times(p.times)} the run time you asked for: bigger than you need`,
});

/** Below this a lithium pack's sag is worth a word (common practice), and the temperature to start it at. */
const COLD = 10;
const WARM = 15;
const coldPack = verdict<{ temperature: number; factor: number }>({
  find({ design }) {
    const battery = design.batteries.find((b) => b.chemistry !== "nimh") ?? design.batteries[0];
    const { packTemperature } = design.brief.environment;
    if (!battery || packTemperature >= COLD) return [];
    return [
      {
        page: "power",
        severity: "care",
        about: battery.id,
        params: { temperature: packTemperature, factor: coldFactor(battery.chemistry, packTemperature) },
        figure: figure("pack temperature", packTemperature, 0, "temperature", "guess", COLD),
      },
    ];
  },
  remedies: (_see, _found, h) => [
    {
      code: "warm-pack",
      text: `Start with the pack at ${plain(WARM, "temperature", h, 0)}`,
      patch: set(["brief", "environment", "packTemperature"], WARM),
    },
  ],
  says: (p, h) =>
    `Pack starts at ${plain(p.temperature, "temperature", h, 0)}: its resistance is ${times(p.factor)} ` +
    "that of a warm one",
});

/**
 * A regulator whose pack sags below what its rail or a load on it needs: at full throttle, or in the heaviest phase
 * near the end.
 */
const brownOut = verdict<{ rail: string; short: number }>({
  find(see) {
    const drives = see.result(propulsion);
    const run = see.result(energy);
    if (!drives) return [];
    return drives.packs.flatMap((pack) => {
      const lowest = Math.min(pack.values.voltage, run?.packs.find((p) => p.id === pack.id)?.lowest ?? Infinity);
      return see.design.regulators
        .filter((r) => r.batteryId === pack.id)
        .flatMap((r): Found<{ rail: string; short: number }>[] => {
          const needs = r.voltage + r.dropout;
          // How far it sags is not known where nobody read what a drive draws.
          if (!(lowest < needs)) return [];
          // The rail follows the pack down: what matters is whether anything on it stops.
          const rail = lowest - r.dropout;
          const strictest = Math.max(0, ...r.loads.map((l) => l.minVoltage));
          if (r.loads.length > 0 && strictest > 0 && rail >= strictest) return [];
          const limit = Math.min(needs, strictest > 0 ? strictest + r.dropout : needs);
          return [
            {
              page: "power",
              severity: "stop",
              about: r.id,
              params: { rail: r.name, short: limit - lowest },
              figure: figure("lowest pack voltage", lowest, pack.sd.voltage, "voltage", pack.evidence, limit),
            },
          ];
        });
    });
  },
  remedies: () => [advice("Move loads to a regulator of their own")],
  says: (p, habit) => `${p.rail} browns out: the pack sags ${plain(p.short, "voltage", habit)} below what it needs`,
});

/** How long it lasts is not computed for such drives: one minute at work tells it. */
const lastingOpen = verdict<Record<string, never>>({
  find(see) {
    const wanted = see.targets.some((t) => timeTarget(t));
    if (!wanted || see.design.batteries.length === 0 || see.of(energy).status !== "not covered") return [];
    return [{ page: "power", severity: "note", about: "endurance", params: {}, figure: null }];
  },
  remedies: () => [ONE_MINUTE],
  says: () => "How long it lasts is not computed for drives like these, and nothing was measured yet",
});

/** The mean load that the duty states is more than the pack is rated for. */
const loadOverRating = verdict<{ factor: number; limit: number }>({
  find(see) {
    const run = see.result(energy);
    if (!run || !byLoadAlone(see.design.duty)) return [];
    return run.packs.flatMap((p, i): Found<{ factor: number; limit: number }>[] => {
      const battery = see.design.batteries[i];
      const limit = battery ? battery.capacity.value * battery.cRating : Infinity;
      const { value } = p.meanCurrent;
      if (!(value > limit)) return [];
      return [
        {
          page: "power",
          severity: "stop",
          about: p.id,
          params: { factor: value / limit, limit },
          figure: figure(
            "mean pack current",
            value,
            sdOf(p.meanCurrent),
            "current",
            see.metrics.meanCurrent?.evidence ?? "guess",
            limit,
          ),
        },
      ];
    });
  },
  remedies: (see, { about }, h) => {
    const battery = see.design.batteries.find((b) => b.id === about);
    const current = see.result(energy)?.packs.find((p) => p.id === about)?.meanCurrent.value;
    return battery && current ? packOf(see.design, about, (1.02 * current) / battery.cRating, h) : [];
  },
  says: (p) => `The duty asks of the pack ${times(p.factor)} its rated current, on the mean`,
});

/** A phase of the duty at a speed, and no drag area to hold it against: endurance stays unknown until it is there. */
const dutyNeeds = verdict<{ what: string }>({
  find(see) {
    const asked = see.of(demand);
    const drives = see.of(propulsion);
    if (drives.status !== "solved" || asked.status !== "missing" || !asked.needs.includes("drag area")) return [];
    return [{ page: "power", severity: "note", about: "duty", params: { what: "drag area" }, figure: null }];
  },
  remedies: () => [advice("Time one straight run at full throttle: Power turns it into a drag area")],
  says: (p) => `Endurance waits for the ${p.what}`,
});

export const verdicts = {
  "endurance-short": enduranceShort,
  "pack-too-big": packTooBig,
  "cold-pack": coldPack,
  "brown-out": brownOut,
  "duty-needs": dutyNeeds,
  "lasting-open": lastingOpen,
  "load-over-rating": loadOverRating,
};
