import { resultIn } from "../../../../core/evaluate";
import { balance } from "../../../../core/subjects/balance/node";
import { extent } from "../../../../core/subjects/extent/node";
import type { WeighInKind } from "../../../../core/design/bench";
import { bodies } from "../../../../core/subjects/mass/rollup";
import { useDesk } from "../../../app/desk";
import { plain } from "../../../../core/wording/format";
import { usePreferences } from "../../../app/preferences";
import type { Draft } from "./weighInDraft";

const W = 400;
const H = 170;

/** How the craft is set up for a weigh-in: its own parts in outline on the supports as they are entered. */
export function SetUpDrawing({ draft }: { draft: Draft }) {
  const { seen: design, evaluation } = useDesk();
  const { habit } = usePreferences();
  const box = resultIn(evaluation, extent);
  if (!box) return null;
  const fromTop = draft.kind === "three-scales";
  const up = fromTop ? ("y" as const) : ("z" as const);
  const tilted = draft.kind === "level-and-tilted";
  const scale = Math.min(
    (W - 70) / (box.max.x - box.min.x || 1),
    (H - (tilted ? 90 : 66)) / Math.max(box.max[up] - box.min[up], 0.02),
  );
  const x0 = (W - (box.max.x - box.min.x) * scale) / 2;
  const px = (x: number) => x0 + (x - box.min.x) * scale;
  const floor = H - 44;
  const py = (v: number) => (fromTop ? H / 2 - v * scale : floor - (v - box.min.z) * scale);
  const items = design.items.flatMap((item) =>
    (fromTop ? bodies(item).map((b) => b.place) : [item.place]).map((p, k) => (
      <rect
        key={`${item.id}${k}`}
        x={px(p.x) - (item.size.x * scale) / 2}
        y={py(p[up]) - (item.size[up] * scale) / 2}
        width={Math.max(item.size.x * scale, 2)}
        height={Math.max(item.size[up] * scale, 2)}
        fill="var(--part)"
        fillOpacity="0.4"
        stroke="var(--pencil)"
        strokeWidth="0.8"
      />
    )),
  );
  const angle = tilted ? (draft.angle * 180) / Math.PI : 0;
  const rear = draft.at[1]?.x ?? box.max.x;
  const scaleMark = (x: number, y: number, n: number) => (
    <g key={n}>
      <path d={`M${x} ${y}l-7 12h14z`} fill="var(--paper)" stroke="var(--ink)" strokeWidth="1.3" />
      <path d={`M${x - 16} ${y + 13}h32v9h-32z`} fill="var(--paper)" stroke="var(--ink)" strokeWidth="1.3" />
      <text x={x} y={y + 21} textAnchor="middle" className="num" style={{ fontSize: 11 }} fill="var(--ink)">
        {n}
      </text>
    </g>
  );
  const dimension = (x: number, y: number) => (
    <text
      key={`d${x}`}
      x={px(x)}
      y={y}
      textAnchor="middle"
      className="num"
      style={{ fontSize: 11 }}
      fill="var(--pencil)"
    >
      {plain(x, "length", habit, habit === "metric" ? 0 : 2)}
    </text>
  );
  return (
    <svg
      viewBox={`0 0 ${W} ${H}`}
      width="100%"
      className="block bg-sheet"
      role="img"
      aria-label={`Set-up: ${words[draft.kind]}`}
    >
      <g transform={tilted ? `rotate(${angle} ${px(rear)} ${floor})` : undefined}>{items}</g>
      {fromTop ? (
        draft.at.map((p, i) => (
          <g key={`s${i + 1}`}>
            <circle cx={px(p.x)} cy={py(p.y)} r="9" fill="var(--paper)" stroke="var(--ink)" strokeWidth="1.4" />
            <text
              x={px(p.x)}
              y={py(p.y) + 4}
              textAnchor="middle"
              className="num"
              style={{ fontSize: 11 }}
              fill="var(--ink)"
            >
              {i + 1}
            </text>
          </g>
        ))
      ) : draft.kind === "total" || draft.kind === "parts" ? (
        <path
          d={`M${W / 2 - 60} ${floor}h120v6h-120zM${W / 2 - 30} ${floor + 6}h60v16h-60z`}
          fill="var(--paper)"
          stroke="var(--ink)"
          strokeWidth="1.3"
        />
      ) : draft.kind === "knife-edge" ? (
        <g>
          {scaleMark(px(draft.loads[0]?.find((v) => v !== null) ?? resultIn(evaluation, balance)?.cg.x ?? 0), floor, 1)}
          {dimension(draft.loads[0]?.find((v) => v !== null) ?? resultIn(evaluation, balance)?.cg.x ?? 0, floor + 36)}
        </g>
      ) : (
        <g>
          {draft.at.map((p, i) =>
            scaleMark(px(p.x), tilted && i === 0 ? floor - Math.sin(draft.angle) * (rear - p.x) * scale : floor, i + 1),
          )}
          {draft.at.map((p) => dimension(p.x, floor + 36))}
        </g>
      )}
      {!fromTop && <path d={`M8 ${floor + 23}H${W - 8}`} stroke="var(--rule)" />}
      <text x="6" y="13" fontSize="11" fill="var(--pencil)">
        {fromTop ? "from above, nose left" : "from the side, nose left"}
        {tilted ? `, tilted ${angle.toFixed(0)}°` : ""}
      </text>
    </svg>
  );
}

const words: Record<WeighInKind, string> = {
  total: "the whole craft on one scale",
  parts: "one part on the scale",
  "two-scales": "two supports on a scale each",
  "three-scales": "three supports on a scale each",
  "knife-edge": "balanced on an edge",
  "level-and-tilted": "front support raised",
};
