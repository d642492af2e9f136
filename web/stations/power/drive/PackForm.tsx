import { type Battery, CHEMISTRIES, batterySchema } from "../../../../core/design/schema";
import { CHEMISTRY } from "../../../../core/subjects/energy/battery";
import { useDesk } from "../../../app/desk";
import { TextField } from "../../../fields/TextField";
import { LoadTest } from "../LoadTest";
import { OtherPack } from "../OtherPack";
import { Group, Line, EntryOf, KnownLine, NumberLine } from "../../../fields/FormParts";

/** One pack, each number with how it is known. */
export function PackForm({ battery }: { battery: Battery }) {
  const { edit } = useDesk();
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
        <NumberLine
          label="Cells in series"
          value={battery.series}
          dimension="count"
          schema={batterySchema.shape.series}
          onCommit={(v) => pack((b) => void (b.series = v))}
        />
        <KnownLine
          label="Capacity"
          value={battery.capacity}
          dimension="capacity"
          onCommit={(k) => pack((b) => void (b.capacity = k))}
        />
        <KnownLine
          label="Resistance a cell"
          name="Cell resistance"
          value={battery.cellResistance}
          dimension="resistance"
          onCommit={(k) => pack((b) => void (b.cellResistance = k))}
        />
        <NumberLine
          label="C rating"
          value={battery.cRating}
          dimension="count"
          schema={batterySchema.shape.cRating}
          onCommit={(v) => pack((b) => void (b.cRating = v))}
        />
        <NumberLine
          label="Usable share"
          value={battery.usable}
          dimension="percent"
          schema={batterySchema.shape.usable}
          onCommit={(v) => pack((b) => void (b.usable = v))}
        />
        <NumberLine
          label="Radio and servos"
          name="Other load"
          value={battery.otherLoad}
          dimension="power"
          schema={batterySchema.shape.otherLoad}
          onCommit={(v) => pack((b) => void (b.otherLoad = v))}
        />
        <EntryOf
          label="Ledger entry of the pack"
          value={battery.itemId}
          empty="not listed"
          onChange={(id) => pack((b) => void (b.itemId = id))}
        />
      </Group>
      <LoadTest battery={battery} key={`test-${battery.id}`} />
      <OtherPack battery={battery} key={`other-${battery.id}`} />
    </section>
  );
}
