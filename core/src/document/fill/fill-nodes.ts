/** Pieces bound to a scope, and filled: a part is joined from what they give. */
import { CorbixError } from "../../common/index.js";
import {
  compileParsedField,
  type Env,
  linesOf,
  type Scope,
  saysInstead,
  type TextField,
  withLine,
} from "../../expression/index.js";
import { escapeXml } from "../../ooxml/index.js";
import { type BoundStructure, bindField, bindStructure, repetitions, withPlace } from "../../template/index.js";
import { runText } from "../template/run-text.js";
import type { Code, TemplateNode } from "../template/template-nodes.js";
import { type BoundChart, bindChart, fillChart } from "./charts.js";
import { inEmphasis } from "./emphasis.js";
import { type BoundTable, bindTable, type TableLooks, writeTable } from "./insert-table.js";
import type { PartEditor } from "./part-editor.js";

export type BoundNode =
  | { readonly kind: "raw"; readonly xml: string }
  | {
      readonly kind: "field" | "attribute";
      readonly field: TextField;
      readonly where: string;
      readonly prefix: string;
      readonly runProperties: string | undefined;
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
  | { readonly kind: "table"; readonly table: BoundTable }
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
export function bindPieces(pieces: readonly TemplateNode[], scope: Scope, looks: TableLooks): BoundNode[] {
  const inner = (some: readonly TemplateNode[]): BoundNode[] => bindPieces(some, scope, looks);
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
        const { restarts } = piece;
        const { paged } = piece.structure;
        const own = inner(piece.pieces);
        return [{ kind: "repeat", bound, paged, restarts, pieces: own, further: own.map(withoutParagraphIds) }];
      }
      case "when": {
        const bound = bindStructure(piece.structure, scope, piece.where);
        return [{ kind: "when", bound, pieces: inner(piece.pieces), otherwise: inner(piece.otherwise) }];
      }
      case "table":
        return [{ kind: "table", table: bindTable(piece, scope, looks) }];
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
            runProperties: piece.kind === "field" ? piece.runProperties : undefined,
            isTold: piece.kind === "field" && piece.isInText && !saysInstead(piece.field.ast),
          },
        ];
    }
  });
}

function isEmphasised(piece: TemplateNode): boolean {
  return piece.kind === "field" && piece.runProperties !== undefined;
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

export function fillPieces(pieces: readonly BoundNode[], env: Env, editor: PartEditor): string {
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
        filled +=
          piece.runProperties === undefined
            ? runText(text, piece.prefix)
            : inEmphasis(text, piece.prefix, piece.runProperties);
        break;
      }
      case "attribute":
        filled += escapeXml(shownValue(piece.field, env, piece.where));
        break;
      case "lines":
        linesOf(env, piece.lines).lines.forEach((row, index) => {
          const made = fillPieces(index === 0 ? piece.pieces : piece.further, withLine(env, piece.lines, row), editor);
          filled += index === 0 ? made : editor.again(made, []);
        });
        break;
      case "repeat":
        filled += repeated(piece, env, editor);
        break;
      case "when":
        filled += fillPieces(piece.bound.test?.(env) ? piece.pieces : piece.otherwise, env, editor);
        break;
      case "table":
        filled += writeTable(piece.table, env);
        break;
      case "chart":
        filled += editor.chart(piece.xml, (xml) => fillChart(xml, piece.chart, env));
        break;
      case "picture":
        filled += editor.picture(piece.xml, shownValue(piece.field, env, piece.where), piece.code, piece.where);
        break;
      case "bookmark": {
        const text = shownValue(piece.field, env, piece.where);
        const { prefix } = piece;
        filled += `<${prefix}r>${piece.runProperties}<${prefix}t xml:space="preserve">${runText(text, prefix)}</${prefix}t></${prefix}r>`;
        break;
      }
      case "container":
        filled += container(piece, fillPieces(piece.pieces, env, editor));
        break;
    }
  }
  return filled;
}

function repeated(piece: BoundNode & { readonly kind: "repeat" }, env: Env, editor: PartEditor): string {
  let filled = "";
  repetitions(piece.bound, env).forEach((own, index) => {
    let one = fillPieces(index === 0 ? piece.pieces : piece.further, own, editor);
    if (index > 0) {
      one = editor.again(one, piece.restarts);
      if (piece.paged) one = onNewPage(one);
    }
    filled += one;
  });
  return filled;
}

/** The first paragraph begins a page; before a table a page break stands in a paragraph of its own. */
function onNewPage(xml: string): string {
  const first = /^<(\w+:)?p(?=[\s>/])[^>]*>/.exec(xml);
  const prefix = /^<(\w+:)?/.exec(xml)?.[1] ?? "w:";
  if (!first || first[0].endsWith("/>"))
    return `<${prefix}p><${prefix}r><${prefix}br ${prefix}type="page"/></${prefix}r></${prefix}p>${xml}`;
  const rest = xml.slice(first[0].length);
  const own = new RegExp(
    `^<${prefix}pPr>(<${prefix}pStyle [^>]*/>)?(<${prefix}keepNext/>)?(<${prefix}keepLines/>)?`,
  ).exec(rest);
  const sign = `<${prefix}pageBreakBefore/>`;
  if (own)
    return rest.startsWith(sign, own[0].length) ? xml : `${first[0]}${own[0]}${sign}${rest.slice(own[0].length)}`;
  return `${first[0]}<${prefix}pPr>${sign}</${prefix}pPr>${rest.replace(new RegExp(`^<${prefix}pPr/>`), "")}`;
}

/** A table without rows is none; a cell needs a paragraph at its end. */
function container(piece: BoundNode & { readonly kind: "container" }, xml: string): string {
  const { prefix } = piece;
  if (piece.what === "table") return new RegExp(`<${prefix}tr[\\s>]`).test(xml) ? xml : "";
  const close = xml.lastIndexOf("</");
  const content = xml.slice(0, close).trimEnd();
  return content.endsWith(`</${prefix}p>`) || content.endsWith(`<${prefix}p/>`)
    ? xml
    : `${xml.slice(0, close)}<${prefix}p/>${xml.slice(close)}`;
}

function shownValue(field: TextField, env: Env, where: string): string {
  return withPlace(where, () => field.show(env));
}
