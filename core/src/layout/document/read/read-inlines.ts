import { formatValue } from "../../../common/index.js";
import type { XmlElement } from "../../../ooxml/index.js";
import { say } from "../../../words/index.js";
import type { FieldInline, Inline } from "../../text/blocks.js";
import type { RunProps } from "../../text/props.js";
import { SYMBOLS } from "../model/symbols.js";
import type { BlockReader } from "./read-blocks.js";

/** Elements of a run that show nothing. */
const SILENT = new Set([
  "rPr",
  "pPr",
  "proofErr",
  "bookmarkEnd",
  "lastRenderedPageBreak",
  "del",
  "moveFrom",
  "delText",
  "instrText",
  "delInstrText",
  "fldChar",
  "commentRangeStart",
  "commentRangeEnd",
  "commentReference",
  "annotationRef",
  "permStart",
  "permEnd",
  "sdtPr",
  "sdtEndPr",
  "moveFromRangeStart",
  "moveFromRangeEnd",
  "moveToRangeStart",
  "moveToRangeEnd",
  "customXmlInsRangeStart",
  "customXmlInsRangeEnd",
  "customXmlDelRangeStart",
  "customXmlDelRangeEnd",
  "smartTagPr",
  "customXmlPr",
  "separator",
  "continuationSeparator",
  "subDoc",
  "yearLong",
  "pgNum",
]);

const PAGE_FIELDS: Readonly<Record<string, FieldInline["what"]>> = {
  PAGE: "page",
  NUMPAGES: "pages",
  SECTIONPAGES: "sectionPages",
  PAGEREF: "pageOf",
};
/** The last code point of Unicode. */
const LAST_CODE = 0x10_ffff;

const DATE_FIELDS = new Set(["DATE", "TIME", "PRINTDATE", "SAVEDATE"]);

interface OpenField {
  instruction: string;
  showing: boolean;
  /** Its stored result is not shown: it is made anew. */
  ours: boolean;
  link: string | undefined;
}

/** Reads the runs of a paragraph; complex fields are followed over several runs (17.16.18). */
export class InlineReader {
  private readonly fields: OpenField[] = [];

  constructor(
    private readonly reader: BlockReader,
    private readonly inlines: Inline[],
    private readonly resolve: (own: RunProps) => RunProps,
  ) {}

  read(parent: XmlElement, link?: string): void {
    for (const element of parent.elements()) {
      switch (element.local) {
        case "r":
          this.run(element, link);
          break;
        case "hyperlink":
          this.read(element, this.linkOf(element) ?? link);
          break;
        case "fldSimple": {
          const props = this.resolve(this.reader.runProps(element.child("r")?.child("rPr")));
          const instruction = element.attr("w:instr") ?? "";
          if (!this.madeAnew(instruction, props)) this.read(element, linkIn(instruction) ?? link);
          break;
        }
        case "bookmarkStart": {
          const name = element.attr("w:name") ?? "";
          if (name !== "") this.inlines.push({ kind: "place", name, props: {} });
          break;
        }
        case "ins":
        case "moveTo":
        case "smartTag":
        case "customXml":
        case "sdt":
        case "sdtContent":
        case "bdo":
        case "dir":
          this.read(element, link);
          break;
        case "oMath":
        case "oMathPara":
          this.equation(element);
          break;
        default:
          if (!SILENT.has(element.local)) this.missing(say().layout.element({ local: element.local }));
      }
    }
  }

  private linkOf(element: XmlElement): string | undefined {
    const anchor = element.attr("w:anchor");
    const target = this.reader.linkTarget(element.attr("r:id"));
    if (target !== undefined) return anchor ? `${target}#${anchor}` : target;
    return anchor === undefined ? undefined : `#${anchor}`;
  }

  /** An equation's signs in a row: what it says is there, how it is set is not. */
  private equation(element: XmlElement): void {
    const props = this.resolve({ italic: true });
    const text = element
      .descendants("t")
      .map((one) => one.text)
      .join("");
    if (text !== "") this.inlines.push({ kind: "text", text, props });
    this.missing(say().layout.equationSetSignsStandRow());
  }

  /** Notes what is not drawn, with a place so that its page can be told. */
  private missing(what: string): void {
    const name = this.reader.notDrawn(what);
    if (name !== undefined) this.inlines.push({ kind: "place", name, props: {} });
  }

  private run(run: XmlElement, link: string | undefined): void {
    const props = this.resolve(this.reader.runProps(run.child("rPr")));
    for (const child of run.elements()) {
      if (child.local === "fldChar") this.fieldChar(child, props);
      else if (child.local === "instrText") {
        const field = this.fields[this.fields.length - 1];
        if (field && !field.showing) field.instruction += child.text;
      } else if (!this.isSilent && !props.hidden) this.content(child, props, this.fieldLink ?? link);
    }
  }

  /** Inside an instruction, or inside the stored result of a field that is made anew. */
  private get isSilent(): boolean {
    return this.fields.some((field) => !field.showing || field.ours);
  }

  private get fieldLink(): string | undefined {
    for (let at = this.fields.length - 1; at >= 0; at--) if (this.fields[at].link) return this.fields[at].link;
    return undefined;
  }

  private fieldChar(element: XmlElement, props: RunProps): void {
    const type = element.attr("w:fldCharType");
    if (type === "begin") this.fields.push({ instruction: "", showing: false, ours: false, link: undefined });
    const field = this.fields[this.fields.length - 1];
    if (!field) return;
    const outer = this.fields.slice(0, -1);
    const isShown = outer.every((one) => one.showing && !one.ours);
    if (type === "separate") {
      field.showing = true;
      field.link = linkIn(field.instruction);
      if (isShown) field.ours = this.madeAnew(field.instruction, props);
    } else if (type === "end") {
      if (!field.showing && isShown) this.madeAnew(field.instruction, props);
      this.fields.pop();
    }
  }

  /** Fields of pages and dates; others show what is stored. */
  private madeAnew(instruction: string, props: RunProps): boolean {
    const words = instruction.trim().match(/"[^"]*"|\S+/g) ?? [];
    const name = (words[0] ?? "").toUpperCase();
    const format = /\\\*\s*(\w+)/.exec(instruction.replace(/\\\*\s*MERGEFORMAT/gi, ""))?.[1] ?? "";
    const what = PAGE_FIELDS[name];
    if (what) {
      const target = what === "pageOf" ? words[1] : undefined;
      const link = this.fieldLink ?? (what === "pageOf" && /\\h/.test(instruction) ? `#${target}` : undefined);
      this.inlines.push(this.reader.field({ what, target, format, props, ...(link ? { link } : {}) }));
      return true;
    }
    if (!DATE_FIELDS.has(name)) return false;
    const { today, locale } = this.reader.facts;
    if (today === undefined) return false;
    // In pictures of dates capital M is the month; number formats write it small.
    const picture = /\\@\s*"([^"]*)"/.exec(instruction)?.[1] ?? "dd/MM/yyyy";
    const text = formatValue(today, picture.replaceAll("M", "m").replace(/'([^']*)'/g, '"$1"'), locale);
    this.inlines.push({ kind: "text", text, props });
    return true;
  }

  /** A tab character inside a text is a tab all the same. */
  private text(text: string, props: RunProps, link: string | undefined): void {
    text.split("\t").forEach((part, index) => {
      if (index > 0) this.inlines.push({ kind: "tab", props });
      if (part !== "") this.inlines.push({ kind: "text", text: part, props, ...(link ? { link } : {}) });
    });
  }

  private content(child: XmlElement, props: RunProps, link: string | undefined): void {
    switch (child.local) {
      case "t":
        this.text(child.attr("xml:space") === "preserve" ? child.text : child.text.trim(), props, link);
        break;
      case "tab":
        this.inlines.push({ kind: "tab", props });
        break;
      case "ptab": {
        const alignment = child.attr("w:alignment");
        this.inlines.push({
          kind: "tab",
          props,
          alignment: alignment === "center" || alignment === "right" ? alignment : "left",
        });
        break;
      }
      case "br":
      case "cr":
        this.inlines.push({
          kind: "break",
          what: child.attr("w:type") === "page" ? "page" : child.attr("w:type") === "column" ? "column" : "line",
          props,
        });
        break;
      case "noBreakHyphen":
        this.inlines.push({ kind: "text", text: "\u2011", props });
        break;
      case "softHyphen":
        this.inlines.push({ kind: "text", text: "\u00ad", props });
        break;
      case "sym": {
        const code = Number.parseInt(child.attr("w:char") ?? "2022", 16);
        const sign = code >= 0 && code <= LAST_CODE ? String.fromCodePoint(code) : "\ufffd";
        this.inlines.push({ kind: "text", text: SYMBOLS[sign] ?? sign, props });
        break;
      }
      case "drawing":
      case "pict":
      case "object":
      case "AlternateContent":
        this.object(child, props);
        break;
      case "footnoteReference":
      case "endnoteReference":
        this.note(child, props);
        break;
      case "footnoteRef":
      case "endnoteRef":
        if (this.reader.noteLabel !== undefined)
          this.inlines.push({ kind: "text", text: this.reader.noteLabel, props });
        break;
      default:
        if (!SILENT.has(child.local)) this.missing(say().layout.element({ local: child.local }));
    }
  }

  private object(element: XmlElement, props: RunProps): void {
    const found = this.reader.object(element);
    if (typeof found === "string") this.missing(found);
    else if (found.kind === "float") this.inlines.push({ kind: "float", float: found.float, props });
    else this.inlines.push({ ...found, props });
  }

  private note(child: XmlElement, props: RunProps): void {
    const kind = child.local === "footnoteReference" ? "footnote" : "endnote";
    const custom = child.attr("w:customMarkFollows");
    const note = this.reader.note(kind, child.attr("w:id") ?? "", custom === "1" || custom === "true");
    if (note) this.inlines.push({ kind: "note", note, props });
    else this.missing(say().layout.missingFile({ kind }));
  }
}

/** Where a field leads: 17.16.5.25. */
function linkIn(instruction: string): string | undefined {
  const link = /^\s*HYPERLINK\s+(.*)$/i.exec(instruction)?.[1];
  if (link === undefined) return undefined;
  const place = /\\l\s+"([^"]*)"/.exec(link)?.[1];
  const address = /^"([^"]*)"/.exec(link)?.[1];
  return address ? (place ? `${address}#${place}` : address) : place === undefined ? undefined : `#${place}`;
}
