/** Parts beside a sheet that name its rows: drawings, charts, tables, comments. */
import { type OoxmlPackage, type XmlElement, xmlText } from "../ooxml/index.js";
import { cellName, maybeCell } from "../spreadsheet/index.js";
import { type Moves, moveRanges, parseFormulaText, writeFormula } from "./formula-text.js";
import type { RowMap } from "./row-map.js";

export interface MovedParts {
  readonly parts: ReadonlyMap<string, string>;
  /** Parts that name rows in a way that is not followed yet. */
  readonly notFollowed: readonly string[];
}

/** Rewrites the parts that hang on a sheet whose rows moved. */
export function moveRelatedParts(opened: OoxmlPackage, sheetPart: string, map: RowMap, moves: Moves): MovedParts {
  const parts = new Map<string, string>();
  const notFollowed: string[] = [];
  for (const relation of opened.relationships(sheetPart)) {
    if (relation.external || !opened.has(relation.target)) continue;
    const root = (): XmlElement => opened.getXml(relation.target);
    if (relation.type === "drawing") {
      parts.set(relation.target, withHead(opened, relation.target, moveAnchors(root(), map)));
      for (const inner of opened.relationships(relation.target)) {
        if (inner.type !== "chart" || !opened.has(inner.target)) continue;
        parts.set(inner.target, withHead(opened, inner.target, moveChart(opened.getXml(inner.target), moves)));
        notFollowed.push(`the values stored in ${inner.target}`);
      }
    } else if (relation.type === "table") {
      parts.set(relation.target, withHead(opened, relation.target, moveTable(root(), map)));
    } else if (relation.type === "comments") {
      parts.set(relation.target, withHead(opened, relation.target, moveComments(root(), map)));
    } else if (relation.type === "vmlDrawing") notFollowed.push(`the note shapes in ${relation.target}`);
  }
  // A part in which nothing moved stays as it is packed.
  for (const [part, text] of parts) if (text === opened.getText(part)) parts.delete(part);
  return { parts, notFollowed };
}

/** The root written back behind what stood before it. */
export function withHead(opened: OoxmlPackage, part: string, root: XmlElement): string {
  const source = opened.getText(part);
  const start = source.search(/<[A-Za-z_]/);
  return source.slice(0, Math.max(0, start)) + root.toString();
}

function mapElements(element: XmlElement, change: (element: XmlElement) => XmlElement | undefined): XmlElement {
  const changed = change(element);
  if (changed) return changed;
  return element.withChildren(
    element.children.map((child) => (child.kind === "element" ? mapElements(child, change) : child)),
  );
}

function moveAnchors(root: XmlElement, map: RowMap): XmlElement {
  return mapElements(root, (element) => {
    if (element.local !== "from" && element.local !== "to") return undefined;
    return element.withChildren(
      element.children.map((child) => {
        if (child.kind !== "element" || child.local !== "row") return child;
        const row = Number(child.text);
        return child.withChildren([xmlText(String(element.local === "from" ? map.at(row) : map.last(row)))]);
      }),
    );
  });
}

function moveChart(root: XmlElement, moves: Moves): XmlElement {
  return mapElements(root, (element) =>
    element.local === "f"
      ? element.withChildren([xmlText(writeFormula(parseFormulaText(element.text), moves))])
      : undefined,
  );
}

function moveTable(root: XmlElement, map: RowMap): XmlElement {
  const move = (element: XmlElement): XmlElement => {
    const ref = element.attr("ref");
    return ref === undefined ? element : element.withAttr("ref", moveRanges(ref, map));
  };
  return move(root).withChildren(
    root.children.map((child) => (child.kind === "element" && child.local === "autoFilter" ? move(child) : child)),
  );
}

function moveComments(root: XmlElement, map: RowMap): XmlElement {
  return mapElements(root, (element) => {
    const place = element.local === "comment" ? maybeCell(element.attr("ref") ?? "") : undefined;
    return place ? element.withAttr("ref", cellName(map.at(place.row), place.column)) : undefined;
  });
}
