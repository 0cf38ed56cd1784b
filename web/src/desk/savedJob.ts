import type { Trail } from "@hound/core/notation";
import { type Job, NEW_JOB_FIELDS, type NewJob } from "@hound/core/record";
import { isPassing, Pump } from "../outbox/pump.ts";
import { readOnce } from "../trail/readOnce.ts";
import { choose, type Here, inherit, meet, namesOfFresh, withOp } from "./meet.ts";
import { type Draft, type Op, type Refused, withFields } from "./ops.ts";
import { type DeskApi, nextStep, type Step, send } from "./steps.ts";

export interface DeskState {
  /** With what is still on its way. */
  readonly job: Job;
  /** The trail as typed, saved or not. */
  readonly text: string;
  readonly trail: Trail;
  /** The trail is being typed: what is shown of it may follow when there is time. */
  readonly typing: boolean;
  readonly pending: readonly Op[];
  /**
   * `waiting`: not all is saved, and it is tried again; `away`: all is saved, but what is shown may be old; `refused`: the
   * server answers, and will not have something; `choice`: somebody has to say which of two versions holds.
   */
  readonly saving: "saved" | "saving" | "waiting" | "away" | "refused" | "choice";
  /** Why it waits. */
  readonly why: string;
  /** Whether this device has what is not saved: its storage may be full, or forbidden. */
  readonly kept: "yes" | "no" | "busy";
  /** The stored version that a save collided with. */
  readonly conflict: Job | null;
  /** Changes that the server refused for good: they stay until somebody decides. */
  readonly refused: readonly Refused[];
  /** How often what was typed here and elsewhere was made one. */
  readonly merges: number;
}

export interface DeskEffects {
  readonly api: DeskApi;
  /** Keeps what is not saved on this device, or forgets it. @returns whether that was done */
  readonly keep: (draft: Draft | null) => Promise<boolean>;
  /** Told of the job as the server has it. */
  readonly see: (job: Job) => void;
}

type Outgoing = Step | { readonly what: "open" };

/**
 * A job with what of it is not saved yet. Everything is kept on this device until the server has it; writes go out one
 * after another, each with the revision it was made on; what others changed meanwhile is made one with it.
 */
export class SavedJob {
  protected state: DeskState;
  /** The job as the server has it, as far as is known. */
  private stored: Job;
  /** What is to be made before anything else can be saved. */
  private start: NewJob | null;
  private isReached: boolean;
  /** Readings that were sent in the names of a trail that met another. */
  private readonly sentMeanwhile = new Set<string>();
  private readonly listeners = new Set<() => void>();
  protected readonly pump: Pump<Outgoing>;
  private written: readonly unknown[] = [];
  private writes = 0;

  /**
   * @param job as the server has it; null where that does not answer
   * @param draft what was kept of it on this device
   * @param seen the job as it was last seen, for where there is neither
   */
  constructor(
    job: Job | null,
    draft: Draft | null,
    private readonly effects: DeskEffects,
    seen: Job | null = null,
  ) {
    const known = draft?.base ?? job ?? seen;
    if (!known) throw new Error("a desk without a job");
    // What an older version kept on this device does not have all fields.
    const base: Job = { ...NEW_JOB_FIELDS, ...known };
    this.stored = base;
    this.start = draft?.start ?? null;
    this.isReached = job !== null || this.start !== null;
    const text = draft?.text ?? base.circuit.trail;
    const pending = draft?.pending ?? [];
    this.state = {
      job: withFields(base, pending),
      text,
      trail: readOnce(text),
      typing: false,
      pending,
      saving: draft ? "saving" : this.isReached ? "saved" : "away",
      why: "",
      kept: "yes",
      conflict: null,
      refused: draft?.refused ?? [],
      merges: 0,
    };
    this.pump = new Pump<Outgoing>({
      next: () => this.next(),
      send: (step) => this.send(step),
      met: (_, current) => this.adopt(current as Job),
      waits: (_, why) => this.put({ saving: this.isDone ? "away" : "waiting", why }),
      refused: (step, error) => this.refuse(step, error.message),
      idle: () => this.idle(),
    });
    if (job) {
      effects.see(job);
      if (draft) this.adopt(job);
    }
    if (draft || !this.isReached) this.pump.schedule(0);
  }

  readonly subscribe = (listener: () => void) => {
    this.listeners.add(listener);
    return () => this.listeners.delete(listener);
  };

  readonly snapshot = (): DeskState => this.state;

  /** Nothing waits to be saved, or for a decision. */
  get isDone(): boolean {
    const { text, pending, refused, conflict } = this.state;
    const isSaved = text === this.stored.circuit.trail && pending.length === 0 && this.start === null;
    return isSaved && refused.length === 0 && !conflict;
  }

  /** The server does not have it yet. */
  get isNew(): boolean {
    return this.start !== null;
  }

  /** After a collision: which one holds. The other is among the stored versions. */
  resolve(keep: "mine" | "theirs") {
    const { conflict, refused } = this.state;
    if (!conflict) return;
    const { asked, ...now } = choose(this.here(), conflict, keep, this.sentMeanwhile);
    this.sentMeanwhile.clear();
    this.stored = conflict;
    this.put({ conflict: null, ...now, refused: [...refused, ...asked], ...this.onItsWay() });
    this.pump.schedule(0);
  }

  /** Takes over what a tab that is gone left behind: its changes go out, its trail is made one with what is here. */
  takeOver(draft: Draft) {
    const { asked, ...now } = inherit(this.here(), this.state.job, draft);
    this.put({ ...now, refused: [...this.state.refused, ...asked], ...this.onItsWay() });
    this.pump.schedule(0);
  }

  /** Sends a refused change once more; a trail is put in the place of what is there. */
  sendAgain(refused: Refused) {
    this.putAway(refused);
    if (refused.what === "op") this.push(refused.op);
    else if (refused.what === "circuit")
      this.put({ text: refused.text, trail: readOnce(refused.text), ...this.onItsWay() });
    this.pump.schedule(0);
  }

  /** Lets a refused change go. */
  putAway(refused: Refused) {
    this.put({ refused: this.state.refused.filter((r) => r !== refused) });
    this.pump.schedule(0);
  }

  /** Lets everything go that is not saved. */
  forget() {
    this.start = null;
    const text = this.stored.circuit.trail;
    this.put({ pending: [], refused: [], conflict: null, text, trail: readOnce(text), saving: "saved" });
  }

  /** The server may answer again: whatever waits is tried at once. */
  nudge() {
    if (!this.isDone || !this.isReached) this.pump.schedule(0);
  }

  /** Looks whether somebody else changed the job; what is typed here stays. @param at when it was changed last, where that is known */
  async refresh(at?: string) {
    if (at !== undefined && this.isReached && at === this.stored.updatedAt) return;
    if (this.pump.running || this.state.conflict || this.start) return;
    const before = this.stored;
    try {
      const job = await this.effects.api.open(before.id);
      // An answer from before one's own write was acknowledged is old: it would take that write for somebody else's.
      if (this.stored !== before) await this.refresh();
      else if (!this.pump.running) this.adopt(job);
    } catch (error) {
      if (!isPassing(error) || this.pump.running) return;
      this.isReached = false;
      this.pump.schedule(0);
    }
  }

  /**
   * Takes over the job as the server has it; a trail that was changed here as well is made one with it, or asked about.
   * @param own the change that this is the answer to: others may have come before it
   */
  private adopt(job: Job, own: Op | null = null) {
    const { refused, merges } = this.state;
    const waiting = own ? this.state.pending.filter((op) => op !== own) : this.state.pending;
    this.effects.see(job);
    const met = meet({ ...this.here(), pending: waiting }, job, own);
    if (!met) {
      if (own) this.sentMeanwhile.add(own.id);
      this.put({ conflict: job, saving: "choice", pending: waiting });
      return;
    }
    this.stored = job;
    const { asked, isMerged, ...now } = met;
    const more = asked.length > 0 ? { refused: [...refused, ...asked], saving: "refused" as const } : {};
    this.put({ merges: merges + Number(isMerged), ...now, ...more });
    if (now.pending.length > waiting.length) this.pump.schedule(0);
  }

  private here(): Here {
    const { text, trail, pending } = this.state;
    return { stored: this.stored, text, trail, pending };
  }

  protected push(op: Op) {
    this.put({ pending: withOp(this.state.pending, op, this.pump.running), ...this.onItsWay() });
    this.pump.schedule(0);
  }

  /** What is said while something new is to be sent: as long as the server is away, that it waits. */
  protected onItsWay(): Pick<DeskState, "saving"> {
    const { saving, conflict } = this.state;
    if (conflict) return { saving: "choice" };
    return { saving: saving === "waiting" || saving === "away" ? "waiting" : "saving" };
  }

  /** What goes out next: where the server was never reached, whether it has the job at all. */
  private next(): Outgoing | null {
    const { text, pending, refused, conflict } = this.state;
    if (conflict || refused.some((r) => r.what === "job")) return null;
    if (!this.isReached) return { what: "open" };
    return nextStep(this.stored, { start: this.start, text, pending, refused });
  }

  private async send(step: Outgoing) {
    const { api, see } = this.effects;
    if (step.what === "open") {
      const job = await api.open(this.stored.id);
      this.isReached = true;
      this.adopt(job);
      return;
    }
    const before = this.stored.circuit.trail;
    const job = await send(api, this.stored, step);
    if (step.what === "op" && step.op.op !== "store") return this.adopt(job, step.op);
    // What others read before they had this trail is in the names of the one before.
    const { pending } = this.state;
    const more = step.what === "circuit" ? namesOfFresh(this.stored, pending, job, before, readOnce(step.text)) : [];
    this.stored = job;
    see(job);
    if (step.what === "job") this.start = null;
    this.put({ pending: [...pending.filter((op) => step.what !== "op" || op !== step.op), ...more] });
  }

  /** What the server will not have goes to the tray, with the reason; the rest goes on. */
  private refuse(step: Outgoing, why: string) {
    this.isReached = true;
    // A job that is not there is found out by what is sent to it.
    if (step.what === "open") return;
    const { pending, refused } = this.state;
    const rest = step.what === "circuit" ? refused.filter((r) => r.what !== "circuit") : refused;
    const one: Refused = step.what === "job" ? { what: "job", why } : { ...step, why };
    const others = step.what === "op" ? pending.filter((op) => op !== step.op) : pending;
    this.put({ refused: [...rest, one], pending: others, saving: "refused" });
  }

  private idle() {
    const { conflict, refused } = this.state;
    if (conflict) this.put({ saving: "choice" });
    else if (refused.length > 0) this.put({ saving: "refused" });
    else if (this.isDone) this.put({ saving: "saved", why: "" });
    else this.pump.schedule(0);
  }

  protected put(change: Partial<DeskState>) {
    const before = this.state;
    const next = { ...before, typing: false, ...change };
    const isSameJob = this.stored === this.written[0] && next.pending === before.pending;
    this.state = { ...next, job: isSameJob ? before.job : withFields(this.stored, next.pending) };
    this.write();
    for (const listener of this.listeners) listener();
  }

  private write() {
    const { text, pending, refused, conflict } = this.state;
    const now = [this.stored, this.start, text, pending, refused, conflict];
    if (now.every((part, i) => part === this.written[i])) return;
    this.written = now;
    this.writes += 1;
    const turn = this.writes;
    // Said to be kept only once it is.
    if (this.state.saving === "waiting") this.state = { ...this.state, kept: "busy" };
    const { stored: base, start } = this;
    this.effects.keep(this.isDone ? null : { base, start, text, pending, refused }).then((isKept) => {
      if (turn !== this.writes) return;
      const kept = isKept ? "yes" : "no";
      if (kept === this.state.kept) return;
      this.state = { ...this.state, kept };
      for (const listener of this.listeners) listener();
    });
  }
}
