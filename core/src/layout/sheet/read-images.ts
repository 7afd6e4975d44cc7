/** Pictures anchored on a sheet: ECMA-376 part 1, 20.5. */
import type { Finding } from "../../common/index.js";
import type { OoxmlPackage, XmlElement } from "../../ooxml/index.js";
import type { SheetInfo } from "../../spreadsheet/index.js";
import { readImage } from "../image.js";
import type { RasterImage } from "../page.js";

/** A corner: cell and offset into it in points. */
export interface AnchorPoint {
  readonly row: number;
  readonly column: number;
  readonly dx: number;
  readonly dy: number;
}

export interface SheetImage {
  readonly from: AnchorPoint;
  /** Lower right corner, or a size in points. */
  readonly to: AnchorPoint | { readonly width: number; readonly height: number };
  readonly image: RasterImage;
  readonly description: string;
}

/** English metric units in a point. */
export const EMU_PER_PT = 12_700;

export function readSheetImages(
  opened: OoxmlPackage,
  info: SheetInfo,
  where: string,
): { images: SheetImage[]; findings: Finding[] } {
  const images: SheetImage[] = [];
  const findings: Finding[] = [];
  for (const relation of opened.relationships(info.part)) {
    if (relation.type !== "drawing" || !opened.has(relation.target)) continue;
    const targets = new Map(opened.relationships(relation.target).map((inner) => [inner.id, inner.target]));
    for (const anchor of opened.getXml(relation.target).elements()) {
      const blip = anchor.child("pic")?.descendants("blip")[0];
      const id = blip && [...blip.attributes].find(([name]) => name.endsWith(":embed"))?.[1];
      const target = id === undefined ? undefined : targets.get(id);
      const image = target && opened.has(target) ? readImage(opened.getBytes(target)) : undefined;
      const name = anchor.descendants("cNvPr")[0]?.attr("name") ?? "a drawing";
      if (!image) {
        findings.push({
          code: "not-drawn",
          severity: "warn",
          where,
          what: `The PDF does not show "${name}" (${kindOf(anchor)}).`,
          advice: "Use a PNG or JPEG picture, or look at the workbook itself.",
        });
        continue;
      }
      images.push({ ...place(anchor), image, description: anchor.descendants("cNvPr")[0]?.attr("descr") ?? "" });
    }
  }
  return { images, findings };
}

function kindOf(anchor: XmlElement): string {
  if (anchor.descendants("chart").length > 0) return "a chart";
  if (anchor.child("pic")) return "a picture of a kind that cannot be drawn";
  return anchor.child("sp") ? "a shape" : "a drawing";
}

function place(anchor: XmlElement): Pick<SheetImage, "from" | "to"> {
  const point = (element: XmlElement | undefined): AnchorPoint => ({
    row: Number(element?.child("row")?.text ?? 0),
    column: Number(element?.child("col")?.text ?? 0),
    dx: Number(element?.child("colOff")?.text ?? 0) / EMU_PER_PT,
    dy: Number(element?.child("rowOff")?.text ?? 0) / EMU_PER_PT,
  });
  const size = (element: XmlElement | undefined): { width: number; height: number } => ({
    width: Number(element?.attr("cx") ?? 0) / EMU_PER_PT,
    height: Number(element?.attr("cy") ?? 0) / EMU_PER_PT,
  });
  if (anchor.local === "absoluteAnchor") {
    const pos = anchor.child("pos");
    return {
      from: {
        row: 0,
        column: 0,
        dx: Number(pos?.attr("x") ?? 0) / EMU_PER_PT,
        dy: Number(pos?.attr("y") ?? 0) / EMU_PER_PT,
      },
      to: size(anchor.child("ext")),
    };
  }
  return {
    from: point(anchor.child("from")),
    to: anchor.local === "oneCellAnchor" ? size(anchor.child("ext")) : point(anchor.child("to")),
  };
}
