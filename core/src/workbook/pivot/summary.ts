/** One cell of a pivot while its rows are gone through: ECMA-376 part 1, 18.18.17. */
import { CellError, type Scalar } from "../../formula/index.js";

export const SUMMARIES = [
  "sum",
  "count",
  "countNums",
  "average",
  "max",
  "min",
  "product",
  "stdDev",
  "stdDevp",
  "var",
  "varp",
] as const;

export type SummaryKind = (typeof SUMMARIES)[number];

/** Values of one field in the rows that belong to a cell. Blanks count for nothing, texts for `count` alone. */
export class Summary {
  private filled = 0;
  private numbers = 0;
  private sum = 0;
  /** What the additions so far have lost (Neumaier). */
  private lost = 0;
  private product = 1;
  private mean = 0;
  private squares = 0;
  private least = Number.POSITIVE_INFINITY;
  private greatest = Number.NEGATIVE_INFINITY;
  private error: CellError | undefined;

  add(value: Scalar): void {
    if (value === null || value === "") return;
    this.filled++;
    if (value instanceof CellError) this.error ??= value;
    if (typeof value !== "number") return;
    this.numbers++;
    const sum = this.sum + value;
    this.lost += Math.abs(this.sum) >= Math.abs(value) ? this.sum - sum + value : value - sum + this.sum;
    this.sum = sum;
    this.product *= value;
    const distance = value - this.mean;
    this.mean += distance / this.numbers;
    this.squares += distance * (value - this.mean);
    this.least = Math.min(this.least, value);
    this.greatest = Math.max(this.greatest, value);
  }

  /** Blank where no row has a value. */
  result(kind: SummaryKind): Scalar {
    if (this.filled === 0) return null;
    if (kind === "count") return this.filled;
    if (kind === "countNums") return this.numbers;
    if (this.error) return this.error;
    const { numbers } = this;
    const total = this.sum + this.lost;
    switch (kind) {
      case "sum":
        return total;
      case "average":
        return numbers === 0 ? CellError.of("#DIV/0!") : total / numbers;
      case "max":
        return numbers === 0 ? 0 : this.greatest;
      case "min":
        return numbers === 0 ? 0 : this.least;
      case "product":
        return numbers === 0 ? 0 : this.product;
      case "var":
      case "stdDev":
        return numbers < 2 ? CellError.of("#DIV/0!") : rooted(this.squares / (numbers - 1), kind === "stdDev");
      default:
        return numbers === 0 ? CellError.of("#DIV/0!") : rooted(this.squares / numbers, kind === "stdDevp");
    }
  }
}

function rooted(variance: number, isRooted: boolean): number {
  return isRooted ? Math.sqrt(variance) : variance;
}
