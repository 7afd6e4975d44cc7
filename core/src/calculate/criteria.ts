import { CellError, compareScalars, type Scalar, textOf } from "./value.js";

/** The condition of SUMIF and its relatives: `">=10"`, `"<>open"`, `"rep*"`, or a plain value. */
export function criterion(condition: Scalar): (value: Scalar) => boolean {
  if (typeof condition !== "string")
    return (value) => value !== null && !(value instanceof CellError) && compareScalars(value, condition) === 0;
  const match = /^(<=|>=|<>|<|>|=)?([\s\S]*)$/.exec(condition);
  const operator = match?.[1] ?? "=";
  const wanted = match?.[2] ?? "";
  const number =
    wanted.trim() === "" ? Number.NaN : Number(wanted.replace(/%$/, "")) / (wanted.endsWith("%") ? 100 : 1);
  if (operator === "=" || operator === "<>") {
    const isEqual = equalTest(wanted, number);
    return operator === "=" ? isEqual : (value) => !isEqual(value);
  }
  const bound: Scalar = Number.isNaN(number) ? wanted : number;
  const passes: Record<string, (order: number) => boolean> = {
    "<": (o) => o < 0,
    "<=": (o) => o <= 0,
    ">": (o) => o > 0,
    ">=": (o) => o >= 0,
  };
  return (value) => typeof value === typeof bound && passes[operator](compareScalars(value, bound));
}

function equalTest(wanted: string, number: number): (value: Scalar) => boolean {
  if (!Number.isNaN(number))
    return (value) =>
      value === number || (typeof value === "string" && Number(value) === number && value.trim() !== "");
  if (wanted === "") return (value) => value === null || value === "";
  const pattern = wildcard(wanted);
  return (value) => {
    const text = textOf(value);
    return typeof text === "string" && value !== null && pattern.test(text);
  };
}

/** `*` and `?` as in spreadsheets, `~` before one takes it literally. */
export function wildcard(pattern: string): RegExp {
  let source = "";
  for (let at = 0; at < pattern.length; at++) {
    const char = pattern[at];
    if (char === "~" && at + 1 < pattern.length) source += escape(pattern[++at]);
    else if (char === "*") source += "[\\s\\S]*";
    else if (char === "?") source += "[\\s\\S]";
    else source += escape(char);
  }
  return new RegExp(`^${source}$`, "i");
}

function escape(char: string): string {
  return char.replace(/[.*+?^${}()|[\]\\]/g, "\\$&");
}
