/** Lengths as files write them: bare numbers of a unit that hangs on the attribute, or with a unit (ECMA-376 part 1, 22.9.2.15). */

/** Points of each unit. */
const UNITS: Readonly<Record<string, number>> = { pt: 1, in: 72, cm: 72 / 2.54, mm: 72 / 25.4, pc: 12, pi: 12 };

/** A length in points; `perPoint` is how many of the attribute's own units a point has. `undefined` for what is none. */
export function readMeasure(value: string | undefined, perPoint: number): number | undefined {
  const parts = /^\s*([+-]?(?:\d+\.?\d*|\.\d+))(pt|in|cm|mm|pc|pi)?\s*$/.exec(value ?? "");
  if (!parts) return undefined;
  const number = Number(parts[1]);
  return parts[2] === undefined ? number / perPoint : number * UNITS[parts[2]];
}
