import type { WeighIn } from "../../core/design/bench";
import type { Design } from "../../core/design/schema";
import { rollUp } from "../../core/subjects/mass/rollup";
import type { Random } from "../../core/numeric/random";

/** Scatter of a kitchen scale about what lies on it, kg, and of a balance on an edge, m. */
const SCATTER = 0.0005;
const EDGE = 0.001;

const rounded = (value: number, step: number) => Number((Math.round(value / step) * step).toFixed(6));

/**
 * Reads a weigh-in off the real craft: forces on its supports by statics, with the scale's scatter and steps, and
 * supports that stand a little off.
 */
export function readWeighIn(w: WeighIn, real: Design, random: Random): WeighIn {
  const truth = rollUp(real);
  if (!truth) return w;
  const { mass: m, cg } = truth;
  const read = (force: number, like: readonly number[]) =>
    like.map(() =>
      Math.max(0, rounded(force + SCATTER * random.normal(), w.kind === "knife-edge" ? 0.001 : w.scale.resolution)),
    );
  const slip = (v: number) => v + (w.kind === "total" || w.kind === "parts" ? 0 : w.ruler) * random.normal();
  switch (w.kind) {
    case "total":
      return { ...w, loads: read(m, w.loads) };
    case "parts":
      return {
        ...w,
        parts: w.parts.map((p) => {
          const item = real.items.find((i) => i.id === p.itemId);
          return { ...p, loads: read((item?.mass?.value ?? 0) * (item?.quantity ?? 1), p.loads) };
        }),
      };
    case "knife-edge":
      return { ...w, places: w.places.map(() => rounded(cg.x + EDGE * random.normal(), 0.0005)) };
    case "two-scales": {
      const [a, b] = w.at.map(slip) as [number, number];
      const rear = (m * (cg.x - a)) / (b - a);
      return { ...w, loads: [read(m - rear, w.loads[0]), read(rear, w.loads[1])] };
    }
    case "three-scales": {
      const [p, q, r] = w.at.map(({ x, y }) => ({ x: slip(x), y: slip(y) })) as [
        { x: number; y: number },
        { x: number; y: number },
        { x: number; y: number },
      ];
      // Barycentric coordinates of the CG in the triangle of supports are the shares of the weight on each.
      const area = (q.x - p.x) * (r.y - p.y) - (r.x - p.x) * (q.y - p.y);
      const shareQ = ((cg.x - p.x) * (r.y - p.y) - (r.x - p.x) * (cg.y - p.y)) / area;
      const shareR = ((q.x - p.x) * (cg.y - p.y) - (cg.x - p.x) * (q.y - p.y)) / area;
      return {
        ...w,
        loads: [
          read(m * (1 - shareQ - shareR), w.loads[0]),
          read(m * shareQ, w.loads[1]),
          read(m * shareR, w.loads[2]),
        ],
      };
    }
    case "level-and-tilted": {
      const [a, b] = w.at.map(slip) as [number, number];
      const angle = w.angle + w.angleSd * random.normal();
      const level = (m * (cg.x - a)) / (b - a);
      const tilted = level + (m * (cg.z - w.height) * Math.tan(angle)) / (b - a);
      return {
        ...w,
        level: [read(m - level, w.level[0]), read(level, w.level[1])],
        tilted: [read(m - tilted, w.tilted[0]), read(tilted, w.tilted[1])],
      };
    }
  }
}
