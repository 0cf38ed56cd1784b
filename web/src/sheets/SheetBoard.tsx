import { wrapLanes } from "@hound/core/layout";
import type { Ranking } from "@hound/core/rank";
import type { Reading } from "@hound/core/record";
import { type RefObject, useMemo, useRef } from "react";
import { boardFacts } from "../board/boardFacts.ts";
import { Drawing } from "../board/Drawing.tsx";
import { columnsIn, framesOf, sizeOf } from "../board/geometry.ts";
import { useFigures } from "../board/useFigures.ts";
import { useConventions } from "../desk/conventions.ts";
import { type Drawn, useDesk } from "../desk/DeskContext.tsx";

/** The largest and smallest scale on paper, and how high the board may get. */
const SCALES = { most: 0.95, least: 0.6, step: 0.05 } as const;
const HIGHEST = 540;
const AS_DRAWN = {};

interface SheetBoardProps {
  readonly drawn: Drawn;
  readonly width: number;
  readonly staircase?: boolean;
  readonly withReadings?: boolean;
  readonly ranking?: Ranking | null;
  /** Only these readings; left out, all of them. */
  readonly taken?: readonly Reading[];
  /** How high it may get, in pixels of the paper. */
  readonly highest?: number;
  readonly svg?: RefObject<SVGSVGElement | null>;
}

/** The board as it stands on paper: as large as fits the width, wrapped into lanes where it is long. */
export function SheetBoard({
  drawn,
  width,
  staircase = false,
  withReadings = false,
  ranking = null,
  taken: only,
  highest = HIGHEST,
  svg: given,
}: SheetBoardProps) {
  const { readings, meter } = useDesk();
  const own = useRef<SVGSVGElement>(null);
  const svg = given ?? own;
  const { network, board, settled } = drawn;
  const { limits } = useConventions();
  const figures = useFigures(drawn, meter, AS_DRAWN);
  const facts = useMemo(() => {
    const taken = withReadings ? (only ?? readings.map((r) => r.reading)) : [];
    return boardFacts({ network, readings: taken, meter, ranking, settled, figures, limits });
  }, [network, readings, only, withReadings, meter, ranking, settled, figures, limits]);
  const { scale, frames } = useMemo(() => {
    const at = (s: number) => framesOf(wrapLanes(board, columnsIn(width / s)), staircase);
    let s: number = SCALES.most;
    const fits = () => {
      const size = sizeOf(at(s));
      return size.width * s <= width && size.height * s <= highest;
    };
    while (s > SCALES.least && !fits()) s -= SCALES.step;
    return { scale: s, frames: at(s) };
  }, [board, width, staircase, highest]);
  return (
    <div inert aria-hidden className="break-inside-avoid">
      <Drawing
        drawn={{ ...drawn, outdated: false }}
        frames={frames}
        facts={facts}
        scale={scale}
        traced={null}
        staircase={staircase}
        legend=""
        leads={null}
        svg={svg}
        onUse={() => {}}
        onKey={() => {}}
      />
    </div>
  );
}
