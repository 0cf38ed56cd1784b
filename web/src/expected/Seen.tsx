import type { Network, NodeName } from "@hound/core/circuit";
import type { Reduction, Seen } from "@hound/core/reduce";
import { print } from "../words/print.ts";
import { looseEnds, probed, type SeenFrom } from "./ends.ts";
import { NodeSelect } from "./NodeSelect.tsx";
import { Ohms } from "./Ohms.tsx";

interface SeenChoiceProps {
  readonly network: Network;
  readonly seen: SeenFrom | null;
  readonly onSee: (seen: SeenFrom | null) => void;
}

/** From where the circuit is reduced: from its supply, or from any two nodes, with supplies taken off or at rest. */
export function SeenChoice({ network, seen, onSee }: SeenChoiceProps) {
  const isDriven = network.branches.some((b) => b.kind === "supply");
  const names = probed(network);
  const [from, to] = looseEnds(network);
  const now: SeenFrom = seen ?? { from, to, supplies: "out" };
  return (
    <div className="flex flex-wrap items-end gap-3">
      {isDriven && (
        <label className="flex flex-col gap-1">
          Seen from
          <select
            value={seen?.supplies ?? "supply"}
            onChange={(e) =>
              onSee(e.target.value === "supply" ? null : { ...now, supplies: e.target.value as SeenFrom["supplies"] })
            }
            className="rounded-lg border border-rule bg-sheet px-3 py-2 text-lg"
          >
            <option value="supply">its supply</option>
            <option value="out">two nodes, supplies off</option>
            <option value="atRest">two nodes, supplies at rest</option>
          </select>
        </label>
      )}
      {(seen || !isDriven) && (
        <>
          <NodeSelect
            label="From"
            value={now.from}
            names={names}
            onChange={(name) => onSee({ ...now, from: name as NodeName })}
          />
          <NodeSelect
            label="To"
            value={now.to}
            names={names}
            onChange={(name) => onSee({ ...now, to: name as NodeName })}
          />
        </>
      )}
    </div>
  );
}

interface WholeProps {
  readonly network: Network;
  readonly seen: Seen;
  readonly reduction: Reduction;
  readonly digits: number;
}

/** What all of it comes to, seen from two nodes. */
export function Whole({ network, seen, reduction: { left }, digits }: WholeProps) {
  const [from, to] = seen.ends.map((n) => network.nodes[n]);
  return (
    <section aria-label="All of it" className="rounded-lg border border-rule bg-sheet p-4">
      <p className="text-lg">
        {from} to {to}: <b>{print(Number(left[0].ohms.toPrecision(digits)), "ohm")}</b>
        {seen.supplies === "atRest" && ", each supply replaced by its inside resistance"}
      </p>
      {seen.supplies === "out" && <Ohms network={network} from={from} to={to} />}
    </section>
  );
}
