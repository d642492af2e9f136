import { useDrag } from "@use-gesture/react";
import {
  type Dispatch,
  type KeyboardEvent,
  type RefObject,
  type SetStateAction,
  memo,
  useEffect,
  useMemo,
  useRef,
  useState,
} from "react";
import { AXES, type Axis, type Design, type Item } from "../../core/design/schema";
import type { UnitHabit } from "../../core/design/units";
import { resultIn } from "../../core/evaluate";
import { balance } from "../../core/subjects/balance/node";
import { cgLimits } from "../../core/subjects/balance/window";
import { type FlightResult, flight } from "../../core/subjects/flight/node";
import { outOfEnvelope, overlaps } from "../../core/subjects/mass/clash";
import { type Extent, extent } from "../../core/subjects/mass/rollup";
import { useDesk } from "../app/desk";
import { usePreferences } from "../app/preferences";
import { DrawingTools, STEP, zoomAt } from "./DrawingTools";
import { NAMES, OneView } from "./OneView";
import type { Guide } from "./Part";
import { TurnedView } from "./TurnedView";
import { Ruler, WindowBand } from "./marks";
import { ACROSS, NO_ZOOM, type Sheet, UP, VIEWS, type ViewName, type Zoom, sheetFor } from "./scale";

interface Props {
  selected: string | null;
  onSelect: (id: string) => void;
  width: number;
  height: number;
}

/** Zooms with Ctrl and the wheel, as a pinch does, about the pointer; the wheel alone scrolls the page. */
function useWheelZoom(
  svg: RefObject<SVGSVGElement | null>,
  turned: boolean,
  setZoom: Dispatch<SetStateAction<Zoom>>,
): void {
  // React's own wheel listener cannot hold the page back.
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
}

/** The large parts first and the chosen one last, on top. */
const drawnInOrder = (items: readonly Item[], top: string | null) =>
  items
    .map((item, i) => ({ item, number: i + 1 }))
    .sort(
      (a, b) =>
        Number(a.item.id === top) - Number(b.item.id === top) ||
        b.item.size.x * b.item.size.z - a.item.size.x * a.item.size.z,
    );

/** What a proposal moves or adds, with where it was. */
const movedIn = (items: readonly Item[], proposed: readonly Item[]) =>
  proposed
    .map((item) => ({ item, from: items.find((i) => i.id === item.id) }))
    .filter(({ item, from }) => !from || AXES.some((a) => item.place[a] !== from.place[a]));

/** Rulers along what is seen long enough to need one. */
function Rulers({ sheet, box, habit, shown }: { sheet: Sheet; box: Extent; habit: UnitHabit; shown: ViewName[] }) {
  const size = (axis: Axis) => box.max[axis] - box.min[axis];
  return (
    <>
      {shown.includes("side") && <Ruler {...{ sheet, box, habit }} view="side" along="across" />}
      {shown[0] === "top" && <Ruler {...{ sheet, box, habit }} view="top" along="across" />}
      {shown.includes("side") && size("z") > 0.7 * size("x") && (
        <Ruler {...{ sheet, box, habit }} view="side" along="up" />
      )}
      {shown.includes("top") && size("y") > 1.2 * size("x") && (
        <Ruler {...{ sheet, box, habit }} view="top" along="up" />
      )}
      {shown[0] === "front" && <Ruler {...{ sheet, box, habit }} view="front" along="across" />}
    </>
  );
}

/** Where the CG may be, as far as it is said or computed. */
const windowsOf = (design: Design, flown: FlightResult | null) =>
  AXES.flatMap((axis) => {
    const limits = cgLimits(design, flown, axis);
    return limits && Number.isFinite(limits.low) ? [{ axis, low: limits.low, high: limits.high }] : [];
  });

/** + − 0 while the drawing itself has the focus. */
const zoomKeys = (setZoom: (next: (z: Zoom) => Zoom) => void, x: number, y: number) => (event: KeyboardEvent) => {
  if (event.target !== event.currentTarget) return;
  const by = { "+": STEP, "=": STEP, "-": 1 / STEP }[event.key];
  if (by) setZoom((z) => zoomAt(z, by, x, y));
  else if (event.key === "0") setZoom(() => NO_ZOOM);
};

/**
 * Side, top and front views of the ledger to one scale, with the CG, its ellipse and its window. Parts are moved and
 * sized by mouse, touch or keys.
 */
export const CraftDrawing = memo(function CraftDrawing({ selected, onSelect, width, height }: Props) {
  const { seen: design, evaluation, preview, file } = useDesk();
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

  useWheelZoom(svg, turned, setZoom);
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
  const windows = windowsOf(design, resultIn(evaluation, flight));
  const inOrder = drawnInOrder(items, top);
  const mass = resultIn(evaluation, balance);
  const out = evaluation.findings.some((f) => f.code === "cg-outside");
  const proposed = preview ? movedIn(items, preview.design.items) : [];
  const chosen = items.find((i) => i.id === selected);
  const names = new Map(items.map((i) => [i.id, i.name]));
  const nameOf = (id: string | undefined) => names.get(id ?? "");
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
          onKeyDown={zoomKeys(setZoom, width / 2, height / 2)}
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
          <Rulers {...{ sheet, box, habit, shown }} />
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
