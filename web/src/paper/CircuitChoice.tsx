import { FIRST_CIRCUITS } from "@hound/core/practice";
import { jobsApi } from "../api/jobs.ts";
import { libraryApi } from "../api/library.ts";
import { useSeen } from "../desk/useSeen.ts";
import { DRAWN } from "./circuitOf.ts";

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
        <option value={DRAWN}>drawn at random</option>
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
