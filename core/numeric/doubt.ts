/** A number with its standard uncertainty, in the same unit. */
export interface Sure {
  value: number;
  sd: number;
}

/**
 * A number, and by how much each uncertain input moves it when that is one standard uncertainty higher (by the
 * input's name).
 */
export interface Doubtful {
  value: number;
  by: Readonly<Record<string, number>>;
}

/** Standard uncertainty: the inputs err independently. */
export function sdOf({ by }: Doubtful): number {
  let sum = 0;
  for (const key in by) sum += (by[key] as number) ** 2;
  return Math.sqrt(sum);
}

/** First-order change of a function of one doubtful number: its value there, and its slope. */
export function through({ by }: Doubtful, value: number, slope: number): Doubtful {
  return { value, by: Object.fromEntries(Object.entries(by).map(([k, d]) => [k, d * slope])) };
}

/** The same number with what one more input does to it. */
export const alsoBy = (d: Doubtful, name: string, change: number): Doubtful => ({
  value: d.value,
  by: { ...d.by, [name]: (d.by[name] ?? 0) + change },
});

/** Share of the variance that each input causes, 0 to 1. */
export function sharesOf(d: Doubtful): Map<string, number> {
  const all = sdOf(d) ** 2;
  return new Map(Object.entries(d.by).map(([k, by]) => [k, all > 0 ? by ** 2 / all : 0]));
}
