import type { XmlElement } from "../../../ooxml/index.js";
import type { Block, Inline, ParagraphBlock } from "../../text/blocks.js";
import type { LayingSite } from "../../text/fragment.js";
import { floatingTable, frameFloat } from "./framed-blocks.js";

/** Blocks in their order; what floats, and what has no paragraph of its own, waits for the next paragraph. */
export class BlockCollector {
  private readonly blocks: Block[] = [];
  private frames: { readonly element: XmlElement; readonly blocks: ParagraphBlock[] }[] = [];
  private waiting: Inline[] = [];

  /** `apart` gives a site for what is laid out by itself. */
  constructor(private readonly apart: () => LayingSite) {}

  /** A block as it is. */
  push(block: Block): void {
    this.blocks.push(block);
  }

  /** Inlines for the next paragraph. */
  carry(inlines: readonly Inline[]): void {
    this.waiting.push(...inlines);
  }

  /** A paragraph in a frame; neighbours in frames alike share one (17.3.1.11). */
  frame(element: XmlElement, block: ParagraphBlock): void {
    const last = this.frames.at(-1);
    if (last?.element.open === element.open) last.blocks.push(block);
    else this.frames.push({ element, blocks: [block] });
  }

  add(block: Block): void {
    if (block.kind === "table" && block.float)
      this.carry([{ kind: "float", float: floatingTable(block, this.apart()), props: {} }]);
    else if (block.kind === "paragraph") {
      const own = [...this.framed(), ...this.waiting];
      this.waiting = [];
      this.push(own.length > 0 ? { ...block, inlines: [...own, ...block.inlines] } : block);
    } else this.push(block);
  }

  /** All blocks; what still waits gets a paragraph that takes no room. */
  all(): Block[] {
    if (this.frames.length > 0 || this.waiting.some((inline) => inline.kind !== "place"))
      this.push({
        kind: "paragraph",
        props: { before: 0, after: 0 },
        mark: { size: 1 },
        inlines: [...this.framed(), ...this.waiting],
      });
    return this.blocks;
  }

  private framed(): Inline[] {
    const frames = this.frames;
    this.frames = [];
    return frames.map((frame) => frameFloat(frame.element, frame.blocks, this.apart()));
  }
}
