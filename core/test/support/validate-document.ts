/** What a document has to keep to, by ECMA-376 parts 1 and 2, so that strict readers open it without a word. */
import { OoxmlPackage, type XmlElement } from "@corbix/core/ooxml";
import { packageProblems } from "./validate.js";

const listed = (names: string): readonly string[] => names.split(" ");

/** Children in the order of the schema (17.3.1.26, 17.3.2.28, 17.4). */
const ORDER: Readonly<Record<string, readonly string[]>> = {
  pPr: listed(
    "pStyle keepNext keepLines pageBreakBefore framePr widowControl numPr suppressLineNumbers pBdr shd tabs suppressAutoHyphens kinsoku wordWrap overflowPunct topLinePunct autoSpaceDE autoSpaceDN bidi adjustRightInd snapToGrid spacing ind contextualSpacing mirrorIndents suppressOverlap jc textDirection textAlignment textboxTightWrap outlineLvl divId cnfStyle rPr sectPr pPrChange",
  ),
  rPr: listed(
    "ins del moveFrom moveTo rStyle rFonts b bCs i iCs caps smallCaps strike dstrike outline shadow emboss imprint noProof snapToGrid vanish webHidden color spacing w kern position sz szCs highlight u effect bdr shd fitText vertAlign rtl cs em lang eastAsianLayout specVanish oMath rPrChange",
  ),
  tblPr: listed(
    "tblStyle tblpPr tblOverlap bidiVisual tblStyleRowBandSize tblStyleColBandSize tblW jc tblCellSpacing tblInd tblBorders shd tblLayout tblCellMar tblLook tblCaption tblDescription tblPrChange",
  ),
  tcPr: listed(
    "cnfStyle tcW gridSpan hMerge vMerge tcBorders shd noWrap tcMar textDirection tcFitText vAlign hideMark headers cellIns cellDel cellMerge tcPrChange",
  ),
};
/** What stands first, where it stands at all. */
const FIRST: Readonly<Record<string, string>> = { p: "pPr", r: "rPr", tc: "tcPr", tbl: "tblPr" };

/** Everything that is wrong, as sentences; none for a document that is right. */
export function problemsOfDocument(bytes: Uint8Array): string[] {
  const opened = OoxmlPackage.open(bytes, "made.docx");
  return [...packageProblems(opened), ...new DocumentValidator(opened).problems()];
}

class DocumentValidator {
  private readonly found: string[] = [];

  constructor(private readonly opened: OoxmlPackage) {}

  problems(): string[] {
    const main = this.opened.mainPart() ?? "";
    const lists = this.known(main, "numbering", "num", "numId");
    const styles = this.known(main, "styles", "style", "styleId");
    for (const part of this.opened.names) {
      if (!/^word\/(?:document|header\d*|footer\d*|footnotes|endnotes|comments)\.xml$/.test(part)) continue;
      const root = this.opened.getXml(part);
      this.part(root, part);
      this.names(root, part);
      for (const [element, known] of [
        ["numId", lists],
        ["pStyle", styles],
        ["rStyle", styles],
        ["tblStyle", styles],
      ] as const)
        for (const one of root.descendants(element)) {
          const name = one.attr("w:val") ?? "";
          if (known && name !== "0" && !known.has(name)) this.found.push(`${part}: ${element} ${name} is not there`);
        }
    }
    const body = this.opened.getXml(main).child("body");
    const sections = body?.elements("sectPr") ?? [];
    if (sections.length > 1 || (sections.length === 1 && body?.elements().at(-1) !== sections[0]))
      this.found.push("the last section is not the last of the body");
    return this.found;
  }

  /** Names that another part defines; `undefined` where there is no such part. */
  private known(main: string, type: string, element: string, attribute: string): ReadonlySet<string> | undefined {
    const part = this.opened.relationships(main).find((one) => one.type === type)?.target;
    const root = part === undefined ? undefined : this.opened.maybeXml(part);
    return root && new Set(root.elements(element).map((one) => one.attr(`w:${attribute}`) ?? ""));
  }

  private part(element: XmlElement, part: string): void {
    const children = element.elements();
    const order = ORDER[element.local];
    // A list of former looks holds the same once more.
    if (order && element.name.startsWith("w:")) {
      let last = -1;
      for (const child of children) {
        const at = order.indexOf(child.local);
        if (child.name.startsWith("w:") && at < 0) this.found.push(`${part}: ${child.local} in ${element.local}`);
        if (at >= 0 && at < last) this.found.push(`${part}: ${child.local} stands too late in ${element.local}`);
        last = Math.max(last, at);
      }
    }
    if (element.name.startsWith("w:")) {
      const first = FIRST[element.local];
      if (first && children.some((child, at) => at > 0 && child.local === first && child.name.startsWith("w:")))
        this.found.push(`${part}: ${first} is not the first of ${element.local}`);
      if (element.local === "tc" && children.at(-1)?.local !== "p")
        this.found.push(`${part}: a cell ends with ${children.at(-1)?.local ?? "nothing"}`);
      if (element.local === "tbl" && !element.child("tblGrid")) this.found.push(`${part}: a table without a grid`);
      if (element.local === "tbl" && element.descendants("tr").length === 0)
        this.found.push(`${part}: a table without rows`);
      if (element.local === "tr" && element.descendants("tc").length === 0)
        this.found.push(`${part}: a row without cells`);
      if (element.local === "corbix") this.found.push(`${part}: a mark of structure is left`);
    }
    for (const child of children) this.part(child, part);
  }

  /** Bookmarks, drawings and paragraphs are told apart by numbers and names. */
  private names(root: XmlElement, part: string): void {
    const distinct = (list: readonly (string | undefined)[], what: string): void => {
      const named = list.filter((one) => one !== undefined);
      const twice = named.find((one, at) => named.indexOf(one) !== at);
      if (twice !== undefined) this.found.push(`${part}: ${what} ${twice} twice`);
    };
    const starts = root.descendants("bookmarkStart");
    const ends = root.descendants("bookmarkEnd").map((one) => one.attr("w:id") ?? "");
    distinct(
      starts.map((one) => one.attr("w:id")),
      "bookmark",
    );
    distinct(
      starts.map((one) => one.attr("w:name")),
      "bookmark's name",
    );
    for (const start of starts)
      if (!ends.includes(start.attr("w:id") ?? "")) this.found.push(`${part}: a bookmark without end`);
    distinct(
      root.descendants("docPr").map((one) => one.attr("id")),
      "drawing",
    );
    distinct(
      [...root.descendants("p"), ...root.descendants("tr")].map((one) => one.attr("w14:paraId")),
      "paragraph",
    );
    if (/\{\{[^{}]*\}\}/.test(root.text)) this.found.push(`${part}: a mark is left`);
  }
}
