/** The least and the greatest of any number of values: an argument list holds only so many. */

/** The least value; `none` where there is none. */
export function least(values: Iterable<number>, none = Number.POSITIVE_INFINITY): number {
  let found: number | undefined;
  for (const value of values) if (found === undefined || value < found) found = value;
  return found ?? none;
}

/** The greatest value; `none` where there is none. */
export function greatest(values: Iterable<number>, none = Number.NEGATIVE_INFINITY): number {
  let found: number | undefined;
  for (const value of values) if (found === undefined || value > found) found = value;
  return found ?? none;
}
