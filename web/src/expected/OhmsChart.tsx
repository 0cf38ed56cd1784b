import type { Network, NodeName } from "@hound/core/circuit";
import { isSameState } from "@hound/core/configuration";
import { deviationOf } from "@hound/core/measure";
import { expectReadings, OVERLOAD } from "@hound/core/rank";
import { meterData, type NumericReading } from "@hound/core/record";
import { useMemo } from "react";
import { TableHead } from "../app/TableHead.tsx";
import { useConventions } from "../desk/conventions.ts";
import { useDesk } from "../desk/DeskContext.tsx";
import { ohmsAcross } from "../session/healthy.ts";
import { print } from "../words/print.ts";
import { figureWords, valueOfReading, withinBy } from "../words/quantities.ts";
import { looseNodes, probed } from "./ends.ts";
import { LimitsChoice } from "./LimitsChoice.tsx";

/** A circuit without a supply: what an ohmmeter finds across every part, in the circuit, and from every node. */
export function OhmsChart({ network }: { network: Network }) {
  const { readings, meter, select } = useDesk();
  const { limits } = useConventions();
  const rows = useMemo(() => rowsOf(network), [network]);
  const due = useMemo(() => {
    const points = rows.map(({ from, to }): NumericReading => ({ quantity: "resistance", from, to, value: 0 }));
    return expectReadings(network, points, meter) ?? [];
  }, [network, rows, meter]);
  const taken = readings.flatMap(({ reading }) => (isSameState(reading.state) ? [reading] : []));
  return (
    <div className="flex flex-col gap-4">
      <p className="rounded-lg border border-rule bg-band px-3 py-2">
        No supply is drawn: all of it is in ohms, as the ohmmeter finds it with nothing taken apart. Discharge
        capacitors first.
      </p>
      <LimitsChoice limits={limits} />
      <table
        className="w-full border-collapse rounded-lg border border-rule bg-sheet"
        aria-label="What every part should show in ohms"
      >
        <TableHead columns={["Across", "Own R", "In the circuit", "Read"]} />
        <tbody>
          {rows.map(({ name, node, own, from, to }, i) => {
            const at = due[i];
            const found = ohmsAcross(taken, from, to, network.nodes[network.reference]);
            const side = found && at ? deviationOf(found, at, meterData(meter)).side : 0;
            return (
              <tr key={name} className="border-t border-rule text-right">
                <th scope="row" className="text-left">
                  <button
                    type="button"
                    onClick={() => select(node ? { kind: "node", name: from } : { kind: "branch", name })}
                    className="px-3 py-1.5 font-bold hover:underline"
                  >
                    {name}
                  </button>
                </th>
                <td className="px-2 py-1.5 text-faint">{own === null ? "" : own}</td>
                <td className="px-2 py-1.5 whitespace-nowrap">
                  {at ? (at.value < OVERLOAD ? figureWords(withinBy(at, limits), "ohm") : "OL") : "–"}
                </td>
                <td className={`px-3 py-1.5 font-bold ${side === 0 ? "text-copper" : "text-wrong"}`}>
                  {found && valueOfReading(found)}
                  {side > 0 && " high"}
                  {side < 0 && " low"}
                </td>
              </tr>
            );
          })}
        </tbody>
      </table>
    </div>
  );
}

interface OhmsRow {
  readonly name: string;
  readonly node: boolean;
  /** What the part has by itself. */
  readonly own: string | null;
  readonly from: NodeName;
  readonly to: NodeName;
}

/** Pairs of ends that are listed, at most. */
const MOST_PAIRS = 15;

/** Every part, then what lies between loose ends, or from every node to the reference, where no part of its own does. */
function rowsOf(network: Network): OhmsRow[] {
  const { nodes, branches, reference } = network;
  const ends = probed(network);
  const loose = looseNodes(network);
  const isPart = (from: NodeName, to: NodeName) =>
    branches.some((b) => [nodes[b.from], nodes[b.to]].sort().join() === [from, to].sort().join());
  const between = loose.flatMap((from, i) => loose.slice(i + 1).map((to) => [from, to] as const));
  const against = ends.map((from) => [from, nodes[reference]] as const);
  const wanted = [...between.slice(0, MOST_PAIRS), ...against].filter(([from, to]) => from !== to && !isPart(from, to));
  const once = [...new Map(wanted.map((pair) => [[...pair].sort().join(), pair])).values()];
  const pairs = once.map(([from, to]): OhmsRow => ({ name: `${from} to ${to}`, node: true, own: null, from, to }));
  return [
    ...branches.map((b): OhmsRow => {
      const written = b.law.kind === "resistance" ? print(Number(b.law.ohms.toPrecision(4)), "ohm") : null;
      const own = b.law.kind === "open" ? "open" : written;
      return { name: b.name, node: false, own, from: nodes[b.from], to: nodes[b.to] };
    }),
    ...pairs,
  ];
}
