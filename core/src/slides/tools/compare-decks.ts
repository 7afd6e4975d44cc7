/** Two decks put beside each other, slide by slide and shape by shape. */
import { sha256 } from "../../common/index.js";
import type { OoxmlPackage, XmlElement } from "../../ooxml/index.js";
import { say } from "../../words/index.js";
import { aboutShape, Deck, type DeckSlide, openDeck, relationOf, titleOf } from "../deck.js";
import { Placeholders, rootsOf } from "../placeholders.js";

/** One thing that is different between two decks. */
export interface ShapeDifference {
  /** The slide's number in the first deck, or in the second where only that has it. */
  readonly slide: number;
  readonly title: string;
  /** The shape's name, or nothing where the slide as a whole is meant. */
  readonly shape: string;
  readonly what:
    | "text"
    | "place"
    | "picture"
    | "chart"
    | "notes"
    | "hidden"
    | "only in the first"
    | "only in the second";
  readonly first: string;
  readonly second: string;
}

export interface DeckComparison {
  /** Shapes that both have, or one of them. */
  readonly shapes: number;
  readonly slides: { readonly first: number; readonly second: number };
  readonly differences: readonly ShapeDifference[];
}

interface ShapeContent {
  readonly name: string;
  readonly text: string;
  /** What its table says, row by row; none where it is no table. */
  readonly rows: readonly (readonly string[])[];
  readonly place: string;
  /** What tells its picture from others. */
  readonly picture: string;
  readonly chart: string;
}

interface SlideContent {
  readonly slide: DeckSlide;
  readonly title: string;
  readonly shapes: readonly ShapeContent[];
  readonly notes: string;
}

/**
 * Compares two decks: texts, places, pictures and charts of shapes, notes, hidden slides. Slides are the same where they have the same
 * title in the same order; looks are not compared. Throws `NOT_A_DECK` or `BROKEN_PACKAGE`.
 */
export function compareDecks(
  first: { readonly bytes: Uint8Array; readonly where: string },
  second: { readonly bytes: Uint8Array; readonly where: string },
): DeckComparison {
  const [one, other] = [first, second].map(({ bytes, where }) => contentsOf(openDeck(bytes, where)));
  const differences: ShapeDifference[] = [];
  let shapes = 0;
  for (const [a, b] of pairs(one, other)) {
    const known = a ?? b;
    if (!known) continue;
    const { slide, title } = known;
    const tell = (shape: string, what: ShapeDifference["what"], before: string, after: string): void => {
      differences.push({ slide: slide.number, title, shape, what, first: before, second: after });
    };
    shapes += Math.max(a?.shapes.length ?? 0, b?.shapes.length ?? 0);
    if (!a || !b) {
      tell("", a ? "only in the first" : "only in the second", a ? textOf(a) : "", b ? textOf(b) : "");
      continue;
    }
    compareSlides(a, b, tell);
  }
  return { shapes, slides: { first: one.length, second: other.length }, differences };
}

function textOf({ shapes }: SlideContent): string {
  return shapes
    .map(({ text }) => text)
    .filter(Boolean)
    .join(" / ");
}

function compareSlides(
  a: SlideContent,
  b: SlideContent,
  tell: (shape: string, what: ShapeDifference["what"], before: string, after: string) => void,
): void {
  if (a.slide.isHidden !== b.slide.isHidden)
    tell("", "hidden", a.slide.isHidden ? "hidden" : "shown", b.slide.isHidden ? "hidden" : "shown");
  for (const [one, other] of pairs(a.shapes, b.shapes)) {
    const name = one?.name ?? other?.name ?? "";
    if (!one || !other) {
      tell(name, one ? "only in the first" : "only in the second", one?.text ?? "", other?.text ?? "");
      continue;
    }
    const cells = cellDifferences(one.rows, other.rows);
    for (const { row, column, before, after } of cells)
      tell(say().slides.cellOf({ name, row, column }), "text", before, after);
    for (const what of ["text", "place", "picture", "chart"] as const)
      if (one[what] !== other[what] && !(what === "text" && cells.length > 0)) tell(name, what, one[what], other[what]);
  }
  if (a.notes !== b.notes) tell("", "notes", a.notes, b.notes);
}

/** Cells that say different things in tables of the same rows and columns. */
function cellDifferences(
  first: ShapeContent["rows"],
  second: ShapeContent["rows"],
): { row: number; column: number; before: string; after: string }[] {
  const isAlike = first.length === second.length && first.every((cells, row) => cells.length === second[row].length);
  if (!isAlike) return [];
  return first.flatMap((cells, row) =>
    cells.flatMap((before, column) => {
      const after = second[row][column];
      return before === after ? [] : [{ row: row + 1, column: column + 1, before, after }];
    }),
  );
}

/** Things of two lists that belong together, in order: the longest run of those that are called alike, others beside them. */
function pairs<T extends { readonly title?: string; readonly name?: string }>(
  first: readonly T[],
  second: readonly T[],
): [T | undefined, T | undefined][] {
  const key = (one: T): string => one.title ?? one.name ?? "";
  const length = Array.from({ length: first.length + 1 }, () => new Array<number>(second.length + 1).fill(0));
  for (let i = first.length - 1; i >= 0; i--)
    for (let j = second.length - 1; j >= 0; j--)
      length[i][j] =
        key(first[i]) === key(second[j]) ? length[i + 1][j + 1] + 1 : Math.max(length[i + 1][j], length[i][j + 1]);
  const found: [T | undefined, T | undefined][] = [];
  let [i, j] = [0, 0];
  let loose: [T[], T[]] = [[], []];
  // What stands between those that are alike is taken by its place.
  const settle = (): void => {
    for (let at = 0; at < Math.max(loose[0].length, loose[1].length); at++) found.push([loose[0][at], loose[1][at]]);
    loose = [[], []];
  };
  while (i < first.length && j < second.length) {
    if (key(first[i]) === key(second[j])) {
      settle();
      found.push([first[i++], second[j++]]);
    } else if (length[i + 1][j] >= length[i][j + 1]) loose[0].push(first[i++]);
    else loose[1].push(second[j++]);
  }
  loose[0].push(...first.slice(i));
  loose[1].push(...second.slice(j));
  settle();
  return found;
}

function contentsOf(opened: OoxmlPackage): SlideContent[] {
  const deck = new Deck(opened);
  const holders = new Placeholders();
  return deck.slides.map((slide) => {
    const root = opened.getXml(slide.part);
    const roots = rootsOf(deck, slide.part).map((part) => opened.getXml(part));
    const notes = deck.relatedPart(slide.part, "notesSlide");
    const shapes: ShapeContent[] = [];
    const visit = (parent: XmlElement): void => {
      for (const shape of parent.elements()) {
        if (shape.local === "grpSp") visit(shape);
        if (["sp", "pic", "graphicFrame", "cxnSp"].includes(shape.local))
          shapes.push(shapeContent(shape, holders.frameOf(shape, roots), slide.part, opened));
      }
    };
    const tree = root.path("cSld", "spTree");
    if (tree) visit(tree);
    return {
      slide,
      title: titleOf(root),
      shapes,
      notes: notes === undefined ? "" : paragraphsOf(opened.getXml(notes)).filter(Boolean).join(" / "),
    };
  });
}

function paragraphsOf(element: XmlElement): string[] {
  return element.descendants("p").map((paragraph) =>
    paragraph
      .elements()
      .map((one) => (one.local === "br" ? " " : (one.child("t")?.text ?? "")))
      .join(""),
  );
}

const POINT = 12_700;

function shapeContent(
  shape: XmlElement,
  frame: XmlElement | undefined,
  part: string,
  opened: OoxmlPackage,
): ShapeContent {
  const number = (name: string, attribute: string): string =>
    String(Math.round((Number(frame?.child(name)?.attr(attribute) ?? 0) / POINT) * 10) / 10);
  const relations = new Map(opened.relationships(part).map((one) => [one.id, one]));
  const blip = shape.descendants("blip")[0];
  const image = relations.get(relationOf(blip, "embed") ?? "")?.target;
  const chart = relations.get(relationOf(shape.descendants("chart")[0]) ?? "")?.target;
  return {
    name: aboutShape(shape)?.attr("name") ?? "",
    text: paragraphsOf(shape).join(" / "),
    rows: shape.descendants("tr").map((row) => row.elements("tc").map((cell) => paragraphsOf(cell).join(" / "))),
    place: frame
      ? `${number("off", "x")}, ${number("off", "y")}; ${number("ext", "cx")} × ${number("ext", "cy")} pt`
      : "",
    picture: image !== undefined && opened.has(image) ? pictureId(opened.getBytes(image)) : "",
    chart: chart !== undefined && opened.has(chart) ? chartValues(opened.getXml(chart)) : "",
  };
}

/** Its size, and a sum that only the same bytes have. */
function pictureId(bytes: Uint8Array): string {
  return `${bytes.length} bytes, ${sha256(bytes).slice(0, 8)}`;
}

/** What a chart shows: its title, and for each series the name and the values. */
function chartValues(chart: XmlElement): string {
  const values = (element: XmlElement | undefined): string =>
    element
      ?.descendants("v")
      .map((one) => one.text)
      .join(" ") ?? "";
  const series = chart.descendants("ser").map((one) => {
    const numbers = one.child("val") ?? one.child("yVal");
    return `${values(one.child("tx"))}: ${values(one.child("cat") ?? one.child("xVal"))} = ${values(numbers)}`;
  });
  return [paragraphsOf(chart.child("chart")?.child("title") ?? chart.withChildren([])).join(" "), ...series]
    .filter(Boolean)
    .join("; ");
}
