import { freeId } from "../../design/ids";
import type { Design } from "../../design/schema";
import type { FootShape } from "./declares";

/** Ways to stand that are common: what a new stance begins with, all guesses of the craft's size. */
export const STANCES = ["four feet", "two wheels and a tail", "nose wheel and two", "on its tail"] as const;
export type Stance = (typeof STANCES)[number];

interface Box {
  min: { x: number; y: number; z: number };
  max: { x: number; y: number; z: number };
}

/** Feet of a way to stand, under a craft that reaches so far. */
export function feetFor(stance: Stance, design: Pick<Design, "feet">, { min, max }: Box): FootShape[] {
  const long = max.x - min.x;
  const half = Math.max(0.05 * long, 0.3 * (max.y - min.y));
  const rounded = (v: number) => Number(v.toFixed(3));
  const made: FootShape[] = [];
  const foot = (name: string, x: number, y: number, z: number) =>
    made.push({
      id: freeId([...design.feet, ...made], "foot"),
      name,
      itemId: null,
      at: { x: rounded(x), y: rounded(y), z: rounded(z) },
      mirrored: y !== 0,
      placeBy: "guess",
    });
  const low = min.z;
  switch (stance) {
    case "four feet":
      foot("Fore", min.x + 0.25 * long, half, low);
      foot("Aft", min.x + 0.75 * long, half, low);
      break;
    case "two wheels and a tail":
      foot("Wheels", min.x + 0.3 * long, half, low);
      foot("Tail", max.x, 0, low);
      break;
    case "nose wheel and two":
      foot("Nose wheel", min.x + 0.1 * long, 0, low);
      foot("Wheels", min.x + 0.55 * long, half, low);
      break;
    case "on its tail":
      foot("Belly side", max.x, half, low);
      foot("Back side", max.x, half, max.z);
      break;
  }
  return made;
}
