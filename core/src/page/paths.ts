/** Plain figures as paths. */
import type { Box, PathCommand } from "./page.js";

export function rectangle({ x, y, width, height }: Box): PathCommand[] {
  return [["M", x, y], ["L", x + width, y], ["L", x + width, y + height], ["L", x, y + height], ["Z"]];
}

/** How far the points of a curve that makes a quarter of a circle lie from its ends. */
const QUARTER = 0.5523;

export function ellipse(cx: number, cy: number, rx: number, ry: number): PathCommand[] {
  const [kx, ky] = [rx * QUARTER, ry * QUARTER];
  return [
    ["M", cx + rx, cy],
    ["C", cx + rx, cy + ky, cx + kx, cy + ry, cx, cy + ry],
    ["C", cx - kx, cy + ry, cx - rx, cy + ky, cx - rx, cy],
    ["C", cx - rx, cy - ky, cx - kx, cy - ry, cx, cy - ry],
    ["C", cx + kx, cy - ry, cx + rx, cy - ky, cx + rx, cy],
    ["Z"],
  ];
}
