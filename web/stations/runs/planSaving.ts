import { z } from "zod";
import { newPlanSchema } from "../../../api/contracts";
import { ApiError } from "../../app/client";

/** A plan as the server holds it, in the answer to a stale save. */
const heldSchema = z.object({ revision: z.number(), plan: newPlanSchema });
export type Held = z.infer<typeof heldSchema>;

/** What the server holds, where a save was refused as stale; null for every other error. */
export const staleWith = (e: unknown): Held | null =>
  e instanceof ApiError && e.problem.type === "/problems/stale" ? heldSchema.parse(e.problem.current) : null;

/** A plan's sheet and its checklist save one after the other from the same page: each may be overtaken this often. */
const OVERTAKEN = 8;

/**
 * Sends, and sends again over what the server holds by now, as often as another save came first.
 * @param over what is sent over a state that was saved meanwhile; null where somebody must choose between the two
 * @throws the refusal when `over` gives null, and every error that is not a stale save
 */
export async function sendOver<T>(send: () => Promise<T>, over: (held: Held) => (() => Promise<T>) | null): Promise<T> {
  let next = send;
  for (let n = 0; ; n++) {
    try {
      return await next();
    } catch (e) {
      const held = staleWith(e);
      const again = held && n < OVERTAKEN ? over(held) : null;
      if (!again) throw e;
      next = again;
    }
  }
}
