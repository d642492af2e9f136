import { scaleLinear } from "d3-scale";
import type { LatticeResult } from "../../../core/subjects/flight/latticeNode";
import type { FlightResult } from "../../../core/subjects/flight/node";
import { AT_SPEED } from "../../../core/subjects/flight/trim";
import { stripLine, trimmed } from "../../../core/subjects/flight/model";
import { resultIn } from "../../../core/evaluate";
import { balance } from "../../../core/subjects/balance/node";
import { useDesk } from "../../app/desk";

const [WIDTH, HEIGHT] = [420, 150];

/** Lift coefficient along a side of the main wing at the stall and in slow flight, against what its section holds. */
export function SpanLoad({ wings, flown }: { wings: LatticeResult; flown: FlightResult }) {
  const { seen: design, evaluation } = useDesk();
  const mass = resultIn(evaluation, balance);
  const cg = mass?.placed.x ? mass.cg.x : undefined;
  const trim = cg === undefined ? null : trimmed(wings.model, cg);
  const surface = design.surfaces[wings.main];
  if (!trim || !flown.slow || !surface) return null;
  const rows = wings.model.strips.flatMap((s, i) =>
    s.surface === wings.main && s.side === 1
      ? [{ share: s.share, most: s.most, line: stripLine(wings.model, trim, i) }]
      : [],
  );
  const { load } = flown.slow;
  const at = (k: number) => rows.map((r) => ({ share: r.share, cl: r.line.at0 + r.line.per * k }));
  const [stall, slow] = [at(load), at(load / AT_SPEED ** 2)];
  const most = rows[0]?.most ?? 1;
  const high = Math.max(most * 1.12, ...stall.map((p) => p.cl * 1.05));
  const low = Math.min(0, ...slow.map((p) => p.cl));
  const x = scaleLinear([0, 1], [34, WIDTH - 10]);
  const y = scaleLinear([low, high], [HEIGHT - 26, 8]);
  const path = (points: { share: number; cl: number }[]) =>
    `M${points.map((p) => `${x(p.share).toFixed(1)} ${y(p.cl).toFixed(1)}`).join("L")}`;
  const strip = wings.model.strips[flown.slow.strip];
  const first = flown.slow.by === "stall" && strip ? strip : null;
  const name = first && design.surfaces[first.surface]?.name;
  const slowest = flown.values.stallSpeed?.value ?? 0;
  return (
    <section aria-label="Lift along the span" className="min-w-0">
      <h2>
        Lift along the span <span className="font-normal text-pencil">lift coefficient, {surface.name}, a side</span>
      </h2>
      <svg
        viewBox={`0 0 ${WIDTH} ${HEIGHT}`}
        width="100%"
        className="mt-1 block bg-sheet"
        role="img"
        aria-label="Lift coefficient along the span"
      >
        <rect
          x={x(0)}
          y={y(high)}
          width={x(1) - x(0)}
          height={y(most) - y(high)}
          fill="var(--tint-stop)"
          fillOpacity="0.7"
        />
        <path d={`M${x(0)} ${y(most)}H${x(1)}`} stroke="var(--stop)" />
        <text x={x(1) - 4} y={y(most) - 4} textAnchor="end" fontSize="11" fill="var(--stop)">
          section holds {most.toFixed(2)}
        </text>
        {[0, 0.5, 1, 1.5].map((t) =>
          t >= low && t <= high ? (
            <g key={t}>
              <path d={`M${x(0)} ${y(t)}H${x(1)}`} stroke="var(--hair)" />
              <text x="30" y={y(t) + 4} textAnchor="end" className="num" style={{ fontSize: 11 }} fill="var(--ink2)">
                {t.toFixed(1)}
              </text>
            </g>
          ) : null,
        )}
        <path d={path(stall)} fill="none" stroke="var(--pencil)" strokeWidth="1.8" strokeDasharray="5 4" />
        <path d={path(slow)} fill="none" stroke="var(--pencil)" strokeWidth="1.4" strokeDasharray="1 3" />
        {first?.surface === wings.main && (
          <path d={`M${x(first.share) - 5} ${y(most) - 10}h10l-5 8z`} fill="var(--stop)" />
        )}
        <text x={x(0)} y={HEIGHT - 8} fontSize="11" fill="var(--ink2)">
          root
        </text>
        <text x={x(1)} y={HEIGHT - 8} textAnchor="end" fontSize="11" fill="var(--ink2)">
          tip
        </text>
        <text x={x(0.5)} y={HEIGHT - 8} textAnchor="middle" fontSize="11" fill="var(--pencil)">
          dashed: slowest; dotted: {AT_SPEED} × as fast
        </text>
      </svg>
      {slowest < flown.waves && (
        <p className="mt-1 text-care" data-waves>
          As if they made no waves: so slow they do, and lift less than this.
        </p>
      )}
      <p className="mt-1 text-pencil">
        {first && name
          ? `${name} stalls first, ${Math.round(100 * first.share)} % of the way to its tip.`
          : "Nothing stalls before the pitch control is at its stop."}
      </p>
    </section>
  );
}
