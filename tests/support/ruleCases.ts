import { usualState } from "../../core/design/schema";
import { type Design, type Learned, type Regulator, type Unit, newWalkBack, newPhase } from "../../core/design/schema";
import { part } from "./designs";

const parent = { label: "v1", mass: 0.9 };
const unit = (d: Design) => {
  const u = d.units[0];
  if (!u) throw new Error("no unit");
  return u;
};
const item = (d: Design, id: string) => {
  const i = d.items.find((x) => x.id === id);
  if (!i) throw new Error(id);
  return i;
};
const target = (d: Design, id: string) => {
  const t = d.brief.targets.find((x) => x.id === id);
  if (!t) throw new Error(id);
  return t;
};
/** Asks for thrust in multiples of the weight, so that a heavier pack asks for more. */
const hovers = (d: Design) =>
  void (d.duty = [
    newPhase({ id: "h", name: "hover", seconds: 60, repeats: 1, by: "thrustToWeight", value: 0.6, unitIds: [] }),
  ]);
const known = (value: number) => ({ value, evidence: "measured" as const });

const rail = (change: Partial<Regulator>): Regulator => ({
  id: "r",
  name: "5 V rail",
  batteryId: "b",
  kind: "switching",
  voltage: 5,
  maxCurrent: 3,
  dropout: 1,
  efficiency: 0.85,
  loads: [{ id: "l", name: "servo", current: 0.1, peak: 0.8, minVoltage: 4.8 }],
  ...change,
});

const pack = (d: Design) => {
  const b = d.batteries[0];
  if (!b) throw new Error("no pack");
  return b;
};
/** A copy, of a draft too. */
const plain = (u: Unit): Unit => JSON.parse(JSON.stringify(u)) as Unit;
/** What a stand would have taught of the first drive; of another one where it is changed. */
const taught = (d: Design, change: (u: Pick<Unit, "motor">) => void = () => {}): Learned => {
  const { motor, controller, gear, propeller } = plain(unit(d));
  change({ motor });
  const one = { value: 1, sd: 0.02 };
  return {
    session: 1,
    craft: "Stand",
    kv: one,
    thrust: one,
    torque: one,
    throttle: [
      { command: 0, duty: 0 },
      { command: 1, duty: 1 },
    ],
    points: [],
    density: 1.2,
    of: { motor, controller, gear, propeller },
    pack: null,
  };
};
/** Each rule with a design on which it fires, and a near neighbour on which it is silent. */
export const RULE_CASES: [string, (d: Design) => void, (d: Design) => void, object?][] = [
  ["cg-outside", (d) => void (item(d, "pack").place.x = 0.36), (d) => void (item(d, "pack").place.x = 0.24)],
  ["cg-doubtful", (d) => void (item(d, "tail").placeSd = 0.2), (d) => void (item(d, "tail").placeSd = 0.05)],
  [
    "no-stop-line",
    (d) => void (d.schools.balance = "unstable on purpose"),
    (d) => {
      d.schools.balance = "unstable on purpose";
      d.walkBack = newWalkBack({ stop: 0.34, steps: 4, itemId: "pack", by: "slide" });
    },
  ],
  [
    "cg-height-doubtful",
    (d) =>
      void d.brief.targets.push({
        id: "cgz",
        metric: "cgZ",
        comparison: "between",
        value: 0.02,
        upper: 0.054,
        weight: "must",
      }),
    (d) =>
      void d.brief.targets.push({
        id: "cgz",
        metric: "cgZ",
        comparison: "between",
        value: 0.02,
        upper: 0.08,
        weight: "must",
      }),
  ],
  [
    "lasting-open",
    (d) => void (unit(d).surroundings = "boxed or ducted"),
    (d) => void (unit(d).surroundings = "free air"),
  ],
  [
    "net-mass-off",
    (d) => {
      d.gasLift = known(0.9);
      d.brief.targets.push({
        id: "net",
        metric: "netMass",
        comparison: "between",
        value: 0.001,
        upper: 0.01,
        weight: "must",
      });
    },
    (d) => {
      d.gasLift = known(0.915);
      d.brief.targets.push({
        id: "net",
        metric: "netMass",
        comparison: "between",
        value: 0.001,
        upper: 0.01,
        weight: "must",
      });
    },
  ],
  [
    "cavitation",
    (d) => {
      unit(d).surroundings = "in water";
      Object.assign(unit(d).propeller, { diameter: known(0.04), pitch: known(0.03) });
    },
    (d) => {
      unit(d).surroundings = "in water";
      Object.assign(unit(d).propeller, { diameter: known(0.04), pitch: known(0.03) });
      unit(d).motor.kv = known(300);
    },
  ],
  [
    "load-over-rating",
    (d) => void (d.duty = [newPhase({ id: "l", name: "run", by: "current", value: 60 })]),
    (d) => void (d.duty = [newPhase({ id: "l", name: "run", by: "current", value: 20 })]),
  ],
  ["cg-sideways", (d) => void (item(d, "pack").place.y = 0.04), (d) => void (item(d, "pack").place.y = 0.005)],
  [
    "cg-vertical",
    (d) =>
      void d.brief.targets.push({
        id: "cgz",
        metric: "cgZ",
        comparison: "between",
        value: 0.02,
        upper: 0.05,
        weight: "must",
      }),
    (d) =>
      void d.brief.targets.push({
        id: "cgz",
        metric: "cgZ",
        comparison: "between",
        value: 0.02,
        upper: 0.06,
        weight: "must",
      }),
  ],
  [
    "slide-short",
    (d) => {
      item(d, "pack").place.x = 0.42;
      item(d, "pack").slide = { from: 0.41, to: 0.45 };
    },
    (d) => {
      item(d, "pack").place.x = 0.42;
      item(d, "pack").slide = { from: 0.2, to: 0.45 };
    },
  ],
  [
    "outside-envelope",
    (d) => void (d.envelope = { min: { x: 0, y: -0.2, z: -0.1 }, max: { x: 0.64, y: 0.2, z: 0.4 } }),
    (d) => void (d.envelope = { min: { x: 0, y: -0.2, z: -0.1 }, max: { x: 0.66, y: 0.2, z: 0.4 } }),
  ],
  [
    "pair-unequal",
    (d) =>
      d.items.push(
        ...["left", "right"].map((s, i) =>
          part({
            id: s,
            name: `Fin ${s}`,
            mass: known(0.001 + 0.0001 * i),
            place: { x: 0.3, y: 0.1 * (2 * i - 1), z: 0 },
          }),
        ),
      ),
    (d) =>
      d.items.push(
        ...["left", "right"].map((s, i) =>
          part({
            id: s,
            name: `Fin ${s}`,
            mass: known(0.001 + 0.00001 * i),
            place: { x: 0.3, y: 0.1 * (2 * i - 1), z: 0 },
          }),
        ),
      ),
  ],
  [
    "pair-odd",
    (d) =>
      void d.items.push(
        part({ id: "w", mass: known(0.001), mirrored: true, quantity: 3, place: { x: 0.3, y: 0.1, z: 0 } }),
      ),
    (d) =>
      void d.items.push(
        part({ id: "w", mass: known(0.001), mirrored: true, quantity: 2, place: { x: 0.3, y: 0.1, z: 0 } }),
      ),
  ],
  [
    "ballast-share",
    (d) =>
      void d.items.push(part({ id: "lead", name: "Ballast", mass: known(0.09), place: { x: 0.3, y: 0, z: 0.05 } })),
    (d) =>
      void d.items.push(part({ id: "lead", name: "Ballast", mass: known(0.07), place: { x: 0.3, y: 0, z: 0.05 } })),
  ],
  ["surprise", (d) => void (item(d, "tail").planned = 0.06), (d) => void (item(d, "tail").planned = 0.07)],
  [
    "unweighed",
    (d) => void (item(d, "hull").mass = { value: 0.5, evidence: "datasheet" }),
    (d) => void (item(d, "pack").mass = { value: 0.2, evidence: "datasheet" }),
  ],
  [
    "conductor-current",
    (d) =>
      void d.conductors.push({
        id: "c",
        name: "Main switch",
        kind: "switch",
        batteryId: "b",
        unitId: null,
        resistance: 0,
        maxCurrent: 8,
      }),
    (d) =>
      void d.conductors.push({
        id: "c",
        name: "Main switch",
        kind: "switch",
        batteryId: "b",
        unitId: null,
        resistance: 0,
        maxCurrent: 20,
      }),
  ],
  [
    "brown-out",
    (d) => void d.regulators.push(rail({ dropout: 7 })),
    (d) => void d.regulators.push(rail({ dropout: 1 })),
  ],
  [
    "rail-current",
    (d) => void d.regulators.push(rail({ maxCurrent: 0.7 })),
    (d) => void d.regulators.push(rail({ maxCurrent: 0.9 })),
  ],
  [
    "spin-unmatched",
    (d) => {
      d.states = [usualState("rotors")];
      unit(d).direction = "up";
      unit(d).count = 2;
      item(d, "prop").quantity = 2;
    },
    (d) => {
      d.states = [usualState("rotors")];
      unit(d).direction = "up";
      unit(d).count = 2;
      unit(d).spin = "half each";
      item(d, "prop").quantity = 2;
    },
  ],
  [
    "sharing-unequal",
    (d) => {
      d.units.push({ ...plain(unit(d)), id: "d2", name: "second", motor: { ...unit(d).motor, maxCurrent: 60 } });
      unit(d).motor.maxCurrent = 13;
    },
    (d) => {
      d.units.push({ ...plain(unit(d)), id: "d2", name: "second", motor: { ...unit(d).motor, maxCurrent: 20 } });
      unit(d).motor.maxCurrent = 13;
    },
  ],
  [
    "never-closes",
    (d) => {
      hovers(d);
      target(d, "end").value = 9 * 3600;
    },
    (d) => {
      hovers(d);
      target(d, "end").value = 900;
    },
  ],
  [
    "pair-excludes",
    (d) => {
      target(d, "end").value = 4000;
      target(d, "auw").value = 0.95;
    },
    (d) => {
      target(d, "end").value = 4000;
      target(d, "auw").value = 1.6;
    },
  ],
  [
    "masked-failure",
    (d) => {
      unit(d).count = 3;
      item(d, "prop").quantity = 3;
    },
    (d) => {
      unit(d).count = 3;
      item(d, "prop").quantity = 3;
      target(d, "tw").value = 1.8;
    },
  ],
  [
    "fast-throttle",
    (d) => void (unit(d).motor = { ...unit(d).motor, resistance: known(0.009), kv: known(700) }),
    (d) => void (unit(d).motor = { ...unit(d).motor, resistance: known(0.05), kv: known(700) }),
  ],
  ["steep-change", (d) => void (unit(d).motor.maxCurrent = 12), (d) => void (unit(d).motor.maxCurrent = 24)],
  [
    "speed-short",
    (d) => {
      d.dragArea = known(0.02);
      d.brief.targets.push({ id: "v", metric: "speed", comparison: "atLeast", value: 20, weight: "must" });
    },
    (d) => {
      d.dragArea = known(0.02);
      d.brief.targets.push({ id: "v", metric: "speed", comparison: "atLeast", value: 8, weight: "must" });
    },
  ],
  [
    "duty-needs",
    (d) =>
      void (d.duty = [newPhase({ id: "p", name: "run", seconds: 60, repeats: 1, by: "speed", value: 8, unitIds: [] })]),
    (d) => {
      d.duty = [newPhase({ id: "p", name: "run", seconds: 60, repeats: 1, by: "speed", value: 8, unitIds: [] })];
      d.dragArea = known(0.02);
    },
  ],
  [
    "slide-outside",
    (d) => void (item(d, "pack").slide = { from: 0.24, to: 0.4 }),
    (d) => void (item(d, "pack").slide = { from: 0.21, to: 0.4 }),
  ],
  ["mass-over", (d) => void (target(d, "auw").value = 0.9), (d) => void (target(d, "auw").value = 0.95)],
  [
    "nothing-left",
    (d) => {
      target(d, "auw").value = 0.9;
      d.items.push(part({ id: "wing", mass: null, place: { x: 0.3, y: 0, z: 0.05 } }));
    },
    (d) => {
      target(d, "auw").value = 1;
      d.items.push(part({ id: "wing", mass: null, place: { x: 0.3, y: 0, z: 0.05 } }));
    },
  ],
  [
    "growth",
    (d) => void d.items.map((i) => (i.planned = 0.82 * (i.mass?.value ?? 0))),
    (d) => void d.items.map((i) => (i.planned = 0.85 * (i.mass?.value ?? 0))),
  ],
  [
    "growth",
    (d) => void (item(d, "hull").mass = known(0.75)),
    (d) => void (item(d, "hull").mass = known(0.6)),
    { parentMass: parent },
  ],
  [
    "mass-missing",
    (d) => void d.items.push(part({ id: "wing", mass: null, place: { x: 0.3, y: 0, z: 0.05 } })),
    (d) => void d.items.push(part({ id: "wing", mass: known(0.001), place: { x: 0.3, y: 0, z: 0.05 } })),
  ],
  ["count-differs", (d) => void (item(d, "prop").quantity = 2), (d) => void (item(d, "prop").quantity = 1)],
  ["size-over", (d) => void (target(d, "len").value = 0.6), (d) => void (target(d, "len").value = 0.66)],
  ["cost-over", (d) => void (target(d, "cost").value = 79), (d) => void (target(d, "cost").value = 81)],
  ["targets-missing", (d) => void (d.brief.targets = []), (d) => void (d.brief.targets = [target(d, "cg")])],
  ["thrust-short", (d) => void (target(d, "tw").value = 0.95), (d) => void (target(d, "tw").value = 0.7)],
  [
    "cannot-lift",
    (d) => void (d.states = [usualState("rotors")]),
    (d) => {
      d.states = [usualState("rotors")];
      unit(d).count = 2;
      item(d, "prop").quantity = 2;
    },
  ],
  [
    "lift-throttle",
    (d) => {
      d.states = [usualState("rotors")];
      unit(d).propeller.diameter = known(0.23);
    },
    (d) => {
      d.states = [usualState("rotors")];
      unit(d).count = 3;
    },
  ],
  ["motor-current", (d) => void (unit(d).motor.maxCurrent = 10), (d) => void (unit(d).motor.maxCurrent = 16)],
  [
    "controller-current",
    (d) => void (unit(d).controller.maxCurrent = 10),
    (d) => void (unit(d).controller.maxCurrent = 16),
  ],
  [
    "pack-current",
    (d) => void (d.batteries[0] && (d.batteries[0].cRating = 4)),
    (d) => void (d.batteries[0] && (d.batteries[0].cRating = 6)),
  ],
  [
    "pack-floor",
    (d) => void (d.batteries[0] && (d.batteries[0].cellResistance = known(0.15))),
    (d) => void (d.batteries[0] && (d.batteries[0].cellResistance = known(0.03))),
  ],
  ["cells-over", (d) => void (unit(d).controller.maxCells = 2), (d) => void (unit(d).controller.maxCells = 3)],
  ["endurance-short", (d) => void (target(d, "end").value = 3000), (d) => void (target(d, "end").value = 2000)],
  ["pack-too-big", (d) => void (target(d, "end").value = 600), (d) => void (target(d, "end").value = 1200)],
  ["pack-share", (d) => void (item(d, "pack").mass = known(0.65)), (d) => void (item(d, "pack").mass = known(0.5))],
  [
    "cold-pack",
    (d) => void (d.brief.environment.packTemperature = 2),
    (d) => void (d.brief.environment.packTemperature = 12),
  ],
  [
    "tip-speed",
    (d) => void (unit(d).motor = { ...unit(d).motor, kv: known(2600), resistance: known(0.012) }),
    (d) => void (unit(d).motor = { ...unit(d).motor, kv: known(1100), resistance: known(0.012) }),
  ],
  [
    "blade-stall",
    (d) => void (unit(d).propeller.pitch = known(0.19)),
    (d) => void (unit(d).propeller.pitch = known(0.11)),
  ],
  ["thrust-line", (d) => void (item(d, "prop").place.z = 0.15), (d) => void (item(d, "prop").place.z = 0.06)],
  [
    "drive-missing",
    (d) => void (d.units = []),
    (d) => {
      d.units = [];
      d.brief.targets = [target(d, "cg")];
    },
  ],
  [
    "rests-on-guess",
    (d) => {
      unit(d).motor.kv = { value: 1000, evidence: "guess" };
      target(d, "tw").value = 0.7;
    },
    (d) => {
      target(d, "tw").value = 0.7;
    },
  ],
  ["cg-open", (d) => void d.items.push(part({ id: "w", mass: null })), () => {}],
  ["cg-inside", () => {}, (d) => void d.items.push(part({ id: "w", mass: null }))],
  ["not-solved", (d) => void (pack(d).otherLoad = 5000), (d) => void (pack(d).otherLoad = 1)],
  ["currents-hold", () => {}, (d) => void (unit(d).motor.maxCurrent = 1)],
  [
    "sweep-stale",
    (d) => void (unit(d).learned = taught(d, (u) => void (u.motor.kv.value *= 1.2))),
    (d) => void (unit(d).learned = taught(d)),
  ],
  [
    "sweep-other-pack",
    (d) => void (unit(d).learned = { ...taught(d), pack: { ...pack(d), series: pack(d).series + 1 } }),
    (d) => void (unit(d).learned = { ...taught(d), pack: pack(d) }),
  ],
  [
    "copies-unmeasured",
    (d) => {
      unit(d).motor.kv.evidence = "datasheet";
      unit(d).count = 2;
    },
    (d) => void (unit(d).count = 2),
  ],
  [
    "thrust-unmeasured",
    (d) => {
      d.states = [usualState("rotors")];
      unit(d).motor.kv.evidence = "datasheet";
    },
    () => {},
  ],
  [
    "drive-not-covered",
    (d) => void (unit(d).surroundings = "not a propeller"),
    (d) => void (unit(d).surroundings = "in water"),
  ],
  ["drive-not-covered", (d) => void (unit(d).surroundings = "boxed or ducted"), () => {}],
  ["drive-not-covered", (d) => void (unit(d).surroundings = "overlapped or coaxial"), () => {}],
  [
    "drive-not-covered",
    (d) => {
      d.states = [usualState("submerged")];
      unit(d).surroundings = null;
    },
    (d) => void (d.states = [usualState("submerged")]),
  ],
  [
    "taken-by-around",
    (d) => Object.assign(unit(d), { count: 2, surroundings: "overlapped or coaxial", around: { kind: "coaxial" } }),
    () => {},
  ],
  ["surroundings-unsaid", (d) => void (unit(d).surroundings = null), () => {}],
  ["support-open", () => {}, (d) => void (d.states = [usualState("rotors")])],
  ["left-over", (d) => void d.items.push(part({ id: "w", name: "Wing", mass: null })), () => {}],
  [
    "not-feasible",
    (d) => {
      d.brief.targets[0] && (d.brief.targets[0].value = 0.93);
      d.items.push(part({ id: "w", name: "Wing", mass: null, size: { x: 0.3, y: 1.2, z: 0.02 } }));
    },
    (d) => void d.items.push(part({ id: "w", name: "Wing", mass: null, size: { x: 0.3, y: 1.2, z: 0.02 } })),
  ],
];
