import { type QueryClient, useQueryClient } from "@tanstack/react-query";
import { del, get, set } from "idb-keyval";
import { type Dispatch, type SetStateAction, useEffect, useMemo, useState } from "react";
import { toast } from "sonner";
import { type CraftRecord, contracts } from "../../api/contracts";
import type { Version } from "../../core/design/craftFile";
import { inStates } from "../../core/design/openFile";
import { type Design, designSchema } from "../../core/design/schema";
import { ApiError, call, sayError } from "./client";
import type { History } from "./desk";
import { SaveQueue, type Sent } from "./saveQueue";

/** What was not saved when the page was left, as it lies in the browser. */
interface Unsaved {
  revision: number;
  document: Design;
}
const keyOf = (slug: string, label: string) => `unsaved ${slug} ${label}`;

/** ms within which many changes are kept as one: a dragged part changes the design at every frame. */
const TOGETHER = 100;

/** Keeps in the browser what is not saved, the last of a burst of changes, and that at once when the page is left. */
function keeping(key: string): (unsaved: Unsaved | null) => void {
  let waiting: { unsaved: Unsaved | null; timer: ReturnType<typeof setTimeout> } | null = null;
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
    if (waiting) waiting.unsaved = unsaved;
    else waiting = { unsaved, timer: setTimeout(write, TOGETHER) };
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
      }),
    [slug, label],
  );
  // biome-ignore lint/correctness/useExhaustiveDependencies: looked for once
  useEffect(() => {
    let over = false;
    void get<Unsaved>(keyOf(slug, label))
      .then((left) => {
        // It may have been left by an older release.
        const read = left && designSchema.safeParse(inStates({ ...left.document }));
        if (over || !left || !read?.success || JSON.stringify(read.data) === JSON.stringify(version.design)) return;
        // Frozen meanwhile: what was not saved may go on in a child draft.
        if (version.frozenAt !== null) {
          setPending(read.data);
          return void del(keyOf(slug, label)).catch(() => {});
        }
        // Sent against the revision that it grew from: if somebody saved in between, both states are shown.
        queue.grewFrom(left.revision);
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
