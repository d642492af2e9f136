/** An id that nothing in a list has yet: the stem with the first free number after as many as there are. */
export function freeId(taken: readonly { id: string }[], stem: string): string {
  let n = taken.length + 1;
  while (taken.some((t) => t.id === `${stem}${n}`)) n++;
  return `${stem}${n}`;
}
