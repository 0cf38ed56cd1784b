import { clipped, wellFormed } from "@hound/core/record";
import type { Request, Response } from "express";
import { z } from "zod";
import { Problem } from "../problems.ts";

/** One endpoint: what it takes, what it gives, and what it does. The OpenAPI document is made from the same table. */
export interface Route {
  readonly method: "get" | "post" | "patch" | "put" | "delete";
  /** Express path, such as `/jobs/:id`. */
  readonly path: string;
  readonly summary: string;
  readonly params?: z.ZodType;
  readonly query?: z.ZodType;
  readonly body?: z.ZodType;
  readonly status: number;
  readonly answer?: z.ZodType;
  readonly handle: (request: Request, response: Response) => Promise<void>;
}

interface Shapes<P, Q, B, A> {
  readonly method: Route["method"];
  readonly path: string;
  readonly summary: string;
  readonly params?: z.ZodType<P>;
  readonly query?: z.ZodType<Q>;
  readonly body?: z.ZodType<B>;
  readonly status?: number;
  readonly answer?: z.ZodType<A>;
}

/** Ties a handler to its shapes: it sees parsed input only, and returns what is sent. */
export function route<P = undefined, Q = undefined, B = undefined, A = undefined>(
  shapes: Shapes<P, Q, B, A>,
  handler: (input: { params: P; query: Q; body: B; who: string | null }, response: Response) => Promise<A>,
): Route {
  const status = shapes.status ?? (shapes.answer ? 200 : 204);
  return {
    ...shapes,
    status,
    handle: async (request, response) => {
      const input = {
        params: parse(shapes.params, request.params, "/params") as P,
        query: parse(shapes.query, request.query, "/query") as Q,
        body: parse(shapes.body, request.body, "") as B,
        who: whoIs(request),
      };
      const answer = await handler(input, response);
      if (response.headersSent) return;
      if (shapes.answer) response.status(status).json(answer);
      else response.status(status).end();
    },
  };
}

/** Who sits at the browser, by the name chosen there; a name is no proof of anything. */
export function whoIs(request: Request): string | null {
  try {
    const name = decodeURIComponent(request.get("x-hound-who") ?? "").trim();
    return name === "" ? null : wellFormed(clipped(name, 80));
  } catch {
    return null;
  }
}

/** The only place where input becomes a 400. */
function parse(schema: z.ZodType | undefined, input: unknown, pointer: string): unknown {
  if (!schema) return undefined;
  const parsed = schema.safeParse(input ?? {});
  if (parsed.success) return parsed.data;
  throw new Problem("invalid-input", {
    errors: parsed.error.issues.map((issue) => ({
      pointer: [pointer, ...issue.path.map(String)].join("/"),
      detail: issue.message,
    })),
  });
}

/** OpenAPI 3.1 of a table of routes. */
export function openApiOf(routes: readonly Route[], base: string): object {
  const paths: Record<string, Record<string, object>> = {};
  for (const r of routes) {
    const path = base + r.path.replace(/:(\w+)/g, "{$1}");
    const schemaOf = (schema: z.ZodType, io: "input" | "output") => ({
      "application/json": { schema: z.toJSONSchema(schema, { io, unrepresentable: "any" }) },
    });
    paths[path] ??= {};
    paths[path][r.method] = {
      summary: r.summary,
      parameters: [...r.path.matchAll(/:(\w+)/g)].map(([, name]) => ({
        name,
        in: "path",
        required: true,
        schema: { type: "string" },
      })),
      ...(r.body ? { requestBody: { required: true, content: schemaOf(r.body, "input") } } : {}),
      responses: {
        [r.status]: { description: "done", ...(r.answer ? { content: schemaOf(r.answer, "output") } : {}) },
        default: { description: "problem details (RFC 9457)" },
      },
    };
  }
  return { openapi: "3.1.0", info: { title: "Clever Hound", version: "1" }, paths };
}
