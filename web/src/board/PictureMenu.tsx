import { ImageDown } from "lucide-react";
import { DropdownMenu } from "radix-ui";
import type { RefObject } from "react";
import { leaveHand } from "../app/focus.ts";
import { useNotice } from "../app/Notice.tsx";
import { fileName, saveFile } from "../app/saveFile.ts";
import { useDesk } from "../desk/DeskContext.tsx";
import { fileStamp, stampOf } from "../desk/stamp.ts";
import { pictureOf } from "./picture.ts";

/** The board as a picture, or on paper. */
export function PictureMenu({ svg, onClose }: { svg: RefObject<SVGSVGElement | null>; onClose: () => void }) {
  const { state } = useDesk();
  const notice = useNotice();
  const save = async (format: "svg" | "png") => {
    if (!svg.current) return;
    try {
      const blob = await pictureOf(svg.current, state.job.title, stampOf(state, new Date()), format);
      saveFile(blob, fileName(state.job.title, `${fileStamp(state, new Date())}.${format}`));
    } catch (error) {
      notice({ text: `The picture could not be made: ${(error as Error).message}` });
    }
  };
  return (
    <DropdownMenu.Root modal={false} defaultOpen onOpenChange={(open) => !open && onClose()}>
      <DropdownMenu.Trigger
        aria-label="Save as a picture"
        title="Save as a picture"
        className="rounded p-1.5 hover:bg-band"
      >
        <ImageDown size={20} aria-hidden />
      </DropdownMenu.Trigger>
      <DropdownMenu.Content
        align="end"
        onCloseAutoFocus={leaveHand}
        className="z-40 rounded-lg border border-rule bg-sheet p-1 shadow-lg"
      >
        <DropdownMenu.Item className={ITEM} onSelect={() => save("svg")}>
          SVG, for documents
        </DropdownMenu.Item>
        <DropdownMenu.Item className={ITEM} onSelect={() => save("png")}>
          PNG, for messages
        </DropdownMenu.Item>
        <DropdownMenu.Item className={ITEM} onSelect={() => window.print()}>
          Print
        </DropdownMenu.Item>
      </DropdownMenu.Content>
    </DropdownMenu.Root>
  );
}

const ITEM = "cursor-pointer rounded px-3 py-2 outline-none data-[highlighted]:bg-band";
