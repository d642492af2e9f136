/**
 * Label for a child of `parent`: the next whole number when the parent is the newest of the main line (v4 → v5), else
 * the parent's number with the next free letter (v3 → v3b). Never a label that is taken.
 */
export function childLabel(parent: string | null, taken: readonly string[]): string {
  const number = (label: string) => Number(/^v(\d+)/.exec(label)?.[1] ?? 0);
  const highest = Math.max(0, ...taken.map(number));
  if (parent === null || (number(parent) === highest && /^v\d+$/.test(parent))) {
    let n = highest + 1;
    while (taken.includes(`v${n}`)) n++;
    return `v${n}`;
  }
  const stem = `v${number(parent)}`;
  for (const letter of "bcdefghijklmnopqrstuvwxyz") if (!taken.includes(stem + letter)) return stem + letter;
  return `v${highest + 1}`;
}
