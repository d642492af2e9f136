import { type LoopResult, loopOf } from "../../sizing/loop";
import { type Outcome, solved, subject } from "../../subject";
import { demand } from "../demand/node";
import { mass } from "../mass/node";
import { notCovered, unnoted } from "../propulsion/covered";
import { DRIVEN } from "../propulsion/node";

/** The sizing loop for the time asked, gone round where a limit of mass and a wanted time stand against each other. */
export const loop = subject({
  name: "loop",
  // It goes round a dozen times: 40 ms of every frame while a part was dragged, since the trim follows the CG.
  cost: "slow",
  reads: [...DRIVEN, "duty", "dragArea", "waterDragArea", "brief.targets"],
  needs: [mass, demand],
  compute(view, of): Outcome<LoopResult> {
    const long = view.brief.targets.find((t) => t.metric === "endurance" && t.comparison === "atLeast");
    const heavy = view.brief.targets.find((t) => t.metric === "auw" && t.comparison === "atMost");
    const because = notCovered(view);
    if (because !== null) return { status: "not covered", because };
    const ledger = of(mass);
    if (!long || !heavy || ledger.status !== "solved") return { status: "missing", needs: ["limits of mass and time"] };
    const { mass: all, itemOfPack } = ledger.result;
    const unknown = unnoted(view)[0];
    if (unknown !== undefined) return { status: "not covered", because: unknown };
    const levelDrag = solved(of(demand))?.levelDrag ?? null;
    const result = loopOf(
      { ...view, levelDrag },
      { all, pack: itemOfPack[view.units[0]?.batteryId ?? ""] ?? 0 },
      long.value,
      0,
    );
    return result ? { status: "solved", result } : { status: "missing", needs: ["drive", "pack", "duty"] };
  },
});
