import { existsSync, mkdirSync, readFileSync } from "node:fs";
import { createServer, type Server } from "node:http";
import { createServer as createSecureServer } from "node:https";
import { hostname, networkInterfaces } from "node:os";
import { dirname, resolve } from "node:path";
import { DEFAULT_METER_LINK } from "@hound/core/record";
import type { Knex } from "knex";
import { pino } from "pino";
import { createApp, meterLinkFor } from "./app.ts";
import { keepBeforeMigrating, keepCopies } from "./database/daily.ts";
import { lockDatabase, StartProblem } from "./database/lock.ts";
import { openDatabase } from "./database/open.ts";
import { loadDemo } from "./demo.ts";
import { pairedIn } from "./http/paired.ts";
import { Pairing } from "./http/pairing.ts";
import { rebuildLogbook } from "./jobs/rebuild.ts";
import type { MeterLink } from "./meter/link.ts";
import { storedLink } from "./meter/routes.ts";
import { limitsTimes } from "./threads/limits.ts";
import { secretOf } from "./workshop/secret.ts";

/** What the server is told from outside; see the README. */
interface Settings {
  readonly port: number;
  readonly portIsGiven: boolean;
  readonly host: string;
  /** Further names under which it may be reached. */
  readonly hosts: readonly string[];
  /** Files of a certificate and its key, for encrypted connections. */
  readonly tls: { readonly cert: string; readonly key: string } | null;
  readonly database: string;
  readonly pages: string;
  readonly demo: string | undefined;
  /** Hosts besides this machine on which a meter may be. */
  readonly meters: readonly string[];
  /** Address of the simulated meter that goes with the demo data. */
  readonly demoMeter: string | undefined;
  /** How many times slower than usual the machine is. */
  readonly patience: number;
}

const DEFAULT_PORT = 4620;
const PORTS_TRIED = 50;

function settingsFrom(env: NodeJS.ProcessEnv): Settings {
  const port = Number(env.PORT ?? DEFAULT_PORT);
  if (env.PORT?.trim() === "" || !Number.isInteger(port) || port < 0 || port > 65535)
    throw new StartProblem(`PORT is “${env.PORT}”: a port is a number up to 65535. Leave it out for the usual one.`);
  const root = resolve(import.meta.dirname, "..", "..");
  return {
    port,
    portIsGiven: env.PORT !== undefined,
    host: env.HOST ?? "127.0.0.1",
    hosts: listIn(env.HOUND_HOSTS),
    meters: listIn(env.HOUND_METERS),
    demoMeter: env.HOUND_DEMO_METER,
    patience: patienceFrom(env.HOUND_PATIENCE),
    tls: tlsFrom(env),
    database: resolve(root, env.HOUND_DB ?? "data/hound.sqlite"),
    pages: resolve(root, "web/dist"),
    demo: env.HOUND_DEMO === undefined ? undefined : resolve(root, env.HOUND_DEMO),
  };
}

function patienceFrom(text = "1"): number {
  const patience = Number(text);
  if (!(patience >= 1 && patience <= 100))
    throw new StartProblem(`HOUND_PATIENCE is “${text}”: it is a number from 1, as usual, to 100.`);
  return patience;
}

const listIn = (text = "") => text.split(",").flatMap((h) => (h.trim() === "" ? [] : [h.trim()]));

function tlsFrom({ HOUND_TLS_CERT: cert, HOUND_TLS_KEY: key }: NodeJS.ProcessEnv): Settings["tls"] {
  if (!cert && !key) return null;
  if (!cert || !key)
    throw new StartProblem("HOUND_TLS_CERT and HOUND_TLS_KEY belong together: name both files, or neither.");
  for (const file of [cert, key])
    if (!existsSync(file))
      throw new StartProblem(
        `There is no file ${file}. HOUND_TLS_CERT and HOUND_TLS_KEY name a certificate and its key.`,
      );
  return { cert, key };
}

const isLocal = ({ host }: Settings) => host === "127.0.0.1" || host === "localhost" || host === "::1";

function listen(server: Server, port: number, host: string): Promise<number> {
  return new Promise((done, fail) => {
    server.once("error", fail);
    server.listen(port, host, () => {
      server.off("error", fail);
      const address = server.address();
      done(typeof address === "object" && address ? address.port : port);
    });
  });
}

/** The first free port from the wanted one on; a port that was asked for is taken or nothing. */
async function listenSomewhere(server: Server, { port, portIsGiven, host }: Settings): Promise<number> {
  for (let tried = port; ; tried += 1) {
    try {
      return await listen(server, tried, host);
    } catch (error) {
      const { code } = error as NodeJS.ErrnoException;
      if (code !== "EADDRINUSE" || portIsGiven || tried >= port + PORTS_TRIED) throw error;
      say(`Port ${tried} is taken; trying ${tried + 1}.`);
    }
  }
}

function say(message: string) {
  process.stdout.write(`${message}\n`);
}

/** Names under which this machine is reached from elsewhere, where the server is open to that. */
function namesOf(settings: Settings): string[] {
  const { host, hosts } = settings;
  if (isLocal(settings)) return [...hosts];
  const own = Object.values(networkInterfaces()).flatMap((list) =>
    (list ?? []).map((i) => (i.family === "IPv6" ? `[${i.address}]` : i.address)),
  );
  return [...hosts, host, hostname(), `${hostname()}.local`, ...own];
}

function addressesOf({ host, tls }: Settings, port: number): string[] {
  const scheme = tls ? "https" : "http";
  if (host !== "0.0.0.0" && host !== "::") return [`${scheme}://${host.includes(":") ? `[${host}]` : host}:${port}/`];
  const outside = Object.values(networkInterfaces()).flatMap((list) =>
    (list ?? []).filter((i) => i.family === "IPv4" && !i.internal),
  );
  return [`${scheme}://127.0.0.1:${port}/`, ...outside.map((i) => `${scheme}://${i.address}:${port}/`)];
}

function stopCleanly(server: Server, db: Knex, link: MeterLink) {
  let stopping = false;
  const stop = async () => {
    if (stopping) return;
    stopping = true;
    say("Stopping …");
    link.stop();
    server.closeIdleConnections();
    server.close(async () => {
      await db.destroy();
      say("Stopped; everything is saved.");
      process.exit(0);
    });
    setTimeout(() => server.closeAllConnections(), 2000).unref();
    // Whatever is still being worked out: all that was acknowledged is on the disk.
    setTimeout(() => process.exit(0), 4000).unref();
  };
  process.on("SIGINT", stop);
  process.on("SIGTERM", stop);
}

async function main() {
  const settings = settingsFrom(process.env);
  const log = pino({ level: process.env.LOG_LEVEL ?? "warn" }, pino.destination(2));
  const now = () => new Date();
  mkdirSync(dirname(settings.database), { recursive: true });
  const unlock = lockDatabase(settings.database);
  process.on("exit", unlock);
  const before = keepBeforeMigrating(settings.database, now());
  if (before) say(`This version changes the form of the database; a copy of it as it was is ${before}`);
  const db = await openDatabase(settings.database);
  await rebuildLogbook(db);
  if (settings.demo) {
    const loaded = await loadDemo(db, settings.demo, now);
    if (loaded.jobs > 0)
      say(`Loaded ${loaded.jobs} demo jobs and ${loaded.circuits} circuits into ${settings.database}`);
  }
  const pairing = isLocal(settings)
    ? undefined
    : new Pairing(await secretOf(db), pairedIn(`${settings.database}.paired`), settings.tls !== null, now);
  const { pages, tls } = settings;
  const metersAt = settings.meters;
  const link = meterLinkFor({ db, log, now, metersAt }, settings.patience);
  const app = createApp({
    db,
    log,
    now,
    hosts: namesOf(settings),
    ...(pairing ? { pairing } : {}),
    limits: limitsTimes(settings.patience),
    link,
    metersAt,
    pages,
  });
  const server = tls
    ? createSecureServer({ cert: readFileSync(tls.cert), key: readFileSync(tls.key) }, app)
    : createServer(app);
  const port = await listenSomewhere(server, settings);
  keepCopies(settings.database, now, (error) => log.error({ err: error }, "no daily copy could be made"));
  const { demoMeter } = settings;
  const usual = { ...DEFAULT_METER_LINK, ...(demoMeter ? { isOn: true, address: demoMeter } : {}) };
  link.use((await storedLink(db)) ?? usual);
  stopCleanly(server, db, link);
  say(`Clever Hound is ready: ${addressesOf(settings, port).join("  ")}`);
  if (pairing) say(`Other machines need this code once: ${pairing.code}`);
  say(`Database: ${settings.database}   Stop with Ctrl-C.`);
}

/** Why the server did not start: one sentence where it is in the ordinary course, all there is where it is not. */
function whyNot(error: NodeJS.ErrnoException): string {
  if (error instanceof StartProblem) return error.message;
  if (error.code === "EADDRINUSE")
    return `The port is taken: ${error.message}. Stop what has it, or name another with PORT.`;
  if (error.code === "EACCES" || error.code === "EADDRNOTAVAIL")
    return `This cannot be opened: ${error.message}. Name another HOST, PORT or HOUND_DB.`;
  return error.stack ?? String(error);
}

main().catch((error: NodeJS.ErrnoException) => {
  process.stderr.write(`${whyNot(error)}\n`);
  process.exit(1);
});
