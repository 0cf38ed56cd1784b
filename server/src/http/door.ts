import type { RequestHandler } from "express";
import { Problem } from "../problems.ts";

const LOOPBACK = /^(?:localhost|127(?:\.\d{1,3}){3}|\[::1\])$/;

export interface DoorOptions {
  /** Names, besides those of this machine itself, under which the server is meant to be reached. */
  readonly hosts: readonly string[];
  /** Addresses whose body is a file, and no JSON; no form of another site can send its type either. */
  readonly uploads: RegExp;
}

/**
 * Who may come in: requests that name this machine (a page elsewhere that makes a name of its own point here does not),
 * and, of what changes something, those of our own pages and of programs, which send no `Origin`. Bodies are JSON: what a
 * form of another site can send is none.
 * OWASP Application Security Verification Standard 5.0, V3.5: cross-origin requests.
 */
export function door({ hosts, uploads }: DoorOptions): RequestHandler {
  const known = new Set(hosts.map((h) => h.toLowerCase()));
  return (request, _response, next) => {
    const host = request.headers.host ?? "";
    const name = host.replace(/:\d+$/, "").toLowerCase();
    if (!LOOPBACK.test(name) && !known.has(name))
      throw new Problem("unknown-host", { detail: `“${name}” is not this server` });
    const { origin } = request.headers;
    const site = request.headers["sec-fetch-site"];
    const isOurs = site === undefined || site === "same-origin" || site === "none";
    const changes = request.method !== "GET" && request.method !== "HEAD";
    // A link elsewhere may lead to a page; what the API gives would land among the user's files.
    const isNavigation = request.headers["sec-fetch-mode"] === "navigate" && !/^\/api(?:\/|$)/i.test(request.path);
    if (origin !== undefined && changes && !isOwn(origin, host)) throw new Problem("foreign-origin");
    if (!isOurs && (changes || !isNavigation)) throw new Problem("foreign-origin");
    const hasBody =
      request.headers["transfer-encoding"] !== undefined || Number(request.headers["content-length"] ?? 0) > 0;
    const type = uploads.test(request.path) ? "application/octet-stream" : "application/json";
    if (changes && hasBody && !request.is(type)) throw new Problem("not-json");
    next();
  };
}

function isOwn(origin: string, host: string): boolean {
  try {
    return new URL(origin).host === host.toLowerCase();
  } catch {
    return false;
  }
}
