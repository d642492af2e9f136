import type { Design } from "../../../core/design/schema";
import { newWalkBack } from "../../../core/design/schema";
import { measuredAs, scaleOnly } from "../curves";
import { elevator, panel, winged } from "../wings";
import { type RuleCase, item, target, unit } from "./change";

/** A winged craft with something about it changed. */
const but = (change: (d: Design) => void) => (d: Design) => {
  winged(d);
  change(d);
};
const flown = but(() => {});
const wing = (d: Design) => {
  const w = d.surfaces[0];
  if (!w) throw new Error("no wing");
  return w;
};
const tail = (d: Design) => {
  const t = d.surfaces[1];
  if (!t) throw new Error("no tail");
  return t;
};

const duty = (d: Design) => {
  const [phase] = d.duty;
  if (!phase) throw new Error("no duty");
  return phase;
};
const known = (value: number) => ({ value, evidence: "measured" as const });

/** The same surfaces as foils, the water so far above the baseline. */
const foils = (d: Design, waterline: number) => {
  for (const s of d.surfaces) s.medium = "water";
  d.flight.waterline = known(waterline);
};

/** On foils, with a drive in the water that was measured to push so hard ahead, N. */
const pushing = (newton: number) =>
  but((d) => {
    // So deep that they make no waves.
    foils(d, 3);
    d.bodies = [];
    const u = unit(d);
    Object.assign(u, { count: 1, direction: "ahead", tilt: 0, places: [], surroundings: "in water" });
    const readings = scaleOnly([0.25, 0.5, 0.75, 1].map((c) => [c, newton * c] as const));
    u.measured = measuredAs(readings, { on: "fresh water" });
  });

/** On foils under so much water over the baseline, in such waves, m. */
const inWaves = (waveHeight: number, waveLength: number, waterline: number) =>
  but((d) => {
    foils(d, waterline);
    d.bodies = [];
    d.flight.whole = true;
    Object.assign(d.brief.environment, { waveHeight, waveLength });
  });

/** On three wheels, one at its nose, the others so far back; it starts from them. */
const onWheels = (d: Design, back: number) => {
  Object.assign(d.flight, { launch: "wheels", rolling: known(0.05) });
  const foot = (id: string, x: number, y: number) => ({
    ...{ id, name: `${id} wheel`, itemId: null, at: { x, y, z: -0.02 }, mirrored: y > 0, placeBy: "measured" as const },
  });
  d.feet = [foot("nose", 0.1, 0), foot("main", back, 0.12)];
};

/** All of its parts have a size, its wings so much dihedral (°), its fin so much height (m). */
const sideways = (dihedral: number, fin: number, weight = 0.5) =>
  but((d) => {
    for (const i of d.items) if (i.size.y === 0) i.size = { x: 0.05, y: 0.05, z: 0.05 };
    item(d, "hull").mass = known(weight);
    wing(d).panels = [panel(0.55, 0.2, 0, dihedral)];
    const upright = d.surfaces[2];
    if (upright) upright.panels = [panel(fin, 0.1, 15, 90)];
  });

/** Rules of craft that fly on wings. */
export const WING_CASES: RuleCase[] = [
  ["spirals", sideways(-2, 0.3), sideways(16, 0.15)],
  ["swings", sideways(16, 0.03, 2), sideways(4, 0.25)],
  ["wings-not-whole", but((d) => void (d.flight.whole = false)), flown],
  ["window-beyond", but((d) => void (target(d, "cg").upper = 0.45)), flown],
  ["window-beyond", but((d) => void (target(d, "cg").value = 0.2)), flown],
  // A window that is itself a guess is not scolded: that of the wings stands in its place.
  [
    "window-beyond",
    but((d) => void (target(d, "cg").upper = 0.45)),
    but((d) => void Object.assign(target(d, "cg"), { upper: 0.45, evidence: "guess" })),
  ],
  // The brief allows it, the wings do not hold it: said, and not clear.
  [
    "behind-wings",
    but((d) => {
      target(d, "cg").upper = 0.6;
      item(d, "hull").place.x = 0.46;
    }),
    flown,
  ],
  [
    "cg-inside",
    flown,
    but((d) => {
      target(d, "cg").upper = 0.6;
      item(d, "hull").place.x = 0.46;
    }),
  ],
  [
    "no-window",
    but((d) => {
      // A short tail set to lift, and hardly any travel.
      tail(d).incidence = 0.2;
      tail(d).controls = [elevator(2, 15)];
    }),
    flown,
  ],
  [
    "pitch-doubles",
    but((d) => {
      d.schools.balance = "unstable on purpose";
      d.walkBack = newWalkBack({ stop: 0.45, steps: 4, itemId: "pack", by: "slide" });
    }),
    but((d) => {
      d.schools.balance = "unstable on purpose";
      d.walkBack = newWalkBack({ stop: 0.3, steps: 4, itemId: "pack", by: "slide" });
    }),
  ],
  ["stall-first", but((d) => void (wing(d).panels = [panel(0.55, 0.04)])), flown],
  // Nose-heavy: the tail that holds the nose up lets go before the wing.
  [
    "stall-first",
    but((d) => {
      item(d, "hull").place.x = 0.24;
      tail(d).section.family = "flat plate";
      tail(d).controls = [elevator(60)];
    }),
    flown,
  ],
  ["control-stop", but((d) => void (tail(d).controls = [elevator(4)])), flown],
  [
    "trim-takes",
    but((d) => {
      tail(d).incidence = 0.14;
      tail(d).controls = [elevator(12)];
    }),
    flown,
  ],
  [
    "launch-slow",
    but((d) => void (d.flight.launchSpeed = { value: 6, evidence: "measured" })),
    // A tail-sitter that rises straight up asks for no speed.
    but(
      (d) => void Object.assign(d.flight, { launchSpeed: { value: 6, evidence: "measured" }, launch: "straight up" }),
    ),
  ],
  [
    "twitchy",
    but((d) => {
      tail(d).controls = [{ ...elevator(40, 40), chord: 1 }];
      item(d, "hull").place.x = 0.36;
      Object.assign(unit(d).propeller, { pitch: known(0.16) });
      unit(d).motor.kv.value = 1400;
      d.dragArea = known(0.006);
    }),
    flown,
  ],
  [
    "may-flutter",
    but((d) => {
      wing(d).panels = [panel(1.1, 0.2)];
      d.dragArea = known(0.004);
      Object.assign(unit(d).propeller, { pitch: known(0.2) });
      unit(d).motor.kv.value = 1600;
    }),
    flown,
  ],
  ["yaw-away", but((d) => void (d.surfaces = d.surfaces.slice(0, 2))), flown],
  [
    "torque-roll",
    but((d) => {
      unit(d).spin = "clockwise";
      wing(d).panels = [panel(0.25, 0.2)];
      unit(d).propeller.diameter.value = 0.26;
    }),
    but((d) => {
      unit(d).spin = "half each";
      wing(d).panels = [panel(0.25, 0.2)];
      unit(d).propeller.diameter.value = 0.26;
    }),
  ],
  [
    "torque-roll",
    but((d) => {
      unit(d).spin = "clockwise";
      wing(d).controls = [{ ...elevator(2, 2), id: "a", name: "Aileron", does: ["roll"], from: 0.9, to: 1 }];
    }),
    but((d) => {
      unit(d).spin = "clockwise";
      wing(d).controls = [{ ...elevator(20, 20), id: "a", name: "Aileron", does: ["roll"], from: 0.4, to: 1 }];
    }),
  ],
  // A motor too slow for its propeller.
  ["level-short", but((d) => void (unit(d).motor.kv.value = 400)), flown],
  ["climbs-little", but((d) => void (unit(d).motor.kv.value = 500)), flown],
  [
    "never-leaves",
    but((d) => Object.assign(d.flight, { launch: "wheels", rolling: known(0.8) })),
    but((d) => Object.assign(d.flight, { launch: "wheels", rolling: known(0.05) })),
  ],
  // Feet under its tail: full nose up has no arm about them.
  ["nose-late", but((d) => onWheels(d, 0.6)), but((d) => onWheels(d, 0.36))],
  [
    "duty-sinks",
    but((d) => Object.assign(duty(d), { by: "throttle", value: 0.25 })),
    but((d) => Object.assign(duty(d), { by: "throttle", value: 0.6 })),
  ],
  // Standing, a newton costs less than in flight.
  [
    "duty-beyond",
    but((d) => Object.assign(duty(d), { by: "thrust", value: 0.7 })),
    but((d) => Object.assign(duty(d), { by: "speed", value: 10 })),
  ],
  ["foils-take", pushing(0.2), pushing(9)],
  ["hump-takes", pushing(1.2), pushing(9)],
  ["wave-uncovers", inWaves(0.2, 8, 0.14), inWaves(0.2, 8, 0.5)],
  ["wave-throws", inWaves(0.4, 4, 0.8), inWaves(0.05, 4, 3)],
  ["foil-shallow", but((d) => foils(d, 0.14)), but((d) => foils(d, 0.5))],
  ["surface-far", but((d) => void (tail(d).at.x = 62)), flown],
  [
    "height-order",
    but((d) => {
      d.flight.height = { value: 0.02, evidence: "measured" };
      wing(d).incidence = 0.02;
      d.surfaces = d.surfaces.slice(0, 1);
    }),
    // With a tail large enough the two lie well apart.
    but((d) => {
      d.flight.height = { value: 0.02, evidence: "measured" };
      tail(d).panels = [panel(0.4, 0.12)];
    }),
  ],
  [
    "in-wash",
    but((d) => void (unit(d).places = [{ at: { ...item(d, "prop").place, z: 0.08 }, toward: { x: -1, y: 0, z: 0 } }])),
    but((d) => void (unit(d).places = [{ at: { ...item(d, "prop").place, z: 0.5 }, toward: { x: -1, y: 0, z: 0 } }])),
  ],
  ["support-open", () => {}, flown],
  // A window nobody stated is that of the wings, and no target of it is missed.
  [
    "targets-missing",
    (d) => void (d.brief.targets = d.brief.targets.filter((t) => t.id !== "cg")),
    but((d) => void (d.brief.targets = d.brief.targets.filter((t) => t.id !== "cg"))),
  ],
  [
    "cg-outside",
    but((d) => {
      d.brief.targets = d.brief.targets.filter((t) => t.id !== "cg");
      item(d, "hull").place.x = 0.48;
    }),
    but((d) => void (d.brief.targets = d.brief.targets.filter((t) => t.id !== "cg"))),
  ],
];
