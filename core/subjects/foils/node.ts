import type { Sure } from "../../numeric/doubt";
import { supportOf } from "../../design/support";
import { type Outcome, solved, subject } from "../../subject";
import { ahead } from "../axes/node";
import { balance } from "../balance/node";
import { lattice } from "../flight/latticeNode";
import { NOT_WHOLE, flight } from "../flight/node";
import { trimAt } from "../flight/trim";
import { mass } from "../mass/node";
import { propulsion } from "../propulsion/node";

export interface FoilsResult {
  /** what foils and struts alone take where they take least and make no waves, N, and the speed of that, m/s */
  drag: Sure;
  speed: number;
  /** m/s below which they make waves, which are not computed: slower they may take less, or more; null: none do */
  waves: number | null;
  /** m/s below which they do not carry it, without waves */
  least: number;
  /** N ahead, standing: moving it is less; null: not known */
  thrust: Sure | null;
  /** N that its hull commonly takes before it rises, from and to */
  hump: { from: number; to: number };
  /** Why the thrust is not known, or what the drag rests on and nobody said. */
  open: string[];
}

/** Speeds that are looked at, over the slowest. */
const FASTEST = 3;
const STEPS = 40;
/** Doubt of the drag due to lift so near the surface, as a share of it (judgement). */
const INDUCED = 0.15;
/** Share of its weight that a hull takes at its hump, before foils lift it (common practice: an eighth to a fifth). */
const HUMP = { from: 1 / 8, to: 1 / 5 };

/** What carries a craft on its foils takes, at the least, and what it has to push with. */
export const foils = subject({
  name: "foils",
  reads: ["states", "gasLift", "units", "batteries", "items", "surfaces", "flight"],
  needs: [propulsion, balance, mass, lattice, flight],
  compute(view, of): Outcome<FoilsResult> {
    if (!supportOf(view).ways.includes("wings"))
      return { status: "not covered", because: "it is not held up by wings" };
    const [wings, flown, at, ledger] = [of(lattice), of(flight), of(balance), of(mass)];
    if (wings.status !== "solved") return wings;
    if (flown.status !== "solved") return flown;
    const f = flown.result;
    if (!f.inWater) return { status: "not covered", because: "no foils carry it" };
    const stall = f.values.stallSpeed?.value;
    if (!f.at || !stall || at.status !== "solved" || ledger.status !== "solved")
      return { status: "missing", needs: ["how slow its foils carry it"] };
    const calm = Math.max(stall, f.waves);
    const points = Array.from({ length: STEPS + 1 }, (_, k) => calm * (1 + ((FASTEST - 1) * k) / STEPS)).flatMap(
      (v) => trimAt(wings.result, f.at as NonNullable<typeof f.at>, v) ?? [],
    );
    const [slow] = points.toSorted((a, b) => a.drag - b.drag);
    if (!slow) return { status: "missing", needs: ["a trim that carries it"] };
    const pressure = (f.density * slow.speed ** 2) / 2;
    const induced = Math.max(0, slow.drag - pressure * f.resistance.area);
    const drives = solved(of(propulsion));
    const { cg, cgSd } = at.result;
    const { thrust } = ahead(view, drives, cg, cgSd, null);
    const doubts = drives
      ? [...drives.unknown, ...drives.outside, ...drives.incomplete]
      : ["what its drives push with"];
    return {
      status: "solved",
      result: {
        drag: { value: slow.drag, sd: Math.hypot(pressure * f.resistance.sd, INDUCED * induced) },
        speed: slow.speed,
        waves: calm > stall ? calm : null,
        least: stall,
        thrust: doubts.length > 0 ? null : thrust,
        hump: { from: HUMP.from * f.weight, to: HUMP.to * f.weight },
        open: [
          ...(view.flight.whole ? [] : [NOT_WHOLE]),
          ...doubts.slice(0, 1),
          ...ledger.result.incomplete.slice(0, 1),
        ],
      },
    };
  },
});
