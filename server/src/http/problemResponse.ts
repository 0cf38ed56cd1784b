import type { ErrorRequestHandler, Request } from "express";
import type { Logger } from "pino";
import { PROBLEMS, Problem } from "../problems.ts";

/** The one place that writes `application/problem+json`. */
export function problemResponse(log: Logger): ErrorRequestHandler {
  return (error, request, response, _next) => {
    if (response.headersSent) {
      // Too late to say so: what is cut off is seen to be.
      log.error({ err: withoutValues(error), url: request.url }, "an answer was cut off");
      response.destroy();
      return;
    }
    const problem = asProblem(error);
    const { status, title } = PROBLEMS[problem.code];
    if (status >= 500) log.error({ err: withoutValues(error), url: request.url }, "request failed");
    const answer = () =>
      response
        .status(status)
        .type("application/problem+json")
        .send(JSON.stringify({ type: `/problems/${problem.code}`, title, status, ...problem.extras }));
    if (request.complete || !hasBody(request)) answer();
    else afterBody(request, answer);
  };
}

const hasBody = ({ headers }: Request) => headers["content-length"] !== undefined || "transfer-encoding" in headers;

/** Milliseconds that a body which nobody reads may go on coming. */
const PATIENCE = 2000;

/** A sender whose body was not waited for may find the connection ended before it reads why. */
function afterBody(request: Request, answer: () => void) {
  const timer = setTimeout(() => request.emit("refused"), PATIENCE);
  const done = () => {
    clearTimeout(timer);
    for (const event of ["end", "close", "refused"]) request.off(event, done);
    answer();
  };
  for (const event of ["end", "close", "refused"]) request.on(event, done);
  request.resume();
}

/** What went wrong in the database is told with the kind of statement, not with what somebody typed into it. */
export function withoutValues(error: Error & { readonly code?: string }): object {
  const { name, code = "", message, stack = "" } = error;
  if (!code.startsWith("SQLITE_")) return error;
  const statement = /^\w+(?: into| from)? `\w+`/i.exec(message)?.[0] ?? "";
  const frames = stack.split("\n").filter((line) => line.startsWith("    at "));
  return { type: name, code, message: `${statement} … - ${message.split(" - ").at(-1)}`, stack: frames.join("\n") };
}

function asProblem(error: unknown): Problem {
  if (error instanceof Problem) return error;
  const {
    type,
    status,
    code = "",
    limit,
  } = error as Partial<{ type: string; status: number; code: string; limit: number }>;
  if (code === "SQLITE_FULL" || code === "ENOSPC" || code === "EDQUOT") return new Problem("disk-full");
  if (/^SQLITE_(?:READONLY|IOERR|CANTOPEN)/.test(code)) return new Problem("cannot-write", { detail: code });
  if (type === "entity.too.large")
    return new Problem("too-large", {
      detail: `${Math.floor((limit ?? 2e6) / 1e6)} MB is the most that is taken here at once`,
    });
  if (type === "entity.parse.failed") return new Problem("invalid-input", { detail: "the body is not JSON" });
  if (type === "encoding.unsupported" || type === "charset.unsupported")
    return new Problem("invalid-input", { detail: "the body is not UTF-8 text" });
  // A file that an older page asks for and that is there no more is no fault of the server.
  if (error instanceof URIError || status === 404) return new Problem("not-found");
  if (status === 416) return new Problem("bad-range");
  if (status === 412) return new Problem("precondition-failed");
  // A body that says it is compressed and is not, or ends too soon: zlib's codes and Brotli's. Other codes of Node's are ours.
  if (/^(?:Z_|ERR__ERROR|ERR_BROTLI)/.test(code) || (status !== undefined && status >= 400 && status < 500))
    return new Problem("invalid-input", { detail: "the body cannot be read" });
  return new Problem("internal");
}
