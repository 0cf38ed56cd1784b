import type { Configuration } from "@hound/core/configuration";
import type { Meter } from "@hound/core/record";
import type { Supposed, Unsolved } from "@hound/core/whatif";
import { type RefObject, useRef, useState } from "react";
import type { Stage } from "../app/stages.ts";
import type { Imagined } from "../board/imagined.ts";
import type { Drawn } from "../desk/DeskContext.tsx";
import { useImagined } from "./useImagined.ts";
import { type Supposing, useSupposing } from "./useSupposing.ts";
import type { WhatIfTab } from "./WhatIfStage.tsx";

/** What is imagined of a circuit: the faults set in What-if, or the suspect that was opened; and whether the board shows it. */
export interface WhatIf {
  readonly supposing: Supposing;
  readonly tab: WhatIfTab;
  readonly openTab: (tab: WhatIfTab) => void;
  readonly field: RefObject<HTMLInputElement | null>;
  /** A suspect's faults, shown while it is open. */
  readonly choose: (faults: readonly Supposed[] | null) => void;
  readonly imagined: Imagined | Unsolved | null;
  /** What the board draws of it. */
  readonly onBoard: Imagined | null;
  /** Stages that are not about it show it where asked; null where there is nothing to show. */
  readonly toggle: { readonly isOn: boolean; readonly turn: () => void } | null;
}

export function useWhatIf(
  stage: Stage,
  job: string,
  drawn: Drawn | null,
  standing: Configuration,
  meter: Meter,
): WhatIf {
  const network = drawn?.network ?? null;
  const supposing = useSupposing(job, network ?? undefined);
  const [tab, openTab] = useState<WhatIfTab>("fit");
  const [chosen, choose] = useState<readonly Supposed[] | null>(null);
  const [isOn, setOn] = useState(false);
  const field = useRef<HTMLInputElement>(null);
  const { supposed } = supposing;
  const isAbout = stage === "whatif" || stage === "suspects";
  const wanted = stage === "suspects" && chosen ? chosen : stage === "whatif" || isOn ? supposed : null;
  const imagined = useImagined(network, wanted, standing, meter, wanted !== null && wanted === chosen);
  const isHidden = stage === "whatif" && tab === "guess";
  return {
    supposing,
    tab,
    openTab,
    field,
    choose,
    imagined,
    onBoard: imagined && "comparison" in imagined && !isHidden ? imagined : null,
    toggle: supposed.length > 0 && !isAbout ? { isOn, turn: () => setOn(!isOn) } : null,
  };
}
