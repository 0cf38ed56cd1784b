import type { Network } from "@hound/core/circuit";
import type { Configuration } from "@hound/core/configuration";
import type { Doing } from "@hound/core/safety";
import { afterwards, choicesOf, type Supposed } from "@hound/core/whatif";
import { Tabs } from "radix-ui";
import { useEffect, useMemo } from "react";
import { TabStrip } from "../app/TabStrip.tsx";
import type { Drawn } from "../desk/DeskContext.tsx";
import { Cautions } from "../session/cautions.tsx";
import type { ReadingLine } from "../session/useReadingLine.ts";
import { ChangeChart } from "./ChangeChart.tsx";
import { CurveTab } from "./CurveTab.tsx";
import { FitTable } from "./FitTable.tsx";
import { Follows } from "./Follows.tsx";
import { GuessTab } from "./GuessTab.tsx";
import { SideTab } from "./SideTab.tsx";
import { SignatureMap } from "./SignatureMap.tsx";
import { SupposedList } from "./SupposedList.tsx";
import { SupposeLine, withFaults } from "./SupposeLine.tsx";
import type { WhatIf } from "./useWhatIf.ts";
import { WishTab } from "./WishTab.tsx";

export type WhatIfTab = "fit" | "chart" | "side" | "map" | "curve" | "wish" | "guess";

interface WhatIfStageProps {
  readonly drawn: Drawn;
  readonly line: ReadingLine;
  readonly whatIf: WhatIf;
  readonly standing: Configuration;
}

const TABS: Readonly<Record<WhatIfTab, string>> = {
  fit: "Explains?",
  chart: "Chart",
  side: "Variants",
  map: "Map",
  curve: "Curve",
  wish: "Causes",
  guess: "Guess",
};

/** What the supposed faults do that is worth a caution: what they short, and what they run beyond its rating. */
function imagining(network: Network, supposed: readonly Supposed[], standing: Configuration): Doing {
  const isShort = supposed.some((f) => f.mode === "short" || f.mode === "bridged");
  if (supposed.length === 0) return { kind: "imagine" };
  const after = afterwards(network, supposed, standing);
  const loads = after.kind === "afterwards" ? after.loads : [];
  const overloads = loads.flatMap((load, k) =>
    load && load.value > load.rating
      ? [
          {
            part: network.branches[k]?.name ?? "",
            ...load,
            unit: load.of === "power" ? ("W" as const) : ("A" as const),
          },
        ]
      : [],
  );
  return { kind: "imagine", isShort, overloads };
}

/** Stage What-if: faults are set, and everything is seen beside the healthy circuit and the readings. */
export function WhatIfStage({ drawn, line, whatIf, standing }: WhatIfStageProps) {
  const { supposing, imagined, field, tab, openTab } = whatIf;
  const { network, circuit } = drawn;
  const { input, ranked } = line;
  const choices = useMemo(() => choicesOf(network), [network]);
  useEffect(() => field.current?.focus(), [field]);
  const suppose = (faults: readonly Supposed[]) => supposing.change(withFaults([], faults));
  const comparison = imagined && "comparison" in imagined ? imagined.comparison : null;
  return (
    <section aria-label="What if" className="flex flex-col gap-3">
      <SupposeLine supposing={supposing} choices={choices} network={network} field={field} />
      <SupposedList supposing={supposing} choices={choices} network={network} />
      {imagined && !("comparison" in imagined) && (
        <p role="alert" className="rounded-lg border border-wrong bg-wrong-wash px-3 py-2">
          This cannot be solved: see {imagined.at}: {imagined.why}.
        </p>
      )}
      <Cautions place="whatif" doing={imagining(network, supposing.supposed, standing)} />
      <Follows supposing={supposing} network={network} standing={standing} />
      <Tabs.Root value={tab} onValueChange={(value) => openTab(value as WhatIfTab)} className="flex flex-col gap-3">
        <div className="border-b border-rule">
          <TabStrip label="Ways to look at it" tabs={TABS} />
        </div>
        <Tabs.Content value="fit">
          {input && <FitTable input={input} supposed={supposing.supposed} ranking={ranked.ranking} />}
        </Tabs.Content>
        <Tabs.Content value="chart">
          {comparison && <ChangeChart comparison={comparison} network={network} />}
        </Tabs.Content>
        <Tabs.Content value="side">
          <SideTab network={network} standing={standing} supposed={supposing.supposed} />
        </Tabs.Content>
        <Tabs.Content value="map">
          {input && <SignatureMap input={input} network={network} ranking={ranked.ranking} onSuppose={suppose} />}
        </Tabs.Content>
        <Tabs.Content value="curve">
          {input && <CurveTab input={input} network={network} supposed={supposing.supposed} />}
        </Tabs.Content>
        <Tabs.Content value="wish">
          {input && <WishTab input={input} circuit={circuit} network={network} onSuppose={suppose} />}
        </Tabs.Content>
        <Tabs.Content value="guess">
          {comparison && <GuessTab key={JSON.stringify(supposing.supposed)} comparison={comparison} />}
        </Tabs.Content>
      </Tabs.Root>
    </section>
  );
}
