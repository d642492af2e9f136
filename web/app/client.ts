import type { z } from "zod";
import { type Contract, type Problem, problemSchema } from "../../api/contracts";

/** An error that the server explained. */
export class ApiError extends Error {
  constructor(readonly problem: Problem) {
    super(problem.detail);
  }
}

const offline: Problem = {
  type: "/problems/offline",
  title: "No answer",
  status: 0,
  detail: "Cannot reach the server. Your entries are still here; try again when it runs.",
};

/** Length of a body that a browser sends on after its page is gone: well below what it allows for all of them. */
const OUTLIVES = 16_000;

/** Calls one route by its contract: fills the path, validates the answer, turns problem details into an ApiError. */
export async function call<C extends Contract>(
  contract: C,
  input: { params?: z.input<C["params"]>; body?: z.input<C["body"]> },
): Promise<z.output<C["response"]>> {
  const params = (input.params ?? {}) as Record<string, string | number>;
  const path = contract.path.replace(/:(\w+)/g, (_, key: string) => encodeURIComponent(String(params[key] ?? "")));
  const body = input.body === undefined ? undefined : JSON.stringify(input.body);
  return readAnswer(contract, () =>
    fetch(path, {
      method: contract.method.toUpperCase(),
      headers: input.body === undefined ? {} : { "content-type": "application/json" },
      body,
      // A small save outlives its page: what was ticked last is not lost by leaving.
      keepalive: body !== undefined && body.length < OUTLIVES,
    }),
  );
}

/**
 * Sends a request and reads its answer by the contract. @throws ApiError with what the server said, or that it did
 * not answer
 */
export async function readAnswer<C extends Contract>(
  contract: C,
  send: () => Promise<Response>,
): Promise<z.output<C["response"]>> {
  const response = await send().catch(() => {
    throw new ApiError(offline);
  });
  const answer: unknown = await response.json().catch(() => null);
  if (!response.ok) {
    const problem = problemSchema.safeParse(answer);
    throw new ApiError(
      problem.success ? problem.data : { ...offline, title: "Unreadable answer", status: response.status },
    );
  }
  return contract.response.parse(answer) as z.output<C["response"]>;
}

/** The sentence of any error. */
export const sayError = (error: unknown): string => (error instanceof Error ? error.message : "Something went wrong.");
