/** Pictures in other colours: their samples go through a calculation on the way to the page (ISO 32000-1, 7.10.5 and 8.6.6.5). */
import type { Recolor } from "../page/index.js";
import { type PdfFile, pdfNumber } from "./objects.js";

/** Lightness of red, green and blue: the weights of ITU-R BT.601. */
const LIGHTNESS = "0.114 mul exch 0.587 mul add exch 0.299 mul add";

/** The colour space that changes a picture's samples; `undefined` where they are neither grey nor red, green and blue. */
export function recolored(pdf: PdfFile, changes: Recolor, components: number): string | undefined {
  if (components !== 1 && components !== 3) return undefined;
  const steps = [...(components === 1 ? ["dup dup"] : []), ...changes.map(calculation)];
  const [names, domain] = components === 1 ? ["/Gray", "0 1"] : ["/Red /Green /Blue", "0 1 0 1 0 1"];
  const calculated = pdf.stream(`{ ${steps.join(" ")} }`, `/FunctionType 4 /Domain [${domain}] /Range [0 1 0 1 0 1]`);
  return `[/DeviceN [${names}] /DeviceRGB ${calculated}]`;
}

function calculation(change: Recolor[number]): string {
  switch (change.kind) {
    case "gray":
      return `${LIGHTNESS} dup dup`;
    case "split":
      return `${LIGHTNESS} ${pdfNumber(change.at)} ge { 1 1 1 } { 0 0 0 } ifelse`;
    case "between": {
      const [dark, light] = [change.dark, change.light].map((color) =>
        [0, 2, 4].map((at) => Number.parseInt(color.slice(at, at + 2), 16) / 255),
      );
      const one = (at: number): string => `${pdfNumber(light[at] - dark[at])} mul ${pdfNumber(dark[at])} add`;
      return `${LIGHTNESS} dup ${one(0)} exch dup ${one(1)} exch ${one(2)}`;
    }
    case "light": {
      const factor = change.contrast >= 0 ? 1 / Math.max(0.01, 1 - change.contrast) : 1 + change.contrast;
      const offset = 0.5 - 0.5 * factor + change.bright;
      const one = `${pdfNumber(factor)} mul ${pdfNumber(offset)} add dup 0 lt { pop 0 } if dup 1 gt { pop 1 } if 3 1 roll`;
      return `${one} ${one} ${one}`;
    }
  }
}
