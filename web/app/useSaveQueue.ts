import { type QueryClient, useQueryClient } from "@tanstack/react-query";
import { del, get, set } from "idb-keyval";
import { type Dispatch, type SetStateAction, useEffect, useMemo, useState } from "react";
import { toast } from "sonner";
import { type CraftRecord, contracts } from "../../api/contracts";
import type { Version } from "../../core/design/craftFile";
import { sharing } from "../../core/design/edit";
import { mergeDesigns } from "../../core/design/merge";
import { designNow } from "../../core/design/openFile";
import { type Design, designSchema } from "../../core/design/schema";
import { difference } from "../../core/lineage/difference";
import { changedText } from "../../core/wording/changes";
import { ApiError, call, sayError } from "./client";
import type { History } from "./desk";
import { SaveQueue, type Sent, type Unsaved } from "./saveQueue";

const keyOf = (slug: string, label: string) => `unsaved ${slug} ${label}`;

/** ms without a change after which it is kept: a dragged part changes the design at every frame. */
const TOGETHER = 150;
/** ms after which a change is kept all the same. */
const LONGEST = 1000;

/** Keeps in the browser what is not saved, the last of a burst of changes, and that at once when the page is left. */
function keeping(key: string): (unsaved: Unsaved<Design> | null) => void {
  let waiting: { unsaved: Unsaved<Design> | null; timer: ReturnType<typeof setTimeout>; due: number } | null = null;
  const write = () => {
    if (!waiting) return;
    const { unsaved, timer } = waiting;
    clearTimeout(timer);
    waiting = null;
    void (unsaved ? set(key, unsaved) : del(key)).catch(() => {});
  };
  window.addEventListener("pagehide", write);
  document.addEventListener("visibilitychange", write);
  return (unsaved) => {
    const now = performance.now();
    const due = waiting?.due ?? now + LONGEST;
    clearTimeout(waiting?.timer);
    waiting = { unsaved, due, timer: setTimeout(write, Math.min(TOGETHER, due - now)) };
  };
}

/** Sends a design and says what became of it. */
async function send(slug: string, label: string, revision: number, design: Design): Promise<Sent<Design>> {
  try {
    const answer = await call(contracts.saveDesign, { params: { slug, label }, body: { revision, design } });
    return { kind: "saved", revision: answer.revision };
  } catch (error) {
    if (!(error instanceof ApiError)) return { kind: "refused", why: sayError(error) };
    const { problem } = error;
    if (problem.type === "/problems/stale" && problem.current) {
      const current = problem.current as { revision: number; design: unknown };
      return { kind: "stale", revision: current.revision, current: designSchema.parse(current.design) };
    }
    // Nobody there, a code that ran out, or a server in trouble: the same may succeed later.
    if (problem.status === 0 || problem.status === 401 || problem.status >= 500) return { kind: "unanswered" };
    toast.error(problem.detail);
    return { kind: "refused", why: problem.detail };
  }
}

/** Writes a saved design into what the page holds of the craft. */
function remember(queries: QueryClient, slug: string, label: string, revision: number, design: Design): void {
  queries.setQueryData<CraftRecord>(
    ["craft", slug],
    (held) =>
      held && {
        ...held,
        file: { ...held.file, versions: held.file.versions.map((v) => (v.label === label ? { ...v, design } : v)) },
        revisions: { ...held.revisions, versions: { ...held.revisions.versions, [label]: revision } },
      },
  );
}

/** The steps to be undone with what was saved elsewhere in each of them: undo takes back what was done here alone. */
function withTheirs(
  h: History,
  merged: Design,
  { base, mine, theirs }: Record<"base" | "mine" | "theirs", Design>,
): History {
  const also = (design: Design) => {
    const both = mergeDesigns(base, design, theirs);
    return both.ok ? [both.design] : [];
  };
  const [present] = h.present === mine ? [merged] : also(h.present);
  return { past: h.past.flatMap(also), present: present ?? merged, future: [], key: undefined };
}

/**
 * The queue that saves the design of one version. What is not saved is kept in the browser and stands again after a
 * reload; leaving with unsaved edits asks first.
 *
 * @returns the queue, and whether what was left from before has been looked for
 */
export function useSaveQueue(
  record: CraftRecord,
  version: Version,
  setHistory: Dispatch<SetStateAction<History>>,
  setPending: (design: Design) => void,
): [SaveQueue<Design>, boolean] {
  const { slug, revisions } = record;
  const { label } = version;
  const queries = useQueryClient();
  const [restored, setRestored] = useState(false);
  // biome-ignore lint/correctness/useExhaustiveDependencies: one queue for as long as this version is open
  const queue = useMemo(
    () =>
      new SaveQueue<Design>({
        server: { revision: revisions.versions[label] ?? 0, document: version.design },
        send: (revision, design) => send(slug, label, revision, design),
        keep: keeping(keyOf(slug, label)),
        onSaved: (revision, design) => remember(queries, slug, label, revision, design),
        online: () => navigator.onLine,
        merge: (base, mine, theirs, prefer) => {
          const merged = mergeDesigns(base, mine, theirs, prefer);
          // What is all of theirs is theirs: nothing of it is sent again.
          return merged.ok ? sharing(theirs, merged.design) : null;
        },
        onMerged: (merged, of) => {
          setHistory((h) => withTheirs(h, merged, of));
          toast.info(
            `${label} was saved elsewhere too. Both stand, for they touch different things. There: ` +
              `${changedText(difference(of.base, of.theirs))}.`,
            { duration: 20_000 },
          );
        },
      }),
    [slug, label],
  );
  // biome-ignore lint/correctness/useExhaustiveDependencies: looked for once
  useEffect(() => {
    let over = false;
    void get<Partial<Unsaved<unknown>> & { revision: number; document: object }>(keyOf(slug, label))
      .then((left) => {
        // It may have been left by an older release.
        const read = left && designSchema.safeParse(designNow({ ...left.document }));
        if (over || !left || !read?.success || JSON.stringify(read.data) === JSON.stringify(version.design)) return;
        // Frozen meanwhile: what was not saved may go on in a child draft.
        if (version.frozenAt !== null) {
          setPending(read.data);
          return void del(keyOf(slug, label)).catch(() => {});
        }
        // Sent against what it grew from: if somebody saved in between, both stand where they touched different things.
        const grown = designSchema.safeParse(left.base && designNow({ ...left.base }));
        queue.grewFrom(left.revision, grown.success ? grown.data : null);
        setHistory((h) => ({ past: [...h.past, h.present], present: read.data, future: [], key: undefined }));
        // It says what nobody would look for: it stays long enough to be read.
        toast.info(`${label}: edits that were not saved when the page was left stand again.`, { duration: 15_000 });
      })
      .catch(() => {})
      .finally(() => {
        if (!over) setRestored(true);
      });
    return () => {
      over = true;
    };
  }, [queue]);
  useEffect(() => {
    const wake = () => queue.wake();
    const warn = (event: BeforeUnloadEvent) => {
      if (queue.unsaved()) event.preventDefault();
    };
    window.addEventListener("online", wake);
    window.addEventListener("focus", wake);
    window.addEventListener("beforeunload", warn);
    queue.begin();
    return () => {
      window.removeEventListener("online", wake);
      window.removeEventListener("focus", wake);
      window.removeEventListener("beforeunload", warn);
      queue.end();
    };
  }, [queue]);
  return [queue, restored];
}
