import type { Design } from "../../../core/design/schema";
import { isPlaced } from "../../../core/subjects/mass/placed";
import { extent } from "../../../core/subjects/mass/rollup";
import { boxesOf } from "../../drawing/Part";
import { Shapes } from "../../drawing/Shapes";
import { sheetFor } from "../../drawing/scale";

/** Drawn large and shown small, without the margins that names would need. */
const [W, H, EDGE] = [460, 380, 5];
const VIEWS = ["side", "top"] as const;

/** Where a part sits: the craft faint from the side and from above, the part lit. Nothing where nobody placed it. */
export function PartLit({ design, partId }: { design: Design; partId: string }) {
  const part = design.items.find((i) => i.id === partId);
  const box = extent(design);
  if (!part || !box) return null;
  if (!isPlaced(part, "x")) return <small className="block text-pencil">nobody said where it sits</small>;
  const sheet = sheetFor(box, W, H, VIEWS);
  const drawn = VIEWS.map((v) => sheet.views[v]);
  const [x, y] = [Math.min(...drawn.map((b) => b.x)) - EDGE, Math.min(...drawn.map((b) => b.y)) - EDGE];
  const [w, h] = [
    Math.max(...drawn.map((b) => b.x + b.w)) + EDGE - x,
    Math.max(...drawn.map((b) => b.y + b.h)) + EDGE - y,
  ];
  return (
    <svg
      viewBox={`${x} ${y} ${w} ${h}`}
      className="mt-1 block h-auto max-h-[120px] w-full max-w-[170px]"
      role="img"
      aria-label={`${part.name}, where it sits, from the side and from above`}
      data-lit={part.id}
    >
      {VIEWS.map((view) => (
        <g key={view}>
          <Shapes sheet={sheet} view={view} surfaces={design.surfaces} bodies={design.bodies} faint />
          {design.items.map((i) =>
            i.id === part.id
              ? null
              : boxesOf(i, sheet, view).map((b, k) => (
                  <rect
                    key={`${i.id}${k}`}
                    x={b.x}
                    y={b.y}
                    width={b.w}
                    height={b.h}
                    fill="none"
                    stroke="var(--rule)"
                    strokeWidth="1.2"
                  />
                )),
          )}
          {boxesOf(part, sheet, view).map((b, k) => (
            <rect
              key={k}
              x={b.x}
              y={b.y}
              width={b.w}
              height={b.h}
              fill="var(--tint-accent)"
              stroke="var(--accent)"
              strokeWidth="3"
            />
          ))}
        </g>
      ))}
    </svg>
  );
}
