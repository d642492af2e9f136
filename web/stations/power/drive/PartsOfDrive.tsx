import { magnitudeOrZero, positiveOf } from "../../../../core/design/evidence";
import { type Unit, controllerSchema, gearSchema, motorSchema, propellerSchema } from "../../../../core/design/schema";
import { KnownField } from "../../../fields/KnownField";
import { QuantityField } from "../../../fields/QuantityField";
import { Group, Line, useEntries } from "./parts";

/** Propeller, motor, controller and gearing of a drive that its parts tell. */
export function PartsOfDrive({ unit, drive }: { unit: Unit; drive: (mutate: (u: Unit) => void) => void }) {
  const entries = useEntries();
  const { motor, controller, gear, propeller } = unit;
  return (
    <>
      <Group title="Propeller">
        <Line label="Diameter">
          <KnownField
            label="Propeller diameter"
            value={propeller.diameter}
            dimension="length"
            schema={positiveOf("length")}
            onCommit={(k) => drive((u) => void (u.propeller.diameter = k))}
          />
        </Line>
        <Line label="Pitch">
          <KnownField
            label="Propeller pitch"
            value={propeller.pitch}
            dimension="length"
            schema={positiveOf("length")}
            onCommit={(k) => drive((u) => void (u.propeller.pitch = k))}
          />
        </Line>
        <Line label="Blades">
          <QuantityField
            boxed
            label="Blades"
            value={propeller.blades}
            dimension="count"
            schema={propellerSchema.shape.blades}
            onCommit={(v) => v !== null && drive((u) => void (u.propeller.blades = v))}
          />
        </Line>
        <Line label="Widest chord">
          <KnownField
            label="Widest chord"
            value={propeller.chord}
            dimension="length"
            schema={positiveOf("length")}
            onCommit={(k) => drive((u) => void (u.propeller.chord = k))}
          />
        </Line>
      </Group>
      <Group title="Motor">
        <Line label="Kv">
          <KnownField
            label="Motor Kv"
            value={motor.kv}
            dimension="kv"
            schema={positiveOf("kv")}
            onCommit={(k) => drive((u) => void (u.motor.kv = k))}
          />
        </Line>
        <Line label="Winding resistance">
          <KnownField
            label="Winding resistance"
            value={motor.resistance}
            dimension="resistance"
            schema={positiveOf("resistance")}
            onCommit={(k) => drive((u) => void (u.motor.resistance = k))}
          />
        </Line>
        <Line label="No-load current">
          <KnownField
            label="No-load current"
            value={motor.noLoadCurrent}
            dimension="current"
            schema={positiveOf("current")}
            onCommit={(k) => drive((u) => void (u.motor.noLoadCurrent = k))}
          />
        </Line>
        <Line label="Rated current">
          <QuantityField
            boxed
            label="Motor rating"
            value={motor.maxCurrent}
            dimension="current"
            schema={motorSchema.shape.maxCurrent}
            onCommit={(v) => v !== null && drive((u) => void (u.motor.maxCurrent = v))}
          />
        </Line>
        <Line label="Part in the mass list">
          <select
            className="box"
            aria-label="Ledger entry of the motor"
            value={unit.motorItemId ?? ""}
            onChange={(e) => drive((u) => void (u.motorItemId = e.target.value || null))}
          >
            <option value="">by its name</option>
            {entries}
          </select>
        </Line>
      </Group>
      <Group title="Controller and gearing">
        <Line label="Rated current">
          <QuantityField
            boxed
            label="Controller rating"
            value={controller.maxCurrent}
            dimension="current"
            schema={controllerSchema.shape.maxCurrent}
            onCommit={(v) => v !== null && drive((u) => void (u.controller.maxCurrent = v))}
          />
        </Line>
        <Line label="Cells at most">
          <QuantityField
            boxed
            label="Controller cells"
            value={controller.maxCells}
            dimension="count"
            schema={controllerSchema.shape.maxCells}
            onCommit={(v) => v !== null && drive((u) => void (u.controller.maxCells = v))}
          />
        </Line>
        <Line label="On-resistance">
          <KnownField
            label="Controller resistance"
            value={controller.resistance}
            dimension="resistance"
            schema={magnitudeOrZero("resistance").shape.value}
            onCommit={(k) => drive((u) => void (u.controller.resistance = k))}
          />
        </Line>
        <Line label="Part in the mass list">
          <select
            className="box"
            aria-label="Ledger entry of the controller"
            value={unit.controllerItemId ?? ""}
            onChange={(e) => drive((u) => void (u.controllerItemId = e.target.value || null))}
          >
            <option value="">by its name</option>
            {entries}
          </select>
        </Line>
        <Line label="Reduction" hint="Several stages multiply: 48:13 × 2.5">
          <QuantityField
            boxed
            label="Gear ratio"
            value={gear.ratio}
            dimension="ratio"
            schema={gearSchema.shape.ratio}
            onCommit={(v) => v !== null && drive((u) => void (u.gear.ratio = v))}
          />
        </Line>
        <Line label="Gear efficiency" hint="Of all stages: 97 × 95 %">
          <KnownField
            label="Gear efficiency"
            value={gear.efficiency}
            dimension="percent"
            schema={gearSchema.shape.efficiency.shape.value}
            onCommit={(k) => drive((u) => void (u.gear.efficiency = k))}
          />
        </Line>
      </Group>
    </>
  );
}
