import { usualPrice } from "../../../core/design/money";
import { useQuery } from "@tanstack/react-query";
import { useMemo } from "react";
import { contracts } from "../../../api/contracts";
import { SYMPTOMS, type Symptom } from "../../../core/faults/catalogue";
import { call } from "../../app/client";

export const useOwnSymptoms = () =>
  useQuery({ queryKey: ["symptoms"], queryFn: () => call(contracts.listSymptoms, {}) });

/**
 * What ships, with what its tests cost in the money of this workshop; nothing where nobody said what a euro is worth.
 */
const shipped = (): readonly Symptom[] =>
  SYMPTOMS.map((s) =>
    s.causes.some((c) => c.cost > 0)
      ? { ...s, causes: s.causes.map((c) => ({ ...c, cost: Math.round(usualPrice(c.cost) ?? 0) })) }
      : s,
  );

/** The fault catalogue with the entries of one's own first. */
export function useCatalogue(): readonly Symptom[] {
  const { data } = useOwnSymptoms();
  return useMemo(() => [...(data ?? []).map((d) => d.symptom), ...shipped()], [data]);
}
