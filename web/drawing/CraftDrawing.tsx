import { useDrag } from "@use-gesture/react";
import { type KeyboardEvent, memo, useEffect, useMemo, useRef, useState } from "react";
import type { Axis } from "../../core/design/schema";
import { resultIn } from "../../core/evaluate";
import { balance } from "../../core/subjects/balance/node";
import { cgLimits } from "../../core/subjects/balance/window";
import { flight } from "../../core/subjects/flight/node";
import { outOfEnvelope, overlaps } from "../../core/subjects/mass/clash";
import { extent } from "../../core/subjects/mass/rollup";
import { useDesk } from "../app/desk";
import { usePreferences } from "../app/preferences";
import { DrawingTools, STEP, zoomAt } from "./DrawingTools";
import { NAMES, OneView } from "./OneView";
import type { Guide } from "./Part";
import { TurnedView } from "./TurnedView";
import { Ruler, WindowBand } from "./marks";
import { ACROSS, NO_ZOOM, type Sheet, UP, VIEWS, type Zoom, sheetFor } from "./scale";

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
  const { habit, views: wanted, turned } = usePreferences();
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
  const box = extent(preview ? { ...design, items: [...items, ...preview.design.items] } : design, true);

  // The wheel zooms with Ctrl (as a pinch does); alone it scrolls the page. React's own wheel listener cannot hold
  // the page back.
  // biome-ignore lint/correctness/useExhaustiveDependencies: turned, the sheet is another element
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
  }, [turned]);
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
      {turned && <TurnedView {...{ selected, onSelect, width, height, svg }} factor={zoom.factor} />}
      {!turned && (
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
              <OneView
                key={view}
                view={view}
                frame={frame}
                sheet={sheet}
                inOrder={inOrder}
                outside={outside}
                selected={selected}
                onSelect={onSelect}
                setGuides={setGuides}
                items={items}
                clashes={clashes}
                mass={mass}
                out={out}
                proposed={proposed}
                guides={guides}
                chosen={chosen}
              />
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
      )}
      <DrawingTools
        shown={shown}
        setZoom={setZoom}
        width={width}
        height={height}
        zoom={zoom}
        svg={svg}
        sheet={sheet}
        clashes={clashes}
        nameOf={nameOf}
      />
    </figure>
  );
});
