import type { Network } from "@hound/core/circuit";
import { deviationOf, isSameState } from "@hound/core/measure";
import { expectReadings } from "@hound/core/rank";
import { meterData, type NumericReading } from "@hound/core/record";
import { useMemo } from "react";
import { print } from "../../words/print.ts";
import { valueOfReading, withLimits } from "../../words/quantities.ts";
import { useDesk } from "../DeskContext.tsx";

/** A circuit without a supply: what an ohmmeter finds across every part, in the circuit, and from every node. */
export function OhmsChart({ network }: { network: Network }) {
  const { readings, meter, select } = useDesk();
  const rows = useMemo(() => rowsOf(network), [network]);
  const due = useMemo(
    () =>
      expectReadings(
        network,
        rows.map((r) => r.reading),
        meter,
      ) ?? [],
    [network, rows, meter],
  );
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
        <thead className="bg-band">
          <tr className="text-right">
            <th scope="col" className="px-3 py-2 text-left">
              Across
            </th>
            <th scope="col" className="px-2 py-2">
              Own R
            </th>
            <th scope="col" className="px-2 py-2">
              In the circuit
            </th>
            <th scope="col" className="px-3 py-2">
              Read
            </th>
          </tr>
        </thead>
        <tbody>
          {rows.map(({ name, node, own, reading }, i) => {
            const at = due[i];
            const found = readings.findLast(
              ({ reading: r }) => r.quantity === "resistance" && isSamePlace(r, reading) && isSameState(r.state),
            )?.reading as NumericReading | undefined;
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
  readonly reading: NumericReading;
}

function rowsOf(network: Network): OhmsRow[] {
  const { nodes, branches, reference } = network;
  const across = (from: number, to: number): NumericReading => ({
    quantity: "resistance",
    from: nodes[from],
    to: nodes[to],
    value: 0,
  });
  return [
    ...branches.map((b): OhmsRow => {
      const written = b.law.kind === "resistance" ? print(Number(b.law.ohms.toPrecision(4)), "ohm") : null;
      const own = b.law.kind === "open" ? "open" : written;
      return { name: b.name, node: false, own, reading: across(b.from, b.to) };
    }),
    ...nodes.flatMap((name, n): OhmsRow[] =>
      n === reference || name.endsWith(".tap") ? [] : [{ name, node: true, own: null, reading: across(n, reference) }],
    ),
  ];
}

function isSamePlace(a: NumericReading, b: NumericReading): boolean {
  if (a.quantity !== "resistance" || b.quantity !== "resistance" || a.lifted !== undefined) return false;
  return (a.from === b.from && a.to === b.to) || (a.from === b.to && a.to === b.from);
}
