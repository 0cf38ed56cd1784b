import { useOnDevice } from "../app/device.ts";
import { useDesk } from "../desk/DeskContext.tsx";

/** Who else has the job open: what they do appears here by itself. */
export function AlsoHere() {
  const { here } = useDesk();
  const [who] = useOnDevice("who", "");
  const own = here.indexOf(who);
  const others = here.filter((_, i) => i !== own);
  if (others.length === 0) return null;
  const names = [...new Set(others.filter((n) => n !== ""))];
  const unnamed = others.filter((n) => n === "").length;
  const words = [...names, ...(unnamed > 0 ? [unnamed === 1 ? "one more browser" : `${unnamed} more browsers`] : [])];
  return (
    <p role="note" aria-label="Also here" className="shrink-0 bg-band px-4 pb-1 text-sm text-faint">
      Also at this job: <strong dir="auto">{words.join(", ")}</strong>
    </p>
  );
}
