import { type Conductor, conductorSchema } from "../../../../core/design/schema";
import type { AroundFactor } from "../../../../core/subjects/propulsion/around/models";
import { conductorRise, riseText } from "../../../../core/subjects/propulsion/heat";
import type { PropulsionResult } from "../../../../core/subjects/propulsion/node";
import { currentThrough } from "../../../../core/subjects/propulsion/pathVerdicts";
import { useDesk } from "../../../app/desk";
import { usePreferences } from "../../../app/preferences";
import { QuantityField } from "../../../fields/QuantityField";
import { TextField } from "../../../fields/TextField";

/** One cable or plug: how thick, how long, and how warm it gets. */
export function ConductorRow({ c, now }: { c: Conductor; now: AroundFactor | null }) {
  const { edit, design } = useDesk();
  const { habit } = usePreferences();
  const conductor = (id: string, mutate: (c: Conductor) => void) =>
    edit((d) => {
      const found = d.conductors.find((c) => c.id === id);
      if (found) mutate(found);
    });
  return (
    <tr data-conductor={c.id}>
      <td>
        <TextField
          required
          label={`Conductor ${c.name}, name`}
          value={c.name}
          onCommit={(v) => conductor(c.id, (x) => void (x.name = v))}
        />
      </td>
      <td className="w-20">
        <select
          className="cell"
          aria-label={`${c.name}, kind`}
          value={c.kind}
          onChange={(e) => conductor(c.id, (x) => void (x.kind = e.target.value as Conductor["kind"]))}
        >
          <option>wire</option>
          <option>plug</option>
          <option>switch</option>
          <option>fuse</option>
        </select>
      </td>
      <td className="w-40">
        <select
          className="cell"
          aria-label={`${c.name}, where`}
          value={`${c.batteryId}/${c.unitId ?? ""}`}
          onChange={(e) => {
            const [batteryId = "", unitId = ""] = e.target.value.split("/");
            conductor(c.id, (x) => Object.assign(x, { batteryId, unitId: unitId || null }));
          }}
        >
          {design.batteries.flatMap((b) => [
            <option key={b.id} value={`${b.id}/`}>
              main path of {b.name}
            </option>,
            ...design.units
              .filter((u) => u.batteryId === b.id)
              .map((u) => (
                <option key={u.id} value={`${b.id}/${u.id}`}>
                  branch of {u.name}
                </option>
              )),
          ])}
        </select>
      </td>
      <td className="w-16">
        <QuantityField
          label={`${c.name}, resistance`}
          value={c.resistance}
          dimension="resistance"
          schema={conductorSchema.shape.resistance}
          onCommit={(v) => v !== null && conductor(c.id, (x) => void (x.resistance = v))}
        />
      </td>
      <td className="w-16">
        <QuantityField
          label={`${c.name}, made for`}
          value={c.maxCurrent}
          dimension="current"
          schema={conductorSchema.shape.maxCurrent}
          onCommit={(v) => v !== null && conductor(c.id, (x) => void (x.maxCurrent = v))}
        />
      </td>
      <td className={`num text-right ${now && now.value > c.maxCurrent ? "text-stop" : ""}`}>
        {now
          ? `${now.value.toFixed(1)} A, ${Math.round((100 * now.value) / c.maxCurrent)} %, ` +
            `${riseText(conductorRise(now.value, c.maxCurrent), habit)}`
          : ""}
      </td>
      <td className="text-right">
        <button
          type="button"
          className="link"
          aria-label={`Remove ${c.name}`}
          onClick={() => edit((d) => void (d.conductors = d.conductors.filter((x) => x.id !== c.id)))}
        >
          ×
        </button>
      </td>
    </tr>
  );
}

/** The cables and plugs from the packs to the controllers. */
export function ConductorTable({ result }: { result: PropulsionResult | null }) {
  const { design } = useDesk();

  return (
    <div className="wide">
      <table className="rows mt-1 w-full">
        <thead>
          <tr>
            <th>name</th>
            <th>kind</th>
            <th>where</th>
            <th className="text-right!">mΩ</th>
            <th className="text-right!">made for, A</th>
            <th className="text-right!">carries at most</th>
            <th />
          </tr>
        </thead>
        <tbody>
          {design.conductors.map((c) => {
            const now = result ? currentThrough(c, result) : null;
            return <ConductorRow key={c.id} c={c} now={now} />;
          })}
        </tbody>
      </table>
    </div>
  );
}
