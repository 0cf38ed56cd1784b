import { type Circuit, fingerprintOf } from "@hound/core/circuit";
import { habitsOf } from "@hound/core/faults";
import type { Habits, Priors } from "@hound/core/record";
import { createContext, useContext, useEffect, useMemo, useState } from "react";
import { workshopApi } from "../api/workshop.ts";
import { useSame } from "../desk/useSame.ts";
import { useSeen } from "../desk/useSeen.ts";

interface HabitsHere {
  readonly habits: Habits | null;
  readonly circuit: string;
  /** What they make likelier or rarer; null where there are none, or they are switched off. */
  readonly priors: Priors | null;
  /** False while they are still to come: what is ranked without them would be ranked twice. */
  readonly isReady: boolean;
}

/** Milliseconds that anything waits for them: a server that is away keeps nobody from working. */
const PATIENCE = 800;

/** What closed jobs had taught, on a page that shows a job as it was; null where it is now. */
export const AsItWas = createContext<Priors | null>(null);

/** What closed jobs taught that counts for a circuit, now or as it was. While the server is away, what was last seen. */
export function useHabits(circuit: Circuit | null): HabitsHere {
  const key = useMemo(() => (circuit ? fingerprintOf(circuit) : ""), [circuit]);
  const then = useContext(AsItWas);
  const { data, isError } = useSeen(["habits", key], () => workshopApi.habits(key), {
    enabled: key !== "" && then === null,
    staleTime: 60_000,
  });
  const [isLate, setLate] = useState(false);
  useEffect(() => {
    const timer = setTimeout(() => setLate(true), PATIENCE);
    return () => clearTimeout(timer);
  }, []);
  const learnt = useMemo(() => {
    const found = then ?? (data ? habitsOf(data, key) : {});
    return Object.keys(found).length > 0 ? found : null;
  }, [then, data, key]);
  const isReady = then !== null || data !== undefined || isError || isLate;
  return { habits: data ?? null, circuit: key, priors: useSame(learnt), isReady };
}
