import { type UnitHabit, toDisplay } from "../../core/design/units";
import type { MassResult } from "../../core/mass/rollup";
import { plain } from "../../core/wording/format";
import { useDesk } from "../app/desk";
import { type Sheet, VERTICAL, type ViewName, roundStep } from "./scale";

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
export function CgMark({ sheet, view, mass, colour }: { sheet: Sheet; view: ViewName; mass: MassResult; colour: string }) {
  const axis = VERTICAL[view];
  const x = sheet.px(mass.cg.x);
  const y = sheet.py(view, mass.cg[axis]);
  const e = ellipse(mass.cgSd.x ** 2, mass.cgSd[axis] ** 2, view === "side" ? mass.cov.xz : mass.cov.xy);
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

/** Green band through both views: where the CG must be. */
export function WindowBand({ sheet, low, high }: { sheet: Sheet; low: number; high: number }) {
  const x = sheet.px(low);
  return (
    <g pointerEvents="none">
      <rect x={x} y="6" width={sheet.px(high) - x} height={sheet.height - 10} fill="var(--tint-clear)" fillOpacity="0.8" />
      <path d={`M${x} 6V${sheet.height - 4}M${sheet.px(high)} 6V${sheet.height - 4}`} stroke="var(--clear)" />
    </g>
  );
}

/** Scale along x between the two views, in the user's unit. */
export function Ruler({ sheet, habit }: { sheet: Sheet; habit: UnitHabit }) {
  const inch = habit === "imperial";
  const step = inch ? roundStep((sheet.max - sheet.min) / 0.0254, 9) * 0.0254 : roundStep(sheet.max - sheet.min, 9);
  const first = Math.ceil(sheet.min / step);
  const ticks = Array.from({ length: Math.floor(sheet.max / step) - first + 1 }, (_, i) => (first + i) * step);
  return (
    <g pointerEvents="none">
      <text x="4" y={sheet.ruler + 17} fontSize="11" fill="var(--pencil)">
        x {inch ? "in" : "mm"}
      </text>
      {ticks.map((t) => (
        <g key={t}>
          <path d={`M${sheet.px(t)} ${sheet.ruler - 6}v5`} stroke="var(--rule)" />
          <text x={sheet.px(t)} y={sheet.ruler + 8} textAnchor="middle" className="num" style={{ fontSize: 11 }} fill="var(--ink2)">
            {Number(toDisplay(t, "length", habit).toFixed(2))}
          </text>
        </g>
      ))}
    </g>
  );
}

/** Thrust of the drive at full throttle, through its propeller, along its tilt. Side view only. */
export function ThrustArrow({ sheet, view }: { sheet: Sheet; view: ViewName }) {
  const { design, evaluation } = useDesk();
  const unit = design.units[0];
  const item = design.items.find((i) => i.id === unit?.propellerItemId);
  if (!unit || !item || view !== "side" || evaluation.power.status !== "solved") return null;
  const sense = { ahead: [-1, 0], astern: [1, 0], up: [0, -1], down: [0, 1] }[unit.direction] as [number, number];
  const c = Math.cos(unit.tilt);
  const s = Math.sin(unit.tilt);
  const [dx, dy] = sense[0] === 0 ? [s, sense[1] * c] : [sense[0] * c, -s];
  const x = sheet.px(item.place.x);
  const y = sheet.py("side", item.place.z);
  const length = 46;
  const [ex, ey] = [x + dx * length, y + dy * length];
  return (
    <g pointerEvents="none" stroke="var(--accent)" fill="var(--accent)">
      <path d={`M${x} ${y}L${ex} ${ey}`} strokeWidth="2.5" />
      <path d={`M${ex + dx * 8} ${ey + dy * 8}L${ex - dy * 4} ${ey + dx * 4}L${ex + dy * 4} ${ey - dx * 4}z`} stroke="none" />
      <path d={`M${x} ${y}L${x - dx * 260} ${y - dy * 260}`} strokeWidth="0.8" strokeDasharray="7 3 2 3" stroke="var(--pencil)" />
      <text x={Math.max(ex - 6, 4)} y={ey - 10} fontSize="11" stroke="none" className="num" style={{ fontSize: 11, fontWeight: 600 }}>
        {plain(evaluation.power.result.values.thrust, "force", "metric", 1)}
      </text>
    </g>
  );
}
