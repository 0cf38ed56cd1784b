import { ApiError } from "../api/client.ts";

const RETRY_AFTER = 1000;
/** The longest time between two tries, as a multiple of the first. */
const LONGEST_WAIT = 30;
/** Changes that meet somebody else's are tried at once again, so often at most. */
const MOST_MEETINGS = 20;

interface Work {
  /** Sends what comes next. @returns false when nothing is left, or something has to be decided first */
  readonly next: () => Promise<boolean>;
  /**
   * What a failure means: a meeting that is settled, something to be tried again, or something to be laid aside.
   * @param tries so many in a row failed for the same reason before
   */
  readonly failed: (error: unknown, tries: number) => "met" | "wait" | "aside";
  readonly idle: () => void;
}

/** Sends things one after another, and goes on trying, with growing waits, while the server does not answer. */
export class Pump {
  private timer: ReturnType<typeof setTimeout> | undefined;
  private failures = 0;
  private meetings = 0;
  /** Why it failed last, and how often in a row that was the reason before. */
  private reason = "";
  private repeats = 0;
  running = false;

  constructor(private readonly work: Work) {}

  schedule(after: number) {
    clearTimeout(this.timer);
    this.timer = setTimeout(() => this.run(), after);
  }

  private async run() {
    if (this.running) return;
    this.running = true;
    let again: number | null = null;
    try {
      while (await this.work.next()) {
        this.failures = 0;
        this.meetings = 0;
        this.reason = "";
      }
      this.failures = 0;
      this.work.idle();
    } catch (error) {
      const reason = reasonOf(error);
      this.repeats = reason === this.reason ? this.repeats + 1 : 0;
      this.reason = reason;
      const what = this.work.failed(error, this.repeats);
      this.meetings = what === "met" ? this.meetings + 1 : 0;
      if (what === "wait" || this.meetings > MOST_MEETINGS) {
        again = RETRY_AFTER * Math.min(2 ** this.failures, LONGEST_WAIT);
        this.failures += 1;
      } else again = 0;
    } finally {
      this.running = false;
    }
    if (again !== null) this.schedule(again);
  }
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
export function reasonOf(error: unknown): string {
  const title = error instanceof ApiError ? error.problem.title : "something went wrong on this page";
  return title.charAt(0).toLowerCase() + title.slice(1);
}
