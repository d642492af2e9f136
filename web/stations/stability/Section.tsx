import { useDrag } from "@use-gesture/react";
import type { KeyboardEvent } from "react";
import type { BodyShape } from "../../../core/design/schema";
import type { Frame } from "../../../core/subjects/surfaces/declares";
import { halfOf, pointAdded, pointMoved, pointTaken, ringOf } from "../../../core/subjects/surfaces/bodyShape";
import { plain } from "../../../core/wording/format";
import { usePreferences } from "../../app/preferences";

const [W, H, EDGE] = [260, 190, 14];
const MM = 1e-3;

/** A free section of a body as it is seen from ahead: its starboard side, at the left, is dragged, and both follow. */
export function Section({
  body: b,
  k,
  frozen,
  put,
}: {
  body: BodyShape;
  k: number;
  frozen: boolean;
  put: (frame: Frame, key?: string) => void;
}) {
  const f = b.frames[k];
  if (!f) return null;
  const wide = Math.max(...b.frames.map((o) => o.width), 1e-3);
  const [low, high] = [
    Math.min(...b.frames.map((o) => o.z - o.height / 2)),
    Math.max(...b.frames.map((o) => o.z + o.height / 2)),
  ];
  const scale = Math.min((W - 2 * EDGE) / wide, (H - 2 * EDGE) / Math.max(high - low, 1e-3));
  const at = (p: { out: number; z: number }) =>
    [W / 2 - p.out * scale, H / 2 - (p.z - (low + high) / 2) * scale] as const;
  const path = (o: Frame) =>
    `M${ringOf("free", o)
      .map((p) =>
        at(p)
          .map((v) => v.toFixed(1))
          .join(" "),
      )
      .join("L")}z`;
  // The points that are described, without where the ends run level to the middle.
  const half = halfOf("free", f);
  const outline = f.outline ?? [];
  const skipped = half.length > outline.length && (outline[0]?.out ?? 0) > 0 ? 1 : 0;
  const points = half.slice(skipped, skipped + outline.length);
  return (
    <figure className="m-0">
      <svg
        viewBox={`0 0 ${W} ${H}`}
        width={W}
        height={H}
        role="group"
        aria-label={`Section of ${b.name} at frame ${k + 1}, seen from ahead`}
        className="touch-none"
      >
        <path d={`M${W / 2} 4V${H - 4}`} stroke="var(--rule)" strokeDasharray="6 3 1 3" />
        {b.frames.map(
          (o, i) => i !== k && <path key={i} d={path(o)} fill="none" stroke="var(--rule)" strokeWidth="0.6" />,
        )}
        <path d={path(f)} fill="var(--part)" fillOpacity="0.5" stroke="var(--ink)" strokeWidth="1.2" />
        {points.map((p, i) => (
          <Handle key={i} {...{ f, i, p, scale, frozen, put }} at={at(p)} name={`${b.name}, frame ${k + 1}`} />
        ))}
      </svg>
      <figcaption className="text-[11px] text-pencil">
        Frame {k + 1} from ahead, starboard left. Arrow keys move a point by a millimetre, Enter adds one after it,
        Delete takes it away.
      </figcaption>
    </figure>
  );
}

function Handle({
  f,
  i,
  p,
  at: [x, y],
  scale,
  frozen,
  name,
  put,
}: {
  f: Frame;
  i: number;
  p: { out: number; z: number };
  at: readonly [number, number];
  scale: number;
  frozen: boolean;
  name: string;
  put: (frame: Frame, key?: string) => void;
}) {
  const { habit } = usePreferences();
  const drag = useDrag(
    ({
      movement: [dx, dy],
      memo,
    }: {
      movement: [number, number];
      memo?: { frame: Frame; p: { out: number; z: number }; scale: number; key: string };
    }) => {
      // From where it was and as large as it was drawn: the scale may follow what is dragged.
      const start = memo ?? { frame: f, p, scale, key: `section-${Date.now()}` };
      if ((dx !== 0 || dy !== 0) && !frozen)
        put(
          pointMoved(start.frame, i, { out: start.p.out - dx / start.scale, z: start.p.z - dy / start.scale }),
          start.key,
        );
      return start;
    },
    { filterTaps: true, pointer: { keys: false } },
  );
  const keys = (event: KeyboardEvent) => {
    const step = (event.shiftKey ? 10 : 1) * MM;
    const by = { ArrowLeft: [step, 0], ArrowRight: [-step, 0], ArrowUp: [0, step], ArrowDown: [0, -step] }[event.key];
    if (frozen || (!by && event.key !== "Enter" && event.key !== "Delete" && event.key !== "Backspace")) return;
    event.preventDefault();
    event.stopPropagation();
    if (by) put(pointMoved(f, i, { out: p.out + (by[0] ?? 0), z: p.z + (by[1] ?? 0) }), `section-keys-${name}`);
    else put(event.key === "Enter" ? pointAdded(f, i) : pointTaken(f, i));
  };
  return (
    <circle
      {...drag()}
      cx={x}
      cy={y}
      r="4.5"
      tabIndex={0}
      role="button"
      aria-label={`${name}, point ${i + 1}: ${plain(p.out, "length", habit)} out, ${plain(p.z, "length", habit)} up`}
      onKeyDown={keys}
      className={
        "cursor-grab fill-[var(--sheet)] stroke-[var(--accent)] stroke-[1.4] outline-none " +
        "focus-visible:fill-[var(--accent)]"
      }
    />
  );
}
