import { SYMPTOMS, type Symptom } from "./catalogue";

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
]);

/** The stems that a text is searched by: words of three letters or more, endings cut. */
export const stemsOf = (text: string): string[] => [
  ...new Set(
    text
      .toLowerCase()
      // A push-rod is a pushrod.
      .replace(/(\p{L})-(?=\p{L})/gu, "$1")
      .split(/[^\p{L}]+/u)
      .filter((w) => w.length >= 3 && !COMMON.has(w))
      .map((w) => (w.length > 4 ? w.replace(/(ings?|ed|es|s)$/, "") : w)),
  ),
];

interface Index {
  entries: { symptom: Symptom; own: Set<string>; causes: Set<string> }[];
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
    for (const w of new Set([...own, ...causes])) counts.set(w, (counts.get(w) ?? 0) + 1);
    return { symptom: s, own: new Set(own), causes: new Set(causes) };
  });
  const index = { entries, counts };
  indexes.set(catalogue, index);
  return index;
}

/**
 * Symptoms of the catalogue that a person's own words come near to, nearest first: shared stems, rare ones counting more, those of a cause a third. Empty when nothing is shared.
 * @param catalogue with entries of one's own; the shipped one when left out
 */
export function symptomsLike(text: string, most = 5, catalogue: readonly Symptom[] = SYMPTOMS): Symptom[] {
  const stems = stemsOf(text);
  const { entries, counts } = indexOf(catalogue);
  return entries
    .map(({ symptom, own, causes }) => {
      const weight = (w: string) => Math.log(1 + catalogue.length / (counts.get(w) ?? 1));
      const score = stems.reduce((s, w) => s + (own.has(w) ? weight(w) : causes.has(w) ? weight(w) / 3 : 0), 0);
      return { symptom, score: score / Math.sqrt(own.size + 1) };
    })
    .filter((x) => x.score > 0.25)
    .sort((a, b) => b.score - a.score)
    .slice(0, most)
    .map((x) => x.symptom);
}
