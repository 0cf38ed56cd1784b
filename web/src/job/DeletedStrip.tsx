import { useDesk } from "../desk/DeskContext.tsx";
import { useRun } from "../desk/OutboxContext.tsx";

/** A job that was deleted is still shown; it takes changes again once it is restored. */
export function DeletedStrip() {
  const { desk, state } = useDesk();
  const run = useRun();
  const { id, title, deletedAt } = state.job;
  if (deletedAt === null) return null;
  const restore = () => {
    run("deleteJob", { id, isDeleted: false }, `“${title}” restored`).then(
      () => desk.refresh(),
      () => {},
    );
  };
  return (
    <p role="status" className="flex shrink-0 items-center gap-3 bg-copper-wash px-4 py-2">
      <span className="grow">This job is deleted: nothing new is saved in it.</span>
      <button type="button" className="rounded border border-doubt px-3 py-1 hover:bg-band" onClick={restore}>
        Restore the job
      </button>
    </p>
  );
}
