import { writeTrail } from "@hound/core/notation";
import { FIRST_CIRCUITS } from "@hound/core/practice";
import { drawCircuit, seededRandom } from "@hound/core/simulate";
import { jobsApi } from "../api/jobs.ts";
import { libraryApi } from "../api/library.ts";
import { useSeen } from "../desk/useSeen.ts";

interface CircuitChoiceProps {
  readonly label: string;
  /** `drawn`, `first KEY`, `library ID`, `job ID`. */
  readonly value: string;
  /** Whether it is in sight: lists are asked for then. */
  readonly isOpen: boolean;
  readonly onPick: (value: string) => void;
}

/** Which circuit is practised on: drawn at random, of the first hunts, of the library, of a job. */
export function CircuitChoice({ label, value, isOpen, onPick }: CircuitChoiceProps) {
  const library = useSeen(["library", "", false], () => libraryApi.list("", false), { enabled: isOpen });
  const jobs = useSeen(["jobs", "for practice"], () => jobsApi.list({}, 30), { enabled: isOpen });
  const groups = {
    "Of the first hunts": FIRST_CIRCUITS.map((c) => ({ value: `first ${c.key}`, name: c.title })),
    "Of the library": (library.data?.circuits ?? []).map((c) => ({ value: `library ${c.id}`, name: c.name })),
    "Of a job": (jobs.data?.jobs ?? []).map((j) => ({ value: `job ${j.id}`, name: j.title })),
  };
  return (
    <label className="flex min-w-0 flex-col gap-1">
      {label}
      <select
        value={value}
        className="w-full rounded-lg border border-rule bg-paper px-3 py-2"
        onChange={(e) => onPick(e.target.value)}
      >
        <option value="drawn">drawn at random</option>
        {Object.entries(groups).map(
          ([group, options]) =>
            options.length > 0 && (
              <optgroup key={group} label={group}>
                {options.map((o) => (
                  <option key={o.value} value={o.value}>
                    {o.name}
                  </option>
                ))}
              </optgroup>
            ),
        )}
      </select>
    </label>
  );
}

/** How a circuit that is drawn shall be. */
export interface ToDraw {
  readonly parts: string;
  readonly bridges: boolean;
  /** Forks within forks at most; empty as many as come. */
  readonly depth?: string;
  readonly isPlain?: boolean;
}

/** @throws Error where the parts to be drawn are no number, or the circuit is not there */
export async function circuitOf(
  choice: string,
  { parts, bridges, depth = "", isPlain = false }: ToDraw,
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
  const count = Number(parts);
  if (!Number.isInteger(count) || count < 2 || count > 40) throw new Error("from 2 to 40 parts can be drawn");
  // What is drawn here is the circuit, which is seen; what is hidden in it the server draws.
  const drawn = drawCircuit(count, seededRandom(Math.floor(Math.random() * 2 ** 32)), {
    hasBridges: bridges,
    ...(depth === "" ? {} : { depth: Number(depth) }),
    ...(isPlain ? { kinds: ["resistor" as const] } : {}),
  });
  return { title: `A circuit of ${count} parts`, trail: writeTrail(drawn) };
}
