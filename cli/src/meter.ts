import { once } from "node:events";
import { readdirSync, statSync } from "node:fs";
import { type AddressInfo, createServer, type Server, type Socket } from "node:net";
import { join } from "node:path";
import { createInterface } from "node:readline";
import { buildNetwork, type Circuit } from "@hound/core/circuit";
import { bridgeCandidates } from "@hound/core/faults";
import { withInstruments } from "@hound/core/measure";
import { readTrail } from "@hound/core/notation";
import { prepare } from "@hound/core/rank";
import { type Meter, meterData, type NumericReading, type Quantity, Reading, UNIT_OF } from "@hound/core/record";
import { BenchMeter, FaultDrawer, type Shown, seededRandom } from "@hound/core/simulate";
import { IDENTIFY, NOTE, QUERIES, STAND_IN } from "@hound/core/stream";
import { InputError, UsageError } from "./failure.ts";
import { type BenchFaults, benchFaults } from "./faults.ts";
import { readFile } from "./files.ts";
import { wiringOf } from "./wiring.ts";

export interface MeterOptions {
  readonly port: number;
  readonly host: string;
  readonly seed: number;
  readonly fault: readonly string[];
  readonly protocol: "scpi" | "lines";
  /** Readings a second of one that sends by itself. */
  readonly rate: number;
  /** Told what it stands on where that is not one of its cases; left out, it is printed. */
  readonly onNote?: (note: string) => void;
}

/** A circuit that the stand-in can be put on, and what is wrong with it. */
interface Bench {
  readonly circuit: Circuit;
  readonly meter: Meter;
  readonly faults: readonly string[] | "drawn";
  /** What its parts are drawn with; null: what the command line says. */
  readonly seed: number | null;
}

/** What a case may say of the bench its readings were made on. */
function hiddenIn(standIn: unknown): { faults: string[]; seed: number } | null {
  const { faults, seed } = (standIn ?? {}) as { faults?: unknown; seed?: unknown };
  return Array.isArray(faults) && typeof seed === "number" ? { faults: faults.map(String), seed } : null;
}

/**
 * `hound meter`: a simulated bench meter on a TCP port. It answers IEEE 488.2 common commands and SCPI's measurement
 * queries, or sends plain lines by itself, and reads whatever points it is told that the probes are on.
 */
export async function meter(paths: readonly string[], options: MeterOptions): Promise<void> {
  const server = await listen(paths, options);
  const { port } = server.address() as AddressInfo;
  process.stdout.write(`Simulated meter at ${options.host}:${port}, ${options.protocol}\n`);
  await once(server, "close");
}

/** Opens the port. @throws InputError where that cannot be done, or a case names a fault it cannot have */
export function listen(paths: readonly string[], options: MeterOptions): Promise<Server> {
  const benches = new Map(paths.flatMap(filesIn).map((path) => benchIn(path, options.fault)));
  if (benches.size === 0) throw new UsageError("name a case file, or a folder of them");
  refuseUnknown([...benches.values()], options.fault);
  const server = createServer((socket) => new Session(socket, benches, options));
  return new Promise((done, fail) => {
    server.once("error", (error: NodeJS.ErrnoException) =>
      fail(new InputError(`the port ${options.port} cannot be opened (${error.code ?? error.message})`)),
    );
    server.listen(options.port, options.host, () => done(server));
  });
}

function filesIn(path: string): string[] {
  if (!statSync(path, { throwIfNoEntry: false })?.isDirectory()) return [path];
  return readdirSync(path).flatMap((name) => (name.endsWith(".json") ? [join(path, name)] : []));
}

function benchIn(path: string, faults: readonly string[]): [string, Bench] {
  const { circuit, file } = readFile(path);
  if (!circuit) throw new InputError(`${path}: there is no circuit in this file`);
  const network = buildNetwork(circuit);
  const hidden = hiddenIn(file?.standIn);
  const repaired = file?.repair?.flatMap((r) => ("part" in r ? [`${r.part}=${r.mode}`] : [])) ?? [];
  const own = faults.length > 0 ? faults : (hidden?.faults ?? repaired);
  // What a case says of itself is checked before anybody connects.
  if (faults.length === 0) benchFaults(network, own);
  const bench = { circuit, meter: file?.meter ?? {}, seed: hidden?.seed ?? null };
  return [file?.title || circuit.title, { ...bench, faults: own.length > 0 ? own : "drawn" }];
}

/** A fault that is named has to be one of some case here; the circuit of a job may have it besides. */
function refuseUnknown(benches: readonly Bench[], faults: readonly string[]) {
  const trouble = benches.map(({ circuit }) => {
    try {
      benchFaults(buildNetwork(circuit), faults);
      return null;
    } catch (error) {
      return error;
    }
  });
  if (trouble.every((t) => t !== null)) throw trouble[0];
}

/** One connection: what it was put on, and what it was asked. */
class Session {
  private bench: BenchMeter | null = null;
  private key = "";
  /** Where it is not on what the other end is on, or what is wrong there was drawn: in words. */
  private note = "";
  private quantity: Quantity = "voltage";
  private readonly errors: string[] = [];
  private timer: NodeJS.Timeout | null = null;

  constructor(
    private readonly socket: Socket,
    private readonly benches: ReadonlyMap<string, Bench>,
    private readonly options: MeterOptions,
  ) {
    socket.setNoDelay(true);
    socket.on("error", () => socket.destroy());
    socket.on("close", () => this.timer && clearInterval(this.timer));
    createInterface({ input: socket })
      .on("line", (line) => this.hear(line.trim()))
      .on("error", () => socket.destroy());
    if (options.protocol === "lines")
      this.timer = setInterval(() => this.say(lineOf(this.show(this.quantity))), 1000 / options.rate);
  }

  private say(text: string) {
    if (!this.socket.destroyed) this.socket.write(`${text}\n`);
  }

  private show(quantity: Quantity): Shown {
    this.quantity = quantity;
    const now = performance.now();
    if (this.bench) return this.bench.show(now, quantity);
    const { resolution } = meterData().ranges[quantity][0];
    return { quantity, value: 0, isOver: quantity === "resistance", step: resolution };
  }

  private hear(line: string) {
    const [word, rest = ""] = split(line);
    const query = (Object.keys(QUERIES) as Quantity[]).find((q) => isQuery(word, q));
    if (query) return this.say(numberOf(this.show(query)));
    switch (word.toUpperCase()) {
      case "":
      case "*CLS":
      case "*RST":
        this.errors.length = 0;
        if (word.toUpperCase() === "*RST") this.bench?.range(null);
        return;
      case IDENTIFY:
        return this.say(`${STAND_IN},0,1`);
      case "*OPC?":
        return this.say("1");
      case "*TST?":
        return this.say("0");
      case "READ?":
      case "FETC?":
      case "FETCH?":
        return this.say(numberOf(this.show(this.quantity)));
      case "SYST:ERR?":
      case "SYSTEM:ERROR?":
        return this.say(this.errors.shift() ?? '0,"No error"');
      case "CONF:VOLT:DC":
      case "CONF:CURR:DC":
      case "CONF:RES": {
        const of = { VOLT: "voltage", CURR: "current", RES: "resistance" } as const;
        this.quantity = of[word.toUpperCase().split(":")[1] as keyof typeof of];
        const span = Number(rest.split(",")[0]);
        this.bench?.range(rest !== "" && Number.isFinite(span) ? span : null);
        return;
      }
      case "SIM:CASE":
        return this.choose(rest);
      case "SIM:CASE?":
        return this.say(`${NOTE}${JSON.stringify(this.note)}`);
      case "SIM:PROB":
        return this.put(rest);
      default:
        this.errors.push(`-113,"Undefined header;${word.slice(0, 40)}"`);
    }
  }

  /** Which job it stands on: of one of its own cases it has the fault, of any other it draws one. */
  private choose(text: string) {
    const told = parsed(text) as { title?: unknown; circuit?: unknown } | null;
    const [first] = this.benches.values();
    const own = this.benches.get(String(told?.title));
    const trail = typeof told?.circuit === "string" ? readTrail(told.circuit).circuit : null;
    const given = this.options.fault;
    const bench = own ?? (trail ? { circuit: trail, meter: {}, faults: faultsFor(given), seed: null } : first);
    const circuit = trail ?? bench.circuit;
    const key = JSON.stringify([told?.title, told?.circuit]);
    if (key === this.key && this.bench) return;
    this.key = key;
    const meter = meterData(bench.meter);
    const network = buildNetwork(withInstruments(circuit, meter));
    const seed = bench.seed ?? this.options.seed;
    const random = seededRandom(seed);
    const { faults, bridges, lost } = faultsOf(bench, circuit, seed);
    this.bench = new BenchMeter(network, { meter, bridges, faults }, random);
    this.note = noteOf(String(told?.title ?? ""), own ?? null, bench, circuit, lost);
    const { onNote = (note: string) => process.stdout.write(`${note}\n`) } = this.options;
    if (this.note !== "") onNote(this.note);
  }

  private put(text: string) {
    const told = parsed(text);
    if (told === null) {
      this.bench?.lift();
      return;
    }
    const reading = Reading.safeParse(told);
    if (!reading.success || reading.data.quantity === "observation") {
      this.errors.push('-220,"Parameter error"');
      return;
    }
    if (!this.bench) this.choose("{}");
    const why = this.bench?.put(reading.data as NumericReading, performance.now());
    this.quantity = reading.data.quantity;
    if (why) this.errors.push(`-221,"${why.slice(0, 200)}"`);
  }
}

const faultsFor = (told: readonly string[]) => (told.length > 0 ? told : ("drawn" as const));

/** What is wrong with a circuit: what was said, as far as it has it, or what is drawn. */
function faultsOf({ faults }: Bench, circuit: Circuit, seed: number): BenchFaults & { readonly lost: string[] } {
  const network = buildNetwork(circuit);
  if (faults === "drawn") {
    const prepared = prepare({ circuit, readings: [], priors: { healthy: 1e-6, doubleShare: 0 } });
    const drawn = prepared.kind === "problem" ? [] : new FaultDrawer(prepared).draw(seededRandom(seed + 1));
    return { faults: drawn, bridges: bridgeCandidates(network), lost: [] };
  }
  const lost: string[] = [];
  const had = faults.filter((text) => {
    try {
      benchFaults(network, [text]);
      return true;
    } catch {
      // The job's circuit is another than the case's.
      lost.push(text);
      return false;
    }
  });
  return { ...benchFaults(network, had), lost };
}

/** What both ends have to know of what the meter stands on; empty where it is what was asked for. */
function noteOf(title: string, own: Bench | null, bench: Bench, circuit: Circuit, lost: readonly string[]): string {
  const job = `“${title.slice(0, 80)}”`;
  const isDrawn = bench.faults === "drawn";
  const named = isDrawn ? "" : (bench.faults as readonly string[]).filter((f) => !lost.includes(f)).join(", ");
  const wrong = isDrawn ? "a fault was drawn for it" : named === "" ? "nothing is wrong with it" : `${named} is in it`;
  const without = lost.length > 0 ? ` It has no ${lost.join(", ")}.` : "";
  if (!own)
    return `No case here is called ${job}: the simulated meter is on the job’s own circuit, and ${wrong}.${without}`;
  if (wiringOf(own.circuit) === wiringOf(circuit)) return lost.length === 0 ? "" : `In ${job} ${wrong}.${without}`;
  return `The circuit of ${job} is another than that of its case: the simulated meter is on the job’s, and ${wrong}.${without}`;
}

function split(line: string): [string, string] {
  const at = line.search(/\s/);
  return at < 0 ? [line, ""] : [line.slice(0, at), line.slice(at + 1).trim()];
}

/** `MEAS:VOLT:DC?`, `MEASure:VOLTage:DC?`, `meas:volt?` */
function isQuery(word: string, quantity: Quantity): boolean {
  const short = QUERIES[quantity];
  const long = { voltage: "MEASURE:VOLTAGE:DC?", current: "MEASURE:CURRENT:DC?", resistance: "MEASURE:RESISTANCE?" };
  const asked = word.toUpperCase();
  return [short, long[quantity], short.replace(":DC", "")].includes(asked);
}

function parsed(text: string): unknown {
  try {
    return JSON.parse(text);
  } catch {
    return null;
  }
}

/** `+7.4200E+00` with the digits of its range; overload is 9.9E37. */
function numberOf({ value, isOver, step }: Shown): string {
  if (isOver) return value < 0 ? "-9.9E+37" : "9.9E+37";
  const exponent = value === 0 ? 0 : Math.floor(Math.log10(Math.abs(value)) + 1e-12);
  const digits = Math.max(0, Math.round(exponent - Math.log10(step)));
  return `${value < 0 ? "" : "+"}${value.toExponential(digits).toUpperCase()}`;
}

/** `7.42 V` */
function lineOf({ quantity, value, isOver, step }: Shown): string {
  const unit = UNIT_OF[quantity];
  if (isOver) return `${value < 0 ? "-" : ""}OL ${unit}`;
  return `${value.toFixed(Math.max(0, -Math.floor(Math.log10(step) + 1e-9)))} ${unit}`;
}
