/** Parts beside a sheet that name its rows and columns: drawings, charts, tables, comments. */

import { CorbixError } from "../../common/index.js";
import { mapElements, type OoxmlPackage, type XmlElement, xmlText } from "../../ooxml/index.js";
import { cellName, maybeCell, maybeRange } from "../../spreadsheet/index.js";
import { say } from "../../words/index.js";
import {
  type FormulaText,
  growingCells,
  type Moves,
  moveRanges,
  parseFormulaText,
  writeFormula,
} from "../template/formula-text.js";
import type { SheetMap } from "./axis-map.js";
import { type ReferredScalars, refreshChart } from "./chart-values.js";

export interface Around {
  readonly map: SheetMap;
  readonly moves: Moves;
  /** The values that a reference of the template leads to now, with the way they are shown; `undefined` where there are none. */
  readonly values: (formula: FormulaText) => ReferredScalars | undefined;
}

/** Rewrites the parts that hang on a sheet, with the values stored in its charts. */
export function moveRelatedParts(opened: OoxmlPackage, sheetPart: string, around: Around): Map<string, string> {
  const parts = new Map<string, string>();
  const { map } = around;
  const set = (part: string, root: XmlElement): void => {
    parts.set(part, withHead(opened, part, root));
  };
  for (const relation of opened.relationships(sheetPart)) {
    const { target } = relation;
    if (relation.external || !opened.has(target)) continue;
    if (relation.type === "drawing") {
      set(target, moveAnchors(opened.getXml(target), map));
      for (const inner of opened.relationships(target))
        if (inner.type === "chart" && opened.has(inner.target))
          set(inner.target, moveChart(opened.getXml(inner.target), around));
    } else if (relation.type === "table") {
      refuseWiderTable(opened.getXml(target), map, opened.where);
      set(target, moveTable(opened.getXml(target), map));
    } else if (relation.type === "comments" || relation.type === "threadedComment")
      set(target, moveComments(opened.getXml(target), map));
    else if (relation.type === "vmlDrawing") parts.set(target, moveNoteShapes(opened.getText(target), map));
  }
  // A part in which nothing moved stays as it is packed.
  for (const [part, text] of parts) if (text === opened.getText(part)) parts.delete(part);
  return parts;
}

/** The root written back behind what stood before it. */
export function withHead(opened: OoxmlPackage, part: string, root: XmlElement): string {
  const source = opened.getText(part);
  const start = source.search(/<[A-Za-z_]/);
  return source.slice(0, Math.max(0, start)) + root.toString();
}

function moveAnchors(root: XmlElement, map: SheetMap): XmlElement {
  return mapElements(root, (element) => {
    if (element.local !== "from" && element.local !== "to") return undefined;
    const move = (axis: "rows" | "columns", line: number): number =>
      element.local === "from" ? map[axis].at(line) : map[axis].last(line);
    return element.withChildren(
      element.children.map((child) => {
        if (child.kind !== "element" || (child.local !== "row" && child.local !== "col")) return child;
        const line = Number(child.text);
        return child.withChildren([xmlText(String(move(child.local === "row" ? "rows" : "columns", line)))]);
      }),
    );
  });
}

/** References first lead to their values, which are stored beside them, and are moved then. */
function moveChart(root: XmlElement, { moves, values }: Around): XmlElement {
  const grown = (text: string): FormulaText => growingCells(parseFormulaText(text), moves);
  // A pivot's chart stores what the pivot shows without its totals, which stand in the cells it names as well.
  const isOfPivot = root.child("pivotSource") !== undefined;
  return mapElements(isOfPivot ? root : refreshChart(root, (formula) => values(grown(formula))), (element) =>
    element.local === "f" ? element.withChildren([xmlText(writeFormula(grown(element.text), moves))]) : undefined,
  );
}

/** A table's columns are described one by one, with headings that differ: columns cannot repeat in it. */
function refuseWiderTable(root: XmlElement, map: SheetMap, where: string): void {
  const range = maybeRange(root.attr("ref") ?? "");
  if (!range || !map.columns.moves) return;
  const width = map.columns.last(range.right) - map.columns.at(range.left);
  if (width === range.right - range.left) return;
  throw new CorbixError("BAD_MARK", say().workbook.cannotRepeatColumnsInsideDefined(), {
    where: say().workbook.table({ where, attr: root.attr("displayName") ?? "" }),
    advice: say().workbook.turnTablePlainCellsRepeat(),
  });
}

function moveTable(root: XmlElement, map: SheetMap): XmlElement {
  return mapElements(root, (element) => {
    const ref = element.attr("ref");
    if (ref === undefined) return undefined;
    const moved = element.withAttr("ref", moveRanges(ref, map, false));
    return moved.withChildren(
      moved.children.map((child) => (child.kind === "element" && child.attr("ref") ? moveTable(child, map) : child)),
    );
  });
}

function moveComments(root: XmlElement, map: SheetMap): XmlElement {
  return mapElements(root, (element) => {
    const ref = element.attr("ref");
    const place = ref === undefined ? undefined : maybeCell(ref);
    return place ? element.withAttr("ref", cellName(map.rows.at(place.row), map.columns.at(place.column))) : undefined;
  });
}

/** The boxes of notes: cell and corners are numbers in text (MS-OI29500, 3.4). */
function moveNoteShapes(source: string, map: SheetMap): string {
  return source
    .replace(/<((?:\w+:)?Row)>\s*(\d+)\s*<\/\1>/g, (_, name, row) => `<${name}>${map.rows.at(Number(row))}</${name}>`)
    .replace(
      /<((?:\w+:)?Column)>\s*(\d+)\s*<\/\1>/g,
      (_, name, column) => `<${name}>${map.columns.at(Number(column))}</${name}>`,
    )
    .replace(/<((?:\w+:)?Anchor)>([^<]*)<\/\1>/g, (whole, name, text: string) => {
      const numbers = text.split(",").map((part) => Number(part.trim()));
      if (numbers.length !== 8 || numbers.some(Number.isNaN)) return whole;
      const [left, dx, top, dy, right, dx2, bottom, dy2] = numbers;
      const [movedLeft, movedTop] = [map.columns.at(left), map.rows.at(top)];
      // A note keeps its size.
      const moved = [movedLeft, dx, movedTop, dy, right + movedLeft - left, dx2, bottom + movedTop - top, dy2];
      return `<${name}>${moved.join(", ")}</${name}>`;
    });
}
