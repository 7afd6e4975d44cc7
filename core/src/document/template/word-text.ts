/** How a document writes text: what marks in it are looked for by, and what becomes of values (ECMA-376 part 1, 17.3). */
import { columnKey } from "../../common/index.js";
import { chosenDrawing, type Dialect } from "../../marked/index.js";
import { escapeXml, XmlElement, type XmlNode } from "../../ooxml/index.js";
import { parseStructure } from "../../template/index.js";
import { say } from "../../words/index.js";
import type { BookmarkTables } from "../fill/bookmark-tables.js";
import { mergeFieldMark } from "./merge-fields.js";

/** Elements that show something: a paragraph or row without any holds nothing but marks of structure. */
const SHOWN = new Set([
  "drawing",
  "pict",
  "object",
  "br",
  "cr",
  "tab",
  "ptab",
  "sym",
  "fldChar",
  "fldSimple",
  "footnoteReference",
  "endnoteReference",
  "sectPr",
  "oMath",
]);

/** Text of documents; `tables` go where bookmarks of their names stand. */
export function wordText(tables: BookmarkTables): Dialect {
  return {
    // Running text, and what fields are told.
    texts: new Set(["t", "instrText"]),
    cells: new Set(["tc", "txbxContent", "hdr", "ftr", "footnote", "endnote", "comment"]),
    ofParagraphs: new Set(["p", "r", "hyperlink", "ins", "smartTag", "fldSimple", "sdt", "sdtContent"]),
    isShown: (element) => SHOWN.has(element.local),
    placeOf: () => undefined,
    paragraphPlace: (where, paragraphs) => say().document.paragraph({ where, paragraphs }),
    paragraph: withoutMergeFields,
    structure: parseStructure,
    tableAt: (paragraph) => {
      if (tables.size === 0) return undefined;
      for (const start of paragraph.descendants("bookmarkStart")) {
        const table = tables.get(columnKey(start.attr("w:name") ?? ""));
        if (table) return table;
      }
      return undefined;
    },
    tableIn: (element) => (element.local === "tbl" ? element : undefined),
    drawing: (element, where) =>
      element.local === "drawing"
        ? chosenDrawing(element, element.descendants("docPr")[0]?.attr("descr"), where)
        : undefined,
    linkIn: () => undefined,
    hasBookmarks: true,
    goesAcross: false,
    openText: (name) => `<${name} xml:space="preserve">`,
    runText,
    withSign,
  };
}

/** Line ends and tabs inside a value become breaks and tabs of the run. */
export function runText(text: string, prefix: string): string {
  if (!/[\r\n\t]/.test(text)) return escapeXml(text);
  const close = `</${prefix}t>`;
  const open = `<${prefix}t xml:space="preserve">`;
  return escapeXml(text.replace(/\r\n?/g, "\n"))
    .replaceAll("\n", `${close}<${prefix}br/>${open}`)
    .replaceAll("\t", `${close}<${prefix}tab/>${open}`);
}

/** Run properties with bold or italic; they stand in the order of 17.3.2.28: style, fonts, bold, italic. */
function withSign(runProperties: string, prefix: string, sign: "b" | "i"): string {
  const element = `<${prefix}${sign}/>`;
  if (runProperties === "") return `<${prefix}rPr>${element}</${prefix}rPr>`;
  const bare = runProperties.replace(new RegExp(`<${prefix}${sign}(?:\\s[^>]*)?/>`), "");
  const before = new RegExp(
    `^<${prefix}rPr[^>]*>(?:<${prefix}rStyle[^>]*/>)?(?:<${prefix}rFonts[^>]*/>)?${sign === "i" ? `(?:<${prefix}bCs?[^>]*/>)*(?:<${prefix}b(?:\\s[^>]*)?/>)?(?:<${prefix}bCs[^>]*/>)?` : ""}`,
  ).exec(bare);
  const at = before?.[0].length ?? 0;
  return at === 0 ? `<${prefix}rPr>${element}</${prefix}rPr>` : bare.slice(0, at) + element + bare.slice(at);
}

/** Merge fields of a paragraph (17.16.5.35), simple or over several runs, as marks in the properties of their result. */
function withoutMergeFields(paragraph: XmlElement): XmlElement {
  if (
    !paragraph
      .elements()
      .some((child) => child.local === "fldSimple" || (child.local === "r" && child.child("fldChar")))
  )
    return paragraph;
  const children: XmlNode[] = [];
  let field: OpenField | undefined;
  for (const child of paragraph.children.flatMap(apart)) {
    if (child.kind !== "element") {
      (field?.nodes ?? children).push(child);
      continue;
    }
    if (child.local === "fldSimple" && !field) {
      const attribute = [...child.attributes].find(([name]) => name.endsWith(":instr"))?.[1] ?? "";
      const mark = mergeFieldMark(attribute);
      children.push(mark === undefined ? child : markRun(child.child("r") ?? child, mark));
      continue;
    }
    const sign = child.child("fldChar");
    const type = sign && [...sign.attributes].find(([name]) => name.endsWith(":fldCharType"))?.[1];
    if (type === "begin") {
      if (field) field.depth++;
      else field = { first: child, nodes: [], instruction: "", depth: 0, isResult: false, result: undefined };
    }
    if (!field) {
      children.push(child);
      continue;
    }
    field.nodes.push(child);
    if (field.depth === 0 && type === "separate") field.isResult = true;
    else if (!field.isResult) field.instruction += child.child("instrText")?.text ?? "";
    else if (type === undefined) field.result ??= child;
    if (type !== "end") continue;
    if (field.depth-- > 0) continue;
    const mark = mergeFieldMark(field.instruction);
    if (mark === undefined) children.push(...field.nodes);
    else children.push(markRun(field.result ?? field.first, mark));
    field = undefined;
  }
  if (field) children.push(...field.nodes);
  return paragraph.withChildren(children);
}

interface OpenField {
  /** The run that begins it. */
  readonly first: XmlElement;
  readonly nodes: XmlNode[];
  instruction: string;
  depth: number;
  isResult: boolean;
  result: XmlElement | undefined;
}

/** A run that holds a field's sign beside other things, as runs of one thing each. */
function apart(node: XmlNode): XmlNode[] {
  if (node.kind !== "element" || node.local !== "r" || !node.child("fldChar")) return [node];
  const runProperties = node.child("rPr");
  const content = node.elements().filter((child) => child !== runProperties);
  if (content.length === 1) return [node];
  return content.map((child) => node.withChildren(runProperties ? [runProperties, child] : [child]));
}

function markRun(like: XmlElement, mark: string): XmlElement {
  const prefix = like.prefix;
  const runProperties = like.child("rPr");
  const text = new XmlElement(`${prefix}t`, `<${prefix}t xml:space="preserve">`, [
    { kind: "text", raw: escapeXml(`{{ ${mark} }}`), text: `{{ ${mark} }}` },
  ]);
  return new XmlElement(`${prefix}r`, `<${prefix}r>`, runProperties ? [runProperties, text] : [text]);
}
