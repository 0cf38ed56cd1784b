import { ApiError } from "../api/client.ts";

const RETRY_AFTER = 1000;
/** The longest time between two tries, as a multiple of the first. */
const LONGEST_WAIT = 30;
/** Changes that meet somebody else's are tried at once again, so often at most; and with waits between, so often. */
const MOST_MEETINGS = 20;
const MOST_PATIENT_MEETINGS = 6;

/** What is sent, and what comes of it; the step in flight is handed to whoever is asked about it. */
interface Work<Step> {
  /** What goes out next; null when nothing is left, or something has to be decided first. */
  readonly next: () => Step | null;
  readonly send: (step: Step) => Promise<void>;
  /** The server has something else than the step was made on: it is tried at once again. */
  readonly met: (step: Step, current: unknown) => void;
  /** Later it may go through. */
  readonly waits: (step: Step, why: string) => void;
  /** The server will not have it: it is laid aside, and the rest goes on. */
  readonly refused: (step: Step, why: Error) => void;
  readonly idle: () => void;
}

/** Sends things one after another, and goes on trying, with growing waits, while the server does not answer. */
export class Pump<Step> {
  private timer: ReturnType<typeof setTimeout> | undefined;
  private failures = 0;
  private meetings = 0;
  /** Why it failed last, and how often in a row that was the reason before. */
  private reason = "";
  private repeats = 0;
  running = false;

  constructor(private readonly work: Work<Step>) {}

  schedule(after: number) {
    clearTimeout(this.timer);
    this.timer = setTimeout(() => this.run(), after);
  }

  private async run() {
    if (this.running) return;
    this.running = true;
    const again = await this.runOut();
    this.running = false;
    if (again !== null) this.schedule(again);
  }

  /** Sends until nothing is left or something fails. @returns milliseconds until it goes on; null where there is nothing to do */
  private async runOut(): Promise<number | null> {
    for (let step = this.work.next(); step !== null; step = this.work.next()) {
      try {
        await this.work.send(step);
      } catch (error) {
        return this.failed(step, error as Error);
      }
      this.failures = 0;
      this.meetings = 0;
      this.reason = "";
    }
    this.failures = 0;
    this.work.idle();
    return null;
  }

  private failed(step: Step, error: Error): number {
    const why = reasonOf(error);
    this.repeats = why === this.reason ? this.repeats + 1 : 0;
    this.reason = why;
    const current = metWith(error);
    this.meetings = current === undefined ? 0 : this.meetings + 1;
    const isPatient = current === undefined ? isPassing(error, this.repeats) : this.meetings > MOST_MEETINGS;
    const isEndless = this.meetings > MOST_MEETINGS + MOST_PATIENT_MEETINGS;
    if (isEndless) {
      this.meetings = 0;
      this.work.refused(step, error);
      return 0;
    }
    if (current !== undefined) this.work.met(step, current);
    else if (isPatient) this.work.waits(step, why);
    else this.work.refused(step, error);
    if (!isPatient) return 0;
    const wait = RETRY_AFTER * Math.min(2 ** this.failures, LONGEST_WAIT);
    this.failures += 1;
    return wait;
  }
}

/** What the server has instead, where a change met somebody else's; undefined where it has nothing to be changed. */
function metWith(error: unknown): unknown {
  return error instanceof ApiError && error.status === 409 ? (error.problem.current ?? undefined) : undefined;
}

/** A fault of the server that comes again and again is one that this very thing causes. */
const MOST_FAULTS = 6;

/** Whether a failure says nothing of what was sent: later it may go through. */
export function isPassing(error: unknown, tries = 0): boolean {
  if (!(error instanceof ApiError)) return true;
  const { status } = error;
  if (status === 500 && tries >= MOST_FAULTS) return false;
  return status === 0 || status >= 500 || status === 401 || status === 408 || status === 429;
}

/** Why something is not saved yet, to go on with after "Not saved: ". */
function reasonOf(error: unknown): string {
  const title = error instanceof ApiError ? error.problem.title : "something went wrong on this page";
  return title.charAt(0).toLowerCase() + title.slice(1);
}
