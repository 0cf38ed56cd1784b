import type { Network } from "@hound/core/circuit";
import { type BreadboardPlan, type Lead, nameOfHole } from "@hound/core/layout";
import { labelOf } from "../board/boardFacts.ts";

export interface StepGroup {
  readonly title: string;
  readonly steps: readonly string[];
}

const LEADS: Readonly<Record<Lead["lead"], string>> = {
  first: "first lead",
  second: "second lead",
  wiper: "wiper",
  plus: "plus lead",
  minus: "minus lead",
};

/** What to gather and what to do, in order: the supply comes last. */
export function breadboardSteps(network: Network, plan: BreadboardPlan): StepGroup[] {
  const parts = [...new Set(plan.leads.map((l) => l.part))];
  const labels = new Map(network.branches.map((b) => [b.part.designator, labelOf(b)]));
  const atRails = plan.jumpers.filter((j) => j.from.on === "rail").length;
  const inHoles = (list: readonly Lead[]) => list.map((l) => `${l.part} ${LEADS[l.lead]} in ${nameOfHole(l.hole)}`);
  const nodes = [...new Set(plan.leads.map((l) => l.node))].filter((n) => n >= 0);
  return [
    {
      title: "Gather",
      steps: [
        ...parts.map((p) => labels.get(p) ?? p),
        ...(plan.jumpers.length > 0
          ? [`${plan.jumpers.length} jumpers: ${atRails} at the rails, ${plan.jumpers.length - atRails} between rows`]
          : []),
        `${plan.supply}, with two leads`,
      ],
    },
    { title: "Supply off", steps: [`${plan.supply} is switched off, and not connected`] },
    {
      title: "Place",
      steps: [
        ...parts.map((p) => inHoles(plan.leads.filter((l) => l.part === p)).join(", ")),
        ...plan.jumpers.map((j) => `${j.colour} jumper from ${nameOfHole(j.from)} to ${nameOfHole(j.to)}`),
      ],
    },
    {
      title: "Trace back, with a finger",
      steps: nodes.map((node) => {
        const own = plan.leads.filter((l) => l.node === node).map((l) => `${l.part} ${LEADS[l.lead]}`);
        const supply =
          node === plan.plus ? [`${plan.supply} plus`] : node === plan.minus ? [`${plan.supply} minus`] : [];
        return `${network.nodes[node]}: ${[...supply, ...own].join(", ")}, and nothing else`;
      }),
    },
    {
      title: "Connect",
      steps: [
        `${plan.supply} minus to the minus rail`,
        `${plan.supply} plus to the plus rail`,
        "switch on, and watch for heat",
      ],
    },
  ];
}

/** `R3: second lead from f7 to f8, red at g8, black in f7`. */
export function pullInWords({ part, from, to, red, black }: BreadboardPlan["pulls"][number]): string {
  const [out, into, plus, minus] = [from, to, red, black].map(nameOfHole);
  return `${part}: ${LEADS.second} from ${out} to ${into}, red at ${plus}, black in ${minus}`;
}
