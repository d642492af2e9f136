import { type Battery, CHEMISTRIES, batterySchema } from "../../../../core/design/schema";
import { positiveOf } from "../../../../core/design/evidence";
import { CHEMISTRY } from "../../../../core/subjects/energy/battery";
import { useDesk } from "../../../app/desk";
import { KnownField } from "../../../fields/KnownField";
import { QuantityField } from "../../../fields/QuantityField";
import { TextField } from "../../../fields/TextField";
import { LoadTest } from "../LoadTest";
import { OtherPack } from "../OtherPack";
import { Group, Line, useEntries } from "./parts";

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
