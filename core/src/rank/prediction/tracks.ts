import { DEFAULTS, type Network } from "../../circuit/index.ts";
import type { Parameter } from "./parameters.ts";

/** A potentiometer's sections among the parameters, and the shares of the track that they are. */
interface Track {
  readonly top: number;
  readonly bottom: number;
  readonly topShare: number;
  readonly bottomShare: number;
  /** Half of the track's tolerance. */
  readonly spread: number;
}

/**
 * The two sections of a potentiometer are one track: one factor moves both alike, and the wiper's place moves one up by
 * the ohms that the other loses. Their two columns of the sensitivities are turned into these two.
 */
export class Tracks {
  private readonly tracks: readonly Track[];

  constructor({ branches }: Network, parameters: readonly Parameter[]) {
    this.tracks = parameters.flatMap(({ branch, piece }, top): Track[] => {
      const { part, name } = branches[branch];
      if (part.kind !== "potentiometer" || !name.endsWith(".top")) return [];
      const other = `${part.designator}.bottom`;
      const bottom = parameters.findIndex((p) => p.piece === piece && branches[p.branch].name === other);
      if (bottom < 0) return [];
      return [{ top, bottom, topShare: part.at, bottomShare: 1 - part.at, spread: part.tolerance / 2 }];
    });
  }

  get isNone(): boolean {
    return this.tracks.length === 0;
  }

  /** Turns the columns of `rows` readings: per deviation of the sections into per deviation of track and place. */
  turn(j: Float64Array, parameterCount: number, rows: number) {
    for (const { top, bottom, topShare, bottomShare, spread } of this.tracks) {
      const up = topShare > 0 ? DEFAULTS.placeSpread / (topShare * spread) : 0;
      const down = bottomShare > 0 ? DEFAULTS.placeSpread / (bottomShare * spread) : 0;
      for (let r = 0, at = 0; r < rows; r += 1, at += parameterCount) {
        const [t, b] = [j[at + top], j[at + bottom]];
        j[at + top] = t + b;
        j[at + bottom] = t * up - b * down;
      }
    }
  }

  /** The other way: from deviations of track and place those of the sections. Works in place. */
  turnBack(z: Float64Array) {
    for (const { top, bottom, topShare, bottomShare, spread } of this.tracks) {
      const up = topShare > 0 ? DEFAULTS.placeSpread / (topShare * spread) : 0;
      const down = bottomShare > 0 ? DEFAULTS.placeSpread / (bottomShare * spread) : 0;
      const [track, place] = [z[top], z[bottom]];
      z[top] = track + up * place;
      z[bottom] = track - down * place;
    }
  }
}
