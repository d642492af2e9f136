import type { WeighInKind } from "../design/bench";
import type { Design } from "../design/schema";
import type { UnitHabit } from "../design/units";
import type { Reconciliation, Suspect } from "../bench/reconcile";
import type { WeighInResult } from "../bench/weighIn";
import { plain, show } from "./format";

export const KIND_WORD: Record<WeighInKind, string> = {
  total: "Total on one scale",
  parts: "Parts one by one",
  "two-scales": "Two scales",
  "three-scales": "Three scales",
  "knife-edge": "Knife edge",
  "level-and-tilted": "Level and tilted, for height",
};

export const KIND_TELLS: Record<WeighInKind, string> = {
  total: "mass",
  parts: "mass of each",
  "two-scales": "mass, x",
  "three-scales": "mass, x, y",
  "knife-edge": "x",
  "level-and-tilted": "mass, x, z",
};

/** What to do, step by step. */
export const PROCEDURE: Record<WeighInKind, string[]> = {
  total: [
    "Ready to run: pack, propeller, everything aboard.",
    "Zero the scale with the cradle on it, then put the craft on.",
    "Lift it off and put it on again between readings.",
  ],
  parts: [
    "Weigh what can be taken off; all pieces of an entry together.",
    "A light part on a coarse scale: weigh ten together and divide.",
    "Leave the others empty.",
  ],
  "two-scales": [
    "Two supports across the craft, on a scale each, the craft level fore and aft.",
    "Zero both with their supports on. Measure where each support touches, from the datum.",
    "Change the scales over once: if the result moves, one of them is wrong.",
  ],
  "three-scales": [
    "Three points, not in one line, on a scale each; the craft level both ways.",
    "Measure x from the datum and y from the centreline of each point.",
    "Small scales may take turns: two blocks of the same height stand in.",
  ],
  "knife-edge": [
    "Balance it on an edge across the craft, ready to run.",
    "Mark where it tips forward and where it tips back: enter both.",
    "A heavy craft: two pencils under a flat board.",
  ],
  "level-and-tilted": [
    "Two supports as for two scales, of one height on the craft. Read both level.",
    "Lift the front support until the craft stands nose up by 10° or more; measure the angle on the craft.",
    "Read both again. Nothing may slide, no fluid may run.",
  ],
};

export const WEIGHING_CAUTION =
  "Pack unplugged and propeller off, or the drive locked, while hands are near. A craft on supports can " +
  "roll: hold it until it rests.";

export const DOUBT_WORD: Record<WeighInResult["doubts"][number], string> = {
  "one-reading": "One reading only: lift it off and read again, twice.",
  scatter: "The readings scatter more than the scale's step: draught, a cable that pulls, a support that walks?",
  "supports-close": "The supports stand too close together to tell much: move them apart.",
  "outside-supports": "One support carries nothing: the CG lies at or beyond the other.",
  "load-changed": "Level and tilted do not add up to the same mass: something touched, or slid.",
  "little-tilt": "Tilted by less than 10°: the height is poorly known. Tilt further.",
};

const AXIS_WORD = { x: "x", y: "y", z: "z" } as const;

/** What a reconciliation found, in one or two sentences. */
export function reconciliationText(r: Reconciliation, habit: UnitHabit): string {
  const m = show(Math.abs(r.missing.value), r.missing.sd, "mass", habit);
  const amount = `${m.value}${m.sd ? ` ± ${m.sd}` : ""} ${m.unit}`;
  const place = Object.entries(r.at)
    .map(([axis, at]) => `${axis} ${plain(at.value, "length", habit, habit === "metric" ? 0 : 2)}`)
    .join(", ");
  const differs =
    r.missing.value > 0 ? `It weighs ${amount} more than the ledger` : `It weighs ${amount} less than the ledger`;
  switch (r.verdict) {
    case "agrees":
      return "Scale and ledger agree within what is known of both.";
    case "position":
      return Object.keys(r.at).length > 0
        ? `${differs}; that mass would have to sit at ${place}, outside the craft. An error of position: ` +
            "a part, or a support, is not where it is entered."
        : "The mass agrees, the CG does not. An error of position: something stands elsewhere than entered.";
    case "unlisted":
      return `${differs}, at ${place || "a place not told by this weigh-in"}: something aboard is in no entry.`;
    case "undecided":
      return (
        `${Math.abs(r.steps.mass) > 2 ? `${differs}${place ? `, at ${place}` : ""}` : "CG and mass together do not fit the ledger"}. ` +
        `Undecided: ${r.equal} entries explain it about equally. Weigh one of them.`
      );
    case "culprit":
      return (
        `${Math.abs(r.steps.mass) > 2 ? `${differs}${place ? `, at ${place}` : ""}` : "CG and mass together do not fit the ledger"}. ` +
        "One entry stands out."
      );
  }
}

/** What would be wrong about an entry, and by how much. */
export function suspectText(s: Suspect, design: Design, habit: UnitHabit): string {
  const name = design.items.find((i) => i.id === s.itemId)?.name ?? s.itemId;
  if (s.what === "mass") {
    const v = show(Math.abs(s.by), s.sd, "mass", habit);
    return `${name} is ${v.value}${v.sd ? ` ± ${v.sd}` : ""} ${v.unit} ${s.by > 0 ? "heavier" : "lighter"} than entered`;
  }
  const v = show(Math.abs(s.by), s.sd, "length", habit);
  const way = { x: ["forward", "aft"], y: ["to port", "to starboard"], z: ["lower", "higher"] }[AXIS_WORD[s.what]] as [
    string,
    string,
  ];
  return `${name} sits ${v.value}${v.sd ? ` ± ${v.sd}` : ""} ${v.unit} further ${way[s.by > 0 ? 1 : 0]} than entered`;
}
