import type { Configuration } from "@hound/core/configuration";
import type { Drawn } from "../desk/DeskContext.tsx";
import { BoardView } from "./BoardView.tsx";
import type { Leads } from "./leads.ts";

interface PlainBoardProps {
  readonly standing?: Configuration;
  /** What is shown instead of the circuit as it is, such as a folded one. */
  readonly instead?: Drawn | null;
  readonly isHushed?: boolean;
  readonly held: Leads | null;
}

const AS_DRAWN: Configuration = {};

/** A board to look at: nothing is ranked, proposed or supposed on it. */
export function PlainBoard({ standing = AS_DRAWN, instead = null, isHushed = false, held }: PlainBoardProps) {
  return (
    <BoardView
      {...{ standing, instead, isHushed, held }}
      ranking={null}
      showOdd={false}
      showStaircase={false}
      next={null}
      imagined={null}
      whatIf={null}
      onBegun={null}
      onUse={NOTHING}
      onKey={NOTHING}
    />
  );
}

const NOTHING = () => {};
