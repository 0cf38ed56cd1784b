import type { FaultAt } from "../faults/index.ts";
import type { Random } from "../kernels/index.ts";
import { consequencesOf, type Prepared } from "../rank/index.ts";

/**
 * A seeded bench that breaks circuits as the priors say: nothing, one fault, one fault and what it blew, or two.
 * The chances are those the ranking believes in, so that its probabilities can be held against the outcome.
 */
export class FaultDrawer {
  private readonly consequences: ReturnType<typeof consequencesOf>;

  /** @param prepared of the circuit; its readings do not matter */
  constructor(private readonly prepared: Prepared) {
    this.consequences = consequencesOf(prepared);
  }

  draw(random: Random): FaultAt[] {
    for (;;) {
      const drawn = this.drawOnce(random);
      if (drawn) return drawn;
    }
  }

  /** @returns null where the draw has to be made again, so that what can blow a fuse comes out as often as it should */
  private drawOnce(random: Random): FaultAt[] | null {
    const { priors } = this.prepared;
    if (random.next() < priors.healthy) return random.next() < 1 / MOST_OUTCOMES ? [] : null;
    if (random.next() < priors.doubleShare) {
      const two = this.noticed(random, () => this.pickTwo(random).map((n) => this.withValue(n, random)));
      return random.next() > 1 / MOST_OUTCOMES ? null : two;
    }
    let first = -1;
    const [fault] = this.noticed(random, () => {
      first = this.pick(random);
      return [this.withValue(first, random)];
    });
    const blown = this.consequences.flatMap((c) =>
      c.cause === first ? [{ victim: c.victim, chance: c.chance(fault) }] : [],
    );
    // The fault alone weighs 1, with each part it may blow its chance besides.
    const outcomes = [{ victim: -1, chance: 1 }, ...blown];
    let left = random.next() * MOST_OUTCOMES;
    for (const { victim, chance } of outcomes) {
      left -= chance;
      if (left < 0) return victim < 0 ? [fault] : [fault, this.withValue(victim, random)];
    }
    return null;
  }

  /** What brought the job here, where it says that something is wrong: drawn again until somebody would have noticed it. */
  private noticed(random: Random, drawn: () => FaultAt[]): FaultAt[] {
    const { noticed } = this.prepared.prior;
    for (;;) {
      const faults = drawn();
      if (!noticed || random.next() < noticed.weightOf(faults)) return faults;
    }
  }

  private pick(random: Random): number {
    const { singles } = this.prepared.prior;
    let left = random.next() * singles.reduce((sum, s) => sum + s.sites[0].weight, 0);
    for (let i = 0; i < singles.length; i += 1) {
      left -= singles[i].sites[0].weight;
      if (left < 0) return i;
    }
    return singles.length - 1;
  }

  /** Two of different parts, in proportion to the product of their weights. */
  private pickTwo(random: Random): [number, number] {
    for (;;) {
      const [one, two] = [this.pick(random), this.pick(random)];
      if (!this.prepared.prior.isSameOwner(one, two)) return [one, two];
    }
  }

  private withValue(number: number, random: Random): FaultAt {
    const [site] = this.prepared.prior.singles[number].sites;
    return { site, value: site.value ? site.value(random.next()) : 0 };
  }
}

/** A bound on what a fault alone and all it may blow weigh together. */
const MOST_OUTCOMES = 4;
