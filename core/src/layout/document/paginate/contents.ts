/** Tables of contents made from the headings: ECMA-376 part 1, 17.16.5.68. */
import type { Block, ContentsBlock, FieldInline, ParagraphBlock, TableBlock } from "../../text/blocks.js";
import { textOf } from "../../text/blocks.js";
import type { TabStop } from "../../text/props.js";

/** A heading that contents may list. */
interface Heading {
  readonly level: number;
  readonly label: string | undefined;
  readonly text: string;
  readonly place: string;
}

/** Gives headings places, and puts entries where contents stand. `field` makes a field that is measured anew when pages are known. */
export function withContents(
  sections: readonly (readonly Block[])[],
  width: (section: number) => number,
  field: (place: string, block: ContentsBlock, level: number) => FieldInline,
): Block[][] {
  if (!sections.some((blocks) => blocks.some((block) => block.kind === "contents")))
    return sections.map((one) => [...one]);
  const headings: Heading[] = [];
  const marked = sections.map((blocks) => blocks.map((block) => markHeadings(block, headings)));
  return marked.map((blocks, section) =>
    blocks.flatMap((block): Block[] => {
      if (block.kind !== "contents") return [block];
      const made = entries(block, headings, width(section), field);
      return made.length > 0 ? [...made, ...block.rest] : [...block.stored];
    }),
  );
}

function markHeadings<T extends Block>(block: T, headings: Heading[]): T {
  if (block.kind === "table") {
    const table: TableBlock = {
      ...block,
      rows: block.rows.map((row) => ({
        ...row,
        cells: row.cells.map((cell) => ({ ...cell, blocks: cell.blocks.map((one) => markHeadings(one, headings)) })),
      })),
    };
    return table as T;
  }
  if (block.kind !== "paragraph" || block.props.outlineLevel === undefined) return block;
  const text = headingText(block);
  if (text === "") return block;
  const place = `corbix heading ${headings.length + 1}`;
  headings.push({ level: block.props.outlineLevel, label: block.label, text, place });
  const marked: ParagraphBlock = { ...block, inlines: [{ kind: "place", name: place, props: {} }, ...block.inlines] };
  return marked as T;
}

/** A heading's text without the label, which the block holds as its first text. */
function headingText(block: ParagraphBlock): string {
  const text = textOf(block).trim();
  return block.label !== undefined && text.startsWith(block.label) ? text.slice(block.label.length).trim() : text;
}

function entries(
  block: ContentsBlock,
  headings: readonly Heading[],
  width: number,
  field: (place: string, block: ContentsBlock, level: number) => FieldInline,
): ParagraphBlock[] {
  return headings
    .filter(({ level }) => level >= block.from && level <= block.to)
    .map(({ level, label, text, place }): ParagraphBlock => {
      const { props, run } = block.entry(level);
      const link = `#${place}`;
      const page = field(place, block, level);
      const end: TabStop = { at: width - (props.right ?? 0), kind: "right", leader: "dot" };
      const own = props.tabs ?? [];
      const tabs = own.some((tab) => tab.kind === "right") ? own : [...own, end];
      const start = props.left ?? 0;
      const behindLabel: TabStop = { at: start + 22, kind: "left", leader: "none" };
      const hasLabelStop = own.some((tab) => tab.kind === "left");
      return {
        kind: "paragraph",
        props: { ...props, tabs: label !== undefined && !hasLabelStop ? [behindLabel, ...tabs] : tabs },
        mark: run,
        inlines: [
          ...(label === undefined
            ? []
            : [
                { kind: "text" as const, text: label, props: run, link },
                { kind: "tab" as const, props: run },
              ]),
          { kind: "text", text, props: run, link },
          { kind: "tab", props: run },
          { ...page, link },
        ],
      };
    });
}
