import { useQueryClient } from "@tanstack/react-query";
import { useEffect } from "react";
import { toast } from "sonner";
import { onSent } from "./outbox";

/** Says when an entry reached the server, and fetches what it changed. */
export function OutboxWatch() {
  const queries = useQueryClient();
  useEffect(
    () =>
      onSent((entry, number) => {
        void queries.invalidateQueries({ queryKey: ["craft", entry.slug] });
        void queries.invalidateQueries({ queryKey: ["crafts"] });
        toast.success(`Run ${number} of ${entry.label} is in the log.`);
      }),
    [queries],
  );
  return null;
}
