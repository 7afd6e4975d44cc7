/** Patterns of fills (20.1.10.51), as cells of eight by eight points: which of them are in the pattern's own colour. */

type Test = (x: number, y: number) => boolean;

/** Thresholds of ordered dithering, row by row. */
const ORDER = [
  [0, 32, 8, 40, 2, 34, 10, 42],
  [48, 16, 56, 24, 50, 18, 58, 26],
  [12, 44, 4, 36, 14, 46, 6, 38],
  [60, 28, 52, 20, 62, 30, 54, 22],
  [3, 35, 11, 43, 1, 33, 9, 41],
  [51, 19, 59, 27, 49, 17, 57, 25],
  [15, 47, 7, 39, 13, 45, 5, 37],
  [63, 31, 55, 23, 61, 29, 53, 21],
];

const down =
  (wide: number, every: number): Test =>
  (x, y) =>
    (x - y + 64) % every < wide;
const up =
  (wide: number, every: number): Test =>
  (x, y) =>
    (x + y) % every < wide;
const rows =
  (wide: number, every: number): Test =>
  (_, y) =>
    y % every < wide;
const columns =
  (wide: number, every: number): Test =>
  (x) =>
    x % every < wide;
const either =
  (...tests: readonly Test[]): Test =>
  (x, y) =>
    tests.some((test) => test(x, y));
const both =
  (a: Test, b: Test): Test =>
  (x, y) =>
    a(x, y) && b(x, y);
/** Points that are named, as `xy` each. */
const points =
  (list: string): Test =>
  (x, y) =>
    list.includes(` ${x}${y}`);
const checks =
  (size: number): Test =>
  (x, y) =>
    (Math.floor(x / size) + Math.floor(y / size)) % 2 === 0;
const distance = (x: number, y: number): number => Math.abs(x - 4) + Math.abs(y - 4);

const PATTERNS: Readonly<Record<string, Test>> = {
  horz: rows(1, 8),
  vert: columns(1, 8),
  ltHorz: rows(1, 4),
  ltVert: columns(1, 4),
  dkHorz: rows(2, 4),
  dkVert: columns(2, 4),
  narHorz: rows(1, 2),
  narVert: columns(1, 2),
  dashHorz: either(
    both(rows(1, 8), (x) => x < 4),
    both(
      (_, y) => y === 4,
      (x) => x >= 4,
    ),
  ),
  dashVert: either(
    both(columns(1, 8), (_, y) => y < 4),
    both(
      (x) => x === 4,
      (_, y) => y >= 4,
    ),
  ),
  cross: either(rows(1, 8), columns(1, 8)),
  dnDiag: down(1, 8),
  upDiag: up(1, 8),
  ltDnDiag: down(1, 4),
  ltUpDiag: up(1, 4),
  dkDnDiag: down(2, 4),
  dkUpDiag: up(2, 4),
  wdDnDiag: down(3, 8),
  wdUpDiag: up(3, 8),
  dashDnDiag: both(down(1, 4), (_, y) => y < 4),
  dashUpDiag: both(up(1, 4), (_, y) => y < 4),
  diagCross: either(down(1, 8), up(1, 8)),
  smCheck: checks(2),
  lgCheck: checks(4),
  smGrid: either(rows(1, 4), columns(1, 4)),
  lgGrid: either(rows(1, 8), columns(1, 8)),
  dotGrid: either(both(rows(1, 8), columns(1, 2)), both(columns(1, 8), rows(1, 2))),
  smConfetti: points(" 00 41 22 63 14 55 76 37"),
  lgConfetti: points(" 00 10 01 11 41 51 42 52 23 33 24 34 64 74 65 75 06 16 07 17 46 56 47 57"),
  horzBrick: either(
    rows(1, 4),
    both(
      (x) => x === 0,
      (_, y) => y < 4,
    ),
    both(
      (x) => x === 4,
      (_, y) => y >= 4,
    ),
  ),
  diagBrick: either(
    up(1, 8),
    both(down(1, 8), (x) => x < 4),
  ),
  solidDmnd: (x, y) => distance(x, y) <= 3,
  openDmnd: either(down(1, 8), up(1, 8)),
  dotDmnd: both(either(down(1, 8), up(1, 8)), (x) => x % 2 === 0),
  plaid: either(
    both(rows(4, 8), checks(1)),
    both(
      (_, y) => y >= 4,
      (x) => x < 4,
    ),
  ),
  sphere: (x, y) => (x - 4) ** 2 + (y - 4) ** 2 <= 10,
  weave: either(
    both(down(1, 4), (x) => x < 4),
    both(up(1, 4), (x) => x >= 4),
  ),
  divot: points(" 31 22 33 75 66 77"),
  shingle: either(points(" 00 11 22 33 43 52 61 70 34 45 36"), rows(1, 8)),
  wave: points(" 01 12 23 32 41 51 62 73 05 16 27 36 45 55 66 77"),
  trellis: either(
    rows(1, 2),
    both(
      (x) => x % 4 < 2,
      (_, y) => y % 4 === 1,
    ),
    both(
      (x) => x % 4 >= 2,
      (_, y) => y % 4 === 3,
    ),
  ),
  zigZag: (x, y) => (x < 4 ? x : 7 - x) % 4 === y % 4,
};

/** Stretches of a pattern's own colour in its cell of eight by eight. Names nobody knows are half of it. */
export function patternRuns(name: string): { readonly x: number; readonly y: number; readonly width: number }[] {
  const share = /^pct(\d+)$/.exec(name)?.[1];
  const test: Test =
    share === undefined
      ? (PATTERNS[name] ?? ((x, y) => ORDER[y][x] < 32))
      : (x, y) => ORDER[y][x] < Math.round((Number(share) * 64) / 100);
  const runs: { x: number; y: number; width: number }[] = [];
  for (let y = 0; y < 8; y++)
    for (let x = 0; x < 8; x++) {
      if (!test(x, y)) continue;
      const last = runs[runs.length - 1];
      if (last?.y === y && last.x + last.width === x) last.width++;
      else runs.push({ x, y, width: 1 });
    }
  return runs;
}
