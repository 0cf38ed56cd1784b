import { type ReactNode, Suspense, useCallback, useEffect, useState } from "react";
import { lazyNamed } from "../app/lazyNamed.ts";
import { readTextFile } from "../app/readTextFile.ts";
import { useDesk } from "../desk/DeskContext.tsx";
import { useKept } from "../desk/useKept.ts";

const ImportDialog = lazyNamed(() => import("./ImportDialog.tsx"), "ImportDialog");

/** What is brought to the job: a file or words dropped anywhere, a table pasted where it does not belong. It is looked at first. */
export function useIncoming(): { readonly ask: () => void; readonly dialog: ReactNode } {
  const { state, onTable } = useDesk();
  const typed = useKept(`import ${state.job.id}`, "");
  const { set: setText } = typed;
  /** Why what was brought cannot be read; null while nothing is asked for. */
  const [open, setOpen] = useState<{ why: string | null } | null>(null);
  const bring = useCallback(
    (text: string, why: string | null) => {
      setText(text);
      setOpen({ why });
    },
    [setText],
  );
  const takeFile = useCallback(
    async (file: File) => {
      const read = await readTextFile(file);
      if ("why" in read) bring("", read.why);
      else bring(read.text, null);
    },
    [bring],
  );
  useEffect(() => {
    const onOver = (event: DragEvent) => event.preventDefault();
    const onDrop = (event: DragEvent) => {
      const [file] = event.dataTransfer?.files ?? [];
      const words = event.dataTransfer?.getData("text/plain");
      if (!file && !words) return;
      event.preventDefault();
      if (file) takeFile(file);
      else bring(words ?? "", null);
    };
    const stop = onTable((text) => bring(text, null));
    window.addEventListener("dragover", onOver);
    window.addEventListener("drop", onDrop);
    return () => {
      stop();
      window.removeEventListener("dragover", onOver);
      window.removeEventListener("drop", onDrop);
    };
  }, [takeFile, bring, onTable]);
  const dialog = (
    <Suspense>
      {open !== null && (
        <ImportDialog
          text={typed.value}
          why={open.why}
          onText={(text) => bring(text, null)}
          onFile={takeFile}
          onClose={() => {
            typed.forget();
            setOpen(null);
          }}
        />
      )}
    </Suspense>
  );
  return { ask: () => setOpen({ why: null }), dialog };
}
