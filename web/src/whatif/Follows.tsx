import type { Network } from "@hound/core/circuit";
import type { Configuration } from "@hound/core/configuration";
import { type Supposed, whatFollows, writeSupposed } from "@hound/core/whatif";
import { useMemo } from "react";
import { printFixed } from "../words/print.ts";
import { shown } from "../words/quantities.ts";
import type { Supposing } from "./useSupposing.ts";

interface FollowsProps {
  readonly supposing: Supposing;
  readonly network: Network;
  readonly standing: Configuration;
}

/** What the faults would blow or burn, one after the other, and the circuit as it is then. */
export function Follows({ supposing, network, standing }: FollowsProps) {
  const { supposed, change } = supposing;
  const { gave, supposed: after } = useMemo(
    () => whatFollows(network, supposed, standing),
    [network, supposed, standing],
  );
  if (gave.length === 0) return null;
  return (
    <section aria-label="What follows" className="rounded-lg border border-doubt bg-sheet px-3 py-2">
      <h3 className="font-bold text-doubt">What follows</h3>
      <ol className="list-decimal pl-6">
        {gave.map(({ part, of, value, rating }) => {
          const kind = network.branches.find((b) => b.name === part)?.kind;
          const times = value / rating;
          return (
            <li key={part}>
              <strong>
                {part} {kind === "fuse" ? "blows" : "burns open"}
              </strong>
              : {shown(value, of === "current" ? "A" : "W", 3)} is {printFixed(times, times < 10 ? 1 : 0)} times its
              rating.
            </li>
          );
        })}
      </ol>
      <button
        type="button"
        onClick={() => change(after)}
        className="mt-1 rounded-lg border border-rule px-3 py-1 hover:bg-band"
        title={after.map((f: Supposed) => writeSupposed(f, network)).join(", ")}
      >
        Let it happen
      </button>
    </section>
  );
}
