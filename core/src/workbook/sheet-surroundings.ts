/** What stands around the cells of a sheet and names rows: it moves with them. */
import type { Env, Scope } from "../expression/index.js";
import { escapeXml, type XmlElement, xmlText } from "../ooxml/index.js";
import { maybeRange, rangeName } from "../spreadsheet/index.js";
import { hasMarks, parseTextTemplate } from "../template/index.js";
import { type Moves, moveRanges, parseFormulaText, writeFormula } from "./formula-text.js";
import type { RowMap } from "./row-map.js";

export interface Surroundings {
  readonly map: RowMap;
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
function ranged(attribute: string, deep: boolean): Handler {
  const move = (element: XmlElement, filled: Surroundings): XmlElement => {
    const range = element.attr(attribute);
    const children = element.children.map((child) => {
      if (child.kind !== "element") return child;
      if (FORMULA_ELEMENTS.has(child.local))
        return child.withChildren([xmlText(writeFormula(parseFormulaText(child.text), filled.moves))]);
      return deep || child.local === "cfRule" ? move(child, filled) : child;
    });
    const moved = range === undefined ? element : element.withAttr(attribute, moveRanges(range, filled.map));
    return moved.withChildren(children);
  };
  return (element) => {
    const raw = element.toString();
    return (filled) => (filled.map.moves || filled.moves.renamed.size > 0 ? move(element, filled).toString() : raw);
  };
}

const FORMULA_ELEMENTS = new Set(["formula", "formula1", "formula2"]);

function mergeCells(element: XmlElement): WriteChild {
  const merged = element.elements("mergeCell").map((cell) => cell.attr("ref") ?? "");
  return ({ map }) => {
    const written: string[] = [];
    for (const ref of merged) {
      const range = maybeRange(ref);
      const block = range ? map.blockAt(range.top) : undefined;
      if (range && block && range.bottom <= block.bottom) {
        for (let index = 0; index < map.repeats(block); index++)
          written.push(rangeName({ ...range, top: map.at(range.top, index), bottom: map.at(range.bottom, index) }));
      } else written.push(moveRanges(ref, map));
    }
    const cells = written.map((ref) => `<${element.name.replace("mergeCells", "mergeCell")} ref="${ref}"/>`).join("");
    return `<${element.name} count="${written.length}">${cells}</${element.name}>`;
  };
}

/** A break's id is the number of rows above it (18.3.1.3). */
function rowBreaks(element: XmlElement): WriteChild {
  return ({ map }) =>
    element
      .withChildren(
        element.elements("brk").map((brk) => {
          const id = Number(brk.attr("id") ?? 0);
          return id > 0 ? brk.withAttr("id", String(map.last(id - 1) + 1)) : brk;
        }),
      )
      .toString();
}

/** Headers and footers are texts with codes behind `&`, so a value's own `&` is doubled (18.3.1.46). */
const headerFooter: Handler = (element, scope, where) => {
  if (!hasMarks(element.text)) return () => element.toString();
  const parts = element
    .elements()
    .map((part) => ({ part, bound: parseTextTemplate(part.text, `${where}, ${part.local}`).bind(scope) }));
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
  rowBreaks: (element) => rowBreaks(element),
  headerFooter,
};
