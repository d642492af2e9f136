import { useMutation } from "@tanstack/react-query";
import { produce } from "immer";
import { useEffect, useRef, useState } from "react";
import { toast } from "sonner";
import { type Contract, contracts } from "../../../api/contracts";
import { type Bench, type BenchEntry, type TestKind, benchEntrySchema } from "../../../core/design/bench";
import { call, sayError } from "../../app/client";
import { useDesk } from "../../app/desk";
import { useHalfWritten, useKeeping } from "../../app/halfWritten";
import { NotChosen, saveAgainst } from "../../app/saveAgainst";
import { useDelete } from "../../app/useDelete";

export const code = (n: number) => `B-${String(n).padStart(2, "0")}`;

/** An entry with nothing in it yet, dated now. */
const blankEntry = (): Omit<BenchEntry, TestKind> & Pick<Bench, TestKind> => ({
  date: new Date().toISOString(),
  weighIn: null,
  thrust: null,
  fastThrottle: null,
  calibration: null,
  glide: null,
  free: null,
  moment: null,
  pulls: null,
  notes: "",
  files: [],
});

/** What of a kept session a person may change. */
const entryOf = (session: Bench): BenchEntry => benchEntrySchema.parse(session);

/**
 * Keeping, saving and deleting a bench session, and what follows when it is done. A stale save is refused and said;
 * nothing entered is lost.
 */
function useSession(
  session: Bench | null,
  touched: boolean,
  /** The revision that what was left half-written grew from. */
  grewFrom: number | null,
  onOpen: (number: number | null) => void,
  onKept: () => void,
) {
  const { slug, version, revisions, refresh, flush } = useDesk();
  // The revision that was opened: what is saved elsewhere while something is entered here must not pass for it.
  const held = session ? (revisions.bench[session.number] ?? 0) : 0;
  const opened = useRef(grewFrom ?? held);
  useEffect(() => {
    if (!touched && held > opened.current) opened.current = held;
  }, [held, touched]);
  const after = async (said: string) => {
    await refresh();
    toast.success(said);
  };
  const onError = (error: unknown) =>
    void (error instanceof NotChosen ? toast(error.message) : toast.error(sayError(error)));
  const keep = useMutation({
    mutationFn: async (entry: BenchEntry) => {
      const parsed = benchEntrySchema.safeParse(entry);
      if (!parsed.success) throw new Error(`Not kept: ${parsed.error.issues[0]?.message ?? "something is missing"}.`);
      await flush();
      if (session) {
        const saved = await saveAgainst<BenchEntry>({
          what: code(session.number),
          revision: opened.current,
          mine: parsed.data,
          read: (current) => {
            const there = current as { revision: number; session: unknown };
            return { revision: there.revision, value: benchEntrySchema.parse(there.session) };
          },
          send: (revision) =>
            call(contracts.saveBench, {
              params: { slug, number: session.number },
              body: { revision, session: parsed.data },
            }),
        });
        opened.current = saved.revision;
        return saved.kept === "theirs" ? -session.number : session.number;
      }
      return (await call(contracts.createBench, { params: { slug, label: version.label }, body: parsed.data })).number;
    },
    onSuccess: async (number) => {
      onKept();
      if (number < 0) {
        // Theirs was chosen: opened anew as it is saved there.
        await refresh();
        onOpen(null);
        setTimeout(() => onOpen(-number));
        return;
      }
      await after(`${code(number)} kept.`);
      onOpen(number);
    },
    onError,
  });
  const ask = useDelete();
  const remove = async () => {
    if (!session) return;
    const { number } = session;
    if (
      await ask(`Delete ${code(number)}? What was adopted stays in the design.`, `${code(number)} is deleted.`, () =>
        call(contracts.deleteBench, { params: { slug, number } }),
      )
    )
      onOpen(null);
  };
  /** Revision of the version as it is now: it may have moved with the flush. */
  const freshRevision = async () => {
    await flush();
    const { revisions: now } = await call(contracts.getCraft satisfies Contract, { params: { slug } });
    return now.versions[version.label] ?? 0;
  };
  return { keep, remove, after, onError, freshRevision, opened };
}

/** What a session holds while it is filled in: the entry, and its test as the form has it. */
interface Filling<T> {
  entry: ReturnType<typeof blankEntry> | BenchEntry;
  test: T;
}

/** What the form of a session is called among what is half-written. */
export const benchFormName = (session: Bench | null, form: string): string =>
  `bench ${session ? session.number : form}`;

/**
 * What every session has: its test as the form holds it, date, notes, pictures, and whether anything was changed since
 * it was kept. What is neither kept nor thrown away is there again when the form is opened. `head` and `foot` are what
 * its head and foot needs.
 * @param form which new session it is
 * @param begin the test as it is kept, or as a new one begins; null: there is nothing to test yet
 * @param takenUp what was left half-written of a new one, as it is taken up again: a stand is made safe anew
 */
export function useEntry<T>(
  session: Bench | null,
  onOpen: (number: number | null) => void,
  form: string,
  begin: () => T,
  takenUp: (test: T) => T = (test) => test,
) {
  const { slug, version } = useDesk();
  const [fresh] = useState((): Filling<T> => ({ entry: session ? entryOf(session) : blankEntry(), test: begin() }));
  const half = useHalfWritten(slug, version.label, benchFormName(session, form), fresh);
  const [filling, setFilling] = useState(() =>
    half.left ? { ...half.left.value, test: session ? half.left.value.test : takenUp(half.left.value.test) } : fresh,
  );
  const [touched, setTouched] = useState(half.left !== null);
  const { opened, ...actions } = useSession(session, touched, half.left?.revision ?? null, onOpen, () => {
    setTouched(false);
    half.done();
  });
  useKeeping(half, filling, touched, opened.current);
  const { entry, test } = filling;
  const put = (part: Partial<BenchEntry>) => {
    setTouched(true);
    setFilling((f) => ({ ...f, entry: { ...f.entry, ...part } }));
  };
  /** Changes the test; what does not change is not copied, so that readings may come in ten times a second. */
  const change = (mutate: (test: T) => void) => {
    setTouched(true);
    setFilling((f) => ({
      ...f,
      test: produce(f.test, (draft) => {
        mutate(draft as T);
      }),
    }));
  };
  return {
    ...actions,
    entry,
    test,
    change,
    touched,
    /** What was left half-written before the form was opened, and how to begin anew. */
    head: {
      left: half.left,
      onThrow: () => {
        half.done();
        setTouched(false);
        setFilling({ entry: session ? entryOf(session) : blankEntry(), test: begin() });
      },
    },
    foot: {
      session,
      notes: entry.notes,
      files: entry.files,
      touched,
      busy: actions.keep.isPending,
      onNotes: (notes: string) => put({ notes }),
      onFiles: (files: BenchEntry["files"]) => put({ files }),
      onDelete: () => void actions.remove(),
    },
  };
}
