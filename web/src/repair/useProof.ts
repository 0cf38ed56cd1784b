import type { RankInput } from "@hound/core/rank";
import { useMemo } from "react";
import type { Drawn } from "../desk/DeskContext.tsx";
import { useDesk } from "../desk/DeskContext.tsx";
import type { Proved } from "../lab/lab.worker.ts";
import { useLab } from "../lab/useLab.ts";
import { useHabits } from "../ranking/useHabits.ts";
import type { RepairBench } from "./useRepairWork.ts";

export interface ProofNow {
  readonly proved: Proved | null;
  readonly problem: string | null;
  readonly isCurrent: boolean;
}

/** The readings that prove the repair, and what those that were taken with it done come to. */
export function useProof(drawn: Drawn, { work, mend }: RepairBench): ProofNow {
  const { state, readings, meter } = useDesk();
  const { standing, priors } = state.job;
  const { priors: habits } = useHabits(drawn.circuit);
  const question = useMemo(() => {
    const { circuit } = drawn;
    const input: RankInput = { circuit, readings: readings.map((r) => ({ ...r.reading, takenAt: undefined })), meter };
    return {
      kind: "proof",
      input,
      proof: {
        circuit,
        meter,
        priors,
        ...(habits ? { habits } : {}),
        ...(standing.switches ? { switches: standing.switches } : {}),
        repaired: mend.flatMap((s) => ("part" in s ? [s.part] : [])),
        mattered: [...(work?.faults.length ? [work.faults] : []), ...(work?.said?.suspects ?? []).map((s) => s.faults)],
      },
      steps: mend,
    } as const;
  }, [drawn, readings, meter, priors, habits, standing.switches, mend, work]);
  const { answer, isCurrent } = useLab(work ? question : null);
  return {
    proved: answer?.kind === "proved" ? answer : null,
    problem: answer?.kind === "problem" ? answer.message : null,
    isCurrent,
  };
}
