import { type Design, type Item, newPhase } from "../../core/design/schema";
import { emptyDesign, newItem } from "../../core/design/schema";

/** A part with sensible defaults; all in SI. */
export const part = (p: Partial<Item> & { id: string }): Item =>
  newItem({
    name: p.id,
    mass: { value: 0.1, evidence: "measured" },
    placeEvidence: "measured",
    size: { x: 0, y: 0, z: 0 },
    ...p,
  });

const known = (value: number) => ({ value, evidence: "measured" as const });

/**
 * A small craft on which no rule fires a stop, a care or a note: the neighbour that each rule's test design differs
 * from in one thing.
 */
export function quietDesign(): Design {
  return {
    ...emptyDesign("wings"),
    brief: {
      purpose: "test",
      targets: [
        { id: "auw", metric: "auw", comparison: "atMost", value: 1.2, weight: "must" },
        { id: "tw", metric: "thrustToWeight", comparison: "atLeast", value: 0.5, weight: "must" },
        { id: "end", metric: "endurance", comparison: "atLeast", value: 1200, weight: "must" },
        { id: "cg", metric: "cgX", comparison: "between", value: 0.28, upper: 0.32, weight: "must" },
        { id: "len", metric: "length", comparison: "atMost", value: 0.8, weight: "must" },
        { id: "cost", metric: "cost", comparison: "atMost", value: 100, weight: "must" },
      ],
      environment: { altitude: 0, airTemperature: 15, packTemperature: 20, wind: 2 },
    },
    items: [
      part({
        id: "hull",
        mass: known(0.5),
        place: { x: 0.33, y: 0, z: 0.05 },
        size: { x: 0.6, y: 0.2, z: 0.06 },
        cost: 20,
      }),
      part({
        id: "pack",
        mass: known(0.2),
        place: { x: 0.22, y: 0, z: 0.05 },
        size: { x: 0.1, y: 0.04, z: 0.03 },
        slide: { from: 0.1, to: 0.4 },
        cost: 30,
      }),
      part({
        id: "motor",
        mass: known(0.12),
        place: { x: 0.1, y: 0, z: 0.06 },
        size: { x: 0.04, y: 0.04, z: 0.04 },
        cost: 25,
      }),
      part({
        id: "prop",
        mass: known(0.02),
        place: { x: 0.06, y: 0, z: 0.052 },
        size: { x: 0.01, y: 0.2, z: 0.2 },
        cost: 5,
      }),
      part({ id: "tail", mass: known(0.08), place: { x: 0.6, y: 0.0, z: 0.08 }, size: { x: 0.1, y: 0.3, z: 0.05 } }),
    ],
    batteries: [
      {
        id: "b",
        name: "pack",
        itemId: "pack",
        chemistry: "lipo",
        series: 3,
        capacity: known(2.2),
        cellResistance: known(0.008),
        cRating: 25,
        usable: 0.8,
        startCharge: 1,
        otherLoad: 3,
      },
    ],
    units: [
      {
        id: "d",
        name: "drive",
        count: 1,
        batteryId: "b",
        propellerItemId: "prop",
        learned: null,
        measured: null,
        places: [],
        copiesBecause: "",
        propulsor: null,
        around: [],
        motorItemId: null,
        controllerItemId: null,
        direction: "ahead",
        tilt: 0,
        throttleLimit: 1,
        reversible: false,
        surroundings: "in air",
        spin: "clockwise",
        motor: { kv: known(1000), resistance: known(0.06), noLoadCurrent: known(0.8), maxCurrent: 25 },
        controller: { resistance: { value: 0.004, evidence: "measured" }, maxCurrent: 30, maxCells: 4 },
        gear: { ratio: 1, efficiency: { value: 1, evidence: "measured", sd: 0 } },
        propeller: { diameter: known(0.2), pitch: known(0.11), blades: 2, chord: known(0.021) },
      },
    ],
    duty: [newPhase({ id: "p", name: "cruise", seconds: 60, repeats: 1, unitIds: [], by: "thrust", value: 2.6 })],
  };
}

/** The quiet design with one change. */
export function changed(change: (d: Design) => void): Design {
  const design = quietDesign();
  change(design);
  return design;
}
