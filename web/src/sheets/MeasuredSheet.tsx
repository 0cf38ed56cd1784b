import { type Drawn, useDesk } from "../desk/DeskContext.tsx";
import { offBy } from "../expected/measuredRows.ts";
import { useMeasured } from "../expected/useMeasured.ts";
import { printFixed } from "../words/print.ts";
import { placeOf, shown, valueOfReading, withLimits } from "../words/quantities.ts";
import { standingWords } from "../words/standing.ts";
import { SheetBoard } from "./SheetBoard.tsx";
import { SheetTable } from "./SheetTable.tsx";

/** What was read beside what a healthy circuit gives there, the worst first; then every reading as it was taken. */
export function MeasuredSheet({ drawn, width }: { drawn: Drawn; width: number }) {
  const { network } = drawn;
  const rows = useMeasured(network);
  return (
    <>
      <SheetBoard drawn={drawn} width={width} withReadings />
      {rows.length === 0 ? (
        <p>Nothing was read yet of the circuit as it is drawn.</p>
      ) : (
        <section>
          <h2 className="text-[13pt] font-bold">Measured against expected</h2>
          <p>Expected as the meter shows it: its load across, its burden in the branch. The worst comes first.</p>
          <SheetTable
            label="Measured against expected"
            columns={["What", "Expected", "Read", "Off by", "In limits"]}
            rows={rows.map((row) => {
              const { name, quantity, unit, due, read, from, when, limits, side } = row;
              return {
                key: `${quantity} ${name} ${when ?? ""} ${read}`,
                cells: [
                  `${quantity}(${name})${from ? `, from ${from}` : ""}${when ? `, with ${when}` : ""}`,
                  withLimits(due.value, due.plusMinus, unit),
                  shown(read, unit),
                  offBy(row),
                  side === 0 ? "agrees" : `${printFixed(Math.abs(limits), 1)} ${side > 0 ? "too high" : "too low"}`,
                ],
              };
            })}
          />
        </section>
      )}
      <ReadingsTaken />
    </>
  );
}

/** Every reading in the order taken. */
export function ReadingsTaken() {
  const { readings } = useDesk();
  if (readings.length === 0) return null;
  return (
    <section>
      <h2 className="text-[13pt] font-bold">Readings, in the order taken</h2>
      <SheetTable
        label="Readings"
        columns={["No.", "Where", "Read", "How it stood", "Note"]}
        rows={readings.map(({ id, reading }, i) => ({
          key: id,
          cells: [
            String(i + 1),
            placeOf(reading),
            valueOfReading(reading),
            standingWords(reading.state ?? {}).join(", ") || "as drawn",
            reading.note ?? "",
          ],
        }))}
      />
    </section>
  );
}
