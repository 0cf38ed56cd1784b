/** Milliseconds of each call. */
export function times(count: number, work: () => void): number[] {
  return Array.from({ length: count }, () => {
    const start = performance.now();
    work();
    return performance.now() - start;
  });
}

export function median(values: readonly number[]): number {
  const sorted = [...values].sort((a, b) => a - b);
  return sorted[sorted.length >> 1];
}

export function row(...cells: readonly (string | number)[]) {
  process.stdout.write(
    `${cells
      .map((c) => (typeof c === "number" ? c.toPrecision(3) : c).toString().padEnd(14))
      .join(" ")
      .trimEnd()}\n`,
  );
}
