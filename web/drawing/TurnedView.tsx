import { useDrag } from "@use-gesture/react";
import { type KeyboardEvent, type RefObject, memo, useMemo, useState } from "react";
import type { Item, Point } from "../../core/design/schema";
import { resultIn } from "../../core/evaluate";
import { balance } from "../../core/subjects/balance/node";
import { cgLimits } from "../../core/subjects/balance/window";
import { flight } from "../../core/subjects/flight/node";
import { lattice } from "../../core/subjects/flight/latticeNode";
import { isPlaced } from "../../core/subjects/mass/placed";
import { type Extent, type MassResult, extent } from "../../core/subjects/mass/rollup";
import { propulsion } from "../../core/subjects/propulsion/node";
import { placedUnits } from "../../core/subjects/propulsion/placed";
import { plain } from "../../core/wording/format";
import { useDesk } from "../app/desk";
import { usePreferences } from "../app/preferences";
import { ellipse } from "./marks";
import { type Box, placeLabels } from "./scale";
import {
  type Eye,
  FIRST_EYE,
  type Projector,
  covarianceOn,
  facesOf,
  linesOfBody,
  outlinesOf,
  projector,
  turnedBy,
} from "./turned";

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
  const { design, file } = useDesk();
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

interface Seen {
  px: (p: Point) => [number, number];
  path: (points: readonly Point[], close?: boolean) => string;
  scale: number;
  box: Extent;
  view: Projector;
}

/** Where the CG is, where it must be, and where the wings answer: at the height of the CG. */
function Marks(seen: Seen) {
  const { design, evaluation } = useDesk();
  const { px, path, box, view } = seen;
  const mass = resultIn(evaluation, balance);
  const limits = cgLimits(design, resultIn(evaluation, flight), "x");
  const neutral = resultIn(evaluation, lattice)?.neutral.value;
  const z = mass?.placed.z ? mass.cg.z : (box.min.z + box.max.z) / 2;
  const across = (x: number) => [0.2, 0.8].map((share) => ({ x, y: box.min.y + share * (box.max.y - box.min.y), z }));
  return (
    <g pointerEvents="none" fill="none">
      {limits && Number.isFinite(limits.low) && (
        <path
          data-mark="window"
          d={path([...across(limits.low), ...across(limits.high).toReversed()])}
          fill="var(--tint-clear)"
          fillOpacity="0.75"
          stroke="var(--clear)"
          strokeWidth="0.8"
        />
      )}
      {neutral !== undefined && (
        <g data-mark="neutral">
          <path d={path(across(neutral), false)} stroke="var(--accent)" strokeWidth="1.4" strokeDasharray="8 3 2 3" />
          <Word at={px(across(neutral)[view.right.y > 0 ? 1 : 0] as Point)} text="neutral point" />
        </g>
      )}
      {mass && <CgSeen {...seen} mass={mass} />}
    </g>
  );
}

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

/** The CG as three lines along the axes, and the ellipse that holds it nine times in ten as it is seen from here. */
function CgSeen({ px, path, scale, box, view, mass }: Seen & { mass: MassResult }) {
  if (!mass.placed.x || !mass.placed.y || !mass.placed.z) return null;
  const arm = 0.05 * Math.max(box.max.x - box.min.x, 0.1);
  const { cg } = mass;
  const [x, y] = px(cg);
  const on = covarianceOn(view, mass.cgSd, mass.cov);
  const e = ellipse(on.across, on.up, on.both);
  return (
    <g stroke="var(--ink)" strokeWidth="1.6" data-mark="cg-turned">
      {(["x", "y", "z"] as const).map((axis) => (
        <path
          key={axis}
          d={path(
            [
              { ...cg, [axis]: cg[axis] - arm },
              { ...cg, [axis]: cg[axis] + arm },
            ],
            false,
          )}
        />
      ))}
      <ellipse
        cx={x}
        cy={y}
        rx={Math.max(e.major * scale, 1.5)}
        ry={Math.max(e.minor * scale, 1.5)}
        transform={`rotate(${(-e.angle * 180) / Math.PI} ${x} ${y})`}
        fill="var(--ink)"
        fillOpacity="0.14"
        strokeWidth="1.2"
      />
      <Word at={[x + 6, y - 8]} text="CG" ink />
    </g>
  );
}

function Word({ at: [x, y], text, ink }: { at: [number, number]; text: string; ink?: boolean }) {
  return (
    <text
      x={x + 4}
      y={y - 3}
      stroke="none"
      fill={ink ? "var(--ink)" : "var(--accent)"}
      style={{ fontSize: 11, fontWeight: 600 }}
    >
      {text}
    </text>
  );
}

/** Full thrust of every unit where it is, along the way in which it pushes the craft. */
function Thrust({ px, reach }: { px: (p: Point) => [number, number]; reach: number }) {
  const { design, evaluation } = useDesk();
  const result = resultIn(evaluation, propulsion);
  if (!result) return null;
  return (
    <g pointerEvents="none" stroke="var(--accent)" fill="var(--accent)">
      {result.drives.flatMap((_, drive) =>
        placedUnits(design, drive).map(({ at, toward, k }) => {
          const end = { x: at.x + reach * toward.x, y: at.y + reach * toward.y, z: at.z + reach * toward.z };
          const [[x0, y0], [x1, y1]] = [px(at), px(end)];
          const long = Math.hypot(x1 - x0, y1 - y0);
          const [ux, uy] = long > 1 ? [(x1 - x0) / long, (y1 - y0) / long] : [0, 0];
          return (
            <g key={`${drive}-${k}`} data-thrust={`${drive}-${k}`}>
              <path d={`M${x0} ${y0}L${x1} ${y1}`} strokeWidth="2.2" />
              {long > 1 ? (
                <path
                  d={`M${x1 + ux * 7} ${y1 + uy * 7}L${x1 - uy * 3.5} ${y1 + ux * 3.5}L${x1 + uy * 3.5} ${y1 - ux * 3.5}z`}
                  stroke="none"
                />
              ) : (
                <circle cx={x0} cy={y0} r="3" />
              )}
            </g>
          );
        }),
      )}
    </g>
  );
}

/** What the craft stands on: its outline on the level of its lowest point. */
function Ground({ box, path }: { box: Extent; path: (points: readonly Point[]) => string }) {
  const { min, max } = box;
  const corners = [
    { x: min.x, y: min.y, z: min.z },
    { x: max.x, y: min.y, z: min.z },
    { x: max.x, y: max.y, z: min.z },
    { x: min.x, y: max.y, z: min.z },
  ];
  return (
    <path
      pointerEvents="none"
      d={path(corners)}
      fill="var(--band)"
      fillOpacity="0.25"
      stroke="var(--hair)"
      strokeWidth="1"
    />
  );
}

/** Which way is aft, starboard and up. */
function Triad({ view, height }: { view: Projector; height: number }) {
  const axes = [
    { name: "aft", p: { x: 1, y: 0, z: 0 } },
    { name: "stbd", p: { x: 0, y: 1, z: 0 } },
    { name: "up", p: { x: 0, y: 0, z: 1 } },
  ];
  const [x0, y0] = [44, height - 40];
  return (
    <g pointerEvents="none" stroke="var(--pencil)" strokeWidth="1.2" fontSize="11">
      {axes.map(({ name, p }) => {
        const at = view.at(p);
        const [x, y] = [x0 + 24 * at.x, y0 - 24 * at.y];
        return (
          <g key={name}>
            <path d={`M${x0} ${y0}L${x} ${y}`} />
            <text
              x={x + 3 * at.x}
              y={y - 5 * at.y + 4}
              textAnchor={at.x < 0 ? "end" : "start"}
              stroke="none"
              fill="var(--pencil)"
            >
              {name}
            </text>
          </g>
        );
      })}
    </g>
  );
}
