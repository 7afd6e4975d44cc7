/** Blocks cut into fragments. */

import type { Block } from "./blocks.js";
import type { Fragment, LayingSite } from "./fragment.js";
import { measureParagraph } from "./lines/line-breaking.js";
import { ListNodes, paragraphFragments } from "./paragraph-fragments.js";
import { layTable, measureTable } from "./tables/table-layout.js";

/** Cells hold blocks again, tables among them. */
const BLOCKS = { lay: layBlocks, measure: measureBlocks };

export function layBlocks(blocks: readonly Block[], width: number, site: LayingSite): Fragment[] {
  const lists = new ListNodes(site.node, site.isCell === true && blocks.length === 1);
  return blocks.flatMap((block, index) => {
    if (block.kind === "contents") return [];
    if (block.kind === "table") {
      lists.end();
      return layTable(block, width, { ...site, blocks: BLOCKS });
    }
    const previous = blocks[index - 1];
    const next = blocks[index + 1];
    const neighbours = {
      previous: previous?.kind === "paragraph" ? previous : undefined,
      next: next?.kind === "paragraph" ? next : undefined,
    };
    return paragraphFragments(block, width, site, { node: lists.nodeFor(block), neighbours });
  });
}

/** How narrow blocks can be, and how wide they are without line breaks, in points. */
export function measureBlocks(
  blocks: readonly Block[],
  site: LayingSite,
  withMost = true,
): { least: number; most: number } {
  let [least, most] = [0, 0];
  for (const block of blocks) {
    if (block.kind === "contents") continue;
    const one =
      block.kind === "table"
        ? measureTable(block, { ...site, blocks: BLOCKS })
        : measureParagraph(block, site.fonts, site.defaultTab, withMost);
    least = Math.max(least, one.least);
    most = Math.max(most, one.most);
  }
  return { least, most };
}
