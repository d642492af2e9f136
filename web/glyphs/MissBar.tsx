import type { Miss } from "../../core/runs/miss";

const WIDTH = 120;
const REACH = 4;

/** Measured minus predicted in steps of the combined ±: the band is where the two agree. */
export function MissBar({ miss }: { miss: Miss }) {
  const x = (steps: number) => WIDTH / 2 + (Math.max(-REACH, Math.min(REACH, steps)) * WIDTH) / 2 / (REACH + 0.4);
  const colour = miss.verdict === "agrees" ? "var(--ink)" : miss.verdict === "doubtful" ? "var(--care)" : "var(--stop)";
  return (
    <svg
      width={WIDTH}
      height="16"
      viewBox={`0 0 ${WIDTH} 16`}
      role="img"
      aria-label={`${miss.steps.toFixed(1)} steps, ${miss.verdict}`}
    >
      <rect x={x(-1)} y="2" width={x(1) - x(-1)} height="12" fill="var(--tint-clear)" />
      <path d={`M2 8H${WIDTH - 2}`} stroke="var(--hair)" />
      {[-4, -3, -2, -1, 0, 1, 2, 3, 4].map((s) => (
        <path
          key={s}
          d={`M${x(s)} ${s === 0 ? 1 : 6}V${s === 0 ? 15 : 10}`}
          stroke={s === 0 ? "var(--pencil)" : "var(--rule)"}
          strokeDasharray={s === 0 ? "2 2" : undefined}
        />
      ))}
      <path d={`M${x(0)} 8H${x(miss.steps)}`} stroke={colour} strokeWidth="2" />
      <rect x={x(miss.steps) - 2.5} y="3.5" width="5" height="9" fill={colour} />
    </svg>
  );
}
