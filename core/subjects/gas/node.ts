import type { Sure } from "../../numeric/doubt";
import { magnitudeSd } from "../../design/evidence";
import { supportOf } from "../../design/support";
import { type Outcome, subject } from "../../subject";
import { GRAVITY } from "../air/air";
import { air } from "../air/node";
import { balance } from "../balance/node";
import { mass } from "../mass/node";
import { placesUnsaid } from "../mass/placed";
import { bodyGives } from "../surfaces/bodyShape";
import type { BodyShape } from "../surfaces/declares";

/** What the weight does that hangs below the lift of its gas. */
export interface Hangs {
  /** name of the body that holds the gas */
  body: string;
  /** m of the middle of its lift over the CG */
  over: Sure;
  /** N·m that turn it back, for each radian of heel or pitch */
  stiff: Sure;
  /** rad, nose up positive, at which it hangs by itself: the CG plumb below the lift; null where it lies above it */
  rest: Sure | null;
}
export interface GasResult {
  /** kg of air that all described bodies displace, and what the gas is said to carry */
  displaced: Sure;
  carried: Sure;
  /** null: which body holds the gas is not known, or where the CG is */
  hangs: Hangs | null;
  /** why not; null where it is known */
  open: string | null;
}

/** Share of the air's mass that the lightest gas carries: 1 − 2.016/28.96 (hydrogen, molar masses); helium 0.862. */
export const MOST_LIFT = 1 - 2.016 / 28.96;
/** Doubt of a described volume, and of where its middle is as a share of its depth (judgement: film gives and sags). */
const VOLUME = 0.05;
const MIDDLE = 0.03;

/** The body that holds the gas: the only one that is large enough; null where none or several are. */
function holderOf(bodies: readonly BodyShape[], density: number, carried: number): BodyShape | null {
  const enough = bodies.filter(
    (b) => bodyGives(b).volume * density * MOST_LIFT * (1 + 2 * VOLUME) >= carried && b.frames.length > 1,
  );
  return enough.length === 1 ? (enough[0] ?? null) : null;
}

/** What carries a craft on gas: whether its bodies can hold so much, and how its weight hangs below it. */
export const gas = subject({
  name: "gas",
  reads: ["states", "gasLift", "items", "bodies"],
  needs: [air, mass, balance],
  compute(view, of): Outcome<GasResult> {
    if (!supportOf(view).gas) return { status: "not covered", because: "no gas carries it" };
    if (!view.gasLift) return { status: "missing", needs: ["the mass that the gas carries"] };
    const here = of(air);
    if (here.status !== "solved") return here;
    const { density, densitySd } = here.result;
    // What is a guess may hold gas, or not.
    const guessed = view.bodies.find((b) => b.shapeBy === "guess");
    if (guessed) return { status: "missing", needs: [`the shape of ${guessed.name}: it is a guess`] };
    const known = view.bodies;
    if (known.length === 0) return { status: "missing", needs: ["its envelope described as a body"] };
    const volume = known.reduce((s, b) => s + bodyGives(b).volume, 0);
    const displaced = {
      value: volume * density,
      sd: volume * density * Math.hypot(VOLUME, densitySd / density),
    };
    const carried = { value: view.gasLift.value, sd: magnitudeSd(view.gasLift) };
    const open = (because: string): Outcome<GasResult> => ({
      status: "solved",
      result: { displaced, carried, hangs: null, open: because },
    });
    const holder = holderOf(known, density, carried.value);
    const middle = holder && bodyGives(holder).middle;
    if (!holder || !middle) return open("which body holds the gas is not clear from their volumes");
    const [ledger, at] = [of(mass), of(balance)];
    if (ledger.status !== "solved" || at.status !== "solved") return open("waits for the mass");
    const [unplaced] = placesUnsaid(view.items, "x", "z");
    if (unplaced !== undefined) return open(`no place is said of ${unplaced}`);
    const [lacking] = ledger.result.incomplete;
    if (lacking !== undefined) return open(lacking);
    const { cg, cgSd } = at.result;
    const deep = Math.max(...holder.frames.map((f) => f.height));
    const long = (holder.frames.at(-1)?.x ?? 0) - (holder.frames[0]?.x ?? 0);
    const over = { value: middle.z - cg.z, sd: Math.hypot(cgSd.z, MIDDLE * deep) };
    const aft = { value: middle.x - cg.x, sd: Math.hypot(cgSd.x, MIDDLE * long) };
    const lift = GRAVITY * carried.value;
    const rest = Math.atan2(-aft.value, over.value);
    return {
      status: "solved",
      result: {
        displaced,
        carried,
        hangs: {
          body: holder.name,
          over,
          stiff: { value: lift * over.value, sd: Math.hypot(lift * over.sd, GRAVITY * carried.sd * over.value) },
          // Lift behind the CG raises the tail.
          rest:
            over.value > 0
              ? {
                  value: rest,
                  sd: Math.hypot(over.value * aft.sd, aft.value * over.sd) / Math.hypot(over.value, aft.value) ** 2,
                }
              : null,
        },
        open: null,
      },
    };
  },
});
