import { useMutation } from "@tanstack/react-query";
import { useState } from "react";
import { toast } from "sonner";
import { type Contract, contracts } from "../../../api/contracts";
import { type Bench, type BenchEntry, benchEntrySchema } from "../../../core/design/bench";
import { call, sayError } from "../../app/client";
import { useDesk } from "../../app/desk";
import { useDelete } from "../../app/useDelete";

export const code = (n: number) => `B-${String(n).padStart(2, "0")}`;

/** An entry with nothing in it yet, dated now. */
const blankEntry = (): Omit<BenchEntry, "weighIn" | "thrust" | "fastThrottle" | "calibration"> & Pick<Bench, "weighIn" | "thrust" | "fastThrottle" | "calibration"> => ({
  date: new Date().toISOString(),
  weighIn: null,
  thrust: null,
  fastThrottle: null,
  calibration: null,
  notes: "",
  files: [],
});

/** What of a kept session a person may change. */
const entryOf = ({ date, weighIn, thrust, fastThrottle, calibration, notes, files }: Bench): BenchEntry => ({
  date,
  weighIn,
  thrust,
  fastThrottle,
  calibration,
  notes,
  files,
});

/** Keeping, saving and deleting a bench session, and what follows when it is done. A stale save is refused and said; nothing entered is lost. */
function useSession(session: Bench | null, onOpen: (number: number | null) => void, onKept: () => void) {
  const { slug, version, revisions, refresh, flush } = useDesk();
  const after = async (said: string) => {
    await refresh();
    toast.success(said);
  };
  const onError = (error: unknown) => void toast.error(sayError(error));
  const keep = useMutation({
    mutationFn: async (entry: BenchEntry) => {
      const parsed = benchEntrySchema.safeParse(entry);
      if (!parsed.success) throw new Error(`Not kept: ${parsed.error.issues[0]?.message ?? "something is missing"}.`);
      await flush();
      if (session) {
        await call(contracts.saveBench, { params: { slug, number: session.number }, body: { revision: revisions.bench[session.number] ?? 0, session: parsed.data } });
        return session.number;
      }
      return (await call(contracts.createBench, { params: { slug, label: version.label }, body: parsed.data })).number;
    },
    onSuccess: async (number) => {
      onKept();
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
      await ask(`Delete ${code(number)}? What was taken over stays in the design.`, `${code(number)} is deleted.`, () => call(contracts.deleteBench, { params: { slug, number } }))
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

/** What every session has besides its test: date, notes, pictures, and whether anything was changed since it was kept. `foot` is what its foot needs. */
export function useEntry(session: Bench | null, onOpen: (number: number | null) => void) {
  const [entry, setEntry] = useState(() => (session ? entryOf(session) : blankEntry()));
  const [touched, setTouched] = useState(false);
  const actions = useSession(session, onOpen, () => setTouched(false));
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
