/** Whether two pieces of plain data hold the same: numbers bit for bit, the order of keys aside. */
export function sameData(a: unknown, b: unknown): boolean {
  if (Object.is(a, b)) return true;
  if (
    typeof a !== "object" ||
    typeof b !== "object" ||
    a === null ||
    b === null ||
    Array.isArray(a) !== Array.isArray(b)
  )
    return false;
  if (Array.isArray(a) && Array.isArray(b)) {
    if (a.length !== b.length) return false;
    for (let k = 0; k < a.length; k++) if (!sameData(a[k], b[k])) return false;
    return true;
  }
  const [p, q] = [a as Record<string, unknown>, b as Record<string, unknown>];
  const keys = Object.keys(p);
  if (keys.length !== Object.keys(q).length) return false;
  for (const key of keys) if (!(key in q) || !sameData(p[key], q[key])) return false;
  return true;
}
