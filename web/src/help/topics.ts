import { FAULT_LINES, type PhraseGroup, READING_LINES, SUM_LINES, TRAIL_LINES } from "@hound/core/help";

/** What an example is typed into. */
export type Language = "reading" | "trail" | "fault";

interface LinesTopic {
  readonly title: string;
  readonly lead: string;
  readonly language: Language;
  readonly groups: readonly PhraseGroup[];
}

const [figures, seen, changes, asked] = READING_LINES;

/** Topics of lines that can be typed. */
export const LINE_TOPICS = {
  readings: {
    title: "Type a reading",
    lead: "In stage Readings the line has the focus: point, figure, Enter. A bare figure goes to the point that is proposed.",
    language: "reading",
    groups: [figures],
  },
  seen: {
    title: "Say what you see or change",
    lead: "The same line takes what the eye finds, and what is changed in the circuit. It counts like a reading.",
    language: "reading",
    groups: [seen, changes],
  },
  ask: {
    title: "Ask for a measurement or a sum",
    lead: "What is asked for becomes the proposal: board, meter and range follow, and a bare figure goes there.",
    language: "reading",
    groups: [asked, { title: "Do they add up?", phrases: SUM_LINES }],
  },
  circuit: {
    title: "Type a circuit",
    lead: "Follow it with a finger from the supply’s plus to its minus, and write what comes. The board is drawn as you type.",
    language: "trail",
    groups: TRAIL_LINES,
  },
  suppose: {
    title: "Suppose a fault",
    lead: "In What-if: what would be read if this were wrong? Nothing is recorded by it.",
    language: "fault",
    groups: FAULT_LINES,
  },
} as const satisfies Record<string, LinesTopic>;
export type LineTopic = keyof typeof LINE_TOPICS;

/** All topics, in the order of the list. */
export const TOPICS = {
  start: "The first job",
  readings: LINE_TOPICS.readings.title,
  seen: LINE_TOPICS.seen.title,
  ask: LINE_TOPICS.ask.title,
  circuit: LINE_TOPICS.circuit.title,
  suppose: LINE_TOPICS.suppose.title,
  parts: "Kinds of part, and how they fail",
  figures: "What the percentages mean",
  practice: "Practice",
  keys: "Keys",
  safety: "Safety",
  files: "Files and the command line",
} as const;
export type Topic = keyof typeof TOPICS;
export const isTopic = (name: string | undefined): name is Topic => name !== undefined && name in TOPICS;
