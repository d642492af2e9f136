import type { CraftFile } from "../../core/design/craftFile";
import { type Design, emptyDesign } from "../../core/design/schema";
import { deg, edit, fault, grams, item, known, part, run, suspect, target, unit, type RunLine } from "./parts";

// ---------------------------------------------------------------- Tern: ground-effect skimmer over ice

const tern1: Design = {
  ...emptyDesign("wings"),
  brief: {
    purpose: "Skim a hand's breadth over lake ice, straight and level, for a quarter of an hour.",
    targets: [
      target("auw", "atMost", 1.5),
      target("thrustToWeight", "atLeast", 0.8),
      target("endurance", "atLeast", 15 * 60),
      target("cgX", "between", 0.318, "must", 0.344),
      target("length", "atMost", 0.9),
      target("width", "atMost", 0.4),
      target("cost", "atMost", 260, "wish"),
    ],
    environment: { altitude: 120, airTemperature: -6, packTemperature: 12, wind: 4 },
  },
  items: [
    part({ id: "nose", name: "Nose block", group: "Hull", grams: 22, at: [18, 0, 34], box: [36, 44, 30], source: "make", plan: 20, make: 40 }),
    part({ id: "prop", name: "Propeller", group: "Drive", grams: 22, by: "datasheet", at: [96, 0, 150], box: [10, 170, 170], cost: 6, plan: 22, on: "shaft" }),
    part({ id: "shaft", name: "Shaft and bearing", group: "Drive", grams: 21, by: "guess", at: [124, 0, 150], box: [30, 22, 22], cost: 9, plan: 18, on: "motor" }),
    part({ id: "motor", name: "Motor", group: "Drive", grams: 118, at: [154, 0, 150], box: [42, 36, 36], cost: 32, plan: 115 }),
    part({ id: "pylon", name: "Pylon", group: "Hull", grams: 52, by: "calculated", at: [162, 0, 96], box: [46, 14, 74], source: "make", plan: 45, hollow: true, make: 90 }),
    part({ id: "esc", name: "Speed controller", group: "Drive", grams: 49, at: [232, -22, 44], box: [50, 28, 12], slide: [180, 320], cost: 24, plan: 46 }),
    part({ id: "pack", name: "Battery, 3 cells", group: "Power", grams: 262, at: [270, 0, 38], placed: "measured", box: [128, 44, 26], slide: [190, 300], cost: 31, plan: 255 }),
    part({ id: "hull", name: "Hull shell", group: "Hull", grams: 208, at: [330, 0, 40], box: [470, 90, 52], source: "make", cost: 14, plan: 185, hollow: true, make: 600 }),
    part({
      id: "wing",
      name: "Wing panels",
      group: "Lift",
      n: 2,
      grams: 94,
      at: [372, 104, 58],
      box: [270, 118, 20],
      mirrored: true,
      source: "make",
      cost: 11,
      plan: 84,
      hollow: true,
      make: 240,
    }),
    part({ id: "skid", name: "Side skids", group: "Hull", n: 2, grams: 30, at: [372, 158, 12], box: [390, 12, 24], mirrored: true, source: "make", cost: 4, plan: 28, make: 60 }),
    part({ id: "radio", name: "Receiver", group: "Radio", grams: 12, at: [352, 16, 48], box: [46, 24, 12], slide: [300, 420], cost: 19, plan: 12 }),
    part({ id: "logger", name: "Logger with card", group: "Radio", grams: 28, by: "datasheet", at: [396, 16, 48], box: [40, 26, 14], slide: [300, 420], cost: 21, plan: 25 }),
    part({ id: "wires", name: "Wiring and plugs", group: "Radio", grams: 34, by: "guess", at: [300, 0, 44], placed: "guess", box: [180, 20, 10], cost: 6, plan: 28 }),
    part({ id: "boom", name: "Tail boom", group: "Tail", grams: 58, by: "datasheet", at: [640, 0, 66], box: [220, 16, 16], cost: 8, plan: 52 }),
    part({ id: "servo", name: "Tail servos", group: "Tail", n: 2, grams: 17, at: [596, 14, 66], box: [24, 12, 24], mirrored: true, cost: 10, plan: 17 }),
    part({ id: "tail", name: "Fin and tailplane", group: "Tail", grams: 92, by: "guess", at: [792, 0, 178], box: [100, 280, 130], source: "make", cost: 7, plan: 80, make: 150 }),
  ],
  batteries: [
    {
      id: "b1",
      name: "3 cells, 3.0 Ah",
      itemId: "pack",
      chemistry: "lipo",
      series: 3,
      capacity: known(3.0, "datasheet"),
      cellResistance: known(0.008, "measured", "charger"),
      cRating: 25,
      usable: 0.8,
      startCharge: 1,
      otherLoad: 4,
    },
  ],
  units: [
    {
      id: "d1",
      name: "Tractor on the pylon",
      count: 1,
      batteryId: "b1",
      propellerItemId: "prop",
      direction: "ahead",
      tilt: -1 * deg,
      throttleLimit: 1,
      reversible: false,
      spin: "clockwise",
      motor: { kv: known(1400, "datasheet"), resistance: known(0.045, "datasheet"), noLoadCurrent: known(1.1, "datasheet"), maxCurrent: 28 },
      controller: { resistance: known(0.004, "guess"), maxCurrent: 30, maxCells: 4 },
      gear: { ratio: 1, efficiency: { value: 0.995, evidence: "datasheet" } },
      propeller: { diameter: known(0.17, "datasheet"), pitch: known(0.1, "datasheet"), blades: 2, chord: known(0.019, "measured", "ruler") },
    },
  ],
  duty: [
    { id: "p1", name: "Full", seconds: 12, repeats: 1, unitIds: [], by: "throttle", value: 1 },
    { id: "p2", name: "Skim", seconds: 88, repeats: 1, unitIds: [], by: "thrust", value: 3.6 },
  ],
  schools: { balance: "stable", changes: "several at once", testing: "build, break, learn" },
  setup: [{ id: "s1", group: "Radio", name: "Fail-safe", value: "motor off, rudder centred" }],
};
for (const i of tern1.items) if (i.mass?.evidence === "calculated") i.mass.sd = 0.06 * i.mass.value;

const tern2 = edit(tern1, (d) => {
  item(d, "skid").name = "Side skids, steel edge";
  grams(d, "skid", 40.5, "measured");
  grams(d, "tail", 98, "guess");
  unit(d).propeller.diameter = known(0.18, "datasheet");
  item(d, "prop").size = { x: 0.01, y: 0.18, z: 0.18 };
  grams(d, "prop", 24, "datasheet");
});
const tern3 = edit(tern2, (d) => {
  item(d, "shaft").name = "Gear and shaft";
  grams(d, "shaft", 35, "guess");
  unit(d).gear = { ratio: 1.4, efficiency: { value: 0.95, evidence: "guess" } };
  unit(d).motor.kv = known(1900, "datasheet");
  unit(d).motor.resistance = known(0.03, "datasheet");
  unit(d).propeller.pitch = known(0.11, "datasheet");
  grams(d, "motor", 131, "measured");
});
const tern3b = edit(tern3, (d) => {
  item(d, "pylon").size.z = 0.044;
  item(d, "pylon").place.z = 0.08;
  for (const id of ["prop", "shaft", "motor"]) item(d, id).place.z = 0.112;
  grams(d, "pylon", 44, "measured");
  unit(d).tilt = 0;
});
const tern4 = edit(tern3, (d) => {
  grams(d, "pylon", 66, "measured");
  unit(d).tilt = -4 * deg;
  item(d, "tail").size = { x: 0.12, y: 0.31, z: 0.14 };
  grams(d, "tail", 114, "guess");
  grams(d, "pack", 340, "measured");
  item(d, "pack").name = "Battery, 3 cells, large";
  item(d, "pack").planned = 0.335;
  item(d, "pack").place.x = 0.294;
  item(d, "pack").size.x = 0.138;
  const pack = d.batteries[0];
  if (pack) {
    pack.name = "3 cells, 3.8 Ah";
    pack.capacity = known(3.8, "datasheet");
    pack.cellResistance = known(0.0065, "measured", "charger");
  }
  grams(d, "boom", 66, "datasheet");
});
const tern5 = edit(tern4, (d) => {
  grams(d, "tail", 118, "guess");
  grams(d, "boom", 64, "measured");
  item(d, "pack").place.x = 0.286;
  unit(d).propeller.diameter = known(0.19, "datasheet");
  item(d, "prop").size = { x: 0.01, y: 0.19, z: 0.19 };
  grams(d, "prop", 25, "datasheet");
  d.items.push(part({ id: "keeper", name: "Rod keepers", group: "Tail", n: 4, grams: 1, by: "guess", at: [690, 0, 70], box: [10, 6, 6], source: "make" }));
});

const scale = { resolution: 0.001, error: 0.0005 };
const POWER_READS: RunLine["read"] = ["packCurrent", "packVoltage"];
export const tern: CraftFile = {
  format: "ultraform-craft",
  formatVersion: 1,
  craft: { name: "Tern", summary: "ground-effect skimmer, ice", heldUpBy: "wings" },
  versions: [
    {
      label: "v1",
      parent: null,
      question: "Will it slide and gather speed?",
      finding: "skids froze in, would not slide",
      reason: "",
      claims: [],
      createdAt: "2025-12-01T18:00:00+01:00",
      frozenAt: "2025-12-08T11:10:00+01:00",
      design: tern1,
    },
    {
      label: "v2",
      parent: "v1",
      question: "Does it lift off?",
      finding: "short of thrust, no lift-off",
      reason: "Plastic skids froze to the ice; steel edges and wax should not.",
      claims: [{ metric: "Force to start moving", direction: "down", amount: "to under 4 N" }],
      createdAt: "2025-12-12T19:30:00+01:00",
      frozenAt: "2025-12-20T10:40:00+01:00",
      design: tern2,
    },
    {
      label: "v3",
      parent: "v2",
      question: "Does a reduction lift it?",
      finding: "nose up near 14 m/s",
      reason: "Thrust was short at standing; a hotter motor through a 1.4 reduction should give more.",
      claims: [{ metric: "thrust", direction: "up", amount: "by 20 %" }],
      createdAt: "2025-12-28T20:00:00+01:00",
      frozenAt: "2026-01-04T12:00:00+01:00",
      design: tern3,
    },
    {
      label: "v3b",
      parent: "v3",
      question: "Low pylon, no tilt: does the nose stay down?",
      finding: "level, but the propeller struck crust",
      reason: "The high thrust line was suspected for the rising nose.",
      claims: [{ metric: "noseAngle", direction: "down", amount: "under 5° at 14 m/s" }],
      createdAt: "2026-01-08T20:00:00+01:00",
      frozenAt: "2026-01-12T13:00:00+01:00",
      design: tern3b,
    },
    {
      label: "v4",
      parent: "v3",
      question: "Big tail, tilted motor: level to 17 m/s?",
      finding: "nose up near 17 m/s",
      reason: "Nose rises with speed: more tail, and the motor tilted 4° down. Larger pack for the time.",
      claims: [
        { metric: "noseAngle", direction: "down", amount: "under 8° at 17 m/s" },
        { metric: "endurance", direction: "up", amount: "by 20 %" },
      ],
      createdAt: "2026-01-15T20:00:00+01:00",
      frozenAt: "2026-01-24T11:00:00+01:00",
      design: tern4,
    },
    {
      label: "v5",
      parent: "v4",
      question: "CG where it belongs: does the nose stay down?",
      finding: "",
      reason: "The CG sat behind its window in v4. Larger propeller for the start.",
      claims: [{ metric: "cgX", direction: "down", amount: "into 318–344 mm" }],
      createdAt: "2026-02-01T19:00:00+01:00",
      frozenAt: null,
      design: tern5,
    },
  ],
  runs: [
    run({
      n: 1,
      v: "v1",
      date: "2025-12-08T11:10",
      stage: 1,
      purpose: "Do all surfaces move the right way?",
      outcome: "passed",
      notes: "Weighed and balanced at home the evening before.",
      read: ["auw", "cgX"],
    }),
    run({
      n: 2,
      v: "v1",
      date: "2025-12-08T11:40",
      stage: 2,
      purpose: "Does it pull at the tether?",
      outcome: "failed",
      notes: "Skids froze to the ice within a minute. Would not move at full throttle.",
      read: [...POWER_READS, "thrust", ["Force to start moving", "force"]],
    }),
    run({ n: 3, v: "v2", date: "2025-12-20T10:40", stage: 1, purpose: "Power-off checks", outcome: "passed", notes: "", read: ["auw", "cgX"] }),
    run({
      n: 4,
      v: "v2",
      date: "2025-12-20T11:05",
      stage: 2,
      purpose: "Tether pull with steel edges",
      outcome: "passed",
      notes: "Starts to slide by itself now.",
      read: [...POWER_READS, "thrust", ["Force to start moving", "force"]],
    }),
    run({
      n: 5,
      v: "v2",
      date: "2025-12-20T11:30",
      stage: 3,
      purpose: "Does it lift off in a straight slide?",
      outcome: "failed",
      notes: "Slid 80 m flat on the ice.",
      read: ["speed", "distance"],
      wind: 2.2,
    }),
    run({
      n: 6,
      v: "v3",
      date: "2026-01-04T12:00",
      stage: 2,
      purpose: "Tether pull with the reduction",
      outcome: "passed",
      notes: "",
      read: ["auw", "cgX", ...POWER_READS, "thrust", "rpm"],
    }),
    run({
      n: 7,
      v: "v3",
      date: "2026-01-04T12:35",
      stage: 3,
      purpose: "Lift-off and hold for three seconds",
      outcome: "passed",
      notes: "Lifted cleanly.",
      read: ["liftOffSpeed", "distance"],
    }),
    run({
      n: 8,
      v: "v3",
      date: "2026-01-04T13:10",
      stage: 4,
      purpose: "Straight 50 m",
      outcome: "failed",
      notes: "Nose rose past 11° near 14 m/s; cut the throttle.",
      read: ["speed", "noseAngle", "motorTemperature"],
      wind: 2.4,
    }),
    run({ n: 9, v: "v3b", date: "2026-01-12T13:00", stage: 3, purpose: "Lift-off with the low pylon", outcome: "passed", notes: "", read: ["auw", "cgX", "liftOffSpeed"] }),
    run({
      n: 10,
      v: "v3b",
      date: "2026-01-12T13:30",
      stage: 4,
      purpose: "Straight 50 m, low pylon",
      outcome: "failed",
      notes: "Level, then the propeller struck a crust ridge. One blade gone.",
      read: ["speed", "noseAngle"],
      surface: "refrozen crust ridges, 30 mm",
    }),
    run({
      n: 11,
      v: "v4",
      date: "2026-01-24T11:00",
      stage: 2,
      purpose: "Tether pull, large pack",
      outcome: "passed",
      notes: "",
      read: ["auw", "cgX", ...POWER_READS, "thrust", "rpm"],
    }),
    run({
      n: 12,
      v: "v4",
      date: "2026-01-24T11:40",
      stage: 4,
      purpose: "Straight 50 m",
      outcome: "passed",
      notes: "Steady at hand height.",
      read: ["liftOffSpeed", "speed", "noseAngle", "motorTemperature"],
    }),
    run({
      n: 13,
      v: "v4",
      date: "2026-01-31T15:10",
      stage: 4,
      purpose: "How long does a pack last?",
      outcome: "passed",
      notes: "Stopped at 80 % used, by charge returned.",
      read: ["endurance", "energyUsed"],
    }),
    run({
      n: 14,
      v: "v4",
      date: "2026-01-31T15:40",
      stage: 5,
      purpose: "Straight 100 m to 17 m/s",
      outcome: "failed",
      notes: "Near 17 m/s the nose kept rising. Cut throttle, settled tail first. No damage.",
      read: ["speed", "noseAngle", ...POWER_READS, "distance"],
      wind: 1.8,
    }),
  ],
  bench: [
    { number: 1, version: "v4", date: "2026-01-23T20:00:00+01:00", weighIn: { kind: "total", scale, loads: [0, 0, 0] }, notes: "", tested: [], adopted: "" },
    {
      number: 2,
      version: "v4",
      date: "2026-01-23T20:25:00+01:00",
      weighIn: {
        kind: "three-scales",
        scale,
        ruler: 0.001,
        at: [
          { x: 0.12, y: 0 },
          { x: 0.53, y: -0.15 },
          { x: 0.53, y: 0.15 },
        ],
        loads: [
          [0, 0, 0],
          [0, 0, 0],
          [0, 0, 0],
        ],
      },
      notes: "Hull on one block ahead, skids on two behind.",
      tested: [],
      adopted: "",
    },
    {
      number: 3,
      version: "v4",
      date: "2026-01-23T20:55:00+01:00",
      weighIn: {
        kind: "level-and-tilted",
        scale,
        ruler: 0.001,
        at: [0.12, 0.53],
        height: 0,
        level: [
          [0, 0, 0],
          [0, 0, 0],
        ],
        tilted: [
          [0, 0, 0],
          [0, 0, 0],
        ],
        angle: 0.35,
        angleSd: 0.009,
      },
      notes: "",
      tested: [],
      adopted: "",
    },
  ],
  faults: [
    fault({
      number: 1,
      run: 2,
      title: "Would not start to slide",
      symptom: "will-not-start-moving",
      seen: "Full throttle, skids stuck after one minute of standing.",
      state: "proven",
      cause: "Plastic skids melt a film that freezes at once.",
      fix: "Steel edges, waxed.",
      fixVersion: "v2",
      proofRun: 4,
      minutes: 90,
      cost: 4,
      suspects: [
        suspect("sticking", "Skids or hull stick or freeze to the surface", {
          for: "worked on carpet",
          test: "Pull it with a spring scale, fresh and after a minute",
          minutes: 10,
          result: "3.1 N fresh, 9 N after a minute",
          state: "ruled in",
        }),
        suspect("thrust", "Thrust short", {
          test: "Thrust on a scale against the pull to start moving",
          minutes: 15,
          result: "thrust as predicted within 10 %",
          against: "tether pull near the prediction",
          state: "ruled out",
        }),
      ],
    }),
    fault({
      number: 2,
      run: 5,
      title: "No lift-off in 80 m",
      symptom: "never-rotates",
      seen: "Slid flat, never rose.",
      state: "closed",
      cause: "Thrust short near standing.",
      fix: "Reduction 1.4 and a hotter motor.",
      fixVersion: "v3",
      minutes: 150,
      cost: 21,
      suspects: [
        suspect("thrust", "Thrust short", {
          for: "predicted below what was asked",
          test: "Thrust on a scale, tied down, loaded volts read",
          minutes: 20,
          result: "short of 0.45 of the weight",
          state: "ruled in",
        }),
        suspect("cg-forward", "CG too far forward", { against: "balanced inside the window", test: "Balance it", minutes: 10, result: "inside", state: "ruled out" }),
      ],
    }),
    fault({
      number: 3,
      run: 8,
      title: "Nose rises with speed",
      symptom: "climbs-backflips",
      seen: "Above 13 m/s the nose rises by itself.",
      severity: "danger",
      state: "unresolved",
      minutes: 60,
      suspects: [
        suspect("thrust-line", "Thrust line off the CG", {
          for: "branch with the low pylon stayed level",
          test: "Power pulses in a straight pass",
          minutes: 15,
          result: "unclear: one pulse only",
          state: "open",
        }),
      ],
    }),
    fault({
      number: 4,
      run: 10,
      title: "Propeller struck crust",
      symptom: "propeller-struck",
      seen: "Ridge of 30 mm met at full squat.",
      severity: "damage",
      damage: "one propeller",
      state: "cured, cause unknown",
      fix: "Went back to the high pylon.",
      fixVersion: "v4",
      minutes: 25,
      cost: 6,
    }),
    fault({
      number: 5,
      run: 12,
      title: "Logger stopped in the run",
      symptom: "resets",
      seen: "File ends after 40 s.",
      state: "open",
      minutes: 10,
      suspects: [suspect("plug", "Loose plug", { test: "Wiggle each by hand, power on, propeller off", minutes: 5 })],
    }),
    fault({
      number: 6,
      run: 14,
      title: "Nose rises near 17 m/s",
      symptom: "climbs-backflips",
      seen: "Same as F-03, later by 3 m/s.",
      severity: "danger",
      state: "open",
      minutes: 20,
      suspects: [suspect("cg-aft", "CG too far aft", { for: "balanced behind its window", test: "Glide or tow with power off; slide the pack forward in steps", minutes: 15 })],
    }),
  ],
};
