import type { Dispatch, RefObject, SetStateAction } from "react";
import type { Overlap } from "../../core/subjects/mass/clash";
import { useDesk } from "../app/desk";
import { usePreferences } from "../app/preferences";
import { NAMES } from "./OneView";
import { saveSvg } from "./saveSvg";
import { NO_ZOOM, type Sheet, VIEWS, type Zoom } from "./scale";

export const zoomAt = (zoom: Zoom, by: number, x: number, y: number): Zoom => {
  const factor = Math.min(20, Math.max(0.5, zoom.factor * by));
  const k = factor / zoom.factor;
  return { factor, x: x - (x - zoom.x) * k, y: y - (y - zoom.y) * k };
};

export const STEP = 1.4;

/** Which views are shown, what the parts snap to, zoom, and saving the drawing. */
export function DrawingTools({
  shown,
  setZoom,
  width,
  height,
  zoom,
  svg,
  sheet,
  clashes,
  nameOf,
}: {
  shown: ("side" | "top" | "front")[];
  setZoom: Dispatch<SetStateAction<Zoom>>;
  width: number;
  height: number;
  zoom: Zoom;
  svg: RefObject<SVGSVGElement | null>;
  sheet: Sheet;
  clashes: Overlap[];
  nameOf: (id: string | undefined) => string | undefined;
}) {
  const { views: wanted, turned, set, snapping } = usePreferences();
  const { file } = useDesk();

  return (
    <div
      className="no-print flex items-center gap-1 px-2 pb-1 text-[11px] max-[640px]:flex-wrap"
      role="toolbar"
      aria-label="Drawing"
    >
      {VIEWS.map((v) => (
        <button
          key={v}
          type="button"
          aria-pressed={!turned && wanted.includes(v)}
          className={`chip ${!turned && wanted.includes(v) ? "chip-on" : ""}`}
          onClick={() =>
            turned
              ? set({
                  turned: false,
                  views: wanted.includes(v) ? [...wanted] : VIEWS.filter((w) => w === v || wanted.includes(w)),
                })
              : set({
                  views:
                    shown.length > 1 || !wanted.includes(v)
                      ? VIEWS.filter((w) => (w === v ? !wanted.includes(v) : wanted.includes(w)))
                      : [...wanted],
                })
          }
        >
          {NAMES[v].toLowerCase()}
        </button>
      ))}
      <button
        type="button"
        aria-pressed={turned}
        className={`chip ${turned ? "chip-on" : ""}`}
        onClick={() => set({ turned: !turned })}
      >
        turned
      </button>
      <span className="mx-1 text-pencil">snap</span>
      <button
        type="button"
        className="chip"
        aria-label={`Snap grid ${snapping.grid === 0.001 ? "1 mm" : "5 mm"}`}
        onClick={() => set({ snapping: { ...snapping, grid: snapping.grid === 0.001 ? 0.005 : 0.001 } })}
      >
        {snapping.grid === 0.001 ? "1 mm" : "5 mm"}
      </button>
      <button
        type="button"
        aria-pressed={snapping.faces}
        className={`chip ${snapping.faces ? "chip-on" : ""}`}
        onClick={() => set({ snapping: { ...snapping, faces: !snapping.faces } })}
      >
        faces
      </button>
      <button
        type="button"
        className="chip ml-1"
        aria-label="Zoom out"
        onClick={() => setZoom((z) => zoomAt(z, 1 / STEP, width / 2, height / 2))}
      >
        −
      </button>
      <button
        type="button"
        className="chip"
        aria-label="Zoom in"
        onClick={() => setZoom((z) => zoomAt(z, STEP, width / 2, height / 2))}
      >
        +
      </button>
      {zoom !== NO_ZOOM && (
        <button type="button" className="chip" onClick={() => setZoom(NO_ZOOM)}>
          whole
        </button>
      )}
      <button
        type="button"
        className="chip ml-1"
        onClick={() => svg.current && saveSvg(svg.current, sheet.scale, `${file.craft.name} drawing`)}
      >
        save SVG
      </button>
      {clashes.length > 0 && (
        <span
          className="min-w-0 flex-1 truncate pl-2 text-right text-stop"
          title={clashes.map((c) => `${nameOf(c.a)} and ${nameOf(c.b)}`).join("\n")}
        >
          {clashes.length === 1 ? "1 overlap" : `${clashes.length} overlaps`}: {nameOf(clashes[0]?.a)} and{" "}
          {nameOf(clashes[0]?.b)}
        </span>
      )}
    </div>
  );
}
