import { newId } from "../app/newId.ts";
import type { Device } from "./device.ts";
import { Pump } from "./pump.ts";

/** Something to be done at the server besides the work on a job's bench. */
export interface Errand {
  readonly id: string;
  readonly kind: string;
  readonly body: unknown;
  /** What it is, in words, for where it waits or is refused. */
  readonly words: string;
  /** Its place in the order. */
  readonly turn: number;
  /** Why the server would not have it; it stays until somebody decides. */
  readonly refused?: string;
}

/** How a kind of errand is done. Doing it twice does it once: its body brings an id or says how things shall be. */
export interface ErrandKind {
  readonly send: (body: never, current: unknown) => Promise<unknown>;
}

export interface ErrandsState {
  readonly list: readonly Errand[];
  /** Why what waits is waiting; empty while it is on its way. */
  readonly why: string;
  /** Whether this device has what waits. */
  readonly isKept: boolean;
}

const KEY = "errand:";

/** Errands of one tab, done one after another; what is not done yet is kept on this device. */
export class Errands {
  private state: ErrandsState = { list: [], why: "", isKept: true };
  private readonly listeners = new Set<() => void>();
  private readonly waiting = new Map<string, { done: (answer: unknown) => void; fail: (error: unknown) => void }>();
  private readonly pump: Pump<Errand>;
  /** What the server has instead, where that one met somebody else's change. */
  private met: { readonly id: string; readonly current: unknown } | null = null;

  constructor(
    private readonly kinds: Readonly<Record<string, ErrandKind>>,
    private readonly device: Device,
    private readonly onDone: (errand: Errand) => void,
    /** Whether it has to wait for something else that this tab sends. */
    private readonly isHeld: (errand: Errand) => boolean = () => false,
  ) {
    this.pump = new Pump<Errand>({
      next: () => this.next(),
      send: (errand) => this.send(errand),
      met: ({ id }, current) => {
        this.met = { id, current };
      },
      waits: (_, why) => this.put({ why }),
      refused: (errand, error) => this.refuse(errand, error),
      idle: () => {},
    });
  }

  readonly subscribe = (listener: () => void) => {
    this.listeners.add(listener);
    return () => this.listeners.delete(listener);
  };

  readonly snapshot = (): ErrandsState => this.state;

  /** Goes on with what this tab had not sent. */
  resume() {
    for (const key of this.device.keys(KEY)) this.takeOver(key);
  }

  /** Goes on with what stands under a key of the device. */
  takeOver(key: string) {
    const errand = this.device.get<Errand>(key);
    if (!errand || this.state.list.some((e) => e.id === errand.id)) return;
    this.put({ list: [...this.state.list, errand].sort((a, b) => a.turn - b.turn) });
    this.pump.schedule(0);
  }

  /** @returns the answer, once the server gave one. @throws ApiError where it refused */
  run(kind: string, body: unknown, words: string): Promise<unknown> {
    const turn = (this.state.list.at(-1)?.turn ?? 0) + 1;
    const errand: Errand = { id: newId(), kind, body, words, turn };
    this.device.put(KEY + errand.id, errand).then((isKept) => this.put({ isKept }));
    this.put({ list: [...this.state.list, errand] });
    this.pump.schedule(0);
    return new Promise((done, fail) => this.waiting.set(errand.id, { done, fail }));
  }

  sendAgain(errand: Errand) {
    const { refused: _, ...again } = errand;
    this.device.put(KEY + errand.id, again);
    this.put({ list: this.state.list.map((e) => (e.id === errand.id ? again : e)) });
    this.pump.schedule(0);
  }

  putAway(errand: Errand) {
    this.device.remove(KEY + errand.id);
    this.put({ list: this.state.list.filter((e) => e.id !== errand.id) });
  }

  nudge() {
    if (this.state.list.some((e) => e.refused === undefined)) this.pump.schedule(0);
  }

  private next(): Errand | null {
    return this.state.list.find((e) => e.refused === undefined && !this.isHeld(e)) ?? null;
  }

  private async send(errand: Errand) {
    const current = this.met?.id === errand.id ? this.met.current : undefined;
    const answer = await this.kinds[errand.kind].send(errand.body as never, current);
    if (this.met?.id === errand.id) this.met = null;
    this.putAway(errand);
    this.put({ why: "" });
    this.onDone(errand);
    this.settle(errand, ({ done }) => done(answer));
  }

  private refuse(errand: Errand, error: Error) {
    const refused: Errand = { ...errand, refused: error.message };
    this.device.put(KEY + errand.id, refused);
    this.put({ list: this.state.list.map((e) => (e.id === errand.id ? refused : e)), why: "" });
    this.settle(errand, ({ fail }) => fail(error));
  }

  private settle(errand: Errand, how: (waits: { done: (a: unknown) => void; fail: (e: unknown) => void }) => void) {
    const waits = this.waiting.get(errand.id);
    this.waiting.delete(errand.id);
    if (waits) how(waits);
  }

  private put(change: Partial<ErrandsState>) {
    this.state = { ...this.state, ...change };
    for (const listener of this.listeners) listener();
  }
}
