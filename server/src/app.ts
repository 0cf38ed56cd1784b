import { existsSync } from "node:fs";
import { join } from "node:path";
import compression from "compression";
import express, { type Express } from "express";
import expressStaticGzip from "express-static-gzip";
import helmet from "helmet";
import type { Knex } from "knex";
import type { Logger } from "pino";
import { pinoHttp } from "pino-http";
import { healthOf, WriteFailures } from "./database/health.ts";
import { diagnoseRoutes } from "./diagnose/routes.ts";
import { DiagnoseService } from "./diagnose/service.ts";
import { door } from "./http/door.ts";
import type { Pairing } from "./http/pairing.ts";
import { problemResponse } from "./http/problemResponse.ts";
import { openApiOf } from "./http/route.ts";
import { refuseUnreadable, refuseUnsound } from "./http/sound.ts";
import { JobEvents } from "./jobs/events.ts";
import { jobRoutes } from "./jobs/routes.ts";
import { JobService } from "./jobs/service.ts";
import { libraryRoutes } from "./library/routes.ts";
import { LibraryService } from "./library/service.ts";
import { logbookRoutes } from "./logbook/routes.ts";
import { MeterLink } from "./meter/link.ts";
import { isAllowed, keepLink, linkRoutes, linkStream } from "./meter/routes.ts";
import { pictureBytes, pictureRoutes, pictureUpload, rawPicture } from "./pictures/routes.ts";
import { ExerciseService } from "./practice/exercises.ts";
import { exerciseRoutes, huntRoutes } from "./practice/routes.ts";
import { HuntService } from "./practice/service.ts";
import { Problem } from "./problems.ts";
import { LIMITS, type Limits } from "./threads/limits.ts";
import { Threads } from "./threads/threads.ts";
import { backupDownload } from "./workshop/backup.ts";
import { conventionRoutes } from "./workshop/conventions.ts";
import { copyRoutes, restoreUpload } from "./workshop/copies.ts";
import { casesDownload, folderDownload, folderUpload } from "./workshop/folderRoutes.ts";
import { meterRoutes } from "./workshop/meters.ts";
import { peopleRoutes } from "./workshop/people.ts";
import { WorkInHand } from "./workshop/work.ts";

export interface AppEffects {
  readonly db: Knex;
  readonly log: Logger;
  readonly now: () => Date;
  /** Names besides this machine's own under which the server may be reached. */
  readonly hosts?: readonly string[];
  /** Where the server is open to a network: who may use it. */
  readonly pairing?: Pairing;
  /** Where what takes long is done; left out, in threads of its own. */
  readonly threads?: Threads;
  /** How long it may take. */
  readonly limits?: Limits;
  /** The connection to a meter that streams; left out, one that is off. */
  readonly link?: MeterLink;
  /** Hosts besides this machine on which a meter may be. */
  readonly metersAt?: readonly string[];
  /** Folder of the built pages; left out, only the API is served. */
  readonly pages?: string;
}

/** Below so many bytes an answer is sent sooner than packed, also over a wireless network. */
const WORTH_PACKING = 16_000;

/** What comes in as a file: a backup, a workshop, a picture. */
const UPLOADS = /^\/api\/(?:restore|workshop|jobs\/[^/]+\/pictures)$/;

/** The whole server but for the listening: all effects come in from outside. */
export function createApp(effects: AppEffects): Express {
  const { db, log, now, hosts = [], pairing, limits = LIMITS, metersAt = [], pages } = effects;
  const { threads = new Threads(limits) } = effects;
  const app = express();
  const events = new JobEvents(async (id) => (await db("jobs").where({ id }).first("updated_at"))?.updated_at ?? null);
  const work = new WorkInHand();
  const jobs = new JobService(db, now, threads);
  const hunts = new HuntService(db, now, threads);
  const link = effects.link ?? meterLinkFor(effects);
  const routes = [
    ...logbookRoutes(db),
    ...jobRoutes(jobs),
    ...pictureRoutes(db, jobs, now),
    ...peopleRoutes(db),
    ...libraryRoutes(new LibraryService(db, now, threads)),
    ...huntRoutes(hunts),
    ...exerciseRoutes(new ExerciseService(db, hunts, now)),
    ...conventionRoutes(db),
    ...meterRoutes(db),
    ...linkRoutes(db, link, metersAt),
    ...work.routes(),
    ...(pairing?.routes() ?? []),
    ...copyRoutes(db, now, () => events.tellAll()),
    ...diagnoseRoutes(new DiagnoseService(threads, limits)),
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
  app.use(door({ hosts, uploads: UPLOADS }));
  api.use(express.json({ limit: "2mb", verify: refuseUnreadable }), refuseUnsound);
  const failures = new WriteFailures(now);
  api.use(failures.watch);
  api.use(refuseCondition);
  api.get("/health", async (_request, response) => {
    const health = await healthOf(db, failures);
    response.status(health.status === "ok" ? 200 : 503).json(health);
  });
  if (pairing) {
    api.post("/pair", pairing.pair);
    api.use(pairing.guard);
  }
  api.get("/openapi.json", (_request, response) => {
    response.json(openApiOf(routes, "/api"));
  });
  api.get("/backup", backupDownload(db, now, work));
  api.post(
    "/restore",
    restoreUpload(db, now, () => events.tellAll()),
  );
  api.get("/cases.zip", casesDownload(jobs, now));
  api.get("/workshop.zip", folderDownload(db, now, work));
  api.post(
    "/workshop",
    folderUpload(db, threads, () => events.tellAll(), work),
  );
  api.get("/meter-link/events", linkStream(link));
  api.get("/jobs/:id/events", events.stream);
  api.use("/jobs/:id", events.watch);
  api.use("/hunts/:id", events.watch);
  api.post("/jobs/:id/pictures", rawPicture, pictureUpload(db, jobs, now));
  api.get("/jobs/:id/pictures/:picture.jpg", pictureBytes(db));
  for (const { method, path, handle } of routes) api[method](path, handle);
  api.use(() => {
    throw new Problem("not-found");
  });
  app.use("/api", compression({ threshold: WORTH_PACKING }), noStore, api);
  if (pages && existsSync(pages)) servePages(app, pages);
  app.use(problemResponse(log));
  return app;
}

/**
 * The connection to a meter: the simulated one is put on the job's circuit as it is stored.
 * @param metersAt hosts besides this machine on which it may be
 */
export function meterLinkFor(
  { db, log, now, metersAt = [] }: Pick<AppEffects, "db" | "log" | "now" | "metersAt">,
  patience = 1,
): MeterLink {
  const jobs = new JobService(db, now);
  return new MeterLink({
    now,
    patience,
    allows: (address) => isAllowed(address, metersAt),
    onGivenUp: (settings) =>
      void keepLink(db, settings).catch((error) => log.error({ err: error }, "the meter's settings could not be kept")),
    circuitOf: async (id) => {
      const job = await jobs.find(id).catch(() => null);
      return job && { title: job.title, circuit: job.circuit.trail };
    },
  });
}

/** Nothing here has a tag that could be compared: a change that hangs on one is not made. RFC 9110, §13.1.1. */
const refuseCondition: express.RequestHandler = (request, _response, next) => {
  const wanted = request.headers["if-match"];
  const changes = request.method !== "GET" && request.method !== "HEAD";
  if (changes && wanted !== undefined && wanted.trim() !== "*") throw new Problem("precondition-failed");
  next();
};

const noStore: express.RequestHandler = (_request, response, next) => {
  response.set("Cache-Control", "no-store");
  next();
};

/** Static files, compressed when they were built; every other address is the single page. Files with a hash in their name never change. */
function servePages(app: Express, pages: string) {
  const files = (folder: string, options: expressStaticGzip.ExpressStaticGzipOptions["serveStatic"]) =>
    expressStaticGzip(folder, {
      enableBrotli: true,
      orderPreference: ["br", "gz"],
      index: false,
      serveStatic: options,
    });
  app.use("/assets", files(join(pages, "assets"), { immutable: true, maxAge: "1y", fallthrough: false }));
  app.use(files(pages, { maxAge: 0, index: false }));
  app.get("/{*path}", (_request, response) => {
    response.sendFile(join(pages, "index.html"));
  });
}
