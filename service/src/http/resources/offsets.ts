import { cursorOf, keysOfCursor } from "../../records/index.js";

/** Where a page of rows begins, as a cursor says. Throws `BAD_REQUEST`. */
export function offsetOf(cursor: string | undefined): number {
  if (cursor === undefined) return 0;
  const [first] = keysOfCursor(cursor, 1);
  return typeof first === "number" && Number.isInteger(first) && first >= 0 ? first : 0;
}

/** The cursor of the page that begins there; null behind the last. */
export function offsetPage(first: number, total: number): string | null {
  return first < total ? cursorOf([first]) : null;
}
