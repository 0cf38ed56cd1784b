/** How many of a list are shown at first, and more at a time. */
export const PAGE = 200;

interface MoreButtonProps {
  readonly shown: number;
  readonly total: number;
  readonly onMore: () => void;
}

/** The end of a list that goes on: how many there are, and more of them. */
export function MoreButton({ shown, total, onMore }: MoreButtonProps) {
  if (shown >= total) return null;
  return (
    <p className="mt-4 flex items-center gap-3">
      <span>
        {shown} of {total}
      </span>
      <button type="button" className="rounded-lg border border-rule px-3 py-1.5 hover:bg-band" onClick={onMore}>
        Show more
      </button>
    </p>
  );
}
