import { scaleLinear } from "d3-scale";
import { resultIn } from "../../../core/evaluate";
import { cgLimits } from "../../../core/subjects/balance/window";
import { flight } from "../../../core/subjects/flight/node";
import type { Quantity } from "../../../core/design/quantity";
import { toDisplay } from "../../../core/design/units";
import { show } from "../../../core/wording/format";
import { useDesk } from "../../app/desk";
import { usePreferences } from "../../app/preferences";
import { ticksIn } from "../../drawing/scale";

const HEIGHT = 70;

/** The surroundings of the CG window enlarged: where the CG is, how surely, and where a remedy would bring it. */
export function WindowStrip({ width }: { width: number }) {
  const { seen: design, evaluation, preview } = useDesk();
  const { habit } = usePreferences();
  const window = cgLimits(design, resultIn(evaluation, flight), "x");
  const cg = evaluation.metrics.cgX;
  const then = preview?.evaluation.metrics.cgX;
  if (!window || !Number.isFinite(window.low) || !cg) return null;
  const points = [
    window.low,
    window.high,
    cg.value - 1.6 * cg.sd,
    cg.value + 1.6 * cg.sd,
    ...(then ? [then.value - then.sd, then.value + then.sd] : []),
  ];
  const pad = 0.12 * (Math.max(...points) - Math.min(...points));
  const min = Math.min(...points) - pad;
  const max = Math.max(...points) + pad;
  const x = scaleLinear([min, max], [16, width - 16]);
  const ticks = ticksIn(min, max, 9, habit === "imperial" ? 0.0254 : 0.001);
  const inside = cg.value >= window.low && cg.value <= window.high;
  const bar = (q: Quantity, y: number, colour: string, text: string) => {
    const s = show(q.value, q.sd, "length", habit);
    const right = x(q.value + q.sd) + 6 < width - 190;
    return (
      <g stroke={colour}>
        <path
          d={`M${x(q.value - q.sd)} ${y - 4}v8m0 -4H${x(q.value + q.sd)}m0 -4v8`}
          strokeDasharray="3 2"
          fill="none"
          strokeWidth="1.4"
        />
        <path d={`M${x(q.value)} ${y - 7}v14`} strokeWidth="2.4" />
        <text
          x={right ? x(q.value + q.sd) + 6 : x(q.value - q.sd) - 6}
          y={y + 4}
          textAnchor={right ? "start" : "end"}
          stroke="none"
          fill={colour}
          className="num"
          style={{ fontSize: 11, fontWeight: 600 }}
        >
          {s.value} {text}
        </text>
      </g>
    );
  };
  return (
    <svg
      viewBox={`0 0 ${width} ${HEIGHT}`}
      width="100%"
      className="block"
      role="img"
      aria-label="CG against its window, enlarged"
    >
      <rect x={x(window.low)} y="2" width={x(window.high) - x(window.low)} height="50" fill="var(--tint-clear)" />
      <path d={`M${x(window.low)} 2v50M${x(window.high)} 2v50`} stroke="var(--clear)" />
      <text x={x(window.low) + 4} y="13" fontSize="11" fill="var(--clear)">
        {window.by === "wings" ? "its wings need" : "window"}{" "}
        {Number(toDisplay(window.low, "length", habit).toFixed(2))} to{" "}
        {Number(toDisplay(window.high, "length", habit).toFixed(2))}
      </text>
      {bar(cg, 24, inside ? "var(--ink)" : "var(--stop)", "as drawn")}
      {then && bar(then, 41, "var(--accent)", "with the change")}
      <path d={`M8 53H${width - 8}`} stroke="var(--ink)" />
      {ticks.map((t) => (
        <g key={t}>
          <path d={`M${x(t)} 50v3`} stroke="var(--ink)" />
          <text x={x(t)} y="65" textAnchor="middle" className="num" style={{ fontSize: 11 }} fill="var(--ink2)">
            {Number(toDisplay(t, "length", habit).toFixed(2))}
          </text>
        </g>
      ))}
    </svg>
  );
}
