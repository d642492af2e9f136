import { useMutation } from "@tanstack/react-query";
import { useEffect, useRef, useState } from "react";
import { toast } from "sonner";
import { type NewPlan, contracts, newPlanSchema } from "../../../api/contracts";
import type { Plan } from "../../../core/design/craftFile";
import { call, sayError } from "../../app/client";
import { useDesk } from "../../app/desk";
import { sendOver } from "./planSaving";

const toggled = (list: readonly string[], id: string) =>
  list.includes(id) ? list.filter((x) => x !== id) : [...list, id];
const same = (a: readonly string[], b: readonly string[]) => a.length === b.length && a.every((x) => b.includes(x));

/**
 * Ticks of a checklist that belong to a planned run: saved with it, so that everybody sees them. What is ticked while
 * a save is on its way goes with the next one.
 */
export function usePlanTicks(
  plan: Plan | undefined,
): [ticks: ReadonlySet<string>, tick: (id: string) => void, clear: () => void] {
  const { slug, revisions, refresh } = useDesk();
  const [wanted, setWanted] = useState<readonly string[] | null>(null);
  const held = plan?.ticks ?? [];
  /** As this page saved them last: the desk may hear of it later. */
  const ours = useRef<readonly string[]>(held);
  const save = useMutation({
    mutationFn: async (ticks: readonly string[]) => {
      if (!plan) return;
      const { number } = plan;
      const send = (revision: number, of: NewPlan) => () =>
        call(contracts.savePlan, { params: { slug, number }, body: { revision, plan: { ...of, ticks: [...ticks] } } });
      // Saved meanwhile, most often by its own sheet a moment ago: the ticks go with what it holds now, unless it was
      // ticked there too.
      await sendOver(send(revisions.plans[number] ?? 0, newPlanSchema.parse(plan)), (now) =>
        same(now.plan.ticks, plan.ticks) || same(now.plan.ticks, ours.current) ? send(now.revision, now.plan) : null,
      );
      ours.current = ticks;
      await refresh();
    },
    onError: async (e) => {
      toast.error(sayError(e));
      setWanted(null);
      await refresh();
    },
  });
  const { mutate, isPending } = save;
  useEffect(() => {
    if (wanted === null || isPending) return;
    // Only what was looked at is done with: what was ticked since stays wanted.
    if (same(wanted, held)) setWanted((now) => (now === wanted ? null : now));
    else mutate(wanted);
  }, [wanted, held, isPending, mutate]);
  const ticks = wanted ?? held;
  return [
    new Set(ticks),
    // From what is wanted by now, not from what was drawn last: two ticks may come before the next drawing.
    (id) => setWanted((now) => toggled(now ?? held, id)),
    () => setWanted([]),
  ];
}
