import type { z } from "zod";
import { freeId } from "../../../core/design/ids";
import type { Hinged, Surface } from "../../../core/design/schema";
import { CONTROL_DOES, hingedSchema } from "../../../core/subjects/surfaces/declares";
import { QuantityField } from "../../fields/QuantityField";
import { TextField } from "../../fields/TextField";

const COLUMNS = [
  ["from", "percent", "from, % of span"],
  ["to", "percent", "to, % of span"],
  ["chord", "percent", "% of chord"],
  ["up", "angle", "travel up, °"],
  ["down", "angle", "down, °"],
] as const;
const SHAPE = hingedSchema.shape;
const DEGREE = Math.PI / 180;

/** The widest stretch of the span on which nothing is hinged yet. */
function freeStretch(controls: readonly Hinged[]): { from: number; to: number } {
  const edges = [{ from: 0, to: 0.05 }, ...controls.toSorted((a, b) => a.from - b.from), { from: 0.95, to: 1 }];
  const gaps = edges.slice(1).map((c, k) => ({ from: edges[k]?.to ?? 0, to: c.from }));
  return gaps.reduce((best, g) => (g.to - g.from > best.to - best.from ? g : best));
}

/** What is hinged to a surface: what it does, where, and how far it goes. Several at once are mixed. */
export function Controls({
  surface: s,
  put,
}: {
  surface: Surface;
  put: (change: (s: Surface) => void) => string | null;
}) {
  const change = (id: string, edit: (c: Hinged) => void) =>
    put((x) => {
      const found = x.controls.find((c) => c.id === id);
      if (found) edit(found);
    });
  return (
    <section aria-label="Controls" className="mt-4">
      <h3 className="font-semibold text-ink">Controls</h3>
      {s.controls.length > 0 && (
        <div className="overflow-x-auto">
          <table className="rows w-full">
            <thead>
              <tr>
                <th>name</th>
                <th>does</th>
                {COLUMNS.map(([key, , word]) => (
                  <th key={key} className="text-right">
                    {word}
                  </th>
                ))}
                <th />
              </tr>
            </thead>
            <tbody>
              {s.controls.map((c) => (
                <tr key={c.id}>
                  <td>
                    <TextField
                      label="Control name"
                      required
                      value={c.name}
                      onCommit={(v) => change(c.id, (x) => void (x.name = v))}
                    />
                  </td>
                  <td>
                    <span className="flex flex-wrap gap-x-2">
                      {CONTROL_DOES.map((does) => (
                        <label key={does} className="flex min-h-6 items-center gap-1">
                          <input
                            type="checkbox"
                            checked={c.does.includes(does)}
                            onChange={(e) =>
                              change(c.id, (x) => {
                                const next = CONTROL_DOES.filter((w) =>
                                  w === does ? e.target.checked : x.does.includes(w),
                                );
                                if (next.length > 0) x.does = next;
                              })
                            }
                          />
                          {does}
                        </label>
                      ))}
                    </span>
                  </td>
                  {COLUMNS.map(([key, dimension, word]) => (
                    <td key={key}>
                      <QuantityField
                        label={`${c.name}, ${word.replace(/, [°%].*/, "")}`}
                        value={c[key]}
                        dimension={dimension}
                        schema={SHAPE[key] as z.ZodType<number>}
                        onCommit={(v) => (v === null ? null : change(c.id, (x) => void (x[key] = v)))}
                      />
                    </td>
                  ))}
                  <td>
                    <button
                      type="button"
                      className="link"
                      aria-label={`Remove ${c.name}`}
                      onClick={() => put((x) => void (x.controls = x.controls.filter((o) => o.id !== c.id)))}
                    >
                      ×
                    </button>
                  </td>
                </tr>
              ))}
            </tbody>
          </table>
        </div>
      )}
      {s.controls.length < 8 && freeStretch(s.controls).to - freeStretch(s.controls).from > 0.02 && (
        <button
          type="button"
          className="link mt-1"
          onClick={() =>
            put((x) =>
              x.controls.push({
                id: freeId(x.controls, "c"),
                name: `Control ${x.controls.length + 1}`,
                does: ["pitch"],
                ...freeStretch(x.controls),
                chord: 0.3,
                up: 20 * DEGREE,
                down: 20 * DEGREE,
              }),
            )
          }
        >
          add a control
        </button>
      )}
    </section>
  );
}
