import { applyEdits, type Edited, pinNodes, type TextEdit, type Trail } from "@hound/core/notation";
import type { Job, JobReading, Reading } from "@hound/core/record";
import { ApiError } from "../api/client.ts";
import type { jobsApi } from "../api/jobs.ts";
import { readOnce } from "./circuit/readOnce.ts";
import { Renamings, standingIn } from "./renamings.ts";

/** A change of the readings that is on its way to the server. */
export type ReadingOp =
  | { readonly op: "add"; readonly id: string; readonly reading: Reading }
  | { readonly op: "change"; readonly id: string; readonly reading: Reading; readonly before: Reading }
  | { readonly op: "remove" | "restore"; readonly id: string; readonly reading: Reading };

export interface DeskState {
  readonly job: Job;
  /** The trail as typed, saved or not. */
  readonly text: string;
  readonly trail: Trail;
  /** The trail is being typed: what is shown of it may follow when there is time. */
  readonly typing: boolean;
  readonly pending: readonly ReadingOp[];
  readonly saving: "saved" | "saving" | "waiting";
  /** The stored version that a save collided with. */
  readonly conflict: Job | null;
  /** A change that the server refused for good. */
  readonly refused: string | null;
}

export interface DeskReading {
  readonly id: string;
  readonly reading: Reading;
  readonly unsent: boolean;
}

interface Draft {
  readonly text: string;
  readonly revision: number;
  readonly pending: readonly ReadingOp[];
}

type Api = Pick<
  typeof jobsApi,
  "saveCircuit" | "addReading" | "changeReading" | "removeReading" | "restoreReading" | "change" | "open"
>;

const SAVE_AFTER = 500;
const RETRY_AFTER = 3000;

/**
 * What lies on the bench for one job: the trail, the readings, and what of them is not saved yet. Everything typed is
 * kept on this device until the server has it; writes go out one after another, each with the revision it was made on.
 */
export class JobDesk {
  private state: DeskState;
  private readonly listeners = new Set<() => void>();
  private timer: ReturnType<typeof setTimeout> | undefined;
  private running = false;
  private readonly undos: (() => string)[] = [];
  private readonly renamings = new Renamings();

  constructor(
    job: Job,
    private readonly api: Api,
    private readonly storage: Pick<Storage, "getItem" | "setItem" | "removeItem">,
  ) {
    const draft = this.readDraft(job.id);
    const text = draft?.text ?? job.circuit.trail;
    const stale = draft !== null && draft.text !== job.circuit.trail && draft.revision !== job.circuit.revision;
    this.state = {
      job,
      text,
      trail: readOnce(text),
      typing: false,
      pending: draft?.pending ?? [],
      saving: "saved",
      conflict: stale ? job : null,
      refused: null,
    };
    if (draft && !stale) this.schedule(0);
  }

  readonly subscribe = (listener: () => void) => {
    this.listeners.add(listener);
    return () => this.listeners.delete(listener);
  };

  readonly snapshot = (): DeskState => this.state;

  /** Readings as they stand, with what is still on its way. */
  static readingsOf({ job, pending }: DeskState): DeskReading[] {
    let list: DeskReading[] = job.readings.map((r: JobReading) => ({ id: r.id, reading: r.reading, unsent: false }));
    for (const op of pending) {
      const rest = list.filter((r) => r.id !== op.id);
      if (op.op === "remove") list = rest;
      else if (op.op === "change")
        list = list.map((r) => (r.id === op.id ? { ...r, reading: op.reading, unsent: true } : r));
      else list = [...rest, { id: op.id, reading: op.reading, unsent: true }];
    }
    return list;
  }

  setText(text: string, typing = false) {
    const before = this.state.text;
    if (text === before) return;
    this.put({ text, trail: readOnce(text), typing, saving: "saving" });
    for (const change of this.renamings.between(before, text)) this.push({ op: "change", ...change });
    this.schedule(SAVE_AFTER);
  }

  /** Typing stops for something else: all that is shown is of the text as it stands. */
  catchUp() {
    if (this.state.typing) this.put({});
  }

  /** Takes over an edit of the circuit; readings follow nodes and parts to their new names, and back when it is undone. */
  edit(edited: Extract<Edited, { kind: "edited" }>) {
    this.renamings.remember(this.state.text, edited, JobDesk.readingsOf(this.state));
    this.setText(edited.text);
    const { standing } = this.state.job;
    const isRenamed = edited.nodes.size + edited.parts.size > 0 && Object.keys(standing).length > 0;
    // Where this is not kept, parts go by their old names and the bench says that they are not in the circuit.
    if (isRenamed) this.changeJob({ standing: standingIn(standing, edited) }).catch(() => {});
  }

  /** Changes the trail in places, as the editor would. */
  applyEdits(edits: readonly TextEdit[]) {
    this.setText(applyEdits(this.state.text, edits));
  }

  /**
   * Adds a reading. Junctions it uses that nobody named are named in the trail first, so that a later insertion cannot
   * move it to another node.
   */
  addReading(taken: Reading) {
    const reading = this.pinned(taken);
    const op: ReadingOp = { op: "add", id: crypto.randomUUID(), reading };
    this.push(op);
    this.undos.push(() => {
      this.push({ ...op, op: "remove" });
      return "Reading taken back";
    });
  }

  correctReading(id: string, taken: Reading) {
    const reading = this.pinned(taken);
    const before = JobDesk.readingsOf(this.state).find((r) => r.id === id)?.reading;
    if (!before) return;
    this.push({ op: "change", id, reading, before });
    this.undos.push(() => {
      this.push({ op: "change", id, reading: before, before: reading });
      return "Correction taken back";
    });
  }

  removeReading(id: string) {
    const reading = JobDesk.readingsOf(this.state).find((r) => r.id === id)?.reading;
    if (!reading) return;
    this.push({ op: "remove", id, reading });
    this.undos.push(() => {
      this.push({ op: "restore", id, reading });
      return "Reading restored";
    });
  }

  private pinned(reading: Reading): Reading {
    if (reading.quantity === "observation" || reading.quantity === "current") return reading;
    const { trail } = this.state;
    const used = [reading.from, reading.to].filter((n) => n !== undefined);
    const { text, names } = pinNodes(trail, used);
    if (text === trail.text) return reading;
    this.setText(text);
    const renamed = new Map(used.map((n, i) => [n, names[i]]));
    const name = (n: string | undefined) => (n === undefined ? undefined : renamed.get(n));
    return {
      ...reading,
      ...(reading.from ? { from: name(reading.from) as string } : {}),
      ...(reading.to ? { to: name(reading.to) } : {}),
    };
  }

  /** Takes back the last change of the readings. @returns what was done, or null when there was nothing */
  undo(): string | null {
    return this.undos.pop()?.() ?? null;
  }

  /** Changes title, state, finding or meter; the answer comes when the server has it. */
  async changeJob(
    change: Partial<
      Pick<Job, "title" | "complaint" | "finding" | "state" | "meter" | "priors" | "situation" | "standing">
    >,
  ) {
    this.adopt(await this.api.change(this.state.job.id, { ...change, revision: this.state.job.revision }));
  }

  /** After a collision: keep what is typed here, or take what is stored. */
  resolve(keep: "mine" | "theirs") {
    const { conflict, text } = this.state;
    if (!conflict) return;
    const kept = keep === "mine" ? text : conflict.circuit.trail;
    this.put({ job: conflict, conflict: null, text: kept, trail: readOnce(kept) });
    this.schedule(0);
  }

  dismissRefused() {
    this.put({ refused: null });
  }

  /** Looks whether somebody else changed the job; what is typed here stays. */
  async refresh() {
    if (this.running || this.state.conflict) return;
    const before = this.state.job;
    try {
      const job = await this.api.open(before.id);
      // An answer from before one's own write was acknowledged is old: it would take that write for somebody else's.
      if (this.state.job !== before) await this.refresh();
      else if (!this.running) this.adopt(job);
    } catch {
      // The next write will tell.
    }
  }

  private adopt(job: Job) {
    const unchanged = this.state.text === this.state.job.circuit.trail;
    const text = unchanged ? job.circuit.trail : this.state.text;
    const collides =
      !unchanged && job.circuit.revision !== this.state.job.circuit.revision && job.circuit.trail !== text;
    if (collides) this.put({ conflict: job });
    else this.put({ job, ...(text === this.state.text ? {} : { text, trail: readOnce(text) }) });
  }

  private push(op: ReadingOp) {
    this.put({ pending: [...this.state.pending, op], saving: "saving" });
    this.schedule(0);
  }

  private schedule(after: number) {
    clearTimeout(this.timer);
    this.timer = setTimeout(() => this.flush(), after);
  }

  private async flush() {
    if (this.running || this.state.conflict) return;
    this.running = true;
    try {
      for (let more = true; more; ) more = await this.sendNext();
      if (!this.state.conflict) this.put({ saving: "saved" });
    } catch (error) {
      this.settle(error);
    } finally {
      this.running = false;
    }
  }

  /** Sends the trail if it changed, else the oldest pending reading. @returns false when nothing is left */
  private async sendNext(): Promise<boolean> {
    const { job, text, pending } = this.state;
    if (text !== job.circuit.trail) {
      const answer = await this.api.saveCircuit(job.id, job.circuit.revision, text);
      this.put({ job: answer });
      return true;
    }
    const [op] = pending;
    if (!op) return false;
    const answer = await this.send(job, op);
    this.put({ job: answer, pending: this.state.pending.filter((p) => p !== op) });
    return true;
  }

  private send(job: Job, op: ReadingOp): Promise<Job> {
    switch (op.op) {
      case "add":
        return this.api.addReading(job.id, { id: op.id, circuitRevision: job.circuit.revision, reading: op.reading });
      case "change": {
        const revision = job.readings.find((r) => r.id === op.id)?.revision ?? 0;
        return this.api.changeReading(job.id, op.id, revision, op.reading);
      }
      case "remove":
        return this.api.removeReading(job.id, op.id);
      case "restore":
        return this.api.restoreReading(job.id, op.id);
      default:
        return op satisfies never;
    }
  }

  private settle(error: unknown) {
    if (!(error instanceof ApiError)) throw error;
    const current = error.problem.current as Job | undefined;
    if (error.status === 409 && current) {
      const textCollides =
        this.state.text !== this.state.job.circuit.trail && current.circuit.trail !== this.state.text;
      if (textCollides) this.put({ conflict: current });
      else {
        this.adopt(current);
        this.schedule(0);
      }
    } else if (error.status === 0 || error.status >= 500) {
      this.put({ saving: "waiting" });
      this.schedule(RETRY_AFTER);
    } else {
      this.put({ refused: error.message, pending: this.state.pending.slice(1) });
      if (this.state.text === this.state.job.circuit.trail) this.schedule(0);
    }
  }

  private put(change: Partial<DeskState>) {
    this.state = { ...this.state, typing: false, ...change };
    this.writeDraft();
    for (const listener of this.listeners) listener();
  }

  private writeDraft() {
    const { job, text, pending, conflict } = this.state;
    const key = `hound:desk:${job.id}`;
    if (text === job.circuit.trail && pending.length === 0 && !conflict) {
      this.storage.removeItem(key);
      return;
    }
    try {
      const draft: Draft = { text, revision: job.circuit.revision, pending };
      this.storage.setItem(key, JSON.stringify(draft));
    } catch {
      // Storage is full or forbidden: the server still gets everything.
    }
  }

  private readDraft(id: string): Draft | null {
    try {
      const stored = this.storage.getItem(`hound:desk:${id}`);
      return stored ? (JSON.parse(stored) as Draft) : null;
    } catch {
      return null;
    }
  }
}
