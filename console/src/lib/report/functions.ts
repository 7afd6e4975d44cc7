/** Functions of the expression language as they are offered while a formula is written; docs/expressions.md tells all of them. */
export interface OfferedFunction {
  readonly name: string;
  readonly example: string;
  readonly what: string;
  /** Of single values, or over the lines of a group. */
  readonly over: "value" | "line";
}

export const FUNCTIONS: readonly OfferedFunction[] = [
  {
    name: "if",
    example: 'if(line.hours > 1, "long", "short")',
    what: "one of two values; only the taken one is looked at",
    over: "value",
  },
  {
    name: "choose",
    example: 'choose("b", "a", 1, "b", 2, 0)',
    what: "the value behind the first that is equal, else the last",
    over: "value",
  },
  { name: "coalesce", example: 'coalesce("", "second")', what: "the first that is not blank", over: "value" },
  { name: "isblank", example: 'isblank("")', what: "whether it is blank", over: "value" },
  { name: "round", example: "round(2.345, 2)", what: "half away from zero; places may be negative", over: "value" },
  { name: "roundup", example: "roundup(2.341, 2)", what: "away from zero", over: "value" },
  { name: "rounddown", example: "rounddown(2.349, 2)", what: "towards zero", over: "value" },
  { name: "int", example: "int(-1.5)", what: "the next whole number below", over: "value" },
  { name: "abs", example: "abs(-3)", what: "without its sign", over: "value" },
  { name: "mod", example: "mod(7, 3)", what: "rest of a division", over: "value" },
  { name: "min", example: "min(3, 1, 2)", what: "the smallest", over: "value" },
  { name: "max", example: "max(3, 1, 2)", what: "the largest", over: "value" },
  { name: "upper", example: 'upper("dock 1")', what: "capitals", over: "value" },
  { name: "lower", example: 'lower("Dock 1")', what: "small letters", over: "value" },
  { name: "proper", example: 'proper("north dock")', what: "each word with a capital", over: "value" },
  { name: "trim", example: 'trim("  a   b ")', what: "surplus blanks away", over: "value" },
  { name: "len", example: 'len("lift")', what: "number of characters", over: "value" },
  { name: "left", example: 'left("escalator", 3)', what: "from the left", over: "value" },
  { name: "right", example: 'right("escalator", 3)', what: "from the right", over: "value" },
  { name: "mid", example: 'mid("escalator", 4, 2)', what: "from a place on", over: "value" },
  { name: "substitute", example: 'substitute("L-01", "-", "")', what: "every occurrence replaced", over: "value" },
  {
    name: "contains",
    example: 'contains("Harbour House", "house")',
    what: "whether one is in the other",
    over: "value",
  },
  { name: "startswith", example: 'startswith("L01", "l")', what: "whether it begins so", over: "value" },
  { name: "text", example: 'text(0.5, "0%")', what: "a value by a format", over: "value" },
  { name: "number", example: 'number("1,234.5")', what: "text as a number", over: "value" },
  { name: "today", example: "today()", what: "the day of the run", over: "value" },
  {
    name: "date",
    example: "date(2026, 12, 24)",
    what: "a date, its year of four figures; of one value its day",
    over: "value",
  },
  { name: "year", example: "year(line.visit_date)", what: "the year of a date", over: "value" },
  { name: "month", example: "month(line.visit_date)", what: "the month of a date, 1 to 12", over: "value" },
  { name: "day", example: "day(line.visit_date)", what: "the day of a date, 1 to 31", over: "value" },
  { name: "weekday", example: "weekday(line.visit_date)", what: "1 is Monday", over: "value" },
  { name: "edate", example: "edate(date(2026, 1, 31), 1)", what: "months later; blank for a blank", over: "value" },
  { name: "eomonth", example: "eomonth(line.visit_date, 0)", what: "last day of the month", over: "value" },
  { name: "sum", example: "sum(line.fee)", what: "exact to the last decimal", over: "line" },
  { name: "count", example: "count(line)", what: "lines", over: "line" },
  { name: "average", example: "average(line.hours)", what: "without blanks", over: "line" },
  { name: "min", example: "min(line.visit_date)", what: "the smallest", over: "line" },
  { name: "max", example: "max(line.hours)", what: "the largest", over: "line" },
  { name: "first", example: "first(line.unit)", what: "the first that is not blank", over: "line" },
  { name: "last", example: "last(line.result)", what: "the last that is not blank", over: "line" },
  { name: "distinct", example: "distinct(line.unit)", what: "how many different ones", over: "line" },
  { name: "list", example: "list(line.unit)", what: "each once", over: "line" },
];
