/** Things of a list that are dragged to another place among their neighbours, or moved there by keys. */
export class Reorder {
  /** The place that something is held over. */
  over = $state<number>();
  private dragged: number | undefined;

  constructor(
    private readonly move: (from: number, to: number) => void,
    private readonly count: () => number,
  ) {}

  /** What a place does with something that is held over it. */
  onto(at: number): Record<"ondragover" | "ondragleave" | "ondrop", (event: DragEvent) => void> {
    return {
      ondragover: (event) => {
        if (this.dragged === undefined) return;
        event.preventDefault();
        this.over = at;
      },
      ondragleave: () => {
        this.over = undefined;
      },
      ondrop: (event) => {
        event.preventDefault();
        if (this.dragged !== undefined && this.dragged !== at) this.move(this.dragged, at);
        this.end();
      },
    };
  }

  /** What the handle of a place does. */
  handle(at: number): { onstart: () => void; onend: () => void; onmove: (step: -1 | 1) => void } {
    return {
      onstart: () => {
        this.dragged = at;
      },
      onend: () => this.end(),
      onmove: (step) => {
        if (at + step >= 0 && at + step < this.count()) this.move(at, at + step);
      },
    };
  }

  private end(): void {
    this.dragged = this.over = undefined;
  }
}
