import type { Item, Role } from "./schema";

/*
 * What words propose. They are read once: when a part is named, when it is read from a list, when a file or a database
 * of an older release is opened. What they propose is then held in a field, shown, and can be changed; nothing is
 * decided by a name afterwards (a test keeps it so).
 */

const BALLAST_GROUP = /^ballast\b/i;
const PROPOSED: readonly [Role, RegExp][] = [
  ["ballast", /\b(ballast|trim lead|nose lead)\b/i],
  ["servo", /servo/i],
];
const MOVING = /rudder|aileron|elevator|flap|elevon|vane/i;
const MOTOR = /\bmotors?\b/i;
const CONTROLLER = /\b(controllers?|esc)\b/i;

/** What a part of this name, in this group, most likely is, by the usual names of parts (common practice). */
export function roleByWords(name: string, group = ""): Role {
  if (BALLAST_GROUP.test(group)) return "ballast";
  const found = PROPOSED.find(([, words]) => words.test(name));
  if (found) return found[0];
  // What names both is one thing that is neither.
  if (MOTOR.test(name) !== CONTROLLER.test(name)) return MOTOR.test(name) ? "motor" : "controller";
  // A flapping motor is a motor.
  return MOVING.test(name) && !MOTOR.test(name) ? "moving surface" : "not said";
}

/** Words that tell the sides of a pair. */
const SIDES: readonly [RegExp, RegExp][] = [
  [/\bleft\b/i, /\bright\b/i],
  [/\bport\b/i, /\bstarboard\b/i],
  [/\bL$/, /\bR$/],
];

/** The part whose name is the same but for the other side; null where none is, or the names tell no side. */
export function twinByWords(
  items: readonly Pick<Item, "id" | "name">[],
  item: Pick<Item, "id" | "name">,
): string | null {
  for (const sides of SIDES)
    for (const [here, there] of [sides, sides.toReversed() as [RegExp, RegExp]]) {
      if (!here.test(item.name)) continue;
      const stem = item.name.replace(here, "").toLowerCase();
      const other = items.find(
        (i) => i.id !== item.id && there.test(i.name) && i.name.replace(there, "").toLowerCase() === stem,
      );
      if (other) return other.id;
    }
  return null;
}

/** Whether a suspect of these words is the one at the sticks. */
export const saysPilot = (words: string): boolean =>
  /\bpilot(?! (hole|bearing|drill|wire))|\bdriver error|operator error/i.test(words);
/** Whether a cause in these words puts it on the one at the sticks. */
export const blamesByWords = (words: string): boolean => /\b(pilot|driver|operator) error/i.test(words);

/** Whether a setting of this name is the one for a lost link. */
export const saysFailSafe = (name: string): boolean => /fail.?safe/i.test(name);

/**
 * A part takes another name or group. What only the old ones proposed goes with them, and the new ones propose anew;
 * what somebody said stays.
 */
export function nameItem(item: Item, given: Partial<Pick<Item, "name" | "group">>, items: readonly Item[]): void {
  if (item.role === roleByWords(item.name, item.group)) item.role = "not said";
  if (item.twinId !== null && item.twinId === twinByWords(items, item)) item.twinId = null;
  Object.assign(item, given);
  propose(item, items);
}

/** Proposes what a part is, and what it is the pair of, where nobody has said. */
export function propose(item: Item, items: readonly Item[]): void {
  if (item.role === "not said") item.role = roleByWords(item.name, item.group);
  if (item.twinId === null) item.twinId = twinByWords(items, item);
}
