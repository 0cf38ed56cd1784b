import type { Network, NodeName } from "@hound/core/circuit";
import { cornersOf, equivalentBetween, expectReadings, OVERLOAD } from "@hound/core/rank";
import type { Meter, NumericReading } from "@hound/core/record";
import { combine, compositeWords } from "@hound/core/reduce";
import { solveNetwork } from "@hound/core/solve";
import { useMemo, useState } from "react";
import { useSelection } from "../desk/DeskContext.tsx";
import { print } from "../words/print.ts";
import { figureWords, shown } from "../words/quantities.ts";
import { looseEnds, probed } from "./ends.ts";
import { NodeSelect } from "./NodeSelect.tsx";
import { Ohms } from "./Ohms.tsx";

/** Ohms of a source below which nothing limits its current. */
const NO_OHMS = 1e-6;
/** Nodes of a table of all pairs, at most. */
const MOST_PAIRED = 16;

/** Any two nodes: what lies between them, with power on and off, and what a meter makes of it. */
export function Between({ network, meter }: { network: Network; meter: Meter }) {
  const { selection } = useSelection();
  const names = probed(network);
  const reference = network.nodes[network.reference];
  const chosen = selection?.kind === "node" && selection.name !== reference ? selection.name : null;
  const [from, setFrom] = useState<string | null>(null);
  const [to, setTo] = useState<string | null>(null);
  const isDriven = network.branches.some((branch) => branch.kind === "supply");
  const [first, last] = isDriven ? [names.find((n) => n !== reference) ?? reference, reference] : looseEnds(network);
  const a = (from ?? chosen ?? first) as NodeName;
  const b = (to !== null && names.includes(to as NodeName) ? to : last) as NodeName;
  const found = a === b ? null : equivalentBetween(network, a, b, meter);
  const paths = a === b ? [] : pathsBetween(network, a, b);
  const point: NumericReading = { quantity: "voltage", from: a, to: b, value: 0 };
  const [window] = found ? (expectReadings(network, [point], null) ?? []) : [];
  const corners = found && cornersOf(network, point);
  const loading = found && found.openVolts !== 0 ? 1 - found.readVolts / found.openVolts : 0;
  return (
    <div className="flex flex-col gap-4">
      <div className="flex flex-wrap gap-4">
        <NodeSelect label="From (red lead)" value={a} names={names} onChange={setFrom} />
        <NodeSelect label="To (black lead)" value={b} names={names} onChange={setTo} />
      </div>
      {a === b && <p className="text-faint">Choose two different nodes.</p>}
      {a !== b && !found && (
        <p className="text-faint">
          Nothing connects {a} to {b}: no voltage between them means anything.
        </p>
      )}
      {found && (
        <>
          {isDriven && (
            <section aria-label="Power on" className="rounded-lg border border-rule bg-sheet p-4">
              <h2 className="text-lg font-bold">Power on</h2>
              <p>
                <b className="text-2xl">{shown(found.openVolts, "V")}</b> from {a} to {b}.
              </p>
              <p>
                The meter shows {shown(found.readVolts, "V", 5)}
                {Math.abs(loading) < 5e-5
                  ? ": it hardly loads the circuit."
                  : `, ${print(Number((loading * 100).toPrecision(2)), "%")} less, as it loads the circuit.`}
              </p>
              {window && (
                <p className="text-faint">
                  Healthy within {figureWords(window, "V")}
                  {!window.drawn && " (two standard deviations)"}
                  {corners && `; with every part at its edge ${shown(corners[0], "V")} to ${shown(corners[1], "V")}`}.
                </p>
              )}
              <p className="text-faint">
                Seen from here all of it acts like {shown(found.openVolts, "V")} behind {shown(found.sourceOhms, "ohm")}
                .
                {found.sourceOhms < NO_OHMS
                  ? " A wire across would carry a current without limit. Do not try it."
                  : ` A wire across would carry ${shown(found.shortAmps, "A")}. Do not try it.`}
              </p>
            </section>
          )}
          <section aria-label="Power off" className="rounded-lg border border-rule bg-sheet p-4">
            <h2 className="text-lg font-bold">{isDriven ? "Power off, supplies disconnected" : `${a} to ${b}`}</h2>
            <Ohms network={network} from={a} to={b} />
            {paths.length > 0 && (
              <p className="text-faint">
                {paths.length === 1
                  ? `One way: ${paths[0]}.`
                  : `${paths.length} ways side by side: ${paths.join("; ")}.`}
              </p>
            )}
          </section>
        </>
      )}
      <AllPairs network={network} isDriven={isDriven} />
    </div>
  );
}

/** What an ohmmeter between two nodes includes, as it comes together, supplies left out; where it divides, it says so. */
function pathsBetween(network: Network, from: NodeName, to: NodeName): string[] {
  const [a, b] = [network.nodes.indexOf(from), network.nodes.indexOf(to)];
  const live = network.branches.flatMap((branch, k) =>
    branch.kind === "supply" || branch.law.kind === "open" ? [] : [k],
  );
  const whole = combine(network, live, new Set([a, b])).filter(
    (c) => (c.from === a && c.to === b) || (c.from === b && c.to === a),
  );
  return whole
    .flatMap((c) => (c.kind === "parallel" ? c.parts : [c]))
    .map((c) => {
      const words = compositeWords(network, c);
      const divides = c.kind === "series" ? c.parts.find((p) => p.kind === "parallel") : undefined;
      if (!divides) return words;
      const [one, other] = [divides.from, divides.to].map((n) => network.nodes[n]);
      return `${words}, dividing at ${one} and joining again at ${other}`;
    });
}

/** Volts from every node to every other one; ohms where there is no supply. */
function AllPairs({ network, isDriven }: { network: Network; isDriven: boolean }) {
  const nodes = network.nodes.flatMap((name, n) => (name.endsWith(".tap") ? [] : [{ name, n }]));
  const figures = useMemo(
    () => (nodes.length > MOST_PAIRED ? null : pairFigures(network, isDriven)),
    [network, isDriven, nodes.length],
  );
  if (!figures) return null;
  const what = isDriven ? "volts" : "ohms";
  return (
    <details className="rounded-lg border border-rule bg-sheet">
      <summary className="cursor-pointer px-4 py-2 text-lg font-bold">Every two nodes: {what}</summary>
      <section className="overflow-x-auto px-2 pb-3" aria-label={`Every two nodes: ${what}`} tabIndex={0}>
        <table className="border-collapse text-right text-[0.94rem]">
          <thead>
            <tr>
              <th scope="col" className="px-2 py-1 text-left font-normal text-faint">
                from ╲ to
              </th>
              {nodes.map(({ name }) => (
                <th key={name} scope="col" className="px-2 py-1">
                  {name}
                </th>
              ))}
            </tr>
          </thead>
          <tbody>
            {nodes.map((from) => (
              <tr key={from.name} className="border-t border-rule">
                <th scope="row" className="px-2 py-1 text-left">
                  {from.name}
                </th>
                {nodes.map((to) => (
                  <td key={to.name} className="px-2 py-1 whitespace-nowrap">
                    {from.n === to.n ? "" : figures(from.name, to.name)}
                  </td>
                ))}
              </tr>
            ))}
          </tbody>
        </table>
      </section>
    </details>
  );
}

/** What stands in the table of all pairs; null where the network cannot be solved. */
function pairFigures(network: Network, isDriven: boolean): ((from: NodeName, to: NodeName) => string) | null {
  const { nodes } = network;
  if (isDriven) {
    const solved = solveNetwork(network);
    if (solved.kind !== "solved") return null;
    return (from, to) => shown(solved.volts[nodes.indexOf(from)] - solved.volts[nodes.indexOf(to)], "V");
  }
  const pairs = nodes.flatMap((from) =>
    nodes.map((to): NumericReading => ({ quantity: "resistance", from, to, value: 0 })),
  );
  const due = expectReadings(network, pairs, null);
  if (!due) return null;
  return (from, to) => {
    const { value } = due[nodes.indexOf(from) * nodes.length + nodes.indexOf(to)];
    return value < OVERLOAD ? shown(value, "ohm") : "OL";
  };
}
