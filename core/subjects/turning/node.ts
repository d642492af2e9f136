import { supportOf } from "../../design/support";
import type { Sure } from "../../numeric/doubt";
import { type Outcome, subject } from "../../subject";
import { air } from "../air/node";
import { axes } from "../axes/node";
import { balance } from "../balance/node";
import { floats } from "../floats/node";
import { waterOf } from "../propulsion/setup";
import { BLUNT, OUTLINE } from "../wind/outline";
import { shapesAlong, turningOf } from "../wind/silhouette";

export interface TurningResult {
  /** rad/s that it turns at the most on the spot, once it does so evenly */
  rate: Sure;
  /** N·m that its drives turn it with then */
  moment: Sure;
  /** parts that are not in its outline: with them it turns less quickly */
  lacks: string[];
}

/**
 * How quickly its drives turn on the spot what floats in air or water: where their moment about yaw meets the drag of
 * its sides, M = ½ρ·C·ω²·∫|x − x_CG|³h dx, each strip broadside to its own way (strip theory). On a hull what is under
 * the water's surface, and above it the air. Wash, added mass and what the drives lose as they swing are left out.
 */
export const turning = subject({
  name: "turning",
  cost: "slow",
  reads: ["states", "gasLift", "items", "surfaces", "bodies", "brief.environment"],
  needs: [air, axes, floats, balance],
  compute(view, of): Outcome<TurningResult> {
    const { gas, airDrag, waterDrag, weighedOff } = supportOf(view);
    if (!waterDrag && !(gas && airDrag))
      return { status: "not covered", because: "it does not float in air or water alone" };
    const board = of(axes);
    if (board.status !== "solved") return board;
    const drives = board.result;
    if (drives.kind !== "drives") return { status: "missing", needs: ["what its drives push"] };
    const yaw = drives.lines.find((l) => l.axis === "yaw");
    const reach = yaw ? Math.min(yaw.command.alone.plus, yaw.command.alone.minus) : 0;
    if (!yaw || (!yaw.weighed && reach <= yaw.least))
      return { status: "not covered", because: "its drives do not turn it on the spot" };
    const moment = yaw.weighed ?? { value: reach, sd: drives.share * reach };
    const [ledger, here] = [of(balance), of(air)];
    if (ledger.status !== "solved" || here.status !== "solved") return { status: "missing", needs: ["mass"] };
    const { shapes, lacks } = shapesAlong(view, "y");
    const { x } = ledger.result.cg;
    const water = waterOf(view.brief.environment).density;
    const all = turningOf(shapes, x);
    let held = water * all;
    if (!waterDrag) held = here.result.density * all;
    else if (!weighedOff) {
      const depth = of(floats);
      if (depth.status !== "solved") return depth;
      const { level } = depth.result;
      if (!level) return { status: "missing", needs: ["a hull that carries it"] };
      const under = turningOf(shapes, x, level.water.value);
      held = water * under + here.result.density * (all - under);
    }
    if (!(held > 0)) return { status: "missing", needs: ["its outline from the side"] };
    const value = Math.sqrt(moment.value / ((BLUNT.value / 2) * held));
    const share = Math.hypot(moment.sd / moment.value, BLUNT.sd / BLUNT.value, OUTLINE) / 2;
    return { status: "solved", result: { rate: { value, sd: share * value }, moment, lacks } };
  },
});
