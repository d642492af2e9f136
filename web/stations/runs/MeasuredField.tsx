import { Controller } from "react-hook-form";
import { DIMENSIONS, isMetricKey } from "../../../core/design/craftFile";
import { METRICS, METRIC_KEYS } from "../../../core/design/metrics";
import type { Quantity } from "../../../core/design/quantity";
import { DISPLAY, type Dimension } from "../../../core/design/units";
import { metricName } from "../../../core/wording/ladder";
import { Value } from "../../app/Computed";
import { useDesk } from "../../app/desk";
import { usePreferences } from "../../app/preferences";
import { QuantityField } from "../../fields/QuantityField";
import type { Rows, RunFormOf } from "./runFormOf";

/** Instrument uncertainty to begin with, as a share of the reading (common practice); a person states their own. */
const FIRST_SHARE = 0.01;

/** Metrics offered for a run: what a builder can read there. */
const READABLE = METRIC_KEYS.filter(
  (k) =>
    ![
      "cost",
      "costToBuy",
      "packShare",
      "airDensity",
      "tipMach",
      "motorLoss",
      "torque",
      "length",
      "width",
      "height",
      "inertiaRoll",
      "inertiaPitch",
      "inertiaYaw",
      "thrustToWeight",
    ].includes(k),
);

/** One measurement: what it is, what was predicted of it, what was read, how well and with what. */
export function MeasuredRow({
  i,
  name,
  form,
  q,
  dimension,
  rows,
}: {
  row: { metric: string; measured: { value: number; sd: number; by: string } | null; dimension: Dimension } & Record<
    "id",
    string
  > & { disabled?: boolean | undefined };
  i: number;
  name: string;
  form: RunFormOf;
  q: Quantity | undefined;
  dimension: Dimension;
  rows: Rows;
}) {
  const { habit } = usePreferences();
  return (
    <tr>
      <td>
        <input
          className="cell text-ink"
          aria-label={`Measured ${i + 1}, what`}
          list="readable"
          placeholder="choose or name it"
          defaultValue={metricName(name)}
          onChange={(e) => {
            const key = READABLE.find((k) => METRICS[k].label === e.target.value);
            form.setValue(`measured.${i}.metric`, key ?? e.target.value, { shouldDirty: true });
            if (key) form.setValue(`measured.${i}.dimension`, METRICS[key].dimension);
          }}
        />
        {form.formState.errors.measured?.[i]?.metric && (
          <span role="alert" className="text-[11px] text-stop">
            Say what was measured.
          </span>
        )}
      </td>
      <td className="text-right">{q ? <Value quantity={q} /> : <span className="text-pencil">not predicted</span>}</td>
      <td>
        <span className="flex items-center gap-1">
          <Controller
            control={form.control}
            name={`measured.${i}.measured`}
            render={({ field }) => (
              <QuantityField
                boxed
                label={`Measured ${i + 1}, value`}
                value={field.value?.value ?? null}
                dimension={dimension}
                empty="not read"
                onCommit={(v) =>
                  field.onChange(
                    v === null
                      ? null
                      : {
                          value: v,
                          sd: field.value?.sd ?? Math.abs(v) * FIRST_SHARE,
                          by: field.value?.by ?? "",
                        },
                  )
                }
              />
            )}
          />
          {!isMetricKey(name) && (
            <select
              className="box w-16!"
              aria-label={`Measured ${i + 1}, unit`}
              value={dimension}
              onChange={(e) => form.setValue(`measured.${i}.dimension`, e.target.value as (typeof DIMENSIONS)[number])}
            >
              {DIMENSIONS.map((d) => (
                <option key={d} value={d}>
                  {DISPLAY[habit][d] || d}
                </option>
              ))}
            </select>
          )}
        </span>
      </td>
      <td>
        <Controller
          control={form.control}
          name={`measured.${i}.measured`}
          render={({ field }) => (
            <QuantityField
              boxed
              label={`Measured ${i + 1}, ±`}
              value={field.value?.sd ?? null}
              dimension={dimension}
              empty=""
              disabled={!field.value}
              onCommit={(v) => field.value && field.onChange({ ...field.value, sd: Math.abs(v ?? 0) })}
            />
          )}
        />
      </td>
      <td>
        <Controller
          control={form.control}
          name={`measured.${i}.measured`}
          render={({ field }) => (
            <input
              className="box"
              aria-label={`Measured ${i + 1}, with`}
              placeholder="scale, logger"
              disabled={!field.value}
              value={field.value?.by ?? ""}
              onChange={(e) => field.value && field.onChange({ ...field.value, by: e.target.value })}
            />
          )}
        />
      </td>
      <td>
        <button type="button" className="link" aria-label={`Remove measured ${i + 1}`} onClick={() => rows.remove(i)}>
          ×
        </button>
      </td>
    </tr>
  );
}

/** What was measured on the run, beside what was predicted of it. */
export function MeasuredRows({ rows, form }: { rows: Rows; form: RunFormOf }) {
  const { evaluation } = useDesk();
  return (
    <>
      <h3 className="mt-4">Measured</h3>
      <div className="wide">
        <table className="rows w-full">
          <thead>
            <tr>
              <th>what</th>
              <th className="text-right!">predicted</th>
              <th className="w-32">measured</th>
              <th className="w-28">±</th>
              <th className="w-32">with</th>
              <th />
            </tr>
          </thead>
          <tbody>
            {rows.fields.map((row, i) => {
              const name = form.watch(`measured.${i}.metric`);
              const dimension = form.watch(`measured.${i}.dimension`);
              const q = isMetricKey(name) ? evaluation.metrics[name] : undefined;
              return (
                <MeasuredRow
                  key={row.id}
                  row={row}
                  i={i}
                  name={name}
                  form={form}
                  q={q}
                  dimension={dimension}
                  rows={rows}
                />
              );
            })}
          </tbody>
        </table>
      </div>
      <datalist id="readable">
        {READABLE.map((k) => (
          <option key={k} value={METRICS[k].label} />
        ))}
      </datalist>
    </>
  );
}
