import { Tabs } from "radix-ui";
import { useConventions } from "../../app/conventions.ts";
import { type Drawn, useDesk } from "../DeskContext.tsx";
import { Between } from "./Between.tsx";
import { Chart } from "./Chart.tsx";
import { Checks } from "./Checks.tsx";
import { Reduce } from "./Reduce.tsx";
import { useExpected } from "./useExpected.ts";

interface ExpectedStageProps {
  readonly drawn: Drawn;
  /** How many steps of the reduction the board shows done. */
  readonly folded: number;
  readonly onFold: (steps: number) => void;
}

const TAB =
  "rounded-t-lg border border-b-0 border-transparent px-3.5 py-1.5 text-faint data-[state=active]:border-rule data-[state=active]:bg-sheet data-[state=active]:font-bold data-[state=active]:text-ink";

/** Stage Expected: what every point should read, how one gets there, and whether the sums come out. */
export function ExpectedStage({ drawn, folded, onFold }: ExpectedStageProps) {
  const { state } = useDesk();
  const conventions = useConventions();
  const expected = useExpected(drawn.network, state.job.meter, conventions);
  if (expected.solution.kind === "unsolvable") {
    return (
      <div role="alert" className="rounded-lg border border-wrong bg-wrong-wash p-4">
        <p className="text-lg font-bold">This circuit cannot be solved</p>
        <p>
          See {expected.solution.at}: {expected.solution.why}.
        </p>
      </div>
    );
  }
  const wrong = expected.checks.filter((c) => !c.holds).length;
  return (
    <Tabs.Root
      defaultValue="chart"
      className="flex min-h-0 flex-col gap-3"
      onValueChange={(tab) => tab !== "reduce" && onFold(0)}
    >
      <Tabs.List aria-label="Ways to look at what is expected" className="flex flex-wrap gap-1 border-b border-rule">
        <Tabs.Trigger value="chart" className={TAB}>
          Chart
        </Tabs.Trigger>
        <Tabs.Trigger value="reduce" className={TAB}>
          Reduce
        </Tabs.Trigger>
        <Tabs.Trigger value="checks" className={TAB}>
          Checks{wrong > 0 ? ` (${wrong})` : ""}
        </Tabs.Trigger>
        <Tabs.Trigger value="between" className={TAB}>
          Between
        </Tabs.Trigger>
      </Tabs.List>
      <Tabs.Content value="chart">
        <Chart expected={expected} conventions={conventions} />
      </Tabs.Content>
      <Tabs.Content value="reduce">
        <Reduce expected={expected} conventions={conventions} at={folded} onGo={onFold} />
      </Tabs.Content>
      <Tabs.Content value="checks">
        <Checks expected={expected} />
      </Tabs.Content>
      <Tabs.Content value="between">
        <Between network={drawn.network} meter={state.job.meter} />
      </Tabs.Content>
    </Tabs.Root>
  );
}
