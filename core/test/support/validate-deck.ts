/** What a slide deck has to keep to, by ECMA-376 parts 1 and 2, so that strict readers open it without a word. */
import { OoxmlPackage, type XmlElement } from "@corbix/core/ooxml";
import { packageProblems, problemsOf } from "./validate.js";

const listed = (names: string): readonly string[] => names.split(" ");

/** Children in the order of the schema (19.3.1, 20.1, 21.1, 21.2). */
const ORDER: Readonly<Record<string, readonly string[]>> = {
  presentation: listed(
    "sldMasterIdLst notesMasterIdLst handoutMasterIdLst sldIdLst sldSz notesSz smartTags embeddedFontLst custShowLst photoAlbum custDataLst kinsoku defaultTextStyle modifyVerifier extLst",
  ),
  sld: listed("cSld clrMapOvr transition AlternateContent timing extLst"),
  notes: listed("cSld clrMapOvr extLst"),
  cSld: listed("bg spTree custDataLst controls extLst"),
  sp: listed("nvSpPr spPr style txBody txXfrm extLst"),
  pic: listed("nvPicPr blipFill spPr style extLst"),
  cxnSp: listed("nvCxnSpPr spPr style extLst"),
  grpSp: listed("nvGrpSpPr grpSpPr sp grpSp graphicFrame cxnSp pic contentPart AlternateContent extLst"),
  graphicFrame: listed("nvGraphicFramePr xfrm graphic extLst"),
  spPr: listed(
    "xfrm custGeom prstGeom noFill solidFill gradFill blipFill pattFill grpFill ln effectLst effectDag scene3d sp3d extLst",
  ),
  txBody: listed("bodyPr lstStyle p"),
  rPr: listed(
    "ln noFill solidFill gradFill blipFill pattFill grpFill effectLst effectDag highlight uLnTx uLn uFillTx uFill latin ea cs sym hlinkClick hlinkMouseOver rtl extLst",
  ),
  pPr: listed(
    "lnSpc spcBef spcAft buClrTx buClr buSzTx buSzPct buSzPts buFontTx buFont buNone buAutoNum buChar buBlip tabLst defRPr extLst",
  ),
  tbl: listed("tblPr tblGrid tr"),
  tc: listed("txBody tcPr extLst"),
  blipFill: listed("blip srcRect tile stretch"),
  xfrm: listed("off ext chOff chExt"),
  ser: listed(
    "idx order tx spPr invertIfNegative pictureOptions marker explosion dPt dLbls trendline errBars cat xVal val yVal smooth shape bubbleSize bubble3D extLst",
  ),
  chartSpace: listed(
    "date1904 lang roundedCorners AlternateContent style clrMapOvr pivotSource protection chart spPr txPr externalData printSettings userShapes extLst",
  ),
};
/** Groups hold their members in any order. */
const ANY: ReadonlySet<string> = new Set(["grpSp"]);
const FIRST: Readonly<Record<string, string>> = { p: "pPr", r: "rPr" };

/** Everything that is wrong, as sentences; none for a deck that is right. */
export function problemsOfDeck(bytes: Uint8Array): string[] {
  const opened = OoxmlPackage.open(bytes, "made.pptx");
  return [...packageProblems(opened), ...new DeckValidator(opened).problems()];
}

class DeckValidator {
  private readonly found: string[] = [];

  constructor(private readonly opened: OoxmlPackage) {}

  problems(): string[] {
    const main = this.opened.mainPart() ?? "";
    this.presentation(main);
    for (const part of this.opened.names) {
      const type = this.opened.contentType(part) ?? "";
      if (/\.(?:slide|notesSlide|slideLayout|slideMaster)\+xml$/.test(type)) this.page(part, type);
      else if (/drawingml\.chart\+xml$/.test(type)) this.chart(part);
      else if (part.startsWith("ppt/embeddings/") && part.endsWith(".xlsx"))
        for (const problem of problemsOf(this.opened.getBytes(part))) this.found.push(`${part}: ${problem}`);
    }
    this.orphans();
    return this.found;
  }

  private presentation(main: string): void {
    const root = this.opened.getXml(main);
    this.ordered(root, main);
    const slides = root.child("sldIdLst")?.elements("sldId") ?? [];
    const ids = slides.map((slide) => Number(slide.attr("id")));
    if (new Set(ids).size < ids.length || ids.some((id) => !(id >= 256 && id < 2 ** 31)))
      this.found.push(`${main}: ids of slides ${ids.join(" ")}`);
    const relations = new Map(this.opened.relationships(main).map((one) => [one.id, one]));
    const targets = slides.map((slide) => relations.get(slide.attr("r:id") ?? "")?.target ?? "");
    for (const target of targets)
      if (this.opened.contentType(target)?.endsWith(".slide+xml") !== true)
        this.found.push(`${main}: a slide leads to ${target}`);
    if (new Set(targets).size < targets.length) this.found.push(`${main}: a slide stands there twice`);
    const listedIds = root
      .descendants("section")
      .flatMap((section) => section.descendants("sldId").map((slide) => Number(slide.attr("id"))));
    if (root.descendants("section").length > 0 && [...listedIds].sort().join() !== [...ids].sort().join())
      this.found.push(`${main}: sections hold ${listedIds.join(" ")} of ${ids.join(" ")}`);
    const sections = root.descendants("section").map((section) => section.attr("id"));
    if (new Set(sections).size < sections.length) this.found.push(`${main}: sections share an id`);
  }

  private page(part: string, type: string): void {
    const root = this.opened.getXml(part);
    this.ordered(root, part);
    this.ids(root, part);
    this.references(root, part);
    for (const table of root.descendants("tbl")) this.table(table, part);
    for (const body of [...root.descendants("txBody"), ...root.descendants("rich")])
      if (!body.child("p")) this.found.push(`${part}: text without a paragraph`);
    for (const run of root.descendants("r"))
      if (run.name === "a:r" && run.elements("t").length !== 1)
        this.found.push(`${part}: a run of ${run.elements("t").length} texts`);
    for (const text of root.descendants("t"))
      if (text.name === "a:t" && text.open !== "<a:t>" && text.open !== "<a:t/>")
        this.found.push(`${part}: a text with attributes ${text.open}`);
    const relations = this.opened.relationships(part);
    const count = (kind: string): number => relations.filter((one) => one.type === kind).length;
    if (type.endsWith(".slide+xml") && count("slideLayout") !== 1)
      this.found.push(`${part}: ${count("slideLayout")} layouts`);
    if (!type.endsWith(".notesSlide+xml")) {
      const notes = relations.find((one) => one.type === "notesSlide")?.target;
      if (notes && !this.opened.relationships(notes).some((one) => one.type === "slide" && one.target === part))
        this.found.push(`${notes}: does not lead back to ${part}`);
    }
  }

  private ordered(element: XmlElement, part: string): void {
    const order = ORDER[element.local];
    const first = FIRST[element.local];
    const children = element.elements();
    if (order && !ANY.has(element.local)) {
      const places = children.map((child) => order.indexOf(child.local));
      if (places.includes(-1)) this.found.push(`${part}: ${element.local} holds ${children[places.indexOf(-1)].local}`);
      if (places.some((place, at) => at > 0 && place < places[at - 1]))
        this.found.push(`${part}: ${element.local} in the order ${children.map((child) => child.local).join(" ")}`);
    }
    if (first && children.some((child, at) => at > 0 && child.local === first))
      this.found.push(`${part}: ${first} is not the first of ${element.local}`);
    for (const child of children) this.ordered(child, part);
  }

  private ids(root: XmlElement, part: string): void {
    const ids = root.descendants("cNvPr").map((one) => one.attr("id") ?? "");
    const twice = ids.filter((id, at) => ids.indexOf(id) < at);
    if (twice.length > 0) this.found.push(`${part}: shapes share the ids ${twice.join(" ")}`);
    for (const kind of ["stCxn", "endCxn"])
      for (const one of root.descendants(kind))
        if (!ids.includes(one.attr("id") ?? "")) this.found.push(`${part}: ${kind} to ${one.attr("id")}`);
  }

  /** Everything that goes by a relationship finds it. */
  private references(root: XmlElement, part: string): void {
    const known = new Map(this.opened.relationships(part).map((one) => [one.id, one]));
    const visit = (element: XmlElement): void => {
      for (const [name, value] of element.attributes)
        if (/^r:(?:id|embed|link|dm|lo|qs|cs)$/.test(name) && value !== "" && !known.has(value))
          this.found.push(`${part}: ${element.name} ${name}="${value}" leads nowhere`);
      for (const child of element.elements()) visit(child);
    };
    visit(root);
    for (const [id, relation] of known)
      if (!relation.external && !this.opened.has(relation.target)) this.found.push(`${part}: ${id} leads to nothing`);
  }

  private table(table: XmlElement, part: string): void {
    const columns = table.child("tblGrid")?.elements("gridCol").length ?? 0;
    const rows = table.elements("tr");
    if (rows.length === 0) this.found.push(`${part}: a table without rows`);
    for (const row of rows)
      if (row.elements("tc").length !== columns)
        this.found.push(`${part}: ${row.elements("tc").length} cells in ${columns} columns`);
    const numbers = [...table.descendants("rowId"), ...table.descendants("colId")].map(
      (one) => `${one.local} ${one.attr("val")}`,
    );
    if (new Set(numbers).size < numbers.length) this.found.push(`${part}: rows or columns share a number`);
  }

  private chart(part: string): void {
    const root = this.opened.getXml(part);
    this.ordered(root, part);
    this.references(root, part);
    for (const cache of [...root.descendants("strCache"), ...root.descendants("numCache")]) {
      const count = Number(cache.child("ptCount")?.attr("val"));
      const indexes = cache.elements("pt").map((point) => Number(point.attr("idx")));
      if (indexes.some((index) => index >= count)) this.found.push(`${part}: more points than ${count}`);
      if (cache.local === "numCache")
        for (const value of cache.descendants("v"))
          if (!Number.isFinite(Number(value.text)) && !value.text.startsWith("#"))
            this.found.push(`${part}: ${value.text} is no number`);
    }
    const orders = root.descendants("ser").map((one) => one.child("idx")?.attr("val"));
    if (new Set(orders).size < orders.length) this.found.push(`${part}: series share an index`);
  }

  /** Parts that nothing leads to. */
  private orphans(): void {
    const reached = new Set<string>();
    const visit = (part: string): void => {
      for (const relation of this.opened.relationships(part)) {
        if (relation.external || reached.has(relation.target)) continue;
        reached.add(relation.target);
        if (this.opened.has(relation.target)) visit(relation.target);
      }
    };
    visit("");
    for (const part of this.opened.names)
      if (!part.endsWith(".rels") && part !== "[Content_Types].xml" && !reached.has(part))
        this.found.push(`${part}: nothing leads there`);
  }
}
