import type { BodyShape } from "../../../core/design/schema";

/** How the shape of a body is known, in words. */
export const SHAPE_BY: Record<BodyShape["shapeBy"], string> = {
  guess: "a guess",
  datasheet: "a drawing",
  measured: "measured",
  proven: "proven",
};
