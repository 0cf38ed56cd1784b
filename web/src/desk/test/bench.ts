import { type Job, NEW_JOB_FIELDS, type Reading } from "@hound/core/record";
import { ApiError } from "../../api/client.ts";
import type { Draft } from "../ops.ts";

export const TRAIL = "BT1 9V: R1 1k + R2 2k + R3 3k";

/** A server that keeps one job by the rules of the real one; it can be out of reach, or changed behind the desk's back. */
export class Bench {
  down = false;
  job: Job = {
    id: "00000000-0000-4000-8000-000000000001",
    title: "Vent",
    complaint: "",
    ...NEW_JOB_FIELDS,
    revision: 0,
    circuit: { trail: TRAIL, revision: 0 },
    readings: [],
    damaged: [],
    createdAt: "",
    updatedAt: "",
    deletedAt: null,
  };
  private readonly known = new Set<string>();
  readonly calls: string[] = [];
  /** Every version of the circuit that was stored. */
  readonly trails: string[] = [];

  private answer(name: string, change: () => Partial<Job>): Promise<Job> {
    this.calls.push(name);
    if (this.down) return Promise.reject(new ApiError(0, { type: "", title: "The server does not answer", status: 0 }));
    try {
      this.job = { ...this.job, ...change() };
      return Promise.resolve(this.job);
    } catch (error) {
      return Promise.reject(error);
    }
  }

  private stale(): never {
    throw new ApiError(409, { type: "", title: "Somebody changed this", status: 409, current: this.job });
  }

  saveCircuit = (_id: string, revision: number, trail: string) =>
    this.answer("circuit", () => {
      if (revision !== this.job.circuit.revision) this.stale();
      this.trails.push(trail);
      return { circuit: { trail, revision: revision + 1 } };
    });
  addReading = (_id: string, sent: { id: string; circuitRevision: number; reading: Reading }) =>
    this.answer("add", () => {
      // The same id again is the same reading, also when it was deleted meanwhile.
      if (this.known.has(sent.id)) return {};
      if (sent.circuitRevision !== this.job.circuit.revision) this.stale();
      if (sent.reading.note === "refuse") throw new ApiError(400, { type: "", title: "Not understood", status: 400 });
      this.known.add(sent.id);
      return { readings: [...this.job.readings, { id: sent.id, revision: 0, reading: sent.reading, createdAt: "" }] };
    });
  changeReading = (_id: string, id: string, _revision: number, reading: Reading) =>
    this.answer("change", () => ({ readings: this.job.readings.map((r) => (r.id === id ? { ...r, reading } : r)) }));
  removed = new Map<string, Job["readings"][number]>();
  removeReading = (_id: string, id: string) =>
    this.answer("remove", () => {
      const gone = this.job.readings.find((r) => r.id === id);
      if (gone) this.removed.set(id, gone);
      return { readings: this.job.readings.filter((r) => r.id !== id) };
    });
  restoreReading = (_id: string, id: string) =>
    this.answer("restore", () => ({
      readings: [...this.job.readings, this.removed.get(id) as Job["readings"][number]],
    }));
  change = (_id: string, change: Partial<Job>) => this.answer("job", () => change);
  open = () => this.answer("open", () => ({}));
  create = (start: { title: string; trail?: string }) =>
    this.answer("create", () => ({ title: start.title, circuit: { trail: start.trail ?? "", revision: 0 } }));
}

/** What each tab keeps on the device. */
export class Memory {
  readonly kept = new Map<string, Draft>();
  isFull = false;
  keeper = (tab: string) => async (draft: Draft | null) => {
    if (this.isFull) return false;
    if (draft) this.kept.set(tab, structuredClone(draft));
    else this.kept.delete(tab);
    return true;
  };
}
