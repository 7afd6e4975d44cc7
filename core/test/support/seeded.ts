/** Numbers that look random and are the same each time: each call gives one from 0 to below `limit`. */
export function seeded(seed: number): (limit: number) => number {
  let state = seed;
  return (limit) => {
    state = (Math.imul(state, 1664525) + 1013904223) >>> 0;
    return Math.floor((state / 4294967296) * limit);
  };
}
