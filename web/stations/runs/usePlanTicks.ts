import { useMutation } from "@tanstack/react-query";
import { useEffect, useState } from "react";
import { toast } from "sonner";
import { contracts, newPlanSchema } from "../../../api/contracts";
import type { Plan } from "../../../core/design/craftFile";
import { call, sayError } from "../../app/client";
import { useDesk } from "../../app/desk";

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
  const save = useMutation({
    mutationFn: async (ticks: readonly string[]) => {
      if (!plan) return;
      const body = {
        revision: revisions.plans[plan.number] ?? 0,
        plan: { ...newPlanSchema.parse(plan), ticks: [...ticks] },
      };
      await call(contracts.savePlan, { params: { slug, number: plan.number }, body });
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
    if (same(wanted, held)) setWanted(null);
    else mutate(wanted);
  }, [wanted, held, isPending, mutate]);
  const ticks = wanted ?? held;
  return [
    new Set(ticks),
    (id) => setWanted(ticks.includes(id) ? ticks.filter((x) => x !== id) : [...ticks, id]),
    () => setWanted([]),
  ];
}
