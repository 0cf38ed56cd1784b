import type { Network } from "@hound/core/circuit";
import type { Configuration } from "@hound/core/configuration";
import { useMemo } from "react";
import { useConventions } from "../desk/conventions.ts";
import { asWorkedWith, useDesk } from "../desk/DeskContext.tsx";
import { useKept } from "../desk/useKept.ts";
import { type NoVariant, type Variant, variantOf } from "./variants.ts";

export interface Variants {
  /** What is changed in each, the circuit as it is left out. */
  readonly columns: readonly string[];
  readonly setColumns: (columns: readonly string[]) => void;
  readonly titles: readonly string[];
  readonly variants: readonly (Variant | NoVariant)[];
  /** One that is not among them yet. */
  readonly variant: (words: string) => Variant | NoVariant;
}

/** The variants that stand beside the circuit of this job, solved; kept on this device. */
export function useVariants(network: Network, standing: Configuration): Variants {
  const { state, meter } = useDesk();
  const { supplies, wires } = useConventions();
  const variant = useMemo(() => {
    const ideal = { supplies: supplies === "ideal", contacts: wires === "ideal" };
    return (words: string) => variantOf(words, network, standing, (written) => asWorkedWith(written, ideal, meter));
  }, [network, standing, supplies, wires, meter]);
  const { value: columns, set: setColumns } = useKept<readonly string[]>(`columns ${state.job.id}`, []);
  const variants = useMemo(() => ["", ...columns].map(variant), [columns, variant]);
  return { columns, setColumns, titles: ["as it is", ...columns], variants, variant };
}
