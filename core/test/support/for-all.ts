import fc from "fast-check";

/** Draws a whole number from 0 to below `limit`. */
export type Draw = (limit: number) => number;

/** Checks something for many cases that are drawn. A case that fails is told with its seed, and made smaller first. */
export function forAll(runs: number, check: (draw: Draw) => void): void {
  fc.assert(
    fc.property(fc.gen(), (draw) => check((limit) => draw(fc.nat, { max: limit - 1 }))),
    { numRuns: runs },
  );
}

/** As `forAll`, for what takes its time. */
export function forAllSlow(runs: number, check: (draw: Draw) => Promise<void>): Promise<void> {
  return fc.assert(
    fc.asyncProperty(fc.gen(), (draw) => check((limit) => draw(fc.nat, { max: limit - 1 }))),
    { numRuns: runs },
  );
}
