import { createStore, get, promisifyRequest } from "idb-keyval";
import { useSyncExternalStore } from "react";
import type { NewRun } from "../../api/contracts";
import { PATHS, pathTo } from "../../api/paths";
import type { Attachment } from "../../core/design/bench";
import { type Taken, keepPicture } from "../fields/keepPicture";
import { ApiError, request, sayError } from "./request";

/** A run that was logged here and is not on the server yet. Its key keeps it from being logged twice. */
export interface Waiting {
  key: string;
  slug: string;
  label: string;
  run: NewRun;
  /** pictures and the moment that each belongs to; null: to the run */
  pictures: (Taken & { moment: string | null })[];
  at: string;
  /** why the server did not take it; empty while it waits for an answer */
  refused: string;
}

const STORE = "outbox";
const AGAIN = 4000;

let waiting: Waiting[] = [];
const listeners = new Set<() => void>();
const sentListeners = new Set<(entry: Waiting, number: number) => void>();
let timer: ReturnType<typeof setTimeout> | undefined;

/** Where everything of this origin is kept by name: the package's own default, for what it does in one step. */
const keptHere = createStore("keyval-store", "keyval");

/** Changes the outbox, and takes out of the browser's store what goes into it: both, or neither. */
async function change(mutate: (list: Waiting[]) => Waiting[], takesOut?: string): Promise<void> {
  await keptHere("readwrite", async (store) => {
    waiting = mutate((await promisifyRequest<Waiting[] | undefined>(store.get(STORE))) ?? []);
    store.put(waiting, STORE);
    if (takesOut !== undefined) store.delete(takesOut);
    await promisifyRequest(store.transaction);
  });
  for (const l of listeners) l();
}

/** Whether an error means that the server could not be reached, or could not answer: the entry may be sent again. */
export const unanswered = (error: unknown): boolean =>
  error instanceof ApiError &&
  (error.problem.status === 0 || error.problem.status === 401 || error.problem.status >= 500);

/** Sends one entry: its pictures first, then the run that refers to them. */
async function sendOne({ slug, label, run, pictures }: Waiting): Promise<number> {
  const kept: { moment: string | null; file: Attachment }[] = [];
  for (const { moment, ...picture } of pictures) kept.push({ moment, file: await keepPicture(picture) });
  const own = (moment: string | null) => kept.filter((k) => k.moment === moment).map((k) => k.file);
  const body: NewRun = {
    ...run,
    files: [...run.files, ...own(null)],
    moments: run.moments.map((m) => ({ ...m, files: [...m.files, ...own(m.id)] })),
  };
  const { number } = (await request("post", pathTo(PATHS.createRun, { slug, label }), body)) as { number: number };
  return number;
}

async function sendAll(): Promise<void> {
  for (;;) {
    const [first] = waiting.filter((w) => w.refused === "");
    if (!first) return;
    try {
      const number = await sendOne(first);
      await change((list) => list.filter((w) => w.key !== first.key));
      for (const l of sentListeners) l(first, number);
    } catch (error) {
      if (unanswered(error)) {
        clearTimeout(timer);
        timer = setTimeout(() => void send(), AGAIN);
        return;
      }
      // Refused for good: it stays here with the reason, and does not hold up those behind it.
      await change((list) => list.map((w) => (w.key === first.key ? { ...w, refused: sayError(error) } : w)));
    }
  }
}

let sending: Promise<void> | null = null;
/** Sends what waits, in order, one at a time; one page at a time where the browser can tell. */
export function send(): Promise<void> {
  const once = () => (navigator.locks ? navigator.locks.request("outbox", sendAll) : sendAll());
  sending ??= once().finally(() => {
    sending = null;
  });
  return sending;
}

/**
 * Keeps an entry in the browser first, and sends it as soon as the server answers.
 *
 * @param from name under which it was kept while it was made: in one step it is here and no longer there
 */
export async function keep(entry: Waiting, from?: string): Promise<void> {
  await change((list) => [...list.filter((w) => w.key !== entry.key), entry], from);
  void send();
}

/** Takes a refused entry back out, to be mended by hand. */
export const takeBack = (key: string): Promise<void> => change((list) => list.filter((w) => w.key !== key));

/** Sends a refused entry again as it is. */
export async function sendAgain(key: string): Promise<void> {
  await change((list) => list.map((w) => (w.key === key ? { ...w, refused: "" } : w)));
  await send();
}

export const onSent = (listener: (entry: Waiting, number: number) => void): (() => void) => {
  sentListeners.add(listener);
  return () => sentListeners.delete(listener);
};

const subscribe = (listener: () => void): (() => void) => {
  listeners.add(listener);
  return () => listeners.delete(listener);
};
export const useOutbox = (): Waiting[] => useSyncExternalStore(subscribe, () => waiting);

/** Reads what an earlier page left behind, and goes on sending it. */
export async function openOutbox(): Promise<void> {
  waiting = (await get<Waiting[]>(STORE)) ?? [];
  for (const l of listeners) l();
  window.addEventListener("online", () => void send());
  await send();
}
