import { FORMAT_VERSION } from "../../core/design/craftFile";
import type { CraftFileInput } from "../../core/design/craftFile";
import { type Design, type Unit, emptyDesign, newPhase } from "../../core/design/schema";
import { edit, item, known, part, run, target, unit, setting } from "./parts";

// ---------------------------------------------------------------- Lantern: small helium hybrid airship

/** The same small drive five times, pushing different ways. */
const fan = (id: string, name: string, direction: Unit["direction"], count: number, spin: Unit["spin"], itemId: string): Unit => ({
  id,
  name,
  count,
  batteryId: "b1",
  propellerItemId: itemId,
  learned: null,
  motorItemId: null,
  controllerItemId: null,
  direction,
  tilt: 0,
  throttleLimit: 1,
  reversible: true,
  surroundings: "free air",
  spin,
  motor: { kv: known(4700, "datasheet"), resistance: known(0.42, "datasheet"), noLoadCurrent: known(0.12, "datasheet"), maxCurrent: 2.4 },
  controller: { resistance: known(0.02, "guess"), maxCurrent: 4, maxCells: 2 },
  gear: { ratio: 1, efficiency: { value: 1, evidence: "measured", sd: 0 } },
  propeller: { diameter: known(0.065, "datasheet"), pitch: known(0.035, "datasheet"), blades: 2, chord: known(0.009, "measured", "ruler") },
});

const lantern1: Design = {
  ...emptyDesign("gas"),
  brief: {
    purpose: "Hang a camera still under the roof of a hall, sink when anything dies, and cross the hall in a minute.",
    targets: [
      target("netMass", "between", 0.004, "must", 0.03),
      target("thrust", "atLeast", 0.3),
      target("endurance", "atLeast", 12 * 60),
      target("speed", "atLeast", 1.2),
      target("cgX", "between", 0.45, "must", 0.49),
      target("length", "atMost", 1.2),
    ],
    environment: { altitude: 30, airTemperature: 18, packTemperature: 20, wind: 0.8 },
  },
  items: [
    part({ id: "envelope", name: "Envelope, film", group: "Gas cell", grams: 212, at: [440, 0, 330], box: [880, 560, 520], source: "make", hollow: true, plan: 200 }),
    part({ id: "valve", name: "Valve and patch", group: "Gas cell", grams: 9, at: [300, 0, 66], box: [30, 30, 12] }),
    part({ id: "fins", name: "Tail fins", group: "Gas cell", n: 4, grams: 11, by: "guess", at: [850, 0, 330], box: [130, 380, 380], source: "make", hollow: true, plan: 9 }),
    part({ id: "gondola", name: "Gondola", group: "Gondola", grams: 62, at: [420, 0, 34], box: [260, 90, 60], source: "make", hollow: true, plan: 55 }),
    part({ id: "pack", name: "Battery, 2 cells", group: "Gondola", grams: 54, at: [400, 0, 24], box: [72, 32, 16], slide: [330, 500], cost: 14, plan: 54 }),
    part({ id: "board", name: "Receiver and controllers", group: "Gondola", grams: 38, by: "datasheet", at: [450, 0, 30], box: [60, 36, 12], cost: 48, plan: 36 }),
    part({ id: "camera", name: "Camera", group: "Gondola", grams: 47, at: [345, 0, 22], box: [40, 34, 30], cost: 60, plan: 47 }),
    part({ id: "arms", name: "Side arms", group: "Drives", n: 2, grams: 8, by: "guess", at: [430, 150, 40], box: [10, 240, 8], mirrored: true, source: "make", plan: 7 }),
    part({
      id: "side",
      name: "Side fans",
      group: "Drives",
      n: 2,
      grams: 14,
      by: "datasheet",
      at: [430, 270, 42],
      box: [30, 65, 65],
      mirrored: true,
      cost: 9,
      plan: 13,
      on: "arms",
    }),
    part({ id: "lift-f", name: "Lift fan, fore", group: "Drives", grams: 14, by: "datasheet", at: [300, 0, 20], box: [65, 65, 26], cost: 9, plan: 13 }),
    part({ id: "lift-a", name: "Lift fan, aft", group: "Drives", grams: 14, by: "datasheet", at: [545, 0, 20], box: [65, 65, 26], cost: 9, plan: 13 }),
    part({ id: "tail", name: "Tail fan", group: "Drives", grams: 14, by: "datasheet", at: [880, 0, 320], box: [26, 30, 65], cost: 9, plan: 13 }),
    part({ id: "wires", name: "Wires and plugs", group: "Gondola", grams: 16, by: "guess", at: [470, 0, 60], placed: "guess", box: [300, 10, 6], plan: 10 }),
  ],
  batteries: [
    {
      id: "b1",
      name: "2 cells, 0.85 Ah",
      itemId: "pack",
      chemistry: "lipo",
      series: 2,
      capacity: known(0.85, "datasheet"),
      cellResistance: known(0.022, "measured", "charger"),
      cRating: 25,
      usable: 0.8,
      startCharge: 1,
      otherLoad: 0.4,
    },
  ],
  units: [
    fan("u12", "Side fans", "ahead", 2, "half each", "side"),
    fan("u3", "Lift, fore", "up", 1, "clockwise", "lift-f"),
    fan("u4", "Lift, aft", "up", 1, "anticlockwise", "lift-a"),
    fan("u5", "Tail fan", "starboard", 1, "clockwise", "tail"),
  ],
  conductors: [
    { id: "c1", name: "Pack plug", kind: "plug", batteryId: "b1", unitId: null, resistance: 0.004, maxCurrent: 15 },
    { id: "c2", name: "Wire to each side fan", kind: "wire", batteryId: "b1", unitId: "u12", resistance: 0.06, maxCurrent: 3 },
  ],
  regulators: [
    {
      id: "r1",
      name: "5 V regulator",
      batteryId: "b1",
      kind: "switching",
      voltage: 5,
      maxCurrent: 1.5,
      dropout: 0.6,
      efficiency: 0.85,
      loads: [
        { id: "l1", name: "Receiver", current: 0.09, peak: 0.12, minVoltage: 3.6 },
        { id: "l2", name: "Camera", current: 0.42, peak: 0.7, minVoltage: 4.6 },
      ],
    },
  ],
  duty: [
    newPhase({ id: "p1", name: "Crossing", seconds: 60, repeats: 1, by: "speed", value: 1.0, unitIds: ["u12"] }),
    newPhase({ id: "p2", name: "Hanging", seconds: 240, repeats: 1, by: "throttle", value: 0.28, groundSpeed: 0 }),
  ],
  dragArea: known(0.032, "guess"),
  gasLift: { value: 0.51, evidence: "measured", sd: 0.006, note: "filled, weighed down on the kitchen scale" },
  setup: [setting("s1", "Radio", "fail-safe", "Fail-safe", "all fans stop: it sinks")],
};
const lantern2 = edit(lantern1, (d) => {
  item(d, "gondola").name = "Gondola, lighter";
  item(d, "gondola").mass = known(0.049, "datasheet");
  item(d, "camera").place.x = 0.36;
  unit(d).propeller.pitch = known(0.04, "datasheet");
});

export const lantern: CraftFileInput = {
  format: "ultraform-craft",
  formatVersion: FORMAT_VERSION,
  files: [],
  craft: { name: "Lantern", summary: "helium hybrid airship, five fans", heldUpBy: "gas" },
  versions: [
    {
      label: "v1",
      parent: null,
      question: "Do five fans hold it in the hall?",
      finding: "holds, but sinks too fast unpowered",
      reason: "",
      claims: [],
      createdAt: "2026-01-05T19:00:00+01:00",
      frozenAt: "2026-01-24T15:00:00+01:00",
      design: lantern1,
    },
    {
      label: "v2",
      parent: "v1",
      question: "Lighter gondola: does it only just sink?",
      finding: "",
      reason: "It hung 5 g heavier than allowed; the gondola is milled thinner.",
      claims: [{ metric: "netMass", direction: "down", amount: "by 13 g" }],
      createdAt: "2026-01-27T19:00:00+01:00",
      frozenAt: null,
      design: lantern2,
    },
  ],
  runs: [
    run({
      n: 1,
      v: "v1",
      date: "2026-01-24T15:00",
      stage: 3,
      purpose: "Hold still on the tether",
      outcome: "passed",
      notes: "Held within a metre for two minutes. Sank at 0.3 m/s with the fans off.",
      read: ["auw", "packCurrent", "packVoltage"],
      place: "hall",
      surface: "hall, a slight draught",
      air: 18,
      wind: 0,
      volts: 8.35,
    }),
    run({
      n: 2,
      v: "v1",
      date: "2026-01-24T15:40",
      stage: 4,
      purpose: "Cross the hall",
      outcome: "passed",
      notes: "Straight, both side fans at full throttle.",
      read: ["speed"],
      place: "hall",
      surface: "hall, a slight draught",
      air: 18,
      wind: 0,
      volts: 8.2,
    }),
  ],
  bench: [],
  faults: [],
};
