import { useEffect, useRef, useState } from "react";
import { toast } from "sonner";
import { type NewPlan, contracts, newPlanSchema } from "../../../api/contracts";
import type { Plan } from "../../../core/design/craftFile";
import { call, sayError } from "../../app/client";
import { useDesk } from "../../app/desk";
import { type Held, sendOver, staleWith } from "./planSaving";

const alikeButTicks = (a: NewPlan, b: NewPlan): boolean =>
  JSON.stringify({ ...a, ticks: [] }) === JSON.stringify({ ...b, ticks: [] });

/**
 * A plan while it is edited: each change is saved at once, against the revision that the last one left. A stale save
 * is refused and both states stand beside one another until somebody chooses.
 */
export function usePlanDraft(plan: Plan) {
  const { slug, revisions, refresh } = useDesk();
  const [draft, setDraft] = useState<NewPlan>(() => newPlanSchema.parse(plan));
  const revision = useRef(revisions.plans[plan.number] ?? 0);
  const queue = useRef<Promise<unknown>>(Promise.resolve());
  /** As the server was known to hold it when this page saved last. */
  const base = useRef<NewPlan>(draft);
  const [theirs, setTheirs] = useState<Held | null>(null);
  /** Saves that are under way: what is read meanwhile does not take the place of what was just entered. */
  const under = useRef(0);
  useEffect(() => {
    const held = revisions.plans[plan.number] ?? 0;
    // Not while somebody chooses between two states: neither is merged in silence.
    if (held > revision.current && theirs === null && under.current === 0) {
      revision.current = held;
      base.current = newPlanSchema.parse(plan);
      setDraft(base.current);
    }
  }, [plan, revisions.plans, theirs]);
  const put = (change: Partial<NewPlan>) => {
    const next = { ...draft, ...change };
    setDraft(next);
    under.current++;
    queue.current = queue.current
      .then(async () => {
        // Ticks belong to its checklist: they go as the server was known to hold them, never as they stood here.
        const send = () => {
          const sent = { ...next, ticks: base.current.ticks };
          return call(contracts.savePlan, {
            params: { slug, number: plan.number },
            body: { revision: revision.current, plan: sent },
          }).then((saved) => {
            revision.current = saved.revision;
            base.current = sent;
          });
        };
        await sendOver(send, (held) => {
          // Ticked on its checklist meanwhile, and nothing else: what was entered here goes in.
          if (!alikeButTicks(held.plan, base.current)) return null;
          revision.current = held.revision;
          base.current = held.plan;
          return send;
        });
        await refresh();
      })
      .catch((e) => {
        const held = staleWith(e);
        if (held) setTheirs(held);
        else toast.error(sayError(e));
      })
      .finally(() => under.current--);
  };
  /** What the server holds since somebody else saved it; nothing while nobody did. */
  const settleWith = (held: Held, mine: boolean) => {
    revision.current = held.revision;
    base.current = held.plan;
    setTheirs(null);
    if (mine) put({});
    else {
      setDraft(held.plan);
      void refresh();
    }
  };
  /** Resolves when what was entered so far is on the server, or refused. */
  const settled = () => queue.current;
  return { draft, put, theirs, settleWith, settled };
}
