import { meterData } from "@hound/core/record";
import {
  type CautionPlace,
  cautionsFor,
  cautionsOfDoing,
  type Doing,
  type SafetyFacts,
  safetyFacts,
} from "@hound/core/safety";
import { TriangleAlert } from "lucide-react";
import { useMemo } from "react";
import { useDesk } from "../desk/DeskContext.tsx";
import { inWords } from "../words/print.ts";

/** What is dangerous about the job's circuit; null while there is none. */
export function useSafetyFacts(): SafetyFacts | null {
  const { drawn, state } = useDesk();
  const { meter, isWet } = state.job;
  return useMemo(() => {
    if (!drawn) return null;
    // A supply taken for an ideal one is as strong as it is all the same.
    const written = new Map(drawn.written.parts.map((p) => [p.designator, p]));
    const branches = drawn.network.branches.map((b) =>
      b.kind === "supply" ? { ...b, part: written.get(b.part.designator) ?? b.part } : b,
    );
    return safetyFacts({ ...drawn.network, branches }, meterData(meter), isWet);
  }, [drawn, meter, isWet]);
}

interface CautionsProps {
  readonly place: CautionPlace;
  readonly doing?: Doing | undefined;
  readonly className?: string;
}

/** The cautions that belong in a place, dangers first. */
export function Cautions({ place, doing, className = "" }: CautionsProps) {
  const facts = useSafetyFacts();
  const said = facts ? cautionsFor(place, facts, doing) : [];
  if (said.length === 0) return null;
  return (
    <ul aria-label="Cautions" className={`flex flex-col gap-1 ${className}`}>
      {said.map(({ id, words, isDanger }) => (
        <li key={id} data-caution={id} className={`flex gap-2 ${isDanger ? "text-wrong" : "text-doubt"}`}>
          <TriangleAlert size={20} className="mt-0.5 shrink-0" aria-hidden />
          <span>
            <strong>{isDanger ? "Danger. " : "Care. "}</strong>
            {inWords(words)}
          </span>
        </li>
      ))}
    </ul>
  );
}

/** What comes before a measurement, in one line; what is dangerous about the circuit anyway is said elsewhere. */
export function DoingCautions({ doing }: { doing: Doing }) {
  const facts = useSafetyFacts();
  const said = facts ? cautionsOfDoing("suspects", facts, doing) : [];
  return said.length === 0 ? null : <span className="text-doubt">{inWords(said.map((c) => c.words).join(" "))}</span>;
}
