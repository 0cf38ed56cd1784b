import { useEffect } from "react";
import { useSearchParams } from "react-router";
import type { Drawn } from "../desk/DeskContext.tsx";
import { Cautions } from "../session/cautions.tsx";
import { Standing } from "../session/Standing.tsx";
import type { ReadingLine } from "../session/useReadingLine.ts";
import { ChooseRepair } from "./ChooseRepair.tsx";
import { Closed } from "./Closed.tsx";
import { CloseJob } from "./CloseJob.tsx";
import { PartsToFit } from "./PartsToFit.tsx";
import { ProveIt } from "./ProveIt.tsx";
import { StepList } from "./StepList.tsx";
import { useProof } from "./useProof.ts";
import { useRepairWork } from "./useRepairWork.ts";

interface RepairStageProps {
  readonly drawn: Drawn;
  readonly line: ReadingLine;
}

/** Stage Repair: what to replace by what, the steps, the proof that nothing is wrong any more, and how the job ends. */
export function RepairStage({ drawn, line }: RepairStageProps) {
  const bench = useRepairWork(drawn);
  const proof = useProof(drawn, bench);
  const [search, setSearch] = useSearchParams();
  const { work, mend } = bench;
  const { insist } = line;
  const { proved } = proof;
  const isProving = work !== null && bench.isMended;
  // The bare number typed next belongs to the proof.
  useEffect(() => {
    const missing = proved?.verdict.rows.filter((r) => r.index === null).map((r) => r.reading) ?? [];
    const next = proved?.set.readings.map((r) => r.measurement).filter((m) => missing.includes(m.reading));
    insist(isProving && next && next.length > 0 ? next : null);
  }, [proved, isProving, insist]);
  useEffect(() => () => insist(null), [insist]);
  const asked = search.get("end");
  const isAsked = asked === "solved" || asked === "givenUp";
  return (
    <>
      <Closed bench={bench} />
      <Cautions place="suspects" doing={mend.length > 0 ? { kind: "swap", part: firstPart(mend) } : undefined} />
      <ChooseRepair bench={bench} drawn={drawn} ranked={line.ranked} />
      {bench.steps.some((s) => s.what.kind === "restore") && <Standing />}
      {work && mend.length > 0 && <PartsToFit bench={bench} drawn={drawn} />}
      {work && <StepList bench={bench} verdict={proof.proved?.verdict ?? null} />}
      {work && <ProveIt bench={bench} proof={proof} drawn={drawn} line={line} />}
      <CloseJob
        key={asked ?? ""}
        bench={bench}
        proof={proof}
        drawn={drawn}
        isOpenAtFirst={isAsked}
        outcome={asked === "givenUp" ? "givenUp" : null}
        onDone={() => setSearch({}, { replace: true })}
      />
    </>
  );
}

function firstPart(mend: ReturnType<typeof useRepairWork>["mend"]): string {
  const [first] = mend;
  return first && "part" in first ? first.part : "";
}
