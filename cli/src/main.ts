import { SCHOOLS, type School } from "@hound/core/plan";
import { FAULT_KINDS, FaultCount, WAYS } from "@hound/core/practice";
import { comparisonCsv, signaturesCsv } from "@hound/core/whatif";
import { Command, CommanderError, InvalidArgumentError, Option } from "commander";
import type { Task } from "./diagnose.ts";
import { InputError, UsageError } from "./failure.ts";
import { readFile, writeFile } from "./files.ts";
import { habits } from "./habits.ts";
import { type MeterOptions, meter } from "./meter.ts";
import { diagnoseAll } from "./pool.ts";
import { type PracticeOptions, practice } from "./practice.ts";
import { type SimulateOptions, simulate } from "./simulate.ts";
import { solve } from "./solve.ts";
import { signatures, whatIf } from "./whatif.ts";

const collect = (value: string, before: string[]) => [...before, value];

function share(text: string): number {
  const value = Number(text);
  if (!(value >= 0 && value <= 1)) throw new InvalidArgumentError("a probability between 0 and 1");
  return value;
}

function count(text: string): number {
  const value = Number(text);
  if (!Number.isInteger(value) || value < 1 || value > 1e9) throw new InvalidArgumentError("a whole number from 1 on");
  return value;
}

function program(): Command {
  const hound = new Command("hound")
    .description("Ranks the faults that most likely explain the readings taken on a circuit.")
    .exitOverride();
  hound
    .command("rank")
    .description("rank the faults of one or more cases; one JSON object a line")
    .argument("<case...>", "case files (.json)")
    .option("--min <probability>", "leave out suspects below this", share, 0)
    .option("--explain", "with each suspect that matters: predictions, bits of evidence, parts it overloads", false)
    .action((paths: string[], { min, explain }: { min: number; explain: boolean }) =>
      printAll(paths.map((path): Task => ({ kind: "rank", path, min, explain }))),
    );
  hound
    .command("next")
    .description("the measurements worth taking next, best first; one JSON object a line for each case")
    .argument("<case...>", "case files (.json)")
    .addOption(new Option("--school <school>", "order of attack").choices(Object.keys(SCHOOLS)).default("information"))
    .action((paths: string[], { school }: { school: School }) =>
      printAll(paths.map((path): Task => ({ kind: "next", path, school }))),
    );
  hound
    .command("solve")
    .description("node voltages, branch currents and powers; supplies count out of their plus")
    .argument("<file>", "case (.json), trail (.trail) or parts table (.csv)")
    .option("--fault <fault>", "with this fault, such as R3=open, R2=high:1820 or 'R2 470→2k'", collect, [])
    .option("--bridge <node-node>", "with a bridge between two nodes", collect, [])
    .action((path: string, { fault, bridge }: { fault: string[]; bridge: string[] }) =>
      print(solve(path, fault, bridge)),
    );
  hound
    .command("whatif")
    .description("the healthy circuit beside one with faults, what would follow, and how that goes with the readings")
    .argument("<file>", "case (.json), trail (.trail) or parts table (.csv)")
    .requiredOption("--fault <fault>", "such as 'R3 open', 'R2 470→2k', 'J1 +5ohm', 'A~D bridged'", collect, [])
    .option("--csv", "one line a quantity instead of one JSON object", false)
    .action((path: string, { fault, csv }: { fault: string[]; csv: boolean }) => {
      const { report, comparison } = whatIf(path, fault);
      if (csv) process.stdout.write(comparisonCsv(comparison));
      else print(report);
    });
  hound
    .command("signatures")
    .description("what every single fault does to every test point, in limits")
    .argument("<file>", "case (.json), trail (.trail) or parts table (.csv)")
    .option("--csv", "a table instead of one JSON object", false)
    .action((path: string, { csv }: { csv: boolean }) => {
      const { report, found, network } = signatures(path);
      if (csv) process.stdout.write(signaturesCsv(found, network));
      else print(report);
    });
  hound
    .command("convert")
    .description("convert between .json, .trail and .csv, by file endings")
    .argument("<in>")
    .argument("<out>")
    .action((from: string, to: string) =>
      writeFile(to, readFile(from), (message) => process.stderr.write(`${message}\n`)),
    );
  hound
    .command("habits")
    .description(
      "rates and modes as verified repairs of closed cases teach them; one JSON object, to be used as priors",
    )
    .argument("<case...>", "case files (.json) with a repair")
    .action((paths: string[]) => print(habits(paths)));
  hound
    .command("simulate")
    .description("let a seeded bench draw a fault and take readings; the truth goes into a file of its own")
    .argument("<file>", "case (.json), trail (.trail) or parts table (.csv)")
    .requiredOption("--out <case>", "case file to write")
    .option("--truth <file>", "file for what was drawn")
    .option("--seed <number>", "the same seed draws the same bench", Number, 1)
    .option("--at <points>", "points to read, such as B,R3:A,B-D:ohm; every node otherwise")
    .option("--fault <part=mode[:value]>", "this fault instead of a drawn one", collect, [])
    .option("--healthy", "no fault at all", false)
    .option("--blunder <probability>", "how often a reading is mis-taken", share, 0)
    .action((path: string, options: SimulateOptions) => simulate(path, options));
  hound
    .command("practice")
    .description(
      "hide faults, and let simulated hands hunt them at the stand-in bench in several ways; one JSON line each",
    )
    .argument("[file]", "case (.json), trail (.trail) or parts table (.csv); circuits are drawn otherwise")
    .option("--worlds <number>", "faults to hide", count, 10)
    .option("--seed <number>", "of the first world; the next ones count on", count, 1)
    .option("--parts <number>", "parts besides the supply of a drawn circuit", count, 7)
    .addOption(
      new Option("--way <way...>", "ways of going about it; all otherwise").choices(Object.keys(WAYS)).default([]),
    )
    .addOption(
      new Option("--kind <kind...>", "what may be wrong; anything otherwise")
        .choices(Object.keys(FAULT_KINDS))
        .default([]),
    )
    .addOption(new Option("--faults <number>", "how many").choices(FaultCount.options).default("one"))
    .option("--steps", "each act too", false)
    .action((path: string | undefined, options: PracticeOptions) => {
      for (const line of practice(path, options)) print(line);
    });
  hound
    .command("meter")
    .description("a simulated bench meter on a TCP port, put on the circuit of a case with a hidden fault")
    .argument("<case...>", "case files (.json), or folders of them")
    .option("--fault <part=mode[:value]>", "what is wrong; otherwise what the case says was repaired", collect, [])
    .option("--port <number>", "port to listen on; 0 takes a free one", Number, 5025)
    .option("--host <address>", "address to listen on", "127.0.0.1")
    .option("--seed <number>", "the same seed draws the same parts and noise", Number, 1)
    .addOption(
      new Option("--protocol <protocol>", "asked, or sending by itself").choices(["scpi", "lines"]).default("scpi"),
    )
    .option("--rate <number>", "lines a second", Number, 10)
    .action((paths: string[], options: MeterOptions) => meter(paths, options));
  return hound;
}

/** One line a case, in the order given; of those that are wrong all are told in the end. */
async function printAll(tasks: readonly Task[]) {
  const wrong: string[] = [];
  for await (const outcome of diagnoseAll(tasks)) {
    if (outcome.kind === "done") print(outcome.answer);
    else wrong.push(outcome.message);
  }
  if (wrong.length > 0) throw new InputError(wrong.join("\n"));
}

function print(result: object) {
  process.stdout.write(`${JSON.stringify(result)}\n`);
}

/** @returns the exit status: 0 done, 1 the input is wrong, 2 wrong usage */
export async function main(argv: readonly string[]): Promise<number> {
  try {
    await program().parseAsync(argv, { from: "user" });
    return 0;
  } catch (error) {
    if (error instanceof CommanderError) return error.exitCode === 0 ? 0 : 2;
    if (!(error instanceof InputError) && !(error instanceof UsageError)) throw error;
    process.stderr.write(`${error.message}\n`);
    return error instanceof UsageError ? 2 : 1;
  }
}
