import type { BorderLine } from "../../spreadsheet/index.js";
import type { LineItem } from "../page.js";

/** Widths in points and strokes of the border styles of ECMA-376 part 1, 18.18.3. */
const STYLES: Readonly<Record<string, { readonly width: number; readonly dash?: readonly number[] }>> = {
  hair: { width: 0.25, dash: [0.75, 0.75] },
  thin: { width: 0.75 },
  dotted: { width: 0.75, dash: [0.75, 1.5] },
  dashed: { width: 0.75, dash: [3, 1.5] },
  dashDot: { width: 0.75, dash: [4.5, 1.5, 1.5, 1.5] },
  dashDotDot: { width: 0.75, dash: [4.5, 1.5, 1.5, 1.5, 1.5, 1.5] },
  medium: { width: 1.5 },
  mediumDashed: { width: 1.5, dash: [4.5, 2.25] },
  mediumDashDot: { width: 1.5, dash: [6, 2, 2, 2] },
  mediumDashDotDot: { width: 1.5, dash: [6, 2, 2, 2, 2, 2] },
  slantDashDot: { width: 1.5, dash: [6, 2, 2, 2] },
  thick: { width: 2.25 },
  double: { width: 2.25 },
};

/** Lines on cell edges; where two cells share an edge the heavier line is drawn, once. */
export class BorderSet {
  private readonly lines = new Map<
    string,
    { readonly line: BorderLine; readonly ends: readonly [number, number, number, number] }
  >();

  constructor(private readonly scale: number) {}

  horizontal(x1: number, x2: number, y: number, line: BorderLine | undefined): void {
    if (line) this.add(`h${place(x1)}|${place(x2)}|${place(y)}`, [x1, y, x2, y], line);
  }

  vertical(x: number, y1: number, y2: number, line: BorderLine | undefined): void {
    if (line) this.add(`v${place(x)}|${place(y1)}|${place(y2)}`, [x, y1, x, y2], line);
  }

  /** A line that lies on no edge. */
  free(x1: number, y1: number, x2: number, y2: number, line: BorderLine): void {
    this.lines.set(`d${place(x1)}|${place(y1)}|${place(y2)}`, { line, ends: [x1, y1, x2, y2] });
  }

  items(): LineItem[] {
    return [...this.lines.values()].flatMap(({ line, ends }) => this.draw(line, ends));
  }

  private add(key: string, ends: readonly [number, number, number, number], line: BorderLine): void {
    const known = this.lines.get(key);
    if (!known || weight(line) > weight(known.line)) this.lines.set(key, { line, ends });
  }

  private draw(line: BorderLine, [x1, y1, x2, y2]: readonly [number, number, number, number]): LineItem[] {
    const style = STYLES[line.style] ?? STYLES.thin;
    const width = style.width * this.scale;
    const base = { kind: "line", color: line.color, x1, y1, x2, y2 } as const;
    if (line.style === "double") {
      const apart = width / 3;
      const [dx, dy] = y1 === y2 ? [0, apart] : [apart, 0];
      return [1, -1].map((side) => ({
        ...base,
        width: apart,
        x1: x1 + side * dx,
        x2: x2 + side * dx,
        y1: y1 + side * dy,
        y2: y2 + side * dy,
      }));
    }
    return [{ ...base, width, ...(style.dash ? { dash: style.dash.map((length) => length * this.scale) } : {}) }];
  }
}

function weight(line: BorderLine): number {
  const style = STYLES[line.style] ?? STYLES.thin;
  return style.width * 10 - (style.dash ? 1 : 0) + (line.style === "double" ? 0.5 : 0);
}

/** Hundredths of a point: edges that lie closer are the same. */
function place(length: number): number {
  return Math.round(length * 100);
}
