import { type Design, type Learned, type Regulator, type Unit, newPhase } from "../../../core/design/schema";

export const parent = { label: "v1", mass: 0.9 };
export const unit = (d: Design) => {
  const u = d.units[0];
  if (!u) throw new Error("no unit");
  return u;
};
export const item = (d: Design, id: string) => {
  const i = d.items.find((x) => x.id === id);
  if (!i) throw new Error(id);
  return i;
};
export const target = (d: Design, id: string) => {
  const t = d.brief.targets.find((x) => x.id === id);
  if (!t) throw new Error(id);
  return t;
};
/** Asks for thrust in multiples of the weight, so that a heavier pack asks for more. */
export const hovers = (d: Design) =>
  void (d.duty = [
    newPhase({ id: "h", name: "hover", seconds: 60, repeats: 1, by: "thrustToWeight", value: 0.6, unitIds: [] }),
  ]);
export const known = (value: number) => ({ value, evidence: "measured" as const });

export const rail = (change: Partial<Regulator>): Regulator => ({
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

export const pack = (d: Design) => {
  const b = d.batteries[0];
  if (!b) throw new Error("no pack");
  return b;
};
/** A copy, of a draft too. */
export const plain = (u: Unit): Unit => JSON.parse(JSON.stringify(u)) as Unit;
/** What a stand would have taught of the first drive; of another one where it is changed. */
export const taught = (d: Design, change: (u: Pick<Unit, "motor">) => void = () => {}): Learned => {
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
    of: { motor, controller, gear, propeller, propulsor: null },
    pack: null,
  };
};
/** Two like units beside one another, their axes so far from the middle. */
export const pairOf = (d: Design, aside: number) => {
  unit(d).count = 2;
  unit(d).places = [1, -1].map((side) => ({
    at: { ...item(d, "prop").place, y: side * aside },
    toward: { x: -1, y: 0, z: 0 },
  }));
};

/** A rule, a design on which it speaks, a near one on which it is silent, and what else it is told. */
export type RuleCase = [string, (d: Design) => void, (d: Design) => void, object?];
