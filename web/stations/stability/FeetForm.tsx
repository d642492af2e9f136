import { coordinate } from "../../../core/design/fields";
import { freeId } from "../../../core/design/ids";
import type { FootShape } from "../../../core/design/schema";
import { DISPLAY } from "../../../core/design/units";
import { useDesk } from "../../app/desk";
import { usePreferences } from "../../app/preferences";
import { EvidenceSelect } from "../../fields/EvidenceSelect";
import { QuantityField } from "../../fields/QuantityField";
import { TextField } from "../../fields/TextField";

/** Where it touches the ground, foot by foot. */
export function FeetForm() {
  const { design, edit } = useDesk();
  const { habit } = usePreferences();
  const long = DISPLAY[habit].length;
  const put = (id: string, change: (f: FootShape) => void) =>
    edit((d) => {
      const found = d.feet.find((f) => f.id === id);
      if (found) change(found);
    });
  return (
    <>
      <div className="wide">
        <table className="rows cards mt-1 w-full">
          <thead>
            <tr>
              <th>foot</th>
              <th className="text-right!">x aft, {long}</th>
              <th className="text-right!">y to starboard</th>
              <th className="text-right!">z up</th>
              <th>sides</th>
              <th>known by</th>
              <th>part in the mass list</th>
              <th />
            </tr>
          </thead>
          <tbody>
            {design.feet.map((f) => (
              <tr key={f.id} data-foot={f.id}>
                <td>
                  <TextField
                    required
                    label={`Foot ${f.name}`}
                    value={f.name}
                    onCommit={(v) => put(f.id, (x) => void (x.name = v))}
                  />
                </td>
                {(["x", "y", "z"] as const).map((axis) => (
                  <td key={axis} data-label={axis}>
                    <QuantityField
                      label={`${f.name}, ${axis}`}
                      value={f.at[axis]}
                      dimension="length"
                      schema={coordinate}
                      onCommit={(v) => v !== null && put(f.id, (x) => void (x.at[axis] = v))}
                    />
                  </td>
                ))}
                <td data-label="sides">
                  <label className="flex min-h-6 items-center gap-2">
                    <input
                      type="checkbox"
                      checked={f.mirrored}
                      onChange={(e) => put(f.id, (x) => void (x.mirrored = e.target.checked))}
                    />
                    both
                  </label>
                </td>
                <td data-label="known by">
                  <EvidenceSelect
                    label={`${f.name}, known by`}
                    value={f.placeBy}
                    onChange={(level) => put(f.id, (x) => void (x.placeBy = level as FootShape["placeBy"]))}
                  />
                </td>
                <td data-label="part">
                  <select
                    className="cell"
                    aria-label={`${f.name}, part in the mass list`}
                    value={f.itemId ?? ""}
                    onChange={(e) => put(f.id, (x) => void (x.itemId = e.target.value || null))}
                  >
                    <option value="">none: part of the craft</option>
                    {design.items.map((i) => (
                      <option key={i.id} value={i.id}>
                        {i.name}
                      </option>
                    ))}
                  </select>
                </td>
                <td>
                  <button
                    type="button"
                    className="link"
                    aria-label={`Remove ${f.name}`}
                    onClick={() => edit((d) => void (d.feet = d.feet.filter((x) => x.id !== f.id)))}
                  >
                    ×
                  </button>
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      </div>
      <p className="mt-2 flex flex-wrap items-baseline gap-x-4">
        <button
          type="button"
          className="act"
          onClick={() =>
            edit((d) => {
              const last = d.feet.at(-1);
              d.feet.push({
                id: freeId(d.feet, "foot"),
                name: `Foot ${d.feet.length + 1}`,
                itemId: null,
                at: { ...(last?.at ?? { x: 0, y: 0, z: 0 }) },
                mirrored: false,
                placeBy: "guess",
              });
            })
          }
        >
          Add a foot
        </button>
        <span className="text-pencil">
          A wheel is one point under its axle, a skid one at each end. A foot that belongs to a part moves and goes with
          it.
        </span>
      </p>
    </>
  );
}
