import { Maximize, Volume2, VolumeX, X } from "lucide-react";
import { useCallback, useEffect, useRef } from "react";
import { useOnDevice } from "../app/device.ts";
import { CurrentStepList } from "../coach/CurrentStepList.tsx";
import { useDesk } from "../desk/DeskContext.tsx";
import { Echo } from "../line/Echo.tsx";
import { onPadKey, overRange } from "../line/numberPad.ts";
import { Questions } from "../line/Questions.tsx";
import { LiveMeter } from "../meter/LiveMeter.tsx";
import type { Streaming } from "../meter/useStreaming.ts";
import { Cautions } from "../session/cautions.tsx";
import { doingAt } from "../session/doingAt.ts";
import { repairRows, suspicionClass } from "../session/suspectRows.ts";
import { useAdvice } from "../session/useAdvice.ts";
import type { ReadingLine } from "../session/useReadingLine.ts";
import { dialWords, leadWords } from "../words/coach.ts";
import { measurementWords } from "../words/measurements.ts";
import { inWords } from "../words/print.ts";
import { percent, placeOf, valueOfReading } from "../words/quantities.ts";
import { FootSwitch } from "./FootSwitch.tsx";
import { Keypad } from "./Keypad.tsx";
import { say } from "./speech.ts";

interface BenchViewProps {
  readonly line: ReadingLine;
  readonly streaming: Streaming;
  readonly onLeave: () => void;
}

/** For both hands on the probes: where to probe, what is typed or heard, and what leads, to be read from two metres. */
export function BenchView({ line, streaming, onLeave }: BenchViewProps) {
  const { steps, field, typed, type, record, questions, accept, ranked, current, putOff } = line;
  const { state } = useDesk();
  const advice = useAdvice(line.point, line.known);
  const [keys, setKeys] = useOnDevice("benchKeypad", matchMedia("(pointer: coarse)").matches ? "on" : "off");
  const first = steps?.[0] ?? null;
  const { isOpen, source, recordNow } = streaming;
  const onPress = useCallback(() => {
    if (source !== "none" && isOpen && typed === "") recordNow();
    else record();
  }, [source, isOpen, typed, recordNow, record]);
  useEffect(() => field.current?.focus(), [field]);
  const how = first && measurementWords(first.measurement);
  return (
    <div className="flex flex-col gap-3">
      <h1 className="sr-only">{state.job.title}</h1>
      <Tools line={line} onPress={onPress} onLeave={onLeave} keys={keys} onKeys={setKeys} />
      <section aria-label="Next" className="flex flex-wrap items-baseline gap-x-5">
        <span className="text-3xl lg:text-4xl">{how ? how.how : steps ? "nothing more tells" : "…"}</span>
        <strong className="text-5xl text-copper lg:text-8xl">{how?.where}</strong>
      </section>
      {advice && (
        <p className="text-2xl lg:text-4xl">
          {dialWords(advice.meter, advice.quantity, advice.range)} · <strong className="text-wrong">red</strong>{" "}
          {leadWords(advice.red.at)} · <strong>black</strong> {leadWords(advice.black.at)}
        </p>
      )}
      {line.healthy && <p className="text-2xl text-faint lg:text-3xl">healthy {line.healthy}</p>}
      <form
        onSubmit={(event) => {
          event.preventDefault();
          record();
        }}
        className="rounded-xl border-2 border-copper bg-sheet px-4 py-1 has-[input:focus-visible]:outline-2 has-[input:focus-visible]:outline-copper"
      >
        <input
          ref={field}
          value={typed}
          onChange={(e) => type(e.target.value)}
          onKeyDown={(e) => {
            if (onPadKey(e, line, advice)) e.preventDefault();
          }}
          aria-label="Reading"
          data-line="reading"
          inputMode={keys === "on" ? "none" : undefined}
          autoComplete="off"
          autoCapitalize="off"
          spellCheck={false}
          placeholder={inWords("7.42")}
          className="w-full bg-transparent text-5xl font-bold placeholder:font-normal placeholder:text-faint/60 focus:outline-none lg:text-7xl"
        />
      </form>
      {line.understood.kind !== "empty" && (
        <div className="text-3xl">
          <Echo line={line} onTake={type} />
        </div>
      )}
      <Questions questions={questions} onAccept={accept} isLarge />
      {keys === "on" && (
        <Keypad
          typed={typed}
          onType={type}
          onOver={() => type(overRange(advice))}
          onSkip={() => first && putOff(first.key, "later")}
          onRecord={record}
        />
      )}
      <LiveMeter streaming={streaming} isLarge />
      {current && (current.isBegun || line.point?.quantity === "current") && (
        <div className="text-2xl">
          <CurrentStepList steps={current} advice={advice} />
        </div>
      )}
      <Leading line={line} isOld={!ranked.isCurrent} />
      <Cautions
        place="coach"
        doing={advice ? doingAt(line.point, line.known, advice) : undefined}
        className="text-2xl"
      />
    </div>
  );
}

/** What leads, and what was read last. */
function Leading({ line: { ranked }, isOld }: { line: ReadingLine; isOld: boolean }) {
  const { drawn, readings } = useDesk();
  const { ranking } = ranked;
  const top = drawn && ranking?.kind === "ranking" ? repairRows(ranking, drawn.network)[0] : null;
  const last = readings[readings.length - 1];
  return (
    <>
      {top && (
        <p aria-busy={isOld} className="flex flex-wrap items-baseline gap-x-5">
          <strong className="text-4xl lg:text-5xl">{top.modes[0].name}</strong>
          <strong className={`text-5xl lg:text-7xl ${suspicionClass(top.probability).text}`}>
            {percent(top.probability)}
          </strong>
        </p>
      )}
      {last && (
        <p className="text-2xl text-faint lg:text-3xl">
          {readings.length}: {placeOf(last.reading)} {valueOfReading(last.reading)}
        </p>
      )}
    </>
  );
}

interface ToolsProps {
  readonly line: ReadingLine;
  readonly onPress: () => void;
  readonly onLeave: () => void;
  readonly keys: string;
  readonly onKeys: (keys: string) => void;
}

const TOOL = "flex items-center gap-2 rounded-lg border border-rule px-3 py-1.5 hover:bg-band";

function Tools({ line, onPress, onLeave, keys, onKeys }: ToolsProps) {
  const [voice, setVoice] = useOnDevice("voice", "off");
  const words = useWords(line);
  const said = useRef("");
  useEffect(() => {
    if (voice === "on" && words !== "" && words !== said.current) say(words);
    // Asked to speak, it says at once where things stand.
    said.current = voice === "on" ? words : "";
  }, [voice, words]);
  const full = () => {
    if (document.fullscreenElement) void document.exitFullscreen();
    else void document.documentElement.requestFullscreen?.().catch(() => {});
  };
  return (
    <div className="flex flex-wrap items-center gap-2">
      <button type="button" className={TOOL} onClick={onLeave}>
        <X size={18} aria-hidden /> Leave
      </button>
      <button type="button" className={`${TOOL} hidden lg:flex`} onClick={full}>
        <Maximize size={18} aria-hidden /> Full screen
      </button>
      <button
        type="button"
        className={TOOL}
        aria-pressed={voice === "on"}
        onClick={() => setVoice(voice === "on" ? "off" : "on")}
      >
        {voice === "on" ? <Volume2 size={18} aria-hidden /> : <VolumeX size={18} aria-hidden />}
        {voice === "on" ? "Speaks" : "Silent"}
      </button>
      <button
        type="button"
        className={TOOL}
        aria-pressed={keys === "on"}
        onClick={() => onKeys(keys === "on" ? "off" : "on")}
      >
        Keypad
      </button>
      <FootSwitch onPress={onPress} />
    </div>
  );
}

/** What is said aloud: what leads after the last reading, and where to probe next. */
function useWords({ ranked, steps }: ReadingLine): string {
  const { drawn, readings } = useDesk();
  const { ranking, isCurrent, isTyped } = ranked;
  if (!drawn || !isCurrent || isTyped || ranking?.kind !== "ranking" || !steps) return "";
  const top = repairRows(ranking, drawn.network)[0];
  const next = steps[0] && measurementWords(steps[0].measurement);
  const last = readings[readings.length - 1];
  const read = last ? `${placeOf(last.reading)} ${valueOfReading(last.reading)}. ` : "";
  const leads = readings.length > 0 && top ? `${top.modes[0].name}, ${percent(top.probability)}. ` : "";
  return `${read}${leads}${next ? `Next: ${next.how} ${next.where}.` : ""}`;
}
