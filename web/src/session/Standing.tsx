import { type Configuration, only, partsNotAsDrawn } from "@hound/core/configuration";
import { keyOfStep, type RepairWork, stepOf } from "@hound/core/record";
import { useNotice } from "../app/Notice.tsx";
import { useDesk } from "../desk/DeskContext.tsx";
import { standingWords } from "../words/standing.ts";

/** How the circuit stands, and the way to change it. */
export interface StandingState {
  readonly standing: Configuration;
  readonly change: (next: Configuration, did: string) => void;
}

/** Changes how the circuit stands; it is said, and can be taken back. */
export function useStanding(): StandingState {
  const { desk, state } = useDesk();
  const notice = useNotice();
  const { standing } = state.job;
  const change = (next: Configuration, did: string) => {
    desk.step({ standing: next }, `Taken back: ${did}`);
    notice({ text: did, action: { label: "Undo", run: () => change(standing, `Taken back: ${did}`) } });
  };
  return { standing, change };
}

/** What is still not as drawn once all is put back: the new parts stay in. */
function afterRepair(standing: Configuration, work: RepairWork | null): Configuration {
  const steps = new Set((work?.faults ?? []).map((f) => keyOfStep(stepOf(f))));
  return only(
    standing,
    (f) => (f.is === "swapped" && steps.has(f.part)) || (f.is === "cleared" && steps.has(keyOfStep(f))),
  );
}

/** How the circuit stands where that is not as drawn: every reading from here on is taken so. */
export function Standing() {
  const { standing, change } = useStanding();
  const { drawn, state } = useDesk();
  const words = standingWords(standing);
  if (words.length === 0) return null;
  const known = new Set(drawn?.circuit.parts.map((p) => p.designator));
  const gone = partsNotAsDrawn(standing).filter((part) => !known.has(part));
  return (
    <section
      aria-label="How the circuit stands"
      className="flex items-center gap-3 rounded-xl border-2 border-doubt px-4 py-2"
    >
      <p className="grow">
        Not as drawn: <strong>{words.join(", ")}</strong>. Readings are taken so.
        {drawn && gone.length > 0 && (
          <span className="block text-doubt">There is no {gone.join(", ")} in the circuit any more.</span>
        )}
      </p>
      <button
        type="button"
        className="shrink-0 rounded-lg border border-rule px-3 py-1.5 hover:bg-band"
        onClick={() => change(afterRepair(standing, state.job.work), "The circuit is as drawn again")}
      >
        As drawn again
      </button>
    </section>
  );
}
