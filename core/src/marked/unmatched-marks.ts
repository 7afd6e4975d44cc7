/** Marks of structure among what a document shows: what begins, what is blank without them, what is wrong with them. */

import { CorbixError } from "../common/index.js";
import type { XmlElement, XmlNode } from "../ooxml/index.js";
import { say } from "../words/index.js";
import type { PlacedStructure } from "./prepare-part.js";

type IsShown = (element: XmlElement) => boolean;

export function isOpening({ structure }: PlacedStructure): boolean {
  return structure.kind === "repeat" || structure.kind === "when" || structure.kind === "table";
}

export function hasShown(element: XmlElement, isShown: IsShown): boolean {
  if (isShown(element)) return true;
  return element.children.some((child) =>
    child.kind === "element" ? hasShown(child, isShown) : element.local === "t" && child.text.trim() !== "",
  );
}

/** For each of the marks whether something is shown before it. */
export function shownBeforeMarks(element: XmlElement, markers: ReadonlySet<XmlElement>, isShown: IsShown): boolean[] {
  const found: boolean[] = [];
  let shown = false;
  const visit = (at: XmlElement): void => {
    if (markers.has(at)) {
      found.push(shown);
      return;
    }
    if (isShown(at)) shown = true;
    for (const child of at.children)
      if (child.kind === "element") visit(child);
      else if (at.local === "t" && child.text.trim() !== "") shown = true;
  };
  visit(element);
  return found;
}

export function without(element: XmlElement, gone: ReadonlySet<XmlElement>): XmlElement {
  return element.withChildren(
    element.children.flatMap((child): XmlNode[] =>
      child.kind !== "element" ? [child] : gone.has(child) ? [] : [withoutIfAny(child, gone)],
    ),
  );
}

/** Elements that hold none of them stay the same object, so that what is known of them stays known. */
function withoutIfAny(element: XmlElement, gone: ReadonlySet<XmlElement>): XmlElement {
  const holds = (at: XmlElement): boolean => at.elements().some((child) => gone.has(child) || holds(child));
  return holds(element) ? without(element, gone) : element;
}

export function unended({ structure, where }: PlacedStructure): CorbixError {
  return new CorbixError("BAD_MARK", say().document.cannotFindEnd({ source: structure.source }), {
    where,
    advice: say().document.putBehindBelongsSameText(),
  });
}

export function unmatched({ structure, where }: PlacedStructure): CorbixError {
  return new CorbixError("BAD_MARK", say().document.cannotFindBelongs({ source: structure.source }), {
    where,
    advice: say().document.putBeforeSameTextTable({ kind: structure.kind }),
  });
}

/** The list of each paragraph in order, by its number; `undefined` for those of no list. */
export function listItems(nodes: readonly XmlNode[]): (string | undefined)[] {
  return nodes
    .filter((node): node is XmlElement => node.kind === "element")
    .flatMap((node) => (node.local === "p" ? [node] : node.descendants("p")))
    .map((paragraph) => paragraph.path("pPr", "numPr", "numId")?.attr("w:val"));
}
