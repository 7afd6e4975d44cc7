/** Paper sizes by the numbers of ECMA-376 part 1, 18.3.1.63, in points. */
const PAPERS: Readonly<Record<number, readonly [number, number]>> = {
  1: [612, 792],
  3: [792, 1224],
  5: [612, 1008],
  7: [522, 756],
  8: [841.89, 1190.55],
  9: [595.276, 841.89],
  11: [419.528, 595.276],
  12: [728.5, 1031.8],
  13: [515.9, 728.5],
};

/** Width and height; an unknown number is A4. */
export function paperSize(number: number, landscape: boolean): { readonly width: number; readonly height: number } {
  const [width, height] = PAPERS[number] ?? PAPERS[9];
  return landscape ? { width: height, height: width } : { width, height };
}
