import type { Point } from "../../core/design/schema";
import { resultIn } from "../../core/evaluate";
import { balance } from "../../core/subjects/balance/node";
import { cgLimits } from "../../core/subjects/balance/window";
import { flight } from "../../core/subjects/flight/node";
import { lattice } from "../../core/subjects/flight/latticeNode";
import type { Extent, MassResult } from "../../core/subjects/mass/rollup";
import { propulsion } from "../../core/subjects/propulsion/node";
import { placedUnits } from "../../core/subjects/propulsion/placed";
import { useDesk } from "../app/desk";
import { ellipse } from "./marks";
import { type Projector, covarianceOn } from "./turned";

interface Seen {
  px: (p: Point) => [number, number];
  path: (points: readonly Point[], close?: boolean) => string;
  scale: number;
  box: Extent;
  view: Projector;
}

/** Where the CG is, where it must be, and where the wings answer: at the height of the CG. */
export function Marks(seen: Seen) {
  const { seen: design, evaluation } = useDesk();
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
export function Thrust({ px, reach }: { px: (p: Point) => [number, number]; reach: number }) {
  const { seen: design, evaluation } = useDesk();
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
                  d={
                    `M${x1 + ux * 7} ${y1 + uy * 7}L${x1 - uy * 3.5} ${y1 + ux * 3.5}L${x1 + uy * 3.5} ` +
                    `${y1 - ux * 3.5}z`
                  }
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
export function Ground({ box, path }: { box: Extent; path: (points: readonly Point[]) => string }) {
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
export function Triad({ view, height }: { view: Projector; height: number }) {
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
