import { ohmsOf } from "@hound/core/circuit";
import { isSameState } from "@hound/core/configuration";
import type { Settled } from "@hound/core/rank";
import { isDiodeTest, type Reading } from "@hound/core/record";
import { chainOf, deduce, type Fact, type Given, nodeEquations } from "@hound/core/reduce";
import { Fold } from "../app/Fold.tsx";
import { useConventions } from "../desk/conventions.ts";
import { type Drawn, useDesk } from "../desk/DeskContext.tsx";
import { deducedWords } from "../words/deduced.ts";
import { placeOf, shown } from "../words/quantities.ts";

/** Values that the trail leaves open, as the readings give them, with the sum on paper. */
export function Unknowns({ drawn, settled }: { drawn: Drawn; settled: Settled }) {
  const { estimates, wanted } = settled;
  return (
    <section aria-label="Unknown values" className="shrink-0 rounded-lg border border-rule bg-sheet px-3 py-2">
      <h2 className="font-bold">Left unknown</h2>
      <ul>
        {estimates.map(({ designator, unit, value, low, high, isSettled }) => (
          <li key={designator}>
            <b>{designator}</b>{" "}
            {isSettled
              ? `is about ${shown(value, unit, 3)} (${shown(low, unit, 3)} to ${shown(high, unit, 3)}), if nothing else is wrong`
              : "cannot be told from the readings yet"}
          </li>
        ))}
      </ul>
      {estimates.some((e) => e.isSettled) && (
        <Fold summary="How, on paper" summaryClass="mt-1 cursor-pointer text-faint hover:text-ink">
          {() => <OnPaper drawn={drawn} settled={settled} />}
        </Fold>
      )}
      {wanted.length > 0 && (
        <p className="mt-1 text-faint">
          Most would be learnt from{" "}
          {wanted
            .map((r) => (r.quantity === "current" ? `the current ${placeOf(r)}` : `the voltage at ${placeOf(r)}`))
            .join(", or ")}
          .
        </p>
      )}
    </section>
  );
}

/** The steps from what was read to each value that was found; what only equations together give, as these equations. */
function OnPaper({ drawn, settled }: { drawn: Drawn; settled: Settled }) {
  const { readings } = useDesk();
  const { sourceLetter } = useConventions();
  const { network } = drawn;
  const names = new Set(settled.estimates.map((e) => e.designator));
  const given = givenBy(
    drawn,
    readings.map((r) => r.reading),
  );
  const facts = deduce(network, given, names);
  const found = (name: string) => facts.find((f) => f.name === name && (f.of === "ohms" || f.of === "emf"));
  const reached = settled.estimates.flatMap((e) => (e.isSettled ? (found(e.designator) ?? []) : []));
  const steps = [...new Set(reached.flatMap(chainOf))].filter((f) => f.rule !== "drawn");
  const left = settled.estimates.filter((e) => e.isSettled && !found(e.designator)).map((e) => e.designator);
  return (
    <div className="mt-1">
      {steps.length > 0 && (
        <ol aria-label="The sum on paper" className="flex flex-col gap-0.5 font-mono text-[0.95rem]">
          {steps.map((fact: Fact) => (
            <li key={`${fact.of} ${fact.name}`}>{deducedWords(fact, sourceLetter)}</li>
          ))}
        </ol>
      )}
      {left.length > 0 && <Together drawn={drawn} names={left} />}
      <p className="mt-1 text-sm text-faint">As if the meter were not there; the value above counts it in.</p>
    </div>
  );
}

/** Junction equations that hold the values that only together can be found. */
function Together({ drawn: { network }, names }: { drawn: Drawn; names: readonly string[] }) {
  const { branches, nodes, reference } = network;
  const isAsked = (k: number) => names.includes(branches[k].part.designator);
  const own = nodeEquations(network).filter(({ terms }) => terms.some((t) => isAsked(t.branch)));
  const volts = (n: number) => (n === reference ? "0" : `V(${nodes[n]})`);
  const term = (k: number, leaves: boolean) => {
    const { name, from, to, law } = branches[k];
    const [near, far] = leaves ? [from, to] : [to, from];
    if (law.kind === "supply") return `I(${name})`;
    return `(${volts(near)} − ${volts(far)}) ÷ ${isAsked(k) || law.kind === "open" ? name : shown(ohmsOf(law), "ohm", 3)}`;
  };
  return (
    <div className="mt-1">
      <p>{names.join(" and ")}: solved together, from these and what was read.</p>
      <ul className="font-mono text-[0.95rem]">
        {own.map(({ node, terms }) => (
          <li key={node}>
            At {nodes[node]}: {terms.map((t) => term(t.branch, t.leaves)).join(" + ")} = 0
          </li>
        ))}
      </ul>
    </div>
  );
}

/** What was read of the circuit as it is drawn, as a sum takes it. */
function givenBy({ network }: Drawn, readings: readonly Reading[]): Given[] {
  const { nodes, branches, reference } = network;
  return readings.flatMap((r): Given[] => {
    if (r.quantity === "observation" || r.beyond !== undefined || !isSameState(r.state)) return [];
    if (isDiodeTest(r)) return [];
    if (r.quantity === "voltage") {
      const [from, to] = [nodes.indexOf(r.from), r.to === undefined ? reference : nodes.indexOf(r.to)];
      return from < 0 || to < 0 ? [] : [{ of: "volts", from, to, value: r.value }];
    }
    const name = r.quantity === "current" ? r.through : r.lifted;
    const branch = branches.findIndex((b) => b.name === name);
    return branch < 0 ? [] : [{ of: r.quantity === "current" ? "amps" : "ohms", branch, value: r.value }];
  });
}
