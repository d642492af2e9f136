import { useMutation } from "@tanstack/react-query";
import { toast } from "sonner";
import { type VersionWords, contracts } from "../../api/contracts";
import { call, sayError } from "./client";
import { useDesk } from "./desk";

/** Saves what is said of the version in view besides its design: words, ladder, reasons, advice, trials, fate. What is not given stays. */
export function useVersionWords() {
  const { slug, version, revisions, flush, refresh } = useDesk();
  return useMutation({
    mutationFn: async (words: VersionWords) => {
      await flush();
      await call(contracts.saveVersion, { params: { slug, label: version.label }, body: { revision: revisions.versions[version.label] ?? 0, ...words } });
    },
    onSuccess: refresh,
    onError: (e) => toast.error(sayError(e)),
  });
}
