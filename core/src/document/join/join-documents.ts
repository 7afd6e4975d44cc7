/** Documents put behind each other in one package, each with its own sections, styles, lists, notes and pictures. */
import { made } from "../../common/index.js";
import {
  OFFICE_RELATIONS,
  type OoxmlPackage,
  relationshipsName,
  relationshipsXml,
  type XmlElement,
  xmlElement,
} from "../../ooxml/index.js";
import { withOwnIds } from "../fill/part-editor.js";
import { joinStyles } from "./join-styles.js";

const TYPES = "[Content_Types].xml";
const WORD = "application/vnd.openxmlformats-officedocument.wordprocessingml";

/** Parts that both documents have once; they are joined rather than copied. */
const JOINED = new Set([
  "styles",
  "numbering",
  "footnotes",
  "endnotes",
  "settings",
  "theme",
  "fontTable",
  "webSettings",
  "stylesWithEffects",
  "comments",
  "commentsExtended",
  "commentsIds",
  "people",
  "glossaryDocument",
  "customXml",
  "printerSettings",
]);

/** The first document with the second behind it, on a page of its own. */
export function joinDocuments(first: OoxmlPackage, second: OoxmlPackage): OoxmlPackage {
  return new Joining(first, second.inFormOf(first)).join();
}

class Joining {
  private readonly parts = new Map<string, string | Uint8Array>();
  private readonly overrides: string[] = [];
  private readonly extensions = new Map<string, string>();
  private readonly copied = new Map<string, string>();
  private readonly relations: string[] = [];
  private readonly ids = new Map<string, string>();
  private readonly mark: string;
  private readonly main: string;
  private readonly other: string;

  constructor(
    private readonly first: OoxmlPackage,
    private readonly second: OoxmlPackage,
  ) {
    this.main = first.main;
    this.other = second.main;
    let number = 2;
    while (first.names.some((name) => name.includes(`/joined${number}-`))) number++;
    this.mark = `joined${number}-`;
  }

  join(): OoxmlPackage {
    const { first, second } = this;
    const styles = joinStyles(first, second, this.mark.replace("-", ""));
    for (const [part, text] of styles.parts) this.parts.set(part, text);
    this.copyRelated();
    const lists = this.joinLists(styles.rename);
    const notes = new Map([
      ["footnote", this.joinNotes("footnote", (xml) => lists(styles.rename(xml)))],
      ["endnote", this.joinNotes("endnote", (xml) => lists(styles.rename(xml)))],
    ] as const);
    const rewrite = (xml: string): string => {
      let text = this.renamedIds(lists(styles.rename(xml)))
        .replace(/<w:commentRange(?:Start|End)\b[^>]*\/>/g, "")
        .replace(/<w:r\b[^>]*>(?:<w:rPr>(?:(?!<\/w:rPr>)[\s\S])*<\/w:rPr>)?<w:commentReference\b[^>]*\/><\/w:r>/g, "")
        .replace(/<w:dataBinding\b[^>]*\/>/g, "");
      for (const [kind, offset] of notes)
        if (offset > 0)
          text = text.replace(
            new RegExp(`(<w:${kind}Reference\\b[^>]*\\bw:id=")(-?\\d+)"`, "g"),
            (_, open: string, id: string) => `${open}${Number(id) + offset}"`,
          );
      return text;
    };
    const body = this.bodyOfSecond(rewrite);
    this.parts.set(this.main, withOwnIds(this.joinedBody(body)));
    // Headers and footers of the second name its styles too.
    for (const [source, target] of this.copied) {
      if (!/\.xml$/.test(target) || !/header|footer/i.test(source)) continue;
      this.parts.set(target, lists(styles.rename(second.getText(source))));
    }
    this.writeRelations();
    this.writeTypes();
    return first.with(this.parts);
  }

  private renamedIds(xml: string): string {
    return xml.replace(
      /(\sr:(?:id|embed|link|pict|dm|lo|qs|cs)=")([^"]*)"/g,
      (_, open: string, id: string) => `${open}${this.ids.get(id) ?? id}"`,
    );
  }

  /** Copies parts that the second document leads to, and those that they lead to. */
  private copyRelated(): void {
    for (const relation of this.second.relationships(this.other)) {
      if (JOINED.has(relation.type)) continue;
      const id = `${this.mark}${relation.id}`;
      this.ids.set(relation.id, id);
      const target = relation.external ? relation.target : this.copy(relation.target);
      if (target === undefined) continue;
      this.relations.push(
        relationship(
          id,
          this.typeOf(this.other, relation.id),
          relation.external ? target : `/${target}`,
          relation.external,
        ),
      );
    }
  }

  private typeOf(part: string, id: string): string {
    const xml = this.second.maybeXml(relationshipsName(part));
    return (
      xml
        ?.elements()
        .find((one) => one.attr("Id") === id)
        ?.attr("Type") ?? `${OFFICE_RELATIONS}/image`
    );
  }

  private copy(part: string): string | undefined {
    const known = this.copied.get(part);
    if (known !== undefined) return known;
    if (!this.second.has(part)) return undefined;
    const slash = part.lastIndexOf("/");
    const target = `${part.slice(0, slash + 1)}${this.mark}${part.slice(slash + 1)}`;
    this.copied.set(part, target);
    this.parts.set(target, this.second.getBytes(part));
    this.typed(part, target);
    const inner = this.second.relationships(part);
    if (inner.length > 0) {
      const written = inner.map((relation) => {
        const leads = relation.external ? relation.target : `/${this.copy(relation.target) ?? relation.target}`;
        return relationship(relation.id, this.typeOf(part, relation.id), leads, relation.external);
      });
      this.parts.set(relationshipsName(target), relationshipsXml(written));
    }
    return target;
  }

  private typed(part: string, target: string): void {
    const type = this.second.contentType(part);
    if (type === undefined) return;
    const extension = part.slice(part.lastIndexOf(".") + 1).toLowerCase();
    if (extension === "xml") this.overrides.push(`<Override PartName="/${target}" ContentType="${type}"/>`);
    else this.extensions.set(extension, type);
  }

  /** The second's list definitions behind the first's, with numbers of their own. */
  private joinLists(rename: (xml: string) => string): (xml: string) => string {
    const own = this.partOf(this.first, this.main, "numbering");
    const other = this.partOf(this.second, this.other, "numbering");
    if (!other) return (xml) => xml;
    const added = this.second.getXml(other);
    const base = own ? this.first.getXml(own) : undefined;
    const highest = (xml: XmlElement | undefined, name: string, attribute: string): number =>
      Math.max(0, ...(xml?.elements(name) ?? []).map((one) => Number(one.attr(attribute) ?? 0)));
    const abstracts = highest(base, "abstractNum", "w:abstractNumId") + 1;
    const lists = highest(base, "num", "w:numId") + 1;
    const moved = (xml: string): string =>
      rename(xml)
        .replace(/(\bw:abstractNumId=")(\d+)"/g, (_, open: string, id: string) => `${open}${Number(id) + abstracts}"`)
        .replace(
          /(<w:abstractNumId\b[^>]*\bw:val=")(\d+)"/g,
          (_, open: string, id: string) => `${open}${Number(id) + abstracts}"`,
        )
        .replace(/(<w:num\b[^>]*\bw:numId=")(\d+)"/g, (_, open: string, id: string) => `${open}${Number(id) + lists}"`)
        // Two definitions with the same sign would be taken for one.
        .replace(/<w:(?:nsid|tmpl)\b[^>]*\/>/g, "");
    const pieces = (name: string): string =>
      added
        .elements(name)
        .map((one) => moved(one.toString()))
        .join("");
    if (base && own) {
      const before = base
        .elements("abstractNum")
        .map((one) => one.toString())
        .join("");
      const behind = base
        .elements("num")
        .map((one) => one.toString())
        .join("");
      const others = base
        .elements()
        .filter((one) => one.local !== "abstractNum" && one.local !== "num")
        .map((one) => one.toString());
      const pictures = others.filter((one) => one.includes("numPicBullet")).join("");
      const last = others.filter((one) => !one.includes("numPicBullet")).join("");
      const content = pictures + before + pieces("abstractNum") + behind + pieces("num") + last;
      this.parts.set(own, `${headOf(this.first, own)}${base.open.replace(/\/>$/, ">")}${content}</${base.name}>`);
    } else {
      const target = "word/numbering.xml";
      const open = added.open.replace(/\/>$/, ">");
      this.parts.set(
        target,
        `${headOf(this.second, other)}${open}${pieces("abstractNum")}${pieces("num")}</${added.name}>`,
      );
      this.overrides.push(`<Override PartName="/${target}" ContentType="${WORD}.numbering+xml"/>`);
      this.relations.push(relationship(`${this.mark}lists`, `${OFFICE_RELATIONS}/numbering`, `/${target}`, false));
    }
    return (xml) =>
      xml.replace(
        /(<w:numId\b[^>]*\bw:val=")(\d+)"/g,
        (_, open: string, id: string) => `${open}${id === "0" ? 0 : Number(id) + lists}"`,
      );
  }

  /** The second's notes behind the first's; gives what their numbers grow by. */
  private joinNotes(kind: "footnote" | "endnote", rewrite: (xml: string) => string): number {
    const own = this.partOf(this.first, this.main, `${kind}s`);
    const other = this.partOf(this.second, this.other, `${kind}s`);
    if (!other) return 0;
    const added = this.second.getXml(other);
    if (!own) {
      const target = made(this.copy(other), other);
      this.parts.set(target, headOf(this.second, other) + rewrite(added.toString()));
      this.relations.push(relationship(`${this.mark}${kind}s`, `${OFFICE_RELATIONS}/${kind}s`, `/${target}`, false));
      return 0;
    }
    const base = this.first.getXml(own);
    const offset = Math.max(0, ...base.elements(kind).map((one) => Number(one.attr("w:id") ?? 0))) + 1;
    const written = added
      .elements(kind)
      .filter((one) => one.attr("w:type") === undefined || one.attr("w:type") === "normal")
      .map((one) => rewrite(one.withAttr("w:id", String(Number(one.attr("w:id") ?? 0) + offset)).toString()))
      .join("");
    const text = this.textOf(own);
    this.parts.set(
      own,
      text.replace(new RegExp(`</w:${kind}s>\\s*$`), (end) => written + end),
    );
    return offset;
  }

  private textOf(part: string): string {
    const changed = this.parts.get(part);
    return typeof changed === "string" ? changed : this.first.getText(part);
  }

  private partOf(opened: OoxmlPackage, main: string, type: string): string | undefined {
    const part = opened.relationships(main).find((relation) => relation.type === type)?.target;
    return part !== undefined && opened.has(part) ? part : undefined;
  }

  /** The second's body, its first section with headers and footers of its own even where it has none. */
  private bodyOfSecond(rewrite: (xml: string) => string): { content: string; section: string } {
    const body = this.second.getXml(this.other).child("body");
    const nodes = body?.elements() ?? [];
    const last = nodes[nodes.length - 1];
    const own = last?.local === "sectPr" ? last : xmlElement("w:sectPr");
    const content = nodes
      .filter((one) => one !== last || last.local !== "sectPr")
      .map((one) => one.toString())
      .join("");
    const place = /<w:sectPr\b(?:[^>]*\/>|[\s\S]*?<\/w:sectPr>)/.exec(content);
    const adjusted = (section: string): string => this.startingSection(section);
    if (place) {
      const start = place.index + place[0].length;
      return {
        content: rewrite(content.slice(0, place.index) + adjusted(place[0]) + content.slice(start)),
        section: rewrite(own.toString()),
      };
    }
    return { content: rewrite(content), section: rewrite(adjusted(own.toString())) };
  }

  /** A section on a new page that shows no headers of the document before; pages count on unless it says otherwise. */
  private startingSection(section: string): string {
    const open = /^<w:sectPr\b[^>]*?(?=\/?>)/.exec(section)?.[0] ?? "<w:sectPr";
    const inner = section.endsWith("/>") ? "" : section.slice(section.indexOf(">") + 1, section.lastIndexOf("</"));
    const references: string[] = [];
    for (const kind of ["header", "footer"])
      for (const type of ["default", "first", "even"])
        if (!new RegExp(`<w:${kind}Reference\\b[^>]*w:type="${type}"`).test(inner))
          references.push(this.blank(kind, type));
    const kept = inner.replace(/<w:type\b[^>]*\/>/, "");
    const given = /(?:<w:(?:header|footer)Reference\b[^>]*\/>\s*)*/.exec(kept)?.[0] ?? "";
    const rest = kept.slice(given.length);
    const notes =
      /^(?:<w:(?:footnotePr|endnotePr)\b(?:[^>]*\/>|[\s\S]*?<\/w:(?:footnotePr|endnotePr)>))*/.exec(rest)?.[0] ?? "";
    return `${open}>${references.join("")}${given}${notes}<w:type w:val="nextPage"/>${rest.slice(notes.length)}</w:sectPr>`;
  }

  private readonly blanks = new Map<string, string>();

  private blank(kind: string, type: string): string {
    let id = this.blanks.get(kind);
    if (id === undefined) {
      id = `${this.mark}blank-${kind}`;
      this.blanks.set(kind, id);
      const part = `word/${this.mark}blank-${kind}.xml`;
      const root = kind === "header" ? "hdr" : "ftr";
      this.parts.set(
        part,
        `<?xml version="1.0" encoding="UTF-8" standalone="yes"?>\n<w:${root} xmlns:w="http://schemas.openxmlformats.org/wordprocessingml/2006/main"><w:p/></w:${root}>`,
      );
      this.overrides.push(`<Override PartName="/${part}" ContentType="${WORD}.${kind}+xml"/>`);
      this.relations.push(relationship(id, `${OFFICE_RELATIONS}/${kind}`, `/${part}`, false));
      // It is named here already: the body is rewritten afterwards.
      this.ids.set(id, id);
    }
    return `<w:${kind}Reference xmlns:r="${OFFICE_RELATIONS}" w:type="${type}" r:id="${id}"/>`;
  }

  private joinedBody(added: { content: string; section: string }): string {
    const root = this.first.getXml(this.main);
    const body = made(root.child("body"), "the body");
    const nodes = body.elements();
    const last = nodes[nodes.length - 1];
    const section = last?.local === "sectPr" ? last.toString() : "<w:sectPr/>";
    const before = nodes.filter((one) => one !== last || last.local !== "sectPr");
    const content = before.map((one) => one.toString());
    const end = before[before.length - 1];
    if (end?.local === "p" && !end.path("pPr", "sectPr"))
      content[content.length - 1] = withSection(end.toString(), section);
    else
      content.push(
        `<w:p><w:pPr><w:spacing w:before="0" w:after="0" w:line="20" w:lineRule="exact"/>${section}</w:pPr></w:p>`,
      );
    const open = withNamespaces(root.open, this.second.getXml(this.other).open);
    const whole = this.first.getText(this.main);
    return `${whole.slice(0, whole.indexOf(root.open))}${open}${body.open}${content.join("")}${added.content}${added.section}</${body.name}></${root.name}>`;
  }

  private writeRelations(): void {
    const part = relationshipsName(this.main);
    const text = this.first.has(part) ? this.first.getText(part) : relationshipsXml([]);
    this.parts.set(
      part,
      text.replace(/<\/Relationships>\s*$/, (end) => this.relations.join("") + end),
    );
  }

  private writeTypes(): void {
    const text = this.first.getText(TYPES);
    const defaults = [...this.extensions]
      .filter(([extension]) => !new RegExp(`Extension="${extension}"`, "i").test(text))
      .map(([extension, type]) => `<Default Extension="${extension}" ContentType="${type}"/>`)
      .join("");
    this.parts.set(
      TYPES,
      text
        .replace(/(<Types\b[^>]*>)/, (open) => open + defaults)
        .replace(/<\/Types>\s*$/, (end) => this.overrides.join("") + end),
    );
  }
}

/** A paragraph that ends a section. */
function withSection(paragraph: string, section: string): string {
  const open = /^<w:p\b[^>]*?(\/?)>/.exec(paragraph)?.[0] ?? "<w:p>";
  if (open.endsWith("/>")) return `${open.slice(0, -2)}><w:pPr>${section}</w:pPr></w:p>`;
  const rest = paragraph.slice(open.length);
  if (/^<w:pPr\/>/.test(rest)) return `${open}<w:pPr>${section}</w:pPr>${rest.slice("<w:pPr/>".length)}`;
  if (!/^<w:pPr\b/.test(rest)) return `${open}<w:pPr>${section}</w:pPr>${rest}`;
  // Behind the section only the record of changes stands (17.3.1.26).
  const end = rest.indexOf("</w:pPr>");
  const change = rest.slice(0, end).search(/<w:pPrChange\b/);
  const at = change < 0 ? end : change;
  return open + rest.slice(0, at) + section + rest.slice(at);
}

/** A start tag with the namespaces of another that it does not declare. */
function withNamespaces(open: string, other: string): string {
  const missing = [...other.matchAll(/\s(xmlns:\w+)="[^"]*"/g)].filter(([, name]) => !open.includes(`${name}=`));
  return open.replace(/>$/, (end) => missing.map(([text]) => text).join("") + end);
}

function headOf(opened: OoxmlPackage, part: string): string {
  const text = opened.getText(part);
  return text.slice(0, text.indexOf(opened.getXml(part).open));
}

function relationship(id: string, type: string, target: string, external: boolean): string {
  return xmlElement("Relationship", {
    Id: id,
    Type: type,
    Target: target,
    ...(external ? { TargetMode: "External" } : {}),
  }).toString();
}
