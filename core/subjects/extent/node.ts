import { computedFrom } from "../../design/evidence";
import type { Axis, Design } from "../../design/schema";
import type { Quantity, WorkingInput } from "../../design/quantity";
import { edgesOf, outlineOf } from "../surfaces/planform";
import { type Outcome, doubtsOf, given, subject } from "../../subject";
import { isPlaced, lacking } from "../mass/placed";
import { type Extent, extent as boxOf } from "../mass/rollup";

/** How well a drawn edge is known, m (common practice). */
const EDGE = 0.003;

/** Wings and bodies of which somebody knows the shape: one that was only begun by picture is no size of the craft. */
const drawnOf = ({ surfaces, bodies }: Pick<Design, "surfaces" | "bodies">) => ({
  surfaces: surfaces.filter((s) => s.shapeBy !== "guess"),
  bodies: bodies.filter((b) => b.shapeBy !== "guess"),
});

/** The box around all parts, and around wings and bodies of known shape. */
export const extent = subject({
  name: "extent",
  cost: "frame",
  reads: ["items", "surfaces", "bodies"],
  gives: ["length", "width", "height"],
  compute(view): Outcome<Extent> {
    const box = boxOf({ ...view, ...drawnOf(view) });
    return box ? { status: "solved", result: box } : { status: "missing", needs: ["parts"] };
  },
  quantities(box, view) {
    const drawn = drawnOf(view);
    const known = [...drawn.surfaces, ...drawn.bodies];
    const evidence = computedFrom([...view.items.map((i) => i.placeEvidence), ...known.map((s) => s.shapeBy)]);
    const guessed = known.length < view.surfaces.length + view.bodies.length;
    const q = (axis: Axis): Quantity | undefined => {
      const out = view.items.filter((i) => !isPlaced(i, axis));
      // Along an axis along which nobody said where anything is there is no size.
      if (known.length === 0 && out.length === view.items.length) return undefined;
      const incomplete = [
        ...(guessed ? ["wings or bodies whose shape is a guess are not in it"] : []),
        ...lacking(out, "a place"),
        ...lacking(
          view.items.filter((i) => i.unsized && isPlaced(i, axis)),
          "a size",
        ),
      ];
      return {
        value: box.max[axis] - box.min[axis],
        sd: EDGE,
        dimension: "length",
        evidence,
        ...doubtsOf([], incomplete),
      };
    };
    return given({ length: q("x"), width: q("y"), height: q("z") });
  },
  working(key, box, view) {
    const axis = key === "length" ? "x" : key === "width" ? "y" : "z";
    const shapes = drawnOf(view);
    const drawn: WorkingInput[] = [...shapes.surfaces, ...shapes.bodies]
      .filter((s) => {
        const points = "frames" in s ? edgesOf(s) : [...outlineOf(s, 1), ...(s.mirrored ? outlineOf(s, -1) : [])];
        return points.some((p) => Math.abs(p[axis] - box.max[axis]) < 1e-9 || Math.abs(p[axis] - box.min[axis]) < 1e-9);
      })
      .map((s) => ({
        name: `${s.name}, shape`,
        value: box.max[axis] - box.min[axis],
        sd: EDGE,
        dimension: "length",
        evidence: s.shapeBy,
        share: 0.5,
        source: null,
      }));
    const parts = view.items
      .filter((i) => {
        if (!isPlaced(i, axis)) return false;
        const half = i.unsized ? 0 : i.size[axis] / 2;
        const c = axis === "y" && i.mirrored ? Math.abs(i.place.y) : i.place[axis];
        return Math.abs(c + half - box.max[axis]) < 1e-9 || Math.abs(c - half - box.min[axis]) < 1e-9;
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
