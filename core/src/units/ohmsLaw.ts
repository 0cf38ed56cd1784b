/** Voltage, current, resistance and power of one and the same part. */
export interface OhmsLaw {
  readonly volts: number;
  readonly amps: number;
  readonly ohms: number;
  readonly watts: number;
}

/**
 * The other two of V, I, R and P, from any two: V = I·R, P = V·I.
 * @returns null unless exactly two are given and they make sense together
 */
export function ohmsLaw(given: Partial<OhmsLaw>): OhmsLaw | null {
  const { volts: v, amps: i, ohms: r, watts: p } = given;
  if ([v, i, r, p].filter((x) => x !== undefined).length !== 2) return null;
  const found = solved(v, i, r, p);
  return found && Object.values(found).every(Number.isFinite) ? found : null;
}

function solved(v?: number, i?: number, r?: number, p?: number): OhmsLaw | null {
  if (v !== undefined && i !== undefined) return { volts: v, amps: i, ohms: v / i, watts: v * i };
  if (v !== undefined && r !== undefined) return { volts: v, amps: v / r, ohms: r, watts: (v * v) / r };
  if (v !== undefined && p !== undefined) return { volts: v, amps: p / v, ohms: (v * v) / p, watts: p };
  if (i !== undefined && r !== undefined) return { volts: i * r, amps: i, ohms: r, watts: i * i * r };
  if (i !== undefined && p !== undefined) return { volts: p / i, amps: i, ohms: p / (i * i), watts: p };
  if (r === undefined || p === undefined || r < 0 || p < 0) return null;
  return { volts: Math.sqrt(p * r), amps: Math.sqrt(p / r), ohms: r, watts: p };
}
