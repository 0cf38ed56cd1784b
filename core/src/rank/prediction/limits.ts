import type { BareCircuit, ProbeSet } from "../../measure/index.ts";
import { Settler } from "./atRest.ts";
import type { Change, SettingChange } from "./change.ts";
import { Response } from "./response.ts";

/** Supplies that turn into current sources: what faults bring to its limit is held there by one more change. */
export class CurrentLimits {
  /** In each setting the supplies with a limit. */
  private readonly watched: readonly { readonly setting: number; readonly supplies: number[] }[];
  private readonly alreadyLimited: boolean;
  private readonly response = new Response();
  private readonly settler: Settler;

  /** @param bending numbers of the branches that bend in some setting */
  constructor(
    private readonly set: ProbeSet,
    private readonly bending: readonly number[],
  ) {
    this.settler = new Settler(set, bending);
    this.alreadyLimited = set.settings.some(({ ports }) => ports.point.limited.includes(1));
    this.watched = set.settings.flatMap(({ ports }, setting) => {
      const supplies = ports.laws.flatMap((law, k) => (law.kind === "supply" && law.limit !== undefined ? [k] : []));
      return supplies.length > 0 ? [{ setting, supplies }] : [];
    });
  }

  hold(perSetting: readonly SettingChange[]): readonly SettingChange[] {
    if (this.watched.length === 0) return perSetting;
    if (this.alreadyLimited && perSetting.some((c) => c.length > 0)) return perSetting.map(() => "afresh");
    const held = [...perSetting];
    for (const { setting, supplies } of this.watched) {
      const changes = held[setting];
      const { bare } = this.set.settings[setting];
      if (bare.x.length > 0 && changes !== "afresh" && changes.length > 0)
        held[setting] = this.holdIn(setting, bare, supplies, changes);
    }
    return held;
  }

  private holdIn(
    setting: number,
    circuit: BareCircuit,
    supplies: readonly number[],
    changes: readonly Change[],
  ): SettingChange {
    let now = changes;
    for (const k of supplies) {
      const law = this.set.settings[setting].ports.laws[k];
      if (law.kind !== "supply" || law.limit === undefined) continue;
      if (changes.some((c) => c.element === k && !Number.isFinite(c.gain))) continue;
      const atRest = this.bending.length > 0 ? this.settler.settle(circuit, now).changes : now;
      this.response.solveBare(this.set, circuit, atRest);
      const amps = this.response.quantityOf(k, this.set, circuit);
      // Current runs out of the plus terminal: into the branch it is negative.
      const out = -Math.sign(law.volts || 1);
      if (amps * out <= law.limit) continue;
      // What one holds back another may no longer have to.
      if (supplies.length > 1) return "afresh";
      const others = now.filter((c) => c.element !== k);
      now = [...others, { element: k, gain: Number.POSITIVE_INFINITY, added: 0, held: out * law.limit }];
    }
    return now;
  }
}
