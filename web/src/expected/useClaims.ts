import {
  ASKED,
  type Asked,
  type Claim,
  type EquationMark,
  type Marked,
  markClaims,
  markEquation,
  type Place,
  placeBetween,
  placesOf,
  readClaim,
  readEquation,
  solveEquations,
} from "@hound/core/claims";
import { useMemo } from "react";
import { useDesk } from "../desk/DeskContext.tsx";
import type { Expected } from "./useExpected.ts";

/** A person's own figures of this job, marked. */
export interface OwnFigures {
  readonly places: readonly Place[];
  readonly marked: readonly Marked[];
  readonly equations: readonly { readonly key: string; readonly text: string; readonly mark: EquationMark | string }[];
  /** What those that hold say together; null where they are too few. */
  readonly together: ReturnType<typeof solveEquations>;
  readonly typed: (place: string, of: Asked) => string;
  /** @returns what is wrong with it, null where it is kept */
  readonly write: (place: string, of: Asked, text: string) => string | null;
  readonly writeEquation: (text: string) => string | null;
  readonly drop: (key: string) => void;
}

const EQUATION = "equation ";
const keyOf = (place: string, of: Asked) => `${of} ${place}`;

export function useClaims({ network, solution, reduction }: Expected): OwnFigures {
  const { desk, state } = useDesk();
  const { claims } = state.job;
  const places = useMemo(() => {
    const pairs = Object.keys(claims).flatMap((key) => {
      const [, name] = /^volts (.+ to .+)$/.exec(key) ?? [];
      return name === undefined ? [] : (placeBetween(name, network, solution) ?? []);
    });
    return [...placesOf(network, solution, reduction), ...pairs];
  }, [claims, network, solution, reduction]);
  const marked = useMemo(() => {
    const own = Object.entries(claims).flatMap(([key, typed]): Claim[] => {
      const [of, ...place] = key.split(" ");
      if (!(ASKED as readonly string[]).includes(of)) return [];
      const read = readClaim(place.join(" "), of as Asked, typed);
      return read.kind === "claim" ? [read.claim] : [];
    });
    return markClaims(own, places, network);
  }, [claims, places, network]);
  const equations = useMemo(
    () =>
      Object.entries(claims).flatMap(([key, text]) => {
        if (!key.startsWith(EQUATION)) return [];
        const read = readEquation(text, network);
        return [
          { key, text, mark: read.kind === "mistake" ? read.why : markEquation(read.equation, network, solution) },
        ];
      }),
    [claims, network, solution],
  );
  const together = useMemo(() => {
    const sound = equations.flatMap(({ text, mark }) => {
      const read = readEquation(text, network);
      return typeof mark !== "string" && mark.kind === "holds" && read.kind === "equation" ? [read.equation] : [];
    });
    return sound.length > 1 ? solveEquations(sound, network) : null;
  }, [equations, network]);
  const change = (key: string, text: string) => {
    const { [key]: before, ...others } = claims;
    if (text === (before ?? "")) return;
    // What was there keeps its turn: later figures may follow from it.
    desk.changeJob({ claims: text === "" ? others : { ...claims, [key]: text } });
  };
  return {
    places,
    marked,
    equations,
    together,
    typed: (place, of) => claims[keyOf(place, of)] ?? "",
    write: (place, of, text) => {
      const read = text === "" ? null : readClaim(place, of, text);
      if (read?.kind === "mistake") return read.why;
      change(keyOf(place, of), text);
      return null;
    },
    writeEquation: (text) => {
      const read = readEquation(text, network);
      if (read.kind === "mistake") return read.why;
      const numbers = Object.keys(claims).flatMap((k) =>
        k.startsWith(EQUATION) ? [Number(k.slice(EQUATION.length))] : [],
      );
      change(`${EQUATION}${Math.max(0, ...numbers) + 1}`, text);
      return null;
    },
    drop: (key) => change(key, ""),
  };
}
