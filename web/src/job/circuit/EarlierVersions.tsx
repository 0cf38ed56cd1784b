import { useQuery } from "@tanstack/react-query";
import { Dialog } from "radix-ui";
import { jobsApi } from "../../api/jobs.ts";
import { Loading } from "../../app/Loading.tsx";
import { Versions } from "../../library/Versions.tsx";
import { useDesk } from "../DeskContext.tsx";

/** Every version of the job's circuit that was stored, with what each changed. */
export function EarlierVersions({ onClose }: { onClose: () => void }) {
  const { desk, state } = useDesk();
  const { data, error } = useQuery({
    queryKey: ["revisions", state.job.id, state.job.circuit.revision],
    queryFn: () => jobsApi.circuits(state.job.id),
  });
  return (
    <Dialog.Root open onOpenChange={(open) => !open && onClose()}>
      <Dialog.Portal>
        <Dialog.Overlay className="fixed inset-0 z-40 bg-black/40" />
        <Dialog.Content
          aria-describedby={undefined}
          className="fixed top-1/2 left-1/2 z-50 flex max-h-[92vh] w-[min(46rem,94vw)] -translate-x-1/2 -translate-y-1/2 flex-col gap-3 overflow-auto rounded-xl border border-rule bg-sheet p-6 shadow-xl"
        >
          <Dialog.Title className="text-xl font-bold">Versions of this circuit</Dialog.Title>
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
          <Dialog.Close className="self-end rounded-lg border border-rule px-4 py-2 hover:bg-band">Close</Dialog.Close>
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}
