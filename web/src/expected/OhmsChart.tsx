import type { Network, NodeName } from "@hound/core/circuit";
import { isSameState } from "@hound/core/configuration";
import { deviationOf } from "@hound/core/measure";
import { expectReadings } from "@hound/core/rank";
import { meterData, type NumericReading } from "@hound/core/record";
import { useMemo } from "react";
import { TableHead } from "../app/TableHead.tsx";
import { useDesk } from "../desk/DeskContext.tsx";
import { ohmsAcross } from "../session/healthy.ts";
import { print } from "../words/print.ts";
import { valueOfReading, withLimits } from "../words/quantities.ts";

/** A circuit without a supply: what an ohmmeter finds across every part, in the circuit, and from every node. */
export function OhmsChart({ network }: { network: Network }) {
  const { readings, meter, select } = useDesk();
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
      <table
        className="w-full border-collapse rounded-lg border border-rule bg-sheet"
        aria-label="What every part should show in ohms"
      >
        <TableHead columns={["Across", "Own R", "In the circuit", "Read"]} />
        <tbody>
          {rows.map(({ name, node, own, from, to }, i) => {
            const at = due[i];
            const found = ohmsAcross(taken, from, to);
            const side = found && at ? deviationOf(found, at, meterData(meter)).side : 0;
            return (
              <tr key={name} className="border-t border-rule text-right">
                <th scope="row" className="text-left">
                  <button
                    type="button"
                    onClick={() => select(node ? { kind: "node", name } : { kind: "branch", name })}
                    className="px-3 py-1.5 font-bold hover:underline"
                  >
                    {node ? `${name} to ${network.nodes[network.reference]}` : name}
                  </button>
                </th>
                <td className="px-2 py-1.5 text-faint">{own === null ? "" : own}</td>
                <td className="px-2 py-1.5 whitespace-nowrap">
                  {at ? withLimits(at.value, at.plusMinus, "ohm") : "–"}
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

function rowsOf(network: Network): OhmsRow[] {
  const { nodes, branches, reference } = network;
  return [
    ...branches.map((b): OhmsRow => {
      const written = b.law.kind === "resistance" ? print(Number(b.law.ohms.toPrecision(4)), "ohm") : null;
      const own = b.law.kind === "open" ? "open" : written;
      return { name: b.name, node: false, own, from: nodes[b.from], to: nodes[b.to] };
    }),
    ...nodes.flatMap((name, n): OhmsRow[] =>
      n === reference || name.endsWith(".tap")
        ? []
        : [{ name, node: true, own: null, from: name, to: nodes[reference] }],
    ),
  ];
}
