import type { Network } from "@hound/core/circuit";

/** Branches beyond which nothing is worked out while a page waits: a second and more on a slow machine. */
const LARGE = 600;

export const isLarge = (network: Network) => network.branches.length > LARGE;

/** What stands in the place of a view whose figures would take too long. */
export function TooLarge({ network, what }: { network: Network; what: string }) {
  return (
    <div className="rounded-xl border border-dashed border-rule p-6 text-center">
      <p className="text-xl font-bold">Too large for {what}</p>
      <p className="mt-2 text-faint">
        {network.branches.length} parts: beyond {LARGE} this view is not worked out. Board, readings and suspects are;
        the figures of every part come from <code className="font-mono">hound solve</code> on the command line, with the
        exported case file.
      </p>
    </div>
  );
}
