import { useQuery } from "@tanstack/react-query";
import type { ReactNode } from "react";
import { Loading } from "../app/Loading.tsx";
import { NoticeArea } from "../app/Notice.tsx";
import { Trouble } from "../app/PageError.tsx";
import { DeskProvider } from "./DeskContext.tsx";
import { useOutbox } from "./OutboxContext.tsx";

/** Opens a job's desk for what stands in it; until it is there, or where it cannot be opened, says so. */
export function OpenedDesk({ id, what, children }: { id: string; what: string; children: ReactNode }) {
  const { desks } = useOutbox();
  const { data, error } = useQuery({
    queryKey: ["desk", id],
    queryFn: () => desks.open(id),
    staleTime: 0,
    gcTime: 0,
    structuralSharing: false,
    refetchOnWindowFocus: false,
  });
  if (error) return <Trouble title="This job could not be opened" detail={error.message} />;
  if (!data) return <Loading what={what} />;
  return (
    <NoticeArea>
      <DeskProvider key={id} desk={data}>
        {children}
      </DeskProvider>
    </NoticeArea>
  );
}
