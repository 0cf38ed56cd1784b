import type { Circuit } from "@hound/core/circuit";
import { writeTrail } from "@hound/core/notation";
import { type Job, NEW_JOB_FIELDS } from "@hound/core/record";
import { type ReactNode, useMemo } from "react";
import { NoticeArea } from "../app/Notice.tsx";
import { DeskProvider } from "../desk/DeskContext.tsx";
import { JobDesk } from "../desk/desk.ts";
import { useOutbox } from "../desk/OutboxContext.tsx";
import type { DeskApi } from "../desk/steps.ts";
import type { Device } from "../outbox/device.ts";

const NEVER = "1970-01-01T00:00:00.000Z";

/** A desk with a circuit on paper: there is no job behind it, and own figures stay on this device. */
export function PaperDesk({ id, circuit, children }: { id: string; circuit: Circuit; children: ReactNode }) {
  const { device } = useOutbox();
  const desk = useMemo(() => deskOf(id, circuit, device), [id, circuit, device]);
  return (
    <NoticeArea>
      <DeskProvider key={id} desk={desk} isShared={false}>
        {children}
      </DeskProvider>
    </NoticeArea>
  );
}

export const paperKey = (id: string) => `paper:${id}`;

function deskOf(id: string, circuit: Circuit, device: Device): JobDesk {
  let job: Job = {
    ...NEW_JOB_FIELDS,
    id,
    title: circuit.title,
    complaint: "",
    claims: device.get<Job["claims"]>(paperKey(id)) ?? {},
    circuit: { trail: writeTrail(circuit), revision: 0 },
    readings: [],
    damaged: [],
    revision: 0,
    createdAt: NEVER,
    updatedAt: NEVER,
    deletedAt: null,
  };
  const isNot = () => Promise.reject(new Error("a circuit on paper stays as it is"));
  const api: DeskApi = {
    open: async () => job,
    change: async (_, { revision: __, ...fields }) => {
      job = { ...job, ...fields, revision: job.revision + 1 } as Job;
      device.put(paperKey(id), job.claims);
      return job;
    },
    ...{ create: isNot, saveCircuit: isNot },
    ...{ addReading: isNot, changeReading: isNot, removeReading: isNot, restoreReading: isNot },
  };
  return new JobDesk(job, null, { api, keep: async () => true, see: () => {} });
}
