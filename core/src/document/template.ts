import { CorbixError, type Finding } from "../common/index.js";
import type { Env, Field, Scope, TextField } from "../expression/index.js";
import { escapeXml, OoxmlPackage, parseXml } from "../ooxml/index.js";
import { bindField, hasMarks, type PlacedMark, withPlace } from "../template/index.js";
import { cutPart, fieldsIn, type Piece } from "./pieces.js";

export interface FilledDocument {
  /** The filled package; `toBytes()` gives the file. */
  readonly package: OoxmlPackage;
  readonly findings: readonly Finding[];
}

interface TemplatePart {
  readonly name: string;
  readonly head: string;
  readonly tail: string;
  readonly pieces: readonly Piece[];
}

/** A document read for filling: once for all groups and runs. */
export class DocumentTemplate {
  private constructor(
    readonly opened: OoxmlPackage,
    private readonly parts: readonly TemplatePart[],
  ) {}

  /** Throws `NOT_A_DOCUMENT`, `BROKEN_PACKAGE`, `BROKEN_XML`, or `BAD_MARK` with part and paragraph. */
  static read(bytes: Uint8Array, where: string): DocumentTemplate {
    const opened = openDocument(bytes, where);
    const parts = opened.names
      .filter((name) => /\.(xml|rels)$/.test(name) && mayHoldMarks(opened.getText(name)))
      .map((name): TemplatePart => {
        const document = parseXml(opened.getText(name), `${where}, ${name}`);
        return {
          name,
          head: document.head,
          tail: document.tail,
          pieces: cutPart(document.root, `${where}, ${partTitle(name)}`),
        };
      });
    return new DocumentTemplate(opened, parts);
  }

  get fields(): readonly Field[] {
    return this.parts.flatMap((part) => fieldsIn(part.pieces));
  }

  /** Every mark with its part. */
  get marks(): PlacedMark[] {
    return this.parts.flatMap((part) =>
      fieldsIn(part.pieces).map((field) => ({ where: partTitle(part.name), source: field.source, fields: [field] })),
    );
  }

  /** Checks every field against what a report offers. Throws `BAD_EXPRESSION` with part and mark. */
  bind(scope: Scope): BoundDocument {
    return new BoundDocument(
      this.opened,
      this.parts.map((part) => ({ ...part, pieces: bindPieces(part.pieces, scope) })),
    );
  }
}

/** Marks are looked for in the text, since tags may stand between their braces. */
function mayHoldMarks(source: string): boolean {
  return hasMarks(source) || /\{(?:<[^>]*>)+\{/.test(source);
}

function partTitle(name: string): string {
  const title = /word\/(document|header|footer|footnotes|endnotes|comments)(\d*)\.xml$/.exec(name);
  return title ? (title[1] === "document" ? "text" : `${title[1]}${title[2] ? ` ${title[2]}` : ""}`) : name;
}

/** Opens a document package. Throws `NOT_A_DOCUMENT`. */
export function openDocument(bytes: Uint8Array, where: string): OoxmlPackage {
  const isPackage = bytes[0] === 0x50 && bytes[1] === 0x4b;
  const opened = isPackage ? OoxmlPackage.open(bytes, where) : undefined;
  const part = opened?.mainPart();
  if (opened && part && opened.has(part) && opened.getXml(part).local === "document") return opened;
  const what = bytes.length === 0 ? "it is empty" : isPackage ? "the package holds none" : "it is no zip package";
  throw new CorbixError("NOT_A_DOCUMENT", `Cannot read the file as a document: ${what}.`, {
    where,
    advice: "Give a .docx file.",
  });
}

type BoundPiece =
  | { readonly kind: "raw"; readonly xml: string }
  | { readonly kind: "field" | "attribute"; readonly field: TextField; readonly where: string; readonly prefix: string }
  | { readonly kind: "lines"; readonly pieces: readonly BoundPiece[] };

function bindPieces(pieces: readonly Piece[], scope: Scope): BoundPiece[] {
  return pieces.map((piece): BoundPiece => {
    if (piece.kind === "raw") return piece;
    if (piece.kind === "lines") return { kind: "lines", pieces: bindPieces(piece.pieces, scope) };
    return {
      kind: piece.kind,
      where: piece.where,
      field: bindField(piece.field, scope, piece.where),
      prefix: piece.kind === "field" ? piece.prefix : "",
    };
  });
}

/** A template checked against a scope, ready to be filled many times. */
export class BoundDocument {
  constructor(
    private readonly opened: OoxmlPackage,
    private readonly parts: readonly (Omit<TemplatePart, "pieces"> & { readonly pieces: readonly BoundPiece[] })[],
  ) {}

  /** One group's document. The template is not touched. */
  fill(env: Env): FilledDocument {
    const changes = new Map(
      this.parts.map((part) => [part.name, part.head + fillPieces(part.pieces, env) + part.tail]),
    );
    return { package: this.opened.with(changes), findings: [] };
  }
}

function fillPieces(pieces: readonly BoundPiece[], env: Env): string {
  let filled = "";
  for (const piece of pieces) {
    if (piece.kind === "raw") filled += piece.xml;
    else if (piece.kind === "lines") for (const row of env.lines) filled += fillPieces(piece.pieces, { ...env, row });
    else {
      const text = withPlace(piece.where, () => piece.field.show(env));
      filled += piece.kind === "attribute" ? escapeXml(text) : runText(text, piece.prefix);
    }
  }
  return filled;
}

/** Line ends and tabs inside a value become breaks and tabs of the run. */
function runText(text: string, prefix: string): string {
  if (!/[\n\t]/.test(text)) return escapeXml(text);
  const close = `</${prefix}t>`;
  const open = `<${prefix}t xml:space="preserve">`;
  return escapeXml(text.replace(/\r\n?/g, "\n"))
    .replaceAll("\n", `${close}<${prefix}br/>${open}`)
    .replaceAll("\t", `${close}<${prefix}tab/>${open}`);
}
