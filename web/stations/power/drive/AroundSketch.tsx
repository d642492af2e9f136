import { usePreferences } from "../../../app/preferences";
import type { Around } from "../../../../core/subjects/propulsion/around/declares";
import type { Disc } from "../../../../core/subjects/propulsion/around/models";
import { plain } from "../../../../core/wording/format";

const [WIDE, HIGH] = [150, 84];
/** A dimension line with its figure. */
function Span({ from, to, said }: { from: [number, number]; to: [number, number]; said: string }) {
  const upright = from[0] === to[0];
  const cross = (p: [number, number]) =>
    `M${p[0] - (upright ? 3 : 0)} ${p[1] - (upright ? 0 : 3)}${upright ? "h6" : "v6"}`;
  return (
    <g className="text-accent" stroke="currentColor" strokeWidth="1">
      <path d={`M${from.join(" ")}L${to.join(" ")}${cross(from)}${cross(to)}`} fill="none" />
      <text
        x={upright ? from[0] + 5 : (from[0] + to[0]) / 2}
        y={upright ? (from[1] + to[1]) / 2 + 4 : from[1] + 12}
        textAnchor={upright ? "start" : "middle"}
        fontSize="11"
        fill="currentColor"
        stroke="none"
      >
        {said}
      </text>
    </g>
  );
}

/** What is around a disc, drawn to its scale as far as it is said; seen from the side, flow to the right or down. */
export function AroundSketch({ entry, disc }: { entry: Around; disc: Disc }) {
  const { habit } = usePreferences();
  const diameter = disc.diameter ?? 2 * Math.sqrt(disc.area / Math.PI);
  const said = (m: number | undefined) =>
    m === undefined ? "?" : plain(m, "length", habit, habit === "metric" ? 0 : 1);
  return (
    <svg
      viewBox={`0 0 ${WIDE} ${HIGH}`}
      width={WIDE}
      height={HIGH}
      role="img"
      aria-label={`${entry.kind}, to scale`}
      className="my-1 bg-sheet text-ink"
      fill="none"
      stroke="currentColor"
      strokeWidth="1.3"
    >
      {drawn(entry, diameter, said)}
    </svg>
  );
}

const upright = (x: number, half: number) => `M${x} ${HIGH / 2 - half}v${2 * half}`;

function drawn(entry: Around, diameter: number, said: (m: number | undefined) => string) {
  const mid = HIGH / 2;
  switch (entry.kind) {
    case "overlap": {
      const r = 26;
      const apart = entry.spacing ? Math.min(90, Math.max(4, (2 * r * entry.spacing.value) / diameter)) : 1.4 * r;
      const [a, b] = [WIDE / 2 - apart / 2, WIDE / 2 + apart / 2];
      return (
        <>
          <circle cx={a} cy={mid - 8} r={r} />
          <circle cx={b} cy={mid - 8} r={r} />
          <Span from={[a, HIGH - 16]} to={[b, HIGH - 16]} said={said(entry.spacing?.value)} />
        </>
      );
    }
    case "coaxial": {
      const half = 26;
      const apart = entry.spacing ? Math.min(110, Math.max(3, (2 * half * entry.spacing.value) / diameter)) : 16;
      const [a, b] = [WIDE / 2 - apart / 2, WIDE / 2 + apart / 2];
      return (
        <>
          <path d={`M10 ${mid - 8}h${WIDE - 20}`} strokeWidth="0.7" />
          <path d={`M${a} ${mid - 8 - half}v${2 * half}M${b} ${mid - 8 - half}v${2 * half}`} strokeWidth="2" />
          <Span from={[a, HIGH - 16]} to={[b, HIGH - 16]} said={said(entry.spacing?.value)} />
        </>
      );
    }
    case "body behind":
    case "body before": {
      const half = 28;
      const behind = entry.kind === "body behind";
      const gap = entry.gap ? Math.min(86, Math.max(2, (2 * half * entry.gap.value) / diameter)) : 20;
      // The body as a square of the area that it covers.
      const side = entry.area ? Math.min(56, (2 * half * Math.sqrt(entry.area.value)) / diameter) : 18;
      const from = behind ? 24 : WIDE - 24;
      const to = behind ? from + gap : from - gap;
      const x = behind ? to : to - side;
      return (
        <>
          <path d={`M${from} ${mid - 6 - half}v${2 * half}`} strokeWidth="2" />
          <rect
            x={x}
            y={mid - 6 - side / 2}
            width={side}
            height={side}
            rx={entry.shape === "blunt" ? 0 : side / 2}
            strokeDasharray={entry.area ? undefined : "3 2"}
          />
          <Span
            from={[Math.min(from, to), HIGH - 14]}
            to={[Math.max(from, to), HIGH - 14]}
            said={said(entry.gap?.value)}
          />
        </>
      );
    }
    case "ground": {
      const half = 26;
      const height = entry.height ? Math.min(58, Math.max(3, (2 * half * entry.height.value) / diameter)) : 34;
      const foot = HIGH - 10;
      return (
        <>
          <path d={`M6 ${foot}h${WIDE - 12}`} strokeWidth="2" />
          <path d={`M${55 - half} ${foot - height}h${2 * half}`} strokeWidth="2" />
          <path
            d={
              `M40 ${foot - height + 5}v${Math.max(2, height - 12)}M70 ` +
              `${foot - height + 5}v${Math.max(2, height - 12)}`
            }
            strokeWidth="0.7"
          />
          <Span from={[92, foot - height]} to={[92, foot]} said={said(entry.height?.value)} />
        </>
      );
    }
    case "openings": {
      // The disc's area is one height, an opening its share of it.
      const half = 26;
      const gate = (x: number, area: number | undefined) => {
        const open = area === undefined ? half : Math.min(half, (half * area) / ((Math.PI / 4) * diameter ** 2));
        return area === undefined ? "" : `M${x} ${mid - 34}v${34 - open}M${x} ${mid + open}v${34 - open}`;
      };
      return (
        <>
          <path d={`M40 ${mid - 34}h70M40 ${mid + 34}h70`} />
          <path d={upright(75, half)} strokeWidth="2" />
          <path d={`${gate(40, entry.inlet?.value)}${gate(110, entry.outlet?.value)}`} strokeWidth="2" />
          <path d={`M12 ${mid}h20m-5-4l5 4-5 4M118 ${mid}h20m-5-4l5 4-5 4`} strokeWidth="0.7" />
        </>
      );
    }
    case "grille": {
      const open = entry.open?.value ?? 0.7;
      const pitch = 8;
      return (
        <>
          <path d={upright(60, 30)} strokeWidth="2" />
          {Array.from({ length: 8 }, (_, k) => (
            <path key={k} d={`M84 ${mid - 30 + k * pitch}v${Math.max(0.6, pitch * (1 - open))}`} strokeWidth="2.4" />
          ))}
          <path d={`M12 ${mid}h30m-5-4l5 4-5 4M96 ${mid}h34m-5-4l5 4-5 4`} strokeWidth="0.7" />
        </>
      );
    }
    case "hull":
      return (
        <>
          <path d={`M10 ${mid - 22}h${entry.stands === "in a tunnel" ? 118 : 92}l-14 30h-78z`} />
          {entry.stands === "in a tunnel" ? (
            <path d={`M86 ${mid + 8}q14-18 34-24M98 ${mid - 12}v22`} strokeWidth="2" />
          ) : (
            <path
              d={
                entry.stands === "clear of it"
                  ? `M80 ${mid + 8}v20h14M94 ${mid + 16}v24`
                  : `M88 ${mid + 8}v14h4M98 ${mid + 4}v26`
              }
              strokeWidth="2"
            />
          )}
          <path d={`M6 ${mid - 6}h138`} strokeWidth="0.7" strokeDasharray="4 3" />
        </>
      );
    case "weighed":
      return (
        <>
          <path d={`M20 30h44M42 30v16M26 60h32v-14h-32z`} />
          <path d={`M86 30h44M108 30v16M92 60h32v-14h-32zM82 14v24M134 14v24`} />
          <path d="M14 66h122" strokeWidth="0.7" />
        </>
      );
  }
}
