import { connect, type Socket } from "node:net";
import type { MeterLinkSettings, Quantity } from "@hound/core/record";
import { IDENTIFY, MeterLines, meterName, NOTE, NoMeter, QUERIES, type Sample, sampleIn } from "@hound/core/stream";

/** Bytes that may wait for a meter that does not read. */
const MOST_UNREAD = 1_000_000;
/** Milliseconds: to the first answer, to any other, between two queries. */
const USUAL = { identify: 1500, answer: 3000, between: 50 };

/** What a line to a meter tells whoever opened it. */
export interface LineEvents {
  readonly onOpen: (name: string) => void;
  readonly onSample: (sample: Sample, quantity: Quantity) => void;
  /** What the simulated meter says of what it stands on. */
  readonly onNote: (note: string) => void;
  /** @param isNoMeter what came from there was nothing that a meter sends */
  readonly onClosed: (why: string, isNoMeter: boolean) => void;
}

/**
 * One connection to a meter, until it ends: identifies it, then asks it again and again for what is wanted, or takes what it
 * sends. It ends once, with a reason; whoever opened it opens another.
 */
export class MeterLine {
  private readonly socket: Socket;
  private awaiting: { timer: NodeJS.Timeout; done: (line: string | null) => void } | null = null;
  private isClosed = false;

  constructor(
    private readonly settings: MeterLinkSettings,
    private readonly wanted: () => Quantity,
    private readonly events: LineEvents,
    private readonly patience = 1,
  ) {
    const at = settings.address.lastIndexOf(":");
    const host = settings.address.slice(0, at).replace(/^\[|\]$/g, "");
    this.socket = connect({ host, port: Number(settings.address.slice(at + 1)) });
    this.socket.setNoDelay(true);
    this.socket.setTimeout(USUAL.answer * 2 * patience, () => this.close("it says nothing"));
    this.socket.on("error", (error: NodeJS.ErrnoException) => this.close(whyNot(error)));
    this.socket.on("close", () => this.close("it closed the connection"));
    this.socket.on("connect", () => this.run().catch((error: Error) => this.close(error.message)));
    const lines = new MeterLines(() => performance.now());
    this.socket.setEncoding("utf8").on("data", (text: string) => {
      try {
        for (const line of lines.take(text)) this.hear(line);
      } catch (error) {
        this.close((error as Error).message, error instanceof NoMeter);
      }
    });
  }

  /** Says something that is not answered. */
  tell(line: string) {
    if (!this.isClosed && this.socket.writableLength < MOST_UNREAD) this.socket.write(`${line}\n`);
  }

  close(why: string, isNoMeter = false) {
    if (this.isClosed) return;
    this.isClosed = true;
    this.socket.destroy();
    this.settle(null);
    this.events.onClosed(why, isNoMeter);
  }

  private async run() {
    const isAsked = this.settings.protocol === "scpi";
    const name = await this.ask(IDENTIFY, USUAL.identify * this.patience);
    if (this.isClosed) return;
    if (isAsked && name === null) return this.close("it does not answer *IDN?; does it send lines by itself?");
    this.events.onOpen(name === null ? "a meter that sends lines" : meterName(name));
    while (isAsked && !this.isClosed) {
      const quantity = this.wanted();
      const answer = await this.ask(QUERIES[quantity], USUAL.answer * this.patience);
      if (answer === null) return this.close("it does not answer");
      const sample = sampleIn(answer);
      if (sample) this.events.onSample(sample, sample.quantity ?? quantity);
      await new Promise((done) => setTimeout(done, USUAL.between));
    }
  }

  private ask(line: string, patience: number): Promise<string | null> {
    return new Promise((done) => {
      const timer = setTimeout(() => this.settle(null), patience);
      this.awaiting = { timer, done };
      this.tell(line);
    });
  }

  private settle(line: string | null) {
    const { awaiting } = this;
    this.awaiting = null;
    if (!awaiting) return;
    clearTimeout(awaiting.timer);
    awaiting.done(line);
  }

  private hear(line: string) {
    if (line.startsWith(NOTE)) return this.events.onNote(noteIn(line));
    const sample = this.settings.protocol === "lines" ? sampleIn(line) : null;
    // A meter that sends by itself may never say who it is.
    if (sample) this.events.onSample(sample, sample.quantity ?? this.wanted());
    else this.settle(line);
  }
}

function noteIn(line: string): string {
  try {
    const note: unknown = JSON.parse(line.slice(NOTE.length));
    return typeof note === "string" ? note : "";
  } catch {
    return "";
  }
}

function whyNot({ code, message }: NodeJS.ErrnoException): string {
  if (code === "ECONNREFUSED") return "nothing listens there";
  if (code === "ENOTFOUND") return "there is no such host";
  if (code === "ETIMEDOUT" || code === "EHOSTUNREACH") return "it cannot be reached";
  return message;
}
