import { type Phase, phaseSchema } from "../../../core/design/schema";
import type { Dimension } from "../../../core/design/units";
import { useDesk } from "../../app/desk";
import { QuantityField } from "../../fields/QuantityField";
import { TextField } from "../../fields/TextField";

const BY: Record<Phase["by"], { word: string; dimension: Dimension }> = {
  throttle: { word: "throttle", dimension: "percent" },
  thrust: { word: "thrust", dimension: "force" },
  thrustToWeight: { word: "thrust, of the weight", dimension: "percent" },
};

const ENDED = {
  charge: "the usable charge is spent",
  floor: "the cells reach their floor under load",
  thrust: "the asked thrust can no longer be held",
  notSolved: "the drive has no solution",
};

/** What the pack is asked for over a run, as shares of the time. The last phase takes what the others leave. */
export function Duty() {
  const { design, edit, evaluation } = useDesk();
  const { duty } = design;
  const setDuty = (list: Phase[]) => {
    const others = list.slice(0, -1).reduce((s, p) => s + p.share, 0);
    const last = list.at(-1);
    if (last) last.share = Math.max(0, Math.round((1 - others) * 1e6) / 1e6);
    return edit((d) => void (d.duty = list));
  };
  const change = (i: number, mutate: (p: Phase) => void) => {
    const list = structuredClone(duty);
    if (list[i]) mutate(list[i]);
    return setDuty(list);
  };
  const end = evaluation.power.status === "solved" ? evaluation.power.result.endurance?.endedBy : undefined;
  return (
    <section aria-label="Duty" className="mt-4">
      <h2>Duty</h2>
      <table className="rows mt-1 w-full">
        <tbody>
          {duty.map((p, i) => (
            <tr key={p.id}>
              <td>
                <TextField label={`Phase ${i + 1}`} value={p.name} onCommit={(v) => change(i, (x) => void (x.name = v))} />
              </td>
              <td className="w-14">
                {i === duty.length - 1 ? (
                  <span className="num block px-1 text-right" title="what the others leave">
                    {Math.round(p.share * 100)} %
                  </span>
                ) : (
                  <QuantityField
                    label={`${p.name}, share of the time`}
                    value={p.share}
                    dimension="percent"
                    schema={phaseSchema.shape.share}
                    onCommit={(v) => v !== null && change(i, (x) => void (x.share = v))}
                  />
                )}
              </td>
              <td className="w-24">
                <select
                  aria-label={`${p.name}, by`}
                  className="cell"
                  value={p.by}
                  onChange={(e) => change(i, (x) => Object.assign(x, { by: e.target.value, value: e.target.value === "thrust" ? 2 : 0.5 }))}
                >
                  {Object.entries(BY).map(([k, b]) => (
                    <option key={k} value={k}>
                      {b.word}
                    </option>
                  ))}
                </select>
              </td>
              <td className="w-16">
                <QuantityField
                  label={`${p.name}, value`}
                  value={p.value}
                  dimension={BY[p.by].dimension}
                  schema={phaseSchema.shape.value}
                  onCommit={(v) => v !== null && change(i, (x) => void (x.value = v))}
                />
              </td>
              <td className="num text-[11px]">{p.by === "thrust" ? "N" : "%"}</td>
              <td>
                <button type="button" className="link" aria-label={`Remove ${p.name}`} onClick={() => setDuty(structuredClone(duty.filter((_, k) => k !== i)))}>
                  ×
                </button>
              </td>
            </tr>
          ))}
        </tbody>
      </table>
      <p className="mt-1 flex justify-between gap-2 text-[11px] text-pencil">
        <button
          type="button"
          className="link"
          onClick={() => setDuty([{ id: `p${Date.now()}`, name: "Full", share: duty.length === 0 ? 1 : 0.1, by: "throttle", value: 1 }, ...structuredClone(duty)])}
        >
          Add a phase
        </button>
        {end && <span>ends when {ENDED[end]}</span>}
      </p>
    </section>
  );
}
