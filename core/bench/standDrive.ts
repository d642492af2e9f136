import type { Unit } from "../design/schema";
import { air } from "../subjects/air/air";
import type { Drive } from "../subjects/propulsion/state";
import { scaledMap } from "../subjects/propulsion/learned";
import type { ShaftMap } from "../subjects/propulsion/shaft";
import { propellerMapOf } from "../subjects/propulsion/propeller";

/**
 * What the propeller of a drive does in still air of this density (kg/m³), by the model alone: temperature and
 * pressure of the stand are folded into the density.
 */
export function standMap(unit: Unit, density: number): ShaftMap {
  const { propeller: p } = unit;
  return propellerMapOf(
    {
      diameter: p.diameter.value,
      pitch: p.pitch.value,
      blades: p.blades,
      chord: p.chord.value,
      liftFactor: 1,
      dragFactor: 1,
    },
    { ...air(0, 15), density },
  );
}

/**
 * One motor of a drive as it stands on the bench, fed at the controller's leads: the figures entered, times the given
 * factors on Kv, thrust and torque.
 */
export function standDrive(unit: Unit, map: ShaftMap, factors = { kv: 1, thrust: 1, torque: 1 }): Drive {
  const { motor, controller, gear } = unit;
  return {
    count: 1,
    motor: {
      kv: motor.kv.value * factors.kv,
      resistance: motor.resistance.value,
      noLoadCurrent: motor.noLoadCurrent.value,
    },
    controllerResistance: controller.resistance.value,
    pathResistance: 0,
    ratio: gear.ratio,
    gearEfficiency: gear.efficiency.value,
    propeller: scaledMap(map, factors.thrust, factors.torque),
  };
}
