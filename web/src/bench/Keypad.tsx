import { Delete } from "lucide-react";
import type { ReactNode } from "react";
import { currentDecimal } from "../words/print.ts";

interface KeypadProps {
  readonly typed: string;
  readonly onType: (text: string) => void;
  readonly onOver: () => void;
  readonly onSkip: () => void;
  readonly onRecord: () => void;
}

/** Keys for a thumb: what a reading is typed with, and nothing else. The board and the proposal stay in sight. */
export function Keypad({ typed, onType, onOver, onSkip, onRecord }: KeypadProps) {
  const add = (text: string) => () => onType(typed + text);
  const unit = (text: string) => () => onType(typed.replace(/\s*(?:V|mA|A|ohm)$/, "") + text);
  const swapLeads = () => onType(/^[-−]/.test(typed) ? typed.slice(1) : `-${typed}`);
  const key = (words: ReactNode, name: string, press: () => void, className = "bg-sheet") => (
    <button
      key={name}
      type="button"
      aria-label={name}
      // The line keeps the focus, and no other keyboard comes up.
      onPointerDown={(e) => e.preventDefault()}
      onClick={press}
      className={`flex h-12 items-center justify-center rounded-lg border border-rule text-xl font-bold ${className}`}
    >
      {words}
    </button>
  );
  const point = currentDecimal();
  return (
    <fieldset aria-label="Keypad" className="grid grid-cols-5 gap-1.5">
      {["7", "8", "9"].map((d) => key(d, d, add(d)))}
      {key("V", "Volts", unit("V"))}
      {key(<Delete size={24} aria-hidden />, "Delete the last sign", () => onType(typed.slice(0, -1)))}
      {["4", "5", "6"].map((d) => key(d, d, add(d)))}
      {key("mA", "Milliamperes", unit("mA"))}
      {key("OL", "Over range", onOver)}
      {["1", "2", "3"].map((d) => key(d, d, add(d)))}
      {key("Ω", "Ohms", unit("ohm"))}
      {key("beep", "Beep", () => onType("beep"))}
      {key("±", "Swap leads", swapLeads)}
      {key("0", "0", add("0"))}
      {key(point, "Point", add(point))}
      {key("skip", "Not now", onSkip)}
      {key("OK", "Record", onRecord, "bg-copper text-sheet")}
    </fieldset>
  );
}
