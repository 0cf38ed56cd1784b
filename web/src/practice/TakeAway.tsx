import { useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { useNotice } from "../app/Notice.tsx";

interface TakeAwayProps {
  /** What it is, for who hears the page. */
  readonly what: string;
  /** The list that it stands in. */
  readonly list: string;
  readonly remove: () => Promise<unknown>;
}

/** Takes something away for good, asked once more. */
export function TakeAway({ what, list, remove }: TakeAwayProps) {
  const [isAsked, setAsked] = useState(false);
  const queries = useQueryClient();
  const notice = useNotice();
  const gone = () =>
    remove().then(
      () => queries.invalidateQueries({ queryKey: [list] }),
      (e: Error) => notice({ text: `Not taken away: ${e.message}` }),
    );
  const hidden = <span className="sr-only">: {what}</span>;
  if (!isAsked)
    return (
      <button
        type="button"
        className="rounded-lg border border-rule bg-sheet px-3 py-1.5 hover:bg-band"
        onClick={() => setAsked(true)}
      >
        Take away{hidden}
      </button>
    );
  return (
    <span className="flex gap-2">
      <button type="button" className="rounded-lg border border-wrong px-3 py-1.5 text-wrong" onClick={gone}>
        Gone for good{hidden}
      </button>
      <button type="button" className="rounded-lg border border-rule px-3 py-1.5" onClick={() => setAsked(false)}>
        Keep it{hidden}
      </button>
    </span>
  );
}
