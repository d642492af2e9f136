import { useDrag } from "@use-gesture/react";
import type { KeyboardEvent } from "react";
import type { Item } from "../../core/design/schema";
import type { Evaluation } from "../../core/evaluate";
import { extent } from "../../core/mass/rollup";
import { plain } from "../../core/wording/format";
import { useDesk } from "../app/desk";
import { usePreferences } from "../app/preferences";
import { CgMark, Ruler, ThrustArrow, WindowBand } from "./marks";
import { type Box, type Sheet, VERTICAL, type ViewName, placeLabels, sheetFor } from "./scale";

const clamp = (x: number, low: number, high: number) => Math.min(high, Math.max(low, x));
const MM = 0.001;

/** The boxes that an item takes in a view, on the sheet: two for a mirrored pair seen from above. */
function boxesOf(item: Item, sheet: Sheet, view: ViewName): Box[] {
  const axis = VERTICAL[view];
  const w = Math.max(item.size.x * sheet.scale, 3);
  const h = Math.max(item.size[axis] * sheet.scale, 3);
  const at = item.place[axis];
  const heights = view === "top" && item.mirrored ? [Math.abs(at), -Math.abs(at)] : [at];
  return heights.map((v) => ({ x: sheet.px(item.place.x) - w / 2, y: sheet.py(view, v) - h / 2, w, h }));
}

interface PartProps {
  item: Item;
  number: number;
  sheet: Sheet;
  view: ViewName;
  selected: boolean;
  onSelect: () => void;
}

function Part({ item, number, sheet, view, selected, onSelect }: PartProps) {
  const { edit } = useDesk();
  const axis = VERTICAL[view];
  const place = (x: number, v: number, key: string) =>
    edit((d) => {
      const it = d.items.find((i) => i.id === item.id);
      if (!it) return;
      it.place.x = Math.round((it.slide ? clamp(x, it.slide.from, it.slide.to) : x) / MM) * MM;
      it.place[axis] = Math.round(v / MM) * MM;
    }, key);
  const drag = useDrag(
    ({ first, movement: [dx, dy], memo }: { first: boolean; movement: [number, number]; memo?: { x: number; v: number; key: string; ratio: number }; event: Event }) => {
      const start = memo ?? { x: item.place.x, v: item.place[axis], key: `drag-${item.id}-${Date.now()}`, ratio: 1 };
      if (first) onSelect();
      else place(start.x + dx / sheet.scale, start.v - dy / sheet.scale, start.key);
      return start;
    },
    { filterTaps: true, pointer: { keys: false } },
  );
  const keys = (event: KeyboardEvent) => {
    const step = (event.shiftKey ? 10 : 1) * MM;
    const by: Record<string, [number, number]> = { ArrowLeft: [-step, 0], ArrowRight: [step, 0], ArrowUp: [0, step], ArrowDown: [0, -step] };
    const move = by[event.key];
    if (!move) return;
    event.preventDefault();
    event.stopPropagation();
    onSelect();
    place(item.place.x + move[0], item.place[axis] + move[1], `keys-${item.id}-${view}`);
  };
  const weighed = item.mass?.evidence === "measured" || item.mass?.evidence === "proven";
  return (
    <g
      {...drag()}
      role="button"
      tabIndex={0}
      aria-label={`${number} ${item.name}, ${view} view; arrow keys move it`}
      aria-pressed={selected}
      data-part={item.id}
      data-view={view}
      onKeyDown={keys}
      onClick={onSelect}
      className="cursor-grab touch-none select-none outline-none focus-visible:[&>rect]:stroke-[2.5]"
    >
      {boxesOf(item, sheet, view).map((b) => (
        <rect
          key={b.y}
          x={b.x}
          y={b.y}
          width={b.w}
          height={b.h}
          fill={selected ? "var(--tint-accent)" : "var(--part)"}
          fillOpacity={0.55}
          stroke={selected ? "var(--accent)" : weighed ? "var(--ink)" : "var(--pencil)"}
          strokeWidth={selected ? 2 : 1.2}
          strokeDasharray={weighed ? undefined : "4 3"}
        />
      ))}
    </g>
  );
}

/** What a remedy that is pointed at would do: parts moved or added, in the colour of what is proposed. */
function Proposed({ sheet, view, evaluation, items }: { sheet: Sheet; view: ViewName; evaluation: Evaluation; items: { item: Item; from: Item | undefined }[] }) {
  return (
    <g pointerEvents="none">
      {items.flatMap(({ item, from }) =>
        boxesOf(item, sheet, view).map((b, i) => {
          const start = from ? boxesOf(from, sheet, view)[i] : undefined;
          return (
            <g key={`${item.id}${b.y}`}>
              <rect x={b.x} y={b.y} width={b.w} height={b.h} fill="none" stroke="var(--accent)" strokeWidth="1.6" strokeDasharray="3 2" />
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
      {evaluation.mass && <CgMark sheet={sheet} view={view} mass={evaluation.mass} colour="var(--accent)" />}
    </g>
  );
}

const WIDTH = 628;

/** Side and top view of the ledger to one scale, with the CG, its ellipse and its window. Parts are moved by mouse, touch or arrow keys. */
export function CraftDrawing({ selected, onSelect, height }: { selected: string | null; onSelect: (id: string) => void; height: number }) {
  const { design, evaluation, preview } = useDesk();
  const { habit } = usePreferences();
  const box = extent(preview ? { ...design, items: [...design.items, ...preview.design.items] } : design);
  if (!box) return null;
  const sheet = sheetFor(box, WIDTH, height);
  const window = design.brief.targets.find((t) => t.metric === "cgX" && t.comparison === "between");
  const inOrder = design.items.map((item, i) => ({ item, number: i + 1 })).sort((a, b) => b.item.size.x * b.item.size.z - a.item.size.x * a.item.size.z);
  const out = evaluation.findings.some((f) => f.code === "cg-outside");
  const proposed = preview
    ? preview.design.items
        .map((item) => ({ item, from: design.items.find((i) => i.id === item.id) }))
        .filter(({ item, from }) => !from || item.place.x !== from.place.x || item.place.y !== from.place.y)
    : [];
  const labels = (view: ViewName) => {
    const { top, bottom } = sheet.views[view];
    const bounds = { x: 2, y: top - 18, w: WIDTH - 4, h: bottom - top + 34 };
    const cg = evaluation.mass?.cg;
    const taken: Box[] = cg ? [{ x: sheet.px(cg.x) - 14, y: sheet.py(view, cg[VERTICAL[view]]) - 10, w: 28, h: 20 }] : [];
    return placeLabels(
      design.items
        .map((item, i) => ({ item, number: i + 1, box: boxesOf(item, sheet, view)[0] as Box }))
        .sort((a, b) => a.box.w * a.box.h - b.box.w * b.box.h)
        .map(({ item, number, box: b }) => {
          const text = view === "top" && item.mass && b.w > 34 ? `${number} ${plain(item.mass.value * item.quantity, "mass", habit)}` : String(number);
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
          return { data: { text, item }, candidates: inside ? [{ x: cx, y: cy, w, h }, { x: b.x + 3, y: cy, w, h }, { x: b.x + b.w - w - 3, y: cy, w, h }, ...sides] : sides };
        }),
      bounds,
      taken,
    );
  };
  return (
    <svg viewBox={`0 0 ${WIDTH} ${height}`} width="100%" className="block bg-sheet" role="group" aria-label="Side and top view to scale">
      <title>Side and top view to scale</title>
      {window?.upper !== undefined && <WindowBand sheet={sheet} low={window.value} high={window.upper} />}
      <path d={`M${sheet.px(sheet.min)} ${sheet.py("top", 0)}H${sheet.px(sheet.max)}`} stroke="var(--hair)" strokeDasharray="8 3 2 3" />
      <path d={`M4 ${sheet.views.side.bottom + 1}H${WIDTH - 4}`} stroke="var(--rule)" />
      {(["side", "top"] as const).map((view) => (
        <g key={view}>
          <text x={WIDTH - 6} y={sheet.views[view].top - 6} textAnchor="end" fontSize="11" fill="var(--pencil)">
            {view === "side" ? "Side" : "Top"}
          </text>
          {inOrder.map(({ item, number }) => (
            <Part key={item.id} {...{ item, number, sheet, view }} selected={item.id === selected} onSelect={() => onSelect(item.id)} />
          ))}
          {labels(view).map(({ box: b, data }) => (
            <text
              key={data.item.id}
              x={b.x + 2}
              y={b.y + 10}
              className="num"
              fontSize="11"
              fill={data.item.id === selected ? "var(--accent)" : "var(--ink2)"}
              pointerEvents="none"
              style={{ fontSize: 11 }}
            >
              {data.text}
            </text>
          ))}
          {evaluation.mass && <CgMark sheet={sheet} view={view} mass={evaluation.mass} colour={out ? "var(--stop)" : "var(--ink)"} />}
          {preview && <Proposed {...{ sheet, view, items: proposed }} evaluation={preview.evaluation} />}
          <ThrustArrow sheet={sheet} view={view} />
        </g>
      ))}
      <Ruler sheet={sheet} habit={habit} />
    </svg>
  );
}
