import { ChartNoAxesColumnDecreasing, FlaskConical, ImageDown, Maximize, Route, ZoomIn, ZoomOut } from "lucide-react";
import { DropdownMenu } from "radix-ui";
import type { ReactNode, RefObject } from "react";
import { useNotice } from "../../app/Notice.tsx";
import { fileName, saveFile } from "../../app/saveFile.ts";
import { fileStamp, stampOf } from "../../words/stamp.ts";
import { useDesk } from "../DeskContext.tsx";
import { pictureOf } from "./picture.ts";

interface BoardToolsProps {
  readonly svg: RefObject<SVGSVGElement | null>;
  readonly onZoom: (direction: 1 | -1) => void;
  readonly onFit: () => void;
  readonly onUsual: () => void;
  readonly traced: string | null;
  readonly onTrace: () => void;
  readonly canTrace: boolean;
  readonly staircase: boolean;
  readonly onStaircase: () => void;
  readonly whatIf: { readonly isOn: boolean; readonly turn: () => void } | null;
}

/** Zoom, fit, the current's way, and the board as a picture. */
export function BoardTools(props: BoardToolsProps) {
  const { svg, onZoom, onFit, onUsual, traced, onTrace, canTrace, staircase, onStaircase, whatIf } = props;
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
    <div className="absolute top-2 right-2 flex w-10 flex-col items-center gap-1 rounded-lg border border-rule bg-sheet/95 py-1 print:hidden">
      <Tool label="Smaller (-)" onClick={() => onZoom(-1)}>
        <ZoomOut size={20} aria-hidden />
      </Tool>
      <Tool label="Usual size (0)" onClick={onUsual}>
        <span className="text-sm font-bold">1:1</span>
      </Tool>
      <Tool label="Larger (+)" onClick={() => onZoom(1)}>
        <ZoomIn size={20} aria-hidden />
      </Tool>
      <Tool label="All in sight (f)" onClick={onFit}>
        <Maximize size={20} aria-hidden />
      </Tool>
      <Tool
        label={traced ? "Hide the current’s way (i)" : "Show the current’s way through the selected part (i)"}
        onClick={onTrace}
        pressed={traced !== null}
        disabled={!canTrace && traced === null}
      >
        <Route size={20} aria-hidden />
      </Tool>
      <Tool
        label={staircase ? "Hide the staircase (t)" : "Show the staircase: potential against place (t)"}
        onClick={onStaircase}
        pressed={staircase}
      >
        <ChartNoAxesColumnDecreasing size={20} aria-hidden />
      </Tool>
      {whatIf && (
        <Tool
          label={whatIf.isOn ? "Hide what is supposed in What-if (w)" : "Show what is supposed in What-if (w)"}
          onClick={whatIf.turn}
          pressed={whatIf.isOn}
        >
          <FlaskConical size={20} aria-hidden />
        </Tool>
      )}
      <DropdownMenu.Root>
        <DropdownMenu.Trigger
          aria-label="Save as a picture"
          title="Save as a picture"
          className="rounded p-1.5 hover:bg-band"
        >
          <ImageDown size={20} aria-hidden />
        </DropdownMenu.Trigger>
        <DropdownMenu.Portal>
          <DropdownMenu.Content align="end" className="z-40 rounded-lg border border-rule bg-sheet p-1 shadow-lg">
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
        </DropdownMenu.Portal>
      </DropdownMenu.Root>
    </div>
  );
}

const ITEM = "cursor-pointer rounded px-3 py-2 outline-none data-[highlighted]:bg-band";

interface ToolProps {
  readonly label: string;
  readonly onClick: () => void;
  readonly pressed?: boolean;
  readonly disabled?: boolean;
  readonly children: ReactNode;
}

function Tool({ label, onClick, pressed, disabled, children }: ToolProps) {
  return (
    <button
      type="button"
      aria-label={label}
      title={label}
      aria-pressed={pressed}
      disabled={disabled}
      onClick={onClick}
      className={`rounded p-1.5 hover:bg-band disabled:opacity-40 ${pressed ? "bg-copper text-sheet hover:bg-copper" : ""}`}
    >
      {children}
    </button>
  );
}
