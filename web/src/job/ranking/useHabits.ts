import { type Circuit, fingerprintOf } from "@hound/core/circuit";
import { habitsOf } from "@hound/core/faults";
import type { Habits, Priors } from "@hound/core/record";
import { useMemo } from "react";
import { workshopApi } from "../../api/workshop.ts";
import { useSeen } from "../../outbox/useSeen.ts";
import { useSame } from "../useSame.ts";

interface HabitsHere {
  readonly habits: Habits | null;
  readonly circuit: string;
  /** What they make likelier or rarer; null where there are none, or they are switched off. */
  readonly priors: Priors | null;
}

/** What closed jobs taught that counts for a circuit. While the server is away, what was last seen. */
export function useHabits(circuit: Circuit | null): HabitsHere {
  const key = useMemo(() => (circuit ? fingerprintOf(circuit) : ""), [circuit]);
  const { data } = useSeen(["habits", key], () => workshopApi.habits(key), { enabled: key !== "", staleTime: 60_000 });
  const learnt = useMemo(() => {
    const found = data ? habitsOf(data, key) : {};
    return Object.keys(found).length > 0 ? found : null;
  }, [data, key]);
  return { habits: data ?? null, circuit: key, priors: useSame(learnt) };
}
