/** Rules of a sheet's conditional formats as they are written: ECMA-376 part 1, 18.3.1.10. */
import type { XmlElement } from "../../../ooxml/index.js";
import { type CellRange, cellName, type FormatChange, maybeRange, type Workbook } from "../../../spreadsheet/index.js";

export interface Rule {
  readonly element: XmlElement;
  readonly type: string;
  readonly priority: number;
  readonly ranges: readonly CellRange[];
  readonly change: FormatChange | undefined;
  /** Formula over the upper left cell, where the rule is one. */
  readonly formula: string | undefined;
  /** What later programs say of a bar. */
  readonly extension: XmlElement | undefined;
}

/** In the order in which they count; kinds that are not known are told. */
export function readRules(workbook: Workbook, root: XmlElement, unknown: Set<string>): Rule[] {
  const extensions = root.child("extLst")?.descendants("cfRule") ?? [];
  const rules = root.elements("conditionalFormatting").flatMap((format) => {
    const ranges = (format.attr("sqref") ?? "").split(" ").flatMap((ref) => maybeRange(ref) ?? []);
    if (ranges.length === 0) return [];
    return format.elements("cfRule").map((element): Rule => {
      const type = element.attr("type") ?? "";
      const id = element.child("extLst")?.descendants("id")[0]?.text;
      const index = element.attr("dxfId");
      return {
        element,
        type,
        priority: Number(element.attr("priority") ?? 0),
        ranges,
        change: index === undefined ? undefined : workbook.styles.changes[Number(index)],
        formula: formulaOf(element, type, corner(ranges)),
        extension: id === undefined ? undefined : extensions.find((one) => one.attr("id") === id),
      };
    });
  });
  const known = rules.filter((rule) => {
    const isKnown = rule.formula !== undefined || BY_VALUES.has(rule.type);
    if (!isKnown) unknown.add(rule.type);
    return isKnown;
  });
  return known.sort((a, b) => a.priority - b.priority);
}

/** Rules that look at all values of their range. */
const BY_VALUES = new Set([
  "colorScale",
  "dataBar",
  "iconSet",
  "top10",
  "aboveAverage",
  "duplicateValues",
  "uniqueValues",
]);

/** Upper left cell of all ranges: what formulas of a rule are written for. */
export function corner(ranges: readonly CellRange[]): { row: number; column: number } {
  return { row: Math.min(...ranges.map((range) => range.top)), column: Math.min(...ranges.map((range) => range.left)) };
}

const OPERATORS: Readonly<Record<string, string>> = {
  lessThan: "<",
  lessThanOrEqual: "<=",
  equal: "=",
  notEqual: "<>",
  greaterThanOrEqual: ">=",
  greaterThan: ">",
};

function formulaOf(element: XmlElement, type: string, at: { row: number; column: number }): string | undefined {
  const formulas = element.elements("formula").map((formula) => formula.text);
  if (BY_VALUES.has(type)) return undefined;
  if (type !== "cellIs") return formulas[0];
  const cell = cellName(at.row, at.column);
  const operator = element.attr("operator") ?? "";
  const [first, second] = formulas;
  if (first === undefined) return undefined;
  if (operator === "between") return `AND(${cell}>=MIN(${first},${second}),${cell}<=MAX(${first},${second}))`;
  if (operator === "notBetween") return `OR(${cell}<MIN(${first},${second}),${cell}>MAX(${first},${second}))`;
  return OPERATORS[operator] === undefined ? undefined : `${cell}${OPERATORS[operator]}(${first})`;
}
