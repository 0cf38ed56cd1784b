import type { RATED_LAWS } from "./elements.ts";
import type { Material } from "./materials.ts";
import type { Mode } from "./modes.ts";

/** What is written of a part, hence its shape in the schema. */
export type Form = "resistance" | "track" | "ohms" | "lever" | "source" | "junction" | "bridge" | "capacitance";

/** Shares of ways to fail; they add up to one. */
type Modes = Readonly<Partial<Record<Mode, number>>>;

/** What all is said of a kind, once. */
export interface KindRow {
  /** Letters of its designators; those in `also` are met on other people's drawings: they say what is probably meant, and are asked about. */
  readonly letters: readonly [string, ...string[]];
  readonly also: readonly string[];
  /** What it is called, here and in other people's lists. */
  readonly word: string;
  readonly called: readonly string[];
  readonly form: Form;
  /** Its branches, of a part that has several: what each is called behind its designator. The first stands for the part. */
  readonly sections?: readonly [string, ...string[]];
  /** What has to be written down. */
  readonly needs: "ohms" | "ohmsOrRating" | "volts" | "leads" | "nothing";
  /** Of two standard deviations, as a fraction, where none is written. */
  readonly tolerance: number;
  /** Ohms where none are written: of a good contact, of a fuse by its rated current, of a meter by its letters. */
  readonly usual?: "contact" | "fuse" | "meter";
  /** What it is there for: to take power, to lead to what does, to give it, to read it, or to have its value. */
  readonly role: "consumer" | "way" | "source" | "meter" | "value";
  /** Its law where it is written by volts and watts. */
  readonly byRating?: keyof typeof RATED_LAWS;
  /** What its junctions are of where nobody wrote it; the volts written of one that breaks down are those at which it does. */
  readonly material?: Material;
  readonly breaksDown?: true;
  /** It closes and opens by the coil of the same name. */
  readonly follows?: true;
  /** Another resistance when nothing flows may be written of it. */
  readonly warms?: true;
  /** It drifts by an added resistance, not by a factor. */
  readonly isContact?: true;
  /** Joined for good: no use to lift or to swap by itself. */
  readonly isFixed?: true;
  /** A current above its rating opens it, as it should. */
  readonly blows?: true;
  /** How often it fails beside the other kinds, and how: the table of model.md, “Fault modes”. */
  readonly rate: number;
  readonly modes: Modes;
  /** What a look at it may find; and what it does when it works. */
  readonly looks?: readonly (
    | "dark"
    | "dim"
    | "lit"
    | "bright"
    | "blown"
    | "intact"
    | "silent"
    | "pulls"
    | "cold"
    | "hot"
  )[];
  readonly works?: "shines" | "pulls" | "warm" | "intact" | "switches";
  /** It matters which way round it lies: the first end is the one at which current enters it. */
  readonly isPolar?: true;
  /** What rating is written of it, and the share of it that may be used at worst for it to last. */
  readonly rating: "power" | "current" | "limit" | "volts";
  readonly used: number;
  /** What it does to a hand that works on it. */
  readonly danger?: "hot" | "winding";
  readonly symbol: string;
}
