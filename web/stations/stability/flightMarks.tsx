import type { Sheet, ViewName } from "../../drawing/scale";

/** The window that the wings need beside one that was stated. */
export function WingsWindow({ sheet, view, low, high }: { sheet: Sheet; view: ViewName; low: number; high: number }) {
  const f = sheet.views[view];
  // Where nothing says how far ahead the CG may be, the aft limit stands alone.
  const edges = [low, high].filter(Number.isFinite).map((x) => sheet.px(view, x));
  return (
    <g pointerEvents="none" stroke="var(--clear)" strokeDasharray="5 3" data-wings-window>
      <path d={edges.map((x) => `M${x} ${f.y - 14}v${f.h + 28}`).join("")} />
      {view === "side" && edges.length === 2 && (
        <path d={`M${edges[0]} ${f.y - 10}H${edges[1]}`} strokeDasharray="none" />
      )}
    </g>
  );
}

/** The surface of the water: that foils run in, or that the craft floats in, held level. */
export function WaterLine({ sheet, level }: { sheet: Sheet; level: number }) {
  const f = sheet.views.side;
  const y = sheet.py("side", level);
  return (
    <g pointerEvents="none" data-waterline>
      <path d={`M${f.x} ${y}h${f.w}`} stroke="var(--accent)" strokeDasharray="9 4" />
      <text x={f.x + f.w} y={y - 4} textAnchor="end" fontSize="11" fill="var(--accent)">
        water
      </text>
    </g>
  );
}

/** Ice, ground or water under a craft that flies close to it. */
export function GroundLine({ sheet, height }: { sheet: Sheet; height: number | null }) {
  const f = sheet.views.side;
  const y = height === null ? f.y + f.h + 1 : Math.min(sheet.py("side", -height), sheet.height - 4);
  return (
    <path
      d={
        `M${f.x} ` +
        `${y}h${f.w}${height === null ? "" : Array.from({ length: 24 }, (_, k) => `M${f.x + (k * f.w) / 24} ${y}l-4 5`).join("")}`
      }
      stroke="var(--rule)"
      fill="none"
      pointerEvents="none"
    />
  );
}
