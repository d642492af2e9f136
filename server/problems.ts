import type { ErrorRequestHandler } from "express";
import type { Logger } from "pino";
import { ZodError } from "zod";
import type { Problem } from "../api/contracts";

/** An error that the client is told about in the one error shape (RFC 9457). */
export class ProblemError extends Error {
  constructor(readonly problem: Problem) {
    super(problem.detail);
  }
}

const make =
  (status: number, type: string, title: string) =>
  (detail: string, more: Partial<Problem> = {}) =>
    new ProblemError({ type: `/problems/${type}`, title, status, detail, ...more });

export const notFound = make(404, "not-found", "Not found");
export const frozen = make(409, "frozen", "This version is frozen");
export const stale = make(409, "stale", "Saved elsewhere in the meantime");
export const refused = make(422, "refused", "Not accepted");
export const forbiddenHost = make(403, "host", "Unknown host name");

/** All complaints of a schema, with the path of each as a person would write it. */
function fromZod(error: ZodError): ProblemError {
  const errors = error.issues.slice(0, 40).map((i) => ({ path: i.path.join("."), message: i.message }));
  const first = errors[0];
  return new ProblemError({
    type: "/problems/invalid",
    title: "Not valid",
    status: 400,
    detail: first ? `${first.path || "body"}: ${first.message}` : "not valid",
    errors,
  });
}

interface ParserError {
  type?: string;
  status?: number;
}

function toProblem(error: unknown): ProblemError | null {
  if (error instanceof ProblemError) return error;
  if (error instanceof ZodError) return fromZod(error);
  const { type, status } = error as ParserError;
  const of = (s: number, name: string, title: string, detail: string) => new ProblemError({ type: `/problems/${name}`, title, status: s, detail });
  if (type === "entity.parse.failed") return of(400, "malformed", "Malformed request", "The body is not JSON.");
  if (type === "entity.too.large") return of(413, "too-large", "Too large", "The body is larger than this route accepts.");
  if (status !== undefined && status >= 400 && status < 500) return of(status, "bad-request", "Bad request", "The request could not be read.");
  return null;
}

/** Last handler: every error leaves as problem details; what we did not foresee is logged and told without its insides. */
export function problemHandler(log: Logger): ErrorRequestHandler {
  return (error, _request, response, next) => {
    if (response.headersSent) return next(error);
    const known = toProblem(error);
    if (!known) log.error({ err: error }, "unforeseen error");
    const problem: Problem = known?.problem ?? {
      type: "/problems/internal",
      title: "Internal error",
      status: 500,
      detail: "Something failed inside the server. Nothing was saved.",
    };
    response.status(problem.status).type("application/problem+json").send(JSON.stringify(problem));
  };
}
