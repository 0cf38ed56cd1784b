import type { Network } from "@hound/core/circuit";
import type { ReactNode } from "react";
import { useDesk } from "../desk/DeskContext.tsx";
import { type Selection, usePointed } from "../desk/pointing.ts";

interface LitProps {
  readonly item: NonNullable<Selection>;
  readonly network: Network;
  readonly children: (lit: boolean) => ReactNode;
}

/** What lights up with what is selected and what the pointer is over: it asks for itself, so that it alone is drawn again. */
export function Lit({ item, network, children }: LitProps) {
  const { pointing } = useDesk();
  const lit = usePointed(pointing, ({ selection, stretch }, hovered) =>
    item.kind === "branch" && stretch.includes(item.name)
      ? true
      : touches(hovered, item, network) || touches(selection, item, network),
  );
  return children(lit);
}

/** A node lights with all that hangs on it. */
function touches(lit: Selection, item: NonNullable<Selection>, network: Network): boolean {
  if (!lit) return false;
  if (lit.kind === item.kind) return lit.name === item.name;
  if (lit.kind !== "node") return false;
  const branch = network.branches.find((b) => b.name === item.name);
  return branch !== undefined && [branch.from, branch.to].some((n) => network.nodes[n] === lit.name);
}
