import { useQuery, useQueryClient } from "@tanstack/react-query";
import { type ReactNode, createContext, useCallback, useContext, useEffect, useMemo, useRef, useState } from "react";
import { useNavigate } from "react-router";
import { toast } from "sonner";
import { type CraftRecord, contracts } from "../../api/contracts";
import type { CraftFile, Version } from "../../core/design/craftFile";
import { type Edited, editDesign } from "../../core/design/edit";
import { type Patch, tryPatch } from "../../core/design/patch";
import { type Design, designSchema } from "../../core/design/schema";
import { type Evaluation, type EvaluationContext, evaluate } from "../../core/evaluate";
import { ApiError, call, sayError } from "./client";

export type SaveState = "saved" | "saving" | "unsaved" | "stale";

/** Everything a station works on: the craft, the version in view, its working design and the one evaluation of it. */
export interface Desk {
  slug: string;
  file: CraftFile;
  revisions: CraftRecord["revisions"];
  version: Version;
  design: Design;
  evaluation: Evaluation;
  /** What of the craft beside the design the evaluation was made with. */
  context: EvaluationContext;
  frozen: boolean;
  /** Design and evaluation with the remedy that is being pointed at; null otherwise. */
  preview: { design: Design; evaluation: Evaluation } | null;
  setPreview: (patch: Patch | null) => void;
  /** Changes the design; returns why it was refused, or null. On a frozen version the change waits for a child draft to be opened. Steps with one key make one undo step. */
  edit: (change: (draft: Design) => void, key?: string) => string | null;
  apply: (patch: Patch) => void;
  undo: (() => void) | null;
  redo: (() => void) | null;
  saveState: SaveState;
  /** Sends what is not saved yet; resolves when the server has it. */
  flush: () => Promise<void>;
  /** A change of a frozen version that waits for its child draft. */
  pending: Design | null;
  setPending: (design: Design | null) => void;
  /** The design that the server holds when a save was refused. */
  conflict: { revision: number; design: Design } | null;
  resolve: (keep: "mine" | "theirs") => void;
  go: (to: { label?: string; station?: string; search?: Record<string, string | null> }) => void;
  refresh: () => Promise<void>;
}

const Context = createContext<Desk | null>(null);

/** What never changes while a version is open: parts of a large drawing or table use this and are drawn again only when they themselves change. */
export interface DeskActions {
  edit: Desk["edit"];
  /** The design as it is now. */
  now: () => Design;
}
const Actions = createContext<DeskActions | null>(null);

export function useDeskActions(): DeskActions {
  const actions = useContext(Actions);
  if (!actions) throw new Error("useDeskActions outside a DeskProvider");
  return actions;
}

export function useDesk(): Desk {
  const desk = useContext(Context);
  if (!desk) throw new Error("useDesk outside a DeskProvider");
  return desk;
}

/** The craft as the server holds it. */
export const useCraft = (slug: string) => useQuery({ queryKey: ["craft", slug], queryFn: () => call(contracts.getCraft, { params: { slug } }) });

const SAVE_AFTER = 500;
const UNDO_STEPS = 200;

interface History {
  past: Design[];
  present: Design;
  future: Design[];
  key: string | undefined;
}

/** Mass of the version that this one grew from, for the growth alarm. */
function parentMassOf(file: CraftFile, version: Version) {
  const parent = file.versions.find((v) => v.label === version.parent);
  const auw = parent && evaluate(parent.design).metrics.auw;
  return parent && auw ? { label: parent.label, mass: auw.value } : null;
}

export function DeskProvider({ record, version, station, children }: { record: CraftRecord; version: Version; station: string; children: ReactNode }) {
  const { slug, file, revisions } = record;
  const queries = useQueryClient();
  const navigate = useNavigate();
  const frozen = version.frozenAt !== null;
  const [history, setHistory] = useState<History>({ past: [], present: version.design, future: [], key: undefined });
  const [saveState, setSaveState] = useState<SaveState>("saved");
  const [previewPatch, setPreview] = useState<Patch | null>(null);
  const [pending, setPending] = useState<Design | null>(null);
  const [conflict, setConflict] = useState<Desk["conflict"]>(null);
  const design = history.present;

  // What the server has: the revision to save against, and the design it belongs to.
  const server = useRef({ revision: revisions.versions[version.label] ?? 0, design: version.design });
  const latest = useRef(design);
  latest.current = design;
  const inFlight = useRef<Promise<void> | null>(null);

  const flush = useCallback(async (): Promise<void> => {
    if (inFlight.current) await inFlight.current;
    if (latest.current === server.current.design) return;
    const sending = latest.current;
    setSaveState("saving");
    const work = call(contracts.saveDesign, { params: { slug, label: version.label }, body: { revision: server.current.revision, design: sending } })
      .then(({ revision }) => {
        server.current = { revision, design: sending };
        queries.setQueryData<CraftRecord>(
          ["craft", slug],
          (held) =>
            held && {
              ...held,
              file: { ...held.file, versions: held.file.versions.map((v) => (v.label === version.label ? { ...v, design: sending } : v)) },
              revisions: { ...held.revisions, versions: { ...held.revisions.versions, [version.label]: revision } },
            },
        );
        setSaveState(latest.current === sending ? "saved" : "unsaved");
      })
      .catch((error: unknown) => {
        if (error instanceof ApiError && error.problem.type === "/problems/stale" && error.problem.current) {
          const current = error.problem.current as { revision: number; design: unknown };
          setConflict({ revision: current.revision, design: designSchema.parse(current.design) });
          setSaveState("stale");
        } else {
          setSaveState("unsaved");
          toast.error(sayError(error));
        }
        throw error;
      })
      .finally(() => {
        inFlight.current = null;
      });
    inFlight.current = work;
    await work;
    if (latest.current !== server.current.design) await flush();
  }, [slug, version.label, queries]);

  useEffect(() => {
    if (conflict) return;
    if (design === server.current.design) {
      // Undone before it was sent: there is nothing to save any more.
      setSaveState((s) => (s === "unsaved" ? "saved" : s));
      return;
    }
    setSaveState((s) => (s === "saving" ? s : "unsaved"));
    const timer = setTimeout(() => void flush().catch(() => {}), SAVE_AFTER);
    return () => clearTimeout(timer);
  }, [design, flush, conflict]);

  // Saved in another window while nothing is unsaved here: take it over.
  const heldRevision = revisions.versions[version.label] ?? 0;
  useEffect(() => {
    if (heldRevision <= server.current.revision || latest.current !== server.current.design || inFlight.current) return;
    server.current = { revision: heldRevision, design: version.design };
    // Only words about the version were saved: nothing of the design is there to be undone.
    setHistory((h) =>
      JSON.stringify(h.present) === JSON.stringify(version.design)
        ? { ...h, present: version.design }
        : { past: [...h.past, h.present], present: version.design, future: [], key: undefined },
    );
  }, [heldRevision, version.design]);

  useEffect(() => {
    const warn = (event: BeforeUnloadEvent) => {
      if (latest.current !== server.current.design) event.preventDefault();
    };
    window.addEventListener("beforeunload", warn);
    return () => {
      window.removeEventListener("beforeunload", warn);
      if (latest.current !== server.current.design) void flush().catch(() => {});
    };
  }, [flush]);

  const put = useCallback((next: Design, key?: string) => {
    setHistory((h) => ({
      past: key !== undefined && key === h.key ? h.past : [...h.past, h.present].slice(-UNDO_STEPS),
      present: next,
      future: [],
      key,
    }));
  }, []);

  const take = useCallback(
    (edited: Edited, key?: string): string | null => {
      if (!edited.ok) {
        toast.error(`Not changed: ${edited.message}`);
        return edited.message;
      }
      if (frozen) setPending(edited.design);
      else if (edited.design !== latest.current) put(edited.design, key);
      return null;
    },
    [frozen, put],
  );
  const edit = useCallback((mutate: (draft: Design) => void, key?: string) => take(editDesign(latest.current, mutate), key), [take]);
  const actions = useMemo((): DeskActions => ({ edit, now: () => latest.current }), [edit]);

  const context = useMemo(() => ({ parentMass: parentMassOf(file, version) }), [file, version]);
  const evaluation = useMemo(() => evaluate(design, context), [design, context]);
  const preview = useMemo(() => {
    if (!previewPatch) return null;
    const changed = tryPatch(design, previewPatch);
    return changed && { design: changed, evaluation: evaluate(changed, context) };
  }, [previewPatch, design, context]);

  const desk: Desk = {
    slug,
    file,
    revisions,
    version,
    design,
    evaluation,
    context,
    frozen,
    preview,
    setPreview,
    edit,
    apply: (patch) => {
      setPreview(null);
      const changed = tryPatch(design, patch);
      if (changed) take({ ok: true, design: changed });
      else toast.error("Not changed: this would be beyond what can be entered.");
    },
    undo:
      history.past.length > 0
        ? () => setHistory((h) => ({ past: h.past.slice(0, -1), present: h.past.at(-1) ?? h.present, future: [h.present, ...h.future], key: undefined }))
        : null,
    redo:
      history.future.length > 0 ? () => setHistory((h) => ({ past: [...h.past, h.present], present: h.future[0] ?? h.present, future: h.future.slice(1), key: undefined })) : null,
    saveState,
    flush,
    pending,
    setPending,
    conflict,
    resolve: (keep) => {
      if (!conflict) return;
      server.current = { revision: conflict.revision, design: conflict.design };
      setConflict(null);
      if (keep === "theirs") setHistory((h) => ({ past: [...h.past, h.present], present: conflict.design, future: [], key: undefined }));
      else setHistory((h) => ({ ...h, present: structuredClone(h.present) }));
      setSaveState(keep === "theirs" ? "saved" : "unsaved");
    },
    go: ({ label = version.label, station: to = station, search = {} }) => {
      const query = new URLSearchParams();
      for (const [k, v] of Object.entries(search)) if (v !== null) query.set(k, v);
      const tail = query.size > 0 ? `?${query}` : "";
      void navigate(`/craft/${slug}/${label}/${to}${tail}`);
    },
    refresh: async () => {
      await queries.invalidateQueries({ queryKey: ["craft", slug] });
      void queries.invalidateQueries({ queryKey: ["crafts"] });
    },
  };
  return (
    <Actions.Provider value={actions}>
      <Context.Provider value={desk}>{children}</Context.Provider>
    </Actions.Provider>
  );
}
