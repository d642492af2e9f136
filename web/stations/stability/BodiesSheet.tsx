import type { z } from "zod";
import { type BodyShape, bodySchema } from "../../../core/design/schema";
import { DISPLAY } from "../../../core/design/units";
import { bodyFrom } from "../../../core/subjects/surfaces/patterns";
import { useDesk } from "../../app/desk";
import { usePreferences } from "../../app/preferences";
import { EvidenceSelect } from "../../fields/EvidenceSelect";
import { Line, NumberLine } from "../../fields/FormParts";
import { QuantityField } from "../../fields/QuantityField";
import { TextField } from "../../fields/TextField";

const FRAME = bodySchema.shape.frames;
const COLUMNS = ["x", "z", "width", "height"] as const;
const WORDS = { x: "x aft", z: "middle, up", width: "width", height: "height" } as const;
const SIZE = { min: 0, max: 100 };

/** Bodies by a few frames each: fuselages, pods, hulls, envelopes. */
export function BodiesSheet() {
  const { design, edit } = useDesk();
  return (
    <div className="px-4 py-3 text-[12px]">
      {design.bodies.length === 0 && (
        <p>
          No body is described. A few frames are enough: one that sticks out ahead of the wing shifts the CG window
          forward.
        </p>
      )}
      {design.bodies.map((b) => (
        <BodyForm key={b.id} body={b} />
      ))}
      <button type="button" className="act mt-3" onClick={() => edit((d) => void d.bodies.push(bodyFrom(d)))}>
        Add a body
      </button>
    </div>
  );
}

function BodyForm({ body: b }: { body: BodyShape }) {
  const { edit } = useDesk();
  const put = (change: (b: BodyShape) => void) =>
    edit((d) => {
      const found = d.bodies.find((x) => x.id === b.id);
      if (found) change(found);
    });
  return (
    <section
      aria-label={b.name}
      className="mb-4 grid grid-cols-[minmax(0,260px)_1fr] gap-x-6 gap-y-3 max-[760px]:grid-cols-1"
    >
      <div className="flex flex-col gap-1">
        <Line label="Name">
          <TextField boxed required label="Body name" value={b.name} onCommit={(v) => put((x) => void (x.name = v))} />
        </Line>
        <Line label="Across">
          <select
            className="box"
            aria-label={`${b.name}, across`}
            value={b.across}
            onChange={(e) => put((x) => void (x.across = e.target.value as BodyShape["across"]))}
          >
            <option>round</option>
            <option>box</option>
          </select>
        </Line>
        <NumberLine
          label="to starboard"
          name={`${b.name}, y`}
          value={b.y}
          dimension="length"
          onCommit={(v) => put((x) => void (x.y = v))}
        />
        <Line label="Shape known by">
          <span className="flex items-center gap-2">
            <EvidenceSelect
              label={`${b.name}, shape known by`}
              value={b.shapeBy}
              onChange={(level) => put((x) => void (x.shapeBy = level as BodyShape["shapeBy"]))}
            />
            {{ guess: "a guess", datasheet: "a drawing", measured: "measured", proven: "proven" }[b.shapeBy]}
          </span>
        </Line>
        <Line label="Sides">
          <label className="flex min-h-6 items-center gap-2">
            <input
              type="checkbox"
              checked={b.mirrored}
              onChange={(e) => put((x) => void (x.mirrored = e.target.checked))}
            />
            the same to port
          </label>
        </Line>
        <button
          type="button"
          className="link self-start"
          onClick={() => edit((d) => void (d.bodies = d.bodies.filter((x) => x.id !== b.id)))}
        >
          remove {b.name}
        </button>
      </div>
      <Frames b={b} put={put} />
    </section>
  );
}

/** The frames of the body, from its nose. */
function Frames({ b, put }: { b: BodyShape; put: (change: (b: BodyShape) => void) => string | null }) {
  const { habit } = usePreferences();
  const element = (FRAME as unknown as z.ZodArray<z.ZodObject<Record<(typeof COLUMNS)[number], z.ZodType<number>>>>)
    .element;
  return (
    <div className="overflow-x-auto">
      <table className="rows w-full">
        <thead>
          <tr>
            <th>frame</th>
            {COLUMNS.map((c) => (
              <th key={c} className="text-right">
                {WORDS[c]}, {DISPLAY[habit].length}
              </th>
            ))}
            <th />
          </tr>
        </thead>
        <tbody>
          {b.frames.map((f, k) => (
            <tr key={k}>
              <td>{k + 1}</td>
              {COLUMNS.map((c) => (
                <td key={c}>
                  <QuantityField
                    label={`${b.name}, frame ${k + 1}, ${WORDS[c]}`}
                    value={f[c]}
                    dimension="length"
                    schema={element.shape[c]}
                    onCommit={(v) => (v === null ? null : put((x) => void (x.frames[k] && (x.frames[k][c] = v))))}
                  />
                </td>
              ))}
              <td>
                {b.frames.length > 2 && (
                  <button
                    type="button"
                    className="link"
                    aria-label={`Remove frame ${k + 1} of ${b.name}`}
                    onClick={() => put((x) => void x.frames.splice(k, 1))}
                  >
                    ×
                  </button>
                )}
              </td>
            </tr>
          ))}
        </tbody>
      </table>
      {b.frames.length < 24 && (
        <button
          type="button"
          className="link mt-1"
          onClick={() =>
            put((x) => {
              const last = x.frames.at(-1);
              if (last) x.frames.push({ ...last, x: Math.min(last.x + 0.1, SIZE.max) });
            })
          }
        >
          add a frame
        </button>
      )}
    </div>
  );
}
