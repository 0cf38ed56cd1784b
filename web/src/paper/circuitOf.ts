import { writeTrail } from "@hound/core/notation";
import { FIRST_CIRCUITS } from "@hound/core/practice";
import { drawCircuit, seededRandom } from "@hound/core/simulate";
import { jobsApi } from "../api/jobs.ts";
import { libraryApi } from "../api/library.ts";
import { newSeed } from "../app/newSeed.ts";

/** The choice of a circuit that is drawn at random. */
export const DRAWN = "drawn";

/** How a circuit that is drawn shall be. */
export interface ToDraw {
  readonly parts: string;
  readonly bridges: boolean;
  /** Forks within forks at most; empty as many as come. */
  readonly depth?: string;
  readonly isPlain?: boolean;
}

const USUAL: ToDraw = { parts: "6", bridges: false };

/**
 * The circuit of a choice. @param toDraw how one that is drawn shall be
 * @throws Error where the parts to be drawn are no number, or the circuit is not there
 */
export async function circuitOf(
  choice: string,
  { parts, bridges, depth = "", isPlain = false }: ToDraw = USUAL,
): Promise<{ title: string; trail: string }> {
  const [from, id] = choice.split(" ");
  const first = FIRST_CIRCUITS.find((c) => from === "first" && c.key === id);
  if (first) return { title: first.title, trail: first.trail };
  if (from === "library") {
    const { name, trail } = await libraryApi.open(id);
    return { title: name, trail };
  }
  if (from === "job") {
    const job = await jobsApi.open(id);
    return { title: job.title, trail: job.circuit.trail };
  }
  if (choice !== DRAWN) throw new Error("there is no such circuit");
  const count = Number(parts);
  if (!Number.isInteger(count) || count < 2 || count > 40) throw new Error("from 2 to 40 parts can be drawn");
  // What is drawn here is the circuit, which is seen; what is hidden in it the server draws.
  const drawn = drawCircuit(count, seededRandom(newSeed()), {
    hasBridges: bridges,
    ...(depth === "" ? {} : { depth: Number(depth) }),
    ...(isPlain ? { kinds: ["resistor" as const] } : {}),
  });
  return { title: `A circuit of ${count} parts`, trail: writeTrail(drawn) };
}
