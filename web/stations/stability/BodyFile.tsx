import { useQuery } from "@tanstack/react-query";
import { useEffect, useMemo, useState } from "react";
import type { BodyShape } from "../../../core/design/schema";
import { coordinate } from "../../../core/design/fields";
import { freeId } from "../../../core/design/ids";
import { type BodyFileRead, type MeshStands, type ShapeRead, shapeFromOffsets } from "../../../core/exchange/bodyFile";
import { guessOffsets, readOffsets } from "../../../core/exchange/offsetTable";
import { bodyGives } from "../../../core/subjects/surfaces/bodyShape";
import { freeName } from "../../../core/subjects/surfaces/patterns";
import { plain } from "../../../core/wording/format";
import { Dialog } from "../../app/Dialog";
import { useDesk } from "../../app/desk";
import { usePreferences } from "../../app/preferences";
import { useWidth } from "../../app/useWidth";
import { Shapes } from "../../drawing/Shapes";
import { sheetFor } from "../../drawing/scale";
import { EvidenceSelect } from "../../fields/EvidenceSelect";
import { Line, NumberLine } from "../../fields/FormParts";
import { QuantityField } from "../../fields/QuantityField";
import { textOf, useTable } from "../../fields/TableFile";
import { TextField } from "../../fields/TextField";
import { askSlow } from "../../worker/slow";
import { MeshStanding, OffsetColumns } from "./BodyFileReading";
import { SHAPE_BY } from "./shapeBy";

/** Bytes of a file that is read at most: a text STL of as many triangles as are taken. */
const MOST_BYTES = 120_000_000;
/** ms that a mesh of the largest size may take on a slow machine. */
const PATIENCE = 90_000;

/** A file that was chosen: the bytes of a mesh, or null where it is a table; and how many were before it. */
interface Chosen {
  name: string;
  bytes: Uint8Array | null;
  times: number;
}
const isMesh = (file: File, head: Uint8Array) =>
  /\.stl$/i.test(file.name) || (!/\.(csv|tsv|txt)$/i.test(file.name) && head.includes(0));

/** A body from a file: a table of offsets, or a mesh; what was read of it, then where it stands in the craft. */
export function BodyFile({
  first,
  onClose,
}: {
  /** a file that was dropped */
  first?: File;
  onClose: () => void;
}) {
  const [chosen, setChosen] = useState<Chosen | null>(null);
  const [problem, setProblem] = useState<string | null>(null);
  const table = useTable(guessOffsets);
  const [stands, setStands] = useState<MeshStands>({ unit: "", nose: "-x", up: "z" });
  const offsets = useMemo(() => readOffsets(table.text, table.reading), [table.text, table.reading]);
  const mesh = useQuery({
    // The bytes themselves are no key: a file that is chosen anew is another question.
    queryKey: ["mesh", chosen?.times, stands],
    queryFn: (): Promise<BodyFileRead> =>
      askSlow<BodyFileRead>(async (slow) => slow.shape(chosen?.bytes ?? new Uint8Array(), stands), PATIENCE),
    enabled: chosen !== null && chosen.bytes !== null,
    gcTime: 0,
    retry: false,
    staleTime: Infinity,
  });
  const take = async (file: File) => {
    setProblem(null);
    if (file.size > MOST_BYTES)
      return setProblem(
        `${file.name} has ${Math.round(file.size / 1e6)} MB: up to ${MOST_BYTES / 1e6} MB are read. Save it coarser.`,
      );
    if (/\.svg$/i.test(file.name))
      return setProblem(`${file.name} is an outline: drop it on the drawing, or choose it under Wings and fins.`);
    const head = new Uint8Array(await file.slice(0, 512).arrayBuffer());
    if (isMesh(file, head)) {
      const bytes = new Uint8Array(await file.arrayBuffer());
      setChosen((c) => ({ name: file.name, bytes, times: (c?.times ?? 0) + 1 }));
    } else {
      table.take(await textOf(file));
      setChosen((c) => ({ name: file.name, bytes: null, times: (c?.times ?? 0) + 1 }));
    }
  };
  // biome-ignore lint/correctness/useExhaustiveDependencies: what was dropped is taken once
  useEffect(() => {
    if (first) void take(first);
  }, [first]);
  const read: BodyFileRead | null =
    chosen === null
      ? null
      : chosen.bytes === null
        ? shapeFromOffsets(offsets)
        : mesh.error
          ? { ok: false, problem: "It took too long: save it with fewer triangles." }
          : (mesh.data ?? null);
  return (
    <Dialog open title="A body from a file" onClose={onClose} wide>
      <div className="flex max-h-[76vh] flex-col gap-3 overflow-y-auto text-[12px]">
        <label>
          A table of offsets (CSV or text: how far along, half-breadth, height), or a mesh (STL)
          <input
            type="file"
            accept=".csv,.tsv,.txt,.stl,text/*,model/stl"
            className="mt-1 block"
            aria-label="Body file"
            onChange={(e) => e.target.files?.[0] && void take(e.target.files[0])}
          />
          {problem && (
            <span role="alert" className="block text-stop">
              {problem}
            </span>
          )}
        </label>
        {chosen?.bytes === null && (
          <OffsetColumns reading={table.reading} correct={table.correct} separate={table.separate} table={offsets} />
        )}
        {chosen?.bytes && <MeshStanding stands={stands} onChange={setStands} />}
        {chosen?.bytes && mesh.isFetching && <p className="text-pencil">being read …</p>}
        {read && !read.ok && (
          <p role="alert" className="text-stop">
            {read.problem}
          </p>
        )}
        {chosen && read?.ok && (
          // Read in another way it is another shape: where it stands is said anew.
          <Placing
            key={`${read.shape.y} ${read.shape.frames[0]?.x}`}
            file={chosen.name}
            shape={read.shape}
            onClose={onClose}
          />
        )}
        {!(chosen && read?.ok) && (
          <button type="button" className="link self-start" onClick={onClose}>
            leave it
          </button>
        )}
      </div>
    </Dialog>
  );
}

const most = (list: readonly number[]) => Math.max(...list);
const least = (list: readonly number[]) => Math.min(...list);
const MM = 1e5;
const round = (v: number) => Math.round(v * MM) / MM;

/** Where what was read stands in the craft; drawn before it is taken. */
function Placing({ file, shape, onClose }: { file: string; shape: ShapeRead; onClose: () => void }) {
  const { design, edit } = useDesk();
  const { frames, mesh } = shape;
  const bottom = least(frames.map((f) => f.z - f.height / 2));
  const [name, setName] = useState(() => freeName(design.bodies, file.replace(/\.[^.]*$/, "").slice(0, 60) || "Body"));
  // The zero of a file is seldom that of the craft: where it stands is said, or taken from the file on purpose.
  const [at, setAt] = useState<{ nose: number | null; bottom: number | null; y: number }>({
    nose: null,
    bottom: null,
    y: round(shape.y),
  });
  const inFile = { nose: round(frames[0]?.x ?? 0), bottom: round(bottom) };
  const [mirrored, setMirrored] = useState(false);
  const [shapeBy, setShapeBy] = useState<BodyShape["shapeBy"]>(mesh && !mesh.closed ? "guess" : "datasheet");
  const body: BodyShape = {
    id: freeId(design.bodies, "b"),
    name,
    y: at.y,
    mirrored,
    across: "free",
    shapeBy,
    frames: frames.map((f) => ({
      ...f,
      x: round(f.x - (frames[0]?.x ?? 0) + (at.nose ?? inFile.nose)),
      z: round(f.z - bottom + (at.bottom ?? inFile.bottom)),
    })),
  };
  const far = [...body.frames.flatMap((f) => [f.x, f.z]), at.y].some((v) => Math.abs(v) > 100);
  const full = design.bodies.length >= 12;
  const why = full
    ? "the craft has twelve bodies already"
    : far
      ? "it stands farther off than 100 m"
      : at.nose === null || at.bottom === null
        ? "where in the craft it stands, along and up"
        : null;
  return (
    <>
      <BodyPicture body={body} />
      <Gives shape={shape} body={body} />
      <ul>
        {shape.cares.map((c) => (
          <li key={c} className="text-care">
            {c}
          </li>
        ))}
        {shape.notes.map((c) => (
          <li key={c}>{c}</li>
        ))}
      </ul>
      <div className="grid grid-cols-2 gap-x-6 gap-y-1 max-[640px]:grid-cols-1">
        <Line label="Name">
          <TextField boxed required label="Name of the body" value={name} onCommit={setName} />
        </Line>
        <Line label="nose at x">
          <QuantityField
            boxed
            label="nose at x"
            value={at.nose}
            dimension="length"
            schema={coordinate}
            onCommit={(nose) => setAt({ ...at, nose })}
          />
        </Line>
        <Line label="Shape known by">
          <span className="flex items-center gap-2">
            <EvidenceSelect
              label="Shape known by"
              value={shapeBy}
              onChange={(level) => setShapeBy(level as BodyShape["shapeBy"])}
            />
            {SHAPE_BY[shapeBy]}
          </span>
        </Line>
        <Line label="lowest at z">
          <QuantityField
            boxed
            label="lowest at z"
            value={at.bottom}
            dimension="length"
            schema={coordinate}
            onCommit={(bottom) => setAt({ ...at, bottom })}
          />
        </Line>
        <Line label="Sides">
          <label className="flex min-h-6 items-center gap-2">
            <input type="checkbox" checked={mirrored} onChange={(e) => setMirrored(e.target.checked)} />
            the same to port
          </label>
        </Line>
        <NumberLine
          label="to starboard"
          name="middle to starboard"
          value={at.y}
          dimension="length"
          onCommit={(y) => setAt({ ...at, y })}
        />
      </div>
      <p className="flex items-center gap-4">
        <button
          type="button"
          className="act act-first"
          disabled={why !== null}
          onClick={() => {
            edit((d) => void d.bodies.push(body));
            onClose();
          }}
        >
          Add this body
        </button>
        <button type="button" className="link" onClick={onClose}>
          leave it
        </button>
        {why && <span className="text-pencil">Not yet: {why}.</span>}
        {(at.nose === null || at.bottom === null) && (
          <button type="button" className="link" onClick={() => setAt({ ...at, ...inFile })}>
            where the file has it
          </button>
        )}
      </p>
      <p className="text-[11px] text-pencil">
        {body.frames.length} frames are kept of it; each can be put right under Bodies.
      </p>
    </>
  );
}

function BodyPicture({ body: b }: { body: BodyShape }) {
  const across = b.mirrored ? [b.y, -b.y] : [b.y];
  const half = most(b.frames.map((f) => f.width)) / 2;
  const box = {
    min: {
      x: least(b.frames.map((f) => f.x)),
      y: least(across) - half,
      z: least(b.frames.map((f) => f.z - f.height / 2)),
    },
    max: {
      x: most(b.frames.map((f) => f.x)),
      y: most(across) + half,
      z: most(b.frames.map((f) => f.z + f.height / 2)),
    },
  };
  const views = ["side", "top", "front"] as const;
  const [frame, width] = useWidth<HTMLDivElement>(700);
  const sheet = sheetFor(box, width, 230, views);
  return (
    <div ref={frame} className="shrink-0">
      <svg
        viewBox={`0 0 ${width} 230`}
        className="w-full"
        role="img"
        aria-label={`${b.name} in three views, nose left`}
      >
        {views.map((view) => (
          <g key={view}>
            <text x={sheet.views[view].x} y={sheet.views[view].y - 5} className="text-[11px]" fill="var(--pencil)">
              {view}
            </text>
            <Shapes sheet={sheet} view={view} surfaces={[]} bodies={[b]} />
          </g>
        ))}
      </svg>
    </div>
  );
}

/** What the file says of itself, and what the frames make of it. */
function Gives({ shape: { mesh }, body }: { shape: ShapeRead; body: BodyShape }) {
  const { habit } = usePreferences();
  const made = bodyGives({ ...body, mirrored: false });
  const length = (v: number) => plain(v, "length", habit);
  const size = mesh && [0, 1, 2].map((a) => length((mesh.max[a] ?? 0) - (mesh.min[a] ?? 0))).join(" × ");
  return (
    <p data-gives>
      {mesh && (
        <>
          The mesh: {mesh.triangles.toLocaleString("en")} triangles, {size}, skin {plain(mesh.area, "area", habit)},{" "}
          {mesh.volume === null || mesh.centroid === null
            ? "no volume (see below)"
            : `closed, ${plain(mesh.volume, "volume", habit)} around x ${length(mesh.centroid[0])}, y ` +
              `${length(mesh.centroid[1])}, z ${length(mesh.centroid[2])} where the file has it`}
          .{" "}
        </>
      )}
      {(mesh === null || mesh.closed) && (
        <>
          Its frames enclose <b className="num">{plain(made.volume, "volume", habit)}</b>, straight from one to the next
          {mesh === null && ", closed on top"}.
        </>
      )}
    </p>
  );
}
