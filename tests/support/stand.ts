import type { StandReading, StandSetup } from "../../api/contracts";
import type { ThrustReading } from "../../core/design/thrustTest";
import type { Design } from "../../core/design/schema";
import { SimulatedStand } from "../../server/stand/simulatedStand";
import { NO_FAULTS } from "../../web/stations/bench/thrust/thrustDraft";
import { calm, rig } from "./sweeps";

/** The stand set up for the first drive of a design. */
export function setupFor(design: Design, faults: Partial<StandSetup["faults"]> = {}, seed = 1): StandSetup {
  const [unit] = design.units;
  const battery = design.batteries.find((b) => b.id === unit?.batteryId);
  if (!unit || !battery) throw new Error("no drive");
  const { motor, controller, gear, propeller } = unit;
  return {
    unit: { motor, controller, gear, propeller, propulsor: null },
    battery: {
      chemistry: battery.chemistry,
      series: battery.series,
      capacity: battery.capacity,
      cellResistance: battery.cellResistance,
    },
    rig: rig({ thrustArm: 0.2, scaleArm: 0.15 }),
    air: calm,
    faults: { ...NO_FAULTS, ...faults },
    together: 1,
    seed,
  };
}

/** Runs throttles on a simulated stand faster than life: 12 readings to settle at each, then `samples` that count. */
export async function sweepOn(setup: StandSetup, throttles: readonly number[], samples = 3): Promise<ThrustReading[]> {
  const stand = new SimulatedStand(1);
  const taken: ThrustReading[] = [];
  try {
    stand.setUp(setup);
    await new Promise<void>((done) => {
      let step = 0;
      let seen = 0;
      const end = stand.listen((r: StandReading) => {
        if (++seen > 12) taken.push({ ...r, out: "" });
        if (seen < 12 + samples) return;
        seen = 0;
        const next = throttles[++step];
        if (next === undefined) {
          end();
          done();
        } else stand.command(next);
      });
      stand.command(throttles[0] ?? 0);
    });
  } finally {
    stand.close();
  }
  return taken;
}
