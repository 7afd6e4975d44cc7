/** Pieces bound to a scope, and filled: a part is joined from what they give. */
import { CorbixError } from "../common/index.js";
import {
  compileParsedField,
  type Env,
  linesOf,
  type Scope,
  saysInstead,
  type TextField,
  withLine,
  withLines,
} from "../expression/index.js";
import { escapeXml } from "../ooxml/index.js";
import { type BoundStructure, bindField, bindStructure, repetitions, withPlace } from "../template/index.js";
import { type BoundChart, bindChart, fillChart } from "./charts.js";
import type { FillingPart, ShapeBox } from "./dialect.js";
import { inEmphasis } from "./emphasis.js";
import type { Code, TablePiece, TemplateNode } from "./template-nodes.js";

/** What writes a whole table of the lines, bound to a scope. */
export type TableMaker = (piece: TablePiece, scope: Scope) => (env: Env) => string;

export type BoundNode =
  | { readonly kind: "raw"; readonly xml: string }
  | {
      readonly kind: "field" | "attribute";
      readonly field: TextField;
      readonly where: string;
      readonly prefix: string;
      readonly runProperties: string;
      readonly isEmphasised: boolean;
      /** Whether it is told where the value is blank. */
      readonly isTold: boolean;
    }
  | {
      readonly kind: "lines";
      readonly lines: string;
      readonly pieces: readonly BoundNode[];
      readonly further: readonly BoundNode[];
    }
  | {
      readonly kind: "repeat";
      readonly bound: BoundStructure;
      readonly paged: boolean;
      readonly restarts: readonly string[];
      readonly isColumns: boolean;
      readonly box: ShapeBox | undefined;
      readonly pieces: readonly BoundNode[];
      /** The same for all repetitions but the first. */
      readonly further: readonly BoundNode[];
    }
  | {
      readonly kind: "when";
      readonly bound: BoundStructure;
      readonly pieces: readonly BoundNode[];
      readonly otherwise: readonly BoundNode[];
    }
  | { readonly kind: "table"; readonly write: (env: Env) => string }
  | {
      readonly kind: "link";
      readonly pieces: readonly (string | { readonly field: TextField; readonly where: string })[];
    }
  | {
      readonly kind: "picture";
      readonly code: Code | undefined;
      readonly field: TextField;
      readonly where: string;
      readonly xml: string;
    }
  | { readonly kind: "chart"; readonly chart: BoundChart; readonly xml: string }
  | {
      readonly kind: "bookmark";
      readonly field: TextField;
      readonly where: string;
      readonly prefix: string;
      readonly runProperties: string;
    }
  | {
      readonly kind: "container";
      readonly what: "table" | "cell";
      readonly prefix: string;
      readonly pieces: readonly BoundNode[];
    };

/** Throws `BAD_EXPRESSION` with the place of what names something there is not. */
export function bindPieces(pieces: readonly TemplateNode[], scope: Scope, tables: TableMaker): BoundNode[] {
  const inner = (some: readonly TemplateNode[]): BoundNode[] => bindPieces(some, scope, tables);
  return pieces.flatMap((piece): BoundNode[] => {
    switch (piece.kind) {
      case "raw":
        return [piece];
      case "lines": {
        const own = inner(piece.pieces);
        return [{ kind: "lines", lines: piece.lines, pieces: own, further: own.map(withoutParagraphIds) }];
      }
      case "container":
        return [{ ...piece, pieces: inner(piece.pieces) }];
      case "repeat": {
        const bound = bindStructure(piece.structure, scope, piece.where);
        const { restarts, isColumns, box } = piece;
        const { paged } = piece.structure;
        const own = inner(piece.pieces);
        const further = own.map(withoutParagraphIds);
        return [{ kind: "repeat", bound, paged, restarts, isColumns, box, pieces: own, further }];
      }
      case "when": {
        const bound = bindStructure(piece.structure, scope, piece.where);
        return [{ kind: "when", bound, pieces: inner(piece.pieces), otherwise: inner(piece.otherwise) }];
      }
      case "table":
        return [{ kind: "table", write: tables(piece, scope) }];
      case "link":
        return [
          {
            kind: "link",
            pieces: piece.pieces.map((one) =>
              typeof one === "string" ? one : { field: bindField(one.field, scope, one.where), where: one.where },
            ),
          },
        ];
      case "chart":
        return [{ kind: "chart", chart: bindChart(piece.columns, scope, piece.where), xml: piece.xml }];
      case "bookmark": {
        const field = maybeField(piece, scope);
        const { where, prefix } = piece;
        return field
          ? [{ kind: "bookmark", field, where, prefix, runProperties: piece.runProperties }]
          : inner(piece.pieces);
      }
      case "picture":
        return [{ ...piece, field: bindField(piece.field, scope, piece.where) }];
      default:
        return [
          {
            kind: piece.kind,
            where: piece.where,
            field: bindField(
              isEmphasised(piece) ? { ast: piece.field.ast, source: piece.field.source } : piece.field,
              scope,
              piece.where,
            ),
            prefix: piece.kind === "field" ? piece.prefix : "",
            runProperties: piece.kind === "field" ? piece.runProperties : "",
            isEmphasised: piece.kind === "field" && piece.isEmphasised,
            isTold: piece.kind === "field" && piece.isInText && !saysInstead(piece.field.ast),
          },
        ];
    }
  });
}

function isEmphasised(piece: TemplateNode): boolean {
  return piece.kind === "field" && piece.isEmphasised;
}

const PARAGRAPH_IDS = / \w+:(?:paraId|textId)="[0-9A-Fa-f]{8}"/g;

/** Paragraphs have an id each in the whole document ([MS-DOCX] 2.6.2.3); what is repeated has none. */
function withoutParagraphIds(node: BoundNode): BoundNode {
  switch (node.kind) {
    case "raw":
    case "picture":
    case "chart":
      return { ...node, xml: node.xml.replace(PARAGRAPH_IDS, "") };
    case "lines":
    case "repeat":
    case "container":
      return {
        ...node,
        pieces: node.pieces.map(withoutParagraphIds),
        ...("further" in node ? { further: node.further.map(withoutParagraphIds) } : {}),
      };
    case "when":
      return {
        ...node,
        pieces: node.pieces.map(withoutParagraphIds),
        otherwise: node.otherwise.map(withoutParagraphIds),
      };
    default:
      return node;
  }
}

/** Whether pieces stay as they are whatever the data. */
export function isConstant(pieces: readonly BoundNode[]): boolean {
  return pieces.every((piece) => piece.kind === "raw" || (piece.kind === "container" && isConstant(piece.pieces)));
}

/** A bookmark's name as a column; `undefined` where no column is called so, and the bookmark is only a bookmark. */
function maybeField(piece: TemplateNode & { readonly kind: "bookmark" }, scope: Scope): TextField | undefined {
  try {
    return compileParsedField(piece.field, scope);
  } catch (error) {
    if (error instanceof CorbixError && error.code === "BAD_EXPRESSION") return undefined;
    throw error;
  }
}

/** The text of pieces filled; `table` is what counts around the table they stand in. */
export function fillPieces(pieces: readonly BoundNode[], env: Env, part: FillingPart, table = env): string {
  const { runText } = part.dialect;
  let filled = "";
  for (const piece of pieces) {
    switch (piece.kind) {
      case "raw":
        filled += piece.xml;
        break;
      case "field": {
        const text = shownValue(piece.field, env, piece.where);
        if (text === "" && piece.isTold)
          env.onBlank?.(piece.where.replace(/, mark \{\{[\s\S]*$/, ""), piece.field.source);
        filled += piece.isEmphasised
          ? inEmphasis(text, piece.prefix, piece.runProperties, part.dialect)
          : runText(text, piece.prefix, piece.runProperties);
        break;
      }
      case "attribute":
        filled += escapeXml(shownValue(piece.field, env, piece.where));
        break;
      case "lines":
        linesOf(env, piece.lines).lines.forEach((row, index) => {
          const pieces = index === 0 ? piece.pieces : piece.further;
          const made = fillPieces(pieces, withLine(env, piece.lines, row), part, table);
          filled += index === 0 ? made : again(made, pieces, part, []);
        });
        break;
      case "repeat":
        filled += repeated(piece, env, part, table);
        break;
      case "when":
        filled += fillPieces(piece.bound.test?.(env) ? piece.pieces : piece.otherwise, env, part, table);
        break;
      case "table":
        filled += piece.write(env);
        break;
      case "link": {
        const address = piece.pieces.map((one) =>
          typeof one === "string" ? one : shownValue(one.field, env, one.where),
        );
        filled += escapeXml(part.link(address.join("")));
        break;
      }
      case "chart":
        filled += part.chart(piece.xml, (xml) => fillChart(xml, piece.chart, env));
        break;
      case "picture":
        filled += part.picture(piece, shownValue(piece.field, env, piece.where));
        break;
      case "bookmark": {
        const text = shownValue(piece.field, env, piece.where);
        const { prefix, runProperties } = piece;
        const open = part.dialect.openText(`${prefix}t`);
        filled += `<${prefix}r>${runProperties}${open}${runText(text, prefix, runProperties)}</${prefix}t></${prefix}r>`;
        break;
      }
      case "container":
        filled +=
          piece.what === "table"
            ? withRows(piece, fillPieces(piece.pieces, env, part), part)
            : withParagraph(piece, fillPieces(piece.pieces, env, part, table));
        break;
    }
  }
  return filled;
}

function repeated(piece: BoundNode & { readonly kind: "repeat" }, env: Env, part: FillingPart, table: Env): string {
  let filled = "";
  const all = piece.isColumns ? columns(piece.bound, env, table) : repetitions(piece.bound, env);
  all.forEach((own, index) => {
    let one = fillPieces(index === 0 ? piece.pieces : piece.further, own, part, table);
    if (index > 0) {
      one = again(one, piece.further, part, piece.restarts);
      if (piece.paged) one = part.onNewPage(one);
      if (piece.box) one = part.moved(one, index, piece.box);
    }
    filled += one;
  });
  return filled;
}

function again(xml: string, pieces: readonly BoundNode[], part: FillingPart, restarts: readonly string[]): string {
  return part.signs && !holds(pieces, part.signs) ? xml : part.again(xml, restarts);
}

const holding = new WeakMap<readonly BoundNode[], boolean>();

/** Whether what is written around the marks has a sign; what they write is not looked at. */
function holds(pieces: readonly BoundNode[], signs: readonly string[]): boolean {
  let found = holding.get(pieces);
  if (found === undefined) {
    found = pieces.some((piece) => {
      switch (piece.kind) {
        case "raw":
          return signs.some((sign) => piece.xml.includes(sign));
        case "lines":
        case "repeat":
        case "container":
          return holds(piece.pieces, signs);
        case "when":
          return holds(piece.pieces, signs) || holds(piece.otherwise, signs);
        case "field":
        case "attribute":
        case "link":
          return false;
        default:
          return true;
      }
    });
    holding.set(pieces, found);
  }
  return found;
}

/** The columns of a table are the same in each row: in a row of some lines they show those among them that are the column's too. */
function columns(bound: BoundStructure, env: Env, table: Env): Env[] {
  const { lines: name, by } = bound;
  const own = new Set(linesOf(env, name).lines);
  return repetitions(bound, table).map((column) => {
    const { lines, row } = linesOf(column, name);
    if (!by) return withLine(env, name, row);
    return withLines(
      env,
      name,
      lines.filter((line) => own.has(line)),
    );
  });
}

/** A table without rows is none. */
function withRows(piece: BoundNode & { readonly kind: "container" }, xml: string, part: FillingPart): string {
  const { prefix } = piece;
  const hasRows = xml.includes(`<${prefix}tr>`) || new RegExp(`<${prefix}tr[\\s>]`).test(xml);
  return hasRows ? part.table(xml, headRows(piece)) : "";
}

/** Rows above the first that repeats; nothing where none does. */
function headRows({ pieces, prefix }: BoundNode & { readonly kind: "container" }): number | undefined {
  const first = pieces.findIndex((piece) => piece.kind === "lines" || (piece.kind === "repeat" && !piece.isColumns));
  if (first < 0) return undefined;
  const before = pieces.slice(0, first).map((piece) => (piece.kind === "raw" ? piece.xml : ""));
  return before.join("").split(`</${prefix}tr>`).length - 1;
}

/** A cell needs a paragraph at its end. */
function withParagraph({ prefix, pieces }: BoundNode & { readonly kind: "container" }, xml: string): string {
  // Most cells are written so that they have one.
  const last = pieces[pieces.length - 1];
  if (last?.kind === "raw" && last.xml.slice(0, last.xml.lastIndexOf("</")).endsWith(`</${prefix}p>`)) return xml;
  const close = xml.lastIndexOf("</");
  const content = xml.slice(0, close).trimEnd();
  return content.endsWith(`</${prefix}p>`) || content.endsWith(`<${prefix}p/>`)
    ? xml
    : `${xml.slice(0, close)}<${prefix}p/>${xml.slice(close)}`;
}

function shownValue(field: TextField, env: Env, where: string): string {
  return withPlace(where, () => field.show(env));
}
