import { type Branch, KINDS, type SymbolName } from "@hound/core/circuit";
import type { Conventions } from "@hound/core/record";
import type { ReactNode } from "react";
import { SIZES } from "./geometry.ts";

const HALF = SIZES.symbol / 2;

interface PartSymbolProps {
  readonly branch: Branch;
  readonly backward: boolean;
  readonly symbols: Conventions["symbols"];
}

/** The standard symbol of a part, centred on the origin, drawn between x = −29 and x = 29 (IEC 60617 shapes; resistors as zigzags by ANSI Y32.2 on request). */
export function PartSymbol({ branch, backward, symbols }: PartSymbolProps) {
  const drawn = SYMBOLS[KINDS[branch.kind].symbol];
  return (
    <g transform={backward ? "scale(-1 1)" : undefined} fill="none" stroke="currentColor" strokeWidth="2.2">
      {(drawn[symbols] ?? drawn.iec)(branch)}
    </g>
  );
}

const isWiper = ({ name }: Branch) => name.endsWith(".wiper");
const WIPER = <path d={`M${-HALF} 0 H${HALF} M${HALF - 14} -7 L${HALF - 2} 0 L${HALF - 14} 7`} />;
const BOX = <rect x={-HALF} y={-11} width={SIZES.symbol} height={22} fill="var(--paper)" />;

const ZIGZAG = (
  <path
    d={`M${-HALF} 0 h4.5 l4.2 -11 l8.4 22 l8.4 -22 l8.4 22 l8.4 -22 l8.2 22 l4.2 -11 H${HALF}`}
    strokeLinejoin="round"
  />
);

const SLANT = <path d="M-24 17 H-14 L20 -17" />;
const ROUND = (
  <>
    <path d={`M${-HALF} 0 H-17 M17 0 H${HALF}`} />
    <circle r={17} fill="var(--paper)" />
  </>
);

/** Anode at the left, a bar where the cathode is. */
const ARROW = (
  <>
    <path d={`M${-HALF} 0 H${HALF}`} />
    <path d="M-11 -12 L11 0 L-11 12 Z" fill="var(--paper)" strokeLinejoin="round" />
    <path d="M11 -12 V12" />
  </>
);

type Draw = (branch: Branch) => ReactNode;

/** How each symbol is drawn, and those of a resistance as a zigzag. A wiper is an arrow either way. */
const SYMBOLS: Readonly<Record<SymbolName, { readonly iec: Draw; readonly ansi?: Draw }>> = {
  box: { iec: () => BOX, ansi: () => ZIGZAG },
  track: {
    iec: (branch) =>
      isWiper(branch) ? (
        WIPER
      ) : (
        <>
          {BOX}
          <path d="M0 -11 V11" strokeDasharray="3 3" />
        </>
      ),
    ansi: (branch) =>
      isWiper(branch) ? (
        WIPER
      ) : (
        <>
          {ZIGZAG}
          <path d="M0 -22 V-8 M-5 -14 L0 -7 L5 -14" />
        </>
      ),
  },
  "bent box": {
    iec: () => (
      <>
        {BOX}
        {SLANT}
      </>
    ),
    ansi: () => (
      <>
        {ZIGZAG}
        {SLANT}
      </>
    ),
  },
  "barred box": {
    iec: () => (
      <>
        {BOX}
        <path d="M-14.5 -11 V11 M0 -11 V11 M14.5 -11 V11" />
      </>
    ),
    ansi: () => (
      <>
        {ZIGZAG}
        <rect x={-HALF} y={-17} width={SIZES.symbol} height={34} strokeDasharray="4 3" />
      </>
    ),
  },
  "crossed circle": {
    iec: () => (
      <>
        {ROUND}
        <path d="M-12 -12 L12 12 M-12 12 L12 -12" />
      </>
    ),
  },
  turns: {
    iec: () => (
      <path
        d={`M${-HALF} 0 a7.25 7.25 0 0 1 14.5 0 a7.25 7.25 0 0 1 14.5 0 a7.25 7.25 0 0 1 14.5 0 a7.25 7.25 0 0 1 14.5 0`}
      />
    ),
  },
  capsule: {
    iec: () => (
      <>
        <rect x={-HALF} y={-9} width={SIZES.symbol} height={18} rx={9} fill="var(--paper)" />
        <path d={`M${-HALF} 0 H${HALF}`} />
      </>
    ),
  },
  "pulled lever": {
    iec: ({ law }) => (
      <>
        <path d={`M${-HALF} 0 H-15 M15 0 H${HALF}`} />
        <circle cx={-15} r={3.5} fill="var(--paper)" />
        <circle cx={15} r={3.5} fill="var(--paper)" />
        <path d={law.kind === "contact" && !law.closes ? "M-12 -2 L14 -4" : "M-12 -2 L12 -16"} />
        <path d="M-7 -24 H7 V-17 H-7 Z M0 -17 V-10" strokeWidth="1.6" />
      </>
    ),
  },
  arrow: { iec: () => ARROW },
  "shining arrow": {
    iec: () => (
      <>
        {ARROW}
        <path
          d="M2 -14 L10 -23 M10 -23 L5 -21 M10 -23 L9 -18 M11 -13 L19 -22 M19 -22 L14 -20 M19 -22 L18 -17"
          strokeWidth="1.6"
        />
      </>
    ),
  },
  "bent arrow": {
    iec: () => (
      <>
        {ARROW}
        <path d="M11 -12 L6 -15 M11 12 L16 15" />
      </>
    ),
  },
  plates: { iec: () => <path d={`M${-HALF} 0 H-4 M4 0 H${HALF} M-4 -15 V15 M4 -15 V15`} strokeWidth="2.6" /> },
  lever: {
    iec: ({ law }) => (
      <>
        <path d={`M${-HALF} 0 H-15 M15 0 H${HALF}`} />
        <circle cx={-15} r={3.5} fill="var(--paper)" />
        <circle cx={15} r={3.5} fill="var(--paper)" />
        <path d={law.kind === "open" ? "M-12 -2 L12 -16" : "M-12 -2 L14 -4"} />
      </>
    ),
  },
  plug: { iec: () => <path d={`M${-HALF} 0 H-6 M-6 -8 A8 8 0 0 1 -6 8 M6 0 H${HALF} M0 0 H6`} /> },
  wire: { iec: () => <path d={`M${-HALF} 0 H${HALF} M-6 -6 V6 M6 -6 V6`} /> },
  dot: {
    iec: () => (
      <>
        <path d={`M${-HALF} 0 H${HALF}`} />
        <circle r={5} fill="currentColor" />
      </>
    ),
  },
  needle: {
    iec: () => (
      <>
        {ROUND}
        <path d="M-9 8 L8 -9 M8 -9 L1 -7 M8 -9 L6 -2" />
      </>
    ),
  },
  cell: {
    iec: () => (
      <>
        <path d={`M${-HALF} 0 H-5 M5 0 H${HALF} M-5 -20 V20`} />
        <path d="M5 -10 V10" strokeWidth="6" />
        <path d="M-20 -16 H-10 M-15 -21 V-11" />
      </>
    ),
  },
};
