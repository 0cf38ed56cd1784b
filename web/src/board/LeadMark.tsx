/** Which lead goes here: plus in red, minus in black. */
export function LeadMark({ which, x, y }: { which: "red" | "black"; x: number; y: number }) {
  return (
    <>
      <circle cx={x} cy={y} r={9} className={`lead-${which}`} strokeWidth={1.4} />
      <path
        d={which === "red" ? `M${x - 5} ${y} h10 M${x} ${y - 5} v10` : `M${x - 5} ${y} h10`}
        className={`lead-${which}`}
        strokeWidth={2.4}
      />
    </>
  );
}
