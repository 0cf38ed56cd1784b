import { type Job, NEW_JOB_FIELDS, type NewJob } from "@hound/core/record";
import { newId } from "../app/newId.ts";
import type { Device } from "../outbox/device.ts";
import { isPassing } from "../outbox/pump.ts";
import { JobDesk } from "./desk.ts";
import { readDraft, writeDraft } from "./draft.ts";
import type { Draft } from "./ops.ts";
import type { DeskApi } from "./steps.ts";

const KEY = "desk:";
const seenKey = (id: string) => `job:${id}`;

/** The desks of one tab: one a job, whether a page shows it or only something of it is still to be sent. */
export class Desks {
  private readonly desks = new Map<string, JobDesk>();
  private readonly listeners = new Set<() => void>();
  private list: readonly JobDesk[] = [];

  constructor(
    private readonly api: DeskApi,
    private readonly device: Device,
    private readonly now: () => Date,
  ) {}

  readonly subscribe = (listener: () => void) => {
    this.listeners.add(listener);
    return () => this.listeners.delete(listener);
  };

  /** Desks with something that is not saved. */
  readonly unsaved = (): readonly JobDesk[] => this.list;

  /** Goes on with what this tab had not sent when it was closed or loaded anew. */
  resume() {
    for (const key of this.device.keys(KEY)) this.takeOver(key);
  }

  /**
   * The desk of a job: as the server has it, else as it was last seen here, with what is not saved yet.
   * @throws ApiError where the server has no such job, or does not answer, and nothing of it is known here
   */
  async open(id: string): Promise<JobDesk> {
    const known = this.desks.get(id);
    if (known) {
      known.refresh();
      return known;
    }
    const seen = this.device.lastSeen<Job>(seenKey(id));
    try {
      const job = await this.api.open(id);
      return this.desks.get(id) ?? this.put(id, new JobDesk(job, null, this.effectsFor(id)));
    } catch (error) {
      // A job that was begun here meanwhile is known by now.
      const begun = this.desks.get(id);
      if (begun) return begun;
      if (!seen || !isPassing(error)) throw error;
      return this.put(id, new JobDesk(null, null, this.effectsFor(id), seen.value));
    }
  }

  /** Begins a job: it is there at once, and on the server when that answers. */
  create(fields: { title: string; complaint: string; trail?: string; libraryId?: string }): string {
    const id = newId();
    const { title, complaint, trail = "", libraryId } = fields;
    const start: NewJob = { id, title, complaint, trail, ...(libraryId ? { libraryId } : {}) };
    const at = this.now().toISOString();
    const base: Job = {
      id,
      title: title.trim(),
      complaint,
      ...NEW_JOB_FIELDS,
      revision: 0,
      circuit: { trail, revision: 0 },
      readings: [],
      damaged: [],
      createdAt: at,
      updatedAt: at,
      deletedAt: null,
    };
    const draft: Draft = { base, start, text: trail, pending: [], refused: [] };
    this.device.put(KEY + id, writeDraft(draft));
    this.put(id, new JobDesk(null, draft, this.effectsFor(id)));
    return id;
  }

  /** Whether a job was begun here and the server does not have it yet. */
  isNew(id: string | null): boolean {
    return id !== null && (this.desks.get(id)?.isNew ?? false);
  }

  /** Lets a job go that the server never had. */
  drop(id: string) {
    this.desks.get(id)?.forget();
    this.desks.delete(id);
    this.tell();
  }

  /** Goes on with what stands under a key of the device. */
  takeOver(key: string) {
    // What this version does not understand stays where it is.
    const draft = readDraft(this.device.get(key));
    if (!draft) return;
    const { id } = draft.base;
    const known = this.desks.get(id);
    if (known) known.takeOver(draft);
    else this.put(id, new JobDesk(null, draft, this.effectsFor(id)));
    // Under its own name it is written before the other goes.
    if (key !== KEY + id)
      this.device.put(KEY + id, this.device.get(KEY + id) ?? writeDraft(draft)).then(() => this.device.remove(key));
  }

  private put(id: string, desk: JobDesk): JobDesk {
    this.desks.set(id, desk);
    desk.subscribe(() => this.tell());
    this.tell();
    return desk;
  }

  private tell() {
    const list = [...this.desks.values()].filter((desk) => !desk.isDone);
    if (list.length === this.list.length && list.every((desk, i) => desk === this.list[i])) return;
    this.list = list;
    for (const listener of this.listeners) listener();
  }

  private effectsFor(id: string) {
    return {
      api: this.api,
      keep: (draft: Draft | null) =>
        draft ? this.device.put(KEY + id, writeDraft(draft)) : this.device.remove(KEY + id).then(() => true),
      see: (job: Job) => this.device.see(seenKey(id), job, this.now().getTime()),
    };
  }
}
