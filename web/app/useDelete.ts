import { useQueryClient } from "@tanstack/react-query";
import { toast } from "sonner";
import { contracts } from "../../api/contracts";
import { call, sayError } from "./client";

/** How long the way back stays in sight, ms. Afterwards it is in the list of the workshop. */
const IN_SIGHT = 12_000;

/** Asks, deletes, and offers the way back. Gives whether it was deleted. */
export function useDelete() {
  const queries = useQueryClient();
  const refresh = () => queries.invalidateQueries();
  return async (question: string, done: string, remove: () => Promise<{ trash: number }>): Promise<boolean> => {
    if (!window.confirm(`${question} It can be brought back from the workshop.`)) return false;
    try {
      const { trash } = await remove();
      await refresh();
      const back = async () => {
        try {
          await call(contracts.restore, { params: { id: trash } });
          await refresh();
          toast.success("Brought back.");
        } catch (error) {
          toast.error(sayError(error));
        }
      };
      toast(done, { duration: IN_SIGHT, action: { label: "Undo", onClick: () => void back() } });
      return true;
    } catch (error) {
      toast.error(sayError(error));
      return false;
    }
  };
}
