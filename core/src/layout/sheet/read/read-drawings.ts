/** Pictures, charts and shapes anchored on a sheet: ECMA-376 part 1, 20.5. */

import { type Finding, readMeasure } from "../../../common/index.js";
import type { OoxmlPackage, XmlElement } from "../../../ooxml/index.js";
import type { RasterImage } from "../../../page/index.js";
import { readImage } from "../../../page/index.js";
import type { SheetInfo, Theme, Workbook } from "../../../spreadsheet/index.js";
import { say } from "../../../words/index.js";
import { CellValues } from "../../chart/cell-values.js";
import { chartTheme } from "../../chart/chart-theme.js";
import { type Chart, readChart } from "../../chart/read-chart.js";
import { EMU_PER_PT, plainerOutline } from "../../drawing/shape.js";

/** A corner: cell and offset into it in points. */
export interface AnchorPoint {
  readonly row: number;
  readonly column: number;
  readonly dx: number;
  readonly dy: number;
}

/** What stands in an anchor's box: shares of it where it is a part of a group. */
export type DrawingContent =
  | { readonly kind: "image"; readonly image: RasterImage; readonly description: string }
  | { readonly kind: "chart"; readonly chart: Chart; readonly theme: Theme }
  | { readonly kind: "shape"; readonly shape: XmlElement };

export interface DrawingPart {
  readonly content: DrawingContent;
  /** Place in the anchor's box, from 0 to 1. */
  readonly place: { readonly x: number; readonly y: number; readonly width: number; readonly height: number };
}

export interface SheetDrawing {
  readonly name: string;
  readonly from: AnchorPoint;
  /** Lower right corner, or a size in points. */
  readonly to: AnchorPoint | { readonly width: number; readonly height: number };
  readonly parts: readonly DrawingPart[];
}

const WHOLE = { x: 0, y: 0, width: 1, height: 1 };

export function readDrawings(
  workbook: Workbook,
  info: SheetInfo,
  where: string,
): { drawings: SheetDrawing[]; findings: Finding[] } {
  const { package: opened } = workbook;
  const reader = new DrawingReader(workbook, where);
  for (const relation of opened.relationships(info.part))
    if (relation.type === "drawing" && opened.has(relation.target)) reader.read(relation.target);
  return { drawings: reader.drawings, findings: reader.findings };
}

class DrawingReader {
  readonly drawings: SheetDrawing[] = [];
  readonly findings: Finding[] = [];
  private targets = new Map<string, string>();

  private readonly opened: OoxmlPackage;
  private readonly cells: CellValues;

  constructor(
    private readonly workbook: Workbook,
    private readonly where: string,
  ) {
    this.opened = workbook.package;
    this.cells = new CellValues(workbook);
  }

  read(part: string): void {
    this.targets = new Map(this.opened.relationships(part).map((inner) => [inner.id, inner.target]));
    for (const anchor of this.opened.getXml(part).elements()) {
      if (!anchor.local.endsWith("Anchor")) continue;
      const name = anchor.descendants("cNvPr")[0]?.attr("name") ?? "a drawing";
      const modern = anchor.elements("AlternateContent").map(modernOf).find(Boolean);
      if (modern) {
        // Its fallback is a box that says that the program is too old.
        this.miss(name, modern, say().layout.lookWorkbookItselfPicksShows());
        continue;
      }
      // Of a choice the first that is known: the usual way stands in the fallback.
      const bodies = anchor
        .elements()
        .flatMap((child) => (child.local === "AlternateContent" ? fallbackOf(child) : [child]));
      const parts = bodies.flatMap((body) => this.content(body, WHOLE, name));
      if (parts.length > 0) this.drawings.push({ name, ...place(anchor), parts });
    }
  }

  private content(element: XmlElement, at: DrawingPart["place"], name: string): DrawingPart[] {
    switch (element.local) {
      case "pic":
        return this.picture(element, at, name);
      case "graphicFrame":
        return this.frame(element, at, name);
      case "sp":
      case "cxnSp": {
        const outline = plainerOutline(element);
        if (outline) this.plainer(name, say().layout.rectangleInsteadOutline({ outline }));
        return [{ content: { kind: "shape", shape: element }, place: at }];
      }
      case "grpSp":
        return this.group(element, at, name);
      default:
        return [];
    }
  }

  private picture(element: XmlElement, at: DrawingPart["place"], name: string): DrawingPart[] {
    const blip = element.descendants("blip")[0];
    const id = blip && [...blip.attributes].find(([key]) => key.endsWith(":embed"))?.[1];
    const target = id === undefined ? undefined : this.targets.get(id);
    const image = target && this.opened.has(target) ? readImage(this.opened.getBytes(target)) : "other";
    const description = element.descendants("cNvPr")[0]?.attr("descr") ?? "";
    if (typeof image !== "string") return [{ content: { kind: "image", image, description }, place: at }];
    if (image === "damaged") this.miss(name, say().layout.damagedPicture(), say().layout.putPictureAnew());
    else this.miss(name, say().layout.pictureKindCannotDrawn(), say().layout.usePngJpegPictureLook());
    return [];
  }

  private frame(element: XmlElement, at: DrawingPart["place"], name: string): DrawingPart[] {
    const reference = element.descendants("chart")[0];
    const id = reference && [...reference.attributes].find(([key]) => key.endsWith(":id"))?.[1];
    const target = id === undefined ? undefined : this.targets.get(id);
    const root = target && this.opened.has(target) ? this.opened.getXml(target) : undefined;
    if (root?.local !== "chartSpace") {
      this.miss(name, say().layout.drawingKindKnown(), say().layout.lookWorkbookItself());
      return [];
    }
    const theme = chartTheme(this.opened, target ?? "", this.workbook.theme);
    const chart = readChart(root, theme, this.cells);
    if (chart.unknown.length === 0 && root.descendants("view3D").length > 0)
      this.plainer(name, say().layout.flatChartInsteadSpace());
    if (chart.unknown.length > 0)
      this.miss(
        name,
        say().layout.chartKind({ unknown: chart.unknown.join(", ") }),
        say().layout.useBarsLinesAreasPies(),
      );
    return chart.plots.length > 0 || chart.unknown.length === 0
      ? [{ content: { kind: "chart", chart, theme }, place: at }]
      : [];
  }

  /** Members of a group lie in its own measure (20.1.7.5). */
  private group(element: XmlElement, at: DrawingPart["place"], name: string): DrawingPart[] {
    const frame = element.path("grpSpPr", "xfrm");
    const [x, y] = pairOf(frame?.child("chOff"), "x", "y");
    const [width, height] = pairOf(frame?.child("chExt"), "cx", "cy");
    if (!(width > 0) || !(height > 0)) return [];
    return element.elements().flatMap((child) => {
      const own = child.child("spPr")?.child("xfrm") ?? child.path("grpSpPr", "xfrm") ?? child.child("xfrm");
      if (!own) return [];
      const [cx, cy] = pairOf(own.child("off"), "x", "y");
      const [cw, ch] = pairOf(own.child("ext"), "cx", "cy");
      const inside = {
        x: at.x + ((cx - x) / width) * at.width,
        y: at.y + ((cy - y) / height) * at.height,
        width: (cw / width) * at.width,
        height: (ch / height) * at.height,
      };
      return this.content(child, inside, name);
    });
  }

  private plainer(name: string, what: string): void {
    this.findings.push({
      code: "drawn-plainer",
      severity: "note",
      where: this.where,
      what: say().layout.pdfShows({ name, what }),
      advice: say().layout.lookPageWorkbookItself(),
    });
  }

  private miss(name: string, kind: string, advice: string): void {
    this.findings.push({
      code: "not-drawn",
      severity: "warn",
      where: this.where,
      what: say().layout.pdfDoesShow({ name, kind }),
      advice,
    });
  }
}

function fallbackOf(choice: XmlElement): XmlElement[] {
  const usual = choice.elements("Choice").flatMap((one) => one.elements());
  const known = usual.filter((one) => ["sp", "pic", "cxnSp", "grpSp"].includes(one.local));
  return known.length > 0 ? known : (choice.child("Fallback")?.elements() ?? []);
}

/** A coordinate in its own unit, which may also be written with another (20.1.10.16). */
function emu(value: string | undefined): number {
  return (readMeasure(value, EMU_PER_PT) ?? 0) * EMU_PER_PT;
}

/** What a later program draws and an older one only says that it cannot: a slicer, a time line (MS-XLSX 2.2.4). */
function modernOf(choice: XmlElement): string | undefined {
  const source = choice
    .elements("Choice")
    .map((one) => one.toString())
    .join("");
  if (/\b(?:sle\d*:)?slicer\b/.test(source)) return say().layout.slicer();
  return /\btimeslicer\b/.test(source) ? say().layout.timeLine() : undefined;
}

function pairOf(element: XmlElement | undefined, first: string, second: string): [number, number] {
  return [emu(element?.attr(first)), emu(element?.attr(second))];
}

function place(anchor: XmlElement): Pick<SheetDrawing, "from" | "to"> {
  const point = (element: XmlElement | undefined): AnchorPoint => ({
    row: Number(element?.child("row")?.text ?? 0),
    column: Number(element?.child("col")?.text ?? 0),
    dx: readMeasure(element?.child("colOff")?.text, EMU_PER_PT) ?? 0,
    dy: readMeasure(element?.child("rowOff")?.text, EMU_PER_PT) ?? 0,
  });
  const size = (element: XmlElement | undefined): { width: number; height: number } => {
    const [width, height] = pairOf(element, "cx", "cy");
    return { width: width / EMU_PER_PT, height: height / EMU_PER_PT };
  };
  if (anchor.local === "absoluteAnchor") {
    const [x, y] = pairOf(anchor.child("pos"), "x", "y");
    return { from: { row: 0, column: 0, dx: x / EMU_PER_PT, dy: y / EMU_PER_PT }, to: size(anchor.child("ext")) };
  }
  return {
    from: point(anchor.child("from")),
    to: anchor.local === "oneCellAnchor" ? size(anchor.child("ext")) : point(anchor.child("to")),
  };
}
