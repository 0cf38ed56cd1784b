import { isUtf8 } from "node:buffer";
import { existsSync } from "node:fs";
import { join } from "node:path";
import compression from "compression";
import express, { type Express } from "express";
import helmet from "helmet";
import type { Knex } from "knex";
import type { Logger } from "pino";
import { pinoHttp } from "pino-http";
import { healthOf } from "./database/health.ts";
import { diagnoseRoutes } from "./diagnose/routes.ts";
import { DiagnoseService } from "./diagnose/service.ts";
import { door } from "./http/door.ts";
import type { Pairing } from "./http/pairing.ts";
import { problemResponse } from "./http/problemResponse.ts";
import { openApiOf } from "./http/route.ts";
import { JobEvents } from "./jobs/events.ts";
import { jobRoutes } from "./jobs/routes.ts";
import { JobService } from "./jobs/service.ts";
import { libraryRoutes } from "./library/routes.ts";
import { LibraryService } from "./library/service.ts";
import { Problem } from "./problems.ts";
import { backupDownload } from "./workshop/backup.ts";
import { conventionRoutes } from "./workshop/conventions.ts";

export interface AppEffects {
  readonly db: Knex;
  readonly log: Logger;
  readonly now: () => Date;
  /** Names besides this machine's own under which the server may be reached. */
  readonly hosts?: readonly string[];
  /** Where the server is open to a network: who may use it. */
  readonly pairing?: Pairing;
  /** Folder of the built pages; left out, only the API is served. */
  readonly pages?: string;
}

/** The whole server but for the listening: all effects come in from outside. */
export function createApp({ db, log, now, hosts = [], pairing, pages }: AppEffects): Express {
  const app = express();
  const routes = [
    ...jobRoutes(new JobService(db, now)),
    ...libraryRoutes(new LibraryService(db, now)),
    ...conventionRoutes(db),
    ...diagnoseRoutes(new DiagnoseService()),
  ];
  const api = express.Router();
  app.disable("x-powered-by");
  app.use(pinoHttp({ logger: log, autoLogging: false }));
  app.use(
    helmet({
      contentSecurityPolicy: {
        useDefaults: true,
        directives: {
          "default-src": ["'self'"],
          "script-src": ["'self'", "'wasm-unsafe-eval'"],
          "worker-src": ["'self'"],
          "style-src": ["'self'", "'unsafe-inline'"],
          "img-src": ["'self'", "data:", "blob:"],
          "font-src": ["'self'", "data:"],
          "connect-src": ["'self'"],
          "upgrade-insecure-requests": null,
        },
      },
      strictTransportSecurity: false,
    }),
  );
  app.use(door({ hosts }));
  app.use(compression());
  api.use(express.json({ limit: "2mb", verify: refuseBrokenText }));
  api.get("/health", async (_request, response) => {
    const health = await healthOf(db);
    response.status(health.status === "ok" ? 200 : 503).json(health);
  });
  if (pairing) {
    api.post("/pair", pairing.pair);
    api.use(pairing.guard);
  }
  api.get("/openapi.json", (_request, response) => {
    response.json(openApiOf(routes, "/api"));
  });
  api.get("/backup", backupDownload(db, now));
  const events = new JobEvents();
  api.get("/jobs/:id/events", events.stream);
  api.use("/jobs/:id", events.watch);
  for (const { method, path, handle } of routes) api[method](path, handle);
  api.use(() => {
    throw new Problem("not-found");
  });
  app.use("/api", noStore, api);
  if (pages && existsSync(pages)) servePages(app, pages);
  app.use(problemResponse(log));
  return app;
}

/** JSON is UTF-8: what is not would come back with other characters than were sent. */
function refuseBrokenText(_request: unknown, _response: unknown, body: Buffer) {
  if (!isUtf8(body)) throw new Problem("invalid-input", { detail: "the body is not UTF-8 text" });
}

const noStore: express.RequestHandler = (_request, response, next) => {
  response.set("Cache-Control", "no-store");
  next();
};

/** Static files; every other address is the single page. Files with a hash in their name never change. */
function servePages(app: Express, pages: string) {
  app.use("/assets", express.static(join(pages, "assets"), { immutable: true, maxAge: "1y", fallthrough: false }));
  app.use(express.static(pages, { maxAge: 0 }));
  app.get("/{*path}", (_request, response) => {
    response.sendFile(join(pages, "index.html"));
  });
}
