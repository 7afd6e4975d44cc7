/** The workbook's own part after filling: names of sheets, defined names, the wish to be recalculated. */
import type { Env } from "../../expression/index.js";
import { type XmlElement, xmlText } from "../../ooxml/index.js";
import type { Workbook } from "../../spreadsheet/index.js";
import { growingCells, type Moves, parseFormulaText, writeFormula } from "../template/formula-text.js";
import type { BoundName } from "./fill.js";
import { withHead } from "./related-parts.js";

export interface WorkbookChange {
  readonly env: Env;
  /** New names of sheets, by their old ones in small letters. */
  readonly renamed: ReadonlyMap<string, string>;
  readonly moves: Moves;
  readonly anyMoves: boolean;
  readonly mustRecalculate: boolean;
}

/** The part's text; `undefined` where nothing of it changes. */
export function writeWorkbook(
  workbook: Workbook,
  names: readonly BoundName[],
  change: WorkbookChange,
): string | undefined {
  const { renamed, mustRecalculate } = change;
  const hasMarks = names.some((name) => name.marks !== undefined);
  if (!change.anyMoves && renamed.size === 0 && !mustRecalculate && !hasMarks) return undefined;
  const children = workbook.xml.children.map((child) => {
    if (child.kind !== "element") return child;
    if (child.local === "sheets")
      return child.withChildren(
        child.children.map((sheet) => (sheet.kind === "element" ? renameSheet(sheet, renamed) : sheet)),
      );
    if (child.local === "definedNames") {
      let at = -1;
      return child.withChildren(
        child.children.map((name) => (name.kind === "element" ? moveName(name, names[++at], change) : name)),
      );
    }
    return child.local === "calcPr" && mustRecalculate ? child.withAttr("fullCalcOnLoad", "1") : child;
  });
  return withHead(workbook.package, workbook.part, workbook.xml.withChildren(children));
}

function renameSheet(sheet: XmlElement, renamed: ReadonlyMap<string, string>): XmlElement {
  const name = renamed.get((sheet.attr("name") ?? "").toLowerCase());
  return name === undefined ? sheet : sheet.withAttr("name", name);
}

function moveName(element: XmlElement, name: BoundName | undefined, change: WorkbookChange): XmlElement {
  const text = name?.marks ? name.marks.fill(change.env) : element.text;
  return element.withChildren([
    xmlText(writeFormula(growingCells(parseFormulaText(text), change.moves), change.moves)),
  ]);
}
