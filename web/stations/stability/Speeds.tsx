import { scaleLinear } from "d3-scale";
import { DISPLAY, toDisplay } from "../../../core/design/units";
import { AT_SPEED, type FlightResult } from "../../../core/subjects/flight/node";
import { plain } from "../../../core/wording/format";
import { Computed } from "../../app/Computed";
import { useDesk } from "../../app/desk";
import { usePreferences } from "../../app/preferences";
import { useWidth } from "../../app/useWidth";
import { ticksIn } from "../../drawing/scale";

const HEIGHT = 96;

/** The speeds of level flight on one line: below the stall it does not fly. */
export function Speeds({ flown }: { flown: FlightResult }) {
  const { design, evaluation } = useDesk();
  const { habit } = usePreferences();
  const [ref, width] = useWidth<HTMLElement>(860);
  const { stallSpeed: stall, glideSpeed, glideRatio, speed: top } = evaluation.metrics;
  if (!stall)
    return (
      <section ref={ref} aria-label="Speeds" className="col-span-full">
        <h2>Speeds</h2>
        <p className="text-pencil">
          {flown.at ? "Open: as it is described nothing holds it level." : "Open: it needs a mass and a CG."}
        </p>
      </section>
    );
  const let_ = design.flight.launchSpeed;
  const end = Math.max(
    2.2 * stall.value,
    (top?.value ?? 0) * 1.1,
    (glideSpeed?.value ?? 0) * 1.15,
    (let_?.value ?? 0) * 1.1,
  );
  const x = scaleLinear([0, end], [8, width - 8]);
  const mark = (value: number, sd: number, word: string, row: 0 | 1, ink?: boolean) => (
    <g key={word} stroke={ink ? "var(--ink)" : "var(--pencil)"}>
      <path d={`M${x(value)} 34v20`} strokeWidth="2" />
      <path
        d={`M${x(Math.max(0, value - sd))} 44H${x(Math.min(end, value + sd))}`}
        strokeDasharray="3 2"
        strokeWidth="1.4"
      />
      <text
        x={Math.min(Math.max(x(value), 30), width - 34)}
        y={row === 0 ? 28 : 68}
        textAnchor="middle"
        stroke="none"
        fill="var(--ink2)"
        fontSize="11"
      >
        {word} {plain(value, "speed", habit)}
      </text>
    </g>
  );
  const unit = toDisplay(1, "speed", habit);
  return (
    <section ref={ref} aria-label="Speeds" className="col-span-full min-w-0">
      <h2>
        Speeds <span className="font-normal text-pencil">{DISPLAY[habit].speed}, level</span>
      </h2>
      <svg
        viewBox={`0 0 ${width} ${HEIGHT}`}
        width="100%"
        className="mt-1 block bg-sheet"
        role="img"
        aria-label="Speeds of level flight"
      >
        <rect x={x(0)} y="38" width={x(stall.value) - x(0)} height="12" fill="var(--tint-stop)" />
        <rect
          x={x(stall.value)}
          y="38"
          width={x(Math.min(end, AT_SPEED * stall.value)) - x(stall.value)}
          height="12"
          fill="var(--tint-care)"
        />
        <rect
          x={x(AT_SPEED * stall.value)}
          y="38"
          width={
            x(top?.value ?? end) - x(AT_SPEED * stall.value) > 0 ? x(top?.value ?? end) - x(AT_SPEED * stall.value) : 0
          }
          height="12"
          fill="var(--tint-clear)"
        />
        <text x={x(0) + 4} y="14" fontSize="11" fill="var(--stop)">
          does not fly
        </text>
        {mark(stall.value, stall.sd, flown.slow?.by === "control" ? "control at its stop" : "stall", 0)}
        {glideSpeed && mark(glideSpeed.value, glideSpeed.sd, "best glide", 1)}
        {top && mark(top.value, top.sd, "top", 0)}
        {let_ && mark(let_.value, let_.sd ?? 0, "let go", 1, let_.evidence === "measured")}
        <path d={`M8 76H${width - 8}`} stroke="var(--ink)" />
        {ticksIn(0, end, 8, 1 / unit).map((t) => (
          <g key={t}>
            <path d={`M${x(t)} 73v3`} stroke="var(--ink)" />
            <text x={x(t)} y="89" textAnchor="middle" className="num" style={{ fontSize: 11 }} fill="var(--ink2)">
              {Math.round(t * unit)}
            </text>
          </g>
        ))}
      </svg>
      <p className="mt-1 text-pencil">
        Best glide <Computed metric="glideRatio" quantity={glideRatio} /> at{" "}
        <Computed metric="glideSpeed" quantity={glideSpeed} />
        {!flown.whole && " at most: only wings and bodies are in its drag"}
      </p>
    </section>
  );
}
