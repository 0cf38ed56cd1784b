import type { Advice } from "@hound/core/coach";
import { Maximize, SlidersHorizontal, Volume2, VolumeX, X } from "lucide-react";
import { useCallback, useEffect, useRef, useState } from "react";
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
import { nameInBrief, repairRows, suspicionClass } from "../session/suspectRows.ts";
import { useAdvice } from "../session/useAdvice.ts";
import type { ReadingLine } from "../session/useReadingLine.ts";
import { benchLeadWords, dialWords, STEP_WORDS } from "../words/coach.ts";
import { measurementWords } from "../words/measurements.ts";
import { inWords } from "../words/print.ts";
import { percent, placeOf, valueOfReading } from "../words/quantities.ts";
import { repairWords } from "../words/repair.ts";
import { FootSwitch } from "./FootSwitch.tsx";
import { Keypad } from "./Keypad.tsx";
import { say } from "./speech.ts";

interface BenchViewProps {
  readonly line: ReadingLine;
  readonly streaming: Streaming;
  readonly onLeave: () => void;
}

/** Letters by the window's height: what to do and what leads are read from two metres, at 52 px and more. */
const LETTERS = {
  words: "text-4xl leading-none sm:text-[max(52px,min(8vh,6vw))]",
  place: "text-6xl leading-none sm:text-[max(64px,min(15vh,14vw))]",
  over: "text-5xl leading-none sm:text-[max(64px,min(24vh,17vw))]",
  blocks: "text-3xl leading-tight sm:text-[max(40px,min(8vh,5vw))]",
  value: "text-5xl sm:text-[max(52px,min(11vh,9vw))]",
  said: "text-2xl leading-tight sm:text-[max(32px,min(4vh,3vw))]",
} as const;

/**
 * For both hands on the probes: what to do and where, how the meter is set, what is typed or heard, and what leads, or that
 * the job is settled. All of the window is for that; what is set once is behind one button in the corner.
 */
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
  const verdict = typed === "" ? ranked.judgement?.verdict : undefined;
  return (
    <div className="flex min-h-full flex-col gap-[1.5vh] pt-10 sm:pt-0">
      <h1 className="sr-only">{state.job.title}</h1>
      <SetUp line={line} streaming={streaming} onPress={onPress} onLeave={onLeave} keys={keys} onKeys={setKeys} />
      {verdict?.kind === "settled" && (
        <section aria-label="Settled" className="text-suspect">
          <p className={`font-bold tracking-wide uppercase ${LETTERS.over}`}>Settled</p>
          <p className={`font-bold ${LETTERS.words}`}>{repairWords(verdict.repair, verdict.turned)}</p>
        </section>
      )}
      <Next line={line} isSettled={verdict?.kind === "settled"} />
      {advice && <Setting advice={advice} />}
      <form
        onSubmit={(event) => {
          event.preventDefault();
          record();
        }}
        className="rounded-xl border-2 border-copper bg-sheet px-4 has-[input:focus-visible]:outline-2 has-[input:focus-visible]:outline-copper"
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
          className={`w-full bg-transparent font-bold placeholder:font-normal placeholder:text-faint/60 focus:outline-none ${LETTERS.value}`}
        />
      </form>
      {/* Right below the line: what is said of it moves no key away from under a thumb. */}
      {keys === "on" && (
        <Keypad
          typed={typed}
          onType={type}
          onOver={() => type(overRange(advice))}
          onSkip={() => first && putOff(first.key, "later")}
          onRecord={record}
        />
      )}
      <div className={`min-h-[1.25em] ${LETTERS.said}`}>
        {line.understood.kind !== "empty" ? (
          <Echo line={line} onTake={type} />
        ) : (
          line.healthy && <p className="text-faint">healthy {line.healthy}</p>
        )}
      </div>
      <Questions questions={questions} onAccept={accept} isLarge isAsked={line.isAsked} />
      {source !== "none" && <LiveMeter streaming={streaming} isLarge />}
      {current && (current.isBegun || line.point?.quantity === "current") && (
        <div className="text-2xl">
          <CurrentStepList steps={current} advice={advice} isBrief />
        </div>
      )}
      <Leading line={line} isOld={!ranked.isCurrent} />
      <Cautions
        place="coach"
        doing={advice ? doingAt(line.point, line.known, advice) : undefined}
        className={LETTERS.said}
      />
    </div>
  );
}

/** What to do: of a current in hand its next step, else what is proposed. */
function Next({ line, isSettled }: { line: ReadingLine; isSettled: boolean }) {
  const { steps, current } = line;
  const first = steps?.[0] ?? null;
  const how = first && measurementWords(first.measurement);
  const step = current?.isBegun && current.next !== "read" ? current.next : null;
  if (current && step)
    return (
      <section aria-label="Next">
        <p className={`font-bold ${LETTERS.words}`}>{STEP_WORDS[step](current.through, current.at, null)}</p>
      </section>
    );
  return (
    <section
      aria-label="Next"
      className={`flex flex-wrap items-baseline gap-x-[2vw] ${isSettled ? `text-faint ${LETTERS.said}` : LETTERS.words}`}
    >
      <span>
        {isSettled && how && "At leisure: "}
        {how ? how.how : steps ? "Nothing more has to be read" : "…"}
      </span>
      <strong className={`break-words ${isSettled ? "" : `text-copper ${LETTERS.place}`}`}>{how?.where}</strong>
    </section>
  );
}

/** How the meter is set, and where its leads go: three blocks, red and black as the leads are, with their names. */
function Setting({ advice }: { advice: Advice }) {
  const { drawn } = useDesk();
  const block = "flex min-w-0 grow basis-40 flex-col rounded-xl border-2 px-4 py-[0.8vh]";
  const words = (at: Advice["red"]["at"]) => benchLeadWords(at, drawn?.circuit ?? null);
  return (
    <div className="flex flex-wrap gap-3">
      <p className={`${block} border-rule bg-sheet`}>
        <span className={`text-faint ${LETTERS.said}`}>set to</span>
        <strong className={LETTERS.blocks}>
          {advice.isDiodeTest ? "diode test" : dialWords(advice.meter, advice.quantity, advice.range)}
        </strong>
      </p>
      <p className={`${block} lead-red`}>
        <span className={LETTERS.said}>red, in {advice.red.socket}</span>
        <strong className={`break-words ${LETTERS.blocks}`}>{words(advice.red.at)}</strong>
      </p>
      <p className={`${block} lead-black`}>
        <span className={LETTERS.said}>black, in {advice.black.socket}</span>
        <strong className={`break-words ${LETTERS.blocks}`}>{words(advice.black.at)}</strong>
      </p>
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
    <div className="mt-auto">
      {top && (
        <p aria-busy={isOld} className={`flex flex-wrap items-baseline gap-x-[2vw] ${LETTERS.words}`}>
          <strong>{drawn && nameInBrief(top, drawn.network)}</strong>
          <strong className={suspicionClass(top.probability).text}>{percent(top.probability)}</strong>
        </p>
      )}
      {last && (
        <p className={`text-faint ${LETTERS.said}`}>
          {readings.length}: {placeOf(last.reading)} {valueOfReading(last.reading)}
        </p>
      )}
    </div>
  );
}

interface SetUpProps {
  readonly line: ReadingLine;
  readonly streaming: Streaming;
  readonly onPress: () => void;
  readonly onLeave: () => void;
  readonly keys: string;
  readonly onKeys: (keys: string) => void;
}

const TOOL = "flex items-center gap-2 rounded-lg border border-rule px-3 py-1.5 hover:bg-band";

/** What is set once, behind one button; a foot switch is heard whether it is open or not. */
function SetUp({ line, streaming, onPress, onLeave, keys, onKeys }: SetUpProps) {
  const [isOpen, setIsOpen] = useState(false);
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
    <div className="absolute top-2 right-4 z-10 flex flex-col items-end gap-2">
      <div className="flex gap-2">
        <button type="button" className={`${TOOL} bg-paper`} aria-expanded={isOpen} onClick={() => setIsOpen(!isOpen)}>
          <SlidersHorizontal size={18} aria-hidden /> Set-up
        </button>
        <button type="button" className={`${TOOL} bg-paper`} onClick={onLeave}>
          <X size={18} aria-hidden /> Leave
        </button>
      </div>
      <div
        hidden={!isOpen}
        className="flex flex-col gap-2 rounded-xl border border-rule bg-sheet p-3 [&[hidden]]:hidden"
      >
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
        {streaming.source === "none" && <LiveMeter streaming={streaming} />}
      </div>
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
