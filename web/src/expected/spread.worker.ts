import type { Network } from "@hound/core/circuit";
import { monteCarlo, seededRandom } from "@hound/core/simulate";

export interface SpreadRequest {
  readonly ticket: number;
  readonly network: Network;
  readonly draws: number;
  readonly seed: number;
}

export type SpreadAnswer =
  | { readonly kind: "progress"; readonly ticket: number; readonly share: number }
  | {
      readonly kind: "done";
      readonly ticket: number;
      readonly draws: number;
      readonly volts: Float64Array;
      readonly amps: Float64Array;
    };

let newest = 0;

/** Draws circuits off the page's own thread; a newer request, or none any more, ends the work on an older one. */
self.onmessage = async ({ data }: MessageEvent<SpreadRequest>) => {
  newest = data.ticket;
  const run = monteCarlo(data.network, data.draws, seededRandom(data.seed));
  for (let step = run.next(); ; step = run.next()) {
    if (step.done) {
      const { draws, volts, amps } = step.value;
      const answer: SpreadAnswer = { kind: "done", ticket: data.ticket, draws, volts, amps };
      self.postMessage(answer, { transfer: [volts.buffer, amps.buffer] });
      return;
    }
    const answer: SpreadAnswer = { kind: "progress", ticket: data.ticket, share: step.value };
    self.postMessage(answer);
    await new Promise((resume) => setTimeout(resume, 0));
    if (newest !== data.ticket) return;
  }
};
