import { scaleLinear } from "d3-scale";
import { DISPLAY, toDisplay } from "../../../core/design/units";
import type { FlightResult } from "../../../core/subjects/flight/node";
import { AT_SPEED } from "../../../core/subjects/flight/trim";
import { plain } from "../../../core/wording/format";
import { Computed } from "../../app/Computed";
import { useDesk } from "../../app/desk";
import { launchSpeedOf } from "../../../core/subjects/flight/cord";
import { usePreferences } from "../../app/preferences";
import { useWidth } from "../../app/useWidth";
import { ticksIn } from "../../drawing/scale";

/** Baseline of a row of names: the first above the bar, the others under it. */
const baseline = (row: number) => (row === 0 ? 28 : 54 + 14 * row);
/** Width of a letter of a name, about. */
const LETTER = 5.8;

/** A row for each name so that none stands over another, in their order. */
function rowsOf(names: readonly { at: number; half: number }[]): number[] {
  const rows: number[] = [];
  for (const [k, n] of names.entries()) {
    const taken = new Set(
      names.slice(0, k).flatMap((o, i) => (Math.abs(o.at - n.at) < o.half + n.half + 4 ? [rows[i]] : [])),
    );
    rows.push(names.findIndex((_, row) => !taken.has(row)));
  }
  return rows;
}

/** The speeds of level flight on one line: below the stall it does not fly. */
export function Speeds({ flown }: { flown: FlightResult }) {
  const { seen: design, evaluation } = useDesk();
  const { habit } = usePreferences();
  const [ref, width] = useWidth<HTMLElement>(860);
  const { stallSpeed: stall, glideSpeed, glideRatio, speed: top, noseUpSpeed: noseUp } = evaluation.metrics;
  if (!stall)
    return (
      <section ref={ref} aria-label="Speeds" className="col-span-full">
        <h2>Speeds</h2>
        <p className="text-pencil">
          {flown.at ? "Open: as it is described nothing holds it level." : "Open: it needs a mass and a CG."}
        </p>
      </section>
    );
  const { auw } = evaluation.metrics;
  // Near the ground something touches before the wing stalls.
  const touching = flown.touches && flown.slowest && flown.slowest.value > 1.001 * stall.value ? flown.slowest : null;
  const least = touching?.value ?? stall.value;
  const let_ = launchSpeedOf(design.flight, auw && !auw.incomplete?.length ? auw.value : null);
  const end = Math.max(
    2.2 * stall.value,
    1.2 * least,
    (top?.value ?? 0) * 1.1,
    (glideSpeed?.value ?? 0) * 1.15,
    (let_?.value ?? 0) * 1.1,
    (noseUp?.value ?? 0) * 1.1,
  );
  const x = scaleLinear([0, end], [8, width - 8]);
  const marks = [
    { word: flown.slow?.by === "control" ? "control at its stop" : "stall", ...stall },
    ...(touching && flown.touches
      ? [{ word: `“${flown.touches.name}” touches`, ...touching, evidence: "calculated" as const }]
      : []),
    ...(top ? [{ word: "top", ...top }] : []),
    ...(glideSpeed ? [{ word: "best glide", ...glideSpeed }] : []),
    ...(noseUp && noseUp.value > 0 ? [{ word: "nose up", ...noseUp }] : []),
    ...(let_ ? [{ word: "let go", value: let_.value, sd: let_.sd ?? 0, evidence: let_.evidence }] : []),
  ].map((m) => {
    const text = `${m.word} ${plain(m.value, "speed", habit)}`;
    const half = (text.length * LETTER) / 2;
    return { ...m, text, half, at: Math.min(Math.max(x(m.value), half + 4), width - half - 4) };
  });
  const calm = AT_SPEED * stall.value;
  // Where the slowest is outside its method nothing is judged; how fast it flies is told where thrust and drag are
  // known.
  const bands =
    !touching && stall.outside?.length
      ? []
      : [
          { from: 0, to: Math.min(end, least), tint: "var(--tint-stop)" },
          { from: Math.min(end, least), to: Math.min(end, calm), tint: "var(--tint-care)" },
          ...(top ? [{ from: Math.max(calm, least), to: top.value, tint: "var(--tint-clear)" }] : []),
        ];
  const rows = rowsOf(marks);
  const floor = baseline(Math.max(1, ...rows)) + 8;
  const unit = toDisplay(1, "speed", habit);
  return (
    <section ref={ref} aria-label="Speeds" className="col-span-full min-w-0">
      <h2>
        Speeds <span className="font-normal text-pencil">{DISPLAY[habit].speed}, level</span>
      </h2>
      <svg
        viewBox={`0 0 ${width} ${floor + 20}`}
        width="100%"
        className="mt-1 block bg-sheet"
        role="img"
        aria-label="Speeds of level flight"
      >
        {bands.map(({ from, to, tint }) => (
          <rect key={tint} x={x(from)} y="38" width={Math.max(0, x(to) - x(from))} height="12" fill={tint} />
        ))}
        {bands.length > 0 && (
          <text x={x(0) + 4} y="14" fontSize="11" fill="var(--stop)">
            does not fly
          </text>
        )}
        {marks.map((m, k) => (
          <g key={m.word} stroke={m.word === "let go" && m.evidence === "measured" ? "var(--ink)" : "var(--pencil)"}>
            <path d={`M${x(m.value)} 34v20`} strokeWidth="2" />
            <path
              d={`M${x(Math.max(0, m.value - m.sd))} 44H${x(Math.min(end, m.value + m.sd))}`}
              strokeDasharray="3 2"
              strokeWidth="1.4"
            />
            <text
              x={m.at}
              y={baseline(rows[k] ?? 0)}
              textAnchor="middle"
              stroke="none"
              fill="var(--ink2)"
              fontSize="11"
              data-speed={m.word}
            >
              {m.text}
            </text>
          </g>
        ))}
        <path d={`M8 ${floor}H${width - 8}`} stroke="var(--ink)" />
        {ticksIn(0, end, 8, 1 / unit).map((t) => (
          <g key={t}>
            <path d={`M${x(t)} ${floor - 3}v3`} stroke="var(--ink)" />
            <text
              x={x(t)}
              y={floor + 13}
              textAnchor="middle"
              className="num"
              style={{ fontSize: 11 }}
              fill="var(--ink2)"
            >
              {Number((t * unit).toPrecision(6))}
            </text>
          </g>
        ))}
      </svg>
      {stall.outside?.map((o) => (
        <p key={o} className="mt-1 text-care">
          Slowest, outside its method: {o}.
        </p>
      ))}
      {!flown.inWater && (
        <p className="mt-1 text-pencil">
          {glideRatio ? (
            <>
              Best glide <Computed metric="glideRatio" quantity={glideRatio} /> at{" "}
              <Computed metric="glideSpeed" quantity={glideSpeed} />
              {!flown.whole && " at most: only wings and bodies are in its drag"}
            </>
          ) : (
            "Best glide is open."
          )}
        </p>
      )}
    </section>
  );
}
