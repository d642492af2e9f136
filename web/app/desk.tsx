import { useQuery, useQueryClient } from "@tanstack/react-query";
import {
  type Dispatch,
  type ReactNode,
  type SetStateAction,
  createContext,
  startTransition,
  useCallback,
  useContext,
  useDeferredValue,
  useEffect,
  useMemo,
  useRef,
  useState,
  useSyncExternalStore,
} from "react";
import { useNavigate } from "react-router";
import { toast } from "sonner";
import { type CraftRecord, contracts } from "../../api/contracts";
import type { CraftFile, Version } from "../../core/design/craftFile";
import { type Edited, editDesign } from "../../core/design/edit";
import { inState, movedBy, patchFor, placeInState } from "../../core/design/inState";
import { type Patch, tryPatch } from "../../core/design/patch";
import type { Design, Point, State } from "../../core/design/schema";
import { type Evaluation, type EvaluationContext, evaluate, parentMassOf } from "../../core/evaluate";
import { call } from "./client";
import type { SaveState } from "./saveQueue";
import { stepNow } from "./oneStep";
import { readAnswers } from "./keptAnswers";
import { useEvaluation } from "./useEvaluation";
import { useKeptHistory } from "./useKeptHistory";
import { useLookedAt } from "./useLookedAt";
import { useSaveQueue } from "./useSaveQueue";

/** Everything a station works on: the craft, the version in view, its working design and the one evaluation of it. */
export interface Desk {
  slug: string;
  file: CraftFile;
  revisions: CraftRecord["revisions"];
  version: Version;
  /** as it is entered, whatever state is looked at: forms show and change this one */
  design: Design;
  /** the state that is looked at, and the design as it is in it: what is computed and drawn is of this one */
  state: State;
  seen: Design;
  look: (stateId: string) => void;
  evaluation: Evaluation;
  /** What of the craft beside the design the evaluation was made with. */
  context: EvaluationContext;
  frozen: boolean;
  /** Design and evaluation with the remedy that is being pointed at; null otherwise. */
  preview: { design: Design; evaluation: Evaluation } | null;
  setPreview: (patch: Patch | null) => void;
  /**
   * Changes the design; returns why it was refused, or null. On a frozen version the change waits for a child draft
   * to be opened. Steps with one key make one undo step.
   */
  edit: (change: (draft: Design) => void, key?: string) => string | null;
  apply: (patch: Patch) => void;
  undo: (() => void) | null;
  redo: (() => void) | null;
  /** Names the stream of changes that the last one belongs to, a drag for example; undefined: it stands by itself. */
  stream: string | undefined;
  /** Where the saving stands. */
  save: SaveState<Design>;
  /** Sends what is not saved yet; resolves when the server has it. */
  flush: () => Promise<void>;
  /** A change of a frozen version that waits for its child draft. */
  pending: Design | null;
  setPending: (design: Design | null) => void;
  /** What would stand if a stale save were decided one way or the other, and the decision. */
  settled: (keep: "mine" | "theirs") => Design;
  resolve: (keep: "mine" | "theirs") => void;
  go: (to: { label?: string; station?: string; search?: Record<string, string | null> }) => void;
  refresh: () => Promise<void>;
}

const Context = createContext<Desk | null>(null);
const Calm = { frame: createContext<Desk | null>(null), sheet: createContext<Desk | null>(null) };

/**
 * What never changes while a version is open: parts of a large drawing or table use this and are drawn again only
 * when they themselves change.
 */
export interface DeskActions {
  edit: Desk["edit"];
  /** The design as it is now, as it is entered, and in the state that is looked at. */
  now: () => Design;
  here: () => Design;
  /** Puts a part where the state that is looked at shall have it; false where it says nothing of the part. */
  placeHere: (draft: Design, itemId: string, at: Partial<Point>) => boolean;
  /** How far a part stands there from its place in the mass list; null: it stands there. */
  movedHere: (itemId: string) => Point | null;
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

/** What may follow a drag a little later: what stands around the page, and what stands below the drawing. */
type CalmPlace = keyof typeof Calm;

/**
 * The desk for what may follow a drag a little later: a few times a second while a stream of changes goes on, at once
 * otherwise. What shows the thing itself that is dragged uses the desk.
 */
export function useCalmDesk(place: CalmPlace): Desk {
  const desk = useContext(Calm[place]);
  if (!desk) throw new Error("useCalmDesk outside a DeskProvider");
  return desk;
}

/**
 * Design and evaluation for what stands around the page: drawn in pieces after the page itself, so that a key is
 * answered before all verdicts are.
 */
export function useLaterDesk(): Pick<Desk, "design" | "seen" | "evaluation"> {
  const { design, seen, evaluation } = useCalmDesk("frame");
  return useDeferredValue(useMemo(() => ({ design, seen, evaluation }), [design, seen, evaluation]));
}

/** ms between two drawings of one place or the other during a stream of changes: faster than this no number is read. */
const PACE = 125;

function CalmDesk({ children }: { children: ReactNode }) {
  const desk = useDesk();
  const [held, setHeld] = useState({ frame: desk, sheet: desk });
  const newest = useRef(desk);
  newest.current = desk;
  const last = useRef<{ place: CalmPlace; at: number }>({ place: "sheet", at: 0 });
  const alone = desk.stream === undefined || desk.stream !== held[last.current.place].stream;
  useEffect(() => {
    if (held.frame === desk && held.sheet === desk) return;
    if (alone) {
      last.current.at = performance.now();
      setHeld({ frame: desk, sheet: desk });
      return;
    }
    // In turns and between the frames of what is dragged: neither is drawn with the other in one frame.
    const timer = setTimeout(
      () => {
        const place = last.current.place === "frame" ? "sheet" : "frame";
        last.current = { place, at: performance.now() };
        startTransition(() => setHeld((h) => ({ ...h, [place]: newest.current })));
      },
      Math.max(0, last.current.at + PACE - performance.now()),
    );
    return () => clearTimeout(timer);
  });
  return (
    <Calm.frame.Provider value={alone ? desk : held.frame}>
      <Calm.sheet.Provider value={alone ? desk : held.sheet}>{children}</Calm.sheet.Provider>
    </Calm.frame.Provider>
  );
}

/** The craft as the server holds it; read again whenever somebody comes back to the page: a phone may have saved. */
export const useCraft = (slug: string) =>
  useQuery({
    queryKey: ["craft", slug],
    queryFn: async () => (await Promise.all([call(contracts.getCraft, { params: { slug } }), readAnswers(slug)]))[0],
    refetchOnWindowFocus: "always",
  });

/** The version that the address names: one that was just opened, while the one before is still drawn. */
const labelNow = (slug: string): string | null => {
  const [, craft, of, label] = location.pathname.split("/");
  return craft === "craft" && of === slug && label ? decodeURIComponent(label) : null;
};

const UNDO_STEPS = 200;

export interface History {
  past: Design[];
  present: Design;
  future: Design[];
  key: string | undefined;
}

/** What can be taken back and brought again, one step at a time. */
function useHistory(first: Design) {
  const [history, setHistory] = useState<History>({ past: [], present: first, future: [], key: undefined });
  const put = useCallback((next: Design, key?: string) => {
    setHistory((h) => ({
      past: key !== undefined && key === h.key ? h.past : [...h.past, h.present].slice(-UNDO_STEPS),
      present: next,
      future: [],
      key,
    }));
  }, []);
  const undo = () =>
    setHistory((h) => ({
      past: h.past.slice(0, -1),
      present: h.past.at(-1) ?? h.present,
      future: [h.present, ...h.future],
      key: undefined,
    }));
  const redo = () =>
    setHistory((h) => ({
      past: [...h.past, h.present],
      present: h.future[0] ?? h.present,
      future: h.future.slice(1),
      key: undefined,
    }));
  return {
    history,
    setHistory,
    put,
    undo: history.past.length > 0 ? undo : null,
    redo: history.future.length > 0 ? redo : null,
  };
}

/** What was saved in another window while nothing is unsaved here is taken over. */
function useSavedElsewhere(
  { revisions }: CraftRecord,
  version: Version,
  queue: ReturnType<typeof useSaveQueue>[0],
  restored: boolean,
  setHistory: Dispatch<SetStateAction<History>>,
): void {
  const heldRevision = revisions.versions[version.label] ?? 0;
  useEffect(() => {
    if (!restored || heldRevision <= queue.revision() || queue.unsaved() || queue.now().at === "sending") return;
    queue.took(heldRevision, version.design);
    // Only words about the version were saved: nothing of the design is there to be undone.
    setHistory((h) =>
      JSON.stringify(h.present) === JSON.stringify(version.design)
        ? { ...h, present: version.design }
        : { past: [...h.past, h.present], present: version.design, future: [], key: undefined },
    );
  }, [heldRevision, version.design, queue, restored, setHistory]);
}

/** Design and evaluation with a remedy in it, in the state that is looked at. */
function usePreview(
  design: Design,
  state: State,
  previewPatch: Patch | null,
  context: EvaluationContext,
): Desk["preview"] {
  return useMemo(() => {
    if (!previewPatch) return null;
    const own = patchFor(design, state.id, previewPatch);
    const changed = own && tryPatch(design, own);
    if (!changed) return null;
    const then = inState(changed, state.id);
    return { design: then, evaluation: evaluate(then, context) };
  }, [previewPatch, design, context, state]);
}

export function DeskProvider({
  record,
  version,
  station,
  children,
}: {
  record: CraftRecord;
  version: Version;
  station: string;
  children: ReactNode;
}) {
  const { slug, file, revisions } = record;
  const queries = useQueryClient();
  const navigate = useNavigate();
  const frozen = version.frozenAt !== null;
  const { history, setHistory, put, undo, redo } = useHistory(version.design);
  const [previewPatch, setPreview] = useState<Patch | null>(null);
  const [pending, setPending] = useState<Design | null>(null);
  const design = history.present;

  const latest = useRef(design);
  latest.current = design;
  const [queue, restored] = useSaveQueue(record, version, setHistory, setPending);
  const save = useSyncExternalStore(
    useCallback((heard) => queue.listen(heard), [queue]),
    () => queue.now(),
  );
  useEffect(() => queue.put(design), [queue, design]);

  useSavedElsewhere(record, version, queue, restored, setHistory);
  useKeptHistory(slug, version.label, history, setHistory, restored && !frozen);

  const take = useCallback(
    (edited: Edited, key?: string): string | null => {
      if (!edited.ok) {
        // Of many at once each stands at its own field.
        if (stepNow() === undefined) toast.error(`Not changed: ${edited.message}`);
        return edited.message;
      }
      if (frozen) setPending(edited.design);
      else if (edited.design !== latest.current) {
        // A second change in the same turn starts from this one, not from what was last drawn.
        latest.current = edited.design;
        put(edited.design, key ?? stepNow());
      }
      return null;
    },
    [frozen, put],
  );
  const edit = useCallback(
    (mutate: (draft: Design) => void, key?: string) => take(editDesign(latest.current, mutate), key),
    [take],
  );
  const { state, look } = useLookedAt(slug, design);
  const actions = useMemo(
    (): DeskActions => ({
      edit,
      now: () => latest.current,
      here: () => inState(latest.current, state.id),
      placeHere: (draft, itemId, at) => placeInState(draft, state.id, itemId, at),
      movedHere: (itemId) => movedBy(latest.current, state.id, itemId),
    }),
    [edit, state.id],
  );

  const parent = file.versions.find((v) => v.label === version.parent);
  const context = useMemo(() => ({ parentMass: parentMassOf(parent) }), [parent]);
  const seen = useMemo(() => inState(design, state.id), [design, state]);
  const evaluation = useEvaluation(seen, context, `${slug} ${version.label} ${state.id}`, history.key);
  const preview = usePreview(design, state, previewPatch, context);

  const desk: Desk = {
    slug,
    file,
    revisions,
    version,
    design,
    state,
    seen,
    look,
    evaluation,
    context,
    frozen,
    preview,
    setPreview,
    edit,
    apply: (patch) => {
      setPreview(null);
      const own = patchFor(latest.current, state.id, patch);
      if (!own) return void toast.error(`Not changed: this is said of the state “${state.name}”, in Brief.`);
      const changed = tryPatch(latest.current, own);
      if (changed) take({ ok: true, design: changed });
      else toast.error("Not changed: this would be beyond what can be entered.");
    },
    undo,
    redo,
    stream: history.key,
    save,
    flush: () => queue.flush(),
    pending,
    setPending,
    settled: (keep) => queue.settled(keep),
    resolve: (keep) => {
      const stands = queue.resolve(keep);
      if (stands !== latest.current) put(stands);
    },
    go: ({ label = labelNow(slug) ?? version.label, station: to = station, search = {} }) => {
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
      <Context.Provider value={desk}>
        <CalmDesk>{children}</CalmDesk>
      </Context.Provider>
    </Actions.Provider>
  );
}
