import type { NodeName } from "../../circuit/index.ts";
import type { Trail } from "../trail/index.ts";
import { type Edited, nameIn, Rewrite, refused } from "./rewrite.ts";

/** Says what a node is called where one probes it (`TB2-4, blue wire`), or with "" no more; it gets a name in the trail. */
export function setPoint(trail: Trail, node: NodeName, words: string): Edited {
  const text = words.trim();
  if (/[\n#]/.test(text)) return refused("what a node is called stands on one line, without #");
  const rewrite = new Rewrite(trail);
  const line = trail.statements.find((s) => s.type === "point" && nameIn(/^\S+/.exec(s.value)?.[0] ?? "") === node);
  if (line && text === "") {
    const end = trail.text[line.to] === "\n" ? line.to + 1 : line.to;
    rewrite.replace({ from: line.from, to: end }, "");
  } else if (line) rewrite.replace(line, `point ${node} ${text}`);
  else if (text !== "") rewrite.line(`point ${rewrite.name(node)} ${text}`);
  return rewrite.done();
}
