import { type Evidence, computedFrom } from "../../design/evidence";
import type { Quantity, WorkingInput } from "../../design/quantity";
import { supportOf } from "../../design/support";
import { type Doubtful, sdOf } from "../../numeric/doubt";
import { type Outcome, doubtsOf, keysOf, subject } from "../../subject";
import { balance } from "../balance/node";
import { BODY, type LatticeResult, type FlightInput, evidenceIn, lattice, shapeWorking } from "../flight/latticeNode";
import type { MassResult } from "../mass/rollup";
import type { Point } from "../../design/schema";
import { NOT_WHOLE, flight } from "../flight/node";
import { AT_SPEED } from "../flight/trim";
import { mass } from "../mass/node";
import { placesUnsaid, sizesUnsaid } from "../mass/placed";
import { planformOf } from "../surfaces/planform";
import { quantities } from "./declares";
import { type Derivatives, derivativesOf } from "./derivatives";
import { type Inert, type Modes, equations, modesOf } from "./modes";

/** Left to itself at one speed. */
export interface SidewaysAt {
  /** m/s, and over the stall speed */
  speed: number;
  over: number;
  modes: Modes;
}

export interface LateralResult {
  at: SidewaysAt[];
  /** growth of a lean at the first of those speeds, 1/s; null where none is apart */
  lean: Doubtful | null;
  /** damping of the swing there, of the critical; null where it does not swing */
  swing: Doubtful | null;
  /** what the doubt comes from, by its name in those */
  inputs: FlightInput[];
  derivatives: Derivatives;
}
/** Speeds that are told, over the stall speed. */
const TOLD = [AT_SPEED, 1.8, 2.6];
/** Doubt of each derivative by its method, as a share of it (judgement, from how strips and lattices compare). */
const METHOD = 0.2;

/** What is moved for the doubt: a derivative, by its name. */
const NAMED: { id: string; name: string; turn: "beta" | "p" | "r"; key: "l" | "n" }[] = [
  { id: "/lb", name: "Rolling away from a side wind, method", turn: "beta", key: "l" },
  { id: "/nb", name: "Turning into a side wind, method", turn: "beta", key: "n" },
  { id: "/lp", name: "Damping of rolling, method", turn: "p", key: "l" },
  { id: "/np", name: "Yaw by rolling, method", turn: "p", key: "n" },
  { id: "/lr", name: "Roll by yawing, method", turn: "r", key: "l" },
  { id: "/nr", name: "Damping of yawing, method", turn: "r", key: "n" },
];

/** A derivative by so much more. */
const withMore = (d: Derivatives, turn: "beta" | "p" | "r", key: "l" | "n", by: number): Derivatives => ({
  ...d,
  [turn]: { ...d[turn], [key]: d[turn][key] + by },
});

/** Each doubtful thing one standard uncertainty off: what it is, and the motions then. */
function variedBy(
  l: LatticeResult,
  { cg, cgSd, cgEvidence, inertia, inertiaSd, inertiaEvidence }: MassResult,
  d: { slow: Derivatives; inert: Inert; shape: Evidence; at: (cg: Point) => Derivatives | null },
  modes: (d: Derivatives, i: Inert) => Modes,
): { input: FlightInput; modes: Modes }[] {
  const { slow, inert, shape } = d;
  const method = ({ id, name, turn, key }: (typeof NAMED)[number]) => {
    // What the bodies turn away has a doubt of its own.
    const wings = slow[turn][key] + (id === "/nb" ? l.bodyYaw : 0);
    return {
      input: { id, name, value: 1, sd: METHOD, dimension: "ratio" as const, evidence: shape },
      modes: modes(withMore(slow, turn, key, METHOD * wings), inert),
    };
  };
  const moved = (["x", "z"] as const).flatMap((axis) => {
    const there = d.at({ ...cg, [axis]: cg[axis] + cgSd[axis] });
    const name = axis === "x" ? "CG, aft of datum" : "CG, height";
    const input = { id: `/cg${axis}`, name, value: cg[axis], sd: cgSd[axis], dimension: "length" as const };
    return there ? [{ input: { ...input, evidence: cgEvidence[axis] }, modes: modes(there, inert) }] : [];
  });
  const heavier = (["roll", "yaw"] as const).map((k) => {
    const input = { id: `/${k}`, name: `Inertia, ${k}`, value: inertia[k], sd: inertiaSd[k] };
    return {
      input: { ...input, dimension: "inertia" as const, evidence: inertiaEvidence },
      modes: modes(slow, { ...inert, [k]: inert[k] + inertiaSd[k] }),
    };
  });
  const body = { id: "/body", name: "Couple of the bodies, method", value: 1, sd: BODY, dimension: "ratio" as const };
  return [
    ...NAMED.map(method),
    ...(l.bodyYaw === 0
      ? []
      : [
          {
            input: { ...body, evidence: shape },
            modes: modes(withMore(slow, "beta", "n", -BODY * l.bodyYaw), inert),
          },
        ]),
    ...moved,
    ...heavier,
  ];
}

const grows = (m: Modes) => m.spiral;
const damps = (m: Modes) => m.swing?.damping ?? null;

/** A number of the motions with what each input does to it, one standard uncertainty each. */
function doubtful(
  here: number | null,
  others: readonly { id: string; modes: Modes }[],
  of: (m: Modes) => number | null,
): Doubtful | null {
  if (here === null) return null;
  const by: Record<string, number> = {};
  for (const { id, modes } of others) {
    const there = of(modes);
    if (there !== null) by[id] = there - here;
  }
  return { value: here, by };
}

/** Whether a craft on its wings, left to itself, leans on or swings. */
export const lateral = subject({
  name: "lateral",
  reads: ["states", "gasLift", "items", "surfaces", "bodies", "flight"],
  needs: [mass, balance, lattice, flight],
  gives: keysOf(quantities),
  compute(view, of): Outcome<LateralResult> {
    if (!supportOf(view).ways.includes("wings"))
      return { status: "not covered", because: "it is not held up by wings" };
    const [wings, flown, ledger, at] = [of(lattice), of(flight), of(mass), of(balance)];
    if (wings.status !== "solved") return wings;
    if (flown.status !== "solved") return flown;
    const [l, f] = [wings.result, flown.result];
    if (f.inWater)
      return { status: "not covered", because: "foils carry it: how they hold it sideways is not computed so far" };
    if (view.flight.height !== null)
      return { status: "not covered", because: "so near the ground the ground itself holds its wings level" };
    if (ledger.status !== "solved" || at.status !== "solved") return { status: "missing", needs: ["mass"] };
    const [open] = [
      ...placesUnsaid(view.items, "x", "y", "z"),
      ...sizesUnsaid(view.items),
      ...ledger.result.incomplete,
    ];
    if (open !== undefined) return { status: "missing", needs: [open] };
    const stall = f.values.stallSpeed?.value;
    if (!stall || !f.at) return { status: "missing", needs: ["how slow it flies"] };
    const { cg, inertia } = at.result;
    if (!(inertia.roll > 0 && inertia.yaw > 0)) return { status: "missing", needs: ["the size of its parts"] };
    const inert: Inert = { mass: ledger.result.mass, roll: inertia.roll, yaw: inertia.yaw };
    const area = view.surfaces.reduce((s, w) => s + planformOf(w).area, 0);
    const profile = area > 0 ? Math.min(0.1, f.resistance.area / area) : 0;
    const slow = derivativesOf(l, cg, loadAt(f, stall * AT_SPEED), profile);
    if (!slow) return { status: "missing", needs: ["a trim that flies level"] };
    const modes = (d: Derivatives, i: Inert, speed: number) =>
      modesOf(equations(d, i, (f.density * speed ** 2) / 2, speed));
    const first = stall * AT_SPEED;
    const varied = variedBy(
      l,
      at.result,
      {
        ...{ slow, inert },
        shape: computedFrom([...view.surfaces, ...view.bodies].map((s) => s.shapeBy)),
        at: (there) => derivativesOf(l, there, loadAt(f, first), profile),
      },
      (d, i) => modes(d, i, first),
    );
    const here = modes(slow, inert, first);
    const others = varied.map((v) => ({ id: v.input.id, modes: v.modes }));
    return {
      status: "solved",
      result: {
        at: TOLD.flatMap((over) => {
          const d = derivativesOf(l, cg, loadAt(f, stall * over), profile);
          return d ? [{ speed: stall * over, over, modes: modes(d, inert, stall * over) }] : [];
        }),
        lean: doubtful(grows(here), others, grows),
        swing: doubtful(damps(here), others, damps),
        derivatives: slow,
        inputs: varied.map((v) => v.input),
      },
    };
  },
  quantities(result, view): Partial<Record<keyof typeof quantities, Quantity>> {
    const out: Partial<Record<keyof typeof quantities, Quantity>> = {};
    for (const [key, d] of [
      ["leanGrowth", result.lean],
      ["swingDamping", result.swing],
    ] as const) {
      if (!d) continue;
      out[key] = {
        value: d.value,
        sd: sdOf(d),
        dimension: quantities[key].dimension,
        evidence: evidenceIn(result.inputs, d),
        ...doubtsOf([], view.flight.whole ? [] : [NOT_WHOLE]),
      };
    }
    return out;
  },
  lacks: (key, { lean, swing }) =>
    key === "leanGrowth" && !lean
      ? "no lean is apart from its swing"
      : key === "swingDamping" && !swing
        ? "it does not swing: what disturbs it dies down without"
        : null,
  working(key, { lean, swing, inputs }): WorkingInput[] {
    const d = key === "leanGrowth" ? lean : swing;
    return d ? shapeWorking(inputs, d) : [];
  },
});

/** Load W/½ρV², m², at a speed. */
const loadAt = (f: { weight: number; density: number }, speed: number): number =>
  f.weight / ((f.density * speed ** 2) / 2);
