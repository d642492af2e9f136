import type { z } from "zod";
import type { Contract } from "../../api/contracts";
import { pathTo } from "../../api/paths";
import { answerOf, request } from "./request";

export { ApiError, sayError } from "./request";

/** Calls one route by its contract: fills the path, validates the answer, turns problem details into an ApiError. */
export async function call<C extends Contract>(
  contract: C,
  input: { params?: z.input<C["params"]>; body?: z.input<C["body"]> },
): Promise<z.output<C["response"]>> {
  const params = (input.params ?? {}) as Record<string, string | number>;
  const answer = await request(contract.method, pathTo(contract.path, params), input.body);
  return contract.response.parse(answer) as z.output<C["response"]>;
}

/**
 * Sends a request and reads its answer by the contract. @throws ApiError with what the server said, or that it did
 * not answer
 */
export const readAnswer = async <C extends Contract>(
  contract: C,
  send: () => Promise<Response>,
): Promise<z.output<C["response"]>> => contract.response.parse(await answerOf(send)) as z.output<C["response"]>;
