/** Finding the field of a table of contents in the paragraphs it spans. */
import type { XmlElement } from "../../../ooxml/index.js";

/** The instruction of a table of contents that begins in a paragraph. */
export function contentsField(paragraph: XmlElement): string | undefined {
  for (const text of paragraph.descendants("instrText")) {
    if (!/^\s*TOC\b/i.test(text.text)) continue;
    return paragraph
      .descendants("instrText")
      .map((one) => one.text)
      .join("")
      .split(/\b(?:HYPERLINK|PAGEREF)\b/)[0];
  }
  return undefined;
}

/** Index of the element in which the first field of another ends. */
export function endOfField(elements: readonly XmlElement[], from: number): number | undefined {
  let depth = 0;
  for (let index = from; index < elements.length; index++) {
    for (const sign of elements[index].descendants("fldChar")) {
      const type = sign.attr("w:fldCharType");
      if (type === "begin") depth++;
      if (type === "end" && --depth === 0) return index;
    }
  }
  return undefined;
}

/** The last paragraph of a field with what stands behind its end; nothing where nothing does. */
export function afterField(paragraph: XmlElement): XmlElement | undefined {
  const runs = paragraph.elements();
  let end = -1;
  runs.forEach((run, index) => {
    if (run.descendants("fldChar").some((sign) => sign.attr("w:fldCharType") === "end")) end = index;
  });
  const behind = runs.slice(end + 1);
  if (
    !behind.some((run) => run.text.trim() !== "" || run.descendants("drawing").length > 0) &&
    !paragraph.path("pPr", "sectPr")
  )
    return undefined;
  const pPr = paragraph.child("pPr");
  return paragraph.withChildren(pPr ? [pPr, ...behind] : behind);
}
