import type { Finding } from "../../../common/index.js";
import type { Fonts } from "../../../fonts/index.js";
import type { OoxmlPackage, Relationship, XmlElement } from "../../../ooxml/index.js";
import type {
  Block,
  ContentsBlock,
  FieldInline,
  Float,
  Inline,
  Note,
  PageSection,
  ParagraphBlock,
  TableBlock,
} from "../model/blocks.js";
import { isPlain } from "../model/blocks.js";
import { formatNumber, type Numbering } from "../model/numbering.js";
import { mergeParagraph, type RunProps, twips } from "../model/props.js";
import type { DocumentStyles, TableContext } from "../model/styles.js";
import { drawStack, type LayingSite, stackHeight } from "../paginate/fragment.js";
import { layBlocks, measureBlocks } from "../paginate/lay-blocks.js";
import { afterField, contentsField, endOfField } from "./contents-field.js";
import { InlineReader } from "./read-inlines.js";
import { type FoundObject, readObject } from "./read-objects.js";
import { readSection } from "./read-section.js";
import { readTable } from "./read-tables.js";

/** What a document's pages say beside its own text. */
export interface DocumentFacts {
  /** Serial number of the day that date fields show; without it they show what is stored. */
  readonly today?: number | undefined;
  readonly locale?: string | undefined;
}

/** What the readers of a document's parts share. */
export interface DocumentReading {
  readonly opened: OoxmlPackage;
  readonly documentPart: string;
  readonly styles: DocumentStyles;
  readonly numbering: Numbering;
  readonly fonts: Fonts;
  readonly facts: DocumentFacts;
  readonly findings: Finding[];
  /** Where things that are not drawn stand, by the name of their place. */
  readonly missing: Map<string, Finding>;
  /** Fields whose measure depends on the pages. */
  readonly fields: FieldInline[];
  /** What fields were found to say, by kind and place: those of headers are read anew for each width. */
  readonly guesses: Map<string, string>;
  /** Numbers of notes so far. */
  readonly notes: Record<"footnote" | "endnote", number>;
}

/** Reads body, header, footer or notes of a part into blocks; what cannot be drawn is a finding, once per kind. */
export class BlockReader {
  private readonly relations: ReadonlyMap<string, Relationship>;
  private readonly noticed = new Set<string>();

  constructor(
    private readonly reading: DocumentReading,
    private readonly part: string,
    /** Of a note: the sign it begins with. */
    readonly noteLabel?: string,
  ) {
    this.relations = new Map(reading.opened.relationships(part).map((relation) => [relation.id, relation]));
  }

  get theme(): DocumentStyles["theme"] {
    return this.reading.styles.theme;
  }

  runProps(rPr: XmlElement | undefined): RunProps {
    return this.reading.styles.runProps(rPr);
  }

  get facts(): DocumentFacts {
    return this.reading.facts;
  }

  /** For blocks laid out apart from the text: what they belong to is put in its place when they are drawn. */
  private apart(): LayingSite {
    const { fonts, styles } = this.reading;
    return { fonts, defaultTab: styles.defaultTab, node: { role: "Div", children: [] } };
  }

  blocks(parent: XmlElement, table?: TableContext): Block[] {
    const found: Block[] = [];
    const frames: { key: string; element: XmlElement; blocks: ParagraphBlock[] }[] = [];
    let pending: Inline[] = [];
    const add = (block: Block): void => {
      if (block.kind === "table" && block.float) {
        pending.push({ kind: "float", float: this.floatingTable(block), props: {} });
        return;
      }
      if (block.kind === "paragraph") {
        const floats = frames.splice(0).flatMap((frame) => this.frameFloat(frame.element, frame.blocks));
        const own = [...floats, ...pending];
        pending = [];
        found.push(own.length > 0 ? { ...block, inlines: [...own, ...block.inlines] } : block);
      } else found.push(block);
    };
    const visit = (elements: readonly XmlElement[]): void => {
      for (let index = 0; index < elements.length; index++) {
        const element = elements[index];
        switch (element.local) {
          case "p": {
            const contents = parent.local === "body" ? contentsField(element) : undefined;
            if (contents) {
              const made = this.contents(elements, index, contents, table);
              if (made) {
                found.push(made.block);
                index = made.last;
                break;
              }
            }
            const block = this.paragraph(element, table);
            const frame = element.child("pPr")?.child("framePr");
            if (frame && !block.section) {
              const key = frame.open;
              const last = frames[frames.length - 1];
              if (last?.key === key) last.blocks.push(block);
              else frames.push({ key, element: frame, blocks: [block] });
              break;
            }
            // A paragraph whose end was deleted goes on in the next (17.13.5.15).
            if (element.path("pPr", "rPr", "del")) pending.push(...block.inlines);
            else add(block);
            break;
          }
          case "tbl":
            add(this.table(element));
            break;
          case "bookmarkStart":
            pending.push({ kind: "place", name: element.attr("w:name") ?? "", props: {} });
            break;
          case "sdt":
            visit(element.child("sdtContent")?.elements() ?? []);
            break;
          case "ins":
          case "moveTo":
          case "customXml":
          case "smartTag":
          case "sdtContent":
            visit(element.elements());
            break;
          case "AlternateContent":
            visit((element.child("Choice") ?? element.child("Fallback"))?.elements() ?? []);
            break;
          case "altChunk":
            this.notDrawn("an embedded part of another format");
            break;
        }
      }
    };
    visit(parent.elements());
    if (frames.length > 0 || pending.some((inline) => inline.kind !== "place")) {
      const rest = [...frames.flatMap((frame) => this.frameFloat(frame.element, frame.blocks)), ...pending];
      found.push({ kind: "paragraph", props: { before: 0, after: 0 }, mark: { size: 1 }, inlines: rest });
    }
    return found;
  }

  private paragraph(element: XmlElement, table: TableContext | undefined): ParagraphBlock {
    const pPr = element.child("pPr");
    const { styles } = this.reading;
    const own = styles.paragraphProps(pPr);
    let props = styles.paragraph(own, table);
    const inlines: Inline[] = [];
    const reader = new InlineReader(this, inlines, (run) => styles.run(run, own.style, table));
    const markRun = styles.runProps(pPr?.child("rPr"));
    const mark = styles.run(markRun, own.style, table);
    let label: string | undefined;
    if (props.numbering && props.numbering.id > 0 && !mark.hidden) {
      const { id } = props.numbering;
      const level = own.numbering
        ? props.numbering.level
        : (this.reading.numbering.levelOf(id, props.style) ?? props.numbering.level);
      const found = this.reading.numbering.next(id, level);
      if (found) {
        props = mergeParagraph(mergeParagraph(props, found.paragraph), { ...own, numbering: { id, level } });
        // A style that sets indents of its own overrides those of its list, as it does for word processors.
        const looks = {
          ...styles.run({ ...markRun, ...(markRun.underline ? { underline: false } : {}) }, own.style, table),
          ...found.run,
        };
        label = found.text;
        inlines.push({ kind: "text", text: found.text, props: looks });
        if (found.suffix === "tab") inlines.push({ kind: "tab", props: looks });
        else if (found.suffix === "space") inlines.push({ kind: "text", text: " ", props: looks });
      }
    }
    reader.read(element);
    if (styles.hyphenates && !props.suppressHyphens) this.hyphenate(inlines);
    const section = pPr?.child("sectPr");
    return {
      kind: "paragraph",
      props,
      mark,
      inlines,
      ...(label === undefined ? {} : { label }),
      ...(section ? { section: this.section(section) } : {}),
    };
  }

  /** Gives words soft hyphens where their language breaks them; what has no patterns is a finding. */
  private hyphenate(inlines: Inline[]): void {
    inlines.forEach((inline, index) => {
      if (inline.kind !== "text" || inline.text.length < 6) return;
      const language = inline.props.language ?? this.facts.locale ?? "en-GB";
      const text = this.reading.fonts.hyphenate(inline.text, language);
      if (text !== undefined) inlines[index] = { ...inline, text };
      else this.notHyphenated(language);
    });
  }

  private notHyphenated(language: string): void {
    const what = `The document asks for words to be hyphenated; there are no patterns for ${language}, and lines break between words only.`;
    const { findings, opened } = this.reading;
    if (findings.some((finding) => finding.what === what)) return;
    findings.push({
      code: "not-hyphenated",
      severity: "note",
      where: opened.where,
      what,
      advice: "Lines may break elsewhere than in a word processor.",
    });
  }

  private table(element: XmlElement): TableBlock {
    return readTable(element, {
      styles: this.reading.styles,
      blocks: (cell, context) => this.cell(cell, context),
    });
  }

  /** What stands in cells that are one node, by the looks their table gives them. */
  private readonly cells = new Map<string, Map<XmlElement, readonly Block[]>>();

  private cell(element: XmlElement, table: TableContext): readonly Block[] {
    let alike = this.cells.get(table.key);
    const known = alike?.get(element);
    if (known) return known;
    const blocks = this.blocks(element, table);
    if (!blocks.every(isPlain)) return blocks;
    if (!alike) {
      alike = new Map();
      this.cells.set(table.key, alike);
    }
    alike.set(element, blocks);
    return blocks;
  }

  section(element: XmlElement | undefined): PageSection {
    return readSection(element, this.relations, this.theme, (what) => this.notDrawn(what));
  }

  /** A table of contents from its field on to where that ends; `undefined` for lists of other things than headings. */
  private contents(
    elements: readonly XmlElement[],
    from: number,
    instruction: string,
    table: TableContext | undefined,
  ): { block: ContentsBlock; last: number } | undefined {
    if (/\\[cfa]\b/.test(instruction)) return undefined;
    const last = endOfField(elements, from);
    if (last === undefined) return undefined;
    const levels = /\\o\s+"(\d)-(\d)"/.exec(instruction);
    const { styles } = this.reading;
    // What stands behind the field's end in its last paragraph is text like any other.
    const rest = elements[last];
    const behind = afterField(rest);
    return {
      last,
      block: {
        kind: "contents",
        from: Number(levels?.[1] ?? 1) - 1,
        to: Number(levels?.[2] ?? 3) - 1,
        entry: (level) => {
          const id = styles.idOf(`toc ${level + 1}`);
          const props = styles.paragraph(id === undefined ? { left: level * 11 } : { style: id }, table);
          return { props, run: styles.run({}, id, table) };
        },
        rest: behind ? [this.paragraph(behind, table)] : [],
        stored: elements
          .slice(from, last + 1)
          .filter((one) => one.local === "p")
          .map((one) => this.paragraph(one, table)),
      },
    };
  }

  field(field: Omit<FieldInline, "kind" | "guess">): FieldInline {
    const key = `${field.what} ${field.target ?? ""}`;
    const made: FieldInline = { kind: "field", ...field, guess: { text: this.reading.guesses.get(key) ?? "1" } };
    this.reading.fields.push(made);
    return made;
  }

  /** A foot- or endnote with its blocks; the sign is its number unless it brings its own. */
  note(kind: Note["kind"], id: string, custom: boolean): Note | undefined {
    const { opened, documentPart, notes } = this.reading;
    const part = opened.relationships(documentPart).find((relation) => relation.type === `${kind}s`)?.target;
    const element =
      part &&
      opened
        .maybeXml(part)
        ?.elements(kind)
        .find((one) => one.attr("w:id") === id);
    if (!part || !element) return undefined;
    const settings = opened.relationships(documentPart).find((relation) => relation.type === "settings")?.target;
    const own = settings ? opened.maybeXml(settings)?.child(`${kind}Pr`) : undefined;
    const format = own?.child("numFmt")?.attr("w:val") ?? (kind === "footnote" ? "decimal" : "lowerRoman");
    const start = Number(own?.child("numStart")?.attr("w:val") ?? 1);
    if (!custom) notes[kind]++;
    const label = custom ? "" : formatNumber(start + notes[kind] - 1, format);
    const reader = new BlockReader(this.reading, part, label);
    return { kind, label, blocks: reader.blocks(element) };
  }

  linkTarget(id: string | undefined): string | undefined {
    const relation = this.relations.get(id ?? "");
    return relation?.external ? relation.target : undefined;
  }

  /** A picture, shape, text box or chart; words for what is not drawn. */
  object(element: XmlElement): FoundObject | string {
    return readObject(element, {
      opened: this.reading.opened,
      relations: this.relations,
      theme: this.theme,
      fonts: this.reading.fonts,
      blocks: (parent) => this.blocks(parent),
      laying: () => this.apart(),
      missing: (what) => this.notDrawn(what),
    });
  }

  private floatingTable(table: TableBlock): Float {
    const { float, ...level } = table;
    const still = { ...level, indent: 0, align: "left" };
    const site = this.apart();
    const wanted = measureBlocks([still], site).most;
    const width =
      table.width?.unit === "pt"
        ? table.width.value
        : Math.min(468, table.columns.reduce((sum, one) => sum + one, 0) || wanted);
    const fragments = layBlocks([still], width, site);
    return {
      ...(float as NonNullable<TableBlock["float"]>),
      width,
      height: stackHeight(fragments),
      description: table.description,
      isText: true,
      node: site.node,
      draw: (numbers) => drawStack(fragments, 0, 0, numbers),
    };
  }

  /** Paragraphs in a frame of their own, such as a large first letter: 17.3.1.11. */
  private frameFloat(frame: XmlElement, blocks: readonly ParagraphBlock[]): Inline[] {
    const length = (name: string): number => twips(frame.attr(`w:${name}`)) ?? 0;
    const isDrop = frame.attr("w:dropCap") !== undefined && frame.attr("w:dropCap") !== "none";
    const site = this.apart();
    const wanted = measureBlocks(blocks, site).most;
    const width = length("w") || Math.min(468, Math.max(4, wanted + 0.5));
    const fragments = layBlocks(blocks, width, site);
    const needed = stackHeight(fragments);
    const height = frame.attr("w:hRule") === "exact" ? length("h") : Math.max(length("h"), needed);
    const from = (axis: string): string => {
      const anchor = frame.attr(`w:${axis}Anchor`) ?? (isDrop ? "text" : "page");
      return anchor === "text" ? (axis === "h" ? "column" : "paragraph") : anchor;
    };
    const float: Float = {
      width,
      height,
      wrap: frame.attr("w:wrap") === "none" ? "none" : frame.attr("w:wrap") === "notBeside" ? "topAndBottom" : "square",
      behind: false,
      distance: {
        left: isDrop ? 0 : length("hSpace"),
        right: isDrop ? Math.max(2, length("hSpace")) : length("hSpace"),
        top: length("vSpace"),
        bottom: isDrop ? -4 : length("vSpace"),
      },
      horizontal: { from: from("h"), align: frame.attr("w:xAlign"), offset: length("x") },
      vertical: { from: from("v"), align: frame.attr("w:yAlign"), offset: length("y") },
      description: "",
      isText: true,
      node: site.node,
      draw: (numbers) => drawStack(fragments, 0, 0, numbers),
    };
    return [{ kind: "float", float, props: {} }];
  }

  /** Notes what a PDF does not show; gives the name of a place by which its page is told, the first time. */
  notDrawn(what: string): string | undefined {
    if (this.noticed.has(what)) return undefined;
    this.noticed.add(what);
    const finding: Finding = {
      code: "not-drawn",
      severity: "warn",
      where: `${this.reading.opened.where}, ${this.part}`,
      what: `The PDF does not show ${what}.`,
      advice: "Look at the page; the document itself has it.",
    };
    const name = `corbix not drawn ${this.reading.missing.size + 1}`;
    this.reading.findings.push(finding);
    this.reading.missing.set(name, finding);
    return name;
  }
}
