/** How far a reading lies from a prediction, in limits: low to the left, high to the right. */
export function DeviationBar({ limits: size }: { limits: number }) {
  const length = Math.min(1, Math.abs(size) / 4) * 34;
  const outside = Math.abs(size) > 1;
  const word = outside ? (size > 0 ? "above its limits" : "below its limits") : "within its limits";
  return (
    <svg width="76" height="16" viewBox="-38 -8 76 16" role="img" aria-label={word}>
      <path d="M-36 0 H36" stroke="var(--rule)" strokeWidth="2" />
      <rect x="-8.5" y="-6" width="17" height="12" fill="none" stroke="var(--faint)" strokeWidth="1.2" />
      {outside ? (
        <rect
          x={size < 0 ? -length : 0}
          y="-4"
          width={length}
          height="8"
          fill={size < 0 ? "var(--low)" : "var(--high)"}
        />
      ) : (
        <circle r="3.4" cx={size * 8.5} fill="var(--ink)" />
      )}
    </svg>
  );
}
