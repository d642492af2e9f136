import type { Problem } from "../../api/contracts";

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

const isProblem = (answer: unknown): answer is Problem =>
  typeof answer === "object" &&
  answer !== null &&
  typeof (answer as Partial<Problem>).detail === "string" &&
  typeof (answer as Partial<Problem>).status === "number";

/** Sends a request. @throws ApiError with what the server said, or that it did not answer */
export async function answerOf(send: () => Promise<Response>): Promise<unknown> {
  const response = await send().catch(() => {
    throw new ApiError(offline);
  });
  const answer: unknown = await response.json().catch(() => null);
  if (!response.ok)
    throw new ApiError(
      isProblem(answer) ? answer : { ...offline, title: "Unreadable answer", status: response.status },
    );
  return answer;
}

/** Calls a route. @throws ApiError */
export function request(method: string, path: string, body?: unknown): Promise<unknown> {
  const text = body === undefined ? undefined : JSON.stringify(body);
  return answerOf(() =>
    fetch(path, {
      method: method.toUpperCase(),
      headers: text === undefined ? {} : { "content-type": "application/json" },
      body: text,
      // A small save outlives its page: what was ticked last is not lost by leaving.
      keepalive: text !== undefined && text.length < OUTLIVES,
    }),
  );
}

/** The sentence of any error. */
export const sayError = (error: unknown): string => (error instanceof Error ? error.message : "Something went wrong.");
