import { numberInText } from "../../coercion.js";
import { CellError, compareScalars, ERROR_NAMES, isSameNumber, type Scalar } from "../../value.js";

/** The condition of SUMIF and its relatives: `">=10"`, `"<>open"`, `"rep*"`, or a plain value. */
export function criterion(condition: Scalar): (value: Scalar) => boolean {
  if (condition instanceof CellError) return (value) => value === condition;
  if (typeof condition === "boolean") return (value) => value === condition;
  if (typeof condition === "number") return equalsNumber(condition);
  // A blank cell as the condition asks for nought.
  if (condition === null) return equalsNumber(0);
  const match = /^(<=|>=|<>|<|>|=)?([\s\S]*)$/.exec(condition);
  const operator = match?.[1] ?? "=";
  const wanted = match?.[2] ?? "";
  const bound = constantIn(wanted);
  if (operator === "=" || operator === "<>") {
    const isEqual = equalTest(wanted, bound, match?.[1] !== undefined);
    return operator === "=" ? isEqual : (value) => !isEqual(value);
  }
  // A bound of another kind than the cell lets nothing pass.
  if (bound instanceof CellError) return () => false;
  return (value) => value !== null && typeof value === typeof bound && PASSES[operator](compareScalars(value, bound));
}

const PASSES: Readonly<Record<string, (order: number) => boolean>> = {
  "<": (order) => order < 0,
  "<=": (order) => order <= 0,
  ">": (order) => order > 0,
  ">=": (order) => order >= 0,
};

/** What is written behind the operator: a number, a day, a truth value, an error, or a text. */
function constantIn(text: string): number | boolean | string | CellError {
  if (/^true$/i.test(text.trim())) return true;
  if (/^false$/i.test(text.trim())) return false;
  const error = ERROR_NAMES.find((name) => name === text.trim().toUpperCase());
  if (error) return CellError.of(error);
  return numberInText(text) ?? text;
}

/** Numbers written as texts are the same as numbers here. */
function equalsNumber(number: number): (value: Scalar) => boolean {
  return (value) =>
    typeof value === "number"
      ? isSameNumber(value, number)
      : typeof value === "string" && value.trim() !== "" && numberInText(value) === number;
}

function equalTest(wanted: string, bound: Scalar, isSaid: boolean): (value: Scalar) => boolean {
  if (bound instanceof CellError || typeof bound === "boolean") return (value) => value === bound;
  if (typeof bound === "number") return equalsNumber(bound);
  // "=" alone asks for cells with nothing in them; a blank text also takes those with a blank text.
  if (wanted === "") return (value) => value === null || (!isSaid && value === "");
  const pattern = wildcard(wanted);
  return (value) => typeof value === "string" && pattern.test(value);
}

/** Whether a text has signs that stand for others. */
export const hasWildcard = (text: string): boolean => /[*?~]/.test(text);

/** `*` and `?` as in spreadsheets, `~` before one takes it literally. */
export function wildcard(pattern: string): RegExp {
  return new RegExp(`^${wildcardSource(pattern)}$`, "i");
}

/** The same within a text: where it begins. */
export function wildcardWithin(pattern: string): RegExp {
  return new RegExp(wildcardSource(pattern).replaceAll("[\\s\\S]*", "[\\s\\S]*?"), "gi");
}

function wildcardSource(pattern: string): string {
  let source = "";
  for (let at = 0; at < pattern.length; at++) {
    const char = pattern[at];
    if (char === "~" && at + 1 < pattern.length) source += escape(pattern[++at]);
    else if (char === "*") source += "[\\s\\S]*";
    else if (char === "?") source += "[\\s\\S]";
    else source += escape(char);
  }
  return source;
}

function escape(char: string): string {
  return char.replace(/[.*+?^${}()|[\]\\]/g, "\\$&");
}
