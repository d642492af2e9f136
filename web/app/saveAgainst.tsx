import { useSyncExternalStore } from "react";
import { plainDifference } from "../../core/lineage/plainDifference";
import { Dialog } from "./Dialog";
import { ApiError } from "./client";

interface Question {
  what: string;
  theirs: unknown;
  mine: unknown;
  answer: (keep: "mine" | "theirs" | null) => void;
}

let question: Question | null = null;
const listeners = new Set<() => void>();
function put(next: Question | null): void {
  question = next;
  for (const l of listeners) l();
}
const subscribe = (l: () => void) => {
  listeners.add(l);
  return () => void listeners.delete(l);
};

/** The form stays open as it is: nobody has chosen between the two states. */
export class NotChosen extends Error {
  constructor() {
    super("Not saved yet: choose between the two states when you save again.");
  }
}

export type Saved<T> = { kept: "mine"; revision: number } | { kept: "theirs"; revision: number; value: T };

/**
 * Saves what a form holds against the revision that it was opened with. When somebody else saved in between, both
 * states are shown and one is chosen; nothing is overwritten in silence.
 * @param read the state that the server holds, from its answer to a stale save
 * @throws NotChosen when the question is put aside; ApiError as the server said
 */
export async function saveAgainst<T>({
  what,
  revision,
  mine,
  read,
  send,
}: {
  what: string;
  revision: number;
  mine: T;
  read: (current: unknown) => { revision: number; value: T };
  send: (revision: number) => Promise<{ revision: number }>;
}): Promise<Saved<T>> {
  for (let against = revision; ; ) {
    try {
      return { kept: "mine", revision: (await send(against)).revision };
    } catch (error) {
      if (
        !(error instanceof ApiError) ||
        error.problem.type !== "/problems/stale" ||
        error.problem.current === undefined
      )
        throw error;
      const held = read(error.problem.current);
      const keep = await new Promise<"mine" | "theirs" | null>((answer) =>
        put({ what, theirs: held.value, mine, answer }),
      );
      put(null);
      if (keep === null) throw new NotChosen();
      if (keep === "theirs") return { kept: "theirs", revision: held.revision, value: held.value };
      against = held.revision;
    }
  }
}

/** The question of `saveAgainst`. Stands once in the application. */
export function StaleQuestion() {
  const asked = useSyncExternalStore(subscribe, () => question);
  if (!asked) return null;
  const changes = plainDifference(asked.theirs, asked.mine);
  return (
    <Dialog open wide title={`${asked.what} was saved elsewhere in the meantime`} onClose={() => asked.answer(null)}>
      <p className="mb-2">Where the two states differ. Nothing is saved until you choose.</p>
      <div className="mb-3 max-h-72 overflow-auto border-y border-hair">
        <table className="rows w-full">
          <thead>
            <tr>
              <th className="text-left">what</th>
              <th className="text-left">saved there</th>
              <th className="text-left">here</th>
            </tr>
          </thead>
          <tbody>
            {changes.length === 0 && (
              <tr>
                <td colSpan={3}>They are the same.</td>
              </tr>
            )}
            {changes.map((c) => (
              <tr key={c.at}>
                <td className="pr-2">{c.at}</td>
                <td className="pr-2 text-ink">{c.theirs}</td>
                <td className="text-ink">{c.mine}</td>
              </tr>
            ))}
          </tbody>
        </table>
      </div>
      <p className="flex flex-wrap justify-end gap-2">
        <button type="button" className="act" onClick={() => asked.answer(null)}>
          Go on editing mine
        </button>
        <button type="button" className="act" onClick={() => asked.answer("theirs")}>
          Use the saved version
        </button>
        <button type="button" className="act act-first" onClick={() => asked.answer("mine")}>
          Overwrite with mine
        </button>
      </p>
    </Dialog>
  );
}
