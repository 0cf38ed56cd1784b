import { closeCompletion } from "@codemirror/autocomplete";
import { history, isolateHistory, redo, undo } from "@codemirror/commands";
import { EditorState, type Extension, Transaction } from "@codemirror/state";
import { EditorView } from "@codemirror/view";
import { trailEditing } from "./trailLanguage.ts";

/** The trail with its history in an editor's state, whether an editor shows it or not. */
export class TrailEngine {
  private state: EditorState;
  private view: EditorView | null = null;

  constructor(
    text: string,
    extensions: Extension,
    private readonly onChange: (text: string) => void,
  ) {
    const listen = EditorView.updateListener.of((update) => {
      if (update.docChanged) onChange(update.state.doc.toString());
    });
    this.state = EditorState.create({ doc: text, extensions: [history(), listen, extensions] });
  }

  /** Takes over a text that came about elsewhere. @param isStep as one step of the history; else it stays through every undo */
  replace(text: string, isStep = true) {
    const changes = smallestChange(this.current.doc.toString(), text);
    const annotations = isStep ? isolateHistory.of("full") : Transaction.addToHistory.of(false);
    if (changes.length > 0) this.take(this.current.update({ changes, annotations }));
  }

  /** Writes at the cursor, as one step of the history. */
  insert(text: string) {
    const { main } = this.current.selection;
    const selection = { anchor: main.from + text.length };
    const changes = { from: main.from, to: main.to, insert: text };
    this.take(this.current.update({ changes, selection, annotations: isolateHistory.of("full") }));
  }

  undo(): boolean {
    return undo({ state: this.current, dispatch: (transaction) => this.take(transaction) });
  }

  redo(): boolean {
    return redo({ state: this.current, dispatch: (transaction) => this.take(transaction) });
  }

  /** Shows the document in an editor. @returns what takes it away again; the state stays */
  show(parent: HTMLElement): { view: EditorView; close: () => void } {
    const view = new EditorView({ state: this.state, parent });
    this.view = view;
    const close = () => {
      closeCompletion(view);
      this.state = view.state;
      this.view = null;
      view.destroy();
    };
    return { view, close };
  }

  private get current(): EditorState {
    return this.view?.state ?? this.state;
  }

  private take(transaction: Transaction) {
    if (this.view) this.view.dispatch(transaction);
    else {
      this.state = transaction.state;
      this.onChange(this.state.doc.toString());
    }
  }
}

/** The one stretch in which two texts differ: the cursor and the history keep their places around it. */
function smallestChange(before: string, after: string): { from: number; to: number; insert: string }[] {
  if (before === after) return [];
  let from = 0;
  while (from < before.length && before[from] === after[from]) from += 1;
  let tail = 0;
  const most = Math.min(before.length, after.length) - from;
  while (tail < most && before[before.length - 1 - tail] === after[after.length - 1 - tail]) tail += 1;
  return [{ from, to: before.length - tail, insert: after.slice(from, after.length - tail) }];
}

/** An engine that knows about trails. */
export function trailEngine(text: string, onTable: (text: string) => void, onChange: (text: string) => void) {
  return new TrailEngine(text, trailEditing(onTable), onChange);
}
