import type { CDPSession, Page } from "@playwright/test";

/** Where a character is on a keyboard: the key's place, and what is held with it. */
interface Key {
  readonly code: string;
  readonly shift?: true;
}

const letters = (places: Readonly<Record<string, string>>) =>
  Object.fromEntries([..."abcdefghijklmnopqrstuvwxyz"].map((c) => [c, { code: places[c] ?? `Key${c.toUpperCase()}` }]));
const digits = (shift: boolean) =>
  Object.fromEntries(
    [..."0123456789"].map((c) => [c, { code: `Digit${c}`, ...(shift ? { shift: true as const } : {}) }]),
  );
const at = (code: string): Key => ({ code });
const up = (code: string): Key => ({ code, shift: true });

/** Keyboards by the places of what a trail and a reading need; what Alt types with a digit on one of them. */
export const LAYOUTS = {
  azerty: {
    keys: {
      ...letters({ a: "KeyQ", q: "KeyA", z: "KeyW", w: "KeyZ", m: "Semicolon" }),
      ...digits(true),
      ",": at("KeyM"),
      ":": at("Period"),
      "!": at("Slash"),
      "=": at("Equal"),
      "+": up("Equal"),
      "(": at("Digit5"),
      ")": at("Minus"),
      "-": at("Digit6"),
      "%": up("Quote"),
      "<": at("IntlBackslash"),
      ">": up("IntlBackslash"),
      "/": up("Period"),
    },
    altDigits: "&é\"'(",
    command: "Control",
  },
  german: {
    keys: {
      ...letters({ y: "KeyZ", z: "KeyY" }),
      ...digits(false),
      ",": at("Comma"),
      ":": up("Period"),
      "!": up("Digit1"),
      "=": up("Digit0"),
      "+": at("BracketRight"),
      "(": up("Digit8"),
      ")": up("Digit9"),
      "-": at("Slash"),
      "%": up("Digit5"),
      "<": at("IntlBackslash"),
      ">": up("IntlBackslash"),
      "/": up("Digit7"),
    },
    altDigits: "12345",
    command: "Control",
  },
  mac: {
    keys: {
      ...letters({}),
      ...digits(false),
      ",": at("Comma"),
      ":": up("Semicolon"),
      "!": up("Digit1"),
      "=": at("Equal"),
      "+": up("Equal"),
      "(": up("Digit9"),
      ")": up("Digit0"),
      "-": at("Minus"),
      "%": up("Digit5"),
      "<": up("Comma"),
      ">": up("Period"),
      "/": at("Slash"),
    },
    altDigits: "¡™£¢∞",
    command: "Meta",
  },
} as const;
export type LayoutName = keyof typeof LAYOUTS;

const MODIFIERS = { Alt: 1, Control: 2, Meta: 4, Shift: 8 } as const;
type Modifier = keyof typeof MODIFIERS;

/** Types as the keyboard of a layout does: keys by their place, characters by what the layout has there. */
export class Keyboard {
  private constructor(
    private readonly client: CDPSession,
    readonly name: LayoutName,
  ) {}

  static async on(page: Page, name: LayoutName): Promise<Keyboard> {
    return new Keyboard(await page.context().newCDPSession(page), name);
  }

  async type(text: string) {
    for (const character of text) {
      if (character === " ") await this.send(" ", "Space", [], " ");
      else await this.character(character);
    }
  }

  /** Alt and a digit by its place, whatever character that makes. */
  async altDigit(digit: number) {
    await this.send(LAYOUTS[this.name].altDigits[digit - 1], `Digit${digit}`, ["Alt"]);
  }

  /** Ctrl and Alt together, as AltGr arrives: it types a character. */
  async altGr(character: string, code: string) {
    await this.send(character, code, ["Control", "Alt"], character);
  }

  /** Ctrl, or Cmd where that is the custom, with the key that has this letter. */
  async command(letter: string) {
    const { keys, command } = LAYOUTS[this.name];
    await this.send(letter, (keys as Record<string, Key>)[letter].code, [command]);
  }

  async press(key: "Enter" | "Tab" | "Escape" | "ArrowRight" | "End" | "Home" | "Delete") {
    await this.send(key, key, [], key === "Enter" ? "\r" : undefined);
  }

  private async character(character: string) {
    const { keys } = LAYOUTS[this.name];
    const key = (keys as Record<string, Key>)[character.toLowerCase()];
    if (!key) throw new Error(`no key for ${character}`);
    const isUpper = character !== character.toLowerCase();
    await this.send(character, key.code, key.shift || isUpper ? ["Shift"] : [], character);
  }

  private async send(key: string, code: string, held: readonly Modifier[], text?: string) {
    const modifiers = held.reduce((sum, name) => sum + MODIFIERS[name], 0);
    const windowsVirtualKeyCode =
      { Enter: 13, Tab: 9, Escape: 27, ArrowRight: 39, End: 35, Home: 36, Delete: 46 }[key] ?? 0;
    const event = { key, code, modifiers, windowsVirtualKeyCode };
    const types = text !== undefined && !held.includes("Meta");
    await this.client.send("Input.dispatchKeyEvent", {
      type: types ? "keyDown" : "rawKeyDown",
      ...event,
      ...(types ? { text } : {}),
    });
    await this.client.send("Input.dispatchKeyEvent", { type: "keyUp", ...event });
  }
}
