import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { jobsApi } from "../api/jobs.ts";
import { DialogClose, DialogFrame } from "../app/DialogFrame.tsx";
import { Loading } from "../app/Loading.tsx";
import { MoreButton, PAGE } from "../app/MoreButton.tsx";
import { useDesk } from "../desk/DeskContext.tsx";
import { Versions } from "./Versions.tsx";

/** Every version of the job's circuit that was stored, with what each changed. */
export function EarlierVersions({ onClose }: { onClose: () => void }) {
  const { desk, state } = useDesk();
  const [limit, setLimit] = useState(PAGE);
  const { id, circuit } = state.job;
  const { data, error } = useQuery({
    queryKey: ["revisions", id, circuit.revision, limit],
    queryFn: () => jobsApi.circuits(id, limit),
    placeholderData: (before) => before,
  });
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
      {data && <MoreButton shown={data.revisions.length} total={data.total} onMore={() => setLimit(limit + PAGE)} />}
      <DialogClose>Close</DialogClose>
    </DialogFrame>
  );
}
