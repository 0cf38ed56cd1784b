import { ChartNoAxesColumnDecreasing, FlaskConical, ImageDown, Maximize, Route, ZoomIn, ZoomOut } from "lucide-react";
import { type ReactNode, type RefObject, Suspense, useState } from "react";
import { lazyNamed } from "../app/lazyNamed.ts";

const PictureMenu = lazyNamed(() => import("./PictureMenu.tsx"), "PictureMenu");

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
  const [isSaving, setSaving] = useState(false);
  const picture = <ImageDown size={20} aria-hidden />;
  return (
    <div className="flex shrink-0 flex-wrap items-center gap-1 border-t border-rule px-2 py-0.5 print:hidden">
      <Tool label="Smaller (-)" onClick={() => onZoom(-1)}>
        <ZoomOut size={20} aria-hidden />
      </Tool>
      <Tool label="1:1, usual size (0)" onClick={onUsual}>
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
      {isSaving ? (
        <Suspense
          fallback={
            <Tool label="Save as a picture" onClick={() => {}}>
              {picture}
            </Tool>
          }
        >
          <PictureMenu svg={svg} onClose={() => setSaving(false)} />
        </Suspense>
      ) : (
        <Tool label="Save as a picture" onClick={() => setSaving(true)}>
          {picture}
        </Tool>
      )}
    </div>
  );
}

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
