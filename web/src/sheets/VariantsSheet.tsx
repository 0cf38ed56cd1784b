import { type Drawn, useDesk } from "../desk/DeskContext.tsx";
import { useVariants } from "../whatif/useVariants.ts";
import { partsOf, type Variant } from "../whatif/variants.ts";
import { inWords } from "../words/print.ts";
import { shown } from "../words/quantities.ts";
import { standingWords } from "../words/standing.ts";
import { SheetBoard } from "./SheetBoard.tsx";
import { SheetTable } from "./SheetTable.tsx";

/** The circuit and its variants beside each other: volts, amperes, watts and how bright a lamp is, part by part. */
export function VariantsSheet({ drawn, width }: { drawn: Drawn; width: number }) {
  const { state } = useDesk();
  const { standing } = state.job;
  const { titles, variants } = useVariants(drawn.network, standing);
  if (variants.length < 2)
    return <p>There is nothing to compare yet: variants are added in What-if, under Variants.</p>;
  const cell = (of: (v: Variant) => readonly string[]) =>
    variants.map((v) => (v.kind === "variant" ? of(v).join(", ") : inWords(v.why)));
  const stands = standingWords(standing);
  return (
    <>
      <SheetBoard drawn={drawn} width={width} />
      {stands.length > 0 && <p>All of them with the bench as it stands: {stands.join(", ")}.</p>}
      <SheetTable
        label="Variants side by side"
        columns={["Part", ...titles.map(inWords)]}
        rows={[
          {
            key: "all supplies",
            cells: ["All supplies", ...cell(({ total }) => [shown(total.amps, "A", 3), shown(total.watts, "W", 3)])],
          },
          ...partsOf(variants).map((name) => ({
            key: name,
            cells: [
              name,
              ...cell(({ parts }) => {
                const part = parts.get(name);
                if (!part) return ["–"];
                const { volts, amps, watts, glow } = part;
                return [shown(volts, "V", 3), shown(amps, "A", 3), shown(watts, "W", 3), ...(glow ? [glow.word] : [])];
              }),
            ],
          })),
        ]}
      />
    </>
  );
}
