import { newPhase } from "../../../core/design/schema";
import { resultIn } from "../../../core/evaluate";
import { balance } from "../../../core/subjects/balance/node";
import { useDesk } from "../../app/desk";
import { firstDrive } from "./describe";

/** Where there is no drive yet: one to begin with. */
export function NoDrive() {
  const { evaluation, edit } = useDesk();
  return (
    <section className="p-6">
      <h2 className="text-[18px]">No drive yet</h2>
      <p className="mt-2">
        Begin with what is on the bench: the pack's cells and capacity, the motor's Kv, the size stamped on the
        propeller.
      </p>
      <button
        type="button"
        className="act act-first mt-4"
        onClick={() =>
          edit((d) => {
            const first = firstDrive(d, resultIn(evaluation, balance)?.mass ?? null);
            if (d.batteries.length === 0) d.batteries = [first.battery];
            if (d.units.length === 0) d.units = [{ ...first.unit, batteryId: d.batteries[0]?.id ?? first.battery.id }];
            if (d.duty.length === 0)
              d.duty = [
                newPhase({
                  id: "p1",
                  name: "Cruise",
                  seconds: 60,
                  repeats: 1,
                  by: "throttle",
                  value: 0.5,
                  unitIds: [],
                }),
              ];
          })
        }
      >
        Describe a drive
      </button>
      <p className="mt-3 text-pencil">It starts as a set of guesses for this mass; every number can be changed.</p>
    </section>
  );
}
