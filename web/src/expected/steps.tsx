import type { Conventions } from "@hound/core/record";
import { type ItemState, madeBy, type Step, sumOf, type WayBack } from "@hound/core/reduce";
import { inWords, print } from "../words/print.ts";
import { paperOf } from "./useExpected.ts";

/** What is put together, why, and its sum. */
export function There({ step, conventions, digits }: { step: Step; conventions: Conventions; digits: number }) {
  return (
    <>
      <p>
        <b>{headOf(step)}</b>: {step.why}.
      </p>
      <ul className="mt-1 font-mono text-[0.95rem]">
        {sumOf(step, paperOf(conventions), digits).map((line) => (
          <li key={line}>{inWords(line)}</li>
        ))}
      </ul>
    </>
  );
}

/** What the supply drives through all of it. */
export function SeenBySupply({ back, letter, digits }: { back: WayBack; letter: string; digits: number }) {
  const rounded = (value: number) => Number(value.toPrecision(digits));
  return (
    <p>
      <b>The supply sees one resistance.</b> I = {letter} ÷ (R + r) ={" "}
      <b>{print(rounded(Math.abs(back.total.amps)), "A")}</b>
      {back.internalVolts !== 0 && `; ${print(rounded(back.internalVolts), "V")} is lost inside the supply`}, and{" "}
      {print(rounded(Math.abs(back.total.volts)), "V")} is left across {back.total.item.name}.
    </p>
  );
}

/** How what is known of a composite gives what its parts have. */
export function BackStep({ step, digits }: { step: WayBack["steps"][number]; digits: number }) {
  return (
    <>
      <p>
        <b>
          Back: {namesOf(step.step)} unfold{"result" in step.step ? "s" : ""}.
        </b>{" "}
        {step.why.charAt(0).toUpperCase() + step.why.slice(1)}.
      </p>
      <ul className="mt-1 font-mono text-[0.95rem]">
        {step.parts.map((part) => (
          <li key={part.item.name}>{carried(part, step.step, digits)}</li>
        ))}
      </ul>
    </>
  );
}

const namesOf = (step: Step) =>
  madeBy(step)
    .map((item) => item.name)
    .join(", ");

/** `Ra is R1 + R2`; `The triangle R1, R2, R3 is the star Ra, Rb, Rc`. */
export function headOf(step: Step): string {
  const names = step.parts.map((p) => p.name);
  if ("result" in step) return `${step.result.name} is ${names.join(step.kind === "series" ? " + " : " parallel ")}`;
  const [before, after] = step.kind === "star" ? ["triangle", "star"] : ["star", "triangle"];
  return `The ${before} ${names.join(", ")} is the ${after} ${namesOf(step)}`;
}

function carried({ item, volts, amps }: ItemState, { kind }: Step, digits: number): string {
  const v = print(Number(Math.abs(volts).toPrecision(digits)), "V");
  const i = print(Number(Math.abs(amps).toPrecision(digits)), "A");
  const r = print(Number(item.ohms.toPrecision(digits)), "ohm");
  return kind === "series" || kind === "delta"
    ? `V(${item.name}) = ${i} × ${r} = ${v}`
    : `I(${item.name}) = ${v} ÷ ${r} = ${i}`;
}
