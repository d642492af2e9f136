import { usualState } from "../../../core/design/schema";
import { newWalkBack } from "../../../core/design/schema";
import { part } from "../designs";
import { type RuleCase, parent, unit, item, target, known } from "./change";

/** Rules of mass, balance, size, cost and the brief. */
export const CRAFT_CASES: RuleCase[] = [
  [
    "disarms-aloft",
    (d) => {
      d.states = [usualState("rotors")];
      d.control = { disarm: "by the sticks", landing: "told by itself", linkLost: "not said" };
    },
    (d) => {
      d.states = [usualState("hull")];
      d.control = { disarm: "by the sticks", landing: "told by itself", linkLost: "not said" };
    },
  ],
  [
    "runs-on",
    (d) => void (d.control.linkLost = "goes on as it was"),
    (d) => void (d.control.linkLost = "comes back or lands by itself"),
  ],
  [
    "weak-hold",
    (d) => void (item(d, "pack").heldBy = ["hook-and-loop"]),
    (d) => void (item(d, "pack").heldBy = ["hook-and-loop", "strap"]),
  ],
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
            twinId: s === "left" ? "right" : "left",
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
            twinId: s === "left" ? "right" : "left",
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
    "places-unsaid",
    (d) => void d.items.push(part({ id: "w", mass: known(0.001), unplaced: ["z"], place: { x: 0.3, y: 0, z: 0 } })),
    (d) => void d.items.push(part({ id: "w", mass: known(0.001), place: { x: 0.3, y: 0, z: 0 } })),
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
  ["pack-share", (d) => void (item(d, "pack").mass = known(0.65)), (d) => void (item(d, "pack").mass = known(0.5))],
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
