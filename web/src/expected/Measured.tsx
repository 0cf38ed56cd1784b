import type { Network } from "@hound/core/circuit";
import { isSameState } from "@hound/core/configuration";
import { closuresOf } from "@hound/core/measure";
import { meterData } from "@hound/core/record";
import { useMemo } from "react";
import { CopyTable } from "../app/CopyTable.tsx";
import { DeviationBar } from "../app/DeviationBar.tsx";
import { Scroll } from "../app/Scroll.tsx";
import { TableHead } from "../app/TableHead.tsx";
import { useDesk } from "../desk/DeskContext.tsx";
import { stampOf } from "../desk/stamp.ts";
import { printFixed } from "../words/print.ts";
import { figureWords, placeOf, shown, valueOfReading } from "../words/quantities.ts";
import type { TableData } from "../words/tables.ts";
import { type MeasuredRow, offBy } from "./measuredRows.ts";
import { useMeasured } from "./useMeasured.ts";

/** Measured against expected: every figure that was read, or follows from two readings, the worst first. */
export function Measured({ network }: { network: Network }) {
  const { state } = useDesk();
  const rows = useMeasured(network);
  if (rows.length === 0) return <p className="text-faint">Nothing was read yet. Readings come first.</p>;
  return (
    <div className="flex flex-col gap-3">
      <p className="text-faint">
        Expected as your meter will show it: its load across, its burden in the branch. The worst comes first.
      </p>
      <CopyTable tables={() => [tableOf(rows)]} stamp={() => stampOf(state, new Date())} />
      <Scroll label="Table of what was measured">
        <table className="w-full border-collapse text-[0.94rem]" aria-label="Measured against expected">
          <TableHead columns={["What", "Expected", "Read", "Off by", "In limits"]} />
          <tbody>
            {rows.map((row) => (
              <Row key={`${row.quantity} ${row.name} ${row.when ?? ""} ${row.read}`} row={row} />
            ))}
          </tbody>
        </table>
      </Scroll>
      <Closing network={network} />
    </div>
  );
}

/** As figures: a row has its own unit, which stands beside it. */
function tableOf(rows: readonly MeasuredRow[]): TableData {
  return {
    title: "Measured against expected",
    columns: ["What", "Unit", "Expected", "Expected ±", "Read", "Off by", "In limits", "With"].map((name) => ({
      name,
    })),
    rows: rows.map(({ name, quantity, unit, due, read, limits, when = "" }) => [
      `${quantity}(${name})`,
      unit,
      due.value,
      due.plusMinus,
      read,
      read - due.value,
      limits,
      when,
    ]),
  };
}

/** Sums of what was read that have to come out, before any fault is supposed; and which reading is most probably off. */
function Closing({ network }: { network: Network }) {
  const { readings, meter } = useDesk();
  const numeric = useMemo(
    () =>
      readings.flatMap(({ reading }) =>
        reading.quantity !== "observation" && isSameState(reading.state) ? [reading] : [],
      ),
    [readings],
  );
  const { checks, suspect } = useMemo(() => closuresOf(network, numeric, meterData(meter)), [network, numeric, meter]);
  if (checks.length === 0) return null;
  return (
    <section aria-label="Sums of what was read" className="rounded-lg border border-rule bg-sheet px-3 py-2">
      <h2 className="text-lg font-bold">Do the readings close?</h2>
      <ul className="mt-1 flex flex-col gap-1">
        {checks.map(({ kind, at, terms, residual, limits }) => {
          const unit = kind === "loop" ? "V" : "A";
          const isOff = Math.abs(limits) > 1;
          return (
            <li
              key={`${kind} ${at.join(" ")} ${terms.map((t) => t.reading).join(" ")}`}
              className="flex flex-wrap items-center gap-x-3"
            >
              <span>{kind === "loop" ? `Round ${at.join(", ")}` : `At ${at[0]}`}</span>
              <DeviationBar limits={limits} />
              <span className={isOff ? "font-bold text-wrong" : "text-faint"}>
                {isOff ? `${shown(Number(residual.toPrecision(3)), unit)} left over` : "closes"}
              </span>
            </li>
          );
        })}
      </ul>
      {suspect !== null && (
        <p className="mt-1 text-doubt">
          Most probably off: {placeOf(numeric[suspect])} {valueOfReading(numeric[suspect])}. Take it again.
        </p>
      )}
    </section>
  );
}

function Row({ row }: { row: MeasuredRow }) {
  const { name, quantity, unit, due, read, from, when, limits, side } = row;
  return (
    <tr className="border-t border-rule text-right whitespace-nowrap">
      <th scope="row" className="px-3 py-1.5 text-left">
        {quantity}({name}){from && <span className="block text-sm font-normal text-faint">from {from}</span>}
        {when && <span className="block text-sm font-normal whitespace-normal text-faint">with {when}</span>}
      </th>
      <td className="px-2 py-1.5">{figureWords(due, unit)}</td>
      <td className="px-2 py-1.5 font-bold">{shown(read, unit)}</td>
      <td className="px-2 py-1.5">{offBy(row)}</td>
      <td className="px-3 py-1.5">
        <span className="inline-flex items-center gap-2">
          <DeviationBar limits={limits} />
          <span className={side === 0 ? "text-faint" : "font-bold text-wrong"}>
            {side === 0 ? "agrees" : `${printFixed(Math.abs(limits), 1)} ${side > 0 ? "high" : "low"}`}
          </span>
        </span>
      </td>
    </tr>
  );
}
