import { applyEdits, type Edited, pinNodes, type TextEdit, type Trail } from "@hound/core/notation";
import type { Job, JobReading, Reading } from "@hound/core/record";
import { ApiError } from "../api/client.ts";
import type { jobsApi } from "../api/jobs.ts";
import { newId } from "../app/newId.ts";
import { readOnce } from "./circuit/readOnce.ts";
import type { Draft, Drafts, Refused } from "./drafts.ts";
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
  /** `refused`: the server answers, and will not have it. */
  readonly saving: "saved" | "saving" | "waiting" | "refused";
  /** Whether this device keeps what is not saved: its storage may be full, or forbidden. */
  readonly isKept: boolean;
  /** The stored version that a save collided with. */
  readonly conflict: Job | null;
  /** Changes that the server refused for good: they stay until somebody decides. */
  readonly refused: readonly Refused[];
}

export interface DeskReading {
  readonly id: string;
  readonly reading: Reading;
  readonly unsent: boolean;
}

type Api = Pick<
  typeof jobsApi,
  "saveCircuit" | "addReading" | "changeReading" | "removeReading" | "restoreReading" | "change" | "open"
>;

const SAVE_AFTER = 500;
const RETRY_AFTER = 3000;
/** The longest time between two tries, as a multiple of the first. */
const LONGEST_WAIT = 10;

/**
 * What lies on the bench for one job: the trail, the readings, and what of them is not saved yet. Everything typed is
 * kept on this device until the server has it; writes go out one after another, each with the revision it was made on.
 */
export class JobDesk {
  private state: DeskState;
  private readonly listeners = new Set<() => void>();
  private timer: ReturnType<typeof setTimeout> | undefined;
  private running = false;
  private failures = 0;
  private readonly undos: (() => string)[] = [];
  private readonly renamings = new Renamings();

  constructor(
    job: Job,
    private readonly api: Api,
    private readonly drafts: Drafts,
  ) {
    const draft = drafts.read();
    const text = draft?.text ?? job.circuit.trail;
    const stale = draft !== null && draft.text !== job.circuit.trail && draft.revision !== job.circuit.revision;
    this.state = {
      job,
      text,
      trail: readOnce(text),
      typing: false,
      pending: draft?.pending ?? [],
      saving: "saved",
      isKept: true,
      conflict: stale ? job : null,
      refused: draft?.refused ?? [],
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
    const op: ReadingOp = { op: "add", id: newId(), reading };
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
    const send = () => this.api.change(this.state.job.id, { ...change, revision: this.state.job.revision });
    try {
      this.adopt(await send());
    } catch (error) {
      const current =
        error instanceof ApiError && error.status === 409 ? (error.problem.current as Job | undefined) : undefined;
      if (!current) throw error;
      // Somebody changed something else of the job meanwhile: field by field, what is set here holds.
      this.adopt(current);
      this.adopt(await send());
    }
  }

  /** After a collision: keep what is typed here, or take what is stored. */
  resolve(keep: "mine" | "theirs") {
    const { conflict, text } = this.state;
    if (!conflict) return;
    const kept = keep === "mine" ? text : conflict.circuit.trail;
    this.put({ job: conflict, conflict: null, text: kept, trail: readOnce(kept) });
    this.schedule(0);
  }

  /** Takes over what a tab that is gone left behind: its readings go out, its trail if nothing else was typed here. */
  takeOver(draft: Draft) {
    const { job, text, pending, refused } = this.state;
    const known = new Set([...pending.map((op) => op.id), ...job.readings.map((r) => r.id)]);
    const more = draft.pending.filter((op) => op.op !== "add" || !known.has(op.id));
    const isNews = draft.text !== job.circuit.trail && draft.text !== text;
    const isFree = text === job.circuit.trail && draft.revision === job.circuit.revision;
    const lost: Refused[] =
      isNews && !isFree
        ? [{ what: "circuit", text: draft.text, why: "typed in a tab that was closed; this one says something else" }]
        : [];
    this.put({
      pending: [...pending, ...more],
      refused: [...refused, ...(draft.refused ?? []), ...lost],
      ...(isNews && isFree ? { text: draft.text, trail: readOnce(draft.text) } : {}),
    });
    this.schedule(0);
  }

  /** Sends a refused change once more; a trail is put in the place of what is there. */
  sendAgain(refused: Refused) {
    this.putAway(refused);
    if (refused.what === "reading") this.push(refused.op);
    else this.setText(refused.text);
  }

  /** Lets a refused change go. */
  putAway(refused: Refused) {
    this.put({ refused: this.state.refused.filter((r) => r !== refused) });
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
      if (!this.state.conflict) this.put({ saving: this.state.refused.length > 0 ? "refused" : "saved" });
    } catch (error) {
      this.settle(error);
    } finally {
      this.running = false;
    }
  }

  /** Sends the trail if it changed, else the oldest pending reading. @returns false when nothing is left */
  private async sendNext(): Promise<boolean> {
    const { job, text, pending, refused } = this.state;
    // A trail that was refused is sent again only when it says something else.
    const isRefused = refused.some((r) => r.what === "circuit" && r.text === text);
    if (text !== job.circuit.trail && !isRefused) {
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
    if (!(error instanceof ApiError)) {
      // Whatever it was, nothing typed is lost by it: the next try may tell.
      this.put({ saving: "waiting" });
      this.schedule(RETRY_AFTER);
      return;
    }
    const current = error.problem.current as Job | undefined;
    if (error.status === 409 && current) {
      const textCollides =
        this.state.text !== this.state.job.circuit.trail && current.circuit.trail !== this.state.text;
      if (textCollides) this.put({ conflict: current });
      else {
        this.adopt(current);
        this.schedule(0);
      }
    } else if (error.status === 0 || error.status >= 500 || error.status === 429) {
      this.put({ saving: "waiting" });
      this.schedule(RETRY_AFTER * Math.min(2 ** this.failures, LONGEST_WAIT));
      this.failures += 1;
    } else this.refuse(error.message);
  }

  /** What was sent last goes to the tray, with the reason; the rest goes on. */
  private refuse(why: string) {
    const { text, job, pending, refused } = this.state;
    const isCircuit = text !== job.circuit.trail && !refused.some((r) => r.what === "circuit" && r.text === text);
    const [op, ...rest] = pending;
    if (isCircuit)
      this.put({
        refused: [...refused.filter((r) => r.what !== "circuit"), { what: "circuit", text, why }],
        saving: "refused",
      });
    else if (op) this.put({ refused: [...refused, { what: "reading", op, why }], pending: rest, saving: "refused" });
    if (this.state.pending.length > 0) this.schedule(0);
  }

  private put(change: Partial<DeskState>) {
    this.state = { ...this.state, typing: false, ...change };
    if (change.saving === "saved") this.failures = 0;
    this.writeDraft();
    for (const listener of this.listeners) listener();
  }

  private writeDraft() {
    const { job, text, pending, conflict, refused } = this.state;
    const isDone = text === job.circuit.trail && pending.length === 0 && refused.length === 0 && !conflict;
    const isKept = this.drafts.write(isDone ? null : { text, revision: job.circuit.revision, pending, refused });
    if (isKept !== this.state.isKept) this.state = { ...this.state, isKept };
  }
}
