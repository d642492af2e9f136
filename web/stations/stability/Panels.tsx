import type { z } from "zod";
import type { Surface } from "../../../core/design/schema";
import { panelSchema } from "../../../core/subjects/surfaces/declares";
import { surfaceSchema } from "../../../core/design/schema";
import { DISPLAY } from "../../../core/design/units";
import { usePreferences } from "../../app/preferences";
import { QuantityField } from "../../fields/QuantityField";

const COLUMNS = [
  ["span", "length", "span"],
  ["chord", "length", "chord at its end"],
  ["sweep", "angle", "sweep, °"],
  ["dihedral", "angle", "dihedral, °"],
  ["twist", "angle", "twist at its end, °"],
] as const;
const SHAPE = panelSchema.shape;

/** The panels of a surface, from the root outward: each begins where the one before it ends. */
export function Panels({
  surface: s,
  put,
}: {
  surface: Surface;
  put: (change: (s: Surface) => void) => string | null;
}) {
  const { habit } = usePreferences();
  const long = DISPLAY[habit].length;
  return (
    <section aria-label="Panels" className="mt-4">
      <h3 className="font-semibold text-ink">Panels of {s.mirrored ? "a side" : "it"}, from the root</h3>
      <div className="overflow-x-auto">
        <table className="rows w-full">
          <thead>
            <tr>
              <th>panel</th>
              {COLUMNS.map(([key, dimension, word]) => (
                <th key={key} className="text-right">
                  {word}
                  {dimension === "length" && `, ${long}`}
                </th>
              ))}
              <th />
            </tr>
          </thead>
          <tbody>
            <tr>
              <td>root</td>
              <td />
              <td>
                <QuantityField
                  label="Chord at the root"
                  value={s.chord}
                  dimension="length"
                  schema={surfaceSchema.shape.chord as z.ZodType<number>}
                  onCommit={(v) => (v === null ? null : put((x) => void (x.chord = v)))}
                />
              </td>
              <td colSpan={4} className="text-pencil">
                dihedral 0° runs to starboard, 90° up (a fin), −90° down
              </td>
            </tr>
            {s.panels.map((p, k) => (
              <tr key={k}>
                <td>{k + 1}</td>
                {COLUMNS.map(([key, dimension, word]) => (
                  <td key={key}>
                    <QuantityField
                      label={`Panel ${k + 1}, ${word.replace(", °", "")}`}
                      value={p[key]}
                      dimension={dimension}
                      schema={SHAPE[key] as z.ZodType<number>}
                      onCommit={(v) => (v === null ? null : put((x) => void (x.panels[k] && (x.panels[k][key] = v))))}
                    />
                  </td>
                ))}
                <td>
                  {s.panels.length > 1 && (
                    <button
                      type="button"
                      className="link"
                      aria-label={`Remove panel ${k + 1}`}
                      onClick={() => put((x) => void x.panels.splice(k, 1))}
                    >
                      ×
                    </button>
                  )}
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      </div>
      {s.panels.length < 24 && (
        <button
          type="button"
          className="link mt-1"
          onClick={() =>
            put((x) => {
              const last = x.panels.at(-1);
              if (last) x.panels.push({ ...last, span: Math.max(last.span / 2, 0.001) });
            })
          }
        >
          add a panel
        </button>
      )}
    </section>
  );
}
