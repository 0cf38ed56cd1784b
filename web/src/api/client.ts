import { ProblemDetails } from "@hound/core/record";
import type { z } from "zod";

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

/** Sends JSON and parses the answer. @throws ApiError */
export async function call<T>(method: string, path: string, schema: z.ZodType<T> | null, body?: unknown): Promise<T> {
  let response: Response;
  try {
    response = await fetch(`/api${path}`, {
      method,
      headers: body === undefined ? {} : { "Content-Type": "application/json" },
      ...(body === undefined ? {} : { body: JSON.stringify(body) }),
    });
  } catch {
    throw new ApiError(0, { type: "unreachable", title: "The server does not answer", status: 0 });
  }
  if (!response.ok) throw new ApiError(response.status, await problemOf(response));
  if (!schema) return undefined as T;
  return schema.parse(await response.json());
}

async function problemOf(response: Response): Promise<ProblemDetails> {
  const text = await response.text();
  try {
    return ProblemDetails.parse(JSON.parse(text));
  } catch {
    return { type: "unknown", title: `The server answered ${response.status}`, status: response.status };
  }
}
