/** One line that can be typed, and what it means. */
export interface Phrase {
  readonly line: string;
  readonly means: string;
}

/** Lines of one of the languages, under what one wants to do with them. */
export interface PhraseGroup {
  readonly title: string;
  readonly phrases: readonly Phrase[];
}

/** The circuit that the examples of readings, changes and faults are about. */
export const EXAMPLE_CIRCUIT = `title Pump controller
BT1 24V 2%: F1 1A + S1 + [A] R1 220 5% + [B] (R2 1k 5% | LA1 12V 2W + [C] K1 330) + [D] R3 100
[A] RV1 10k wiper=[E] [D]
[A] R4 2k2 + [L] LED1 green [0]`;

const group = (title: string, phrases: Readonly<Record<string, string>>): PhraseGroup => ({
  title,
  phrases: Object.entries(phrases).map(([line, means]) => ({ line, means })),
});

/** What the reading line understands. */
export const READING_LINES: readonly PhraseGroup[] = [
  group("A meter’s figure", {
    "7.42": "at the point that is proposed, in its unit",
    "B 7.42": "volts at B, black lead on the reference",
    "B-D 3.1": "volts, red on B and black on D; “B to D 3.1” and “B D 3.1” too",
    "R2 4.1V": "volts across R2: a part needs its unit",
    "R2 12mA": "the current through R2, in the direction it is walked",
    "BT1 0.3A": "out of the plus of a supply",
    "B-D 470ohm": "ohms with the power off, in circuit",
    "R2 470R": "ohms across R2, in circuit",
    "R2 lifted 470R": "ohms of R2 alone, one lead lifted",
    "R2 lifted 470R null=0.4": "the same with 0.4 Ω of leads taken off",
    "leads 0.3ohm": "leads held together: taken off every later ohms reading",
    "R2 OL": "ohms over the top of the range",
    "B OL @20V": "volts over the top of the 20 V range",
    "B-D beep": "the buzzer sounds; “nobeep”: it stays silent",
    "LED1 diode 1.72": "the meter’s diode test across it, power off, red on the anode",
    "LED1 diode rev OL": "the same with the leads the other way round: it blocks",
    "LED1 lifted diode 1.75": "with one lead lifted: nothing beside it misleads",
    "B 7.3..7.5": "the display wanders between the two",
    "B 7.42 @20V": "read on the 20 V range",
    "BT1 unloaded 24.6V": "the supply with its load disconnected",
    "B 7.42 # warm, after ten minutes": "a note behind the figure",
    "-": "takes back what was recorded last",
  }),
  group("What the eye, the ear or a finger finds", {
    "LA1 dark": "a lamp: also dim, lit, bright, blown, intact; “off”, “on”, “no light”",
    "LA1 alone lit": "held directly to the supply",
    "F1 blown": "a fuse; or “F1 looks intact”, “F1 ok”",
    "K1 silent": "a relay or a motor; or pulls, runs, “clicks”, “does nothing”",
    "R1 burnt": "any part: burnt, hot, loose",
    "LA1 works": "it does what it is there for",
  }),
  group("The circuit changes from here on", {
    "R2 swapped": "a known-good part is in its place",
    "LA1 swapped, still dark": "the change and what was seen after it",
    "F1 swapped, no light": "for any part, of the one part that shows it",
    "F1 swapped, K1 silent": "or of the part that is named",
    "S1 open": "a switch is moved; “closed”, “off”, “on” too",
    "R2 lifted": "one lead is off; “R2 restored” ends it",
    "R2 now 2k": "changed on purpose; earlier readings keep their circuit",
    "C-D now 1k": "a part added between two points",
    "R2 out": "taken out",
    "BT1 off": "a supply is switched off; “BT1 on” again",
    "B-D metered": "a meter stays connected there",
    "A-D cleared": "what joined two points is cleared away",
  }),
  group("What to read next", {
    "B?": "volts at B are proposed: a bare number goes there",
    "R1 current": "amperes through R1, step by step",
    "R2 ohms": "ohms across R2, power off",
    "LA1 look": "a look at LA1",
  }),
];

/** Sums of what was read, which the same line answers. */
export const SUM_LINES: readonly Phrase[] = [
  { line: "R1 + R2 + R3 = BT1?", means: "do the drops that were read make up the supply?" },
];

/** What a trail is written of. */
export const TRAIL_LINES: readonly PhraseGroup[] = [
  group("Walk the circuit", {
    "BT1 24V: F1 1A + R1 220 + R2 1k": "out of the supply’s plus, through each part, back to its minus",
    "BT1 9V: R1 100 + (R2 220 | R3 470 + R4 10) + R5 47": "a fork: branches in ( ), parted by |",
    "BT1 9V: R1 100 + [B] R2 220": "[B] names the point where one probes",
    "BT1 9V: R1 100 + [B] R2 220\n[B] R9 10k [0]":
      "what fits in no walk is a line of its own between two points; 0 is the minus",
    "BT1 9V: [A] R1 100 + [B] R2 220 + [C] R3 47\nBT2 5V: [A] R8 10 + [B]": "a second supply walks its own loop",
    "BT1 12V: R1 1 + [A] R3 10\n[0] BT2 9V + R2 1 [A]": "a second source: from its minus through it to where it joins",
    "BATTERY 12V: F_MAIN 3A + LEFT_LAMP 12V 5W + H-2 kind=lamp 12V 2W":
      "any one word names a part: what it is called tells its kind, or kind= does",
    "[T1] R1 47 + [T2] R2 82 [T3]": "no supply: a network for the ohmmeter",
  }),
  group("Behind a part", {
    "BT1 24V 2% ri=0.3: R1 4k7 5% 0.5W": "value, tolerance, power; ohms inside the supply",
    "PS1 12V limit=2A: R1 100": "a supply that holds its current at 2 A",
    "BT1 12V: F1 1A + LA1 12V 5W": "a fuse by its amperes, a lamp or load by its rating; “12V/5W”, “12V 0.4A” too",
    "BT1 12V ideal: AM1 ideal + R1 7 + (R2 10 | VM1)":
      "ideal: a supply, contact, wire or drawn meter that drops or takes nothing; else a drawn meter is as the one in hand",
    "BT1 12V: S1 open + K1 330": "a switch as it stands; closed where nothing is written",
    "BT1 12V: R1 ? + R2 100": "a value that is not known",
    "BT1 12V: RV1 10k at=40% wiper=[W] + R2 100\n[W] R3 1k [0]": "a potentiometer with its wiper",
    "BT1 12V: D1 1N4007 + R1 470 + LED1 red": "diodes as they are walked, anode first; a type’s name is a note",
    "BT1 12V: R1 220 + ZD1 5V1 rev": "rev turns one round: a Zener that holds 5.1 V",
    "BT1 5V: R1 100 + (LED1 blue 20mA | LED2 2.1V | D2 schottky)": "by what it is made of, or its forward volts",
    "BT1 24V: [P] S1 + (K1 24V 2W | D1 rev)\n[P] K1.no + M1 24V 10W [0]":
      "K1.no closes when coil K1 pulls in, K1.nc opens; pulls=70% drops=20% behind K1 say when",
    "BT1 12V: BR1 plus=[P] minus=[M]\n[P] R1 100 + LED1 red [M]":
      "a bridge rectifier, walked from one ~ lead to the other; its diodes are BR1.1 and BR1.2 to plus, BR1.3 and BR1.4 from minus",
    "BT1 12V: R1 1k + (C1 100u 25V | R2 1k)": "a capacitor: charged, it lets nothing through",
    "BT1 12V: RT1 10 hot=1 + LA1 12V 20W": "a thermistor: cold, and while it works",
    'BT1 12V: R1 100 note="under the coil"': "a note",
    "PS1 24V ac: HR1 24V 60W": "alternating, or mains: for the cautions",
    "BT1 12V: R1 2R2 + R2 0R47 + R3 1M5 + R4 0.33k": "ohms as they are printed on parts",
  }),
  group("About the whole", {
    "title Vent drive\nBT1 12V: R1 100": "its name",
    "note measured cold\nBT1 12V: R1 100": "a remark",
    "BT1 12V: [A] R1 100 + [B] R2 10\nreference B": "the point that volts are read against",
    "BT1 12V: R1 100 + [C] R2 47\npoint C TB2-4, blue wire": "what a point is called where one probes it",
    "# from the label inside the lid\nBT1 12V: R1 100": "# begins a comment",
  }),
];

/** Faults as What-if takes them, and `hound solve --fault`. */
export const FAULT_LINES: readonly PhraseGroup[] = [
  group("A part", {
    "R2 open": "no current passes; also blown, burnt out, broken",
    "R2 short": "no resistance left",
    "R2 1k→2k": "its value has become 2 kΩ; “R2 = 2k” too",
    "R2 +20%": "a fifth more than is written",
    "F1 +5ohm": "five ohms in series: a bad contact",
    "S1 stuck open": "or stuck closed, whatever the lever says",
    "BT1 18V": "a supply that gives less",
    "BT1 weak 4ohm": "four ohms inside the supply",
    "BT1 dead": "it delivers nothing",
    "RV1 wiper open": "the wiper lost its track",
    "LED1 leaky 10k": "ten kilohms lead beside it",
    "LED1 2.4V": "it drops 2.4 V",
    "LED1 reversed": "fitted the wrong way round",
  }),
  group("Between points", {
    "B~D": "B and D are joined; “B to D bridged” too",
    "R2 open; B~D": "two faults at once",
  }),
];
