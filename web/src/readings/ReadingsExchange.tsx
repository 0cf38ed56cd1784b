import { writeReadings } from "@hound/core/notation";
import { Download, FileUp } from "lucide-react";
import { useOnDevice } from "../app/device.ts";
import { fileName, saveFile } from "../app/saveFile.ts";
import { useIncoming } from "../circuit/useIncoming.tsx";
import { useDesk } from "../desk/DeskContext.tsx";
import { fileStamp } from "../desk/stamp.ts";

const BUTTON = "flex items-center gap-1.5 rounded-lg border border-rule px-3 py-1.5 hover:bg-band disabled:opacity-40";

/** Readings in and out, as a spreadsheet has them; and who takes them on this device. */
export function ReadingsExchange() {
  const { state, readings } = useDesk();
  const { ask, dialog } = useIncoming();
  const [who, setWho] = useOnDevice("who", "");
  const save = () =>
    saveFile(
      writeReadings(readings.map((r) => r.reading)),
      fileName(state.job.title, `${fileStamp(state, new Date())}-readings.csv`),
      "text/csv",
    );
  return (
    <div className="flex flex-wrap items-center gap-2">
      <button type="button" className={BUTTON} onClick={ask}>
        <FileUp size={18} aria-hidden /> Paste or import
      </button>
      <button type="button" className={BUTTON} disabled={readings.length === 0} onClick={save}>
        <Download size={18} aria-hidden /> CSV
      </button>
      <label className="ml-auto flex items-center gap-2">
        <span className="text-faint">Taken by</span>
        <input
          value={who}
          maxLength={80}
          onChange={(e) => setWho(e.target.value)}
          className="w-36 rounded border border-field bg-paper px-2 py-1"
        />
      </label>
      {dialog}
    </div>
  );
}
