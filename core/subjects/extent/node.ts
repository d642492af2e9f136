import { computedFrom } from "../../design/evidence";
import type { Quantity, WorkingInput } from "../../design/quantity";
import { edgesOf, outlineOf } from "../surfaces/planform";
import { type Outcome, subject } from "../../subject";
import { type Extent, extent as boxOf } from "../mass/rollup";

/** How well a drawn edge is known, m (common practice). */
const EDGE = 0.003;

/** The box around all parts. */
export const extent = subject({
  name: "extent",
  reads: ["items", "surfaces", "bodies"],
  gives: ["length", "width", "height"],
  compute(view): Outcome<Extent> {
    const box = boxOf(view);
    return box ? { status: "solved", result: box } : { status: "missing", needs: ["parts"] };
  },
  quantities(box, view) {
    const evidence = computedFrom(view.items.map((i) => i.placeEvidence));
    const q = (axis: "x" | "y" | "z"): Quantity => ({
      value: box.max[axis] - box.min[axis],
      sd: EDGE,
      dimension: "length",
      evidence,
    });
    return { length: q("x"), width: q("y"), height: q("z") };
  },
  working(key, box, view) {
    const axis = key === "length" ? "x" : key === "width" ? "y" : "z";
    const drawn: WorkingInput[] = [...view.surfaces, ...view.bodies]
      .filter((s) => {
        const points = "frames" in s ? edgesOf(s) : [...outlineOf(s, 1), ...(s.mirrored ? outlineOf(s, -1) : [])];
        return points.some((p) => Math.abs(p[axis] - box.max[axis]) < 1e-9 || Math.abs(p[axis] - box.min[axis]) < 1e-9);
      })
      .map((s) => ({
        name: `${s.name}, shape`,
        value: box.max[axis] - box.min[axis],
        sd: EDGE,
        dimension: "length",
        evidence: "frames" in s ? "datasheet" : s.shapeBy,
        share: 0.5,
        source: null,
      }));
    const parts = view.items
      .filter((i) => {
        const c = axis === "y" && i.mirrored ? Math.abs(i.place.y) : i.place[axis];
        return (
          Math.abs(c + i.size[axis] / 2 - box.max[axis]) < 1e-9 || Math.abs(c - i.size[axis] / 2 - box.min[axis]) < 1e-9
        );
      })
      .map((i) => ({
        name: `${i.name}, place`,
        value: i.place[axis],
        sd: EDGE,
        dimension: "length" as const,
        evidence: i.placeEvidence,
        share: 0.5,
        source: { kind: "place" as const, item: i.name },
      }));
    return [...drawn, ...parts];
  },
});
