import { loopsOf, nodeEquations } from "@hound/core/reduce";
import { useMemo, useState } from "react";
import { print } from "../words/print.ts";
import type { Expected } from "./useExpected.ts";

/** The junction rule written out, with what each term comes to. */
export function JunctionRule({ expected }: { expected: Expected }) {
  const { network, solution } = expected;
  if (solution.kind !== "solved") return null;
  const { branches, nodes, reference } = network;
  const volts = (n: number) => (n === reference ? "0" : `V(${nodes[n]})`);
  const term = (branch: number, leaves: boolean) => {
    const { law, name, from, to } = branches[branch];
    const [near, far] = leaves ? [from, to] : [to, from];
    if (law.kind === "supply") {
      const drive = print(law.volts, "V");
      const difference = leaves
        ? `${volts(near)} − ${volts(far)} − ${drive}`
        : `${volts(near)} − ${volts(far)} + ${drive}`;
      return law.ohms > 0 ? `(${difference}) ÷ ${print(law.ohms, "ohm")}` : `I(${name})`;
    }
    return `(${volts(near)} − ${volts(far)}) ÷ ${print(Number(solution.point.ohms[branch].toPrecision(4)), "ohm")}`;
  };
  return (
    <ul className="mt-2 flex flex-col gap-2" aria-label="Junction equations">
      {nodeEquations(network).map(({ node, terms }) => (
        <li key={node}>
          <b>At {nodes[node]}:</b>{" "}
          <span className="font-mono text-[0.95rem]">{terms.map((t) => term(t.branch, t.leaves)).join(" + ")} = 0</span>
          <br />
          <span className="text-faint">
            {terms
              .map((t) => print((t.leaves ? 1 : -1) * solution.amps[t.branch], "A", { digits: 4 }))
              .join(" + ")
              .replaceAll("+ −", "− ")}{" "}
            = 0, with V({nodes[node]}) = {print(solution.volts[node], "V", { digits: 4 })}
          </span>
        </li>
      ))}
    </ul>
  );
}

/** The loop rule along one loop: each part with the polarity in which it is passed, and what its voltage comes to. */
export function LoopRule({ expected }: { expected: Expected }) {
  const { network, states } = expected;
  const loops = useMemo(() => loopsOf(network), [network]);
  const [chosen, setChosen] = useState(0);
  const loop = loops[chosen] ?? loops[0];
  if (!loop) return null;
  const name = (at: number) => loops[at].map((s) => network.branches[s.branch].name).join(", ");
  const passed = loop.map(({ branch, forward }) => {
    const drop = forward ? states[branch].volts : -states[branch].volts;
    return { name: network.branches[branch].name, drop };
  });
  return (
    <section aria-label="Loop rule" className="mt-4">
      <p>And round any loop the voltages cancel:</p>
      <select
        aria-label="Loop"
        value={chosen}
        onChange={(e) => setChosen(Number(e.target.value))}
        className="mt-1 w-full rounded-lg border border-rule bg-sheet px-3 py-2"
      >
        {loops.map((steps, i) => (
          <option key={steps.map((s) => s.branch).join(" ")} value={i}>
            {name(i)}
          </option>
        ))}
      </select>
      <ul className="mt-2 font-mono text-[0.95rem]">
        {passed.map(({ name: part, drop }) => (
          <li key={part}>
            {part} from {drop >= 0 ? "+ to −, a drop: −" : "− to +, a rise: +"}
            {print(Number(Math.abs(drop).toPrecision(4)), "V")}
          </li>
        ))}
        <li className="border-t border-rule font-bold">
          together {print(Math.abs(sum(passed)) < 1e-9 ? 0 : Number((-sum(passed)).toPrecision(3)), "V")}
        </li>
      </ul>
    </section>
  );
}

function sum(passed: readonly { readonly drop: number }[]): number {
  return passed.reduce((total, p) => total + p.drop, 0);
}
