import { SYMPTOMS, type Symptom } from "./catalogue";
import { SAME, WORDS } from "./words";

/** Words too common to tell symptoms apart. */
const COMMON = new Set([
  "with",
  "that",
  "this",
  "from",
  "then",
  "when",
  "were",
  "have",
  "does",
  "will",
  "after",
  "before",
  "again",
  "very",
  "near",
  "into",
  "than",
  "what",
  "there",
  "their",
  ..."the and was but for has had its our are can you who won don didn doesn isn just whole thing came come soon only keep since they them where which while about some more most much such".split(
    " ",
  ),
]);

/** The word that others are searched by. */
const ONE = new Map(SAME.flatMap(([first, ...others]) => others.map((w) => [w, first ?? w] as const)));

/** The stems that a text is searched by: words of three letters or more, endings cut. */
export const stemsOf = (text: string): string[] => [
  ...new Set(
    text
      .toLowerCase()
      // A push-rod is a pushrod.
      .replace(/(\p{L})-(?=\p{L})/gu, "$1")
      .split(/[^\p{L}]+/u)
      .filter((w) => w.length >= 3 && !COMMON.has(w))
      .map((w) => (w.length > 4 ? w.replace(/(ings?|ed|es|s)$/, "") : w.replace(/(?<=\p{L}{2}[^s])s$/u, "")))
      .map((w) => ONE.get(w) ?? w),
  ),
];

interface Index {
  entries: { symptom: Symptom; own: Set<string>; said: { stems: Set<string> }[]; causes: Set<string> }[];
  /** how many entries have a stem: a rare one tells more */
  counts: Map<string, number>;
}
const indexes = new WeakMap<readonly Symptom[], Index>();

function indexOf(catalogue: readonly Symptom[]): Index {
  const held = indexes.get(catalogue);
  if (held) return held;
  const counts = new Map<string, number>();
  const entries = catalogue.map((s) => {
    const own = stemsOf(s.text);
    const causes = stemsOf(s.causes.map((c) => c.text).join(" "));
    const said = (WORDS[s.id] ?? "").split(",").map((phrase) => ({ stems: new Set(stemsOf(phrase)) }));
    for (const w of new Set([...own, ...causes, ...said.flatMap((p) => [...p.stems])]))
      counts.set(w, (counts.get(w) ?? 0) + 1);
    return { symptom: s, own: new Set(own), said, causes: new Set(causes) };
  });
  const index = { entries, counts };
  indexes.set(catalogue, index);
  return index;
}

/**
 * Symptoms of the catalogue that a person's own words come near to, nearest first: by the catalogue's sentence and by
 * how people say it, shared stems counting the more the rarer they are;
 * words of a cause count a third. Empty when nothing is near.
 * @param catalogue with entries of one's own; the shipped one when left out
 */
export function symptomsLike(text: string, most = 5, catalogue: readonly Symptom[] = SYMPTOMS): Symptom[] {
  const stems = stemsOf(text);
  const { entries, counts } = indexOf(catalogue);
  const weight = (w: string) => Math.log(1 + catalogue.length / (counts.get(w) ?? 1));
  /**
   * How much of what was written a phrase holds, and of the phrase what was written: shared weight over the root of
   * both.
   */
  const asked = Math.sqrt(stems.reduce((s, w) => s + weight(w), 0) || 1);
  const nearness = (own: ReadonlySet<string>): number => {
    let [shared, whole] = [0, 0];
    for (const w of own) whole += weight(w);
    for (const w of stems) if (own.has(w)) shared += weight(w);
    return whole > 0 ? shared / (asked * Math.sqrt(whole)) : 0;
  };
  return entries
    .map(({ symptom, own, said, causes }) => {
      const phrases = said.map((p) => nearness(p.stems)).sort((a, b) => b - a);
      const loose = stems.reduce(
        (s, w) => s + (said.some((p) => p.stems.has(w)) || own.has(w) ? weight(w) : causes.has(w) ? weight(w) / 3 : 0),
        0,
      );
      // The best phrase decides; all words together break ties.
      const score = Math.max(nearness(own), phrases[0] ?? 0) + (0.35 * loose) / asked ** 2;
      return { symptom, score };
    })
    .filter((x) => x.score > LEAST)
    .sort((a, b) => b.score - a.score)
    .slice(0, most)
    .map((x) => x.symptom);
}
/** Nearness below which nothing is offered. */
const LEAST = 0.22;
