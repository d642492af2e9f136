import { resultIn } from "../../../../core/evaluate";
import { extent } from "../../../../core/subjects/extent/node";
import { useMutation } from "@tanstack/react-query";
import { useEffect, useState } from "react";
import { contracts } from "../../../../api/contracts";
import type { Bench, WeighInKind } from "../../../../core/design/bench";
import type { MassEvidence } from "../../../../core/subjects/mass/evidence";
import { KIND_WORD } from "../../../../core/wording/bench";
import { call } from "../../../app/client";
import { HalfLine } from "../../../app/HalfLine";
import { useDesk } from "../../../app/desk";
import { ClipboardSheet } from "../ClipboardSheet";
import { SessionFoot } from "../SessionFoot";
import { useEntry } from "../useSession";
import { Result } from "./Result";
import { WeighInForm } from "./WeighInForm";
import { draftOf, finish, newDraft } from "./weighInDraft";

/**
 * The state in which a craft with several is weighed: the first, whose places and masses the mass list holds. It is
 * looked at as long as the session is open, so that what was weighed is held against what it was weighed as. Null for a
 * craft with one state.
 */
function useSetUpAs(): string | null {
  const { design, state, look } = useDesk();
  const [first] = design.states;
  useEffect(() => {
    if (first && first.id !== state.id) look(first.id);
  }, [first, state.id, look]);
  return design.states.length > 1 && first ? first.name : null;
}

/** One weigh-in, new or kept: form, result, and what may be taken over. */
export function WeighInSession({
  session,
  kind,
  onOpen,
}: {
  session: Bench | null;
  kind: WeighInKind;
  onOpen: (number: number | null) => void;
}) {
  const { slug, evaluation, design } = useDesk();
  const setUpAs = useSetUpAs();
  const [asked, setAsked] = useState(false);
  const {
    keep,
    after,
    onError,
    freshRevision,
    entry,
    test: draft,
    change,
    touched,
    head,
    foot,
  } = useEntry(session, onOpen, kind, () =>
    session?.weighIn
      ? draftOf(session.weighIn, resultIn(evaluation, extent))
      : newDraft(kind, resultIn(evaluation, extent)),
  );
  const done = finish(draft);
  const adopt = useMutation({
    mutationFn: async ({ evidence, said }: { evidence: MassEvidence; said: string }) => {
      if (!session) throw new Error("Keep the session first.");
      await call(contracts.adopt, {
        params: { slug, number: session.number },
        body: { revision: await freshRevision(), evidence, said },
      });
      return said;
    },
    onSuccess: (said) => after(`Taken into the ledger: ${said}.`),
    onError,
  });
  const form = (
    <>
      {setUpAs !== null && (
        <p className="mb-2 text-care">
          Set it up as in {setUpAs}: what is found goes into the mass list, which is of that state.
        </p>
      )}
      <WeighInForm draft={draft} onChange={change} />
      <SessionFoot
        {...foot}
        missing={!done.ok && asked ? done.why : null}
        onKeep={() => (done.ok ? keep.mutate({ ...entry, weighIn: done.weighIn }) : setAsked(true))}
      />
      <ClipboardSheet
        title={KIND_WORD[kind]}
        columns={["reading 1", "reading 2", "reading 3"]}
        rows={
          kind === "parts"
            ? design.items.map((i) => i.name)
            : kind === "level-and-tilted"
              ? ["Level, front", "Level, rear", "Tilted, front", "Tilted, rear", "Angle"]
              : kind === "knife-edge"
                ? ["Balances at x"]
                : kind === "total"
                  ? ["On the scale"]
                  : draft.at.map((_, i) => `Scale ${i + 1}`)
        }
      />
    </>
  );
  const result = done.ok && (
    <Result
      weighed={done.weighIn}
      session={touched ? null : session}
      busy={adopt.isPending}
      onAdopt={(evidence, said) => adopt.mutate({ evidence, said })}
    />
  );
  // A kept session opens on what it says; a new one on what to do.
  return session ? (
    <>
      <HalfLine {...head} />
      {result}
      <section aria-label="Readings" className="mt-5 border-t border-hair pt-3">
        <h2 className="mb-2">Set-up and readings</h2>
        {form}
      </section>
    </>
  ) : (
    <>
      <HalfLine {...head} />
      {form}
      {result && <div className="mt-4 border-t border-ink pt-3">{result}</div>}
    </>
  );
}
