import { blankAround } from "../../../core/subjects/propulsion/around/declares";
import { measuredAs, scaleOnly } from "../curves";
import { usualState } from "../../../core/design/schema";
import { newPhase } from "../../../core/design/schema";
import { kindAs, measuredTo } from "../kinds";
import { type RuleCase, unit, item, target, hovers, known, rail, pack, plain, taught, pairOf } from "./change";

/** Rules of drives, packs and what they give. */
export const DRIVE_CASES: RuleCase[] = [
  [
    "motor-stalls",
    (d) => void (unit(d).propulsor = kindAs("flapping wings")),
    (d) => {
      unit(d).propulsor = kindAs("flapping wings");
      unit(d).gear.ratio = 12;
    },
  ],
  [
    "wheels-spin",
    (d) => {
      d.states = [usualState("ground")];
      unit(d).propulsor = kindAs("wheel");
    },
    (d) => {
      d.states = [usualState("ground")];
      unit(d).propulsor = kindAs("wheel", { load: measuredTo(20) });
    },
  ],
  [
    "blade-pulls",
    (d) => void (unit(d).propulsor = kindAs("cycloidal rotor", { bladeMass: 0.01 })),
    (d) => void (unit(d).propulsor = kindAs("cycloidal rotor")),
  ],
  [
    "load-beyond",
    (d) => {
      d.states = [usualState("ground")];
      unit(d).propulsor = kindAs("wheel", { load: measuredTo(5) });
    },
    (d) => {
      d.states = [usualState("ground")];
      unit(d).propulsor = kindAs("wheel", { load: measuredTo(0.5) });
    },
  ],
  [
    "duct-takes",
    (d) => void (unit(d).propulsor = kindAs("ducted fan", { exit: measuredTo(0.0009) })),
    (d) => void (unit(d).propulsor = kindAs("ducted fan")),
  ],
  [
    "lasting-open",
    (d) => void (unit(d).around = [blankAround("openings")]),
    (d) => void (unit(d).surroundings = "in air"),
  ],
  [
    "load-over-rating",
    (d) => void (d.duty = [newPhase({ id: "l", name: "run", by: "current", value: 60 })]),
    (d) => void (d.duty = [newPhase({ id: "l", name: "run", by: "current", value: 20 })]),
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
  ["thrust-beside", (d) => void (item(d, "prop").place.y = 0.05), (d) => void (item(d, "prop").place.y = 0.002)],
  ["discs-overlap", (d) => pairOf(d, 0.09), (d) => pairOf(d, 0.11)],
  ["thrust-line", (d) => void (item(d, "prop").place.z = 0.15), (d) => void (item(d, "prop").place.z = 0.06)],
  [
    "drive-missing",
    (d) => void (d.units = []),
    (d) => {
      d.units = [];
      d.brief.targets = [target(d, "cg")];
    },
  ],
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
      unit(d).propulsor = kindAs("ducted fan");
      unit(d).count = 4;
    },
    (d) => void (unit(d).propulsor = kindAs("ducted fan")),
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
  ["drive-not-covered", (d) => void (unit(d).around = [blankAround("openings")]), () => {}],
  ["drive-not-covered", (d) => void (unit(d).around = [blankAround("overlap")]), () => {}],
  [
    "drive-not-covered",
    (d) => {
      d.states = [usualState("submerged")];
      unit(d).surroundings = null;
    },
    (d) => void (d.states = [usualState("submerged")]),
  ],
  [
    "in-stream",
    (d) => {
      item(d, "hull").place.x = 0.5;
      item(d, "hull").size = { x: 0.6, y: 0.2, z: 0.06 };
    },
    (d) => {
      item(d, "hull").place.x = 0.9;
    },
  ],
  ["taken-by-around", (d) => Object.assign(unit(d), { count: 2, around: [blankAround("coaxial")] }), () => {}],
  [
    "curve-unknown",
    (d) =>
      void (unit(d).measured = measuredAs(
        scaleOnly([
          [0.3, 1],
          [0.6, 2],
          [0.9, 3],
        ]),
      )),
    () => {},
  ],
  ["surroundings-unsaid", (d) => void (unit(d).surroundings = null), () => {}],
];
