import { KINDS } from "@hound/core/circuit";
import { UNIT_ASKED } from "@hound/core/claims";
import { useConventions } from "../desk/conventions.ts";
import { type Drawn, useDesk } from "../desk/DeskContext.tsx";
import { cellText, chartRows } from "../expected/chartRows.ts";
import { useClaims } from "../expected/useClaims.ts";
import { type Expected, useExpected } from "../expected/useExpected.ts";
import { claimName, markWords } from "../words/claims.ts";
import { calledWords } from "../words/points.ts";
import { endsWords, figureBesideEnds, LIMITS_WORDS, shown, widerLimit, windowBy } from "../words/quantities.ts";
import { standingWords } from "../words/standing.ts";
import { SheetBoard } from "./SheetBoard.tsx";
import { SheetTable } from "./SheetTable.tsx";

/** What every point and part of the healthy circuit should show, with boxes for what is read. */
export function ExpectedSheet({ drawn, width }: { drawn: Drawn; width: number }) {
  const { state } = useDesk();
  const conventions = useConventions();
  const expected = useExpected(drawn.network, conventions);
  const { network, chart } = expected;
  const rows = chartRows(expected);
  const standing = standingWords(state.job.standing);
  if (expected.solution.kind === "unsolvable") return <p>This circuit cannot be solved: {expected.solution.why}.</p>;
  return (
    <>
      <SheetBoard drawn={drawn} width={width} staircase={network.branches.some((b) => b.kind === "supply")} />
      <p>
        As drawn, healthy. {LIMITS_WORDS[conventions.limits]}; a reading adds the meter’s own.
        {standing.length > 0 && ` The bench stands otherwise now: ${standing.join(", ")}.`}
      </p>
      {chart && (
        <section className="break-inside-avoid">
          <h2 className="text-[13pt] font-bold">Nodes, against {network.nodes[network.reference]}</h2>
          <SheetTable
            label="Nodes"
            columns={["Node", "Known as", "Expected", "Still healthy", "Read"]}
            rows={network.nodes.flatMap((name, n) => {
              if (n === network.reference || name.endsWith(".tap")) return [];
              const within = windowBy(chart.nodes[n], conventions.limits);
              const window = widerLimit(within) > 0 ? endsWords(within, "V") : "";
              const known = calledWords(drawn.written, name);
              return [{ key: name, cells: [name, known, figureBesideEnds(within, "V"), window, null] }];
            })}
          />
        </section>
      )}
      <OwnSheet expected={expected} />
      <section>
        <h2 className="text-[13pt] font-bold">Parts</h2>
        <SheetTable
          label="Parts"
          columns={["Part", "Kind", "Between", "V", "I", "R", "P", "Read"]}
          rows={rows.map((row) => {
            const branch = network.branches[row.branch];
            const ends = branch ? `${network.nodes[branch.from]}\u00a0–\u00a0${network.nodes[branch.to]}` : "";
            const cells = (["volts", "amps", "ohms", "watts"] as const).map((cell) =>
              cellText(row, cell, conventions, cell === "volts" || cell === "amps"),
            );
            const word = branch ? KINDS[branch.kind].word : "";
            const kind = row.beside ? `${word}, ${row.beside}` : word;
            return { key: row.name, cells: [row.name, kind, ends, ...cells, branch ? null : ""] };
          })}
        />
      </section>
    </>
  );
}

/** A person's own figures beside the product's, with their marks. */
function OwnSheet({ expected }: { expected: Expected }) {
  const { marked, places } = useClaims(expected);
  if (marked.length === 0) return null;
  return (
    <section>
      <h2 className="text-[13pt] font-bold">Own figures</h2>
      <SheetTable
        label="Own figures"
        columns={["Of", "Own", "Here", "Mark"]}
        rows={marked.map((one) => {
          const { claim } = one;
          const due = places.find((p) => p.name === claim.place)?.truth[claim.of];
          const { word, more } = markWords(one);
          return {
            key: `${claim.of} ${claim.place}`,
            cells: [
              claimName(claim),
              claim.typed,
              due === undefined ? "" : shown(due, UNIT_ASKED[claim.of]),
              more === "" ? word : `${word}: ${more}`,
            ],
          };
        })}
      />
    </section>
  );
}
