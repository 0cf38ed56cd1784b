/** Whether two values of plain data say the same, key by key in the same order. */
export const isSameData = (one: unknown, other: unknown) => JSON.stringify(one) === JSON.stringify(other);
