import { resultIn } from "../../core/evaluate";
import { balance } from "../../core/subjects/balance/node";
import { useDrag } from "@use-gesture/react";
import { type KeyboardEvent, memo, useEffect, useMemo, useRef, useState } from "react";
import type { Axis, Item } from "../../core/design/schema";
import type { Evaluation } from "../../core/evaluate";
import { outOfEnvelope, overlaps } from "../../core/subjects/mass/clash";
import { flight } from "../../core/subjects/flight/node";
import { cgLimits } from "../../core/subjects/balance/window";
import { extent } from "../../core/subjects/mass/rollup";
import { plain } from "../../core/wording/format";
import { useDesk } from "../app/desk";
import { usePreferences } from "../app/preferences";
import { type Guide, Part, ResizeHandles, boxesOf } from "./Part";
import { Shapes } from "./Shapes";
import { saveSvg } from "./saveSvg";
import { Thrusts } from "./Thrusts";
import { CgMark, EnvelopeMark, Ruler, TracedOutline, WindowBand } from "./marks";
import {
  ACROSS,
  type Box,
  NO_ZOOM,
  type Sheet,
  UP,
  VIEWS,
  type ViewName,
  type Zoom,
  placeLabels,
  sheetFor,
} from "./scale";

const NAMES: Record<ViewName, string> = { side: "Side", top: "Top", front: "Front" };

/** What a remedy that is pointed at would do: parts moved or added, in the colour of what is proposed. */
function Proposed({
  sheet,
  view,
  evaluation,
  items,
}: {
  sheet: Sheet;
  view: ViewName;
  evaluation: Evaluation;
  items: { item: Item; from: Item | undefined }[];
}) {
  const mass = resultIn(evaluation, balance);
  return (
    <g pointerEvents="none">
      {items.flatMap(({ item, from }) =>
        boxesOf(item, sheet, view).map((b, i) => {
          const start = from ? boxesOf(from, sheet, view)[i] : undefined;
          return (
            <g key={`${item.id}${b.y}`}>
              <rect
                x={b.x}
                y={b.y}
                width={b.w}
                height={b.h}
                fill="none"
                stroke="var(--accent)"
                strokeWidth="1.6"
                strokeDasharray="3 2"
              />
              {start && Math.abs(start.x - b.x) > 6 && (
                <path
                  d={`M${start.x + start.w / 2} ${b.y - 5}H${b.x + b.w / 2}m${b.x < start.x ? 6 : -6} -3l${b.x < start.x ? -6 : 6} 3 ${b.x < start.x ? 6 : -6} 3`}
                  fill="none"
                  stroke="var(--accent)"
                  strokeWidth="1.4"
                />
              )}
            </g>
          );
        }),
      )}
      {mass && <CgMark sheet={sheet} view={view} mass={mass} colour="var(--accent)" />}
    </g>
  );
}

/** Parts of a view that get a number, the largest: beyond it numbers would hide the craft. */
const LABELLED = 150;

/** Numbers (and in the top view masses) beside the parts, clear of each other and of the CG. */
function labelsOf(
  items: Item[],
  sheet: Sheet,
  view: ViewName,
  cg: { x: number; y: number; z: number } | undefined,
  mass: (kg: number) => string,
) {
  const WIDTH = sheet.width;
  const frame = sheet.views[view];
  const bounds = { x: Math.max(2, frame.x - 14), y: Math.max(2, frame.y - 16), w: 0, h: 0 };
  bounds.w = Math.min(WIDTH - 2, frame.x + frame.w + 14) - bounds.x;
  bounds.h = Math.min(sheet.height - 2, frame.y + frame.h + 16) - bounds.y;
  const taken: Box[] = cg
    ? [{ x: sheet.px(view, cg[ACROSS[view].axis]) - 14, y: sheet.py(view, cg[UP[view]]) - 10, w: 28, h: 20 }]
    : [];
  return placeLabels(
    items
      .map((item, i) => ({ item, number: i + 1, box: boxesOf(item, sheet, view)[0] as Box }))
      .sort((a, b) => b.box.w * b.box.h - a.box.w * a.box.h)
      .slice(0, LABELLED)
      .reverse()
      .map(({ item, number, box: b }) => {
        const text =
          view === "top" && item.mass && b.w > 34
            ? `${number} ${mass(item.mass.value * item.quantity)}`
            : String(number);
        const w = text.length * 6.6 + 4;
        const h = 13;
        const cx = b.x + b.w / 2 - w / 2;
        const cy = b.y + b.h / 2 - h / 2;
        const sides: Box[] = [
          { x: cx, y: b.y - h - 1, w, h },
          { x: cx, y: b.y + b.h + 1, w, h },
          { x: b.x + b.w + 2, y: cy, w, h },
          { x: b.x - w - 2, y: cy, w, h },
          { x: b.x + 3, y: b.y + 2, w, h },
          { x: b.x + b.w - w - 3, y: b.y + b.h - h - 2, w, h },
        ];
        const inside = b.w >= w + 2 && b.h >= h;
        return {
          data: { text, item },
          candidates: inside
            ? [{ x: cx, y: cy, w, h }, { x: b.x + 3, y: cy, w, h }, { x: b.x + b.w - w - 3, y: cy, w, h }, ...sides]
            : sides,
        };
      }),
    bounds,
    taken,
  );
}

/** Where two solid boxes share space, hatched. */
function OverlapMarks({
  sheet,
  view,
  pairs,
  items,
}: {
  sheet: Sheet;
  view: ViewName;
  pairs: { a: string; b: string }[];
  items: Item[];
}) {
  const byId = new Map(items.map((i) => [i.id, i]));
  const d = pairs.flatMap(({ a, b }) => {
    const [one, other] = [byId.get(a), byId.get(b)];
    if (!one || !other) return [];
    return boxesOf(one, sheet, view).flatMap((p) =>
      boxesOf(other, sheet, view).flatMap((q) => {
        const x = Math.max(p.x, q.x);
        const y = Math.max(p.y, q.y);
        const w = Math.min(p.x + p.w, q.x + q.w) - x;
        const h = Math.min(p.y + p.h, q.y + q.h) - y;
        return w > 0 && h > 0 ? `M${x} ${y}h${w}v${h}h${-w}z` : [];
      }),
    );
  });
  // One mark for all of them: there may be hundreds.
  return d.length === 0 ? null : (
    <path
      data-overlaps={d.length}
      d={d.join("")}
      fill="url(#overlap)"
      stroke="var(--stop)"
      strokeWidth="0.8"
      pointerEvents="none"
    />
  );
}

const STEP = 1.4;
const zoomAt = (zoom: Zoom, by: number, x: number, y: number): Zoom => {
  const factor = Math.min(20, Math.max(0.5, zoom.factor * by));
  const k = factor / zoom.factor;
  return { factor, x: x - (x - zoom.x) * k, y: y - (y - zoom.y) * k };
};

interface Props {
  selected: string | null;
  onSelect: (id: string) => void;
  width: number;
  height: number;
}

/**
 * Side, top and front views of the ledger to one scale, with the CG, its ellipse and its window. Parts are moved and
 * sized by mouse, touch or keys.
 */
export const CraftDrawing = memo(function CraftDrawing({ selected, onSelect, width, height }: Props) {
  const { design, evaluation, preview, file } = useDesk();
  const { habit, views: wanted, snapping, set } = usePreferences();
  const [zoom, setZoom] = useState<Zoom>(NO_ZOOM);
  const [guides, setGuides] = useState<Guide[]>([]);
  const svg = useRef<SVGSVGElement>(null);
  // The selected part lies on top, once the pointer is up: what is moved in the page while it is dragged is let go.
  const [top, setTop] = useState(selected);
  const pressed = useRef(false);
  useEffect(() => {
    if (!pressed.current) setTop(selected);
  }, [selected]);
  const { items } = design;
  const clashes = useMemo(() => overlaps({ items }), [items]);
  const outside = useMemo(() => new Set(outOfEnvelope(design).map((o) => o.id)), [design]);
  const shown = VIEWS.filter((v) => wanted.includes(v));
  const box = extent(preview ? { ...design, items: [...items, ...preview.design.items] } : design);

  // The wheel zooms with Ctrl (as a pinch does); alone it scrolls the page. React's own wheel listener cannot hold
  // the page back.
  useEffect(() => {
    const element = svg.current;
    if (!element) return;
    const wheel = (event: WheelEvent) => {
      if (!event.ctrlKey && !event.metaKey) return;
      event.preventDefault();
      const at = element.getBoundingClientRect();
      const k = element.viewBox.baseVal.width / at.width;
      setZoom((z) =>
        zoomAt(z, event.deltaY < 0 ? 1.15 : 1 / 1.15, (event.clientX - at.left) * k, (event.clientY - at.top) * k),
      );
    };
    element.addEventListener("wheel", wheel, { passive: false });
    return () => element.removeEventListener("wheel", wheel);
  }, []);
  const pan = useDrag(({ movement: [dx, dy], memo }: { movement: [number, number]; memo?: Zoom }) => {
    const start = memo ?? zoom;
    const k = width / (svg.current?.getBoundingClientRect().width ?? width);
    setZoom({ ...start, x: start.x + dx * k, y: start.y + dy * k });
    return start;
  });
  // The sheet stays the same object while the extent does: parts that did not move are not drawn again.
  const frame = JSON.stringify([box, width, height, shown, zoom]);
  const held = useRef<{ frame: string; sheet: Sheet } | null>(null);
  if (box && held.current?.frame !== frame) held.current = { frame, sheet: sheetFor(box, width, height, shown, zoom) };
  if (!box || !held.current) return null;
  const { sheet } = held.current;
  const flown = resultIn(evaluation, flight);
  const windows = (["x", "y", "z"] as const).flatMap((axis) => {
    const limits = cgLimits(design, flown, axis);
    return limits && Number.isFinite(limits.low) ? [{ axis, low: limits.low, high: limits.high }] : [];
  });
  const inOrder = items
    .map((item, i) => ({ item, number: i + 1 }))
    .sort(
      (a, b) =>
        Number(a.item.id === top) - Number(b.item.id === top) ||
        b.item.size.x * b.item.size.z - a.item.size.x * a.item.size.z,
    );
  const mass = resultIn(evaluation, balance);
  const out = evaluation.findings.some((f) => f.code === "cg-outside");
  const proposed = preview
    ? preview.design.items
        .map((item) => ({ item, from: items.find((i) => i.id === item.id) }))
        .filter(
          ({ item, from }) =>
            !from || item.place.x !== from.place.x || item.place.y !== from.place.y || item.place.z !== from.place.z,
        )
    : [];
  const chosen = items.find((i) => i.id === selected);
  const names = new Map(items.map((i) => [i.id, i.name]));
  const nameOf = (id: string | undefined) => names.get(id ?? "");
  const size = (axis: Axis) => box.max[axis] - box.min[axis];
  const zoomKeys = (event: KeyboardEvent) => {
    if (event.target !== event.currentTarget) return;
    const by = { "+": STEP, "=": STEP, "-": 1 / STEP }[event.key];
    if (by) setZoom((z) => zoomAt(z, by, width / 2, height / 2));
    else if (event.key === "0") setZoom(NO_ZOOM);
  };
  return (
    <figure className="m-0">
      <svg
        ref={svg}
        viewBox={`0 0 ${width} ${height}`}
        width="100%"
        className="block bg-sheet"
        role="group"
        // biome-ignore lint/a11y/noNoninteractiveTabindex: the drawing takes + − 0 for zoom while it has the focus
        tabIndex={0}
        onKeyDown={zoomKeys}
        onPointerDownCapture={() => {
          pressed.current = true;
        }}
        onPointerUpCapture={() => {
          pressed.current = false;
          setTop(selected);
        }}
        aria-label="Views to scale"
      >
        <title>{`${file.craft.name}: ${shown.map((v) => NAMES[v].toLowerCase()).join(", ")} view to scale`}</title>
        <defs>
          <pattern id="overlap" width="5" height="5" patternUnits="userSpaceOnUse" patternTransform="rotate(45)">
            <path d="M0 0v5" stroke="var(--stop)" strokeWidth="1.6" />
          </pattern>
        </defs>
        <rect {...pan()} width={width} height={height} fill="transparent" className="touch-pan-y" />
        {shown.flatMap((view) =>
          windows
            .filter((w) => w.axis === ACROSS[view].axis || w.axis === UP[view])
            .map((w) => (
              <WindowBand key={`${view}${w.axis}`} {...{ sheet, view, axis: w.axis, low: w.low, high: w.high }} />
            )),
        )}
        {shown.map((view) => {
          const frame = sheet.views[view];
          return (
            <g key={view}>
              {view === "side" ? (
                <path pointerEvents="none" d={`M${frame.x} ${frame.y + frame.h + 1}h${frame.w}`} stroke="var(--rule)" />
              ) : (
                <path
                  pointerEvents="none"
                  d={
                    view === "top"
                      ? `M${frame.x} ${sheet.py("top", 0)}h${frame.w}`
                      : `M${sheet.px("front", 0)} ${frame.y}v${frame.h}`
                  }
                  stroke="var(--hair)"
                  strokeDasharray="8 3 2 3"
                />
              )}
              <text
                pointerEvents="none"
                x={frame.x + frame.w}
                y={frame.y - 5}
                textAnchor="end"
                fontSize="11"
                fill="var(--pencil)"
              >
                {NAMES[view]}
                {view === "front" ? ", starboard left" : ""}
              </text>
              {design.envelope && <EnvelopeMark {...{ sheet, view }} envelope={design.envelope} />}
              {design.outlines
                .filter((o) => o.view === view)
                .map((o) => (
                  <TracedOutline key={o.id} sheet={sheet} outline={o} />
                ))}
              <Shapes {...{ sheet, view }} surfaces={design.surfaces} bodies={design.bodies} faint />
              {inOrder.map(({ item, number }) => (
                <Part
                  key={item.id}
                  {...{ item, number, sheet, view, snapping }}
                  outside={outside.has(item.id)}
                  selected={item.id === selected}
                  onSelect={onSelect}
                  onGuide={setGuides}
                />
              ))}
              <OverlapMarks {...{ sheet, view, items }} pairs={clashes} />
              {labelsOf(items, sheet, view, mass?.cg, (kg) => plain(kg, "mass", habit)).map(({ box: b, data }) => (
                <text
                  key={data.item.id}
                  x={b.x + 2}
                  y={b.y + 10}
                  className="num"
                  fill={data.item.id === selected ? "var(--accent)" : "var(--ink2)"}
                  pointerEvents="none"
                  style={{ fontSize: 11 }}
                >
                  {data.text}
                </text>
              ))}
              {mass && <CgMark sheet={sheet} view={view} mass={mass} colour={out ? "var(--stop)" : "var(--ink)"} />}
              {preview && <Proposed {...{ sheet, view, items: proposed }} evaluation={preview.evaluation} />}
              <Thrusts sheet={sheet} view={view} />
              {guides
                .filter((g) => g.axis === ACROSS[view].axis || g.axis === UP[view])
                .map((g) => (
                  <path
                    key={`${g.axis}${g.at}`}
                    pointerEvents="none"
                    d={
                      g.axis === ACROSS[view].axis
                        ? `M${sheet.px(view, g.at)} ${frame.y - 14}v${frame.h + 28}`
                        : `M${frame.x - 10} ${sheet.py(view, g.at)}h${frame.w + 20}`
                    }
                    stroke="var(--accent)"
                    strokeDasharray="2 3"
                  />
                ))}
              {chosen && <ResizeHandles item={chosen} sheet={sheet} view={view} grid={snapping.grid} />}
            </g>
          );
        })}
        {shown.includes("side") && <Ruler {...{ sheet, box, habit }} view="side" along="across" />}
        {shown[0] === "top" && <Ruler {...{ sheet, box, habit }} view="top" along="across" />}
        {shown.includes("side") && size("z") > 0.7 * size("x") && (
          <Ruler {...{ sheet, box, habit }} view="side" along="up" />
        )}
        {shown.includes("top") && size("y") > 1.2 * size("x") && (
          <Ruler {...{ sheet, box, habit }} view="top" along="up" />
        )}
        {shown[0] === "front" && <Ruler {...{ sheet, box, habit }} view="front" along="across" />}
      </svg>
      <div
        className="no-print flex items-center gap-1 px-2 pb-1 text-[11px] max-[640px]:flex-wrap"
        role="toolbar"
        aria-label="Drawing"
      >
        {VIEWS.map((v) => (
          <button
            key={v}
            type="button"
            aria-pressed={wanted.includes(v)}
            className={`chip ${wanted.includes(v) ? "chip-on" : ""}`}
            onClick={() =>
              set({
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
    </figure>
  );
});
