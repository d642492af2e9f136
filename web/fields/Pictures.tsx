import { useRef, useState } from "react";
import { toast } from "sonner";
import type { Attachment } from "../../core/design/bench";
import { Dialog } from "../app/Dialog";
import { sayError } from "../app/client";
import { type Taken, asText, keepPicture, pictureSource, reduced, taken } from "./keepPicture";

/** Pictures of a session or a run, photographed or drawn; stored once by their content. */
export function Pictures({ files, onChange }: { files: Attachment[]; onChange: (files: Attachment[]) => void }) {
  const [shown, setShown] = useState<Attachment | null>(null);
  const [drawing, setDrawing] = useState(false);
  const pictures = files.filter((f) => f.type.startsWith("image/"));
  const logs = files.filter((f) => !f.type.startsWith("image/"));
  const take = async (list: FileList, read: (file: File) => Promise<Taken>) => {
    const added: Attachment[] = [];
    for (const file of list) {
      try {
        added.push(await keepPicture(await read(file)));
      } catch (error) {
        toast.error(
          `${file.name}: ${error instanceof DOMException ? "this is not a picture that can be read" : sayError(error)}`,
        );
      }
    }
    if (added.length > 0)
      onChange([...files, ...added.filter((a) => !files.some((f) => f.hash === a.hash))].slice(0, 20));
  };
  return (
    <div className="mt-2 flex flex-wrap items-center gap-2" role="group" aria-label="Pictures">
      {pictures.map((f) => (
        <button
          key={f.hash}
          type="button"
          className="border border-hair bg-sheet p-0.5"
          aria-label={`Picture ${f.name}`}
          onClick={() => setShown(f)}
        >
          <img src={pictureSource(f.hash)} alt={f.name} className="block h-14 max-w-28 object-cover" />
        </button>
      ))}
      {logs.map((f) => (
        <span key={f.hash} className="text-[12px]">
          <a className="link" href={pictureSource(f.hash)} download={f.name}>
            {f.name}
          </a>{" "}
          <span className="text-pencil">{Math.max(1, Math.round(f.size / 1000))} kB</span>{" "}
          <button
            type="button"
            className="link no-print"
            aria-label={`Take out ${f.name}`}
            onClick={() => onChange(files.filter((x) => x.hash !== f.hash))}
          >
            ×
          </button>
        </span>
      ))}
      <span className="no-print flex gap-3 text-[12px]">
        <FileLink
          name="add a picture"
          label="Add a picture"
          accept="image/*"
          onTake={(list) => void take(list, reduced)}
        />
        <FileLink
          name="add a log"
          label="Add a log"
          accept=".csv,.txt,.log,.gpx,.json,text/*"
          onTake={(list) => void take(list, asText)}
        />
        <button type="button" className="link" onClick={() => setDrawing(true)}>
          draw one
        </button>
      </span>
      <Dialog open={shown !== null} title={shown?.name ?? ""} onClose={() => setShown(null)} wide>
        {shown && (
          <img src={pictureSource(shown.hash)} alt={shown.name} className="max-h-[66vh] w-full object-contain" />
        )}
        <p className="mt-2 flex gap-4">
          <button type="button" className="act" onClick={() => setShown(null)}>
            Close
          </button>
          <button
            type="button"
            className="link"
            onClick={() => {
              onChange(files.filter((f) => f.hash !== shown?.hash));
              setShown(null);
            }}
          >
            take it out
          </button>
        </p>
      </Dialog>
      {drawing && (
        <Sketch
          onClose={() => setDrawing(false)}
          onDone={async (url) => {
            setDrawing(false);
            try {
              onChange([...files, await keepPicture(taken("sketch", "image/png", url))]);
            } catch (error) {
              toast.error(sayError(error));
            }
          }}
        />
      )}
    </div>
  );
}

function FileLink({
  name,
  label,
  accept,
  onTake,
}: {
  name: string;
  label: string;
  accept: string;
  onTake: (list: FileList) => void;
}) {
  return (
    <label className="link cursor-pointer">
      {name}
      <input
        type="file"
        accept={accept}
        multiple
        className="sr-only"
        aria-label={label}
        onChange={(e) => {
          if (e.target.files) onTake(e.target.files);
          e.target.value = "";
        }}
      />
    </label>
  );
}

/** A sheet to draw on by finger, pen or mouse. */
function Sketch({ onClose, onDone }: { onClose: () => void; onDone: (url: string) => void }) {
  const canvas = useRef<HTMLCanvasElement>(null);
  const [strokes, setStrokes] = useState<[number, number][][]>([]);
  const at = (e: React.PointerEvent): [number, number] => {
    const box = canvas.current?.getBoundingClientRect();
    return box ? [((e.clientX - box.left) / box.width) * 700, ((e.clientY - box.top) / box.height) * 420] : [0, 0];
  };
  const done = () => {
    const sheet = canvas.current;
    const pen = sheet?.getContext("2d");
    if (!sheet || !pen) return;
    pen.fillStyle = "#fff";
    pen.fillRect(0, 0, 700, 420);
    pen.lineWidth = 2.5;
    pen.lineCap = "round";
    pen.strokeStyle = "#26231f";
    for (const stroke of strokes) {
      pen.beginPath();
      for (const [x, y] of stroke) pen.lineTo(x, y);
      pen.stroke();
    }
    onDone(sheet.toDataURL("image/png"));
  };
  return (
    <Dialog open title="Draw" onClose={onClose} wide>
      <div className="relative touch-none border border-rule bg-sheet">
        <canvas
          ref={canvas}
          width={700}
          height={420}
          className="block w-full cursor-crosshair"
          aria-label="Sheet to draw on"
          onPointerDown={(e) => {
            e.currentTarget.setPointerCapture(e.pointerId);
            setStrokes((s) => [...s, [at(e)]]);
          }}
          onPointerMove={(e) => {
            if (e.buttons === 0) return;
            const p = at(e);
            setStrokes((s) => [...s.slice(0, -1), [...(s.at(-1) ?? []), p]]);
          }}
        />
        <svg viewBox="0 0 700 420" className="pointer-events-none absolute inset-0 h-full w-full" aria-hidden="true">
          {strokes.map((s, k) => (
            <polyline
              key={`s${k + 1}`}
              points={s.map((p) => p.join(",")).join(" ")}
              fill="none"
              stroke="var(--ink)"
              strokeWidth="2.5"
              strokeLinecap="round"
            />
          ))}
        </svg>
      </div>
      <p className="mt-2 flex gap-4">
        <button type="button" className="act act-first" disabled={strokes.length === 0} onClick={done}>
          Keep the drawing
        </button>
        <button
          type="button"
          className="act"
          disabled={strokes.length === 0}
          onClick={() => setStrokes((s) => s.slice(0, -1))}
        >
          Undo a stroke
        </button>
        <button type="button" className="link" onClick={onClose}>
          leave it
        </button>
      </p>
    </Dialog>
  );
}
