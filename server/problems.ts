import type { ErrorRequestHandler } from "express";
import type { Logger } from "pino";
import { ZodError } from "zod";
import type { Problem } from "../api/contracts";
import { EngineLost } from "./db/wire";

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
export const otherCurrency = make(409, "currency", "Amounts in another currency");
export const refused = make(422, "refused", "Not accepted");
export const badRequest = make(400, "invalid", "Not valid");
export const tooLarge = make(413, "too-large", "Too large");
export const full = make(507, "full", "The disk is full");
export const unavailable = make(503, "unavailable", "The database is not there");
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
  code?: unknown;
  cause?: unknown;
}

const codesOf = (error: ParserError): string[] => {
  const out: string[] = [];
  for (let e: ParserError | undefined = error; e && out.length < 5; e = e.cause as ParserError | undefined)
    if (typeof e.code === "string") out.push(e.code);
  return out;
};

function toProblem(error: unknown): ProblemError | null {
  if (error instanceof ProblemError) return error;
  if (error instanceof ZodError) return fromZod(error);
  const { type, status, cause } = (error ?? {}) as ParserError;
  const codes = codesOf((error ?? {}) as ParserError);
  if (codes.some((c) => c === "ENOSPC" || c === "EDQUOT" || c === "53100"))
    return full("The disk is full: this was not saved. Make room and save again; what you entered is still here.");
  if (error instanceof EngineLost || cause instanceof EngineLost || codes.some((c) => /^(08|57P0)|^ECONN/.test(c)))
    return unavailable("The database does not answer. This was not saved; try again in a moment.");
  // What the database itself refuses as a value is a wrong request, not a broken server.
  if (codes.some((c) => /^22/.test(c)))
    return new ProblemError({
      type: "/problems/invalid",
      title: "Not valid",
      status: 400,
      detail: "A value in this request cannot be stored.",
    });
  const of = (s: number, name: string, title: string, detail: string) =>
    new ProblemError({ type: `/problems/${name}`, title, status: s, detail });
  if (type === "entity.parse.failed") return of(400, "malformed", "Malformed request", "The body is not JSON.");
  if (type === "entity.too.large")
    return of(413, "too-large", "Too large", "The body is larger than this route accepts.");
  if (status !== undefined && status >= 400 && status < 500)
    return of(status, "bad-request", "Bad request", "The request could not be read.");
  return null;
}

/** An error without its parameters: its kind, its code and where in our code it came from. */
function nameOf(error: unknown): { kind: string; codes: string[]; at: string[] } {
  const { name, stack } = error instanceof Error ? error : new Error("not an error");
  const at = (stack ?? "")
    .split("\n")
    .filter((l) => /^\s+at /.test(l))
    .slice(0, 12)
    .map((l) => l.trim());
  return { kind: name, codes: codesOf((error ?? {}) as ParserError), at };
}

/**
 * Last handler: every error leaves as problem details; what we did not foresee is logged and told without its
 * insides.
 */
export function problemHandler(log: Logger): ErrorRequestHandler {
  return (error, _request, response, next) => {
    if (response.headersSent) return next(error);
    const known = toProblem(error);
    // Of an unforeseen error, only what names no content: queries carry what people wrote.
    if (!known) log.error({ error: nameOf(error) }, "unforeseen error");
    const problem: Problem = known?.problem ?? {
      type: "/problems/internal",
      title: "Internal error",
      status: 500,
      detail: "Something failed inside the server. Nothing was saved.",
    };
    response.status(problem.status).type("application/problem+json").send(JSON.stringify(problem));
  };
}
