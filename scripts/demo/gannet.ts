import { FORMAT_VERSION } from "../../core/design/craftFile";
import type { CraftFileInput } from "../../core/design/craftFile";
import { AXES, type Design, type Surface, emptyDesign, newPhase, plainState } from "../../core/design/schema";
import { PLAIN_UNIT, deg, known, part, target } from "./parts";

// ---------------------------------------------------------------- Gannet: hydrofoil trimaran, just begun

const foil = (of: Pick<Surface, "id" | "name" | "itemId" | "at" | "chord" | "panels"> & Partial<Surface>): Surface => ({
  medium: "water",
  incidence: 2 * deg,
  mirrored: true,
  shapeBy: "datasheet",
  section: { family: "thin and curved", zeroLift: null, most: null, drag: null },
  controls: [],
  ...of,
});

const gannet1: Design = {
  ...emptyDesign("hull"),
  states: [plainState("usual", "afloat", ["hull"]), plainState("foils", "on the foils", ["wings"])],
  transitions: [{ id: "x1", from: "usual", to: "foils", wholeTurns: false }],
  brief: {
    purpose: "Rise onto its foils by its own screw, run a mile along the shore, and come down upright.",
    targets: [
      target("auw", "atMost", 1.6),
      target("endurance", "atLeast", 8 * 60),
      target("cgX", "between", 0.43, "must", 0.5),
      target("width", "atMost", 0.6),
    ],
    environment: {
      altitude: 0,
      airTemperature: 12,
      packTemperature: 18,
      wind: 4,
      current: 0.2,
      waveHeight: 0.06,
      waveLength: 2.5,
    },
  },
  flight: {
    height: null,
    waterline: { value: 0.11, evidence: "guess" },
    launch: "water",
    launchSpeed: null,
    cord: null,
    rolling: null,
    torque: null,
    steering: null,
    weighedWith: "",
    whole: true,
    margin: null,
  },
  surfaces: [
    foil({
      id: "main-foil",
      name: "Main foil",
      itemId: "foil",
      at: { x: 0.38, y: 0, z: 0.012 },
      chord: 0.062,
      panels: [{ span: 0.21, chord: 0.04, sweep: 6 * deg, dihedral: 4 * deg, twist: 0 }],
    }),
    foil({
      id: "tail-foil",
      name: "Tail foil",
      itemId: "rudder",
      at: { x: 0.83, y: 0, z: 0.022 },
      chord: 0.042,
      incidence: 0,
      panels: [{ span: 0.095, chord: 0.03, sweep: 8 * deg, dihedral: 0, twist: 0 }],
    }),
    foil({
      id: "rudder",
      name: "Rudder strut",
      itemId: "rudder",
      at: { x: 0.82, y: 0, z: 0.022 },
      chord: 0.05,
      incidence: 0,
      mirrored: false,
      section: { family: "symmetric", zeroLift: null, most: null, drag: null },
      panels: [{ span: 0.17, chord: 0.05, sweep: -4 * deg, dihedral: 90 * deg, twist: 0 }],
      controls: [
        { id: "rudder", name: "Rudder", does: ["yaw"], from: 0, to: 1, chord: 0.9, up: 25 * deg, down: 25 * deg },
      ],
    }),
  ],
  bodies: [
    {
      id: "hull",
      name: "Main hull",
      y: 0,
      mirrored: false,
      across: "round",
      shapeBy: "datasheet",
      frames: [
        { x: 0, z: 0.235, width: 0.01, height: 0.03 },
        { x: 0.2, z: 0.21, width: 0.078, height: 0.078 },
        { x: 0.5, z: 0.205, width: 0.09, height: 0.084 },
        { x: 0.9, z: 0.22, width: 0.07, height: 0.055 },
      ],
    },
    {
      id: "floats",
      name: "Floats",
      y: 0.25,
      mirrored: true,
      across: "round",
      shapeBy: "datasheet",
      frames: [
        { x: 0.3, z: 0.228, width: 0.006, height: 0.015 },
        { x: 0.42, z: 0.22, width: 0.036, height: 0.04 },
        { x: 0.74, z: 0.226, width: 0.02, height: 0.026 },
      ],
    },
  ],
  items: [
    part({
      id: "shell",
      name: "Main hull, glass",
      group: "Hull",
      grams: 318,
      by: "datasheet",
      at: [455, 0, 208],
      box: [900, 90, 84],
      hollow: true,
      source: "make",
      cost: 22,
      make: 420,
    }),
    part({
      id: "float",
      name: "Floats, foam and film",
      group: "Hull",
      n: 2,
      grams: 41,
      by: "guess",
      at: [520, 250, 222],
      box: [440, 40, 42],
      mirrored: true,
      source: "make",
      cost: 6,
      make: 90,
    }),
    part({
      id: "beams",
      name: "Cross beams",
      group: "Hull",
      n: 2,
      grams: 33,
      by: "datasheet",
      at: [500, 0, 248],
      box: [200, 500, 12],
      hollow: true,
      source: "buy",
      cost: 9,
    }),
    part({
      id: "foil",
      name: "Main foil and strut",
      group: "Foils",
      grams: 126,
      by: "guess",
      at: [405, 0, 60],
      box: [66, 420, 190],
      hollow: true,
      source: "make",
      cost: 14,
      make: 300,
    }),
    part({
      id: "rudder",
      name: "Rudder strut and tail foil",
      group: "Foils",
      grams: 64,
      by: "guess",
      at: [845, 0, 90],
      box: [60, 190, 180],
      hollow: true,
      source: "make",
      cost: 8,
      make: 180,
    }),
    part({
      id: "pod",
      name: "Motor in its pod",
      group: "Drive",
      grams: 118,
      at: [852, 0, 58],
      box: [84, 34, 34],
      cost: 36,
    }),
    part({
      id: "screw",
      name: "Water screw, 3 blades",
      group: "Drive",
      grams: 11,
      at: [902, 0, 58],
      box: [16, 44, 44],
      source: "buy",
      cost: 12,
    }),
    part({
      id: "esc",
      name: "Speed controller",
      group: "Drive",
      grams: 46,
      at: [640, 0, 204],
      box: [52, 28, 16],
      cost: 31,
    }),
    part({
      id: "pack",
      name: "Battery, 3 cells",
      group: "Power",
      grams: 262,
      at: [420, 0, 196],
      box: [112, 38, 26],
      slide: [330, 520],
      cost: 28,
    }),
    part({
      id: "servo",
      name: "Rudder servo",
      group: "Control",
      grams: 19,
      at: [760, 0, 216],
      box: [32, 16, 30],
      cost: 14,
    }),
    part({
      id: "radio",
      name: "Receiver",
      group: "Control",
      grams: 14,
      at: [560, 0, 214],
      box: [36, 22, 12],
      cost: 24,
    }),
    {
      ...part({
        id: "pump",
        name: "Bilge pump",
        group: "Control",
        grams: 38,
        at: [600, 0, 190],
        box: [40, 30, 30],
        source: "buy",
        cost: 8,
      }),
      costMost: 14,
      unplaced: [...AXES],
      unsized: true,
    },
  ],
  batteries: [
    {
      id: "b1",
      name: "3 cells, 3.3 Ah",
      itemId: "pack",
      chemistry: "lipo",
      series: 3,
      capacity: known(3.3, "datasheet"),
      cellResistance: known(0.006, "guess"),
      cRating: 30,
      usable: 0.8,
      startCharge: 1,
      otherLoad: 3,
    },
  ],
  units: [
    {
      ...PLAIN_UNIT,
      id: "d1",
      name: "Screw under the rudder",
      batteryId: "b1",
      propellerItemId: "screw",
      motorItemId: "pod",
      controllerItemId: "esc",
      reversible: true,
      surroundings: "in water",
      around: [{ kind: "hull", stands: "clear of it" }],
      motor: {
        kv: known(1250, "datasheet"),
        resistance: known(0.06, "datasheet"),
        noLoadCurrent: known(1.1, "datasheet"),
        maxCurrent: 30,
      },
      controller: { resistance: known(0.005, "guess"), maxCurrent: 40, maxCells: 4 },
      propeller: {
        diameter: known(0.042, "datasheet"),
        pitch: known(0.048, "datasheet"),
        blades: 3,
        chord: known(0.014, "guess"),
      },
    },
  ],
  duty: [
    newPhase({ id: "p1", name: "Rise", seconds: 15, repeats: 1, unitIds: [], by: "throttle", value: 1 }),
    newPhase({ id: "p2", name: "On the foils", seconds: 75, by: "throttle", value: 0.6, stateId: "foils" }),
    newPhase({ id: "p3", name: "Afloat", seconds: 30, repeats: 1, unitIds: [], by: "throttle", value: 0.25 }),
  ],
  schools: { balance: "stable", changes: "one at a time", testing: "test rig first" },
};
/** The pump has its place, the tips no longer tear the water, and the foils carry it where its CG is. */
function secondOf(first: Design): Design {
  const next = structuredClone(first);
  const item = (id: string) => {
    const found = next.items.find((i) => i.id === id);
    if (!found) throw new Error(id);
    return found;
  };
  Object.assign(item("pump"), { unplaced: [], unsized: false, place: { x: 0.15, y: 0, z: 0.205 } });
  item("esc").place.x = 0.36;
  const pack = item("pack");
  pack.mass = known(0.18, "measured");
  pack.place.x = 0.26;
  pack.slide = { from: 0.24, to: 0.52 };
  item("foil").place = { x: 0.525, y: 0, z: 0.09 };
  const screw = item("screw");
  screw.size = { x: 0.016, y: 0.052, z: 0.052 };
  const pod = item("pod");
  pod.name = "Motor and gear in their pod";
  pod.mass = known(0.137, "measured");
  for (const b of next.batteries) Object.assign(b, { name: "3 cells, 2.2 Ah", capacity: known(2.2, "datasheet") });
  for (const u of next.units) {
    u.gear = { ratio: 3.2, efficiency: known(0.93, "guess") };
    u.propeller = {
      diameter: known(0.052, "measured"),
      pitch: known(0.045, "datasheet"),
      blades: 3,
      chord: known(0.017, "measured"),
    };
  }
  for (const s of next.surfaces) {
    if (s.id === "main-foil") s.at = { x: 0.5, y: 0, z: 0.05 };
    if (s.id === "tail-foil") {
      s.at.z = 0;
      for (const p of s.panels) p.span = 0.15;
    }
    if (s.id === "rudder") {
      s.at.z = 0;
      for (const p of s.panels) p.span = 0.19;
    }
  }
  item("rudder").size = { x: 0.06, y: 0.3, z: 0.2 };
  // Towed along the pier on a luggage scale: 2.2 N at 1.6 m/s.
  next.waterDragArea = { value: 0.00172, evidence: "measured", sd: 0.0002, note: "towed at 1.6 m/s" };
  next.waterDragAt = 1.6;
  next.brief.targets = next.brief.targets.map((t) =>
    t.metric === "cgX" ? target("cgX", "between", 0.44, "must", 0.52) : t,
  );
  return next;
}

export const gannet: CraftFileInput = {
  format: "ultraform-craft",
  formatVersion: FORMAT_VERSION,
  currency: "EUR",
  files: [],
  craft: { name: "Gannet", summary: "hydrofoil trimaran" },
  versions: [
    {
      label: "v1",
      parent: null,
      question: "Does one screw under the rudder lift it onto its foils?",
      finding:
        "On paper: the tips would tear the water long before full throttle, and with the pump anywhere " +
        "in the hull the CG lies behind what the foils hold.",
      reason: "",
      claims: [],
      createdAt: "2026-04-11T20:00:00+02:00",
      frozenAt: "2026-04-18T09:30:00+02:00",
      design: gannet1,
    },
    {
      label: "v2",
      parent: "v1",
      question:
        "Does a slower, larger screw take it up, with the main foil further back and the hull lighter in the tail?",
      finding: "",
      reason:
        "A gear of 3.2 and a screw of 52 mm; main foil 120 mm back and nearer to the surface; pump, " +
        "pack and controller forward.",
      claims: [],
      createdAt: "2026-04-18T10:00:00+02:00",
      frozenAt: null,
      design: secondOf(gannet1),
    },
  ],
  runs: [],
  bench: [],
  faults: [],
};
