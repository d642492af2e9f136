import { useQuery } from "@tanstack/react-query";
import { useMemo } from "react";
import { contracts } from "../../../api/contracts";
import { SYMPTOMS, type Symptom } from "../../../core/faults/catalogue";
import { call } from "../../app/client";

export const useOwnSymptoms = () =>
  useQuery({ queryKey: ["symptoms"], queryFn: () => call(contracts.listSymptoms, {}) });

/** The fault catalogue with the entries of one's own first. */
export function useCatalogue(): readonly Symptom[] {
  const { data } = useOwnSymptoms();
  return useMemo(() => (data && data.length > 0 ? [...data.map((d) => d.symptom), ...SYMPTOMS] : SYMPTOMS), [data]);
}
