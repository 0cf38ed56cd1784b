import { helpKinds } from "@hound/core/help";
import { FORMATS } from "@hound/core/notation";
import { TRAPS } from "@hound/core/practice";
import { CAUSES } from "@hound/core/safety";
import { LETTER_KEYS } from "../app/letterKeys.ts";
import { SHORTCUTS } from "../app/shortcutTable.ts";
import { modeWords } from "../words/faults.ts";
import { LINE_TOPICS, type LineTopic, TOPICS, type Topic } from "./topics.ts";

/** One row of help that can be found. */
export interface HelpRow {
  readonly topic: Topic;
  /** What is typed or pressed; empty where it is about something else. */
  readonly head: string;
  readonly text: string;
}

/** What each topic without a table speaks of. */
const ABOUT: Readonly<Partial<Record<Topic, string>>> = {
  start: "new job, six stages, board, beginning, tour",
  figures:
    "percent, probability, settled, healthy, suspect, repair, mis-taken, limits, tolerance, what it does not say",
  practice: "hunt, hidden fault, exercise, paper, learn, train, marks, teacher, set, results",
};

/** Every row, of the same tables that the topics show. */
function rows(): HelpRow[] {
  const lines = (Object.keys(LINE_TOPICS) as LineTopic[]).flatMap((topic) =>
    LINE_TOPICS[topic].groups.flatMap((group) =>
      group.phrases.map(({ line, means }): HelpRow => ({ topic, head: line, text: means })),
    ),
  );
  const parts = helpKinds().map(({ word, letters, seen, modes }): HelpRow => {
    const fails = modes.map((m) => modeWords(m.mode)).join(", ");
    return { topic: "parts", head: letters.join(" "), text: `${word}: ${seen.join(", ")}; fails ${fails}` };
  });
  const keys = [...Object.values(LETTER_KEYS).map(({ key, does }) => ({ keys: key, does })), ...SHORTCUTS].map(
    ({ keys: head, does }): HelpRow => ({ topic: "keys", head, text: does }),
  );
  const safety = CAUSES.map(({ when }): HelpRow => ({ topic: "safety", head: "", text: when }));
  const traps = Object.values(TRAPS).map((text): HelpRow => ({ topic: "practice", head: "", text }));
  const files = Object.values(FORMATS).map((text): HelpRow => ({ topic: "files", head: "", text }));
  const about = (Object.keys(ABOUT) as Topic[]).map(
    (topic): HelpRow => ({ topic, head: "", text: ABOUT[topic] ?? "" }),
  );
  const titles = (Object.keys(TOPICS) as Topic[]).map((topic): HelpRow => ({ topic, head: "", text: TOPICS[topic] }));
  return [...titles, ...lines, ...parts, ...keys, ...safety, ...traps, ...files, ...about];
}

/** Rows that hold every word that is searched, regardless of case. */
export function found(search: string): HelpRow[] {
  const words = search.toLowerCase().split(/\s+/).filter(Boolean);
  return rows().filter(({ topic, head, text }) => {
    const all = `${TOPICS[topic]} ${head} ${text}`.toLowerCase();
    return words.every((word) => all.includes(word));
  });
}
