import { type Unit, unitSchema } from "../../../../core/design/schema";
import { learnedHolds } from "../../../../core/subjects/propulsion/learned";
import { recount } from "../../../../core/subjects/propulsion/placed";
import { useDesk } from "../../../app/desk";
import { EntryOf, Group, Line, NumberLine } from "../../../fields/FormParts";
import { TextField } from "../../../fields/TextField";
import { KindField } from "./KindField";
import { KnownBy } from "./KnownBy";
import { PartsOfDrive } from "./PartsOfDrive";
import { PlacesForm } from "./PlacesForm";
import { WorksField } from "./WorksField";

/** One kind of drive: first how it is known, then only the fields of that. */
export function DriveForm({ unit }: { unit: Unit }) {
  const { design, edit } = useDesk();
  const drive = (mutate: (u: Unit) => void) =>
    edit((d) => {
      const found = d.units.find((u) => u.id === unit.id);
      if (found) mutate(found);
    });
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
      <PlaceAndWork unit={unit} drive={drive} />
      <PlacesForm unit={unit} drive={drive} />
      <KindField unit={unit} drive={drive} />
      <WorksField unit={unit} drive={drive} />
      <KnownBy
        unit={unit}
        drive={drive}
        parts={
          <>
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
            <PartsOfDrive unit={unit} drive={drive} />
          </>
        }
      />
    </section>
  );
}

/** Where the drives stand, which way they push, and at what share of the throttle. */
function PlaceAndWork({ unit, drive }: { unit: Unit; drive: (mutate: (u: Unit) => void) => string | null }) {
  const { evaluation } = useDesk();
  const copies =
    unit.propulsor && evaluation.findings.some((f) => f.code === "copies-unmeasured" && f.about === unit.id);
  return (
    <Group title="Place and work">
      <NumberLine
        label="Identical drives"
        value={unit.count}
        dimension="count"
        schema={unitSchema.shape.count}
        onCommit={(v) => drive((u) => recount(u, v))}
      />
      {(copies || unit.copiesBecause !== "") && (
        <Line label="Unmeasured because" hint="why more than one is built before one was weighed">
          <TextField
            boxed
            label="Built unmeasured because"
            value={unit.copiesBecause}
            onCommit={(v) => drive((u) => void (u.copiesBecause = v))}
          />
        </Line>
      )}
      {unit.places.length === 0 && (
        <>
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
          <NumberLine
            label="Tilt upward"
            value={unit.tilt}
            dimension="angle"
            schema={unitSchema.shape.tilt}
            onCommit={(v) => drive((u) => void (u.tilt = v))}
          />
        </>
      )}
      <EntryOf
        label="Ledger entry of the propeller"
        value={unit.propellerItemId}
        empty="not listed"
        onChange={(id) => drive((u) => void (u.propellerItemId = id))}
      />
      <NumberLine
        label="Throttle limit"
        value={unit.throttleLimit}
        dimension="percent"
        schema={unitSchema.shape.throttleLimit}
        onCommit={(v) => drive((u) => void (u.throttleLimit = v))}
      />
    </Group>
  );
}
