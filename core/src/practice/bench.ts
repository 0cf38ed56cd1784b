import { type Branch, designatorOf, type Network, type NodeName, rowOf } from "../circuit/index.ts";
import { jointOf } from "../coach/index.ts";
import type { Configuration } from "../configuration/index.ts";
import { bridgeCandidates, type FaultAt, priorData, sitesOf } from "../faults/index.ts";
import { rangeName } from "../measure/index.ts";
import type { MeterData, Reading } from "../record/index.ts";
import { type Act, type BenchNow, COSTS, type Costs, freedEnd, type Told, type Touch, type Trap } from "./acts.ts";
import { lookAt, looksOf } from "./lookAt.ts";
import { type Burnt, dialOf, isGap, placedOn } from "./meterOn.ts";
import { nodeAt, supplyNames } from "./wired.ts";
import { seededBy, type World } from "./world.ts";

/** All of a bench at a moment: what whoever sits at it knows, what it keeps to itself, and how many acts there were. */
export interface BenchState {
  readonly now: BenchNow;
  readonly burnt: Burnt;
  readonly acts: number;
}

export const NOTHING_BURNT: Burnt = { sockets: [], fuses: [] };

/** The bench as one finds it: power on, the dial on volts at its highest range, the leads in the air. */
export function benchAtFirst(meter: MeterData): BenchState {
  const spans = dialOf(meter, "voltage");
  const now: BenchNow = {
    dial: { quantity: "voltage", span: spans[spans.length - 1] },
    socket: meter.ranges.voltage[0].socket,
    red: null,
    black: null,
    power: true,
    freed: [],
    levers: {},
    swapped: [],
    nulled: false,
    fingers: false,
    minutes: 0,
  };
  return { now, burnt: NOTHING_BURNT, acts: 0 };
}

/** How the circuit stands, as the product writes it. */
export function standingOf(now: BenchNow, network: Network): Configuration {
  const lifted = now.freed.map(({ part }) => designatorOf(part));
  return {
    ...(Object.keys(now.levers).length > 0 ? { switches: now.levers } : {}),
    ...(now.swapped.length > 0 ? { swapped: [...now.swapped] } : {}),
    ...(lifted.length > 0 ? { lifted } : {}),
    ...(now.power ? {} : { off: supplyNames(network) }),
  };
}

export interface Done {
  readonly state: BenchState;
  readonly told: Told;
}

/** Does one thing at the bench. What cannot be done is refused with a reason, and changes nothing. */
export function doAct(world: World, meter: MeterData, state: BenchState, act: Act, costs: Costs = COSTS): Done {
  const refusal = refusalOf(world, meter, state.now, act);
  if (refusal !== null) {
    const { display } = placedOn(world, meter, state.now, state.burnt, `${state.acts}`);
    return { state, told: { now: state.now, display, reading: null, traps: [], refused: refusal } };
  }
  const changed = changedBy(world, state, act);
  const minutes = state.now.minutes + costOf(act, costs);
  const now: BenchNow = { ...changed.now, minutes: Number(minutes.toFixed(6)) };
  const acts = state.acts + 1;
  const placed = placedOn(world, meter, now, changed.burnt, `${acts}`);
  const after: BenchState = { now, burnt: placed.burnt, acts };
  const { reading, traps } = writtenDown(world, meter, after, act, placed.display);
  // What lies there already was told when it came; on writing down it counts once more.
  const told = act.act === "look" || act.act === "alone" ? traps : [...changed.traps, ...placed.traps, ...traps];
  return { state: after, told: { now, display: placed.display, reading, traps: [...new Set(told)], refused: null } };
}

/** Minutes of an act. Off and on again are paid for when the power goes off. */
function costOf(act: Act, costs: Costs): number {
  if (act.act === "power") return act.on ? 0 : costs.power;
  return act.act in costs ? costs[act.act as keyof Costs] : 0;
}

function refusalOf({ network, circuit }: World, meter: MeterData, now: BenchNow, act: Act): string | null {
  const part = "part" in act ? circuit.parts.find((p) => p.designator === designatorOf(act.part)) : undefined;
  if ("part" in act && !part) return `there is no part ${act.part} here`;
  const isFreed = "part" in act && now.freed.some((f) => f.part === branchOf(network, act.part)?.name);
  switch (act.act) {
    case "dial": {
      const has = dialOf(meter, act.quantity).includes(act.span);
      return has ? null : "the dial has no such range";
    }
    case "plug":
    case "fuse": {
      const all = [...meter.ranges.voltage, ...meter.ranges.current, ...meter.ranges.resistance];
      return all.some((r) => r.socket === act.socket) ? null : `the meter has no socket ${act.socket}`;
    }
    case "touch":
      return act.at === null || isPlace(network, now, act.at) ? null : `there is no place ${act.at} here`;
    case "lever":
      return part?.kind === "switch" ? null : `${act.part} has no lever`;
    case "free":
      return isFreed ? `${act.part} has a lead off already` : null;
    case "join":
      return isFreed ? null : `no lead of ${act.part} is off`;
    case "swap":
      return part && rowOf(part.kind).isFixed ? `${act.part} cannot be swapped` : null;
    case "look":
      return part && looksOf(part.kind).length > 0 ? null : `there is nothing to be seen of ${act.part}`;
    case "alone":
      return part && rowOf(part.kind).role === "consumer" && looksOf(part.kind).length > 0
        ? null
        : `${act.part} shows nothing by itself`;
    case "take":
      return now.red !== null && now.black !== null ? null : "a lead is in the air";
    default:
      return null;
  }
}

function isPlace(network: Network, now: BenchNow, at: Touch): boolean {
  return (nodeAt(network, at) >= 0 && !at.includes(".")) || now.freed.some((f) => freedEnd(f.part) === at);
}

function branchOf({ branches }: Network, part: string): Branch | undefined {
  return branches.find((b) => b.name === part) ?? branches.find((b) => b.part.designator === part);
}

interface Changed {
  readonly now: BenchNow;
  readonly burnt: Burnt;
  readonly traps: readonly Trap[];
}

function changedBy({ network }: World, { now, burnt }: BenchState, act: Act): Changed {
  const so = (change: Partial<BenchNow>, traps: readonly Trap[] = []): Changed => ({
    now: { ...now, ...change },
    burnt,
    traps,
  });
  switch (act.act) {
    case "dial":
      return so({ dial: { quantity: act.quantity, span: act.span } });
    case "plug":
      return so({ socket: act.socket });
    case "touch":
      return so({ [act.lead]: act.at });
    case "power":
      return so({ power: act.on });
    case "free": {
      const branch = branchOf(network, act.part) as Branch;
      const ends = [jointOf(network, branch.name)?.at, network.nodes[branch.from], network.nodes[branch.to]];
      // Nobody gets at the middle of a track: a section is freed at its own end.
      const at = ends.find((end) => end !== undefined && !end.includes(".")) as NodeName;
      const kicks = network.branches.some((b) => rowOf(b.kind).danger === "winding");
      const live: readonly Trap[] = now.power ? (kicks ? ["liveFree", "kick"] : ["liveFree"]) : [];
      return so({ freed: [...now.freed, { part: branch.name, at }] }, live);
    }
    case "join":
      return so(withoutFreed(now, branchOf(network, act.part)?.name ?? ""));
    case "lever":
      return so({ levers: { ...now.levers, [act.part]: act.position } });
    case "swap": {
      const part = designatorOf(act.part);
      const joined = withoutFreed(now, branchOf(network, act.part)?.name ?? "");
      const swapped = [...now.swapped.filter((p) => p !== part), part];
      return {
        now: { ...now, ...joined, swapped },
        burnt: { ...burnt, fuses: burnt.fuses.filter((f) => f !== part) },
        traps: [],
      };
    }
    case "null":
      return so({ nulled: true });
    case "fingers":
      return so({ fingers: act.on });
    case "fuse":
      return { now, burnt: { ...burnt, sockets: burnt.sockets.filter((s) => s !== act.socket) }, traps: [] };
    default:
      return so({});
  }
}

/** A lead that is put back takes the probe that was held to its end with it. */
function withoutFreed(now: BenchNow, part: string): Partial<BenchNow> {
  const end = freedEnd(part);
  return {
    freed: now.freed.filter((f) => f.part !== part),
    red: now.red === end ? null : now.red,
    black: now.black === end ? null : now.black,
  };
}

/** What an act brings into the list of readings, as whoever took it would write it down. */
function writtenDown(
  world: World,
  meter: MeterData,
  { now, burnt, acts }: BenchState,
  act: Act,
  display: Told["display"],
): { readonly reading: Reading | null; readonly traps: readonly Trap[] } {
  const { network } = world;
  const standing = standingOf(now, network);
  if (act.act === "look" || act.act === "alone") {
    const what = { part: act.part, alone: act.act === "alone" };
    const faults = [...world.faults, ...burntFaults(network, burnt)];
    return { reading: lookAt(world, faults, what, standing, seededBy(world.seed, `look ${acts}`)), traps: [] };
  }
  if (act.act !== "take") return { reading: null, traps: [] };
  const place = placeOf(network, now);
  if (!place) return { reading: null, traps: ["noReading"] };
  const { inHand, isTurned, ...where } = place;
  const lifted = (standing.lifted ?? []).filter((p) => inHand === undefined || p !== designatorOf(inHand));
  const { lifted: _, off, ...rest } = standing;
  const isTest = now.dial.quantity === "diode";
  const isOhms = display.quantity === "resistance";
  const state = { ...rest, ...(lifted.length > 0 ? { lifted } : {}), ...(off && !isOhms && !isTest ? { off } : {}) };
  const size = isTurned ? -display.value : display.value;
  const over = display.isOver ? { value: display.span, beyond: "over" } : { value: size || 0, step: display.step };
  const range = now.dial.span === null ? {} : { range: rangeName(now.dial.span, display.quantity) };
  const reading = {
    quantity: display.quantity,
    ...(isTest ? { test: "diode" } : {}),
    ...where,
    ...over,
    ...range,
    ...(meter.name === "" ? {} : { meter: meter.name }),
    ...(isOhms && now.nulled ? { nulled: true } : {}),
    ...(Object.keys(state).length > 0 ? { state } : {}),
  } as Reading;
  return { reading, traps: lifted.length > 0 && inHand === undefined ? ["leftOpen"] : [] };
}

interface Place {
  readonly from?: string;
  readonly to?: string;
  readonly through?: string;
  readonly lifted?: string;
  /** The part whose lead is off for this reading. */
  readonly inHand?: string;
  /** Red is where the current leaves. */
  readonly isTurned?: boolean;
}

/** What the leads are held to, as a reading names it; null of what has no name. */
function placeOf(network: Network, now: BenchNow): Place | null {
  const { red, black, dial } = now;
  if (red === null || black === null || red === black) return null;
  const part = now.freed.find((f) => freedEnd(f.part) === red || freedEnd(f.part) === black);
  if (!part) {
    if (dial.quantity === "current") return null;
    const reference = network.nodes[network.reference];
    const isReference = black === reference || black === "0";
    return { from: red, ...(isReference ? {} : { to: black }) };
  }
  const branch = branchOf(network, part.part) as Branch;
  const end = freedEnd(part.part);
  if (dial.quantity === "current" && isGap(now, red, black)) {
    const isFrom = network.nodes[branch.from] === part.at;
    // Into a part where it begins; out of a supply's plus.
    const enters = isFrom === (branch.kind !== "supply") ? part.at : end;
    return { through: branch.name, inHand: branch.name, isTurned: red !== enters };
  }
  const other = network.nodes[network.nodes[branch.from] === part.at ? branch.to : branch.from];
  const isWhole = [red, black].includes(end) && [red, black].includes(other);
  if (!isWhole) return null;
  const alone = { lifted: branch.name, inHand: branch.name };
  if (dial.quantity === "resistance") return alone;
  const own = (touch: Touch) => (touch === end ? part.at : touch);
  return dial.quantity === "diode" ? { ...alone, from: own(red), to: own(black) } : null;
}

function burntFaults(network: Network, { fuses }: Burnt): FaultAt[] {
  if (fuses.length === 0) return [];
  return sitesOf(network, bridgeCandidates(network), priorData({})).flatMap((site) =>
    site.branch >= 0 && site.mode === "open" && fuses.includes(network.branches[site.branch].name)
      ? [{ site, value: 0 }]
      : [],
  );
}
