import type { Finding } from "../../../common/index.js";
import type { Fonts } from "../../../fonts/index.js";
import type { OoxmlPackage, Relationship, XmlElement } from "../../../ooxml/index.js";
import { say } from "../../../words/index.js";
import type {
  Block,
  ContentsBlock,
  FieldInline,
  Inline,
  Note,
  PageSection,
  ParagraphBlock,
  TableBlock,
} from "../../text/blocks.js";
import { isPlain } from "../../text/blocks.js";
import type { LayingSite } from "../../text/fragment.js";
import { formatNumber } from "../../text/numbers.js";
import type { ParagraphProps, RunProps } from "../../text/props.js";
import type { ListLabel, Numbering } from "../model/numbering.js";
import { mergeParagraph } from "../model/props.js";
import type { DocumentStyles, TableContext } from "../model/styles.js";
import { BlockCollector } from "./block-collector.js";
import { afterField, contentsField, endOfField } from "./contents-field.js";
import { findNote } from "./find-note.js";
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

interface Collecting {
  readonly found: BlockCollector;
  readonly table: TableContext | undefined;
  readonly isBody: boolean;
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
    const found = new BlockCollector(() => this.apart());
    this.collect(parent.elements(), { found, table, isBody: parent.local === "body" });
    return found.all();
  }

  private collect(elements: readonly XmlElement[], to: Collecting): void {
    for (let index = 0; index < elements.length; index++) {
      const element = elements[index];
      switch (element.local) {
        case "p": {
          const contents = to.isBody ? contentsField(element) : undefined;
          const made = contents === undefined ? undefined : this.contents(elements, index, contents, to.table);
          if (made) {
            to.found.push(made.block);
            index = made.last;
          } else this.collectParagraph(element, to);
          break;
        }
        case "tbl":
          to.found.add(this.table(element));
          break;
        case "bookmarkStart":
          to.found.carry([{ kind: "place", name: element.attr("w:name") ?? "", props: {} }]);
          break;
        case "sdt":
          this.collect(element.child("sdtContent")?.elements() ?? [], to);
          break;
        case "ins":
        case "moveTo":
        case "customXml":
        case "smartTag":
        case "sdtContent":
          this.collect(element.elements(), to);
          break;
        case "AlternateContent":
          this.collect((element.child("Choice") ?? element.child("Fallback"))?.elements() ?? [], to);
          break;
        case "altChunk":
          this.notDrawn(say().layout.embeddedPartAnotherFormat());
          break;
      }
    }
  }

  private collectParagraph(element: XmlElement, { found, table }: Collecting): void {
    const block = this.paragraph(element, table);
    const frame = element.path("pPr", "framePr");
    if (frame && !block.section) found.frame(frame, block);
    // A paragraph whose end was deleted goes on in the next (17.13.5.15).
    else if (element.path("pPr", "rPr", "del")) found.carry(block.inlines);
    else found.add(block);
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
    const found = mark.hidden ? undefined : this.listLabel(props, own);
    if (found) {
      props = found.props;
      // A style that sets indents of its own overrides those of its list, as it does for word processors.
      const plain = { ...markRun, ...(markRun.underline ? { underline: false } : {}) };
      inlines.push(...labelInlines(found.label, { ...styles.run(plain, own.style, table), ...found.label.run }));
    }
    reader.read(element);
    if (styles.hyphenates && !props.suppressHyphens) this.hyphenate(inlines);
    const section = pPr?.child("sectPr");
    return {
      kind: "paragraph",
      props,
      mark,
      inlines,
      ...(found ? { label: found.label.text } : {}),
      ...(section ? { section: this.section(section) } : {}),
    };
  }

  /** The next number or sign of the list that a paragraph belongs to, and the paragraph's properties with the list's. */
  private listLabel(
    props: ParagraphProps,
    own: ParagraphProps,
  ): { readonly label: ListLabel; readonly props: ParagraphProps } | undefined {
    if (!props.numbering || props.numbering.id <= 0) return undefined;
    const { numbering } = this.reading;
    const { id, level: inherited } = props.numbering;
    const level = own.numbering ? inherited : (numbering.levelOf(id, props.style) ?? inherited);
    const label = numbering.next(id, level);
    if (!label) return undefined;
    const merged = mergeParagraph(mergeParagraph(props, label.paragraph), { ...own, numbering: { id, level } });
    return { label, props: merged };
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
    const what = say().layout.documentAsksWordsHyphenatedPatterns({ language });
    const { findings, opened } = this.reading;
    if (findings.some((finding) => finding.what === what)) return;
    findings.push({
      code: "not-hyphenated",
      severity: "note",
      where: opened.where,
      what,
      advice: say().layout.linesMayBreakElsewhereWord(),
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
    const found = findNote(this.reading, kind, id);
    if (!found) return undefined;
    const { notes } = this.reading;
    if (!custom) notes[kind]++;
    const label = custom ? "" : formatNumber(found.start + notes[kind] - 1, found.format);
    const reader = new BlockReader(this.reading, found.part, label);
    return { kind, label, blocks: reader.blocks(found.element) };
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

  /** Notes what a PDF does not show; gives the name of a place by which its page is told, the first time. */
  notDrawn(what: string): string | undefined {
    if (this.noticed.has(what)) return undefined;
    this.noticed.add(what);
    const finding: Finding = {
      code: "not-drawn",
      severity: "warn",
      where: `${this.reading.opened.where}, ${this.part}`,
      what: say().layout.pdfLacks({ what }),
      advice: say().layout.lookPageDocumentItself(),
    };
    const name = `corbix not drawn ${this.reading.missing.size + 1}`;
    this.reading.findings.push(finding);
    this.reading.missing.set(name, finding);
    return name;
  }
}

function labelInlines({ text, suffix }: ListLabel, props: RunProps): Inline[] {
  const label: Inline = { kind: "text", text, props };
  if (suffix === "tab") return [label, { kind: "tab", props }];
  return suffix === "space" ? [label, { kind: "text", text: " ", props }] : [label];
}
