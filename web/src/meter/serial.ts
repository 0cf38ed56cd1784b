import type { Quantity } from "@hound/core/record";
import {
  AutoHold,
  type Held,
  IDENTIFY,
  MeterLines,
  meterName,
  NoMeter,
  QUERIES,
  type Sample,
  sampleIn,
  stepOf,
} from "@hound/core/stream";

/** As much of Web Serial as is needed here; browsers that have it have it in `navigator.serial`. */
interface SerialPort {
  open(options: { baudRate: number }): Promise<void>;
  close(): Promise<void>;
  readonly readable: ReadableStream<Uint8Array> | null;
  readonly writable: WritableStream<Uint8Array> | null;
}
interface Serial {
  requestPort(): Promise<SerialPort>;
}

export const BAUD_RATES = [9600, 19_200, 38_400, 115_200] as const;

export function serialHere(): Serial | null {
  return (navigator as { serial?: Serial }).serial ?? null;
}

export interface SerialEvents {
  readonly wanted: () => Quantity;
  readonly onName: (name: string) => void;
  readonly onSample: (sample: Sample & { readonly quantity: Quantity }, steady: number) => void;
  readonly onHeld: (held: Held) => void;
  readonly onClosed: (why: string) => void;
}

/** Milliseconds to the first answer, to any other, and between two queries. */
const PATIENCE = 1200;
const ANSWER = 3000;
const BETWEEN = 80;
/** Queries in a row that may stay without an answer. */
const MOST_UNANSWERED = 3;

/** A meter at a serial port of this device, by the same lines as over a network; it is asked if it answers `*IDN?`. */
export class SerialMeter {
  private readonly hold = new AutoHold();
  private reader: ReadableStreamDefaultReader<Uint8Array> | null = null;
  private writer: WritableStreamDefaultWriter<Uint8Array> | null = null;
  private isAsked: boolean | null = null;
  private unanswered = 0;
  private isClosed = false;
  private timer: ReturnType<typeof setTimeout> | undefined;

  constructor(
    private readonly port: SerialPort,
    private readonly events: SerialEvents,
  ) {}

  async open(baudRate: number) {
    await this.port.open({ baudRate });
    this.writer = this.port.writable?.getWriter() ?? null;
    this.reader = this.port.readable?.getReader() ?? null;
    void this.read();
    this.events.onName("a meter at the serial port");
    this.say(IDENTIFY);
    this.after(PATIENCE, () => {
      this.isAsked ??= false;
    });
  }

  /** The probes are elsewhere. */
  moved() {
    this.hold.moved();
  }

  async close(why = "") {
    if (this.isClosed) return;
    this.isClosed = true;
    clearTimeout(this.timer);
    await this.reader?.cancel().catch(() => {});
    this.reader?.releaseLock();
    this.writer?.releaseLock();
    await this.port.close().catch(() => {});
    this.events.onClosed(why);
  }

  private say(line: string) {
    this.writer?.write(new TextEncoder().encode(`${line}\n`)).catch(() => this.close("it cannot be written to"));
  }

  private async read() {
    const decoder = new TextDecoder();
    const lines = new MeterLines(() => performance.now());
    try {
      for (;;) {
        const chunk = await this.reader?.read();
        if (!chunk || chunk.done) break;
        for (const line of lines.take(decoder.decode(chunk.value, { stream: true }))) this.hear(line);
      }
      await this.close("it was unplugged");
    } catch (error) {
      await this.close(error instanceof NoMeter ? error.message : "it was unplugged");
    }
  }

  private hear(line: string) {
    if (this.isClosed) return;
    const sample = sampleIn(line);
    if (!sample && this.isAsked === null) {
      this.isAsked = true;
      this.events.onName(meterName(line));
      this.ask();
      return;
    }
    // An answer that says nothing is one all the same: it is asked again.
    if (this.isAsked) this.after(BETWEEN, () => this.ask());
    if (!sample) return;
    this.unanswered = 0;
    const wanted = this.events.wanted();
    const quantity = sample.quantity ?? wanted;
    const step = stepOf(sample, quantity);
    const held = quantity === wanted ? this.hold.take({ ...sample, step }, performance.now()) : null;
    this.events.onSample({ ...sample, step, quantity }, this.hold.progress(performance.now()));
    if (held) this.events.onHeld(held);
  }

  private ask() {
    if (this.isClosed) return;
    if (this.unanswered >= MOST_UNANSWERED) {
      void this.close("it does not answer any more");
      return;
    }
    this.unanswered += 1;
    this.say(QUERIES[this.events.wanted()]);
    this.after(ANSWER, () => this.ask());
  }

  private after(milliseconds: number, next: () => void) {
    clearTimeout(this.timer);
    this.timer = setTimeout(next, milliseconds);
  }
}
