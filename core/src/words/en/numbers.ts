/** A whole number as English texts have it: 12,345. */
export const thousands = (value: number): string => value.toLocaleString("en");

/** A place in a row: "1st", "22nd"; from its end "last", "2nd last". */
export const ordinal = (value: number): string => {
  const place = Math.abs(value);
  if (value === -1) return "last";
  const tens = place % 100;
  const sign = tens > 10 && tens < 14 ? "th" : (["th", "st", "nd", "rd"][place % 10] ?? "th");
  return `${place}${sign}${value < 0 ? " last" : ""}`;
};

/** So many of something: "1 row", "12 rows". */
export const counted = (value: number, one: string, many: string): string =>
  `${thousands(value)} ${value === 1 ? one : many}`;

/** A size as people read it, and as the console shows it: "12 kB", "3.4 GB". */
export const sizeText = (bytes: number): string =>
  bytes < 1_048_576
    ? `${Math.ceil(bytes / 1_024)} kB`
    : bytes < 1_073_741_824
      ? `${Math.ceil(bytes / 1_048_576)} MB`
      : `${(bytes / 1_073_741_824).toFixed(1)} GB`;
