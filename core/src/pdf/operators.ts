/** Content stream operators for items: ISO 32000-1, 8 and 9. */
import type { LineItem, Matrix, PathCommand, ShadeItem, ShadeStop, TextItem } from "../page/index.js";
import { pdfNumber } from "./objects.js";

/** The text matrix: plain, or turned about the text's start. */
export function position(item: TextItem, x: number, height: number): string {
  if (!item.rotation) return `1 0 0 1 ${pdfNumber(x)} ${pdfNumber(height - item.y)}`;
  const angle = (item.rotation * Math.PI) / 180;
  const [cos, sin] = [Math.cos(angle), Math.sin(angle)];
  const along = x - item.x;
  return `${pdfNumber(cos)} ${pdfNumber(sin)} ${pdfNumber(-sin)} ${pdfNumber(cos)} ${pdfNumber(item.x + along * cos)} ${pdfNumber(height - item.y + along * sin)}`;
}

export function line(item: LineItem, height: number): string {
  const dash = item.dash ? `[${item.dash.map(pdfNumber).join(" ")}] 0 d ` : "[] 0 d ";
  return `${rgb(item.color)} RG ${pdfNumber(item.width)} w ${dash}${pdfNumber(item.x1)} ${pdfNumber(height - item.y1)} m ${pdfNumber(item.x2)} ${pdfNumber(height - item.y2)} l S\n`;
}

export function rectangle(box: { x: number; y: number; width: number; height: number }, height: number): string {
  return [box.x, height - box.y - box.height, box.width, box.height].map(pdfNumber).join(" ");
}

/** The operands that put a system of its own, in the page's way, into effect (8.3.4). */
export function system([a, b, c, d, e, f]: Matrix, height: number): string {
  return [a, -b, -c, d, c * height + e, height - d * height - f].map(pdfNumber).join(" ");
}

export function commands(path: readonly PathCommand[], height: number): string {
  let written = "";
  for (const command of path) {
    if (command[0] === "Z") {
      written += "h ";
      continue;
    }
    const [, ...places] = command;
    for (let at = 0; at < places.length; at += 2) {
      const [x, y] = [places[at], places[at + 1]];
      written += `${pdfNumber(x)} ${pdfNumber(height - y)} `;
    }
    written += command[0] === "M" ? "m " : command[0] === "L" ? "l " : "c ";
  }
  return written;
}

/** A function from 0 to 1 through the stops' colours (7.10.3, 7.10.4). */
export function stopsFunction(
  stops: ShadeItem["stops"],
  valueOf: (stop: ShadeStop) => string = (stop) => rgb(stop.color),
): string {
  const between = (from: string, to: string): string =>
    `<< /FunctionType 2 /Domain [0 1] /C0 [${from}] /C1 [${to}] /N 1 >>`;
  const values = stops.map(valueOf);
  const pieces = values.slice(1).map((value, index) => between(values[index], value));
  if (pieces.length <= 1) return pieces[0] ?? between(values[0] ?? rgb("FFFFFF"), values[0] ?? rgb("FFFFFF"));
  const bounds = stops.slice(1, -1).map((stop) => pdfNumber(stop.at));
  return `<< /FunctionType 3 /Domain [0 1] /Functions [${pieces.join(" ")}] /Bounds [${bounds.join(" ")}] /Encode [${pieces.map(() => "0 1").join(" ")}] >>`;
}

const COLORS = new Map<string, string>();

export function rgb(color: string): string {
  let written = COLORS.get(color);
  if (written === undefined) {
    written = [0, 2, 4].map((at) => pdfNumber(Number.parseInt(color.slice(at, at + 2), 16) / 255)).join(" ");
    COLORS.set(color, written);
  }
  return written;
}
