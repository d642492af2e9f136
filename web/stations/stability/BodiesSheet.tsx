import { useState } from "react";
import type { z } from "zod";
import { type BodyShape, bodySchema } from "../../../core/design/schema";
import { coordinate } from "../../../core/design/fields";
import { DISPLAY } from "../../../core/design/units";
import { bodyGives, heldBelow, plainOutline } from "../../../core/subjects/surfaces/bodyShape";
import { waterOf } from "../../../core/subjects/propulsion/setup";
import { MOST_FRAMES } from "../../../core/subjects/surfaces/declares";
import { bodyFrom } from "../../../core/subjects/surfaces/patterns";
import { plain } from "../../../core/wording/format";
import { useDesk } from "../../app/desk";
import { usePreferences } from "../../app/preferences";
import { EvidenceSelect } from "../../fields/EvidenceSelect";
import { Line, NumberLine } from "../../fields/FormParts";
import { QuantityField } from "../../fields/QuantityField";
import { TextField } from "../../fields/TextField";
import { BodyFile } from "./BodyFile";
import { Section } from "./Section";
import { SHAPE_BY } from "./shapeBy";

const FRAME = bodySchema.shape.frames;
const COLUMNS = ["x", "z", "width", "height"] as const;
const WORDS = { x: "x aft", z: "middle, up", width: "width", height: "height" } as const;
const MOST_BODIES = 12;
const SIZE = { min: 0, max: 100 };

/** Bodies by a few frames each: fuselages, pods, hulls, envelopes. */
export function BodiesSheet() {
  const { design, edit } = useDesk();
  const [reading, setReading] = useState(false);
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
      {design.bodies.length < MOST_BODIES && (
        <p className="mt-3 flex items-center gap-4">
          <button type="button" className="act" onClick={() => edit((d) => void d.bodies.push(bodyFrom(d)))}>
            Add a body
          </button>
          <button type="button" className="act" onClick={() => setReading(true)}>
            A body from a file
          </button>
        </p>
      )}
      {reading && <BodyFile onClose={() => setReading(false)} />}
    </div>
  );
}

function BodyForm({ body: b }: { body: BodyShape }) {
  const { edit } = useDesk();
  const put = (change: (b: BodyShape) => void, key?: string) =>
    edit((d) => {
      const found = d.bodies.find((x) => x.id === b.id);
      if (found) change(found);
    }, key);
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
            onChange={(e) =>
              put((x) => {
                x.across = e.target.value as BodyShape["across"];
                if (x.across === "free") for (const f of x.frames) f.outline ??= plainOutline();
              })
            }
          >
            <option>round</option>
            <option>box</option>
            <option value="free">free sections</option>
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
            {SHAPE_BY[b.shapeBy]}
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
        <BodyNumbers b={b} />
        <BelowHeight b={b} />
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

/** What its frames make of it. */
function BodyNumbers({ b }: { b: BodyShape }) {
  const { habit } = usePreferences();
  const made = bodyGives(b);
  const at = (p: { x: number; z: number } | null) =>
    p && ` around x ${plain(p.x, "length", habit)}, z ${plain(p.z, "length", habit)}`;
  return (
    <Line label="Gives">
      <span data-gives={b.id}>
        {plain(made.length, "length", habit)} long; {b.mirrored && "both together "}
        {plain(made.volume, "volume", habit)}
        {at(made.middle)}; skin with its ends {plain(made.skin, "area", habit)}
        {at(made.skinMiddle)}
        {b.shapeBy === "guess" && ": of a shape that is a guess"}
      </span>
    </Line>
  );
}

/** What would be under water if it stood at a height: level, upright, and by itself. */
function BelowHeight({ b }: { b: BodyShape }) {
  const { design } = useDesk();
  const { habit } = usePreferences();
  const [z, setZ] = useState<number | null>(null);
  const wet = z === null ? null : heldBelow(b, z);
  const water = waterOf(design.brief.environment);
  return (
    <Line label="Water up to z">
      <QuantityField
        boxed
        label={`${b.name}, water up to z`}
        value={z}
        dimension="length"
        schema={coordinate}
        onCommit={setZ}
      />
      {wet && (
        <span className="block" data-below={b.id}>
          {wet.middle === null ? (
            "nothing of it is below"
          ) : (
            <>
              {b.mirrored && "both "}
              {plain(wet.volume, "volume", habit)} below: <b>{plain(wet.volume * water.density, "mass", habit)}</b> of{" "}
              {design.brief.environment.water ?? "fresh"} water, around x {plain(wet.middle.x, "length", habit)}, z{" "}
              {plain(wet.middle.z, "length", habit)}; cut {plain(wet.waterplane, "area", habit)}. Level and by itself:
              how the whole craft floats is not computed here.
            </>
          )}
        </span>
      )}
    </Line>
  );
}

/** The frames of the body, from its nose. */
function Frames({ b, put }: { b: BodyShape; put: (change: (b: BodyShape) => void, key?: string) => string | null }) {
  const { frozen } = useDesk();
  const { habit } = usePreferences();
  const [looked, setLooked] = useState(() => {
    const sizes = b.frames.map((f) => f.width * f.height);
    return sizes.indexOf(Math.max(...sizes));
  });
  const k = Math.min(looked, b.frames.length - 1);
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
      {b.across === "free" && (
        <div className="mt-2 flex flex-wrap items-start gap-4">
          <Section body={b} k={k} frozen={frozen} put={(frame, key) => put((x) => void (x.frames[k] = frame), key)} />
          <label>
            Section of frame{" "}
            <select
              className="box w-auto!"
              aria-label={`${b.name}, section of frame`}
              value={k}
              onChange={(e) => setLooked(Number(e.target.value))}
            >
              {b.frames.map((f, i) => (
                <option key={i} value={i}>
                  {i + 1} at {plain(f.x, "length", habit)}
                </option>
              ))}
            </select>
          </label>
        </div>
      )}
      {b.frames.length < MOST_FRAMES && (
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
