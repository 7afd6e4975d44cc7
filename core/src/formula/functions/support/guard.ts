import { CellError } from "../../value.js";

/**
 * Whatever a file's formula gives a function, too few arguments or such as no office program would take, becomes an error in its cell
 * and never an error of the program. What calls itself too deeply is `#NUM!`, too.
 */
export function guarded<Args extends readonly unknown[], Given>(
  body: (...args: Args) => Given,
): (...args: Args) => Given | CellError {
  return (...args) => {
    try {
      const value = body(...args);
      return typeof value === "number" && !Number.isFinite(value) ? CellError.of("#NUM!") : value;
    } catch (error) {
      if (error instanceof TypeError) return CellError.of("#VALUE!");
      if (error instanceof RangeError) return CellError.of("#NUM!");
      throw error;
    }
  };
}
