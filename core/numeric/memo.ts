/**
 * Remembers the last results of a pure function by a text that stands for its inputs: same inputs, same result,
 * without the work. The oldest is forgotten first.
 * For what is asked again and again while something else changes (the drive while a part is dragged).
 */
export function remembering<V>(size: number): (key: string, make: () => V) => V {
  const held = new Map<string, V>();
  return (key, make) => {
    const known = held.get(key);
    if (known !== undefined) return known;
    const made = make();
    held.set(key, made);
    if (held.size > size) held.delete(held.keys().next().value ?? "");
    return made;
  };
}
