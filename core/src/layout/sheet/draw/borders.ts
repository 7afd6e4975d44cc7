import type { LineItem } from "../../../page/index.js";
import type { BorderLine } from "../../../spreadsheet/index.js";

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

/** A line on an edge of cells: it lies at one place across and goes from one place along to another. */
interface Edge {
  readonly from: number;
  readonly to: number;
  readonly line: BorderLine;
}

type Ends = readonly [x1: number, y1: number, x2: number, y2: number];

/** Lines on cell edges; where two cells share an edge the heavier line is drawn, once, and equal ones in a row as one. */
export class BorderSet {
  /** By the place across, in hundredths of a point: edges that lie closer are the same. */
  private readonly across = new Map<number, Edge[]>();
  private readonly down = new Map<number, Edge[]>();
  private readonly sloping: { readonly line: BorderLine; readonly ends: Ends }[] = [];

  constructor(private readonly scale: number) {}

  horizontal(x1: number, x2: number, y: number, line: BorderLine | undefined): void {
    if (line) add(this.across, y, { from: x1, to: x2, line });
  }

  vertical(x: number, y1: number, y2: number, line: BorderLine | undefined): void {
    if (line) add(this.down, x, { from: y1, to: y2, line });
  }

  /** A line that lies on no edge. */
  free(x1: number, y1: number, x2: number, y2: number, line: BorderLine): void {
    this.sloping.push({ line, ends: [x1, y1, x2, y2] });
  }

  items(): LineItem[] {
    const items: LineItem[] = [];
    for (const [at, edges] of this.across)
      for (const { from, to, line } of joined(edges))
        items.push(...this.draw(line, [from, at / PLACES, to, at / PLACES]));
    for (const [at, edges] of this.down)
      for (const { from, to, line } of joined(edges))
        items.push(...this.draw(line, [at / PLACES, from, at / PLACES, to]));
    for (const { line, ends } of this.sloping) items.push(...this.draw(line, ends));
    return items;
  }

  private draw(line: BorderLine, [x1, y1, x2, y2]: Ends): LineItem[] {
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

/** Places in a point that tell edges apart. */
const PLACES = 100;

function add(edges: Map<number, Edge[]>, at: number, edge: Edge): void {
  const place = Math.round(at * PLACES);
  const known = edges.get(place);
  if (known) known.push(edge);
  else edges.set(place, [edge]);
}

/** The lines to draw on one straight: of equal edges the heaviest, and what goes on alike as one. */
function joined(edges: readonly Edge[]): Edge[] {
  const sorted = [...edges].sort((a, b) => gap(a.from, b.from) || gap(a.to, b.to) || weight(b.line) - weight(a.line));
  const found: Edge[] = [];
  let previous: Edge | undefined;
  for (const edge of sorted) {
    if (previous && gap(previous.from, edge.from) === 0 && gap(previous.to, edge.to) === 0) continue;
    previous = edge;
    const last = found[found.length - 1];
    const goesOn =
      last &&
      gap(last.to, edge.from) === 0 &&
      last.line.style === edge.line.style &&
      last.line.color === edge.line.color;
    if (goesOn) found[found.length - 1] = { ...last, to: edge.to };
    else found.push(edge);
  }
  return found;
}

/** The way from one place to another; none below a hundredth of a point. */
function gap(a: number, b: number): number {
  return Math.round(a * PLACES) - Math.round(b * PLACES);
}
