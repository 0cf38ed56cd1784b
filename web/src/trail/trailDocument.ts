import type { TrailEngine } from "./trailEngine.ts";

/** Makes the editor's part of a document, of the text it begins with. */
export type MakeEngine = (text: string, onChange: (text: string) => void) => TrailEngine;

/**
 * The trail with its history: one undo for what is typed, drawn on the board or entered in the table. It lives as long as
 * the job is open. The editor's part is fetched when it is needed; what was changed before is in its history then.
 */
export class TrailDocument {
  private engine: TrailEngine | null = null;
  private coming: Promise<TrailEngine> | null = null;
  /** The text at first, and after each change until the engine is there. */
  private readonly texts: { readonly text: string; readonly isStep: boolean }[];

  constructor(
    text: string,
    private readonly load: () => Promise<MakeEngine>,
    private readonly onChange: (text: string) => void,
  ) {
    this.texts = [{ text, isStep: true }];
  }

  /** The editor's part, with everything that was changed so far as steps of its history. */
  ready(): Promise<TrailEngine> {
    this.coming ??= this.load().then((make) => {
      let isReplayed = false;
      const engine = make(this.texts[0].text, (text) => isReplayed && this.onChange(text));
      for (const { text, isStep } of this.texts.slice(1)) engine.replace(text, isStep);
      isReplayed = true;
      this.engine = engine;
      return engine;
    });
    return this.coming;
  }

  /** Takes over a text that came about elsewhere. @param isStep as one step of the history; else it stays through every undo */
  replace(text: string, isStep = true) {
    if (this.engine) this.engine.replace(text, isStep);
    else if (text !== this.texts[this.texts.length - 1].text) {
      this.texts.push({ text, isStep });
      this.onChange(text);
    }
  }

  /** Writes at the cursor, as one step of the history. */
  insert(text: string) {
    this.ready().then((engine) => engine.insert(text));
  }

  undo() {
    this.ready().then((engine) => engine.undo());
  }

  redo() {
    this.ready().then((engine) => engine.redo());
  }
}
