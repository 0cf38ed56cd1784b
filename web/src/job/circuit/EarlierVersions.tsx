import { jobsApi } from "../../api/jobs.ts";
import { DialogClose, DialogFrame } from "../../app/DialogFrame.tsx";
import { Loading } from "../../app/Loading.tsx";
import { Versions } from "../../library/Versions.tsx";
import { useSeen } from "../../outbox/useSeen.ts";
import { useDesk } from "../DeskContext.tsx";

/** Every version of the job's circuit that was stored, with what each changed. */
export function EarlierVersions({ onClose }: { onClose: () => void }) {
  const { desk, state } = useDesk();
  const { id, circuit } = state.job;
  const { data, error } = useSeen(["revisions", id, circuit.revision], () => jobsApi.circuits(id));
  return (
    <DialogFrame open wide onOpenChange={(open) => !open && onClose()} title="Versions of this circuit">
      {error && <p role="alert">{error.message}</p>}
      {!data && !error && <Loading what="the versions" />}
      {data && (
        <Versions
          revisions={data.revisions}
          onRestore={(trail) => {
            desk.setText(trail);
            onClose();
          }}
        />
      )}
      <DialogClose>Close</DialogClose>
    </DialogFrame>
  );
}
