import type { Solution } from "@hound/core/solve";
import { print } from "../words/print.ts";

/** What parts without ohms of their own count with in a reduction: V ÷ I where they are. */
export function BentNote({ solution }: { solution: Solution }) {
  if (solution.kind !== "solved") return null;
  const { network, point } = solution;
  const bent = network.branches.flatMap(({ name, law }, k) =>
    law.kind === "junction" && Math.abs(point.amps[k]) > LEAST_AMPS
      ? [`${name} ${print(Number(point.ohms[k].toPrecision(3)), "ohm")}`]
      : [],
  );
  if (bent.length === 0) return null;
  return (
    <p className="text-faint">
      Junctions have no ohms of their own: they count with V ÷ I just here, {bent.join(", ")}; at another current with
      other ohms.
    </p>
  );
}

/** What blocks lets nothing through that anybody would add up. */
const LEAST_AMPS = 1e-6;
