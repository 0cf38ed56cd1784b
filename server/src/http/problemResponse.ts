import type { ErrorRequestHandler } from "express";
import type { Logger } from "pino";
import { PROBLEMS, Problem } from "../problems.ts";

/** The one place that writes `application/problem+json`. */
export function problemResponse(log: Logger): ErrorRequestHandler {
  return (error, request, response, next) => {
    if (response.headersSent) {
      next(error);
      return;
    }
    const problem = asProblem(error);
    const { status, title } = PROBLEMS[problem.code];
    if (status >= 500) log.error({ err: error, url: request.url }, "request failed");
    response
      .status(status)
      .type("application/problem+json")
      .send(JSON.stringify({ type: `/problems/${problem.code}`, title, status, ...problem.extras }));
  };
}

function asProblem(error: unknown): Problem {
  if (error instanceof Problem) return error;
  const type = (error as { type?: string }).type;
  if (type === "entity.too.large")
    return new Problem("too-large", { detail: "2 MB is the most the server takes at once" });
  if (type === "entity.parse.failed") return new Problem("invalid-input", { detail: "the body is not JSON" });
  if (type === "encoding.unsupported" || type === "charset.unsupported")
    return new Problem("invalid-input", { detail: "the body is not UTF-8 text" });
  // A file that an older page asks for and that is there no more is no fault of the server.
  if (error instanceof URIError || (error as { status?: number }).status === 404) return new Problem("not-found");
  return new Problem("internal");
}
