import { isIP } from "node:net";
import { MeterLinkSettings, MeterLinkState, ProbesAt } from "@hound/core/record";
import type { RequestHandler } from "express";
import type { Knex } from "knex";
import { z } from "zod";
import { jsonOf } from "../database/json.ts";
import { type Route, route } from "../http/route.ts";
import { Problem } from "../problems.ts";
import type { MeterLink } from "./link.ts";

/** Key of the link among the workshop's rows: it is this server's own, and stays when a backup is put back. */
export const LINK = "meter-link";
const Stored = z.object({ version: z.literal(1), settings: MeterLinkSettings });

/** The kept settings, or null where nobody has said, or what was kept cannot be read. */
export async function storedLink(db: Knex): Promise<MeterLinkSettings | null> {
  const row = await db("workshop").where({ key: LINK }).first("data");
  const stored = row && Stored.safeParse(jsonOf(row.data));
  return stored?.success ? stored.data.settings : null;
}

export async function keepLink(db: Knex, settings: MeterLinkSettings) {
  const data = JSON.stringify({ version: 1, settings });
  await db("workshop").insert({ key: LINK, data }).onConflict("key").merge();
}

/** `/api/meter-link`: the server's connection to a meter that streams. */
export function linkRoutes(db: Knex, link: MeterLink, elsewhere: readonly string[]): Route[] {
  return [
    route({ method: "get", path: "/meter-link", summary: "The meter that streams", answer: MeterLinkState }, async () =>
      link.snapshot(),
    ),
    route(
      {
        method: "put",
        path: "/meter-link",
        summary: "Connect to a meter, or no longer",
        body: MeterLinkSettings,
        answer: MeterLinkState,
      },
      async ({ body }) => {
        if (!isAllowed(body.address, elsewhere))
          throw new Problem("meter-elsewhere", {
            detail: `${hostOf(body.address)} is not this machine: start the server with HOUND_METERS=${hostOf(body.address)}`,
          });
        await keepLink(db, body);
        link.use(body);
        return link.snapshot();
      },
    ),
    route(
      {
        method: "put",
        path: "/meter-link/probes",
        summary: "Say where the probes are; null: nowhere",
        body: z.strictObject({ probes: ProbesAt.nullable() }),
        answer: MeterLinkState,
      },
      async ({ body }) => {
        await link.put(body.probes);
        return link.snapshot();
      },
    ),
    route(
      {
        method: "delete",
        path: "/meter-link/held/:id",
        summary: "This held reading is recorded; said again, it changes nothing",
        params: z.strictObject({ id: z.uuid() }),
      },
      async ({ params }) => {
        link.taken(params.id);
      },
    ),
  ];
}

/**
 * The state as it changes: server-sent events, each with all of it. What the meter shows from moment to moment is told to
 * those alone who ask with `?live=yes`.
 */
export function linkStream(link: MeterLink): RequestHandler {
  return ({ query }, response) => {
    response.status(200).set({
      "Content-Type": "text/event-stream",
      "Cache-Control": "no-store, no-transform",
      "X-Accel-Buffering": "no",
    });
    let last = "";
    const send = (state: MeterLinkState) => {
      const told = JSON.stringify(query.live === "yes" ? state : { ...state, shows: null, steady: 0 });
      if (told !== last) response.write(`data: ${told}\n\n`);
      last = told;
    };
    response.write("retry: 1000\n\n");
    send(link.snapshot());
    const end = link.listen(send);
    const breath = setInterval(() => response.write(":\n\n"), 25_000);
    breath.unref();
    response.on("close", () => {
      clearInterval(breath);
      end();
    });
  };
}

const hostOf = (address: string) => address.slice(0, address.lastIndexOf(":"));

/** This machine itself, or a host that whoever started the server allowed. */
export function isAllowed(address: string, elsewhere: readonly string[]): boolean {
  const host = hostOf(address)
    .replace(/^\[|\]$/g, "")
    .toLowerCase();
  const isLoopback = host === "localhost" || host === "::1" || (isIP(host) === 4 && host.startsWith("127."));
  return isLoopback || elsewhere.some((e) => e.toLowerCase() === host);
}
