import {
  type Dispatch,
  type SetStateAction,
  useCallback,
  useEffect,
  useRef,
  useState,
  useSyncExternalStore,
} from "react";

/**
 * What was begun in a form and is neither saved nor thrown away. It is kept in this browser at every change, per craft,
 * version and form: another station, a checklist, a reload or a server that does not answer take nothing of it.
 */
export interface Left<T> {
  /** When it was last changed, ISO 8601. */
  at: string;
  /** Revision of the record that it grew from; 0: a new one. */
  revision: number;
  value: T;
}

const PREFIX = "half-written/";
/** ms within which many changes are written down as one; a stand sends ten readings a second. */
const TOGETHER = 150;
/** Days after which what nobody came back to is let go. */
const KEPT = 120;

/** A part of a key: what stands between slashes must have none itself. */
const part = (text: string) => encodeURIComponent(text);
/**
 * @param version its label; "" for what belongs to the whole craft
 * @param form such as "run new", "fault 3", "bench sweep"
 */
export const keyOf = (slug: string, version: string, form: string): string =>
  `${PREFIX}${part(slug)}/${part(version)}/${part(form)}`;

let held: Map<string, Left<unknown>> | null = null;
const listeners = new Set<() => void>();
const unwritten = new Set<string>();
let timer: ReturnType<typeof setTimeout> | null = null;

function readAll(): Map<string, Left<unknown>> {
  const found = new Map<string, Left<unknown>>();
  const oldest = Date.now() - KEPT * 86_400_000;
  for (const key of Object.keys(localStorage)) {
    if (!key.startsWith(PREFIX)) continue;
    try {
      const left = JSON.parse(localStorage.getItem(key) ?? "") as Left<unknown>;
      if (Date.parse(left.at) > oldest && Number.isInteger(left.revision)) found.set(key, left);
      else localStorage.removeItem(key);
    } catch {
      localStorage.removeItem(key);
    }
  }
  return found;
}

function all(): Map<string, Left<unknown>> {
  if (held) return held;
  held = readAll();
  window.addEventListener("pagehide", write);
  document.addEventListener("visibilitychange", write);
  // Another page of this browser wrote something down, or threw it away.
  window.addEventListener("storage", (e) => {
    if (e.key !== null && !e.key.startsWith(PREFIX)) return;
    held = readAll();
    tell();
  });
  return held;
}

/** The list of what is left, anew whenever one comes or goes. */
let list: readonly { key: string; at: string }[] | null = null;
function tell(): void {
  list = null;
  for (const l of listeners) l();
}

function write(): void {
  if (timer) clearTimeout(timer);
  timer = null;
  for (const key of unwritten) {
    const left = all().get(key);
    try {
      if (left) localStorage.setItem(key, JSON.stringify(left));
      else localStorage.removeItem(key);
    } catch {
      // The browser has no room: it stays in the page as long as the page does.
    }
  }
  unwritten.clear();
}

function soon(key: string): void {
  unwritten.add(key);
  timer ??= setTimeout(write, TOGETHER);
}

/** What was left of a form; null: nothing. */
export const leftOf = (key: string): Left<unknown> | null => all().get(key) ?? null;

/** Keeps what a form holds now. */
export function keepHalf(key: string, value: unknown, revision: number): void {
  const isNew = !all().has(key);
  all().set(key, { at: new Date().toISOString(), revision, value });
  soon(key);
  if (isNew) tell();
}

/** It is saved, or thrown away. */
export function forgetHalf(key: string): void {
  if (!all().delete(key)) return;
  unwritten.add(key);
  write();
  tell();
}

/**
 * What an earlier release left, in the shape of this one: the fields that there are now, of the kind that they are
 * now; the rest as a form begins.
 */
export function fitted<T>(blank: T, left: unknown): T {
  if (blank === null || blank === undefined) return left as T;
  if (Array.isArray(blank)) return (Array.isArray(left) ? left : blank) as T;
  if (typeof blank !== "object") return (left === null || typeof left === typeof blank ? left : blank) as T;
  if (left === null || typeof left !== "object" || Array.isArray(left)) return blank;
  const given = left as Record<string, unknown>;
  const known = Object.entries(blank).map(([k, v]) => [k, k in given ? fitted(v, given[k]) : v]);
  // What may be there and is not in a blank one stays, as in a record of names.
  const more = Object.entries(given).filter(([k]) => !(k in (blank as object)));
  return Object.fromEntries([...known, ...more]) as T;
}

export interface HalfWritten<T> {
  /** What was left before this form was opened. */
  left: Left<T> | null;
  keep: (value: T, revision?: number) => void;
  /** Saved, or thrown away. */
  done: () => void;
}

/**
 * What a form keeps while it is filled in.
 * @param blank how the form begins, for what an earlier release left
 */
export function useHalfWritten<T>(slug: string, version: string, form: string, blank: T): HalfWritten<T> {
  const key = keyOf(slug, version, form);
  const [left, setLeft] = useState<Left<T> | null>(() => {
    const found = leftOf(key);
    return found && { ...found, value: fitted(blank, found.value) };
  });
  /** As it was saved: the form may tell of it once more before it closes. */
  const over = useRef<string | null>(null);
  const keep = useCallback(
    (value: T, revision = 0) => {
      if (over.current !== null && over.current === JSON.stringify(value)) return;
      over.current = null;
      keepHalf(key, value, revision);
    },
    [key],
  );
  const done = useCallback(() => {
    over.current = JSON.stringify(leftOf(key)?.value ?? null);
    forgetHalf(key);
    setLeft(null);
  }, [key]);
  return { left, keep, done };
}

/**
 * The state of a small form, kept from its first change until it is saved, thrown away or as it began.
 * @param begin how it begins; what it was at the first rendering counts
 */
export function useHalfState<T>(
  slug: string,
  version: string,
  form: string,
  begin: T,
): { value: T; set: Dispatch<SetStateAction<T>>; half: HalfWritten<T>; anew: () => void } {
  const [start] = useState(begin);
  const half = useHalfWritten(slug, version, form, start);
  const [value, set] = useState(half.left?.value ?? start);
  useKeeping(half, value, differs(value, start));
  const anew = () => {
    half.done();
    set(start);
  };
  return { value, set, half, anew };
}

/** A text that is kept until it is saved or thrown away. */
export function useHalfText(
  slug: string,
  version: string,
  form: string,
  saved = "",
): [text: string, set: (text: string) => void, done: () => void] {
  const { left, keep, done } = useHalfWritten(slug, version, form, saved);
  const [text, setText] = useState(left?.value ?? saved);
  const set = (next: string) => {
    setText(next);
    if (next === saved) done();
    else keep(next);
  };
  return [text, set, done];
}

const subscribe = (listener: () => void) => {
  listeners.add(listener);
  return () => void listeners.delete(listener);
};
const snapshot = () => {
  list ??= [...all()].map(([key, { at }]) => ({ key, at }));
  return list;
};

/** Forms of a craft and version that were left half-written, the newest first. */
export function useHalves(slug: string, version: string): { form: string; at: string }[] {
  const here = useSyncExternalStore(subscribe, snapshot);
  const start = keyOf(slug, version, "");
  return here
    .flatMap(({ key, at }) =>
      key.startsWith(start) ? [{ form: decodeURIComponent(key.slice(start.length)), at }] : [],
    )
    .toSorted((a, b) => b.at.localeCompare(a.at));
}

/** What somebody entered, whatever way a form says of a field that nothing is in it. */
const entered = (value: unknown): unknown => {
  if (Array.isArray(value)) return value.map(entered);
  if (value === null || typeof value !== "object") return value;
  const filled = Object.entries(value).flatMap(([k, v]) => {
    const kept = entered(v);
    return kept === undefined || kept === null || kept === "" ? [] : [[k, kept] as const];
  });
  return Object.fromEntries(filled.toSorted(([a], [b]) => (a < b ? -1 : 1)));
};
/** Whether two states of a form hold something else. */
export const differs = (a: unknown, b: unknown): boolean => JSON.stringify(entered(a)) !== JSON.stringify(entered(b));

/** Keeps a value of a form whenever it changes and is not as it was saved; as saved again, nothing is half-written. */
export function useKeeping<T>({ keep, done }: HalfWritten<T>, value: T, changed: boolean, revision = 0): void {
  const kept = useRef(false);
  useEffect(() => {
    if (changed) keep(value, revision);
    else if (kept.current) done();
    kept.current = changed;
  }, [keep, done, value, changed, revision]);
}
