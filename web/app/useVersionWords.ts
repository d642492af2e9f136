import { useMutation, useQueryClient } from "@tanstack/react-query";
import { toast } from "sonner";
import { type CraftRecord, type VersionWords, contracts } from "../../api/contracts";
import { call, sayError } from "./client";
import { useDesk } from "./desk";

/**
 * Saves what is said of the version in view besides its design: words, ladder, reasons, advice, trials, fate. What is
 * not given stays.
 */
export function useVersionWords() {
  const { slug, version, flush, refresh } = useDesk();
  const queries = useQueryClient();
  return useMutation({
    mutationFn: async (words: VersionWords) => {
      await flush();
      // The revision may have moved with what was just sent.
      const revision = queries.getQueryData<CraftRecord>(["craft", slug])?.revisions.versions[version.label] ?? 0;
      await call(contracts.saveVersion, { params: { slug, label: version.label }, body: { revision, ...words } });
    },
    onSuccess: refresh,
    onError: (e) => toast.error(sayError(e)),
  });
}
