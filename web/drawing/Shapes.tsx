import { memo } from "react";
import type { BodyShape, Point, Surface } from "../../core/design/schema";
import { ringOf } from "../../core/subjects/surfaces/bodyShape";
import { cutAt, outlineOf } from "../../core/subjects/surfaces/planform";
import { ACROSS, type Sheet, UP, type ViewName } from "./scale";

type At = (p: Point) => [number, number];
/** Places of a view on the sheet. */
export const placer =
  (sheet: Sheet, view: ViewName): At =>
  (p) => [sheet.px(view, p[ACROSS[view].axis]), sheet.py(view, p[UP[view]])];

const closed = (points: readonly Point[], at: At): string =>
  `M${points
    .map((p) =>
      at(p)
        .map((v) => v.toFixed(1))
        .join(" "),
    )
    .join("L")}z`;

/** Sides of a surface that are seen apart in a view. */
export const sidesOf = (s: Pick<Surface, "mirrored">, view: ViewName): (1 | -1)[] =>
  s.mirrored && view !== "side" ? [1, -1] : [1];

/** Outline of a surface in a view. */
export const surfacePath = (s: Surface, sheet: Sheet, view: ViewName): string =>
  sidesOf(s, view)
    .map((side) => closed(outlineOf(s, side), placer(sheet, view)))
    .join("");

/** The hinge lines and ends of a surface's controls in a view. */
export function controlsPath(s: Surface, sheet: Sheet, view: ViewName): string {
  const at = placer(sheet, view);
  return s.controls
    .flatMap((c) =>
      sidesOf(s, view).map((side) => {
        const points = [
          [c.from, 1],
          [c.from, 1 - c.chord],
          [c.to, 1 - c.chord],
          [c.to, 1],
        ].map(([share, aft]) => {
          const cut = cutAt(s, share as number);
          return { x: cut.at.x + (aft as number) * cut.chord, y: side * cut.at.y, z: cut.at.z };
        });
        return `M${points
          .map((p) =>
            at(p)
              .map((v) => v.toFixed(1))
              .join(" "),
          )
          .join("L")}`;
      }),
    )
    .join("");
}

/** Outline of a body in a view: from the front its largest frame. */
export function bodyPath(b: BodyShape, sheet: Sheet, view: ViewName): string {
  const at = placer(sheet, view);
  const middles = b.mirrored && view !== "side" ? [b.y, -b.y] : [b.y];
  return middles
    .map((y) => {
      if (view === "front") {
        const f = b.frames.reduce((m, o) => (o.width * o.height > m.width * m.height ? o : m));
        if (b.across === "free")
          return closed(
            ringOf(b.across, f).map((p) => ({ x: f.x, y: y + p.out, z: p.z })),
            at,
          );
        const [x, v] = at({ x: f.x, y, z: f.z });
        const [rx, ry] = [(f.width / 2) * sheet.scale, (f.height / 2) * sheet.scale];
        return b.across === "round"
          ? `M${x - rx} ${v}a${rx} ${ry} 0 1 0 ${2 * rx} 0a${rx} ${ry} 0 1 0 ${-2 * rx} 0z`
          : `M${x - rx} ${v - ry}h${2 * rx}v${2 * ry}h${-2 * rx}z`;
      }
      const edge = (side: 1 | -1) =>
        b.frames.map((f) =>
          view === "side"
            ? { x: f.x, y, z: f.z + (side * f.height) / 2 }
            : { x: f.x, y: y + (side * f.width) / 2, z: f.z },
        );
      return closed([...edge(1), ...edge(-1).toReversed()], at);
    })
    .join("");
}

/** Wings, fins and bodies by their outlines: what was measured in ink, the rest dashed. */
export const Shapes = memo(function Shapes({
  sheet,
  view,
  surfaces,
  bodies,
  faint,
}: {
  sheet: Sheet;
  view: ViewName;
  surfaces: readonly Surface[];
  bodies: readonly BodyShape[];
  /** behind the parts of the ledger */
  faint?: boolean;
}) {
  return (
    <g pointerEvents="none" data-shapes={view} fill="var(--sheet)" fillOpacity={faint ? 0 : 0.7}>
      {bodies.map((b) => (
        <path
          key={b.id}
          d={bodyPath(b, sheet, view)}
          stroke="var(--pencil)"
          strokeWidth="1"
          strokeDasharray={b.shapeBy === "guess" ? "5 3" : undefined}
        />
      ))}
      {surfaces.map((s) => (
        <g key={s.id}>
          <path
            d={surfacePath(s, sheet, view)}
            stroke={s.shapeBy === "measured" || s.shapeBy === "proven" ? "var(--ink)" : "var(--pencil)"}
            strokeWidth={faint ? 1 : 1.3}
            strokeDasharray={s.shapeBy === "guess" ? "5 3" : undefined}
          />
          {!faint && <path d={controlsPath(s, sheet, view)} fill="none" stroke="var(--pencil)" strokeWidth="0.8" />}
        </g>
      ))}
    </g>
  );
});
