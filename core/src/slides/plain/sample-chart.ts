/** A chart to be made from lines: its kind and looks, with one series that others are made like. */
import type { ChartKind } from "../../common/index.js";
import { OFFICE_RELATIONS } from "../../ooxml/index.js";

const text = (size: number): string =>
  `<c:txPr><a:bodyPr/><a:lstStyle/><a:p><a:pPr><a:defRPr sz="${size}"/></a:pPr><a:endParaRPr lang="en-GB"/></a:p></c:txPr>`;
const value = (name: string, val: string): string => `<c:${name} val="${val}"/>`;

function series(kind: ChartKind): string {
  const looks =
    kind === "line"
      ? `<c:spPr><a:ln w="31750" cap="rnd"><a:solidFill><a:schemeClr val="accent1"/></a:solidFill></a:ln></c:spPr><c:marker>${value("symbol", "none")}</c:marker>`
      : "";
  const points = (holder: string, cache: string): string =>
    `<c:${holder}><c:f>Sheet1!$A$2</c:f><c:${cache}>${value("ptCount", "0")}</c:${cache}></c:${holder}>`;
  return `<c:ser>${value("idx", "0")}${value("order", "0")}<c:tx>${points("strRef", "strCache")}</c:tx>${looks}<c:cat>${points("strRef", "strCache")}</c:cat><c:val>${points("numRef", "numCache")}</c:val></c:ser>`;
}

function plot(kind: ChartKind): string {
  const axes = `${value("axId", "111")}${value("axId", "222")}`;
  switch (kind) {
    case "line":
      return `<c:lineChart>${value("grouping", "standard")}${value("varyColors", "0")}${series(kind)}${value("marker", "1")}${axes}</c:lineChart>`;
    case "area":
      return `<c:areaChart>${value("grouping", "standard")}${value("varyColors", "0")}${series(kind)}${axes}</c:areaChart>`;
    case "pie":
      return `<c:pieChart>${value("varyColors", "1")}${series(kind)}${value("firstSliceAng", "0")}</c:pieChart>`;
    default:
      return `<c:barChart>${value("barDir", kind === "lying" ? "bar" : "col")}${value("grouping", "clustered")}${value("varyColors", "0")}${series(kind)}${value("gapWidth", "70")}${axes}</c:barChart>`;
  }
}

function axes(kind: ChartKind): string {
  if (kind === "pie") return "";
  const [across, up] = kind === "lying" ? ["l", "b"] : ["b", "l"];
  const scaling = (orientation: string): string => `<c:scaling>${value("orientation", orientation)}</c:scaling>`;
  // The first of lying bars stands on top, and the values below the last.
  const order = kind === "lying" ? "maxMin" : "minMax";
  const grid =
    '<c:majorGridlines><c:spPr><a:ln w="6350"><a:solidFill><a:srgbClr val="DDE3E3"/></a:solidFill></a:ln></c:spPr></c:majorGridlines>';
  const labels = `${value("majorTickMark", "none")}${value("minorTickMark", "none")}${value("tickLblPos", "nextTo")}${text(1200)}`;
  return `<c:catAx>${value("axId", "111")}${scaling(order)}${value("delete", "0")}${value("axPos", across)}${labels}${value("crossAx", "222")}${value("crosses", "autoZero")}</c:catAx><c:valAx>${value("axId", "222")}${scaling("minMax")}${value("delete", "0")}${value("axPos", up)}${grid}<c:numFmt formatCode="General" sourceLinked="1"/>${labels}${value("crossAx", "111")}${value("crosses", kind === "lying" ? "max" : "autoZero")}</c:valAx>`;
}

export function sampleChart(kind: ChartKind): string {
  const legend = `<c:legend>${value("legendPos", "b")}${value("overlay", "0")}${text(1200)}</c:legend>`;
  return `<?xml version="1.0" encoding="UTF-8" standalone="yes"?>\n<c:chartSpace xmlns:c="http://schemas.openxmlformats.org/drawingml/2006/chart" xmlns:a="http://schemas.openxmlformats.org/drawingml/2006/main" xmlns:r="${OFFICE_RELATIONS}">${value("roundedCorners", "0")}<c:chart>${value("autoTitleDeleted", "1")}<c:plotArea><c:layout/>${plot(kind)}${axes(kind)}<c:spPr><a:noFill/></c:spPr></c:plotArea>${legend}${value("plotVisOnly", "1")}</c:chart><c:spPr><a:noFill/><a:ln><a:noFill/></a:ln></c:spPr>${text(1400)}</c:chartSpace>`;
}
