import { CorbixError, columnKey, type Finding, suggestName } from "../../common/index.js";
import { type Env, type LinesColumns, type Scope, showsRows } from "../../expression/index.js";
import {
  type BoundNode,
  bindPieces,
  cutPart,
  type Dialect,
  fillPieces,
  isConstant,
  marksIn,
  type TableMaker,
  type TemplateNode,
} from "../../marked/index.js";
import { OoxmlPackage, parseXml } from "../../ooxml/index.js";
import { hasMarks, type PlacedMark, type TemplatePlace } from "../../template/index.js";
import { say } from "../../words/index.js";
import type { BookmarkTables } from "../fill/bookmark-tables.js";
import { bindTable, documentTableLooks, writeTable } from "../fill/insert-table.js";
import { PackageEditor, type Pictures } from "../fill/part-editor.js";
import { wordText } from "./word-text.js";

export interface FilledDocument {
  /** The filled package; `toBytes()` gives the file. */
  readonly package: OoxmlPackage;
  readonly findings: readonly Finding[];
}

/** What has to be known of a report to read a document for it. */
export interface DocumentReading {
  /** Tables that go where bookmarks of their names stand. */
  readonly tables?: BookmarkTables | undefined;
  /** Folded names of lines beside the group's own. */
  readonly further?: readonly string[] | undefined;
}

interface TemplatePart {
  readonly name: string;
  readonly head: string;
  readonly tail: string;
  readonly pieces: readonly TemplateNode[];
}

const NO_PICTURES: Pictures = new Map();
const NO_TABLES: BookmarkTables = new Map();

/** A document read for filling: once for all groups and runs. */
export class DocumentTemplate {
  private constructor(
    readonly opened: OoxmlPackage,
    private readonly parts: readonly TemplatePart[],
    private readonly dialect: Dialect,
  ) {}

  /** Throws `NOT_A_DOCUMENT`, `BROKEN_PACKAGE`, `BROKEN_XML`, or `BAD_MARK` with part and paragraph. */
  static read(
    bytes: Uint8Array,
    where: string,
    { tables = NO_TABLES, further = [] }: DocumentReading = {},
  ): DocumentTemplate {
    const opened = openDocument(bytes, where);
    const dialect = wordText(tables);
    const parts = opened.names
      .filter((name) => /\.(xml|rels)$/.test(name) && mayBeFilled(name, opened.getText(name)))
      .map((name): TemplatePart => {
        const document = parseXml(opened.getText(name), `${where}, ${name}`);
        return {
          name,
          head: document.head,
          tail: document.tail,
          pieces: cutPart(document.root, `${where}, ${partTitle(name)}`, { dialect, further }),
        };
      });
    refuseMissing(opened, tables, where);
    return new DocumentTemplate(opened, parts, dialect);
  }

  /** Every mark with its place. */
  get marks(): PlacedMark[] {
    // The list is of one template: its name, and the mark, stand beside the place already.
    return this.parts.flatMap((part) =>
      marksIn(part.pieces).map((mark) => ({
        ...mark,
        where: mark.where.slice(this.opened.where.length + 2).replace(/, mark \{\{[\s\S]*$/, ""),
      })),
    );
  }

  /** Whether single rows of the given lines stand in it. */
  shows(lines: LinesColumns): boolean {
    return this.parts.some(({ pieces }) =>
      marksIn(pieces).some(
        (mark) =>
          (mark.lines !== undefined && Object.hasOwn(lines, mark.lines)) ||
          mark.fields.some((field) => showsRows(field.ast, lines)),
      ),
    );
  }

  /** Checks every field against what a report offers. Throws `BAD_EXPRESSION` with part and mark. */
  bind(scope: Scope, pictures: Pictures = NO_PICTURES): BoundDocument {
    const looks = documentTableLooks(this.opened, this.opened.main);
    const tables: TableMaker = (piece, within) => {
      const table = bindTable(piece, within, looks);
      return (env) => writeTable(table, env);
    };
    const parts = this.parts.map((part) => ({ ...part, pieces: bindPieces(part.pieces, scope, tables) }));
    // A part with bookmarks that are no columns is filled with nothing, and stays byte for byte.
    return new BoundDocument(
      this.opened,
      parts.filter(({ pieces }) => !isConstant(pieces)),
      pictures,
      this.dialect,
    );
  }
}

function refuseMissing(opened: OoxmlPackage, tables: BookmarkTables, where: string): void {
  if (tables.size === 0) return;
  const names = bookmarksOf(opened).map(({ name }) => name);
  for (const name of tables.keys())
    if (!names.some((known) => columnKey(known) === name))
      throw new CorbixError("BAD_DEFINITION", say().document.cannotFindBookmarkTemplate({ name }), {
        where: `${where}, tables`,
        advice: suggestName(name, names, "bookmarks"),
      });
}

/** Bookmarks with the part they stand in; those that programs set for themselves begin with a line below. */
export function documentPlaces(opened: OoxmlPackage): TemplatePlace[] {
  return bookmarksOf(opened)
    .filter(({ name }) => !name.startsWith("_"))
    .map(({ name, part }) => ({ kind: "bookmark", name, where: partTitle(part), headings: [] }));
}

function bookmarksOf(opened: OoxmlPackage): { name: string; part: string }[] {
  return opened.names
    .filter((part) => BOOKMARKED.test(part))
    .flatMap((part) =>
      [...opened.getXml(part).descendants("bookmarkStart")].flatMap((one) => {
        const name = one.attr("w:name");
        return name === undefined ? [] : [{ name, part }];
      }),
    );
}

const BOOKMARKED = /^word\/(?:document|header\d*|footer\d*|footnotes|endnotes)\.xml$/;

/** Marks are looked for in the text, since tags may stand between their braces; merge fields and bookmarks in texts only. */
function mayBeFilled(name: string, source: string): boolean {
  if (hasMarks(source) || /\{(?:<[^>]*>)+\{/.test(source)) return true;
  return BOOKMARKED.test(name) && /MERGEFIELD|bookmarkStart/i.test(source);
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
  const what = say().document.empty({ byteCount: bytes.length, isPackage });
  throw new CorbixError("NOT_A_DOCUMENT", say().document.cannotReadFileDocument({ what }), {
    where,
    advice: say().document.giveDocxFile(),
  });
}

/** A template checked against a scope, ready to be filled many times. */
export class BoundDocument {
  constructor(
    private readonly opened: OoxmlPackage,
    private readonly parts: readonly (Omit<TemplatePart, "pieces"> & { readonly pieces: readonly BoundNode[] })[],
    private readonly pictures: Pictures,
    private readonly dialect: Dialect,
  ) {}

  /** One group's document. The template is not touched. */
  fill(env: Env): FilledDocument {
    const editor = new PackageEditor(this.opened, this.opened.main, this.pictures, this.dialect);
    for (const part of this.parts) {
      const own = editor.part(part.name);
      own.finish(part.head + fillPieces(part.pieces, env, own) + part.tail);
    }
    return { package: editor.finish(), findings: [] };
  }
}
