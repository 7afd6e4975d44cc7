/** Header and footer texts with their codes: ECMA-376 part 1, 18.3.1.46. */
import type { Fonts } from "../../../fonts/index.js";
import type { PageItem } from "../../../page/index.js";
import { shapeWords } from "../../../page/index.js";
import { lineHeight } from "../paginate/grid.js";
import type { HeaderPictures } from "../read/header-pictures.js";

export interface HeaderFacts {
  readonly page: number;
  readonly pages: number;
  readonly sheet: string;
  readonly file: string;
  /** Shown for date and time, from the run and not from the clock. */
  readonly date: string;
  readonly time: string;
  readonly font: string;
}

interface HeaderRun {
  readonly text: string;
  readonly font: string;
  readonly size: number;
  readonly bold: boolean;
  readonly italic: boolean;
  readonly underline: boolean;
  readonly color: string;
}

type HeaderSide = "left" | "center" | "right";

/** Pictures that the codes of a header or footer ask for, at their sides. */
export function headerImages(
  code: string,
  pictures: HeaderPictures,
  suffix: string,
  frame: { readonly left: number; readonly right: number; readonly y: number; readonly above: boolean },
): PageItem[] {
  let side = "C";
  return [...code.matchAll(/&([LCRG&])/g)].flatMap(([, letter]): PageItem[] => {
    if (letter === "L" || letter === "C" || letter === "R") side = letter;
    if (letter !== "G") return [];
    const picture = pictures.get(`${side}${frame.above ? "H" : "F"}${suffix}`);
    if (!picture) return [];
    const { width, height, image } = picture;
    const x = side === "L" ? frame.left : side === "R" ? frame.right - width : (frame.left + frame.right - width) / 2;
    return [{ kind: "image", image, x, y: frame.above ? frame.y : frame.y - height, width, height }];
  });
}

/** Lays a header or footer out; `edge` is the distance of its outer side from the paper's edge. */
export function layHeader(
  code: string,
  facts: HeaderFacts,
  frame: { readonly left: number; readonly right: number; readonly y: number; readonly above: boolean },
  fonts: Fonts,
): PageItem[] {
  const items: PageItem[] = [];
  for (const [section, lines] of parseCode(code, facts)) {
    const heights = lines.map((pieces) =>
      Math.max(...pieces.map((piece) => lineHeight(fonts.face(piece.font, piece.bold, piece.italic), piece.size)), 0),
    );
    const total = heights.reduce((sum, height) => sum + height, 0);
    let y = frame.above ? frame.y : frame.y - total;
    lines.forEach((pieces, index) => {
      layLine(pieces, section, { ...frame, y }, fonts, items);
      y += heights[index];
    });
  }
  return items;
}

function layLine(
  pieces: readonly HeaderRun[],
  section: HeaderSide,
  frame: { readonly left: number; readonly right: number; readonly y: number },
  fonts: Fonts,
  items: PageItem[],
): void {
  const shaped = pieces.map((piece) => ({
    piece,
    face: fonts.face(piece.font, piece.bold, piece.italic),
    text: shapeWords(piece.text, fonts.face(piece.font, piece.bold, piece.italic)),
  }));
  const width = shaped.reduce((sum, { piece, text }) => sum + text.width * piece.size, 0);
  const ascent = Math.max(...shaped.map(({ piece, face }) => face.metrics.ascent * piece.size), 0);
  let x =
    section === "left"
      ? frame.left
      : section === "right"
        ? frame.right - width
        : (frame.left + frame.right - width) / 2;
  for (const { piece, text } of shaped) {
    items.push({ kind: "text", x, y: frame.y + ascent, size: piece.size, color: piece.color, shaped: text });
    const end = x + text.width * piece.size;
    if (piece.underline)
      items.push({
        kind: "line",
        x1: x,
        x2: end,
        y1: frame.y + ascent + 1,
        y2: frame.y + ascent + 1,
        width: 0.5,
        color: piece.color,
      });
    x = end;
  }
}

const CODE = /&(?:&|"([^"]*)"|K([0-9A-Fa-f]{6})|K[0-9+-]{5}|(\d{1,3})|([LCRPNDTAFZBIUESXYGOH]))|([^&]+)|&/g;

function parseCode(code: string, facts: HeaderFacts): Map<HeaderSide, HeaderRun[][]> {
  const sections = new Map<HeaderSide, HeaderRun[][]>();
  let section: HeaderSide = "center";
  const plain = { font: facts.font, size: 10, bold: false, italic: false, underline: false, color: "000000" };
  let looks = { ...plain };
  const add = (text: string): void => {
    const lines = sections.get(section) ?? [[]];
    sections.set(section, lines);
    text.split(/\r?\n/).forEach((line, index) => {
      if (index > 0) lines.push([]);
      if (line === "") return;
      const current = lines[lines.length - 1];
      const last = current[current.length - 1];
      if (last && looksKey(last) === looksKey(looks)) current[current.length - 1] = { ...last, text: last.text + line };
      else current.push({ ...looks, text: line });
    });
  };
  const words: Readonly<Record<string, string>> = {
    P: String(facts.page),
    N: String(facts.pages),
    D: facts.date,
    T: facts.time,
    A: facts.sheet,
    F: facts.file,
    Z: "",
  };
  for (const [whole, font, color, size, letter, text] of code.matchAll(CODE)) {
    if (text !== undefined) add(text);
    else if (whole === "&&") add("&");
    else if (font !== undefined) {
      const [family, style = ""] = font.split(",");
      looks = {
        ...looks,
        font: family === "-" ? looks.font : family,
        bold: /bold/i.test(style),
        italic: /italic/i.test(style),
      };
    } else if (color !== undefined) looks = { ...looks, color: color.toUpperCase() };
    else if (size !== undefined) looks = { ...looks, size: Number(size) };
    else if (letter === "L" || letter === "C" || letter === "R") {
      section = letter === "L" ? "left" : letter === "C" ? "center" : "right";
      looks = { ...plain };
    } else if (letter === "B") looks = { ...looks, bold: !looks.bold };
    else if (letter === "I") looks = { ...looks, italic: !looks.italic };
    else if (letter === "U" || letter === "E") looks = { ...looks, underline: !looks.underline };
    else if (letter !== undefined && words[letter] !== undefined) add(words[letter]);
  }
  return sections;
}

function looksKey(looks: Omit<HeaderRun, "text">): string {
  return [looks.font, looks.size, looks.bold, looks.italic, looks.underline, looks.color].join("|");
}
