/** What stands around the cells of a sheet and names rows: it moves with them. */
import type { Env, Scope } from "../../expression/index.js";
import { escapeXml, mapElements, type XmlElement, xmlText } from "../../ooxml/index.js";
import { type CellRange, MAX_COLUMNS, maybeRange, rangeName } from "../../spreadsheet/index.js";
import { hasMarks, parseTextTemplate } from "../../template/index.js";
import { type Moves, moveRanges, parseFormulaText, writeFormula } from "../template/formula-text.js";
import { type AxisMap, type AxisSpan, movesAtAll, type SheetMap } from "./axis-map.js";

export interface Surroundings {
  readonly map: SheetMap;
  readonly moves: Moves;
  readonly env: Env;
}

/** Writes one child of the sheet's root for a filled sheet. */
export type WriteChild = (filled: Surroundings) => string;

/** Prepares a child once; children that name no rows are written as they are. */
export function prepareChild(element: XmlElement, scope: Scope, where: string): WriteChild {
  const handler = HANDLERS[element.local];
  if (handler) return handler(element, scope, where);
  const raw = element.toString();
  return () => raw;
}

type Handler = (element: XmlElement, scope: Scope, where: string) => WriteChild;

/** Elements whose children (or which themselves) name a range in an attribute and formulas in children. */
function ranged(attribute: "ref" | "sqref", deep: boolean): Handler {
  const move = (element: XmlElement, filled: Surroundings): XmlElement => {
    const range = element.attr(attribute);
    const children = element.children.map((child) => {
      if (child.kind !== "element") return child;
      if (FORMULA_ELEMENTS.has(child.local))
        return child.withChildren([xmlText(writeFormula(parseFormulaText(child.text), filled.moves))]);
      return deep || child.local === "cfRule" ? move(child, filled) : child;
    });
    const location = element.local === "hyperlink" ? element.attr("location") : undefined;
    if (location?.includes("!")) {
      const led = element.withAttr("location", writeFormula(parseFormulaText(location), filled.moves));
      return range === undefined ? led : led.withAttr(attribute, moveRanges(range, filled.map, attribute === "sqref"));
    }
    const moved =
      range === undefined ? element : element.withAttr(attribute, moveRanges(range, filled.map, attribute === "sqref"));
    return moved.withChildren(children);
  };
  return (element) => {
    const raw = element.toString();
    // What names another sheet's cells moves with those.
    const leadsElsewhere = raw.includes("!");
    return (filled) =>
      leadsElsewhere || movesAtAll(filled.map) || filled.moves.renamed.size > 0
        ? move(element, filled).toString()
        : raw;
  };
}

const FORMULA_ELEMENTS = new Set(["formula", "formula1", "formula2"]);

function mergeCells(element: XmlElement): WriteChild {
  const merged = element.elements("mergeCell").map((cell) => cell.attr("ref") ?? "");
  return ({ map }) => {
    const written = merged.flatMap((ref) => {
      const range = maybeRange(ref);
      return range ? repeatedRanges(range, map).map(rangeName) : [ref];
    });
    if (written.length === 0) return "";
    const cells = written.map((ref) => `<${element.name.replace("mergeCells", "mergeCell")} ref="${ref}"/>`).join("");
    return `<${element.name} count="${written.length}">${cells}</${element.name}>`;
  };
}

/** A range once for each repetition it stands in; one of which nothing is left is gone. */
export function repeatedRanges(range: CellRange, map: SheetMap): CellRange[] {
  const spans = (axis: AxisMap, span: AxisSpan): AxisSpan[] =>
    axis
      .paths(axis.around(span))
      .map((path) => ({ from: axis.at(span.from, path), to: axis.last(span.to, path) }))
      .filter(({ from, to }) => to >= from);
  const columns = spans(map.columns, { from: range.left, to: range.right });
  return spans(map.rows, { from: range.top, to: range.bottom }).flatMap((row) =>
    columns.map((column) => ({ top: row.from, bottom: row.to, left: column.from, right: column.to })),
  );
}

/** Columns' widths: each column of the filled sheet has that of the template's. */
function cols(element: XmlElement): WriteChild {
  const raw = element.toString();
  return ({ map: { columns } }) => {
    if (!columns.moves) return raw;
    const pieces: { from: number; to: number; col: XmlElement }[] = [];
    for (const col of element.elements("col")) {
      const [from, to] = [Number(col.attr("min") ?? 1) - 1, Number(col.attr("max") ?? 1) - 1];
      const repeated = columns.sections.filter((section) => section.from <= to && from <= section.to);
      let next = from;
      const plain = (end: number): void => {
        if (end >= next) pieces.push({ from: columns.at(next), to: columns.at(end), col });
      };
      for (const section of repeated) {
        plain(section.from - 1);
        const inside = Array.from(
          { length: Math.min(to, section.to) - Math.max(next, section.from) + 1 },
          (_, at) => Math.max(next, section.from) + at,
        );
        columns.walk(inside, (_, spot) => pieces.push({ from: spot.out, to: spot.out, col }));
        next = section.to + 1;
      }
      plain(to);
    }
    const written = pieces
      .filter((piece) => piece.from < MAX_COLUMNS)
      .sort((a, b) => a.from - b.from)
      .map(({ from, to, col }) =>
        col
          .withAttr("min", String(from + 1))
          .withAttr("max", String(Math.min(to + 1, MAX_COLUMNS)))
          .toString(),
      );
    return `<${element.name}>${written.join("")}</${element.name}>`;
  };
}

/** Extensions name ranges in elements: sparklines, and later kinds of formats and validations (MS-XLSX 2.3). */
function extensions(element: XmlElement): WriteChild {
  const raw = element.toString();
  if (!/:sqref>|:f>/.test(raw)) return () => raw;
  return (filled) => {
    if (!raw.includes("!") && !movesAtAll(filled.map) && filled.moves.renamed.size === 0) return raw;
    return mapElements(element, (one) => {
      if (one.local === "sparklines")
        return one.withChildren(one.elements("sparkline").flatMap((line) => repeatSparkline(line, filled)));
      if (one.local === "sqref") return one.withChildren([xmlText(moveRanges(one.text, filled.map))]);
      return one.local === "f"
        ? one.withChildren([xmlText(writeFormula(parseFormulaText(one.text), filled.moves))])
        : undefined;
    }).toString();
  };
}

/** A sparkline in repeated rows stands once in each. */
function repeatSparkline(line: XmlElement, { map, moves }: Surroundings): XmlElement[] {
  const range = maybeRange(line.child("sqref")?.text ?? "");
  if (!range) return [line];
  const rows = map.rows.paths(map.rows.around({ from: range.top, to: range.bottom }));
  const columns = map.columns.paths(map.columns.around({ from: range.left, to: range.right }));
  return rows.flatMap((row) =>
    columns.map((column) => {
      const at = { top: map.rows.at(range.top, row), left: map.columns.at(range.left, column) };
      return line.withChildren(
        line.elements().map((child) => {
          if (child.local === "sqref")
            return child.withChildren([
              xmlText(rangeName({ ...at, bottom: at.top, right: at.left }).replace(/:.*/, "")),
            ]);
          const instance = { rows: row, columns: column };
          return child.withChildren([xmlText(writeFormula(parseFormulaText(child.text), { ...moves, instance }))]);
        }),
      );
    }),
  );
}

/** A break's id is the number of rows above it, or columns before it (18.3.1.3). */
function breaks(element: XmlElement, axis: "rows" | "columns"): WriteChild {
  return ({ map }) =>
    element
      .withChildren(
        element.elements("brk").map((brk) => {
          const id = Number(brk.attr("id") ?? 0);
          return id > 0 ? brk.withAttr("id", String(map[axis].last(id - 1) + 1)) : brk;
        }),
      )
      .toString();
}

const HEADER_CODE = /\n|&(?:[A-Z]|"[^"]*"|\d+)/;

/** Headers and footers are texts with codes behind `&`, so a value's own `&` is doubled (18.3.1.46). */
const headerFooter: Handler = (element, scope, where) => {
  if (!hasMarks(element.text)) return () => element.toString();
  const parts = element.elements().map((part) => ({
    part,
    bound: parseTextTemplate(part.text, `${where}, ${part.local}`, { edge: HEADER_CODE }).bind(scope),
  }));
  return ({ env }) =>
    element
      .withChildren(
        parts.map(({ part, bound }) =>
          part.withChildren([
            { kind: "text", raw: escapeXml(bound.fill(env, (value) => value.replaceAll("&", "&&"))), text: "" },
          ]),
        ),
      )
      .toString();
};

const HANDLERS: Readonly<Record<string, Handler>> = {
  dimension: ranged("ref", false),
  mergeCells: (element) => mergeCells(element),
  conditionalFormatting: ranged("sqref", false),
  dataValidations: ranged("sqref", true),
  hyperlinks: ranged("ref", true),
  autoFilter: ranged("ref", false),
  sortState: ranged("ref", true),
  protectedRanges: ranged("sqref", true),
  ignoredErrors: ranged("sqref", true),
  rowBreaks: (element) => breaks(element, "rows"),
  colBreaks: (element) => breaks(element, "columns"),
  cols: (element) => cols(element),
  extLst: (element) => extensions(element),
  headerFooter,
};
