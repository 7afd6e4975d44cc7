/** What filling changes beside a part's own text: pictures with their relationships, lists that start again, ids. */

import { CorbixError, sha256, suggestName } from "../../common/index.js";
import {
  type Code,
  type Dialect,
  drawCode,
  type FillingPart,
  fitInto,
  type MadeChart,
  WORKBOOK,
} from "../../marked/index.js";
import {
  escapeXml,
  OFFICE_RELATIONS,
  type OoxmlPackage,
  relationshipsName,
  relationshipsXml,
  type XmlElement,
} from "../../ooxml/index.js";
import { readImage } from "../../page/index.js";
import { say } from "../../words/index.js";

const IMAGE = `${OFFICE_RELATIONS}/image`;
const CHART = `${OFFICE_RELATIONS}/chart`;
const WORKBOOK_CONTENT = "application/vnd.openxmlformats-officedocument.spreadsheetml.sheet";
const CHART_CONTENT = "application/vnd.openxmlformats-officedocument.drawingml.chart+xml";
const TYPES = "[Content_Types].xml";
const PACKAGE = `${OFFICE_RELATIONS}/package`;

/** Pictures by file name, for marks in alternative texts. */
export type Pictures = ReadonlyMap<string, Uint8Array>;

/** Collects what one filling changes in the whole package. */
export class PackageEditor {
  private readonly parts = new Map<string, string | Uint8Array | null>();
  private readonly extensions = new Set<string>();
  private readonly added: { id: number; list: number }[] = [];
  private nextList: number | undefined;
  private charts = 0;
  /** Whether charts have workbooks behind them. */
  private books = false;
  private readonly overrides: string[] = [];
  /** Charts that others took the place of: they and their workbooks go. */
  private readonly replaced = new Set<string>();

  constructor(
    readonly opened: OoxmlPackage,
    private readonly documentPart: string,
    readonly pictures: Pictures,
    readonly dialect: Dialect,
  ) {}

  part(name: string): PartEditor {
    return new PartEditor(this, name);
  }

  set(name: string, content: string): void {
    this.parts.set(name, content);
  }

  /** A media part with these bytes; the same bytes are one part. */
  media(bytes: Uint8Array): string {
    const extension = bytes[0] === 0x89 ? "png" : "jpeg";
    const name = `word/media/corbix-${sha256(bytes).slice(0, 16)}.${extension}`;
    this.parts.set(name, bytes);
    this.extensions.add(extension);
    return name;
  }

  /** A chart part like another, with what leads from it to its looks, and a workbook of its own behind it. */
  chart(like: string, { chart: xml, workbook }: MadeChart): string {
    const name = `word/charts/corbix-chart${++this.charts}.xml`;
    const behind = `word/embeddings/corbix-chart${this.charts}.xlsx`;
    this.parts.set(behind, workbook);
    this.books = true;
    const text = this.opened.getText(like);
    this.parts.set(name, text.slice(0, text.indexOf(this.opened.getXml(like).open)) + xml.toString());
    this.overrides.push(`<Override PartName="/${name}" ContentType="${CHART_CONTENT}"/>`);
    const relations = relationshipsName(like);
    const kept = (this.opened.maybeXml(relations)?.elements() ?? []).filter(
      (one) => !/package$|oleObject$/.test(one.attr("Type") ?? ""),
    );
    this.parts.set(
      relationshipsName(name),
      relationshipsXml([
        ...kept,
        `<Relationship Id="${WORKBOOK}" Type="${PACKAGE}" Target="../embeddings/corbix-chart${this.charts}.xlsx"/>`,
      ]),
    );
    this.replaced.add(like);
    return name;
  }

  /** The number of a list like the given one that starts again. */
  restarted(list: number): number {
    this.nextList ??= Math.max(0, ...this.lists().map(({ id }) => id)) + 1;
    const id = this.nextList++;
    this.added.push({ id, list });
    return id;
  }

  private get numberingPart(): string | undefined {
    return this.opened.relationships(this.documentPart).find(({ type }) => type === "numbering")?.target;
  }

  private lists(): { id: number; abstract: string }[] {
    const part = this.numberingPart;
    return (part ? (this.opened.maybeXml(part)?.elements("num") ?? []) : []).map((num) => ({
      id: Number(num.attr("w:numId")),
      abstract: num.child("abstractNumId")?.attr("w:val") ?? "0",
    }));
  }

  finish(): OoxmlPackage {
    this.writeLists();
    const types = this.opened.getText(TYPES);
    const defaults = [...this.extensions]
      .filter((extension) => !types.includes(`Extension="${extension}"`))
      .map((extension) => `<Default Extension="${extension}" ContentType="image/${extension}"/>`);
    if (this.books && !types.includes('Extension="xlsx"'))
      defaults.push(`<Default Extension="xlsx" ContentType="${WORKBOOK_CONTENT}"/>`);
    if (defaults.length + this.overrides.length > 0)
      this.parts.set(
        TYPES,
        [...this.replaced]
          .reduce(
            (text, part) => text.replace(new RegExp(`<(?:\\w+:)?Override\\b[^>]*PartName="/${part}"[^>]*/>`), ""),
            types,
          )
          .replace(/(<(?:\w+:)?Types\b[^>]*>)/, (open) => open + defaults.join(""))
          .replace(/<\/(?:\w+:)?Types>\s*$/, (end) => this.overrides.join("") + end),
      );
    for (const [part, change] of this.changedRelations) this.writeRelations(part, change);
    this.dropReplaced();
    return this.opened.with(this.parts);
  }

  /** What a part leads to besides, and what it does not lead to any more. */
  related(part: string, added: readonly string[], dropped: ReadonlySet<string>): void {
    this.changedRelations.set(relationshipsName(part), { added, dropped });
  }

  private readonly changedRelations = new Map<string, { added: readonly string[]; dropped: ReadonlySet<string> }>();

  /** Addresses with marks in them are filled already. */
  private writeRelations(
    part: string,
    { added, dropped }: { added: readonly string[]; dropped: ReadonlySet<string> },
  ): void {
    const filled = this.parts.get(part);
    const before =
      typeof filled === "string" ? filled : this.opened.has(part) ? this.opened.getText(part) : relationshipsXml([]);
    const kept = [...dropped].reduce(
      (text, id) => text.replace(new RegExp(`<(?:\\w+:)?Relationship\\b[^>]*\\bId="${id}"[^>]*/>`), ""),
      before.replace(/<(\w+:)?Relationships\b([^>]*)\/>/, "<$1Relationships$2></$1Relationships>"),
    );
    this.parts.set(
      part,
      kept.replace(/<\/(\w+:)?Relationships>/, (end) => added.join("") + end),
    );
  }

  /** Takes out charts that others took the place of, with the workbooks behind them. */
  private dropReplaced(): void {
    for (const part of this.replaced) {
      this.parts.set(part, null);
      if (this.opened.has(relationshipsName(part))) this.parts.set(relationshipsName(part), null);
      for (const relation of this.opened.relationships(part))
        if (!relation.external && /\.(?:xlsx|xlsm|bin)$/i.test(relation.target)) this.parts.set(relation.target, null);
    }
  }

  private writeLists(): void {
    const part = this.numberingPart;
    if (this.added.length === 0 || part === undefined) return;
    const known = this.lists();
    const xml = this.opened.getXml(part);
    const levels = new Map(
      xml
        .elements("abstractNum")
        .map((one) => [
          one.attr("w:abstractNumId") ?? "",
          one
            .elements("lvl")
            .map((level) => [level.attr("w:ilvl") ?? "0", level.child("start")?.attr("w:val") ?? "1"] as const),
        ]),
    );
    const written = this.added.map(({ id, list }) => {
      const abstract = known.find((one) => one.id === list)?.abstract ?? "0";
      const starts = (levels.get(abstract) ?? [["0", "1"] as const])
        .map(([level, start]) => `<w:lvlOverride w:ilvl="${level}"><w:startOverride w:val="${start}"/></w:lvlOverride>`)
        .join("");
      return `<w:num w:numId="${id}"><w:abstractNumId w:val="${abstract}"/>${starts}</w:num>`;
    });
    this.parts.set(
      part,
      this.opened.getText(part).replace(/<w:numIdMacAtCleanup\b|<\/w:numbering>/, (end) => written.join("") + end),
    );
  }
}

/** Collects what one filling changes around a part. */
export class PartEditor implements FillingPart {
  private readonly relations: string[] = [];
  /** Relationships that nothing names any more. */
  private readonly dropped = new Set<string>();
  private isRepeated = false;

  constructor(
    private readonly owner: PackageEditor,
    private readonly name: string,
  ) {}

  get dialect(): Dialect {
    return this.owner.dialect;
  }

  onNewPage(xml: string): string {
    return onNewPage(xml);
  }

  table(xml: string): string {
    return xml;
  }

  link(address: string): string {
    return address;
  }

  moved(xml: string): string {
    return xml;
  }

  /** A drawing with another picture in its frame; without a value there is none. */
  picture({ xml, code, where }: Parameters<FillingPart["picture"]>[0], text: string): string {
    if (text === "") return "";
    const bytes = code ? this.code(code, text, where) : this.named(text, where);
    const described = xml.replace(
      /(<wp:docPr\b[^>]*\bdescr=")[^"]*"/,
      (_, open: string) => `${open}${escapeXml(code ? text : text.replace(/\.\w+$/, ""))}"`,
    );
    if (!bytes) return described;
    const image = readImage(bytes);
    if (typeof image === "string")
      throw new CorbixError("BAD_MARK", say().document.cannotUsePicture({ text, image }), { where });
    const id = this.relation(this.owner.media(bytes));
    const frame = /<wp:extent\b[^>]*\bcx="(\d+)"[^>]*\bcy="(\d+)"/.exec(xml);
    const fitted = frame && fitInto(image, { width: Number(frame[1]), height: Number(frame[2]) });
    const placed = described
      .replace(/(<a:blip\b[^>]*\br:embed=")[^"]*"/g, (_, open: string) => `${open}${id}"`)
      .replace(/<a:srcRect\b[^>]*\/>/g, "");
    if (!fitted) return placed;
    return placed.replace(
      /(<(?:wp:extent|a:ext)\b[^>]*\bcx=")\d+("[^>]*\bcy=")\d+"/g,
      (_, open: string, between: string) => `${open}${fitted.width}${between}${fitted.height}"`,
    );
  }

  /** A drawing with a chart of its own, changed. */
  chart(xml: string, change: (chart: XmlElement) => MadeChart): string {
    const { opened } = this.owner;
    const id = /<c:chart\b[^>]*\br:id="([^"]*)"/.exec(xml)?.[1];
    const relation = opened.relationships(this.name).find((one) => one.id === id);
    if (!relation || !opened.has(relation.target)) return xml;
    const own = this.relation(this.owner.chart(relation.target, change(opened.getXml(relation.target))), CHART);
    this.dropped.add(relation.id);
    // What was said to those who do not see it was the mark.
    return xml
      .replace(/(<c:chart\b[^>]*\br:id=")[^"]*"/, (_, open: string) => `${open}${own}"`)
      .replace(/(<wp:docPr\b[^>]*\bdescr=")[^"]*"/, '$1"');
  }

  private code(code: Code, text: string, where: string): Uint8Array {
    try {
      return drawCode(code, text);
    } catch (cause) {
      throw new CorbixError("BAD_MARK", say().document.cannotDrawTooLongCharacters({ text: text.slice(0, 40), code }), {
        where,
        cause,
      });
    }
  }

  /** A text that is no name of a picture is an alternative text, and the picture stays. */
  private named(text: string, where: string): Uint8Array | undefined {
    if (!/\.(?:png|jpe?g)$/i.test(text)) return undefined;
    const { pictures } = this.owner;
    const found = pictures.get(text) ?? [...pictures].find(([name]) => name.toLowerCase() === text.toLowerCase())?.[1];
    if (found) return found;
    throw new CorbixError("BAD_MARK", say().document.cannotFindPicture({ text }), {
      where,
      advice: say().document.putBesideTemplates({ suggestion: suggestName(text, [...pictures.keys()], "pictures") }),
    });
  }

  private relation(target: string, type = IMAGE): string {
    const id = `corbix${this.relations.length + 1}`;
    const depth = this.name.split("/").length - 1;
    this.relations.push(`<Relationship Id="${id}" Type="${type}" Target="${"../".repeat(depth)}${target}"/>`);
    return id;
  }

  /** A repetition that is not the first: what has to be there only once is made anew. */
  again(xml: string, restarts: readonly string[]): string {
    this.isRepeated = true;
    let made = xml;
    for (const list of restarts) {
      const pattern = `<w:numId w:val="${list}"/>`;
      if (made.includes(pattern))
        made = made.replaceAll(pattern, `<w:numId w:val="${this.owner.restarted(Number(list))}"/>`);
    }
    return made;
  }

  /** Puts the filled text in the package. */
  finish(xml: string): void {
    this.owner.set(this.name, this.isRepeated ? withOwnIds(xml) : xml);
    if (this.relations.length > 0) this.owner.related(this.name, this.relations, this.dropped);
  }
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

/** Drawings and bookmarks of repeated text get ids, and bookmarks names, of their own. */
export function withOwnIds(xml: string): string {
  const drawn = xml.includes("docPr") ? withDrawingIds(xml) : xml;
  return drawn.includes("bookmark") ? withBookmarkIds(drawn) : drawn;
}

function withDrawingIds(xml: string): string {
  let drawing = 0;
  return xml.replace(/(<(?:\w+:)?docPr\b[^>]*?\sid=")\d+"/g, (_, start: string) => `${start}${++drawing}"`);
}

function withBookmarkIds(xml: string): string {
  let bookmark = 0;
  const names = new Set<string>();
  const open = new Map<string, number>();
  return xml.replace(/<(?:\w+:)?bookmark(Start|End)\b[^>]*>/g, (tag, kind: string) => {
    const id = /\s(?:\w+:)?id="([^"]*)"/.exec(tag)?.[1] ?? "";
    if (kind === "Start") open.set(id, ++bookmark);
    const own = tag.replace(/(\s(?:\w+:)?id=")[^"]*"/, (_, start: string) => `${start}${open.get(id) ?? id}"`);
    if (kind === "End") return own;
    return own.replace(/(\s(?:\w+:)?name=")([^"]*)"/, (_, start: string, name: string) => {
      let unique = name;
      for (let number = 2; names.has(unique); number++) unique = `${name}_${number}`;
      names.add(unique);
      return `${start}${unique}"`;
    });
  });
}
