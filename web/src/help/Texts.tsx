import { helpKinds } from "@hound/core/help";
import { FORMATS } from "@hound/core/notation";
import { TRAPS, type Trap, UNSAFE } from "@hound/core/practice";
import { CAUSES } from "@hound/core/safety";
import { Link } from "react-router";
import bench from "../../../docs/screenshots/readings.png";
import { LETTER_KEYS, type LetterAction, useLetterKeys } from "../app/letterKeys.ts";
import { SHORTCUTS } from "../app/shortcutTable.ts";
import { STAGE_NAMES, STAGES, type Stage } from "../app/stages.ts";
import { modeWords } from "../words/faults.ts";

const DONE_IN: Readonly<Record<Stage, string>> = {
  circuit: "type the circuit, or paste a parts table; the board is drawn beside it",
  expected: "what every point should read in a healthy circuit, within which limits",
  readings: "probe what is proposed, type the figure, Enter: the ranking follows each reading",
  whatif: "imagine a fault and see what would be read",
  suspects: "what most probably explains the readings, and how to prove it",
  repair: "replace, measure again, write up; a closed job teaches the habits",
};

/** From a new job to the first suspect. */
export function Start() {
  return (
    <>
      <p>
        A job goes through six stages, in any order you like. Begin with{" "}
        <Link to="/jobs" className="font-bold underline">
          New job
        </Link>
        , or open one of the jobs there.
      </p>
      <ol className="list-decimal pl-6">
        {STAGE_NAMES.map((stage) => (
          <li key={stage} className="py-0.5">
            <strong>{STAGES[stage]}</strong>: {DONE_IN[stage]}
          </li>
        ))}
      </ol>
      <figure>
        <img
          src={bench}
          alt="Stage Readings: where the job stands, the line with its proposal, three suspects, the last readings; the board beside them"
          width={1280}
          height={800}
          loading="lazy"
          className="h-auto max-w-full rounded-lg border border-rule"
        />
        <figcaption className="text-faint">
          Stage Readings: where the job stands, the line with its proposal, three suspects, the last readings.
        </figcaption>
      </figure>
    </>
  );
}

/** Every kind of part: letters, what one sees, how it fails. */
export function Parts() {
  return (
    <>
      <p>
        The letters before the number say what a part is. How often a kind fails is counted beside a resistor; closed
        jobs change it, and Workshop shows what this workshop has learned.
      </p>
      <div className="overflow-x-auto">
        <table className="w-full text-left">
          <thead>
            <tr className="border-b border-ink">
              {["Letters", "Kind", "What one can see and type", "Fails", "How"].map((head) => (
                <th key={head} className="px-2 py-1">
                  {head}
                </th>
              ))}
            </tr>
          </thead>
          <tbody>
            {helpKinds().map(({ kind, word, letters, seen, rate, modes }) => (
              <tr key={kind} className="border-b border-rule align-top">
                <td className="px-2 py-1 font-mono">{letters.join(" ")}</td>
                <th scope="row" className="px-2 py-1">
                  {word}
                </th>
                <td className="px-2 py-1">{seen.join(", ")}</td>
                <td className="px-2 py-1 whitespace-nowrap tabular-nums">{rate === 0 ? "–" : `${rate} ×`}</td>
                <td className="px-2 py-1">
                  {modes.map((m) => `${modeWords(m.mode)} ${Math.round(100 * m.share)}\u00a0%`).join(", ")}
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      </div>
    </>
  );
}

/** What a percentage says, and what it does not. */
export function Percentages() {
  return (
    <ul className="flex list-disc flex-col gap-2 pl-6">
      <li>
        <strong>Beside a suspect</strong>: of a hundred circuits like this one with just these readings, in about so
        many this is what is wrong. It weighs how often such a part fails against how well its fault explains the
        readings.
      </li>
      <li>
        <strong>Beside a repair</strong>: how probable it is that this has to be changed, whatever else is wrong. Two
        faults of one part count together.
      </li>
      <li>
        <strong>Settled</strong> is said from 95 % of one repair on, and only where the readings speak at least twenty
        times more for it than for a healthy circuit. What is merely frequent settles nothing.
      </li>
      <li>
        <strong>Beside a reading</strong>: how probable it is that this one was mis-taken: leads swapped, a wrong range,
        no contact.
      </li>
      <li>
        It does <strong>not</strong> say how bad a fault is, how soon something fails, or that anything is without
        danger. It knows only what is drawn and typed: a part that is missing in the drawing is never a suspect, but a
        joint of a part that is drawn counts with it.
      </li>
      <li>
        “Nothing wrong” stays in the list. <strong>“The readings agree with healthy”</strong> means that nothing read
        speaks for a fault: what cannot be seen at this load is named with what would show it.
      </li>
    </ul>
  );
}

/** What a hunt is, and what goes wrong in one. */
export function Practice() {
  return (
    <>
      <p>
        On the{" "}
        <Link to="/practice" className="font-bold underline">
          practice bench
        </Link>{" "}
        a fault is hidden in a circuit. Turn the dial, choose the socket, hold red and black to two points, write the
        reading down: each act costs its minutes. Then name the fault, or say that nothing is wrong. A wrong name costs
        what swapping the part costs. The marks show what each reading told, what would have told more there, and the
        best way in the same circuit.
      </p>
      <p>
        What is hidden stays on the server until it is named, so hunts need the server. Exercises on paper that are
        drawn work without it.
      </p>
      <h3 className="font-bold">What the bench says when something goes wrong</h3>
      <ul>
        {Object.entries(TRAPS).map(([trap, text]) => (
          <li key={trap} className="flex gap-3 border-t border-rule py-1 first:border-0">
            <span className={`w-20 shrink-0 ${UNSAFE.has(trap as Trap) ? "font-bold text-wrong" : "text-doubt"}`}>
              {UNSAFE.has(trap as Trap) ? "Unsafe" : "Slip"}
            </span>
            {text}
          </li>
        ))}
      </ul>
    </>
  );
}

/** Every key. */
export function Keys() {
  const { isOff, keys } = useLetterKeys();
  const letters = (Object.keys(LETTER_KEYS) as LetterAction[]).map((action) => ({
    keys: keys[action] ?? LETTER_KEYS[action].key,
    does: LETTER_KEYS[action].does,
  }));
  return (
    <>
      <p>Keys of one letter work while no field has the focus, and can be changed in the list that “?” shows.</p>
      <dl className="gap-x-10 lg:columns-2">
        {[...(isOff ? [] : letters), ...SHORTCUTS].map(({ keys: pressed, does }) => (
          <div key={pressed + does} className="flex break-inside-avoid gap-3 border-t border-rule py-1">
            <dt className="w-36 shrink-0 font-mono">{pressed}</dt>
            <dd className="text-faint">{does}</dd>
          </div>
        ))}
      </dl>
    </>
  );
}

/** What sets each caution off. */
export function Safety() {
  return (
    <>
      <p>
        Local codes and licensed practice come first. The cautions stand where the work is done; that none is shown does
        not mean that there is no danger.
      </p>
      <ul>
        {CAUSES.map(({ id, when, isDanger }) => (
          <li key={id} className="flex gap-3 border-t border-rule py-1 first:border-0">
            <span className={`w-20 shrink-0 ${isDanger ? "font-bold text-wrong" : "text-doubt"}`}>
              {isDanger ? "Danger" : "Care"}
            </span>
            {when}
          </li>
        ))}
      </ul>
    </>
  );
}

const COMMANDS = {
  "hound rank CASE.json": "the suspects, one object a line",
  "hound next CASE.json": "what to measure next, best first",
  "hound solve CASE.json --fault R3=open": "voltages, currents and powers, healthy or with faults",
  "hound convert IN OUT": "from one format to another, by the ends of the names",
} as const;

/** What can be taken in and out. */
export function Files() {
  return (
    <>
      <p>
        Paste or drop any of these in stage Circuit, or with “Paste or import” in stage Readings; the format is told
        from what is in it: {Object.values(FORMATS).join(", ")}. A job goes out as a case file from its menu “More”, a
        whole workshop from Workshop.
      </p>
      <h3 className="font-bold">On the command line, with npm run -s hound --</h3>
      <dl>
        {Object.entries(COMMANDS).map(([command, does]) => (
          <div key={command} className="border-t border-rule py-1 first:border-0">
            <dt className="font-mono">{command}</dt>
            <dd className="text-faint">{does}</dd>
          </div>
        ))}
      </dl>
    </>
  );
}
