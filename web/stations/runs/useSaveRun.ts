import { useMutation } from "@tanstack/react-query";
import type { RefObject } from "react";
import { toast } from "sonner";
import { contracts, type NewRun } from "../../../api/contracts";
import type { Run } from "../../../core/design/craftFile";
import { call, sayError } from "../../app/client";
import { localIso } from "../../app/dates";
import { useDesk } from "../../app/desk";
import { keep, unanswered, type Waiting } from "../../app/outbox";
import { NotChosen, saveAgainst } from "../../app/saveAgainst";
import { newKey } from "./blankRun";
import { heldRun } from "./heldRun";
import type { RunFormOf } from "./runFormOf";

/** Saves the run; what cannot be sent waits in this browser, behind what waits already. */
export function useSaveRun({
  run,
  opened,
  form,
  waiting,
  onDone,
}: {
  run: Run | undefined;
  opened: RefObject<number>;
  form: RunFormOf;
  waiting: Waiting[];
  onDone: (number: number | null) => void;
}) {
  const { flush, slug, version, refresh } = useDesk();
  const save = useMutation({
    mutationFn: async (values: NewRun) => {
      await flush();
      const body = { ...values, measured: values.measured.filter((m) => m.metric.trim() !== "") };
      if (run) {
        const saved = await saveAgainst<NewRun>({
          what: `Run ${run.number}`,
          revision: opened.current,
          mine: body,
          read: heldRun,
          send: (revision) =>
            call(contracts.saveRun, { params: { slug, number: run.number }, body: { revision, run: body } }),
        });
        opened.current = saved.revision;
        if (saved.kept === "theirs") form.reset(saved.value);
        return run.number;
      }
      const entry = {
        key: body.key ?? newKey(),
        slug,
        label: version.label,
        run: body,
        pictures: [],
        at: localIso(new Date()),
        refused: "",
      };
      // Behind what waits already: the log keeps its order.
      if (waiting.some((w) => w.refused === "")) {
        await keep(entry);
        return null;
      }
      try {
        return (await call(contracts.createRun, { params: { slug, label: version.label }, body })).number;
      } catch (error) {
        if (!unanswered(error)) throw error;
        await keep(entry);
        return null;
      }
    },
    onSuccess: async (number) => {
      if (number === null) {
        toast("Cannot reach the server: the run is kept in this browser and sent later.");
        onDone(null);
        return;
      }
      await refresh();
      onDone(number);
    },
    onError: (error) => (error instanceof NotChosen ? toast(error.message) : toast.error(sayError(error))),
  });
  return save;
}
