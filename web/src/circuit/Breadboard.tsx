import { designatorOf } from "@hound/core/circuit";
import { type BreadboardPlan, checkBreadboard, nameOfHole, planBreadboard } from "@hound/core/layout";
import { ImageDown } from "lucide-react";
import { useMemo, useRef, useState } from "react";
import { useNotice } from "../app/Notice.tsx";
import { fileName, saveFile } from "../app/saveFile.ts";
import { pictureOf } from "../board/picture.ts";
import { type Drawn, useDesk, useSelection } from "../desk/DeskContext.tsx";
import { fileStamp, stampOf } from "../desk/stamp.ts";
import { Cautions } from "../session/cautions.tsx";
import { BreadboardPicture } from "./BreadboardPicture.tsx";
import { breadboardSteps, pullInWords } from "./breadboardSteps.ts";

/** The circuit on a solderless breadboard, to try a fault on the bench: where every lead goes, and in which order. */
export function Breadboard({ drawn }: { drawn: Drawn }) {
  const { state, select } = useDesk();
  const { selection } = useSelection();
  const { network } = drawn;
  const plan = useMemo(() => planBreadboard(network), [network]);
  const notice = useNotice();
  const svg = useRef<SVGSVGElement>(null);
  if (plan.kind === "refused") return <p className="p-4 text-faint">Not on a breadboard: {plan.why}.</p>;
  const wrong = checkBreadboard(plan);
  const selected = selection?.kind === "branch" ? designatorOf(selection.name) : null;
  const save = async () => {
    if (!svg.current) return;
    const blob = await pictureOf(svg.current, `${state.job.title}, breadboard`, stampOf(state, new Date()), "svg");
    saveFile(blob, fileName(state.job.title, `${fileStamp(state, new Date())}-breadboard.svg`));
    notice({ text: "Saved the breadboard as SVG" });
  };
  return (
    <div className="flex flex-col gap-3">
      <div className="rounded-lg border border-doubt px-3 py-2">
        <p>Low voltage and small currents only. Supply off while a lead moves.</p>
        <Cautions place="breadboard" />
      </div>
      {wrong.length > 0 && (
        <p role="alert" className="font-bold text-wrong">
          The plan is not the circuit: {wrong.join("; ")}.
        </p>
      )}
      <button
        type="button"
        onClick={save}
        className="flex items-center gap-1.5 self-start rounded-lg border border-rule px-3 py-1.5 hover:bg-band"
      >
        <ImageDown size={18} aria-hidden /> Save as SVG
      </button>
      <BreadboardPicture
        plan={plan}
        ref={svg}
        selected={selected}
        onSelect={(part) =>
          select({ kind: "branch", name: network.branches.find((b) => b.part.designator === part)?.name ?? part })
        }
      />
      <Steps drawn={drawn} plan={plan} />
      <section aria-label="Where to probe" className="rounded-lg border border-rule bg-sheet px-3 py-2">
        <h2 className="font-bold">Where to probe</h2>
        <p>{[...plan.probes].map(([node, hole]) => `${network.nodes[node]}: ${nameOfHole(hole)}`).join(" · ")}</p>
      </section>
      <section aria-label="To put a meter in" className="rounded-lg border border-rule bg-sheet px-3 py-2">
        <h2 className="font-bold">To put a meter in</h2>
        <p>
          Supply off. Pull the lead, meter between, supply on, read, supply off, lead back. Select a part to see it on
          the picture.
        </p>
        <ul>
          {plan.pulls.map((pull) => (
            <li key={pull.part} className={pull.part === selected ? "font-bold text-copper" : ""}>
              {pullInWords(pull)}
            </li>
          ))}
        </ul>
        <p>{`${plan.supply}: its plus lead out of the rail, red on the lead, black in the plus rail`}</p>
      </section>
    </div>
  );
}

function Steps({ drawn, plan }: { drawn: Drawn; plan: BreadboardPlan }) {
  const groups = useMemo(() => breadboardSteps(drawn.network, plan), [drawn.network, plan]);
  const [done, setDone] = useState<ReadonlySet<string>>(new Set());
  const toggle = (key: string) => {
    const next = new Set(done);
    if (!next.delete(key)) next.add(key);
    setDone(next);
  };
  return (
    <div className="flex flex-col gap-2">
      {groups.map(({ title, steps }) => (
        <section key={title} aria-label={title} className="rounded-lg border border-rule bg-sheet px-3 py-2">
          <h2 className="font-bold">{title}</h2>
          {steps.map((step) => (
            <label key={step} className="flex items-start gap-2.5 py-1">
              <input
                type="checkbox"
                checked={done.has(`${title} ${step}`)}
                onChange={() => toggle(`${title} ${step}`)}
                className="mt-1 size-4 accent-copper"
              />
              <span className={done.has(`${title} ${step}`) ? "text-faint line-through" : ""}>{step}</span>
            </label>
          ))}
        </section>
      ))}
    </div>
  );
}
