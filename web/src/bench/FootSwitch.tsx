import { useState } from "react";
import { useOnDevice } from "../app/device.ts";
import { useKeys } from "../app/useKeys.ts";

/** Keys that a number is typed with stay what they are. */
const TYPED = /^(?:Digit|Numpad)\d$|^(?:NumpadDecimal|NumpadSubtract|Period|Comma|Minus|Backspace|Tab|Escape)$/;

/** A foot switch or presenter is a keyboard with one key: it is learnt once on a device, and records. */
export function FootSwitch({ onPress }: { onPress: () => void }) {
  const [code, setCode] = useOnDevice("footSwitch", "");
  const [isLearning, setLearning] = useState(false);
  useKeys(
    (event) => {
      if (isLearning) {
        event.preventDefault();
        event.stopPropagation();
        if (event.code !== "" && !TYPED.test(event.code)) setCode(event.code);
        setLearning(false);
      } else if (code !== "" && event.code === code && !event.repeat) {
        event.preventDefault();
        event.stopPropagation();
        onPress();
      }
    },
    { isFirst: true },
  );
  return (
    <button
      type="button"
      aria-pressed={isLearning}
      className="rounded-lg border border-rule px-3 py-1.5 hover:bg-band"
      onClick={() => setLearning(true)}
    >
      {isLearning ? "Press it now …" : code === "" ? "Learn a foot switch" : `Foot switch: ${code}`}
    </button>
  );
}
