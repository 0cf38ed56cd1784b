import type { Network, NodeName } from "@hound/core/circuit";
import { cornersOf, equivalentBetween, expectReadings, OVERLOAD } from "@hound/core/rank";
import type { Meter, NumericReading } from "@hound/core/record";
import { combine, compositeWords } from "@hound/core/reduce";
import { solveNetwork } from "@hound/core/solve";
import { useState } from "react";
import { useSelection } from "../desk/DeskContext.tsx";
import { print } from "../words/print.ts";
import { shown, withLimits } from "../words/quantities.ts";

/** Ohms of a source below which nothing limits its current. */
const NO_OHMS = 1e-6;
/** Nodes of a table of all pairs, at most. */
const MOST_PAIRED = 16;

/** Any two nodes: what lies between them, with power on and off, and what a meter makes of it. */
export function Between({ network, meter }: { network: Network; meter: Meter }) {
  const { selection } = useSelection();
  const names = network.nodes.filter((n) => !n.endsWith(".tap"));
  const reference = network.nodes[network.reference];
  const chosen = selection?.kind === "node" && selection.name !== reference ? selection.name : null;
  const [from, setFrom] = useState<string | null>(null);
  const [to, setTo] = useState<string>(reference);
  const a = (from ?? chosen ?? names.find((n) => n !== reference) ?? reference) as NodeName;
  const b = (names.includes(to as NodeName) ? to : reference) as NodeName;
  const found = a === b ? null : equivalentBetween(network, a, b, meter);
  const paths = a === b ? [] : pathsBetween(network, a, b);
  const point: NumericReading = { quantity: "voltage", from: a, to: b, value: 0 };
  const [window] = found ? (expectReadings(network, [point], null) ?? []) : [];
  const corners = found && cornersOf(network, point, null);
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
                Healthy within {withLimits(window.value, window.plusMinus, "V")} (two standard deviations)
                {corners && `; with every part at its edge ${shown(corners[0], "V")} to ${shown(corners[1], "V")}`}.
              </p>
            )}
            <p className="text-faint">
              Seen from here all of it acts like {shown(found.openVolts, "V")} behind {shown(found.sourceOhms, "ohm")}.
              {found.sourceOhms < NO_OHMS
                ? " A wire across would carry a current without limit. Do not try it."
                : ` A wire across would carry ${shown(found.shortAmps, "A")}. Do not try it.`}
            </p>
          </section>
          <section aria-label="Power off" className="rounded-lg border border-rule bg-sheet p-4">
            <h2 className="text-lg font-bold">Power off, supplies disconnected</h2>
            <p>
              An ohmmeter shows{" "}
              <b className="text-2xl">
                {found.offOhms >= OVERLOAD || !Number.isFinite(found.offOhms) ? "OL" : shown(found.offOhms, "ohm")}
              </b>
              .
            </p>
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
      <AllPairs network={network} />
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

/** Volts from every node to every other one. */
function AllPairs({ network }: { network: Network }) {
  const solved = solveNetwork(network);
  const nodes = network.nodes.flatMap((name, n) => (name.endsWith(".tap") ? [] : [{ name, n }]));
  if (solved.kind !== "solved" || nodes.length > MOST_PAIRED) return null;
  return (
    <details className="rounded-lg border border-rule bg-sheet">
      <summary className="cursor-pointer px-4 py-2 text-lg font-bold">Every two nodes: volts</summary>
      <section className="overflow-x-auto px-2 pb-3" aria-label="Volts between every two nodes" tabIndex={0}>
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
                    {from.n === to.n ? "" : shown(solved.volts[from.n] - solved.volts[to.n], "V")}
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

interface NodeSelectProps {
  readonly label: string;
  readonly value: string;
  readonly names: readonly string[];
  readonly onChange: (name: string) => void;
}

function NodeSelect({ label, value, names, onChange }: NodeSelectProps) {
  return (
    <label className="flex flex-col gap-1">
      {label}
      <select
        value={value}
        onChange={(e) => onChange(e.target.value)}
        className="rounded-lg border border-rule bg-sheet px-3 py-2 text-lg"
      >
        {names.map((name) => (
          <option key={name}>{name}</option>
        ))}
      </select>
    </label>
  );
}
