import type { Evidence } from "../../design/evidence";
import { evidenceByShare } from "../../design/evidence";
import type { Quantity, WorkingInput } from "../../design/quantity";
import { supportOf } from "../../design/support";
import { type Doubtful, sdOf, sharesOf } from "../../numeric/doubt";
import { type Outcome, doubtsOf, keysOf, subject } from "../../subject";
import { balance } from "../balance/node";
import { lattice } from "../flight/latticeNode";
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
  inputs: Input[];
  derivatives: Derivatives;
}
interface Input extends Omit<WorkingInput, "share" | "source"> {
  id: string;
}

/** Speeds that are told, over the stall speed. */
const TOLD = [AT_SPEED, 1.8, 2.6];
/** Doubt of each derivative by its method, as a share of it (judgement, from how strips and lattices compare). */
const METHOD = 0.2;

/** What is moved for the doubt: a derivative, by its name. */
const NAMED: { id: string; name: string; turn: "beta" | "p" | "r"; key: "l" | "n" }[] = [
  { id: "/lb", name: "Rolling away from a side wind", turn: "beta", key: "l" },
  { id: "/nb", name: "Turning into a side wind", turn: "beta", key: "n" },
  { id: "/lp", name: "Damping of rolling", turn: "p", key: "l" },
  { id: "/np", name: "Yaw by rolling", turn: "p", key: "n" },
  { id: "/lr", name: "Roll by yawing", turn: "r", key: "l" },
  { id: "/nr", name: "Damping of yawing", turn: "r", key: "n" },
];

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
    const { cg, inertia, inertiaSd } = at.result;
    if (!(inertia.roll > 0 && inertia.yaw > 0)) return { status: "missing", needs: ["the size of its parts"] };
    const inert: Inert = { mass: ledger.result.mass, roll: inertia.roll, yaw: inertia.yaw };
    const area = view.surfaces.reduce((s, w) => s + planformOf(w).area, 0);
    const profile = area > 0 ? Math.min(0.1, f.resistance.area / area) : 0;
    const slow = derivativesOf(l, cg, loadAt(f, stall * AT_SPEED), profile);
    if (!slow) return { status: "missing", needs: ["a trim that flies level"] };
    const modes = (d: Derivatives, i: Inert, speed: number) =>
      modesOf(equations(d, i, (f.density * speed ** 2) / 2, speed));
    const first = stall * AT_SPEED;
    const varied = NAMED.map(({ id, turn, key }) => {
      const d = { ...slow, [turn]: { ...slow[turn], [key]: slow[turn][key] * (1 + METHOD) } };
      return { id, modes: modes(d, inert, first) };
    });
    const heavier = (["roll", "yaw"] as const).map((k) => ({
      id: `/${k}`,
      modes: modes(slow, { ...inert, [k]: inert[k] + inertiaSd[k] }, first),
    }));
    const here = modes(slow, inert, first);
    const evidence: Evidence = at.result.inertiaEvidence;
    return {
      status: "solved",
      result: {
        at: TOLD.flatMap((over) => {
          const d = derivativesOf(l, cg, loadAt(f, stall * over), profile);
          return d ? [{ speed: stall * over, over, modes: modes(d, inert, stall * over) }] : [];
        }),
        lean: doubtful(grows(here), [...varied, ...heavier], grows),
        swing: doubtful(damps(here), [...varied, ...heavier], damps),
        derivatives: slow,
        inputs: [
          ...NAMED.map(({ id, name, turn, key }): Input => {
            const value = slow[turn][key];
            return { id, name, value, sd: METHOD * Math.abs(value), dimension: "ratio", evidence: "calculated" };
          }),
          ...(["roll", "yaw"] as const).map((k): Input => {
            const name = k === "roll" ? "Inertia, roll" : "Inertia, yaw";
            return { id: `/${k}`, name, value: inertia[k], sd: inertiaSd[k], dimension: "inertia", evidence };
          }),
        ],
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
      const shares = sharesOf(d);
      out[key] = {
        value: d.value,
        sd: sdOf(d),
        dimension: quantities[key].dimension,
        evidence: evidenceByShare(result.inputs.map((i) => ({ evidence: i.evidence, share: shares.get(i.id) ?? 0 }))),
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
  working(key, result): WorkingInput[] {
    const d = key === "leanGrowth" ? result.lean : result.swing;
    const shares = d ? sharesOf(d) : new Map<string, number>();
    return result.inputs
      .map(({ id, ...i }) => ({ ...i, share: shares.get(id) ?? 0, source: null }))
      .toSorted((a, b) => b.share - a.share);
  },
});

/** Load W/½ρV², m², at a speed. */
const loadAt = (f: { weight: number; density: number }, speed: number): number =>
  f.weight / ((f.density * speed ** 2) / 2);
