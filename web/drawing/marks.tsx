import type { Axis, Outline } from "../../core/design/schema";
import { type UnitHabit, toDisplay } from "../../core/design/units";
import type { Extent, MassResult } from "../../core/subjects/mass/rollup";
import { ACROSS, type Sheet, UP, type ViewName, ticksIn } from "./scale";

/** Radius in standard deviations of the ellipse that holds nine in ten of a plane normal distribution: √(−2 ln 0.1). */
const NINE_IN_TEN = Math.sqrt(-2 * Math.log(0.1));

/** Half axes (m) and turn (rad) of the nine-in-ten ellipse of two correlated errors. */
export function ellipse(varX: number, varV: number, cov: number): { major: number; minor: number; angle: number } {
  const mean = (varX + varV) / 2;
  const spread = Math.hypot((varX - varV) / 2, cov);
  return {
    major: NINE_IN_TEN * Math.sqrt(mean + spread),
    minor: NINE_IN_TEN * Math.sqrt(Math.max(0, mean - spread)),
    angle: Math.atan2(2 * cov, varX - varV) / 2,
  };
}

/** Long cross and ellipse: where the CG is, nine times in ten. */
export function CgMark({
  sheet,
  view,
  mass,
  colour,
}: {
  sheet: Sheet;
  view: ViewName;
  mass: MassResult;
  colour: string;
}) {
  const { axis, sign } = ACROSS[view];
  const up = UP[view];
  // Where a part has no place nobody knows where the CG is.
  if (!mass.placed[axis] || !mass.placed[up]) return null;
  const x = sheet.px(view, mass.cg[axis]);
  const y = sheet.py(view, mass.cg[up]);
  const covariance = { side: mass.cov.xz, top: mass.cov.xy, front: sign * mass.cov.yz }[view];
  const e = ellipse(mass.cgSd[axis] ** 2, mass.cgSd[up] ** 2, covariance);
  return (
    <g pointerEvents="none" stroke={colour} data-mark={`cg-${view}`}>
      <path d={`M${x - 20} ${y}h40M${x} ${y - 24}v48`} strokeWidth="1.6" />
      <ellipse
        cx={x}
        cy={y}
        rx={Math.max(e.major * sheet.scale, 1.5)}
        ry={Math.max(e.minor * sheet.scale, 1.5)}
        transform={`rotate(${(-e.angle * 180) / Math.PI} ${x} ${y})`}
        fill={colour}
        fillOpacity="0.14"
        strokeWidth="1.2"
      />
    </g>
  );
}

const OVER = 16;

/** Green band: where the CG must be along one axis, across or up a view. */
export function WindowBand({
  sheet,
  view,
  axis,
  low,
  high,
}: {
  sheet: Sheet;
  view: ViewName;
  axis: Axis;
  low: number;
  high: number;
}) {
  const box = sheet.views[view];
  const upright = ACROSS[view].axis === axis;
  const [a, b] = upright ? [sheet.px(view, low), sheet.px(view, high)] : [sheet.py(view, low), sheet.py(view, high)];
  const [from, to] = [Math.min(a, b), Math.max(a, b)];
  const rect = upright
    ? { x: from, y: box.y - OVER, width: to - from, height: box.h + 2 * OVER }
    : { x: box.x, y: from, width: box.w, height: to - from };
  return (
    <g pointerEvents="none">
      <rect {...rect} fill="var(--tint-clear)" fillOpacity="0.8" />
      <path
        d={
          upright
            ? `M${from} ${rect.y}v${rect.height}M${to} ${rect.y}v${rect.height}`
            : `M${rect.x} ${from}h${rect.width}M${rect.x} ${to}h${rect.width}`
        }
        stroke="var(--clear)"
      />
    </g>
  );
}

/** Scale along one axis of a view, in the user's unit: under it, or up its left side. */
export function Ruler({
  sheet,
  view,
  box,
  along,
  habit,
}: {
  sheet: Sheet;
  view: ViewName;
  box: Extent;
  along: "across" | "up";
  habit: UnitHabit;
}) {
  const axis = along === "across" ? ACROSS[view].axis : UP[view];
  const frame = sheet.views[view];
  const inch = habit === "imperial";
  const unit = inch ? 0.0254 : 0.001;
  const [min, max] = [box.min[axis], box.max[axis]];
  const count = Math.max(2, Math.min(10, Math.floor(((max - min) * sheet.scale) / 46)));
  const ticks = ticksIn(min, max, count, unit);
  const base = frame.y + frame.h + 3;
  return (
    <g pointerEvents="none">
      {ticks.map((t) => {
        const text = Number(toDisplay(t, "length", habit).toFixed(2));
        if (along === "across") {
          const x = sheet.px(view, t);
          return (
            <g key={t}>
              <path d={`M${x} ${base}v5`} stroke="var(--rule)" />
              <text
                x={x}
                y={base + 15}
                textAnchor="middle"
                className="num"
                style={{ fontSize: 11 }}
                fill="var(--pencil)"
              >
                {text}
              </text>
            </g>
          );
        }
        const y = sheet.py(view, t);
        return (
          <g key={t}>
            <path d={`M${frame.x - 5} ${y}h5`} stroke="var(--rule)" />
            <text
              x={frame.x - 7}
              y={y + 4}
              textAnchor="end"
              className="num"
              style={{ fontSize: 11 }}
              fill="var(--pencil)"
            >
              {text}
            </text>
          </g>
        );
      })}
    </g>
  );
}

/** A traced shape under one view, at its true size. */
export function TracedOutline({ sheet, outline }: { sheet: Sheet; outline: Outline }) {
  const scale = outline.scale * sheet.scale;
  return (
    <path
      pointerEvents="none"
      d={outline.path}
      transform={
        `translate(${sheet.px(outline.view, outline.across)} ${sheet.py(outline.view, outline.up)}) ` +
        `scale(${scale})`
      }
      fill="none"
      stroke="var(--pencil)"
      strokeWidth="1"
      vectorEffect="non-scaling-stroke"
      data-outline={outline.id}
    />
  );
}

/** The box that every part must stay inside. */
export function EnvelopeMark({ sheet, view, envelope }: { sheet: Sheet; view: ViewName; envelope: Extent }) {
  const across = ACROSS[view].axis;
  const up = UP[view];
  const x1 = sheet.px(view, envelope.min[across]);
  const x2 = sheet.px(view, envelope.max[across]);
  const y1 = sheet.py(view, envelope.max[up]);
  const y2 = sheet.py(view, envelope.min[up]);
  return (
    <rect
      pointerEvents="none"
      x={Math.min(x1, x2)}
      y={y1}
      width={Math.abs(x2 - x1)}
      height={y2 - y1}
      fill="none"
      stroke="var(--rule)"
      strokeDasharray="10 3 2 3 2 3"
    />
  );
}
