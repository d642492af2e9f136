import { useState } from "react";
import { AXES, type Outline, outlineSchema } from "../../../core/design/schema";
import { resultIn } from "../../../core/evaluate";
import { extent } from "../../../core/subjects/extent/node";
import { useDesk } from "../../app/desk";
import { QuantityField } from "../../fields/QuantityField";

/** Width and height that a path spans in its own units, measured by the browser. */
function spanOf(path: string): { x: number; y: number; w: number; h: number } | null {
  const svg = document.createElementNS("http://www.w3.org/2000/svg", "svg");
  const shape = document.createElementNS("http://www.w3.org/2000/svg", "path");
  shape.setAttribute("d", path);
  svg.append(shape);
  svg.style.position = "absolute";
  svg.style.visibility = "hidden";
  document.body.append(svg);
  const box = shape.getBBox();
  svg.remove();
  return box.width > 0 || box.height > 0 ? { x: box.x, y: box.y, w: box.width, h: box.height } : null;
}

const VIEW_NAME = { side: "side view", top: "top view", front: "front view" } as const;

/** The box that all parts must stay inside, and shapes to trace under the views. */
export function DrawingSheet() {
  const { design, edit, evaluation } = useDesk();
  const [view, setView] = useState<Outline["view"]>("side");
  const [path, setPath] = useState("");
  const [problem, setProblem] = useState<string | null>(null);
  const { envelope } = design;
  const box = resultIn(evaluation, extent);
  const addOutline = () => {
    const d = /\sd="([^"]+)"/.exec(path)?.[1] ?? path.trim();
    const checked = outlineSchema.shape.path.safeParse(d);
    const span = checked.success && d !== "" ? spanOf(d) : null;
    if (!span || !box) {
      setProblem(
        "This is not an SVG path. Accepted: the text of a d attribute such as M0 0 L100 20 Z, or an SVG with one path.",
      );
      return;
    }
    const across = view === "front" ? "y" : "x";
    const up = view === "top" ? "y" : "z";
    // At first as long as the craft is now, standing where its drawing stands.
    const scale = (box.max[across] - box.min[across]) / Math.max(span.w, 1e-9);
    const ok = edit((x) =>
      x.outlines.push({
        id: `o${Date.now().toString(36)}`,
        view,
        path: d,
        scale,
        across: (view === "front" ? box.max[across] : box.min[across]) - (view === "front" ? -1 : 1) * span.x * scale,
        up: box.min[up] + (span.y + span.h) * scale,
      }),
    );
    setProblem(ok);
    if (ok === null) setPath("");
  };
  return (
    <section aria-label="Envelope and outline" className="grid grid-cols-2 gap-6 px-4 py-3 max-[860px]:grid-cols-1">
      <div>
        <h2>Envelope</h2>
        <p>
          The box that every part must stay inside: a case, a class rule, a print bed. What reaches out is marked in the
          drawing.
        </p>
        {envelope ? (
          <>
            <table className="mt-1 text-[12px]">
              <thead>
                <tr>
                  <th />
                  <th>from</th>
                  <th>to</th>
                </tr>
              </thead>
              <tbody>
                {AXES.map((axis) => (
                  <tr key={axis}>
                    <td className="w-6 text-ink">{axis}</td>
                    {(["min", "max"] as const).map((end) => (
                      <td key={end} className="w-28 pr-2">
                        <QuantityField
                          boxed
                          label={`Envelope ${axis} ${end === "min" ? "from" : "to"}`}
                          value={envelope[end][axis]}
                          dimension="length"
                          onCommit={(v) =>
                            v === null ? null : edit((d) => void (d.envelope && (d.envelope[end][axis] = v)))
                          }
                        />
                      </td>
                    ))}
                  </tr>
                ))}
              </tbody>
            </table>
            <button
              type="button"
              className="link mt-1 text-[12px]"
              onClick={() => edit((d) => void (d.envelope = null))}
            >
              no envelope
            </button>
          </>
        ) : (
          <button
            type="button"
            className="act mt-2"
            disabled={!box}
            onClick={() => box && edit((d) => void (d.envelope = structuredClone(box)))}
          >
            Draw one around the craft
          </button>
        )}
      </div>
      <div>
        <h2>Outline to trace</h2>
        <p>A shape from any vector drawing, laid under a view at its true size.</p>
        <div className="mt-1 flex gap-2">
          <select
            className="box w-auto!"
            aria-label="Outline view"
            value={view}
            onChange={(e) => setView(e.target.value as Outline["view"])}
          >
            {Object.entries(VIEW_NAME).map(([k, v]) => (
              <option key={k} value={k}>
                {v}
              </option>
            ))}
          </select>
          <textarea
            className="box num flex-1"
            rows={2}
            aria-label="SVG path"
            placeholder="M0 0 L100 20 …"
            value={path}
            onChange={(e) => setPath(e.target.value)}
          />
          <button type="button" className="act" onClick={addOutline}>
            Lay it under
          </button>
        </div>
        {problem && (
          <p role="alert" className="text-[12px] text-stop">
            {problem}
          </p>
        )}
        {design.outlines.length > 0 && <Outlines />}
      </div>
    </section>
  );
}

/** The outlines that are traced: where, how large, how strong. */
function Outlines() {
  const { design, edit } = useDesk();
  const spanLength = (o: Outline) => (spanOf(o.path)?.w ?? 0) * o.scale;
  return (
    <table className="rows mt-2 w-full text-[12px]">
      <thead>
        <tr>
          <th>view</th>
          <th className="text-right!">spans</th>
          <th className="text-right!">moved across</th>
          <th className="text-right!">moved up</th>
          <th />
        </tr>
      </thead>
      <tbody>
        {design.outlines.map((o, i) => {
          const change = (mutate: (x: Outline) => void) =>
            edit((d) => {
              const found = d.outlines.find((x) => x.id === o.id);
              if (found) mutate(found);
            });
          return (
            <tr key={o.id}>
              <td>{VIEW_NAME[o.view]}</td>
              <td>
                <QuantityField
                  label={`Outline ${i + 1}, spans`}
                  value={spanLength(o)}
                  dimension="length"
                  onCommit={(v) =>
                    v === null || v <= 0
                      ? "the span is more than zero"
                      : change((x) => void (x.scale *= v / spanLength(o)))
                  }
                />
              </td>
              <td>
                <QuantityField
                  label={`Outline ${i + 1}, across`}
                  value={o.across}
                  dimension="length"
                  onCommit={(v) => (v === null ? null : change((x) => void (x.across = v)))}
                />
              </td>
              <td>
                <QuantityField
                  label={`Outline ${i + 1}, up`}
                  value={o.up}
                  dimension="length"
                  onCommit={(v) => (v === null ? null : change((x) => void (x.up = v)))}
                />
              </td>
              <td className="text-right">
                <button
                  type="button"
                  className="link"
                  onClick={() => edit((d) => void (d.outlines = d.outlines.filter((x) => x.id !== o.id)))}
                >
                  remove
                </button>
              </td>
            </tr>
          );
        })}
      </tbody>
    </table>
  );
}
