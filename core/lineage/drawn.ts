import { AXES, type BodyShape, type Design, type Item, type Surface } from "../design/schema";
import { difference } from "./difference";
import { thingKey } from "./things";

/** What became of one part, surface or body between two designs. */
export type Became = "same" | "changed" | "known better" | "added" | "removed";

/** One thing that can be drawn, as it was and as it is. */
export interface Drawn<T> {
  id: string;
  name: string;
  became: Became;
  before: T | null;
  after: T | null;
  /** whether it stands elsewhere, or is of another size or shape */
  moved: boolean;
}

/** Of places and sizes, m: less than this is no other place. */
const SAME_PLACE = 5e-5;

const otherBox = (a: Item, b: Item): boolean =>
  a.mirrored !== b.mirrored ||
  AXES.some((k) => Math.abs(a.place[k] - b.place[k]) > SAME_PLACE || Math.abs(a.size[k] - b.size[k]) > SAME_PLACE);

/** A shape is another when anything of it but its name and how it is known differs. */
function otherShape<T extends { name: string; shapeBy: string }>(a: T, b: T): boolean {
  const plain = ({ name: _name, shapeBy: _by, ...rest }: T) => JSON.stringify(rest);
  return plain(a) !== plain(b);
}

/**
 * Parts, surfaces and bodies of two designs beside one another, for a drawing of before and after: those of the later
 * design in its order, then what is gone. What is only known better (a mass that was weighed where it was guessed) is
 * told from what was changed.
 */
export function drawnBetween(
  from: Design,
  to: Design,
): { items: Drawn<Item>[]; surfaces: Drawn<Surface>[]; bodies: Drawn<BodyShape>[] } {
  const changes = new Map<string, boolean>();
  for (const c of difference(from, to)) {
    const key = thingKey(c.path);
    changes.set(key, (changes.get(key) ?? false) || !c.knowing);
  }
  const beside = <T extends { id: string; name: string }>(
    list: "items" | "surfaces" | "bodies",
    was: readonly T[],
    is: readonly T[],
    other: (a: T, b: T) => boolean,
  ): Drawn<T>[] => {
    const one = (before: T | null, after: T | null): Drawn<T> => {
      const { id, name } = (after ?? before) as T;
      const really = changes.get(`${list}/#${id}`);
      return {
        id,
        name,
        before,
        after,
        moved: before !== null && after !== null && other(before, after),
        became:
          before === null
            ? "added"
            : after === null
              ? "removed"
              : really === undefined
                ? "same"
                : really
                  ? "changed"
                  : "known better",
      };
    };
    return [
      ...is.map((after) => one(was.find((x) => x.id === after.id) ?? null, after)),
      ...was.filter((x) => !is.some((y) => y.id === x.id)).map((before) => one(before, null)),
    ];
  };
  return {
    items: beside("items", from.items, to.items, otherBox),
    surfaces: beside("surfaces", from.surfaces, to.surfaces, otherShape),
    bodies: beside("bodies", from.bodies, to.bodies, otherShape),
  };
}
