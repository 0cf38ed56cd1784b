import { ProblemDetails, wellFormed } from "@hound/core/record";
import type { z } from "zod";
import { onDevice } from "../app/device.ts";

/** The server said no, with problem details; `status` 0 means it could not be reached. */
export class ApiError extends Error {
  constructor(
    readonly status: number,
    readonly problem: ProblemDetails,
  ) {
    super(
      [problem.title, problem.detail, ...(problem.errors ?? []).map((e) => `${e.pointer}: ${e.detail}`)]
        .filter(Boolean)
        .join(". "),
    );
    this.name = "ApiError";
  }
}

/** Milliseconds after which a server that says nothing counts as one that does not answer. */
const PATIENCE = 20_000;

/** Sends JSON and parses the answer. @throws ApiError, also where the answer takes too long or cannot be read (status 0) */
export function call<T>(method: string, path: string, schema: z.ZodType<T> | null, body?: unknown): Promise<T> {
  // Half a character, left by a cut or a paste, would have all of it refused.
  const whole = (_key: string, value: unknown) => (typeof value === "string" ? wellFormed(value) : value);
  const json = { body: JSON.stringify(body, whole), headers: { "Content-Type": "application/json" } };
  return send(method, path, schema, body === undefined ? {} : json);
}

interface Sent {
  readonly body?: BodyInit;
  readonly headers?: Record<string, string>;
  /** Milliseconds. */
  readonly patience?: number;
}

/** Sends whatever it is and parses the answer. @throws ApiError as `call` does */
export async function send<T>(
  method: string,
  path: string,
  schema: z.ZodType<T> | null,
  { body, headers = {}, patience = PATIENCE }: Sent,
): Promise<T> {
  let response: Response;
  try {
    response = await fetch(`/api${path}`, {
      method,
      signal: AbortSignal.timeout(patience),
      headers: { ...whoHeader(), ...headers },
      ...(body === undefined ? {} : { body }),
    });
  } catch {
    throw new ApiError(0, { type: "unreachable", title: "The server does not answer", status: 0 });
  }
  return answerOf(response, schema);
}

/**
 * Sends a large file, and tells how far it is. The browser's newer way of sending cannot tell.
 * @param signal stops it
 * @param onSent told the share that is on its way
 * @throws ApiError as `call` does
 */
export async function upload<T>(
  path: string,
  schema: z.ZodType<T>,
  file: File,
  signal: AbortSignal,
  onSent: (share: number) => void,
): Promise<T> {
  const request = new XMLHttpRequest();
  const answered = new Promise<Response>((done, fail) => {
    const away = (type: string, title: string) => () => fail(new ApiError(0, { type, title, status: 0 }));
    request.onload = () => done(new Response(request.response as Blob, { status: request.status }));
    request.onerror = away("unreachable", "The server does not answer");
    request.onabort = away("stopped", "Stopped");
    request.upload.onprogress = ({ loaded, total }) => onSent(loaded / total);
  });
  signal.addEventListener("abort", () => request.abort());
  request.open("POST", `/api${path}`);
  request.responseType = "blob";
  for (const [name, value] of Object.entries({ ...whoHeader(), "Content-Type": "application/octet-stream" }))
    request.setRequestHeader(name, value);
  request.send(file);
  return answerOf(await answered, schema);
}

async function answerOf<T>(response: Response, schema: z.ZodType<T> | null): Promise<T> {
  if (!response.ok) {
    const problem = await problemOf(response);
    // Open to a network, the server wants to know a browser first; what was typed is kept meanwhile.
    if (problem.type === "/problems/not-paired" && location.pathname !== "/pair")
      location.assign(`/pair?${new URLSearchParams({ back: location.pathname + location.search })}`);
    throw new ApiError(response.status, problem);
  }
  if (!schema) return undefined as T;
  try {
    return parseTolerantly(schema, await response.json());
  } catch {
    // A proxy's page, half an answer: what was sent may have arrived, so it is sent again, with the same ids.
    throw new ApiError(0, { type: "unreadable", title: "The server's answer cannot be read", status: 0 });
  }
}

/** Who sits at this browser, where somebody said so: a header holds no letters beyond Latin ones as they are. */
function whoHeader(): Record<string, string> {
  const who = onDevice("who");
  return who ? { "X-Hound-Who": encodeURIComponent(wellFormed(who)) } : {};
}

/** Parses what a newer server may have added to: fields that are not known here are left out. */
function parseTolerantly<T>(schema: z.ZodType<T>, data: unknown): T {
  for (let round = 0; ; round += 1) {
    const parsed = schema.safeParse(data);
    if (parsed.success) return parsed.data;
    const { issues } = parsed.error;
    if (round === MOST_ROUNDS || issues.some((i) => i.code !== "unrecognized_keys")) throw parsed.error;
    for (const issue of issues) {
      if (issue.code !== "unrecognized_keys") continue;
      const at = issue.path.reduce<unknown>((inner, key) => (inner as Record<PropertyKey, unknown>)[key], data);
      for (const key of issue.keys) delete (at as Record<string, unknown>)[key];
    }
  }
}

/** Fields within fields come to light one level at a time. */
const MOST_ROUNDS = 8;

async function problemOf(response: Response): Promise<ProblemDetails> {
  const text = await response.text();
  try {
    return ProblemDetails.parse(JSON.parse(text));
  } catch {
    return { type: "unknown", title: `The server answered ${response.status}`, status: response.status };
  }
}
