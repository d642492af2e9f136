import { useMutation } from "@tanstack/react-query";
import { toast } from "sonner";
import { contracts, newPlanSchema } from "../../../api/contracts";
import type { Plan } from "../../../core/design/craftFile";
import { call, sayError } from "../../app/client";
import { useDesk } from "../../app/desk";

/** Ticks of a checklist that belong to a planned run: saved with it, so that everybody sees them. */
export function usePlanTicks(plan: Plan | undefined): [ticks: ReadonlySet<string>, tick: (id: string) => void, clear: () => void] {
  const { slug, revisions, refresh } = useDesk();
  const save = useMutation({
    mutationFn: async (ticks: string[]) => {
      if (!plan) return;
      const body = { revision: revisions.plans[plan.number] ?? 0, plan: { ...newPlanSchema.parse(plan), ticks } };
      await call(contracts.savePlan, { params: { slug, number: plan.number }, body });
    },
    onSettled: refresh,
    onError: (e) => toast.error(sayError(e)),
  });
  // While one is on its way it is shown as if it had arrived.
  const ticks = save.isPending ? save.variables : (plan?.ticks ?? []);
  return [new Set(ticks), (id) => !save.isPending && save.mutate(ticks.includes(id) ? ticks.filter((x) => x !== id) : [...ticks, id]), () => save.mutate([])];
}
