import type { XmlElement } from "../../ooxml/index.js";
import type { Inline } from "./blocks.js";
import { type RunProps, readRunProps } from "./props.js";
import type { BlockReader } from "./read-blocks.js";

/** Elements of a run that show nothing. */
const SILENT = new Set([
  "rPr",
  "pPr",
  "proofErr",
  "bookmarkStart",
  "bookmarkEnd",
  "lastRenderedPageBreak",
  "del",
  "moveFrom",
  "delText",
  "instrText",
  "fldChar",
  "commentRangeStart",
  "commentRangeEnd",
  "commentReference",
  "annotationRef",
  "permStart",
  "permEnd",
  "softHyphen",
  "sdtPr",
  "sdtEndPr",
  "moveFromRangeStart",
  "moveFromRangeEnd",
  "moveToRangeStart",
  "moveToRangeEnd",
  "smartTagPr",
  "footnoteRef",
  "endnoteRef",
  "separator",
  "continuationSeparator",
  "subDoc",
]);

/** Reads the runs of a paragraph; complex fields are followed over several runs (17.16.18). */
export class InlineReader {
  private readonly fields: { instruction: string; showing: boolean; ours: boolean }[] = [];

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
          this.read(element, this.reader.linkTarget(element.attr("r:id")) ?? link);
          break;
        case "fldSimple":
          if (
            !this.pageField(
              element.attr("w:instr") ?? "",
              this.resolve(readRunProps(element.child("r")?.child("rPr"), this.reader.theme)),
            )
          )
            this.read(element, link);
          break;
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
          this.reader.notDrawn("an equation");
          break;
        default:
          if (!SILENT.has(element.local)) this.reader.notDrawn(`the element ${element.local}`);
      }
    }
  }

  private run(run: XmlElement, link: string | undefined): void {
    const props = this.resolve(readRunProps(run.child("rPr"), this.reader.theme));
    for (const child of run.elements()) {
      if (child.local === "fldChar") this.fieldChar(child, props);
      else if (child.local === "instrText") {
        const field = this.fields[this.fields.length - 1];
        if (field) field.instruction += child.text;
      } else if (!this.isSilent && !props.hidden) this.content(child, props, link);
    }
  }

  /** Inside an instruction, or inside the stored result of a field that is made anew. */
  private get isSilent(): boolean {
    return this.fields.some((field) => !field.showing || field.ours);
  }

  private fieldChar(element: XmlElement, props: RunProps): void {
    const type = element.attr("w:fldCharType");
    if (type === "begin") this.fields.push({ instruction: "", showing: false, ours: false });
    const field = this.fields[this.fields.length - 1];
    if (!field) return;
    if (type === "separate") {
      field.showing = true;
      const outer = this.fields.slice(0, -1);
      if (outer.every((one) => one.showing && !one.ours)) field.ours = this.pageField(field.instruction, props);
    } else if (type === "end") {
      const outer = this.fields.slice(0, -1);
      if (!field.showing && outer.every((one) => one.showing && !one.ours)) this.pageField(field.instruction, props);
      this.fields.pop();
    }
  }

  private pageField(instruction: string, props: RunProps): boolean {
    const [name = ""] = instruction.trim().split(/\s+/);
    const what = name.toUpperCase() === "PAGE" ? "page" : name.toUpperCase() === "NUMPAGES" ? "pages" : undefined;
    if (!what) return false;
    const format = /\\\*\s*(\w+)/.exec(instruction)?.[1] ?? "";
    this.inlines.push({ kind: "field", what, format, props });
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
      case "ptab":
        this.inlines.push({ kind: "tab", props });
        break;
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
      case "sym":
        this.inlines.push({
          kind: "text",
          text: String.fromCodePoint(Number.parseInt(child.attr("w:char") ?? "2022", 16)),
          props,
        });
        break;
      case "drawing": {
        const image = this.reader.image(child);
        if (image) this.inlines.push({ ...image, props });
        break;
      }
      case "AlternateContent":
        this.reader.notDrawn(child.descendants("txbxContent").length > 0 ? "a text box" : "a drawing");
        break;
      case "pict":
      case "object":
        this.reader.notDrawn(child.local === "pict" ? "an old drawing" : "an embedded object");
        break;
      case "footnoteReference":
      case "endnoteReference":
        this.reader.notDrawn("notes at the foot of the page");
        break;
      default:
        if (!SILENT.has(child.local)) this.reader.notDrawn(`the element ${child.local}`);
    }
  }
}
