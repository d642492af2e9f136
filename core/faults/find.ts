import MiniSearch from "minisearch";
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
  ...(
    "the and was but for has had its our are can you who won don didn doesn isn just whole thing came " +
    "come soon only keep since they them where which while about some more most much such"
  ).split(" "),
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

/** What is searched: each way of saying a symptom by itself, so that the best decides, and all of them together. */
interface Said {
  id: string;
  said: string;
  causes: string;
  symptom: string;
}

const indexes = new WeakMap<readonly Symptom[], MiniSearch<Said>>();

function indexOf(catalogue: readonly Symptom[]): MiniSearch<Said> {
  const held = indexes.get(catalogue);
  if (held) return held;
  const index = new MiniSearch<Said>({
    fields: ["said", "causes"],
    storeFields: ["symptom"],
    tokenize: stemsOf,
    processTerm: (stem) => stem,
  });
  // By its place in the list: an entry of one's own may have any name.
  for (const [n, s] of catalogue.entries()) {
    const ways = [s.text, ...(WORDS[s.id] ?? "").split(",")];
    index.addAll(ways.map((said, k) => ({ id: `${n} ${k}`, said, causes: "", symptom: s.id })));
    index.add({
      id: `${n} ${ALL}`,
      said: ways.join(" "),
      causes: s.causes.map((c) => c.text).join(" "),
      symptom: s.id,
    });
  }
  indexes.set(catalogue, index);
  return index;
}
const ALL = "all";

/** How much all ways of saying a symptom together count beside the best one, and words of a cause beside those. */
const TOGETHER = 0.5;
const BY_CAUSE = 0.1;
/** Share of the words written that must be found for anything to be offered. */
const LEAST = 0.25;
/** Share of a word's letters that may be mistyped where the catalogue does not know the word. */
const MISTYPED = 0.2;
/** Letters of the words that are looked for as mistyped: shorter ones stand for too many, longer ones are no words. */
const MISTYPED_FROM = 4;
const MISTYPED_TO = 40;

const mayBeMistyped = (stem: string) => stem.length >= MISTYPED_FROM && stem.length <= MISTYPED_TO;

/**
 * Symptoms of the catalogue that a person's own words come near to, nearest first: by the catalogue's sentence and by
 * how people say it (BM25 over stems); the best way of saying it decides, all together and the words of causes break
 * ties. A word that the catalogue does not know may be mistyped. Empty when nothing is near.
 * @param catalogue with entries of one's own; the shipped one when left out
 */
export function symptomsLike(text: string, most = 5, catalogue: readonly Symptom[] = SYMPTOMS): Symptom[] {
  const asked = stemsOf(text);
  if (asked.length === 0) return [];
  const index = indexOf(catalogue);
  const unknown = new Set(asked.filter((stem) => index.search(stem, { boost: { causes: 1 } }).length === 0));
  const best = new Map<string, { way: number; all: number; found: number }>();
  for (const r of index.search(text, {
    boost: { causes: BY_CAUSE },
    fuzzy: (stem) => (mayBeMistyped(stem) && unknown.has(stem) ? MISTYPED : false),
  })) {
    const id = String(r.symptom);
    const was = best.get(id) ?? { way: 0, all: 0, found: 0 };
    const together = String(r.id).endsWith(` ${ALL}`);
    best.set(id, {
      way: together ? was.way : Math.max(was.way, r.score),
      all: together ? r.score : was.all,
      found: Math.max(was.found, r.queryTerms.length),
    });
  }
  const score = (s: Symptom) => {
    const found = best.get(s.id);
    return found && found.found >= LEAST * asked.length ? found.way + TOGETHER * found.all : 0;
  };
  return catalogue
    .map((symptom) => ({ symptom, score: score(symptom) }))
    .filter((x) => x.score > 0)
    .sort((a, b) => b.score - a.score)
    .slice(0, most)
    .map((x) => x.symptom);
}
