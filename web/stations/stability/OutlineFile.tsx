import { useEffect, useState } from "react";
import type { BodyShape, Surface } from "../../../core/design/schema";
import { coordinate } from "../../../core/design/fields";
import { freeId } from "../../../core/design/ids";
import {
  type Nose,
  NOSES,
  OUTLINE_IS,
  type OutlineIs,
  boxOf,
  laidLeft,
  shapeFromOutline,
} from "../../../core/exchange/outline";
import { freeName, surfaceFrom } from "../../../core/subjects/surfaces/patterns";
import { edgesOf, outlineOf, planformOf } from "../../../core/subjects/surfaces/planform";
import { plain } from "../../../core/wording/format";
import { Dialog } from "../../app/Dialog";
import { useDesk } from "../../app/desk";
import { usePreferences } from "../../app/preferences";
import { useWidth } from "../../app/useWidth";
import { Shapes } from "../../drawing/Shapes";
import { sheetFor } from "../../drawing/scale";
import { type SvgRead, readSvg } from "../../drawing/svgLines";
import { Line } from "../../fields/FormParts";
import { QuantityField } from "../../fields/QuantityField";
import { textOf } from "../../fields/TableFile";
import { TextField } from "../../fields/TextField";

const MOST_BYTES = 8_000_000;
const IS_WORD: Record<OutlineIs, string> = {
  wing: "a wing or tail from above, both sides",
  "half wing": "a wing or tail from above, one side",
  fin: "a fin from the side",
  "body from the side": "a body from the side",
  "body from above": "a body from above",
};

/** A wing, fin or body from its outline in an SVG drawing: which figure it is, how large, where it stands. */
export function OutlineFile({
  first,
  onClose,
  onAdded,
}: {
  /** a file that was dropped */
  first?: File | null;
  onClose: () => void;
  onAdded: (surface: string | null) => void;
}) {
  const [drawing, setDrawing] = useState<{ name: string; read: SvgRead } | null>(null);
  const take = async (file: File) => {
    if (file.size > MOST_BYTES) {
      const problem = `${file.name} has ${Math.round(file.size / 1e6)} MB: up to ${MOST_BYTES / 1e6} MB are read.`;
      return setDrawing({ name: file.name, read: { ok: false, problem } });
    }
    setDrawing({ name: file.name, read: readSvg(await textOf(file)) });
  };
  // biome-ignore lint/correctness/useExhaustiveDependencies: what was dropped is taken once
  useEffect(() => {
    if (first) void take(first);
  }, [first]);
  return (
    <Dialog open title="From an outline" onClose={onClose} wide>
      <div className="flex max-h-[76vh] flex-col gap-3 overflow-y-auto text-[12px]">
        <label>
          An SVG drawing of the outline of one wing, fin or body
          <input
            type="file"
            accept=".svg,image/svg+xml"
            className="mt-1 block"
            aria-label="Outline file"
            onChange={(e) => e.target.files?.[0] && void take(e.target.files[0])}
          />
        </label>
        {drawing && !drawing.read.ok && (
          <p role="alert" className="text-stop">
            {drawing.read.problem}
          </p>
        )}
        {drawing?.read.ok ? (
          <Outline key={drawing.name} file={drawing.name} read={drawing.read} onClose={onClose} onAdded={onAdded} />
        ) : (
          <button type="button" className="link self-start" onClick={onClose}>
            leave it
          </button>
        )}
      </div>
    </Dialog>
  );
}

function Outline({
  file,
  read: { figures, unit },
  onClose,
  onAdded,
}: {
  file: string;
  read: Extract<SvgRead, { ok: true }>;
  onClose: () => void;
  onAdded: (surface: string | null) => void;
}) {
  const { design, edit } = useDesk();
  const { habit } = usePreferences();
  const [is, setIs] = useState<OutlineIs>("wing");
  const [nose, setNose] = useState<Nose>("up");
  const [which, setWhich] = useState(0);
  const lines = which < 0 ? figures.flatMap((f) => f.lines) : (figures[which]?.lines ?? []);
  const drawn = boxOf(laidLeft(lines, nose, 1));
  const long = drawn ? drawn.to.a - drawn.from.a : 0;
  // Nose to tail, m: by the file where it says so, else by whoever holds it.
  const [said, setSaid] = useState<number | null>(null);
  const length = said ?? (unit === null ? null : long * unit);
  // Where it stands no outline says: nothing is made up.
  const [at, setAt] = useState<{ nose: number | null; z: number | null }>({ nose: null, z: null });
  const [name, setName] = useState(file.replace(/\.[^.]*$/, "").slice(0, 60) || "From a drawing");
  const shape = length === null || !(long > 0) ? null : shapeFromOutline(laidLeft(lines, nose, length / long), is);
  const made = shape?.ok ? placed(shape, { design, name, at: { nose: at.nose ?? 0, z: at.z ?? 0 } }) : null;
  const problem =
    length === null
      ? "how long it is from nose to tail: the file names no unit of length"
      : shape && !shape.ok
        ? shape.problem
        : made && "body" in made && design.bodies.length >= 12
          ? "the craft has twelve bodies already"
          : at.nose === null || at.z === null
            ? "where in the craft it stands, along and up"
            : null;
  return (
    <>
      <div className="grid grid-cols-2 gap-x-6 gap-y-1 max-[640px]:grid-cols-1">
        <Line label="It is">
          <select className="box" aria-label="It is" value={is} onChange={(e) => setIs(e.target.value as OutlineIs)}>
            {OUTLINE_IS.map((o) => (
              <option key={o} value={o}>
                {IS_WORD[o]}
              </option>
            ))}
          </select>
        </Line>
        <Line label="Its nose points">
          <select
            className="box"
            aria-label="Its nose points"
            value={nose}
            onChange={(e) => {
              setNose(e.target.value as Nose);
              setSaid(null);
            }}
          >
            {NOSES.map((n) => (
              <option key={n}>{n}</option>
            ))}
          </select>
        </Line>
        {figures.length > 1 && (
          <Line label="Outline">
            <select
              className="box"
              aria-label="Outline"
              value={which}
              onChange={(e) => {
                setWhich(Number(e.target.value));
                setSaid(null);
              }}
            >
              {figures.map((f, k) => (
                <option key={k} value={k}>
                  {f.name}
                  {k === 0 && ", the largest"}
                </option>
              ))}
              <option value={-1}>all of them together</option>
            </select>
          </Line>
        )}
        <Line label="Nose to tail" hint={unit === null ? "the file names no unit" : "as the file has it"}>
          <QuantityField
            boxed
            label="Nose to tail"
            value={length}
            dimension="length"
            onCommit={(v) => setSaid(v !== null && v > 0 ? v : null)}
          />
        </Line>
        <Line label="Name">
          <TextField boxed required label="Name of it" value={name} onCommit={setName} />
        </Line>
        <Line label="Its front at x">
          <QuantityField
            boxed
            label="Its front at x"
            value={at.nose}
            dimension="length"
            schema={coordinate}
            onCommit={(v) => setAt({ ...at, nose: v })}
          />
        </Line>
        <Line label={is === "fin" ? "Its root at z" : "Its height, z"}>
          <QuantityField
            boxed
            label="Its height, z"
            value={at.z}
            dimension="length"
            schema={coordinate}
            onCommit={(v) => setAt({ ...at, z: v })}
          />
        </Line>
      </div>
      {made && <Made made={made} />}
      {shape?.ok && (
        <ul>
          {shape.cares.map((c) => (
            <li key={c} className="text-care">
              {c}
            </li>
          ))}
        </ul>
      )}
      {made && "surface" in made && (
        <p data-gives>
          {made.surface.panels.length} {made.surface.panels.length === 1 ? "panel" : "panels"},{" "}
          {is === "fin" ? "height" : "span"}{" "}
          {plain((is === "fin" ? 1 : 2) * made.surface.panels.reduce((s, p) => s + p.span, 0), "length", habit)}, area{" "}
          {plain(planformOf(made.surface).area, "area", habit)}. Its section, incidence and controls are a first guess:
          put them right under Wings and fins.
        </p>
      )}
      <p className="flex items-center gap-4">
        <button
          type="button"
          className="act act-first"
          disabled={problem !== null || made === null}
          onClick={() => {
            if (!made) return;
            if ("surface" in made) edit((d) => void d.surfaces.push(made.surface));
            else edit((d) => void d.bodies.push(made.body));
            onAdded("surface" in made ? made.surface.id : null);
            onClose();
          }}
        >
          Add it
        </button>
        <button type="button" className="link" onClick={onClose}>
          leave it
        </button>
        {problem && <span className="text-care">Not yet: {problem}</span>}
      </p>
    </>
  );
}

type Made = { surface: Surface } | { body: BodyShape };

/** What was read, where it shall stand in the craft. */
function placed(
  shape: Extract<ReturnType<typeof shapeFromOutline>, { ok: true }>,
  { design, name, at }: { design: Parameters<typeof surfaceFrom>[1]; name: string; at: { nose: number; z: number } },
): Made {
  if (shape.is === "surface") {
    const front = Math.min(
      ...outlineOf({ ...surfaceFrom("tail", design), ...shape.surface, incidence: 0 }, 1).map((p) => p.x),
    );
    return {
      surface: {
        ...surfaceFrom(shape.surface.mirrored ? "wing" : "fin", design),
        ...shape.surface,
        name: freeName(design.surfaces, name),
        at: { x: round(shape.surface.at.x - front + at.nose), y: 0, z: at.z },
        // Its chords are drawn; how it is set to the craft nobody said: a guess until somebody says better.
        incidence: 0,
        controls: [],
        shapeBy: "guess",
      },
    };
  }
  const { frames } = shape.body;
  const [x, z] = [frames[0]?.x ?? 0, frames[0]?.z ?? 0];
  return {
    body: {
      id: freeId(design.bodies, "b"),
      name: freeName(design.bodies, name),
      y: 0,
      mirrored: false,
      // Of two sizes one is drawn.
      shapeBy: "guess",
      across: shape.body.across,
      frames: frames.map((f) => ({ ...f, x: round(f.x - x + at.nose), z: round(f.z - z + at.z) })),
    },
  };
}
const round = (v: number) => Math.round(v * 1e5) / 1e5;

function Made({ made }: { made: Made }) {
  const [frame, width] = useWidth<HTMLDivElement>(700);
  const points =
    "surface" in made ? [...outlineOf(made.surface, 1), ...outlineOf(made.surface, -1)] : edgesOf(made.body);
  const reach = (axis: "x" | "y" | "z", sign: 1 | -1) => sign * Math.max(...points.map((p) => sign * p[axis]));
  const box = {
    min: { x: reach("x", -1), y: reach("y", -1), z: reach("z", -1) },
    max: { x: reach("x", 1), y: reach("y", 1), z: reach("z", 1) },
  };
  const fin = "surface" in made && !made.surface.mirrored;
  const views = fin ? (["side"] as const) : "surface" in made ? (["top"] as const) : (["side", "top"] as const);
  const sheet = sheetFor(box, width, 250, views);
  return (
    <div ref={frame} className="shrink-0">
      <svg viewBox={`0 0 ${width} 250`} className="w-full" role="img" aria-label="What was read of it, nose left">
        {views.map((view) => (
          <Shapes
            key={view}
            sheet={sheet}
            view={view}
            surfaces={"surface" in made ? [made.surface] : []}
            bodies={"body" in made ? [made.body] : []}
          />
        ))}
      </svg>
    </div>
  );
}
