import { freeId } from "../../../core/design/ids";
import { type Regulator, railLoadSchema, regulatorSchema } from "../../../core/design/schema";
import { regulatorHeat, riseText } from "../../../core/subjects/propulsion/heat";
import type { PropulsionResult } from "../../../core/subjects/propulsion/node";
import { useDesk } from "../../app/desk";
import { usePreferences } from "../../app/preferences";
import { QuantityField } from "../../fields/QuantityField";
import { TextField } from "../../fields/TextField";
import { Boxes } from "./Boxes";
import { ConductorTable } from "./path/Conductors";

/** The current path branch by branch, and the regulators with what hangs on them. */
export function PathForm({ result }: { result: PropulsionResult | null }) {
  const { design, edit } = useDesk();
  const [pack] = design.batteries;
  const regulator = (id: string, mutate: (r: Regulator) => void) =>
    edit((d) => {
      const found = d.regulators.find((r) => r.id === id);
      if (found) mutate(found);
    });
  if (!pack) return null;
  const heatOf = (r: Regulator) =>
    regulatorHeat(r, result?.packs.find((p) => p.id === r.batteryId)?.values.voltage ?? r.voltage + r.dropout);
  return (
    <section aria-label="Current path" className="text-[12px]">
      <h2 className="text-[14px]">Current path</h2>
      <p className="text-pencil">
        Wires there and back, plugs, switches, fuses. A branch counts once for each of its like units. + … ±: rise over
        the air at full throttle, lasting, ± 35 %.
      </p>
      <ConductorTable result={result} />
      <button
        type="button"
        className="link mt-1"
        onClick={() =>
          edit(
            (d) =>
              void d.conductors.push({
                id: freeId(d.conductors, "c"),
                name: `Main plug${d.conductors.length > 0 ? ` ${d.conductors.length + 1}` : ""}`,
                kind: "plug",
                batteryId: pack.id,
                unitId: null,
                resistance: 0.001,
                maxCurrent: 60,
              }),
          )
        }
      >
        add a wire, plug, switch or fuse
      </button>
      <h2 className="mt-4 text-[14px]">Regulators (BECs) and their loads</h2>
      {design.regulators.map((r) => (
        <OneRegulator key={r.id} r={r} heat={heatOf(r)} regulator={regulator} />
      ))}
      <button
        type="button"
        className="link mt-2 block"
        onClick={() =>
          edit(
            (d) =>
              void d.regulators.push({
                id: freeId(d.regulators, "r"),
                name: `Regulator ${d.regulators.length + 1}`,
                batteryId: pack.id,
                kind: "switching",
                voltage: 5,
                maxCurrent: 3,
                dropout: 1,
                efficiency: 0.85,
                loads: [{ id: "l1", name: "Receiver", current: 0.08, peak: 0.12, minVoltage: 3.5 }],
              }),
          )
        }
      >
        add a regulator
      </button>
      <Boxes />
    </section>
  );
}

/** One regulator: what it gives and needs, the heat it makes, and its loads. */
function OneRegulator({
  r,
  heat,
  regulator,
}: {
  r: Regulator;
  heat: ReturnType<typeof regulatorHeat>;
  regulator: (id: string, mutate: (r: Regulator) => void) => string | null;
}) {
  const { design, edit } = useDesk();
  const { habit } = usePreferences();
  return (
    <div className="mt-2 border-t border-hair pt-1" data-regulator={r.id}>
      <div className="flex flex-wrap items-end gap-2">
        <span className="w-40">
          regulator
          <TextField
            boxed
            required
            label={`Regulator ${r.name}, name`}
            value={r.name}
            onCommit={(v) => regulator(r.id, (x) => void (x.name = v))}
          />
        </span>
        <label>
          kind
          <select
            className="box"
            aria-label={`${r.name}, kind`}
            value={r.kind}
            onChange={(e) => regulator(r.id, (x) => void (x.kind = e.target.value as Regulator["kind"]))}
          >
            <option>switching</option>
            <option>linear</option>
          </select>
        </label>
        <label>
          from
          <select
            className="box"
            aria-label={`${r.name}, from pack`}
            value={r.batteryId}
            onChange={(e) => regulator(r.id, (x) => void (x.batteryId = e.target.value))}
          >
            {design.batteries.map((b) => (
              <option key={b.id} value={b.id}>
                {b.name}
              </option>
            ))}
          </select>
        </label>
        {(
          [
            ["voltage", "gives", "voltage"],
            ["maxCurrent", "at most", "current"],
            ["dropout", "needs above", "voltage"],
            ["efficiency", "efficiency", "percent"],
          ] as const
        ).map(([key, word, dimension]) => (
          <label key={key} className="w-20">
            {word}
            <QuantityField
              boxed
              label={`${r.name}, ${word}`}
              value={r[key]}
              dimension={dimension}
              schema={regulatorSchema.shape[key]}
              onCommit={(v) => v !== null && regulator(r.id, (x) => void (x[key] = v))}
            />
          </label>
        ))}
        <button
          type="button"
          className="link"
          onClick={() => edit((d) => void (d.regulators = d.regulators.filter((x) => x.id !== r.id)))}
        >
          remove
        </button>
        <span className="num ml-auto text-pencil" data-heat={r.id}>
          loses {heat.loss.toFixed(1)} W, {riseText(heat.rise, habit)}
        </span>
      </div>
      <Loads r={r} regulator={regulator} />
      <button
        type="button"
        className="link"
        onClick={() =>
          regulator(
            r.id,
            (x) =>
              void x.loads.push({
                id: freeId(x.loads, "l"),
                name: `Servo ${x.loads.length + 1}`,
                current: 0.15,
                peak: 0.8,
                minVoltage: 4,
              }),
          )
        }
      >
        add a load
      </button>
    </div>
  );
}

/** What feeds the receiver and the servos. */
function Loads({
  r,
  regulator,
}: {
  r: Regulator;
  regulator: (id: string, mutate: (r: Regulator) => void) => string | null;
}) {
  return (
    <table className="rows mt-1 w-full max-w-[560px]">
      <thead>
        <tr>
          <th>load</th>
          <th className="text-right!">usual A</th>
          <th className="text-right!">peak A</th>
          <th className="text-right!">stops below V</th>
          <th />
        </tr>
      </thead>
      <tbody>
        {r.loads.map((l, i) => (
          <tr key={l.id}>
            <td>
              <TextField
                required
                label={`${r.name}, load ${i + 1}`}
                value={l.name}
                onCommit={(v) => regulator(r.id, (x) => void (x.loads[i] && (x.loads[i].name = v)))}
              />
            </td>
            {(["current", "peak", "minVoltage"] as const).map((key) => (
              <td key={key} className="w-20">
                <QuantityField
                  label={`${l.name}, ${key === "minVoltage" ? "stops below" : key}`}
                  value={l[key]}
                  dimension={key === "minVoltage" ? "voltage" : "current"}
                  schema={railLoadSchema.shape[key]}
                  onCommit={(v) => v !== null && regulator(r.id, (x) => void (x.loads[i] && (x.loads[i][key] = v)))}
                />
              </td>
            ))}
            <td className="text-right">
              <button
                type="button"
                className="link"
                aria-label={`Remove ${l.name}`}
                onClick={() => regulator(r.id, (x) => void (x.loads = x.loads.filter((y) => y.id !== l.id)))}
              >
                ×
              </button>
            </td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}
