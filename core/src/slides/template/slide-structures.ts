/** Marks that repeat or leave out whole slides: `{{repeat slide line by district}}`, `{{when slides …}}`, `{{end slides}}`. */
import { CorbixError } from "../../common/index.js";
import { type PlacedStructure, type PreparedPart, unended, unmatched } from "../../marked/index.js";
import { type XmlElement, type XmlNode, xmlElement } from "../../ooxml/index.js";
import { parseStructure, type Structure } from "../../template/index.js";
import { say } from "../../words/index.js";

/** What may follow behind `slide` or `slides`, so that they are no names themselves. */
const REPEATED = /^repeat\s+(slides?)\s+(?!(?:where|by|across|paged)\b)([\s\S]+)$/;
const SHOWN = /^when\s+(slides?)\s+(?!(?:and|or|not|in|is|like|between)\b)([\p{L}_`("\d][\s\S]*)$/u;
const ENDED = /^(end|otherwise)\s+slides?$/;

/** As structures of other files, and those of whole slides. Throws `BAD_MARK` with the place. */
export function parseSlideStructure(source: string, where: string): Structure {
  const ended = ENDED.exec(source);
  if (ended) return ofSlides(parseStructure(ended[1], where), source, "many");
  const opened = REPEATED.exec(source) ?? SHOWN.exec(source);
  if (!opened) return parseStructure(source, where);
  const word = source.startsWith("repeat") ? "repeat" : "when";
  return ofSlides(parseStructure(`${word} ${opened[2]}`, where), source, opened[1] === "slide" ? "one" : "many");
}

function ofSlides(structure: Structure, source: string, slides: "one" | "many"): Structure {
  return structure.kind === "table" ? structure : { ...structure, source, slides };
}

/** Slides in their order: as they are, repeated, or left out. */
export type SlideNode =
  | { readonly kind: "slide"; readonly index: number }
  | {
      readonly kind: "repeat";
      readonly mark: PlacedStructure & { readonly structure: Structure & { readonly kind: "repeat" } };
      readonly nodes: readonly SlideNode[];
    }
  | {
      readonly kind: "when";
      readonly mark: PlacedStructure;
      readonly nodes: readonly SlideNode[];
      readonly otherwise: readonly SlideNode[];
    };

interface Open {
  readonly mark: PlacedStructure;
  readonly nodes: SlideNode[];
  otherwise: SlideNode[] | undefined;
}

/** The slides with what repeats them, by the marks that stand on each. Throws `BAD_MARK` for what is not ended. */
export function arrangeSlides(marks: readonly (readonly PlacedStructure[])[]): SlideNode[] {
  const root: SlideNode[] = [];
  const open: Open[] = [];
  const into = (): SlideNode[] => {
    const last = open[open.length - 1];
    return last ? (last.otherwise ?? last.nodes) : root;
  };
  marks.forEach((own, index) => {
    const around: PlacedStructure[] = [];
    let ends = 0;
    for (const mark of own) {
      const { structure } = mark;
      if (structure.kind === "end") {
        if (++ends > open.length) throw unmatched(mark);
      } else if (structure.kind === "otherwise") {
        const last = open[open.length - 1];
        if (last?.mark.structure.kind !== "when" || last.otherwise) throw unmatched(mark);
        last.otherwise = [];
      } else if (structure.slides === "one") around.push(mark);
      else open.push({ mark, nodes: [], otherwise: undefined });
    }
    let node: SlideNode = { kind: "slide", index };
    for (const mark of around.reverse()) node = nodeOf({ mark, nodes: [node], otherwise: undefined });
    into().push(node);
    for (; ends > 0; ends--) {
      const last = open.pop();
      if (last) into().push(nodeOf(last));
    }
  });
  const left = open.pop();
  if (left) throw unended(left.mark);
  return root;
}

function nodeOf({ mark, nodes, otherwise }: Open): SlideNode {
  const { structure } = mark;
  if (structure.kind === "repeat") return { kind: "repeat", mark: { ...mark, structure }, nodes };
  return { kind: "when", mark, nodes, otherwise: otherwise ?? [] };
}

/** Lines of which there is a current one on each slide, by what repeats it. */
export function linesAround(nodes: readonly SlideNode[], count: number): string[][] {
  const found = Array.from({ length: count }, (): string[] => []);
  const visit = (some: readonly SlideNode[], lines: readonly string[]): void => {
    for (const node of some)
      if (node.kind === "slide") found[node.index] = [...lines];
      else if (node.kind === "when") {
        visit(node.nodes, lines);
        visit(node.otherwise, lines);
      } else {
        const { structure } = node.mark;
        visit(node.nodes, structure.by === undefined ? [...lines, structure.lines] : lines);
      }
  };
  visit(nodes, []);
  return found;
}

/** The marks of whole slides in a part, and the part without them: paragraphs and shapes that showed nothing else go with them. */
export function takeSlideMarks(
  part: PreparedPart,
  isShown: (element: XmlElement) => boolean,
): {
  readonly marks: readonly PlacedStructure[];
  readonly part: PreparedPart;
} {
  const taken = part.root
    .descendants("corbix")
    .filter((marker) => part.structures.get(marker)?.structure.slides !== undefined);
  if (taken.length === 0) return { marks: [], part };
  const gone = new Set(taken);
  const holds = (element: XmlElement): boolean => element.elements().some((one) => gone.has(one) || holds(one));
  const shows = (element: XmlElement): boolean =>
    isShown(element) ||
    element.children.some((child) =>
      child.kind === "element"
        ? child.local === "corbix" || shows(child)
        : element.local === "t" && child.text.trim() !== "",
    );
  const without = (element: XmlElement): XmlElement | undefined => {
    if (!holds(element)) return element;
    const children = element.children.flatMap((child): XmlNode[] => {
      if (child.kind !== "element") return [child];
      if (gone.has(child)) return [];
      const made = without(child);
      return made ? [made] : [];
    });
    const made = element.withChildren(children);
    const place = part.places.get(element);
    if (place !== undefined) part.places.set(made, place);
    if ((element.local === "p" || element.local === "sp") && !shows(made)) return undefined;
    return made;
  };
  const root = without(part.root);
  return {
    marks: taken.flatMap((marker) => part.structures.get(marker) ?? []),
    part: { ...part, root: withParagraphs(root ?? part.root, part) },
  };
}

/** Text without a paragraph left has an empty one. */
function withParagraphs(element: XmlElement, part: PreparedPart): XmlElement {
  let changed = false;
  const children = element.children.map((child): XmlNode => {
    if (child.kind !== "element") return child;
    const made = withParagraphs(child, part);
    if (made !== child) changed = true;
    return made;
  });
  const isBare = element.local === "txBody" && !element.child("p");
  if (!changed && !isBare) return element;
  const made = element.withChildren(isBare ? [...children, xmlElement("a:p")] : children);
  const place = part.places.get(element);
  if (place !== undefined) part.places.set(made, place);
  return made;
}

/** A mark of whole slides where there are none. */
export function refuseSlideMark({ structure, where }: PlacedStructure): CorbixError {
  return new CorbixError("BAD_MARK", say().template.cannotUseHere({ source: structure.source }), {
    where,
    advice: say().slides.putSlideMarksOnSlide(),
  });
}
