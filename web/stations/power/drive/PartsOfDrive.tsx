import { magnitudeOrZero } from "../../../../core/design/evidence";
import { type Unit, controllerSchema, gearSchema, motorSchema, propellerSchema } from "../../../../core/design/schema";
import { MotorByItself } from "./MotorByItself";
import { PropulsorForm } from "./PropulsorForm";
import { Group, EntryOf, KnownLine, NumberLine } from "../../../fields/FormParts";

/** Propeller, motor, controller and gearing of a drive that its parts tell. */
export function PartsOfDrive({ unit, drive }: { unit: Unit; drive: (mutate: (u: Unit) => void) => void }) {
  const { motor, controller, gear, propeller } = unit;
  return (
    <>
      {unit.propulsor ? (
        <PropulsorForm key={unit.propulsor.kind} propulsor={unit.propulsor} drive={drive} />
      ) : (
        <Group title="Propeller">
          <KnownLine
            label="Diameter"
            name="Propeller diameter"
            value={propeller.diameter}
            dimension="length"
            onCommit={(k) => drive((u) => void (u.propeller.diameter = k))}
          />
          <KnownLine
            label="Pitch"
            name="Propeller pitch"
            value={propeller.pitch}
            dimension="length"
            onCommit={(k) => drive((u) => void (u.propeller.pitch = k))}
          />
          <NumberLine
            label="Blades"
            value={propeller.blades}
            dimension="count"
            schema={propellerSchema.shape.blades}
            onCommit={(v) => drive((u) => void (u.propeller.blades = v))}
          />
          <KnownLine
            label="Widest chord"
            value={propeller.chord}
            dimension="length"
            onCommit={(k) => drive((u) => void (u.propeller.chord = k))}
          />
        </Group>
      )}
      <Group title="Motor">
        <KnownLine
          label="Kv"
          name="Motor Kv"
          value={motor.kv}
          dimension="kv"
          onCommit={(k) => drive((u) => void (u.motor.kv = k))}
        />
        <KnownLine
          label="Winding resistance"
          value={motor.resistance}
          dimension="resistance"
          onCommit={(k) => drive((u) => void (u.motor.resistance = k))}
        />
        <KnownLine
          label="No-load current"
          value={motor.noLoadCurrent}
          dimension="current"
          onCommit={(k) => drive((u) => void (u.motor.noLoadCurrent = k))}
        />
        <NumberLine
          label="Rated current"
          name="Motor rating"
          value={motor.maxCurrent}
          dimension="current"
          schema={motorSchema.shape.maxCurrent}
          onCommit={(v) => drive((u) => void (u.motor.maxCurrent = v))}
        />
        <EntryOf
          label="Ledger entry of the motor"
          value={unit.motorItemId}
          empty="by its name"
          onChange={(id) => drive((u) => void (u.motorItemId = id))}
        />
        <MotorByItself unit={unit} drive={drive} />
      </Group>
      <Group title="Controller and gearing">
        <NumberLine
          label="Rated current"
          name="Controller rating"
          value={controller.maxCurrent}
          dimension="current"
          schema={controllerSchema.shape.maxCurrent}
          onCommit={(v) => drive((u) => void (u.controller.maxCurrent = v))}
        />
        <NumberLine
          label="Cells at most"
          name="Controller cells"
          value={controller.maxCells}
          dimension="count"
          schema={controllerSchema.shape.maxCells}
          onCommit={(v) => drive((u) => void (u.controller.maxCells = v))}
        />
        <KnownLine
          label="On-resistance"
          name="Controller resistance"
          value={controller.resistance}
          dimension="resistance"
          schema={magnitudeOrZero("resistance").shape.value}
          onCommit={(k) => drive((u) => void (u.controller.resistance = k))}
        />
        <EntryOf
          label="Ledger entry of the controller"
          value={unit.controllerItemId}
          empty="by its name"
          onChange={(id) => drive((u) => void (u.controllerItemId = id))}
        />
        <NumberLine
          label="Reduction"
          hint="Several stages multiply: 48:13 × 2.5"
          name="Gear ratio"
          value={gear.ratio}
          dimension="ratio"
          schema={gearSchema.shape.ratio}
          onCommit={(v) => drive((u) => void (u.gear.ratio = v))}
        />
        <KnownLine
          label="Gear efficiency"
          hint="Of all stages: 97 × 95 %"
          value={gear.efficiency}
          dimension="percent"
          schema={gearSchema.shape.efficiency.shape.value}
          onCommit={(k) => drive((u) => void (u.gear.efficiency = k))}
        />
      </Group>
    </>
  );
}
