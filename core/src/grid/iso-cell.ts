import { isoFromSerial } from "../common/index.js";
import type { Cell, ColumnInfo } from "../table/index.js";

const DAY_MS = 86_400_000;
/** Serials of the years 1 to 9999: beyond them ISO 8601 has no common spelling. */
const FIRST_SERIAL = -693_593;
const LAST_SERIAL = 2_958_465;

/**
 * A cell as ISO 8601 spells it: a date as `2026-11-02`, a moment as `2026-11-02T07:30:00`, a time as `07:30:00`, with a part of a
 * second where there is one. Anything else stays as it is.
 */
export function isoCell(type: ColumnInfo["type"], value: Cell): Cell {
  if (typeof value !== "number" || !Number.isFinite(value)) return value;
  if (type === "time") return value < 0 ? value : clock(Math.round(value * DAY_MS));
  if (type !== "date" && type !== "datetime") return value;
  if (value < FIRST_SERIAL || value >= LAST_SERIAL + 1) return value;
  if (type === "date") return isoFromSerial(Math.floor(value));
  const ms = Math.round(value * DAY_MS);
  const day = Math.floor(ms / DAY_MS);
  return `${isoFromSerial(day)}T${clock(ms - day * DAY_MS)}`;
}

function clock(ms: number): string {
  const two = (part: number): string => String(part).padStart(2, "0");
  const seconds = Math.floor(ms / 1000);
  const rest = ms % 1000;
  const text = `${two(Math.floor(seconds / 3600))}:${two(Math.floor(seconds / 60) % 60)}:${two(seconds % 60)}`;
  return rest === 0 ? text : `${text}.${String(rest).padStart(3, "0")}`;
}
