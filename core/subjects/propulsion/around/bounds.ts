import type { Design } from "../../../design/schema";
import { extent } from "../../mass/rollup";
import type { Disc } from "./models";

/**
 * Largest opening, m², that a craft can have around a drive: the largest face of the box around it. Null while it is
 * not drawn: nothing of it is, or less than the disc itself.
 */
export function mostOpening(
  design: Pick<Design, "items"> & Partial<Pick<Design, "surfaces" | "bodies">>,
  disc: Disc | null,
): number | null {
  const box = extent(design);
  if (!box) return null;
  const [x, y, z] = (["x", "y", "z"] as const).map((a) => box.max[a] - box.min[a]) as [number, number, number];
  const most = Math.max(x * y, x * z, y * z);
  return most > (disc?.area ?? 0) ? most : null;
}
