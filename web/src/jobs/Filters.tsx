import { type LogbookFilter, OUTCOMES, SORTS } from "@hound/core/record";
import { X } from "lucide-react";
import { JobStateOptions } from "../app/JobStateOptions.tsx";
import type { useFilter } from "./useFilter.ts";

const SELECT = "rounded-lg border border-rule bg-sheet px-2 py-1.5";

interface FiltersProps {
  readonly filter: LogbookFilter;
  readonly set: ReturnType<typeof useFilter>["set"];
  /** What the circuit asked for is called. */
  readonly circuitName: string | null;
}

/** State, how it ended, period and order; what was picked elsewhere (a circuit, a part, a tag) to be let go. */
export function Filters({ filter, set, circuitName }: FiltersProps) {
  const { state, outcome, circuit, part, tag, from, to, sort } = filter;
  const picked = [
    circuit && { key: "circuit", words: circuitName ?? "one circuit" },
    part && { key: "part", words: `${part} found` },
    tag && { key: "tag", words: tag },
  ].filter((p) => typeof p === "object");
  return (
    <div className="mt-3 flex flex-wrap items-center gap-x-3 gap-y-2">
      <label>
        <span className="sr-only">State</span>
        <select value={state ?? ""} onChange={(e) => set({ state: e.target.value })} className={SELECT}>
          <option value="">All states</option>
          <JobStateOptions />
        </select>
      </label>
      <label>
        <span className="sr-only">How it ended</span>
        <select value={outcome ?? ""} onChange={(e) => set({ outcome: e.target.value })} className={SELECT}>
          <option value="">However it ended</option>
          {Object.entries(OUTCOMES).map(([key, word]) => (
            <option key={key} value={key}>
              {word}
            </option>
          ))}
        </select>
      </label>
      <label className="flex items-center gap-1.5 text-faint">
        from
        <input
          type="date"
          value={from ?? ""}
          onChange={(e) => set({ from: e.target.value })}
          className={`${SELECT} text-ink`}
        />
      </label>
      <label className="flex items-center gap-1.5 text-faint">
        to
        <input
          type="date"
          value={to ?? ""}
          onChange={(e) => set({ to: e.target.value })}
          className={`${SELECT} text-ink`}
        />
      </label>
      <label>
        <span className="sr-only">Order</span>
        <select value={sort} onChange={(e) => set({ sort: e.target.value })} className={SELECT}>
          {Object.entries(SORTS).map(([key, word]) => (
            <option key={key} value={key}>
              {word}
            </option>
          ))}
        </select>
      </label>
      {picked.map(({ key, words }) => (
        <button
          key={key}
          type="button"
          onClick={() => set({ [key]: "" })}
          className="flex items-center gap-1 rounded-full border border-copper px-3 py-1"
        >
          <span dir="auto" className="max-w-60 truncate">
            {words}
          </span>
          <X size={16} aria-label="let go" />
        </button>
      ))}
    </div>
  );
}
