import { SURROUNDINGS, type Surroundings } from "../../../core/subjects/propulsion/declares";
import type { ReactNode } from "react";
import { magnitudeOrZero, positiveOf } from "../../../core/design/evidence";
import {
  type Battery,
  CHEMISTRIES,
  type Unit,
  batterySchema,
  controllerSchema,
  gearSchema,
  motorSchema,
  propellerSchema,
  unitSchema,
} from "../../../core/design/schema";
import { CHEMISTRY } from "../../../core/subjects/energy/battery";
import { learnedHolds } from "../../../core/subjects/propulsion/learned";
import { useDesk } from "../../app/desk";
import { KnownField } from "../../fields/KnownField";
import { LoadTest } from "./LoadTest";
import { OtherPack } from "./OtherPack";
import { QuantityField } from "../../fields/QuantityField";
import { TextField } from "../../fields/TextField";

function Line({ label, hint, children }: { label: string; hint?: string; children: ReactNode }) {
  return (
    <div className="grid grid-cols-[118px_1fr] items-center gap-2">
      <span>{label}</span>
      <div className="min-w-0">
        {children}
        {hint && <small className="block text-[11px] text-pencil">{hint}</small>}
      </div>
    </div>
  );
}

function Group({ title, children }: { title: string; children: ReactNode }) {
  return (
    <fieldset className="flex flex-col gap-1">
      <legend className="mb-1 font-semibold text-ink">{title}</legend>
      {children}
    </fieldset>
  );
}

const useEntries = () => {
  const { design } = useDesk();
  return design.items.map((i) => (
    <option key={i.id} value={i.id}>
      {i.name}
    </option>
  ));
};

/** One pack, each number with how it is known. */
export function PackForm({ battery }: { battery: Battery }) {
  const { edit } = useDesk();
  const entries = useEntries();
  const pack = (mutate: (b: Battery) => void) =>
    edit((d) => {
      const found = d.batteries.find((b) => b.id === battery.id);
      if (found) mutate(found);
    });
  return (
    <section
      aria-label="Pack"
      className="grid grid-cols-2 content-start gap-x-6 gap-y-4 text-[12px] max-[1000px]:grid-cols-1"
    >
      <Group title="Battery">
        <Line label="Name">
          <TextField
            boxed
            required
            label="Pack name"
            value={battery.name}
            onCommit={(v) => pack((b) => void (b.name = v))}
          />
        </Line>
        <Line label="Chemistry">
          <select
            className="box"
            aria-label="Chemistry"
            value={battery.chemistry}
            onChange={(e) => pack((b) => void (b.chemistry = e.target.value as Battery["chemistry"]))}
          >
            {CHEMISTRIES.map((c) => (
              <option key={c} value={c}>
                {CHEMISTRY[c].label}
              </option>
            ))}
          </select>
        </Line>
        <Line label="Cells in series">
          <QuantityField
            boxed
            label="Cells in series"
            value={battery.series}
            dimension="count"
            schema={batterySchema.shape.series}
            onCommit={(v) => v !== null && pack((b) => void (b.series = v))}
          />
        </Line>
        <Line label="Capacity">
          <KnownField
            label="Capacity"
            value={battery.capacity}
            dimension="capacity"
            schema={positiveOf("capacity")}
            onCommit={(k) => pack((b) => void (b.capacity = k))}
          />
        </Line>
        <Line label="Resistance a cell">
          <KnownField
            label="Cell resistance"
            value={battery.cellResistance}
            dimension="resistance"
            schema={positiveOf("resistance")}
            onCommit={(k) => pack((b) => void (b.cellResistance = k))}
          />
        </Line>
        <Line label="C rating">
          <QuantityField
            boxed
            label="C rating"
            value={battery.cRating}
            dimension="count"
            schema={batterySchema.shape.cRating}
            onCommit={(v) => v !== null && pack((b) => void (b.cRating = v))}
          />
        </Line>
        <Line label="Usable share">
          <QuantityField
            boxed
            label="Usable share"
            value={battery.usable}
            dimension="percent"
            schema={batterySchema.shape.usable}
            onCommit={(v) => v !== null && pack((b) => void (b.usable = v))}
          />
        </Line>
        <Line label="Radio and servos">
          <QuantityField
            boxed
            label="Other load"
            value={battery.otherLoad}
            dimension="power"
            schema={batterySchema.shape.otherLoad}
            onCommit={(v) => v !== null && pack((b) => void (b.otherLoad = v))}
          />
        </Line>
        <Line label="Part in the mass list">
          <select
            className="box"
            aria-label="Ledger entry of the pack"
            value={battery.itemId ?? ""}
            onChange={(e) => pack((b) => void (b.itemId = e.target.value || null))}
          >
            <option value="">not listed</option>
            {entries}
          </select>
        </Line>
      </Group>
      <LoadTest battery={battery} key={`test-${battery.id}`} />
      <OtherPack battery={battery} />
    </section>
  );
}

/** One kind of drive: controller, motor, gearing and propeller. */
/** What a drive is and where it works, as it is chosen. */
const WORKS: Record<Surroundings, string> = {
  "free air": "a propeller in free air",
  "in water": "an open screw under water",
  "boxed or ducted": "in a box, duct or nozzle",
  "overlapped or coaxial": "overlapped or coaxial",
  "not a propeller": "a drum, wheel, track, jet or paddle",
};

export function DriveForm({ unit }: { unit: Unit }) {
  const { design, edit } = useDesk();
  const entries = useEntries();
  const drive = (mutate: (u: Unit) => void) =>
    edit((d) => {
      const found = d.units.find((u) => u.id === unit.id);
      if (found) mutate(found);
    });
  const { motor, controller, gear, propeller } = unit;
  return (
    <section
      aria-label="Drive"
      className="grid grid-cols-2 content-start gap-x-6 gap-y-4 text-[12px] max-[1000px]:grid-cols-1"
    >
      <Group title="Drive">
        <Line label="Name">
          <TextField
            boxed
            required
            label="Drive name"
            value={unit.name}
            onCommit={(v) => drive((u) => void (u.name = v))}
          />
        </Line>
        <Line label="Fed by">
          <select
            className="box"
            aria-label="Fed by pack"
            value={unit.batteryId}
            onChange={(e) => drive((u) => void (u.batteryId = e.target.value))}
          >
            {!design.batteries.some((b) => b.id === unit.batteryId) && <option value={unit.batteryId}>no pack</option>}
            {design.batteries.map((b) => (
              <option key={b.id} value={b.id}>
                {b.name}
              </option>
            ))}
          </select>
        </Line>
        <Line label="Turns">
          <select
            className="box"
            aria-label="Propeller turns"
            value={unit.spin}
            onChange={(e) => drive((u) => void (u.spin = e.target.value as Unit["spin"]))}
          >
            <option value="clockwise">clockwise, seen from behind</option>
            <option value="anticlockwise">anticlockwise</option>
            <option value="half each">half each way</option>
          </select>
        </Line>
        <label className="flex min-h-6 items-center gap-2">
          <input
            type="checkbox"
            checked={unit.reversible}
            onChange={(e) => drive((u) => void (u.reversible = e.target.checked))}
          />
          can run backwards
        </label>
      </Group>
      {unit.learned && (
        <p
          className="col-span-full border border-hair bg-sheet px-2 py-1"
          data-learned={learnedHolds(unit) ? "holds" : "stale"}
        >
          {learnedHolds(unit) ? (
            <b className="measured text-ink">Measured on the stand</b>
          ) : (
            <b className="text-care">The sweep is stale</b>
          )}
          : B-
          {String(unit.learned.session).padStart(2, "0")} of {unit.learned.craft}, thrust ×{" "}
          <span className="num">
            {unit.learned.thrust.value.toFixed(3)} ± {unit.learned.thrust.sd.toFixed(3)}
          </span>
          , torque × <span className="num">{unit.learned.torque.value.toFixed(3)}</span>.{" "}
          <button type="button" className="link" onClick={() => drive((u) => void (u.learned = null))}>
            go back to the model
          </button>
        </p>
      )}
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
        <Line label="Identical drives">
          <QuantityField
            boxed
            label="Identical drives"
            value={unit.count}
            dimension="count"
            schema={unitSchema.shape.count}
            onCommit={(v) => v !== null && drive((u) => void (u.count = v))}
          />
        </Line>
        <Line label="Works">
          <select
            className={`box ${unit.surroundings === null ? "text-care" : ""}`}
            aria-label="Where the drive works"
            value={unit.surroundings ?? ""}
            onChange={(e) =>
              drive(
                (u) => void (u.surroundings = e.target.value === "" ? null : (e.target.value as Unit["surroundings"])),
              )
            }
          >
            <option value="">not said</option>
            {SURROUNDINGS.map((s) => (
              <option key={s} value={s}>
                {WORKS[s]}
              </option>
            ))}
          </select>
        </Line>
        <Line label="Thrust direction">
          <select
            className="box"
            aria-label="Direction of thrust"
            value={unit.direction}
            onChange={(e) => drive((u) => void (u.direction = e.target.value as Unit["direction"]))}
          >
            <option>ahead</option>
            <option>astern</option>
            <option>up</option>
            <option>down</option>
            <option value="port">to port</option>
            <option value="starboard">to starboard</option>
          </select>
        </Line>
        <Line label="Tilt upward">
          <QuantityField
            boxed
            label="Tilt upward"
            value={unit.tilt}
            dimension="angle"
            schema={unitSchema.shape.tilt}
            onCommit={(v) => v !== null && drive((u) => void (u.tilt = v))}
          />
        </Line>
        <Line label="Part in the mass list">
          <select
            className="box"
            aria-label="Ledger entry of the propeller"
            value={unit.propellerItemId ?? ""}
            onChange={(e) => drive((u) => void (u.propellerItemId = e.target.value || null))}
          >
            <option value="">not listed</option>
            {entries}
          </select>
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
        <Line label="Throttle limit">
          <QuantityField
            boxed
            label="Throttle limit"
            value={unit.throttleLimit}
            dimension="percent"
            schema={unitSchema.shape.throttleLimit}
            onCommit={(v) => v !== null && drive((u) => void (u.throttleLimit = v))}
          />
        </Line>
      </Group>
    </section>
  );
}
