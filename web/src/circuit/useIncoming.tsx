import { type ReactNode, Suspense, useCallback, useEffect, useState } from "react";
import { lazyNamed } from "../app/lazyNamed.ts";
import { readTextFile } from "../app/readTextFile.ts";
import { useDesk } from "../desk/DeskContext.tsx";

const ImportDialog = lazyNamed(() => import("./ImportDialog.tsx"), "ImportDialog");

/** What is brought to the job: a file or words dropped anywhere, a table pasted where it does not belong. It is looked at first. */
export function useIncoming(): { readonly ask: () => void; readonly dialog: ReactNode } {
  const [incoming, setIncoming] = useState<{ text: string; why: string | null } | null>(null);
  const takeFile = useCallback(async (file: File) => {
    const read = await readTextFile(file);
    setIncoming("why" in read ? { text: "", why: read.why } : { text: read.text, why: null });
  }, []);
  const { onTable } = useDesk();
  useEffect(() => {
    const onOver = (event: DragEvent) => event.preventDefault();
    const onDrop = (event: DragEvent) => {
      const [file] = event.dataTransfer?.files ?? [];
      const words = event.dataTransfer?.getData("text/plain");
      if (!file && !words) return;
      event.preventDefault();
      if (file) takeFile(file);
      else setIncoming({ text: words ?? "", why: null });
    };
    const stop = onTable((text) => setIncoming({ text, why: null }));
    window.addEventListener("dragover", onOver);
    window.addEventListener("drop", onDrop);
    return () => {
      stop();
      window.removeEventListener("dragover", onOver);
      window.removeEventListener("drop", onDrop);
    };
  }, [takeFile, onTable]);
  const dialog = (
    <Suspense>
      {incoming !== null && (
        <ImportDialog
          {...incoming}
          onText={(text) => setIncoming({ text, why: null })}
          onFile={takeFile}
          onClose={() => setIncoming(null)}
        />
      )}
    </Suspense>
  );
  return { ask: () => setIncoming({ text: "", why: null }), dialog };
}
