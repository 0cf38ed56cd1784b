import { randomUUID } from "node:crypto";
import {
  DEFAULT_METER_LINK,
  type HeldReading,
  type MeterLinkSettings,
  type MeterLinkState,
  type ProbesAt,
  type Quantity,
} from "@hound/core/record";
import { AutoHold, readingAt, type Sample, STAND_IN, stepOf } from "@hound/core/stream";
import { MeterLine } from "./line.ts";

/** Milliseconds to the first new try, and the longest between two. */
const AGAIN = { first: 300, most: 5000 };
/** Pages hear of what is shown so often at most, in milliseconds. */
const TOLD_EVERY = 100;
/** Times that what is no meter is tried. */
const TRIES = 3;
/** Held readings that nobody took are kept up to so many. */
const MOST_HELD = 200;

export interface LinkEffects {
  readonly now: () => Date;
  /** Milliseconds that only go forward. */
  readonly clock?: () => number;
  /** How many times longer than usual a meter may take to answer. */
  readonly patience?: number;
  /** Told when it is switched off here because what is there is no meter: not opened again by itself, nor at the next start. */
  readonly onGivenUp?: (settings: MeterLinkSettings) => void;
  /** Whether it may be opened at all; left out, anywhere. */
  readonly allows?: (address: string) => boolean;
  /** Of a job, title and trail: what the simulated meter is put on. */
  readonly circuitOf: (job: string) => Promise<{ title: string; circuit: string } | null>;
}

/**
 * The server's connection to a meter: opened and kept open in the background, never waited for. What is steady at the
 * points that a page named is held once, and kept until a page says that it has it.
 */
export class MeterLink {
  private settings: MeterLinkSettings = DEFAULT_METER_LINK;
  private line: MeterLine | null = null;
  private timer: NodeJS.Timeout | null = null;
  private pause = AGAIN.first;
  private tries = 0;
  private state: MeterLinkState["state"] = "off";
  private why = "";
  private name = "";
  private note = "";
  private probes: ProbesAt | null = null;
  private shows: MeterLinkState["shows"] = null;
  private readonly hold = new AutoHold();
  private readonly held: HeldReading[] = [];
  private readonly listeners = new Set<(state: MeterLinkState) => void>();
  private telling: NodeJS.Timeout | null = null;
  private readonly clock: () => number;

  constructor(private readonly effects: LinkEffects) {
    this.clock = effects.clock ?? (() => performance.now());
  }

  snapshot(): MeterLinkState {
    const { settings, state, why, name, note, probes, shows, held } = this;
    const steady = state === "open" && probes ? this.hold.progress(this.clock()) : 0;
    return { settings, state, why, name, note, probes, shows, steady, held: [...held] };
  }

  /** @returns what ends it */
  listen(listener: (state: MeterLinkState) => void): () => void {
    this.listeners.add(listener);
    return () => this.listeners.delete(listener);
  }

  use(settings: MeterLinkSettings) {
    this.settings = settings;
    this.pause = AGAIN.first;
    this.tries = 0;
    this.hangUp("");
    if (!settings.isOn) this.become("off", "");
    else if (this.effects.allows?.(settings.address) === false)
      this.giveUp(`${settings.address} is not this machine, and was not allowed with HOUND_METERS`);
    else this.open();
  }

  /** The probes are said to be somewhere else; what is steady there is the next reading. Null: nowhere. */
  async put(probes: ProbesAt | null) {
    if (probes && this.probes?.mark === probes.mark && this.probes.job === probes.job) return;
    // First what was held is taken over: a page that does not know of it yet would have it read again.
    if (probes && this.held.some((h) => h.probes.job === probes.job)) return;
    this.probes = probes;
    this.hold.moved();
    this.tell();
    await this.tellStandIn();
  }

  /** A page has it. */
  taken(id: string) {
    const at = this.held.findIndex((h) => h.id === id);
    if (at >= 0) this.held.splice(at, 1);
    this.tell();
  }

  stop() {
    this.hangUp("");
    this.become("off", "");
    if (this.telling) clearTimeout(this.telling);
    this.listeners.clear();
  }

  private open() {
    this.become("connecting", this.why);
    try {
      const line: MeterLine = new MeterLine(
        this.settings,
        () => this.wanted(),
        {
          onOpen: (name) => {
            this.name = name;
            this.pause = AGAIN.first;
            this.become("open", "");
            this.tellStandIn().catch((error: Error) => line.close(error.message));
          },
          onSample: (sample, quantity) => {
            if (this.line === line) this.take(sample, quantity);
          },
          onNote: (note) => {
            if (this.line !== line || note === this.note) return;
            this.note = note;
            this.tell();
          },
          onClosed: (why, isNoMeter) => {
            if (this.line === line) this.closed(why, isNoMeter);
          },
        },
        this.effects.patience,
      );
      this.line = line;
    } catch (error) {
      // An address that cannot even be tried.
      this.giveUp((error as Error).message);
    }
  }

  private closed(why: string, isNoMeter: boolean) {
    this.line = null;
    this.note = "";
    this.hold.broken();
    this.shows = null;
    if (!this.settings.isOn) return;
    if (isNoMeter) this.tries += 1;
    if (this.tries >= TRIES) return this.giveUp(why);
    this.become("waiting", why);
    this.timer = setTimeout(() => this.open(), this.pause);
    this.pause = Math.min(AGAIN.most, this.pause * 2);
  }

  private giveUp(why: string) {
    this.settings = { ...this.settings, isOn: false };
    this.become("off", `${why}: switched off`);
    this.effects.onGivenUp?.(this.settings);
  }

  private hangUp(why: string) {
    if (this.timer) clearTimeout(this.timer);
    this.timer = null;
    const { line } = this;
    this.line = null;
    this.shows = null;
    this.hold.broken();
    line?.close(why);
  }

  private wanted(): Quantity {
    const quantity = this.probes?.reading.quantity;
    return quantity === undefined || quantity === "observation" ? "voltage" : quantity;
  }

  private take(sample: Sample, quantity: Quantity) {
    this.tries = 0;
    const step = stepOf(sample, quantity);
    this.shows = { value: sample.isOver ? null : sample.value, isOver: sample.isOver, quantity, step };
    const { probes } = this;
    // A meter set to another function does not measure what is wanted.
    if (probes && probes.reading.quantity !== "observation" && quantity === probes.reading.quantity) {
      const held = this.hold.take({ ...sample, step }, this.clock());
      const reading = held && readingAt(probes.reading, held);
      if (reading) {
        const at = this.effects.now().toISOString();
        this.held.push({ id: randomUUID(), at, probes, reading: { ...reading, takenAt: at } });
        if (this.held.length > MOST_HELD) this.held.shift();
        // The next one needs another point: what is still steady is not read twice.
        this.probes = null;
        return this.tell(true);
      }
    }
    this.tell();
  }

  /** Only the simulated meter is told where its probes are: a real one knows. */
  private async tellStandIn() {
    if (this.state !== "open" || !this.name.startsWith(STAND_IN)) return;
    const { line, probes } = this;
    if (!probes) return line?.tell("SIM:PROB null");
    const found = await this.effects.circuitOf(probes.job);
    if (this.probes !== probes || this.line !== line) return;
    if (found) {
      line?.tell(`SIM:CASE ${JSON.stringify(found)}`);
      line?.tell("SIM:CASE?");
    }
    line?.tell(`SIM:PROB ${JSON.stringify(probes.reading)}`);
  }

  private become(state: MeterLinkState["state"], why: string) {
    this.state = state;
    this.why = why;
    if (state !== "open") this.name = "";
    this.tell(true);
  }

  /** Tells the pages: at once, or with what comes in the next moment. */
  private tell(isUrgent = false) {
    const now = () => {
      this.telling = null;
      const state = this.snapshot();
      for (const listener of this.listeners) listener(state);
    };
    if (isUrgent) {
      if (this.telling) clearTimeout(this.telling);
      now();
    } else this.telling ??= setTimeout(now, TOLD_EVERY);
  }
}
