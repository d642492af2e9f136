import { useDrag } from "@use-gesture/react";
import { type KeyboardEvent, type RefObject, memo, useMemo, useState } from "react";
import type { Item, Point } from "../../core/design/schema";
import { isPlaced } from "../../core/subjects/mass/placed";
import { type Extent, extent } from "../../core/subjects/mass/rollup";
import { plain } from "../../core/wording/format";
import { useDesk } from "../app/desk";
import { usePreferences } from "../app/preferences";
import { type Box, placeLabels } from "./scale";
import { type Eye, FIRST_EYE, facesOf, linesOfBody, outlinesOf, projector, turnedBy } from "./turned";
import { Ground, Marks, Thrust, Triad } from "./turnedMarks";

/** rad for a pixel of dragging, and for a press of an arrow key. */
const BY_PIXEL = 0.009;
const BY_KEY = Math.PI / 36;
/** Parts that get a number: beyond it numbers would hide the craft. */
const LABELLED = 80;
const EDGE = 26;

interface Props {
  selected: string | null;
  onSelect: (id: string) => void;
  width: number;
  height: number;
  factor: number;
  svg: RefObject<SVGSVGElement | null>;
}

/** Pixels for a metre at which a box of this size fits, whichever way it is turned about its height. */
function scaleFor({ min, max }: Extent, eye: Eye, width: number, height: number): number {
  const level = Math.hypot(max.x - min.x, max.y - min.y);
  const tall = (max.z - min.z) * Math.cos(eye.above) + level * Math.abs(Math.sin(eye.above));
  return Math.min((width - 2 * EDGE) / Math.max(level, 0.01), (height - 2 * EDGE) / Math.max(tall, 0.01));
}

/**
 * The craft seen from anywhere: parts, wings and bodies, with the CG, its ellipsoid and its window, the neutral point
 * and the thrust of every unit. Turned by dragging or by the arrow keys; a part is taken by clicking on it.
 */
export const TurnedView = memo(function TurnedView({ selected, onSelect, width, height, factor, svg }: Props) {
  const { seen: design, file } = useDesk();
  const { habit } = usePreferences();
  const [eye, setEye] = useState<Eye>(FIRST_EYE);
  const turn = useDrag(
    ({ delta: [dx, dy] }) => setEye((e) => turnedBy(e, { around: -dx * BY_PIXEL, above: dy * BY_PIXEL })),
    { filterTaps: true, pointer: { keys: false } },
  );
  const box = extent(design, true);
  const view = useMemo(() => projector(eye), [eye]);
  if (!box) return null;
  const middle = {
    x: (box.min.x + box.max.x) / 2,
    y: (box.min.y + box.max.y) / 2,
    z: (box.min.z + box.max.z) / 2,
  };
  const scale = factor * scaleFor(box, eye, width, height);
  const zero = view.at(middle);
  const px = (p: Point): [number, number] => {
    const at = view.at(p);
    return [width / 2 + (at.x - zero.x) * scale, height / 2 - (at.y - zero.y) * scale];
  };
  const path = (points: readonly Point[], close = true) =>
    `M${points
      .map((p) =>
        px(p)
          .map((v) => v.toFixed(1))
          .join(" "),
      )
      .join("L")}${close ? "z" : ""}`;
  const keys = (event: KeyboardEvent) => {
    const by: Record<string, Partial<Eye>> = {
      ArrowLeft: { around: BY_KEY },
      ArrowRight: { around: -BY_KEY },
      ArrowUp: { above: BY_KEY },
      ArrowDown: { above: -BY_KEY },
    };
    const step = by[event.key];
    if (event.target !== event.currentTarget || (!step && event.key !== "0")) return;
    event.preventDefault();
    setEye((e) => (step ? turnedBy(e, step) : FIRST_EYE));
  };
  // A part whose own shape is drawn is only a box round it.
  const drawn = new Set(design.surfaces.flatMap((s) => (s.shapeBy === "guess" ? [] : (s.itemId ?? []))));
  const parts = design.items
    .map((item, k) => ({ item, number: k + 1, faces: facesOf(item, view), depth: view.at(item.place).depth }))
    .sort((a, b) => b.depth - a.depth);
  return (
    <svg
      ref={svg}
      {...turn()}
      viewBox={`0 0 ${width} ${height}`}
      width="100%"
      className="block cursor-grab touch-pan-y select-none bg-sheet"
      role="application"
      // biome-ignore lint/a11y/noNoninteractiveTabindex: the arrow keys turn the craft while it has the focus
      tabIndex={0}
      onKeyDown={keys}
      aria-label={`The craft, turned: seen ${seenFrom(eye)}. Arrow keys turn it, 0 sets it back.`}
      data-eye={`${eye.around.toFixed(3)} ${eye.above.toFixed(3)}`}
    >
      <title>{`${file.craft.name} seen ${seenFrom(eye)}`}</title>
      <Ground box={box} path={path} />
      <g fill="none" stroke="var(--pencil)" strokeWidth="0.8" pointerEvents="none">
        {design.bodies.map((b) => {
          const { closed, open } = linesOfBody(b);
          return (
            <path
              key={b.id}
              d={[...closed.map((c) => path(c)), ...open.map((o) => path(o, false))].join("")}
              strokeOpacity="0.6"
              strokeDasharray={b.shapeBy === "guess" ? "5 3" : undefined}
            />
          );
        })}
        {design.surfaces.map((s) => (
          <path
            key={s.id}
            d={outlinesOf(s)
              .map((o) => path(o))
              .join("")}
            fill="var(--sheet)"
            fillOpacity="0.35"
            stroke="var(--ink)"
            strokeDasharray={s.shapeBy === "guess" ? "5 3" : undefined}
          />
        ))}
      </g>
      {parts.map(({ item, number, faces }) => (
        <PartSeen
          key={item.id}
          item={item}
          number={number}
          d={faces.toSorted((a, b) => b.depth - a.depth).map((f) => path(f.points))}
          selected={item.id === selected}
          drawn={drawn.has(item.id)}
          onSelect={onSelect}
        />
      ))}
      <Numbers
        parts={parts.map((p) => ({
          ...p,
          at: px(p.item.place),
          most: Math.max(...Object.values(p.item.size)) * scale,
        }))}
        selected={selected}
        width={width}
        height={height}
      />
      <Marks {...{ px, path, scale, box, view }} />
      <Thrust px={px} reach={0.16 * Math.max(box.max.x - box.min.x, box.max.y - box.min.y, 0.1)} />
      <Triad view={view} height={height} />
      <text x={width - 6} y={14} textAnchor="end" fontSize="11" fill="var(--pencil)">
        seen {seenFrom(eye)} · {plain(box.max.x - box.min.x, "length", habit, habit === "metric" ? 0 : 1)} long
      </text>
    </svg>
  );
});

/** From where it is looked at, in words. */
function seenFrom({ around, above }: Eye): string {
  if (above > 1.4) return "from above";
  if (above < -1.4) return "from below";
  const names = [
    "ahead",
    "ahead and port",
    "port",
    "astern and port",
    "astern",
    "astern and starboard",
    "starboard",
    "ahead and starboard",
  ];
  const name = names[Math.round((around / (2 * Math.PI)) * 8) % 8];
  return `from ${name}${above > 0.12 ? ", above" : above < -0.12 ? ", below" : ""}`;
}

function PartSeen({
  item,
  number,
  d,
  selected,
  drawn,
  onSelect,
}: {
  item: Item;
  number: number;
  d: string[];
  selected: boolean;
  drawn: boolean;
  onSelect: (id: string) => void;
}) {
  const weighed = item.mass?.evidence === "measured" || item.mass?.evidence === "proven";
  const said = isPlaced(item) && !item.unsized;
  return (
    // biome-ignore lint/a11y/noStaticElementInteractions: the same
    <path
      d={d.join("")}
      data-part={item.id}
      data-view="turned"
      onClick={() => onSelect(item.id)}
      className="cursor-pointer"
      fill={isPlaced(item) ? (selected ? "var(--tint-accent)" : "var(--part)") : "transparent"}
      fillOpacity={drawn ? 0 : item.hollow && !selected ? 0.18 : 0.72}
      strokeOpacity={drawn && !selected ? 0.35 : 1}
      stroke={selected ? "var(--accent)" : weighed ? "var(--ink)" : "var(--pencil)"}
      strokeWidth={selected ? 1.8 : 0.9}
      strokeLinejoin="round"
      strokeDasharray={said ? (weighed ? undefined : "4 3") : "1 4"}
    >
      <title>{`${number} ${item.name}${isPlaced(item) ? "" : ", not placed yet"}`}</title>
    </path>
  );
}

/** Numbers of the parts, clear of one another; of many the largest. */
function Numbers({
  parts,
  selected,
  width,
  height,
}: {
  parts: { item: Item; number: number; at: [number, number]; most: number }[];
  selected: string | null;
  width: number;
  height: number;
}) {
  const largest = parts.toSorted((a, b) => b.most - a.most).slice(0, LABELLED);
  const placed = placeLabels(
    largest.map(({ item, number, at: [x, y], most }) => {
      const text = isPlaced(item) ? String(number) : `${number}?`;
      const [w, h] = [text.length * 6.6 + 4, 13];
      const off = Math.min(most / 2, 40);
      const by = (dx: number, dy: number): Box => ({ x: x - w / 2 + dx, y: y - h / 2 + dy, w, h });
      return { data: { item, text }, candidates: [by(0, 0), by(0, -off), by(off, 0), by(-off, 0), by(0, off)] };
    }),
    { x: 2, y: 18, w: width - 4, h: height - 20 },
    [],
  );
  return (
    <g pointerEvents="none" className="num" style={{ fontSize: 11 }}>
      {placed.map(({ box: b, data }) => (
        <text
          key={data.item.id}
          x={b.x + 2}
          y={b.y + 10}
          fill={data.item.id === selected ? "var(--accent)" : "var(--ink2)"}
        >
          {data.text}
        </text>
      ))}
    </g>
  );
}
