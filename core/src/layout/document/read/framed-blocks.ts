/** Blocks that stand beside the text: tables that float, and frames. */
import type { XmlElement } from "../../../ooxml/index.js";
import type { Float, Inline, ParagraphBlock, TableBlock } from "../../text/blocks.js";
import { drawStack, type LayingSite, stackHeight } from "../../text/fragment.js";
import { layBlocks, measureBlocks } from "../../text/lay-blocks.js";
import { twips } from "../model/props.js";

/** A table that text flows around: 17.4.57. */
export function floatingTable(table: TableBlock, site: LayingSite): Float {
  const { float, ...level } = table;
  const still = { ...level, indent: 0, align: "left" };
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
export function frameFloat(frame: XmlElement, blocks: readonly ParagraphBlock[], site: LayingSite): Inline {
  const length = (name: string): number => twips(frame.attr(`w:${name}`)) ?? 0;
  const isDrop = frame.attr("w:dropCap") !== undefined && frame.attr("w:dropCap") !== "none";
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
  return { kind: "float", float, props: {} };
}
