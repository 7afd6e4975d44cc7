/** A whole number as English texts have it: 12,345. */
export const thousands = (value: number): string => value.toLocaleString("en");

/** So many of something: "1 row", "12 rows". */
export const counted = (value: number, one: string, many: string): string =>
  `${thousands(value)} ${value === 1 ? one : many}`;
