/** Where the rows of a template's sheet lie in the filled sheet. */

/** Rows of the template that repeat as one unit, both included, 0-based. */
export interface Block {
  readonly top: number;
  readonly bottom: number;
}

/** The place of a formula or reference within a repeated block: which block, and which of its repetitions. */
export interface Instance {
  readonly block: Block;
  readonly index: number;
}

interface Grown extends Block {
  readonly count: number;
  /** Row at which the first repetition starts in the filled sheet. */
  readonly start: number;
}

/** Maps rows when each block stands `count` times; a block never vanishes wholly, so references keep a row to point at. */
export class RowMap {
  private readonly grown: readonly Grown[];

  constructor(blocks: readonly Block[], count: number) {
    const repeats = Math.max(1, count);
    let shift = 0;
    this.grown = blocks.map((block) => {
      const start = block.top + shift;
      shift += (repeats - 1) * height(block);
      return { ...block, count: repeats, start };
    });
  }

  /** Whether any row moves at all. */
  get moves(): boolean {
    return this.grown.some((block) => block.count > 1);
  }

  blockAt(row: number): Block | undefined {
    return this.grown.find((block) => row >= block.top && row <= block.bottom);
  }

  /** Row in the filled sheet: in a block that of the given repetition, else the only one. */
  at(row: number, index = 0): number {
    let shift = 0;
    for (const block of this.grown) {
      if (row < block.top) break;
      if (row <= block.bottom) return block.start + index * height(block) + row - block.top;
      shift += (block.count - 1) * height(block);
    }
    return row + shift;
  }

  /** In a block the row of the last repetition. */
  last(row: number): number {
    const block = this.grown.find((candidate) => row >= candidate.top && row <= candidate.bottom);
    return this.at(row, block ? block.count - 1 : 0);
  }

  repeats(block: Block): number {
    return this.grown.find((candidate) => candidate.top === block.top)?.count ?? 1;
  }
}

function height(block: Block): number {
  return block.bottom - block.top + 1;
}
