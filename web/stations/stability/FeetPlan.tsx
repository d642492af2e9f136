import { dot } from "../../../core/numeric/vector";
import type { StanceResult } from "../../../core/subjects/stance/node";

const SIZE = 190;
/** Its feet from above as it stands, ahead upward, with its CG over them; the edge that it tips over first is thick. */
export function FeetPlan({ result: { rest, worst } }: { result: StanceResult }) {
  const at = (p: { x: number; y: number; z: number }) => ({ across: dot(p, rest.starboard), up: -dot(p, rest.ahead) });
  const corners = rest.touching.map(at);
  // The CG lies as far inside each edge as was found.
  const [edge] = rest.edges;
  if (!edge) return null;
  const from = at(edge.from);
  const cgOf = () => {
    // Solved from two edges that are not parallel: n·c = n·from − inside.
    const lines = rest.edges.map((e) => {
      const n = { across: dot(e.out, rest.starboard), up: -dot(e.out, rest.ahead) };
      const f = at(e.from);
      return { n, d: n.across * f.across + n.up * f.up - e.inside };
    });
    for (const [i, a] of lines.entries())
      for (const b of lines.slice(i + 1)) {
        const det = a.n.across * b.n.up - a.n.up * b.n.across;
        if (Math.abs(det) > 0.1)
          return { across: (a.d * b.n.up - b.d * a.n.up) / det, up: (a.n.across * b.d - b.n.across * a.d) / det };
      }
    return from;
  };
  const cg = cgOf();
  const all = [...corners, cg];
  const span = (k: "across" | "up") => [Math.min(...all.map((p) => p[k])), Math.max(...all.map((p) => p[k]))] as const;
  const [[left, right], [top, bottom]] = [span("across"), span("up")];
  const scale = (SIZE - 40) / Math.max(right - left, bottom - top, 1e-6);
  const put = (p: { across: number; up: number }) =>
    [SIZE / 2 + (p.across - (left + right) / 2) * scale, SIZE / 2 + (p.up - (top + bottom) / 2) * scale] as const;
  const path = `${corners.map((c, k) => `${k === 0 ? "M" : "L"}${put(c).join(" ")}`).join("")}Z`;
  const [x, y] = put(cg);
  const [a, b] = [put(at(worst.slope.edge.from)), put(at(worst.slope.edge.to))];
  const falls = worst.slope.edge.inside < 0;
  return (
    <svg
      viewBox={`0 0 ${SIZE} ${SIZE}`}
      className="w-full max-w-[190px] bg-sheet text-ink"
      role="img"
      aria-label={`Feet from above, ${rest.upright ? "nose" : "belly"} upward; it tips over ${worst.slope.over} first`}
    >
      <path d={path} fill="none" stroke="currentColor" strokeWidth="1" />
      <path
        d={`M${a.join(" ")}L${b.join(" ")}`}
        stroke="currentColor"
        strokeWidth="3.5"
        className={falls ? "text-stop" : "text-ink2"}
      />
      {corners.map((c) => {
        const [px, py] = put(c);
        return <circle key={`${px} ${py}`} cx={px} cy={py} r="3.5" fill="currentColor" />;
      })}
      <path d={`M${x - 12} ${y}h24M${x} ${y - 12}v24`} stroke="currentColor" strokeWidth="1.5" />
      <text x={x + 6} y={y - 6} fontSize="11" fill="currentColor">
        CG
      </text>
      <text x={SIZE / 2} y="11" fontSize="11" textAnchor="middle" className="fill-pencil">
        {rest.upright ? "nose" : "belly"}
      </text>
    </svg>
  );
}
