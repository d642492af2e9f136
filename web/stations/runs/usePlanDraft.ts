import { useEffect, useRef, useState } from "react";
import { toast } from "sonner";
import { z } from "zod";
import { type NewPlan, contracts, newPlanSchema } from "../../../api/contracts";
import type { Plan } from "../../../core/design/craftFile";
import { ApiError, call, sayError } from "../../app/client";
import { useDesk } from "../../app/desk";

/** A plan as the server holds it, in the answer to a stale save. */
const heldSchema = z.object({ revision: z.number(), plan: newPlanSchema });
type Held = z.infer<typeof heldSchema>;

const staleWith = (e: unknown): Held | null =>
  e instanceof ApiError && e.problem.type === "/problems/stale" ? heldSchema.parse(e.problem.current) : null;
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
  useEffect(() => {
    const held = revisions.plans[plan.number] ?? 0;
    // Not while somebody chooses between two states: neither is merged in silence.
    if (held > revision.current && theirs === null) {
      revision.current = held;
      base.current = newPlanSchema.parse(plan);
      setDraft(base.current);
    }
  }, [plan, revisions.plans, theirs]);
  const put = (change: Partial<NewPlan>) => {
    const next = { ...draft, ...change };
    setDraft(next);
    queue.current = queue.current
      .then(async () => {
        const send = (of: NewPlan) =>
          call(contracts.savePlan, {
            params: { slug, number: plan.number },
            body: { revision: revision.current, plan: of },
          });
        const saved = await send(next).catch((e) => {
          const held = staleWith(e);
          // Ticked on its checklist meanwhile, and nothing else: the ticks stay, and what was entered here goes in.
          if (!held || !alikeButTicks(held.plan, base.current)) throw e;
          revision.current = held.revision;
          return send({ ...next, ticks: held.plan.ticks });
        });
        revision.current = saved.revision;
        base.current = next;
        await refresh();
      })
      .catch((e) => {
        const held = staleWith(e);
        if (held) setTheirs(held);
        else toast.error(sayError(e));
      });
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
