/** Values that the rows of a pivot's source are grouped by. */
import { CellError, type Scalar } from "../../formula/index.js";

/** The same for values that are one item: texts without regard to case. */
export function itemKey(value: Scalar): string {
  if (value === null || value === "") return "blank";
  if (value instanceof CellError) return `error ${value.name}`;
  if (typeof value === "string") return `text ${value.toLowerCase()}`;
  return `${typeof value} ${value}`;
}

const COLLATOR = new Intl.Collator("en", { numeric: false, sensitivity: "accent" });

/** Numbers before texts, truth values, errors and blanks: the order in which sheets are sorted. */
export function compareItems(a: Scalar, b: Scalar): number {
  const [first, second] = [rank(a), rank(b)];
  if (first !== second) return first - second;
  if (typeof a === "number" && typeof b === "number") return a - b;
  if (typeof a === "string" && typeof b === "string") return COLLATOR.compare(a, b);
  return Number(a === true) - Number(b === true);
}

function rank(value: Scalar): number {
  if (value === null || value === "") return 4;
  if (value instanceof CellError) return 3;
  if (typeof value === "boolean") return 2;
  return typeof value === "string" ? 1 : 0;
}
