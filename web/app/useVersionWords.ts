import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useEffect, useState } from "react";
import { toast } from "sonner";
import { type CraftRecord, type VersionWords, contracts } from "../../api/contracts";
import type { Version } from "../../core/design/craftFile";
import { sameData } from "../../core/numeric/sameData";
import { ApiError, call, sayError } from "./client";
import { useDesk } from "./desk";
import { forgetHalf, keepHalf, keyOf, leftOf, useHalves } from "./halfWritten";
import { unanswered } from "./outbox";

/** Where words that no server has taken yet lie among what is half-written. */
const UNSENT = "words not sent";
/** ms after which they are sent again. */
const AGAIN = 4000;

/** Words as they were written, and what stood in their places then: what somebody else wrote meanwhile shows by it. */
interface Unsent {
  words: VersionWords;
  grewFrom: VersionWords;
}
const unsentOf = (key: string): Unsent | null => (leftOf(key)?.value as Unsent | undefined) ?? null;
const placesOf = (version: Version, words: VersionWords): VersionWords =>
  Object.fromEntries(Object.keys(words).map((k) => [k, version[k as keyof VersionWords]]));

/** The craft as the page holds it, with these words of a version already in it. */
function withWords(held: CraftRecord | undefined, label: string, words: VersionWords): CraftRecord | undefined {
  return (
    held && {
      ...held,
      file: {
        ...held.file,
        versions: held.file.versions.map((v) => (v.label === label ? { ...v, ...words } : v)),
      },
    }
  );
}

/**
 * Saves what is said of the version in view besides its design: words, ladder, reasons, advice, trials, fate. What is
 * not given stays. What no server answers is kept in this browser, stands in the page, and is sent later; what a server
 * refuses is said.
 */
export function useVersionWords() {
  const { slug, version, flush, refresh } = useDesk();
  const queries = useQueryClient();
  const key = keyOf(slug, version.label, UNSENT);
  return useMutation({
    mutationFn: async (words: VersionWords) => {
      const before = unsentOf(key);
      const all = { ...before?.words, ...words };
      // Written down before anything is asked: whatever happens next, it is there.
      keepHalf(key, { words: all, grewFrom: { ...placesOf(version, words), ...before?.grewFrom } } satisfies Unsent, 0);
      const later = () => {
        queries.setQueryData<CraftRecord>(["craft", slug], (held) => withWords(held, version.label, all));
        toast("Cannot reach the server: what you wrote is kept in this browser and sent later.");
      };
      // What the design waits for, words wait for too: their revisions are one. Behind others they keep their order.
      const flushed = await flush().then(
        () => true,
        () => false,
      );
      if (!flushed || before) return later();
      try {
        // The revision may have moved with what was just sent.
        const revision = queries.getQueryData<CraftRecord>(["craft", slug])?.revisions.versions[version.label] ?? 0;
        await call(contracts.saveVersion, { params: { slug, label: version.label }, body: { revision, ...all } });
      } catch (error) {
        if (unanswered(error)) return later();
        // Saved elsewhere in between: looked at again with what stands there now.
        if (!(error instanceof ApiError && error.problem.type === "/problems/stale")) forgetHalf(key);
        throw error;
      }
      forgetHalf(key);
      await refresh();
    },
    onError: (e) => toast.error(sayError(e)),
  });
}

/**
 * Sends words that no server has taken yet, again and again until one does: against what stands there now, and only
 * where nobody else wrote in the same places meanwhile; else somebody chooses.
 */
export function useUnsentWords() {
  const { slug, version, flush, refresh } = useDesk();
  const key = keyOf(slug, version.label, UNSENT);
  const waiting = useHalves(slug, version.label).some((h) => h.form === UNSENT);
  const [clash, setClash] = useState(false);
  const [turn, setTurn] = useState(0);
  const { mutate } = useMutation({
    mutationFn: async (anyhow: boolean) => {
      const unsent = unsentOf(key);
      if (!unsent) return;
      await flush();
      const { file, revisions } = await call(contracts.getCraft, { params: { slug } });
      const now = file.versions.find((v) => v.label === version.label);
      if (now && !anyhow && !sameData(placesOf(now, unsent.grewFrom), unsent.grewFrom)) return setClash(true);
      const revision = revisions.versions[version.label] ?? 0;
      await call(contracts.saveVersion, {
        params: { slug, label: version.label },
        body: { revision, ...unsent.words },
      });
      setClash(false);
      forgetHalf(key);
      await refresh();
    },
    onError: (e) => {
      if (!unanswered(e) && e instanceof ApiError && e.problem.type !== "/problems/stale") toast.error(sayError(e));
    },
    onSettled: () => setTurn((t) => t + 1),
  });
  // biome-ignore lint/correctness/useExhaustiveDependencies: each turn waits anew
  useEffect(() => {
    if (!waiting || clash) return;
    const send = () => mutate(false);
    const timer = setTimeout(send, AGAIN);
    window.addEventListener("online", send);
    return () => {
      clearTimeout(timer);
      window.removeEventListener("online", send);
    };
  }, [waiting, clash, turn, mutate]);
  const drop = () => {
    setClash(false);
    forgetHalf(key);
    void refresh();
  };
  return { waiting, clash: clash && waiting, sendAnyhow: () => mutate(true), drop };
}
