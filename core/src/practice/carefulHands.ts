import { jointOf } from "../coach/index.ts";
import { isDiodeTest, type MeterData, type NumericReading, type Reading } from "../record/index.ts";
import { type Act, COSTS, type Costs, type DialPlace, freedEnd, type Told } from "./acts.ts";
import { type BenchState, benchAtFirst, doAct } from "./bench.ts";
import type { Hands, LookAsked } from "./follow.ts";
import { dialOf } from "./meterOn.ts";
import type { World } from "./world.ts";

/** Most range of a display that is used before the next higher one is turned to. */
const FULL = 0.95;

/**
 * Hands that do at the stand-in bench what they are asked for as it should be done: the power off before a lead comes
 * off, the highest range first, the right socket, everything put back. Each act costs what it costs a learner.
 */
export class CarefulHands implements Hands {
  readonly done: { readonly act: Act; readonly told: Told }[] = [];
  private state: BenchState;

  constructor(
    private readonly world: World,
    private readonly meter: MeterData,
    private readonly costs: Costs = COSTS,
  ) {
    this.state = benchAtFirst(meter);
  }

  get minutes(): number {
    return this.state.now.minutes;
  }

  read(point: NumericReading): NumericReading | null {
    if (point.quantity === "voltage") {
      const { from, to = this.reference, lifted } = point;
      if (!isDiodeTest(point)) return this.readAcross("voltage", from, to);
      return lifted === undefined ? this.readAcross("diode", from, to) : this.testLifted(lifted, from, to);
    }
    if (point.quantity === "current") return this.readCurrent(point.through);
    if (point.lifted !== undefined) return this.readLifted(point.lifted);
    return this.readAcross("resistance", point.from ?? this.reference, point.to ?? this.reference);
  }

  look({ kind, part }: LookAsked): Reading | null {
    this.power(true);
    return this.act({ act: kind === "alone" ? "alone" : "look", part }).reading;
  }

  swap(part: string) {
    this.power(false);
    this.act({ act: "swap", part });
  }

  private get reference(): string {
    return this.world.network.nodes[this.world.network.reference];
  }

  private act(act: Act): Told {
    const { state, told } = doAct(this.world, this.meter, this.state, act, this.costs);
    if (told.refused !== null) throw new Error(`${JSON.stringify(act)}: ${told.refused}`);
    this.state = state;
    this.done.push({ act, told });
    return told;
  }

  private power(on: boolean) {
    if (this.state.now.power !== on) this.act({ act: "power", on });
  }

  private readAcross(place: Exclude<DialPlace, "current">, red: string, black: string): NumericReading | null {
    const quantity = place === "diode" ? "voltage" : place;
    this.power(place === "voltage");
    this.inTheAir();
    this.plug(this.meter.ranges[quantity][0].socket);
    if (place === "resistance" && !this.state.now.nulled) this.act({ act: "null" });
    this.turn(place, dialOf(this.meter, place).at(-1) ?? null);
    this.put(red, black);
    if (place !== "diode") this.finer(place, this.meter.ranges[place][0].socket);
    return this.taken();
  }

  private testLifted(name: string, red: string, black: string): NumericReading | null {
    const joint = this.freed(name);
    if (!joint) return null;
    const own = (node: string) => (node === joint.at ? freedEnd(joint.part) : joint.other);
    const read = this.readAcross("diode", own(red), own(black));
    this.act({ act: "join", part: joint.part });
    return read;
  }

  private readLifted(name: string): NumericReading | null {
    const joint = this.freed(name);
    if (!joint) return null;
    const read = this.readAcross("resistance", freedEnd(joint.part), joint.other);
    this.act({ act: "join", part: joint.part });
    return read;
  }

  private readCurrent(name: string): NumericReading | null {
    const joint = this.freed(name);
    if (!joint) return null;
    const ranges = this.meter.ranges.current;
    const top = ranges[ranges.length - 1];
    this.plug(top.socket);
    this.turn("current", this.meter.dial === "functions" ? null : top.span);
    this.put(joint.isInto ? joint.at : freedEnd(joint.part), joint.isInto ? freedEnd(joint.part) : joint.at);
    this.power(true);
    const first = this.finer("current", top.socket);
    const low = ranges.filter((r) => r.socket !== top.socket).at(-1);
    if (low && first < low.span * FULL) {
      this.plug(low.socket);
      this.turn("current", low.span);
      this.finer("current", low.socket);
    }
    const read = this.taken();
    this.power(false);
    this.inTheAir();
    this.act({ act: "join", part: joint.part });
    this.plug(this.meter.ranges.voltage[0].socket);
    this.turn("voltage", dialOf(this.meter, "voltage").at(-1) ?? null);
    return read;
  }

  /** Frees a lead with the power off. */
  private freed(name: string) {
    const joint = jointOf(this.world.network, name);
    const branch = this.world.network.branches.find((b) => b.name === name);
    if (!joint || !branch) return null;
    this.inTheAir();
    this.power(false);
    this.act({ act: "free", part: name });
    const { nodes } = this.world.network;
    const isFrom = nodes[branch.from] === joint.at;
    return {
      part: name,
      at: joint.at as string,
      other: nodes[isFrom ? branch.to : branch.from] as string,
      isInto: isFrom === (branch.kind !== "supply"),
    };
  }

  /** Turns to the lowest range that still shows it: down as far as it seems to fit, up again from OL. @returns by size what is shown */
  private finer(quantity: "voltage" | "current" | "resistance", socket: string): number {
    if (this.meter.dial === "functions") return this.shown();
    const ranges = this.meter.ranges[quantity].filter((r) => r.socket === socket);
    let at = ranges.findIndex((r) => r.span === this.state.now.dial.span);
    for (;;) {
      const shown = this.shown();
      const fit = ranges.findIndex((r) => r.span * FULL >= shown);
      if (fit < 0 || fit >= at) break;
      at = fit;
      this.turn(quantity, ranges[at].span);
    }
    for (; this.shown() === Number.POSITIVE_INFINITY && at < ranges.length - 1; at += 1)
      this.turn(quantity, ranges[at + 1].span);
    return this.shown();
  }

  private shown(): number {
    const { display } = this.done[this.done.length - 1].told;
    return display.isOver ? Number.POSITIVE_INFINITY : Math.abs(display.value);
  }

  private put(red: string, black: string) {
    this.act({ act: "touch", lead: "black", at: black });
    this.act({ act: "touch", lead: "red", at: red });
  }

  private inTheAir() {
    const { red, black } = this.state.now;
    if (red !== null) this.act({ act: "touch", lead: "red", at: null });
    if (black !== null) this.act({ act: "touch", lead: "black", at: null });
  }

  private plug(socket: string) {
    if (this.state.now.socket !== socket) this.act({ act: "plug", socket });
  }

  private turn(quantity: DialPlace, span: number | null) {
    const { dial } = this.state.now;
    if (dial.quantity !== quantity || dial.span !== span) this.act({ act: "dial", quantity, span });
  }

  private taken(): NumericReading | null {
    const { reading } = this.act({ act: "take" });
    return reading?.quantity === "observation" ? null : reading;
  }
}
