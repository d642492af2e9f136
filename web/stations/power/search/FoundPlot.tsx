import { scaleLinear } from "d3-scale";
import type { Candidate, SearchBounds } from "../../../../core/sizing/search";
import { DISPLAY, type Dimension, toDisplay } from "../../../../core/design/units";
import { plain } from "../../../../core/wording/format";
import { usePreferences } from "../../../app/preferences";
import { useWidth } from "../../../app/useWidth";

const [LEFT, RIGHT, TOP, BOTTOM] = [56, 16, 24, 40];
/** Share of what the points span up to which a limit beyond them is still drawn. */
const NEAR = 0.5;

/** Least and most of what is drawn, with a limit where it is near, and a little room. */
function spanOf(values: number[], limit: number | null): [number, number] {
  const [low, high] = [Math.min(...values), Math.max(...values)];
  const wide = high - low || Math.abs(high) || 1;
  const near = limit !== null && limit > low - NEAR * wide && limit < high + NEAR * wide ? [limit] : [];
  return [Math.min(low, ...near) - 0.04 * wide, Math.max(high, ...near) + 0.04 * wide];
}

/**
 * All that nothing beats: time (or, where nobody can tell it, thrust) against mass, size by thrust. Those that are
 * named below are numbered as there; a point and its row select each other.
 */
export function FoundPlot({
  named,
  all,
  chosen,
  now,
  bounds,
  timed,
  onChoose,
}: {
  named: readonly Candidate[];
  all: readonly Candidate[];
  chosen: Candidate | null;
  now: { auw: number; endurance: number; thrustToWeight: number } | null;
  bounds: SearchBounds;
  timed: boolean;
  onChoose: (c: Candidate) => void;
}) {
  const { habit } = usePreferences();
  const [ref, width] = useWidth<HTMLDivElement>(860);
  const height = Math.max(260, Math.min(420, Math.round(width * 0.5)));
  const up: Dimension = timed ? "time" : "ratio";
  const of = (c: { endurance: number; thrustToWeight: number }) => (timed ? c.endurance : c.thrustToWeight);
  const shown = (v: number, d: Dimension) => toDisplay(v, d, habit);
  const least = timed ? bounds.minEndurance : bounds.minThrustToWeight;
  const drawn = all.filter((c) => Number.isFinite(of(c)));
  const here = now && Number.isFinite(of(now)) ? now : null;
  const points = [...drawn, ...(here ? [here] : [])];
  const x = scaleLinear(
    spanOf(
      points.map((c) => c.auw),
      bounds.maxMass,
    ).map((v) => shown(v, "mass")),
    [LEFT, width - RIGHT],
  );
  const y = scaleLinear(
    spanOf(points.map(of), least).map((v) => shown(v, up)),
    [height - BOTTOM, TOP],
  );
  const [px, py] = [(kg: number) => x(shown(kg, "mass")), (v: number) => y(shown(v, up))];
  const inX = (v: number | null): v is number => v !== null && px(v) >= LEFT && px(v) <= width - RIGHT;
  const inY = (v: number | null): v is number => v !== null && py(v) >= TOP && py(v) <= height - BOTTOM;
  const strongest = Math.max(...all.map((c) => c.thrustToWeight), 1e-9);
  const words = `${timed ? "endurance" : "thrust to weight"} against all-up mass`;
  return (
    <div ref={ref}>
      <svg
        width={width}
        height={height}
        className="block bg-sheet"
        role="group"
        aria-label={`Candidates: ${words}`}
        style={{ fontSize: 11 }}
      >
        <path d={`M${LEFT} ${TOP}V${height - BOTTOM}H${width - RIGHT}`} fill="none" stroke="var(--ink)" />
        {x.ticks(Math.max(3, Math.round(width / 110))).map((v) => (
          <g key={v} transform={`translate(${x(v)} ${height - BOTTOM})`}>
            <path d="M0 0v4" stroke="var(--ink)" />
            <text y="17" textAnchor="middle" className="num" fill="var(--ink2)">
              {Number(v.toPrecision(6))}
            </text>
          </g>
        ))}
        {y.ticks(6).map((v) => (
          <g key={v} transform={`translate(${LEFT} ${y(v)})`}>
            <path d={`M-4 0H${width - RIGHT - LEFT}`} stroke="var(--hair)" />
            <text x="-7" y="4" textAnchor="end" className="num" fill="var(--ink2)">
              {Number(v.toPrecision(6))}
            </text>
          </g>
        ))}
        <text x={width - RIGHT} y={height - 6} textAnchor="end" fill="var(--pencil)">
          all-up mass, {DISPLAY[habit].mass}
        </text>
        <text x={LEFT} y="14" fill="var(--pencil)">
          {timed ? `endurance, ${DISPLAY[habit].time}` : "thrust to weight"}
          {width > 560 ? "; larger: more thrust for its weight; numbered: the nearest to what matters" : ""}
        </text>
        {inX(bounds.maxMass) && (
          <g stroke="var(--care)" fill="var(--care)">
            <path d={`M${px(bounds.maxMass)} ${TOP}V${height - BOTTOM}`} strokeDasharray="5 3" />
            <text x={px(bounds.maxMass) - 4} y={height - BOTTOM - 6} textAnchor="end" stroke="none">
              at most {plain(bounds.maxMass, "mass", habit)}
            </text>
          </g>
        )}
        {inY(least) && (
          <g stroke="var(--care)" fill="var(--care)">
            <path d={`M${LEFT} ${py(least)}H${width - RIGHT}`} strokeDasharray="5 3" />
            <text x={(LEFT + width) / 2} y={py(least) + 12} textAnchor="middle" stroke="none">
              at least {plain(least, up, habit)}
            </text>
          </g>
        )}
        {drawn
          .filter((c) => !named.includes(c))
          .map((c) => (
            // biome-ignore lint/a11y/noStaticElementInteractions: the rows of the table below do the same by keyboard
            <circle
              key={JSON.stringify(c.choice)}
              cx={px(c.auw)}
              cy={py(of(c))}
              r={3 + (5 * c.thrustToWeight) / strongest}
              fill={c === chosen ? "var(--accent)" : "none"}
              pointerEvents="all"
              stroke="var(--pencil)"
              className="cursor-pointer"
              onClick={() => onChoose(c)}
            />
          ))}
        {here && (
          <g stroke="var(--stop)" strokeWidth="1.6" aria-hidden>
            <path d={`M${px(here.auw) - 7} ${py(of(here))}h14M${px(here.auw)} ${py(of(here)) - 7}v14`} />
            <text x={px(here.auw) + 10} y={py(of(here)) + 4} stroke="none" fill="var(--stop)">
              as it is
            </text>
          </g>
        )}
        {/* The first lies above the others, the chosen one above all. */}
        {[...named.filter((c) => c !== chosen).reverse(), ...named.filter((c) => c === chosen)].map((c) => {
          if (!drawn.includes(c)) return null;
          const mine = c === chosen;
          return (
            // biome-ignore lint/a11y/noStaticElementInteractions: as above
            <g
              key={JSON.stringify(c.choice)}
              transform={`translate(${px(c.auw)} ${py(of(c))})`}
              className="cursor-pointer"
              onClick={() => onChoose(c)}
            >
              <circle
                r={9}
                fill={mine ? "var(--accent)" : "var(--sheet)"}
                stroke={mine ? "var(--accent)" : "var(--ink)"}
                strokeWidth={1 + (1.5 * c.thrustToWeight) / strongest}
              />
              <text y="4" textAnchor="middle" className="num" fill={mine ? "var(--on-accent)" : "var(--ink)"}>
                {named.indexOf(c) + 1}
              </text>
            </g>
          );
        })}
      </svg>
    </div>
  );
}
