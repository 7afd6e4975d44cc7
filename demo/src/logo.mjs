import { PNG } from "pngjs";

/** The office's mark: a shaft with a car and two arrows, drawn four times as large and averaged for smooth edges. */
export function logoPng() {
  const [width, height, scale] = [192, 192, 4];
  const png = new PNG({ width, height });
  for (let y = 0; y < height; y++) {
    for (let x = 0; x < width; x++) {
      const sum = [0, 0, 0, 0];
      for (let dy = 0; dy < scale; dy++) {
        for (let dx = 0; dx < scale; dx++) {
          const color = colorAt((x + (dx + 0.5) / scale) / width, (y + (dy + 0.5) / scale) / height);
          for (let channel = 0; channel < 3; channel++) sum[channel] += color[channel] * color[3];
          sum[3] += color[3];
        }
      }
      const at = (y * width + x) * 4;
      for (let channel = 0; channel < 3; channel++)
        png.data[at + channel] = sum[3] === 0 ? 0 : Math.round(sum[channel] / sum[3]);
      png.data[at + 3] = Math.round((sum[3] / scale ** 2) * 255);
    }
  }
  return PNG.sync.write(png);
}

const TEAL = [15, 92, 92, 1];
const AMBER = [224, 158, 40, 1];
const WHITE = [255, 255, 255, 1];
const CLEAR = [0, 0, 0, 0];

function colorAt(x, y) {
  const inside = (left, top, right, bottom) => x >= left && x <= right && y >= top && y <= bottom;
  const corner = Math.hypot(Math.max(0.12 - x, x - 0.88, 0), Math.max(0.12 - y, y - 0.88, 0));
  if (corner > 0.12) return CLEAR;
  if (inside(0.22, 0.14, 0.6, 0.86)) {
    if (inside(0.27, 0.4, 0.55, 0.8)) return Math.abs(x - 0.41) < 0.012 ? TEAL : AMBER;
    if (Math.abs(x - 0.41) < 0.012 && y < 0.4) return TEAL;
    return WHITE;
  }
  const up = y > 0.24 && y < 0.44 && Math.abs(x - 0.75) < (y - 0.24) * 0.6;
  const down = y > 0.56 && y < 0.76 && Math.abs(x - 0.75) < (0.76 - y) * 0.6;
  return up || down ? WHITE : TEAL;
}
