import { useState } from "react";
import type { z } from "zod";
import { MOMENT_READ, type MomentTest, TWIST } from "../../../../core/design/bench";
import type { Dimension } from "../../../../core/design/units";
import { QuantityField } from "../../../fields/QuantityField";

type Way = MomentTest["way"];

/** The set-up of a way, and its readings. */
export function WayFields({ way, change }: { way: Way; change: (mutate: (w: Way) => void) => void }) {
  const size = (label: string, key: "spacing" | "length" | "arm", value: number | null) => (
    <label className="w-32">
      {label}
      <QuantityField
        boxed
        label={label}
        value={value}
        dimension="length"
        schema={MOMENT_READ[key]}
        empty="measure it"
        onCommit={(v) => change((w) => void Object.assign(w, { [key]: v }))}
      />
    </label>
  );
  if (way.by === "scale at an arm")
    return (
      <>
        <div className="mt-2 flex flex-wrap gap-3">{size("Arm of the pull", "arm", way.arm)}</div>
        <Readings
          name="Pull"
          dimension="force"
          values={way.pulls}
          schema={MOMENT_READ.pull}
          onChange={(list) => change((w) => void (w.by === "scale at an arm" && (w.pulls = list)))}
        />
      </>
    );
  if (way.by === "timed turn")
    return (
      <>
        <div className="mt-2 flex flex-wrap gap-3">
          <label className="w-32">
            Speed along it
            <QuantityField
              boxed
              label="Speed along the turn"
              value={way.speed}
              dimension="speed"
              schema={MOMENT_READ.speed}
              empty="on the spot"
              onCommit={(v) => change((w) => void (w.by === "timed turn" && (w.speed = v)))}
            />
          </label>
        </div>
        <Pairs
          name="Turn"
          first={["angle", "angle"]}
          rows={way.turns.map((t) => [t.angle, t.seconds])}
          onChange={(rows) =>
            change(
              (w) => void (w.by === "timed turn" && (w.turns = rows.map(([angle, seconds]) => ({ angle, seconds })))),
            )
          }
        />
      </>
    );
  return (
    <>
      <div className="mt-2 flex flex-wrap gap-3">
        {size("Lines apart", "spacing", way.spacing)}
        {size("Lines long", "length", way.length)}
        <label className="w-32">
          The lines carry
          <QuantityField
            boxed
            label="The lines carry"
            value={way.mass}
            dimension="mass"
            schema={MOMENT_READ.mass}
            empty="as the list says"
            onCommit={(v) => change((w) => void (w.by === "two lines" && (w.mass = v)))}
          />
        </label>
      </div>
      <Readings
        name="Twist"
        dimension="angle"
        values={way.twists}
        schema={TWIST}
        onChange={(list) => change((w) => void (w.by === "two lines" && (w.twists = list)))}
      />
      <Pairs
        name="Swings"
        first={["count", "count"]}
        rows={way.swings.map((s) => [s.count, s.seconds])}
        onChange={(rows) =>
          change(
            (w) =>
              void (
                w.by === "two lines" &&
                (w.swings = rows.map(([count, seconds]) => ({ count: Math.max(1, Math.round(count)), seconds })))
              ),
          )
        }
      />
    </>
  );
}

/** Readings of one number, and a field for the next; an emptied one goes. */
function Readings({
  name,
  dimension,
  values,
  schema,
  onChange,
}: {
  name: string;
  dimension: Dimension;
  values: readonly number[];
  schema: z.ZodType<number>;
  onChange: (values: number[]) => void;
}) {
  return (
    <div className="mt-2 flex flex-wrap items-end gap-2" role="group" aria-label={`${name} readings`}>
      {[...values, null].map((value, k) => (
        <label key={k} className="w-24">
          {value === null ? `${name}, next` : `${name} ${k + 1}`}
          <QuantityField
            boxed
            label={value === null ? `${name}, next` : `${name} ${k + 1}`}
            value={value}
            dimension={dimension}
            schema={schema}
            empty="read"
            onCommit={(v) =>
              onChange(
                v === null
                  ? values.filter((_, i) => i !== k)
                  : value === null
                    ? [...values, v]
                    : values.map((old, i) => (i === k ? v : old)),
              )
            }
          />
        </label>
      ))}
    </div>
  );
}

/** Pairs of a number and its time, and a row for the next: both, and it is kept. */
function Pairs({
  name,
  first: [word, dimension],
  rows,
  onChange,
}: {
  name: string;
  first: [string, "angle" | "count"];
  rows: readonly (readonly [number, number])[];
  onChange: (rows: [number, number][]) => void;
}) {
  const [fresh, setFresh] = useState<[number | null, number | null]>([null, null]);
  const put = (k: number, column: 0 | 1, v: number | null): void => {
    const list = rows.map((r) => [...r] as [number, number]);
    if (k < rows.length) {
      if (v === null) list.splice(k, 1);
      else list[k] = column === 0 ? [v, list[k]?.[1] ?? v] : [list[k]?.[0] ?? v, v];
      onChange(list);
      return;
    }
    const next: [number | null, number | null] = column === 0 ? [v, fresh[1]] : [fresh[0], v];
    if (next[0] !== null && next[1] !== null) {
      onChange([...list, [next[0], next[1]]]);
      setFresh([null, null]);
    } else setFresh(next);
  };
  return (
    <table className="rows mt-2 w-auto">
      <thead>
        <tr>
          <th>{name}</th>
          <th className="text-right!">{word}</th>
          <th className="text-right!">time</th>
        </tr>
      </thead>
      <tbody>
        {[...rows, fresh].map((r, k) => (
          <tr key={k}>
            <td className="pr-3! text-pencil">{k < rows.length ? k + 1 : "next"}</td>
            {([0, 1] as const).map((column) => (
              <td key={column} className="w-24">
                <QuantityField
                  label={`${name} ${k < rows.length ? k + 1 : "next"}, ${column === 0 ? word : "time"}`}
                  value={r[column]}
                  dimension={column === 0 ? dimension : "stopwatch"}
                  schema={MOMENT_READ[column === 0 ? dimension : "seconds"]}
                  empty="read"
                  onCommit={(v) => put(k, column, v)}
                />
              </td>
            ))}
          </tr>
        ))}
      </tbody>
    </table>
  );
}
