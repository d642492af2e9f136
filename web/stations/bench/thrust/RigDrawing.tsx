import type { Rig } from "../../../../core/design/thrustTest";
import type { UnitHabit } from "../../../../core/design/units";
import { plain } from "../../../../core/wording/format";

const W = 330;
const H = 190;

/** The stand as it is described: pivot, arms to scale, thrust and which way the scale is worked. */
export function RigDrawing({ rig, habit }: { rig: Rig; habit: UnitHabit }) {
  const ink = { stroke: "var(--ink)", strokeWidth: 1.6, fill: "none" } as const;
  const label = (x: number, y: number, text: string, anchor: "start" | "middle" | "end" = "middle") => (
    <text x={x} y={y} textAnchor={anchor} fontSize="11" fill="var(--ink2)" className="num">
      {text}
    </text>
  );
  const scale = (x: number, y: number) => (
    <g>
      <path d={`M${x - 26} ${y}h52v6h-52zM${x - 20} ${y + 6}h40l6 16h-52z`} {...ink} fill="var(--paper)" />
      <text x={x} y={y + 18} textAnchor="middle" fontSize="11" className="num" fill="var(--ink)">
        {plain(rig.tare, "mass", habit)}
      </text>
    </g>
  );
  const propeller = (x: number, y: number, dx: number) => (
    <g>
      <path d={`M${x} ${y - 26}q7 26 0 52q-7 -26 0 -52z`} {...ink} fill="var(--part)" />
      <path d={`M${x} ${y}h${-dx * 16}`} {...ink} strokeWidth={7} stroke="var(--pencil)" />
      <path d={`M${x + dx * 10} ${y}h${dx * 40}`} stroke="var(--accent)" strokeWidth="2.5" markerEnd="url(#thrust)" />
    </g>
  );
  const head = (
    <defs>
      <marker
        id="thrust"
        viewBox="0 0 8 8"
        refX="6"
        refY="4"
        markerWidth="5"
        markerHeight="5"
        orient="auto-start-reverse"
      >
        <path d="M0 0L8 4L0 8z" fill="var(--accent)" />
      </marker>
    </defs>
  );
  const ground = <path d={`M8 ${H - 12}H${W - 8}`} stroke="var(--rule)" />;
  if (rig.kind === "direct")
    return (
      <svg
        viewBox={`0 0 ${W} ${H}`}
        width="100%"
        className="block bg-sheet"
        role="img"
        aria-label="Stand: the drive pushes straight on the scale"
      >
        {head}
        {ground}
        {scale(165, H - 34)}
        <path d={`M165 ${H - 34}V96`} {...ink} />
        <g transform={`rotate(${rig.reads === "more" ? 90 : -90} 165 84)`}>{propeller(165, 84, 1)}</g>
        {label(W - 8, 16, rig.reads === "more" ? "pushes down" : "pulls up", "end")}
        {label(W - 8, 30, rig.reads === "more" ? "it reads more" : "it reads less", "end")}
      </svg>
    );
  const longest = Math.max(rig.thrustArm, rig.scaleArm);
  const px = 92 / longest;
  const pivot = { x: 120, y: H - 62 };
  const up = rig.thrustArm * px;
  const along = rig.scaleArm * px;
  return (
    <svg
      viewBox={`0 0 ${W} ${H}`}
      width="100%"
      className="block bg-sheet"
      role="img"
      aria-label="Stand: a lever on a pivot, propeller on one arm, scale under the other"
    >
      {head}
      {ground}
      <path d={`M${pivot.x} ${pivot.y}l-12 ${H - 12 - pivot.y}h24z`} {...ink} fill="var(--paper)" />
      <path
        d={`M${pivot.x} ${pivot.y}V${pivot.y - up}M${pivot.x} ${pivot.y}H${pivot.x + along}`}
        {...ink}
        strokeWidth={3}
      />
      <circle cx={pivot.x} cy={pivot.y} r="4" fill="var(--ink)" />
      <path d={`M${pivot.x + along} ${pivot.y}v${H - 34 - pivot.y}`} {...ink} strokeDasharray="3 2" />
      {scale(pivot.x + along, H - 34)}
      {rig.counterweight > 0 && (
        <g>
          <path d={`M${pivot.x} ${pivot.y}h-34v14`} {...ink} />
          <rect x={pivot.x - 44} y={pivot.y + 14} width="20" height="16" {...ink} fill="var(--part)" />
          {label(pivot.x - 34, pivot.y + 44, plain(rig.counterweight, "mass", habit))}
        </g>
      )}
      {propeller(pivot.x, pivot.y - up, rig.reads === "more" ? 1 : -1)}
      {label(pivot.x - 10, pivot.y - up / 2, plain(rig.thrustArm, "length", habit), "end")}
      {label(pivot.x + along / 2, pivot.y - 8, plain(rig.scaleArm, "length", habit))}
      {label(W - 8, 16, rig.reads === "more" ? "presses the scale" : "lifts off the scale", "end")}
      {label(W - 8, 30, rig.reads === "more" ? "it reads more" : "it reads less", "end")}
    </svg>
  );
}
