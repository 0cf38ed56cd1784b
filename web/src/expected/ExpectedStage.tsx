import { Tabs } from "radix-ui";
import { TabStrip } from "../app/TabStrip.tsx";
import { Unknowns } from "../circuit/Unknowns.tsx";
import { useConventions } from "../desk/conventions.ts";
import { type Drawn, useDesk } from "../desk/DeskContext.tsx";
import { Between } from "./Between.tsx";
import { Chart } from "./Chart.tsx";
import { Checks } from "./Checks.tsx";
import { Measured } from "./Measured.tsx";
import { OhmsChart } from "./OhmsChart.tsx";
import { type Fold, Reduce } from "./Reduce.tsx";
import { useExpected } from "./useExpected.ts";

interface ExpectedStageProps {
  readonly drawn: Drawn;
  /** How much of the reduction the board shows done. */
  readonly fold: Fold;
  readonly onFold: (fold: Fold) => void;
  /** Told whether the board keeps what is expected to itself. */
  readonly onHush: (isHushed: boolean) => void;
}

/** Stage Expected: what every point should read, how one gets there, and whether the sums come out. */
export function ExpectedStage({ drawn, fold, onFold, onHush }: ExpectedStageProps) {
  const { meter } = useDesk();
  const conventions = useConventions();
  const expected = useExpected(drawn.network, conventions);
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
      onValueChange={(tab) => tab !== "reduce" && onFold({ ...fold, at: 0 })}
    >
      <div className="border-b border-rule">
        <TabStrip
          label="Ways to look at what is expected"
          tabs={{
            chart: "Chart",
            reduce: "Reduce",
            checks: wrong > 0 ? `Checks (${wrong})` : "Checks",
            between: "Between",
            measured: "Measured",
          }}
        />
      </div>
      <Tabs.Content value="chart" className="flex flex-col gap-3">
        {drawn.settled && <Unknowns drawn={drawn} settled={drawn.settled} />}
        {drawn.network.branches.some((b) => b.kind === "supply") ? (
          <Chart expected={expected} conventions={conventions} onHush={onHush} />
        ) : (
          <OhmsChart network={drawn.network} />
        )}
      </Tabs.Content>
      <Tabs.Content value="reduce">
        <Reduce expected={expected} conventions={conventions} fold={fold} onFold={onFold} onHush={onHush} />
      </Tabs.Content>
      <Tabs.Content value="checks">
        <Checks expected={expected} />
      </Tabs.Content>
      <Tabs.Content value="measured">
        <Measured network={drawn.network} />
      </Tabs.Content>
      <Tabs.Content value="between">
        <Between network={drawn.network} meter={meter} />
      </Tabs.Content>
    </Tabs.Root>
  );
}
