import { formatColor } from "numfmt";
import { formatValue } from "../../../common/index.js";
import { numberText } from "../../../formula/index.js";
import type { CellFormat } from "../../../spreadsheet/index.js";
import type { PrintCell } from "../read/read-sheet.js";

export interface ShownCell {
  readonly text: string;
  /** Colour the number format asks for, such as red for negatives. */
  readonly color: string | undefined;
  readonly isNumber: boolean;
}

const COLOR_NAMES: Readonly<Record<string, string>> = {
  black: "000000",
  blue: "0000FF",
  cyan: "00FFFF",
  green: "00FF00",
  magenta: "FF00FF",
  red: "FF0000",
  white: "FFFFFF",
  yellow: "FFFF00",
};

/** A cell's value as its number format shows it. */
export function showCell(cell: PrintCell, format: CellFormat): ShownCell {
  const { value } = cell;
  if (cell.isError) return { text: String(value), color: undefined, isNumber: false };
  if (typeof value === "boolean") return { text: value ? "TRUE" : "FALSE", color: undefined, isNumber: false };
  if (typeof value === "string")
    return {
      text: format.code === "General" || format.code === "@" ? value : formatValue(value, format.code),
      color: undefined,
      isNumber: false,
    };
  const text = format.code === "General" ? generalNumber(value) : formatValue(value, format.code);
  return { text, color: /\[[a-z]+\d*\]/i.test(format.code) ? colorOf(value, format.code) : undefined, isNumber: true };
}

/**
 * A number of the general format in fewer digits, for a cell too narrow for it: rounded to fewer places, then with an exponent
 * of fewer places; `undefined` where none fits.
 */
export function narrowNumber(value: number, fits: (text: string) => boolean): string | undefined {
  const whole = generalNumber(value);
  if (!whole.includes("E")) {
    const places = /\.(\d+)$/.exec(whole)?.[1].length ?? 0;
    for (let left = places - 1; left >= 0; left--) {
      const rounded = Number(value.toFixed(left));
      const text = numberText(rounded);
      // What is not nought is not shown as nought.
      if (fits(text) && (rounded !== 0 || value === 0)) return text;
    }
  }
  for (let left = 5; left >= 0; left--) {
    const text = formatValue(value, left === 0 ? "0E+00" : `0.${"#".repeat(left)}E+00`).replace(/\.E/, "E");
    if (fits(text)) return text;
  }
  return undefined;
}

/** The general format: up to eleven characters, no blanks at the end. */
function generalNumber(value: number): string {
  const text = numberText(value);
  if (text.length <= 11) return text;
  const size = Math.abs(value);
  if (size >= 1e11 || size < 1e-4) return formatValue(value, "0.#####E+00");
  return numberText(Number(value.toPrecision(Math.min(10, 10 - (size < 1 ? 1 : 0)))));
}

function colorOf(value: number, code: string): string | undefined {
  try {
    const color = formatColor(code, value);
    return typeof color === "string" ? COLOR_NAMES[color.toLowerCase()] : undefined;
  } catch {
    return undefined;
  }
}
