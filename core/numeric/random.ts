/** A seeded source of randomness: same seed, same numbers, on every machine. */
export interface Random {
  /** Uniform in [0, 1). */
  uniform(): number;
  /** Standard normal (Box–Muller). */
  normal(): number;
}

/** The mulberry32 generator (public domain, T. Ettinger): period 2^32, enough for demo noise and sampling checks. */
export function seededRandom(seed: number): Random {
  let state = seed >>> 0;
  const uniform = () => {
    state = (state + 0x6d2b79f5) >>> 0;
    let t = state;
    t = Math.imul(t ^ (t >>> 15), t | 1);
    t ^= t + Math.imul(t ^ (t >>> 7), t | 61);
    return ((t ^ (t >>> 14)) >>> 0) / 4294967296;
  };
  const normal = () => Math.sqrt(-2 * Math.log(1 - uniform())) * Math.cos(2 * Math.PI * uniform());
  return { uniform, normal };
}
