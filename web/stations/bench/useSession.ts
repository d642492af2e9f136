import { useMutation } from "@tanstack/react-query";
import { useEffect, useRef, useState } from "react";
import { toast } from "sonner";
import { type Contract, contracts } from "../../../api/contracts";
import { type Bench, type BenchEntry, type TestKind, benchEntrySchema } from "../../../core/design/bench";
import { call, sayError } from "../../app/client";
import { useDesk } from "../../app/desk";
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
  notes: "",
  files: [],
});

/** What of a kept session a person may change. */
const entryOf = ({
  date,
  weighIn,
  thrust,
  fastThrottle,
  calibration,
  glide,
  free,
  notes,
  files,
}: Bench): BenchEntry => ({
  date,
  weighIn,
  thrust,
  fastThrottle,
  calibration,
  glide,
  free,
  notes,
  files,
});

/**
 * Keeping, saving and deleting a bench session, and what follows when it is done. A stale save is refused and said;
 * nothing entered is lost.
 */
function useSession(
  session: Bench | null,
  touched: boolean,
  onOpen: (number: number | null) => void,
  onKept: () => void,
) {
  const { slug, version, revisions, refresh, flush } = useDesk();
  // The revision that was opened: what is saved elsewhere while something is entered here must not pass for it.
  const held = session ? (revisions.bench[session.number] ?? 0) : 0;
  const opened = useRef(held);
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
  return { keep, remove, after, onError, freshRevision };
}

/**
 * What every session has besides its test: date, notes, pictures, and whether anything was changed since it was kept.
 * `foot` is what its foot needs.
 */
export function useEntry(session: Bench | null, onOpen: (number: number | null) => void) {
  const [entry, setEntry] = useState(() => (session ? entryOf(session) : blankEntry()));
  const [touched, setTouched] = useState(false);
  const actions = useSession(session, touched, onOpen, () => setTouched(false));
  const put = (part: Partial<BenchEntry>) => {
    setTouched(true);
    setEntry({ ...entry, ...part });
  };
  return {
    ...actions,
    entry,
    touched,
    touch: () => setTouched(true),
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
