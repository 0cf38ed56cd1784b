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
