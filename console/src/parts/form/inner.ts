import type { Path } from "../../lib/report/definition";
import type { Schema } from "../../lib/report/schema";

/** A field within another, drawn by whoever draws the outer one. */
export interface Inner {
  readonly path: Path;
  readonly schema: Schema;
  readonly label?: string | undefined;
  readonly onremove?: (() => void) | undefined;
}
