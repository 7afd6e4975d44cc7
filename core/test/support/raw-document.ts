/** Documents of markup as it stands in files, for what no writer of tests makes. */
import { openDocument } from "@corbix/core/document";
import { layDocument } from "@corbix/core/layout";
import { deflateEntry, writeZip } from "@corbix/core/ooxml";
import { eachItem, type PageItem, type TextItem } from "@corbix/core/page";
import { openFonts } from "@corbix/fonts";

const NAMES =
  'xmlns:w="http://schemas.openxmlformats.org/wordprocessingml/2006/main" xmlns:r="http://schemas.openxmlformats.org/officeDocument/2006/relationships" xmlns:wp="http://schemas.openxmlformats.org/drawingml/2006/wordprocessingDrawing" xmlns:a="http://schemas.openxmlformats.org/drawingml/2006/main" xmlns:pic="http://schemas.openxmlformats.org/drawingml/2006/picture" xmlns:wps="http://schemas.microsoft.com/office/word/2010/wordprocessingShape" xmlns:wpg="http://schemas.microsoft.com/office/word/2010/wordprocessingGroup" xmlns:c="http://schemas.openxmlformats.org/drawingml/2006/chart" xmlns:v="urn:schemas-microsoft-com:vml" xmlns:o="urn:schemas-microsoft-com:office:office" xmlns:w10="urn:schemas-microsoft-com:office:word" xmlns:mc="http://schemas.openxmlformats.org/markup-compatibility/2006" xmlns:m="http://schemas.openxmlformats.org/officeDocument/2006/math" xmlns:dgm="http://schemas.openxmlformats.org/drawingml/2006/diagram"';
const OFFICE = "http://schemas.openxmlformats.org/officeDocument/2006/relationships";

export interface RawParts {
  /** Further parts by name; those of `word/` are related to the main part by `rels`. */
  readonly parts?: Readonly<Record<string, string | Uint8Array>>;
  /** Relationships of the main part: id, type and target; a target with a scheme is outside. */
  readonly rels?: readonly (readonly [id: string, type: string, target: string])[];
  readonly styles?: string;
  readonly numbering?: string;
}

/** A part's root with the names that markup in tests uses. */
export const part = (root: string, content: string): string => `<w:${root} ${NAMES}>${content}</w:${root}>`;

export function rawDocument(body: string, { parts = {}, rels = [], styles, numbering }: RawParts = {}): Uint8Array {
  const all = [
    ...rels,
    ...(styles === undefined ? [] : [["rIdStyles", "styles", "styles.xml"] as const]),
    ...(numbering === undefined ? [] : [["rIdNumbering", "numbering", "numbering.xml"] as const]),
  ];
  const relation = ([id, type, target]: (typeof all)[number]): string =>
    `<Relationship Id="${id}" Type="${OFFICE}/${type}" Target="${target}"${/^\w+:/.test(target) ? ' TargetMode="External"' : ""}/>`;
  const listed = (items: string): string =>
    `<Relationships xmlns="http://schemas.openxmlformats.org/package/2006/relationships">${items}</Relationships>`;
  const files: Record<string, string | Uint8Array> = {
    "[Content_Types].xml":
      '<Types xmlns="http://schemas.openxmlformats.org/package/2006/content-types"><Default Extension="rels" ContentType="application/vnd.openxmlformats-package.relationships+xml"/><Default Extension="xml" ContentType="application/xml"/><Default Extension="png" ContentType="image/png"/><Override PartName="/word/document.xml" ContentType="application/vnd.openxmlformats-officedocument.wordprocessingml.document.main+xml"/></Types>',
    "_rels/.rels": listed(`<Relationship Id="rId1" Type="${OFFICE}/officeDocument" Target="word/document.xml"/>`),
    "word/document.xml": part("document", `<w:body>${body}</w:body>`),
    "word/_rels/document.xml.rels": listed(all.map(relation).join("")),
    ...(styles === undefined ? {} : { "word/styles.xml": part("styles", styles) }),
    ...(numbering === undefined ? {} : { "word/numbering.xml": part("numbering", numbering) }),
    ...parts,
  };
  return writeZip(
    Object.entries(files).map(([name, content]) =>
      deflateEntry(name, typeof content === "string" ? Buffer.from(content) : content),
    ),
  );
}

export const words = (item: TextItem): string => item.shaped.runs.flatMap((run) => run.texts).join("");

/** The pages of a raw document, with all that is on them and what was found. */
export function layRaw(body: string, more: RawParts = {}, facts: Parameters<typeof layDocument>[2] = {}) {
  const laid = layDocument(openDocument(rawDocument(body, more), "raw.docx"), openFonts(), facts);
  const pages = laid.pages.map((page): PageItem[] => [...eachItem(page.items)]);
  const items = pages.flat();
  const texts = items.filter((item): item is TextItem => item.kind === "text");
  return {
    laid,
    pages,
    items,
    texts,
    text: texts.map(words).join(" ").replace(/\s+/g, " ").trim(),
    found: laid.findings.map((one) => one.what),
  };
}

export const p = (content: string, properties = ""): string =>
  `<w:p>${properties === "" ? "" : `<w:pPr>${properties}</w:pPr>`}${content}</w:p>`;
export const r = (content: string, properties = ""): string =>
  `<w:r>${properties === "" ? "" : `<w:rPr>${properties}</w:rPr>`}${content}</w:r>`;
export const t = (text: string): string => r(`<w:t xml:space="preserve">${text}</w:t>`);
