import { madeBy } from "@hound/core/reduce";
import { useConventions } from "../desk/conventions.ts";
import type { Drawn } from "../desk/DeskContext.tsx";
import { BackStep, SeenBySupply, There } from "../expected/steps.tsx";
import { useExpected } from "../expected/useExpected.ts";
import { print } from "../words/print.ts";
import { SheetBoard } from "./SheetBoard.tsx";

/** The reduction on paper: every step with its sum, innermost first, and the way back. */
export function ReductionSheet({ drawn, width }: { drawn: Drawn; width: number }) {
  const conventions = useConventions();
  const expected = useExpected(drawn.network, conventions);
  const { reduction, back, onPaper } = expected;
  const digits = onPaper ? 3 : 4;
  const line = "flex gap-3 break-inside-avoid border-b border-rule py-1.5";
  const number = "w-7 shrink-0 font-bold";
  const { steps, stops, idle, left } = reduction;
  return (
    <>
      <SheetBoard drawn={drawn} width={width} />
      {idle.length > 0 && <p>Left out, as nothing flows there: {idle.map((i) => i.why).join("; ")}.</p>}
      {steps.length === 0 && <p>There is nothing to put together: {stops ?? "it is one resistance already"}.</p>}
      <ol aria-label="Steps" className="text-[10.5pt]">
        {steps.map((step, i) => (
          <li key={madeBy(step)[0].name} className={line}>
            <span className={number}>{i + 1}</span>
            <div>
              <There step={step} conventions={conventions} digits={digits} />
            </div>
          </li>
        ))}
        {back && (
          <li className={line}>
            <span className={number}>{steps.length + 1}</span>
            <SeenBySupply back={back} letter={conventions.sourceLetter} digits={digits} />
          </li>
        )}
        {back?.steps.map((step, i) => (
          <li key={`back ${madeBy(step.step)[0].name}`} className={line}>
            <span className={number}>{steps.length + 2 + i}</span>
            <div>
              <BackStep step={step} digits={digits} />
            </div>
          </li>
        ))}
      </ol>
      {!back && !stops && (
        <p className="font-bold">
          {[left[0].from, left[0].to].map((n) => drawn.network.nodes[n]).join(" to ")}:{" "}
          {print(Number(left[0].ohms.toPrecision(digits)), "ohm")}
        </p>
      )}
      {stops && <p className="font-bold">It goes no further: {stops}. It is solved by the junctions.</p>}
    </>
  );
}
