import { createStore, promisifyRequest } from "idb-keyval";
import type { Design } from "../../core/design/schema";
import { type Answers, type Evaluation, answersOf, evaluate } from "../../core/evaluate";

/**
 * Slow results of designs that were looked at in this browser, so that a craft that is opened again shows its numbers
 * at once. They are taken for the very same design, letter by letter, and of the very same release alone: anything
 * else is worked out anew.
 */
interface Kept {
  build: string;
  /** the design as text */
  design: string;
  answers: Answers;
  /** ms since 1970 */
  at: number;
}

/** What changes with every change of the application's own files; none while they may change under a running page. */
const BUILD = import.meta.env.DEV ? null : __BUILD__;
/** Versions, in their states, that are kept: a third of a megabyte each for a craft with wings. */
const MOST = 40;
/** ms that a craft waits for what is kept of it: reading it must not take longer than working it out. */
const PATIENCE = 400;
/** ms that a design must stand still before its results are kept. */
const STILL = 1200;

const store = createStore("ultraform-answers", "answers");
/** By the design's text, of the crafts that were opened on this page; the oldest goes first. */
const held = new Map<string, Answers>();
/** The text that is kept for each place. */
const written = new Map<string, string>();
function hold(design: string, answers: Answers): void {
  held.set(design, answers);
  if (held.size > MOST) held.delete(held.keys().next().value ?? "");
}

/** Reads what is kept of a craft. Never fails: without it everything is worked out. */
export async function readAnswers(slug: string): Promise<void> {
  if (BUILD === null) return;
  const own = IDBKeyRange.bound(`${slug} `, `${slug} \uffff`);
  const reading = store("readonly", (s) =>
    Promise.all([promisifyRequest(s.getAllKeys(own)), promisifyRequest<Kept[]>(s.getAll(own))]),
  ).then(([places, list]) => {
    for (const [k, { build, design, answers }] of list.entries())
      if (build === BUILD) {
        hold(design, answers);
        written.set(String(places[k]), design);
      }
  });
  const patience = new Promise<void>((done) => setTimeout(done, PATIENCE));
  await Promise.race([reading.catch(() => {}), patience]);
}

/** What is kept of a design; null where nothing is. */
export const answersFor = (design: Design): Answers | null =>
  held.size === 0 ? null : (held.get(JSON.stringify(design)) ?? null);

/**
 * Keeps the results of a design once it stands still. @returns what takes the request back
 *
 * @param place craft, version and state, as text: what was kept there before goes
 */
export function keepAnswers(place: string, design: Design, evaluation: Evaluation): () => void {
  if (BUILD === null || evaluation.waiting.length > 0) return () => {};
  const build = BUILD;
  const timer = setTimeout(() => {
    const text = JSON.stringify(design);
    if (written.get(place) === text) return;
    const answers = answersOf(evaluation);
    hold(text, answers);
    written.set(place, text);
    void store("readwrite", async (s) => {
      s.put({ build, design: text, answers, at: Date.now() } satisfies Kept, place);
      const keys = await promisifyRequest(s.getAllKeys());
      if (keys.length > MOST) await dropOldest(s, keys.length - MOST);
    }).catch(() => {});
  }, STILL);
  return () => clearTimeout(timer);
}

/** The evaluation of a design that is not edited here: by what is kept of it, or worked out and kept. */
export function evaluateKept(place: string, design: Design): Evaluation {
  const answers = answersFor(design);
  const evaluation = evaluate(design, {}, undefined, answers && { answers });
  if (answers === null) keepAnswers(place, design, evaluation);
  return evaluation;
}

async function dropOldest(s: IDBObjectStore, many: number): Promise<void> {
  const [keys, all] = await Promise.all([promisifyRequest(s.getAllKeys()), promisifyRequest<Kept[]>(s.getAll())]);
  const oldest = keys.map((key, k) => ({ key, at: all[k]?.at ?? 0 })).sort((a, b) => a.at - b.at);
  for (const { key } of oldest.slice(0, many)) s.delete(key);
}
