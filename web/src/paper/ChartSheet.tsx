import type { Network } from "@hound/core/circuit";
import { ASKED, isDrawn, type Place } from "@hound/core/claims";
import { useConventions } from "../desk/conventions.ts";
import { type Drawn, useDesk } from "../desk/DeskContext.tsx";
import { useKept } from "../desk/useKept.ts";
import { Mine } from "../expected/Mine.tsx";
import { useClaims } from "../expected/useClaims.ts";
import { useExpected } from "../expected/useExpected.ts";
import { Done } from "./Done.tsx";
import { Board } from "./PaperBoard.tsx";
import type { SheetProps } from "./QuestionSheet.tsx";

/** Fill the chart: own figures beside a board without any, each marked at once; what can be filled next on request. */
export function ChartSheet(props: SheetProps) {
  const { drawn } = useDesk();
  return drawn && <Sheet {...props} drawn={drawn} />;
}

function Sheet({ drawn, exercise, origin, onAnother }: SheetProps & { drawn: Drawn }) {
  const { state } = useDesk();
  const conventions = useConventions();
  const expected = useExpected(drawn.network, conventions);
  const own = useClaims(expected);
  const done = useKept(`chart ${state.job.id}`, { isOver: false, isSent: false });
  const cells = own.places.reduce((n, place) => n + cellsIn(place, drawn.network), 0);
  const isCell = new Set(own.places.flatMap((p) => (p.kind === "node" ? [] : [p.name])));
  const right = own.marked.filter(
    ({ mark, claim }) => isCell.has(claim.place) && (mark.kind === "right" || mark.kind === "rounded"),
  ).length;
  return (
    <div className="relative flex min-h-0 grow flex-col overflow-auto lg:flex-row lg:overflow-visible">
      <section
        aria-label="Board"
        className="h-[38vh] min-h-52 min-w-0 shrink-0 border-b border-rule lg:h-auto lg:min-h-0 lg:flex-1 lg:shrink lg:border-b-0"
      >
        <Board question={null} />
      </section>
      <main className="relative flex w-full shrink-0 flex-col gap-3 p-3 pb-8 lg:w-[30rem] lg:overflow-auto lg:border-l lg:border-rule xl:w-[36rem]">
        {done.value.isOver ? (
          <Done
            {...{ exercise, origin, onAnother }}
            asked={cells}
            share={Math.min(1, right / cells)}
            isSent={done.value.isSent}
            onSent={() => done.set({ isOver: true, isSent: true })}
          />
        ) : (
          <p className="flex items-center gap-4">
            <span className="grow text-bench">
              {right} of {cells} cells right
            </span>
            <button
              type="button"
              className="rounded-lg bg-copper px-5 py-2 font-bold text-sheet"
              onClick={() => done.set({ ...done.value, isOver: true })}
            >
              That is all
            </button>
          </p>
        )}
        <Mine expected={expected} conventions={conventions} onHush={null} />
      </main>
    </div>
  );
}

/** Cells of a place that somebody works out; nodes and pairs come besides. */
function cellsIn(place: Place, network: Network): number {
  if (place.kind === "node") return 0;
  return ASKED.filter((of) => place.truth[of] !== undefined && !isDrawn(network, place, of)).length;
}
