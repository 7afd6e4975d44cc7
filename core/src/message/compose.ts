import type HtmlToText from "html-to-text";
import { CorbixError, packageOnUse } from "../common/index.js";
import { type Env, type LinesColumns, type Scope, showsRows } from "../expression/index.js";
import { cutMarks, parseTextTemplate, type TextTemplate, withPlace } from "../template/index.js";
import { say } from "../words/index.js";
import { inlinedHtml, markdownHtml, withPictures } from "./body.js";
import { escapeHtml } from "./escape-html.js";
import { type LineTable, parseLineTable } from "./line-table.js";

const htmlToText = packageOnUse<typeof HtmlToText>("html-to-text");

/** A message's text without its addresses and attachments. */
export interface ComposedMessage {
  readonly subject: string;
  readonly html: string;
  readonly text: string;
}

export interface MessageSource {
  readonly subject: string;
  /** HTML, Markdown, or plain text; the latter two are turned into HTML. */
  readonly body: { readonly html: string } | { readonly markdown: string } | { readonly text: string };
  /** Plain text for those who do not see HTML; made from the HTML if none is given. */
  readonly text?: string | undefined;
}

/** Whether a file of such a name is there to be shown in a message. */
export type HasPicture = (name: string) => boolean;

type BodyPart =
  | { readonly kind: "text"; readonly template: TextTemplate }
  | { readonly kind: "table"; readonly table: LineTable };

/** A message read for filling. */
export class MessageTemplate {
  private constructor(
    private readonly subject: TextTemplate,
    private readonly pieces: readonly BodyPart[],
    private readonly isHtml: boolean,
    private readonly alternative: readonly BodyPart[] | undefined,
  ) {}

  /** Throws `BAD_MARK`, `BAD_EXPRESSION` or `BAD_DEFINITION` with the place. */
  static read(source: MessageSource, where: string, hasPicture: HasPicture = () => false): MessageTemplate {
    const isHtml = !("text" in source.body);
    const written =
      "html" in source.body
        ? inlinedHtml(source.body.html)
        : "markdown" in source.body
          ? markdownHtml(source.body.markdown)
          : source.body.text;
    const body = isHtml ? withPictures(written, hasPicture, where).html : written;
    if (isHtml && /<script\b|\son\w+\s*=|javascript:/i.test(body)) {
      throw new CorbixError("BAD_MARK", say().message.cannotUseMessageBodyScripts(), {
        where,
        advice: say().message.takeScriptOut(),
      });
    }
    return new MessageTemplate(
      parseTextTemplate(source.subject, `${where}, subject`),
      readPieces(body, where),
      isHtml,
      source.text === undefined ? undefined : readPieces(source.text, `${where}, text`),
    );
  }

  /** Whether single rows of the given lines stand in it. */
  shows(lines: LinesColumns): boolean {
    const subject: BodyPart = { kind: "text", template: this.subject };
    return [subject, ...this.pieces, ...(this.alternative ?? [])].some((piece) =>
      piece.kind === "table"
        ? Object.hasOwn(lines, piece.table.structure.lines)
        : piece.template.fields.some((field) => showsRows(field.ast, lines)),
    );
  }

  bind(scope: Scope): BoundMessage {
    const subject = this.subject.bind(scope);
    const bound = (pieces: readonly BodyPart[]): BoundPiece[] =>
      pieces.map((piece) => ({
        kind: piece.kind,
        filler: piece.kind === "text" ? piece.template.bind(scope) : piece.table.bind(scope),
      }));
    return new BoundMessage(
      (env) => subject.fill(env),
      bound(this.pieces),
      this.isHtml,
      this.alternative && bound(this.alternative),
    );
  }
}

/** Texts and tables of a body in their order. */
function readPieces(body: string, where: string): BodyPart[] {
  const pieces: BodyPart[] = [];
  let text = "";
  const flush = (): void => {
    if (text !== "") pieces.push({ kind: "text", template: parseTextTemplate(text, where) });
    text = "";
  };
  for (const piece of cutMarks(body, where)) {
    if (piece.kind === "mark" && /^table\s+[\p{L}_][\p{L}\p{M}\p{N}_]*(?![\p{L}\p{N}_.(])/u.test(piece.source)) {
      flush();
      pieces.push({ kind: "table", table: parseLineTable(piece.source, where) });
    } else text += piece.kind === "text" ? piece.text : `{{${piece.source}}}`;
  }
  flush();
  return pieces;
}

interface BoundPiece {
  readonly kind: BodyPart["kind"];
  readonly filler: { readonly fill: (env: Env, escape?: (text: string) => string) => string };
}

/** A message checked against a scope. */
export class BoundMessage {
  constructor(
    private readonly subject: (env: Env) => string,
    private readonly pieces: readonly BoundPiece[],
    private readonly isHtml: boolean,
    private readonly alternative: readonly BoundPiece[] | undefined,
  ) {}

  compose(env: Env): ComposedMessage {
    const html = this.isHtml
      ? this.pieces.map((piece) => piece.filler.fill(env, escapeHtml)).join("")
      : textToHtml(this.pieces.map((piece) => piece.filler.fill(env, escapeHtml)));
    return {
      subject: oneLine(withPlace("subject", () => this.subject(env))),
      html: wholePage(html),
      text: this.alternative ? this.plain(this.alternative, env) : plainText(html),
    };
  }

  private plain(pieces: readonly BoundPiece[], env: Env): string {
    return pieces
      .map(({ kind, filler }) => (kind === "text" ? filler.fill(env) : `\n${plainText(filler.fill(env))}\n`))
      .join("");
  }
}

/** A subject is one line whatever stands in the data: a line end would start another header. */
export function oneLine(text: string): string {
  return text.replace(/[\u0000-\u001f\u007f\u2028\u2029]+/g, " ").trim();
}

/** Pieces of plain text, escaped already; tables among them stay as they are. */
function textToHtml(pieces: readonly string[]): string {
  return pieces
    .map((piece) =>
      piece.startsWith("<table")
        ? piece
        : piece
            .split(/\n{2,}/)
            .map((paragraph) => (paragraph.trim() === "" ? "" : `<p>${paragraph.trim().replaceAll("\n", "<br>")}</p>`))
            .join(""),
    )
    .join("");
}

const PAGE_STYLE = "font-family:Calibri,Carlito,Arial,sans-serif;font-size:11pt;line-height:1.4;color:#1c2526";

function wholePage(html: string): string {
  if (/<html\b/i.test(html)) return html;
  return `<!DOCTYPE html><html><head><meta charset="utf-8"></head><body style="${PAGE_STYLE}">${html}</body></html>`;
}

/** The text alternative, made from the HTML: tables with aligned columns, links with their addresses. */
export function plainText(html: string): string {
  toPlainText ??= htmlToText().compile({
    wordwrap: 100,
    selectors: [
      { selector: "table", format: "dataTable", options: { uppercaseHeaderCells: false, colSpacing: 2 } },
      { selector: "h1", options: { uppercase: false } },
      { selector: "h2", options: { uppercase: false } },
      { selector: "h3", options: { uppercase: false } },
      { selector: "img", format: "skip" },
    ],
  });
  return toPlainText(html);
}

/** Its selectors are read once, where the first message is written. */
let toPlainText: ((html: string) => string) | undefined;
