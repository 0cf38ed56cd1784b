import { NodeName, type TestPoint } from "../../circuit/index.ts";
import { foldCharacters } from "../../units/index.ts";

/** Turns what drawings call their nodes into names that a trail can write; the long ones stay as test points. */
export class NodeNames {
  private readonly given = new Map<string, NodeName>();
  private readonly parts: ReadonlySet<string>;
  readonly questions: string[] = [];

  constructor(designators: readonly string[]) {
    this.parts = new Set(designators.map((d) => d.toUpperCase()));
  }

  of(text: string): NodeName {
    const called = foldCharacters(text)
      .replace(/^\[\s*|\s*\]$/g, "")
      .trim();
    const key = called.toLowerCase();
    const known = this.given.get(key);
    if (known !== undefined) return known;
    const name = this.free(called);
    this.given.set(key, name);
    if (name !== called) this.questions.push(`node “${called}” is written ${name} here`);
    return name;
  }

  /** What the nodes are called that had to be written otherwise. */
  points(): { points?: TestPoint[] } {
    const points = [...this.called].flatMap(([node, called]) => (called === "" ? [] : [{ node, called }]));
    return points.length > 0 ? { points } : {};
  }

  private readonly called = new Map<NodeName, string>();

  private free(called: string): NodeName {
    if (called === "-") return this.unused("0");
    const isName = NodeName.safeParse(called).success && !this.parts.has(called.toUpperCase());
    if (isName) return this.unused(called);
    const plain = called.replace(/[^A-Za-z0-9_]+/g, "_").replace(/^_+|_+$/g, "") || "N";
    const name = this.unused(this.parts.has(plain.toUpperCase()) ? `${plain}_` : plain);
    this.called.set(name, called.replace(/[\s,#[\]]+/g, " ").trim());
    return name;
  }

  private unused(like: string): NodeName {
    const taken = new Set<string>(this.given.values());
    let name = like;
    for (let i = 2; taken.has(name); i += 1) name = `${like}_${i}`;
    return name as NodeName;
  }
}
